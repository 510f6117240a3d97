using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Production;

namespace Bandeja.Acts.Drops;

/// <summary>A drop to remove.</summary>
public sealed record RemovedDrop(long DropId);

/// <summary>Removes a drop of which nothing was produced.</summary>
[Act("drop.remove", Permission.Produce, "Removed a drop")]
public sealed class RemoveDrop(Removals removals, RemovedFiles files) : Act<RemovedDrop>
{
    /// <inheritdoc/>
    protected override void Carry(RemovedDrop order, Deed deed)
    {
        deed.Says($"Removed the drop “{removals.OfDrop(order.DropId).Name}”");
        files.Later(removals.RemoveDrop(order.DropId));
        deed.Changed(Matter.Drop, order.DropId);
    }
}
