using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Production;

namespace Bandeja.Acts.Lists;

/// <summary>A list to remove.</summary>
public sealed record RemovedList(long ListId);

/// <summary>Removes a list for which nothing was produced, with the drops that were planned for it.</summary>
[Act("list.delete", Permission.Lists, "Removed a list")]
public sealed class RemoveList(Removals removals, RemovedFiles files) : Act<RemovedList>
{
    /// <inheritdoc/>
    protected override void Carry(RemovedList order, Deed deed)
    {
        deed.Says($"Removed the list “{removals.OfList(order.ListId).Name}”");
        files.Later(removals.RemoveList(order.ListId));
        deed.Changed(Matter.List, order.ListId);
    }
}
