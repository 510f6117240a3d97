using Bandeja.Store.Drops;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>Which designs a drop is to send.</summary>
public sealed record NewPackage(long DropId, IReadOnlyList<long> DesignIds);

/// <summary>Sets which designs a drop sends from now on.</summary>
[Act("drop.package", Permission.Drops, "Changed the package")]
public sealed class SetPackage(DropStore drops, CheckRequests checks) : Act<NewPackage>
{
    /// <inheritdoc/>
    protected override void Carry(NewPackage order, Deed deed)
    {
        drops.SetPackage(order.DropId, order.DesignIds);
        checks.Drop(order.DropId);
        deed.Changed(Matter.Drop, order.DropId);
    }
}
