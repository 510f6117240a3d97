using Bandeja.Store.Drops;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>A drop whose pieces are to be checked once more.</summary>
public sealed record Recheck(long DropId);

/// <summary>Checks the pieces again where that failed.</summary>
[Act("drop.recheck", Permission.Drops, "Had the pieces checked again")]
public sealed class RecheckDrop(DropStore drops, CheckRequests checks) : Act<Recheck>
{
    /// <inheritdoc/>
    protected override void Carry(Recheck order, Deed deed)
    {
        drops.Drop(order.DropId);
        checks.TryAgain(order.DropId);
        deed.To(Matter.Drop, order.DropId);
    }
}
