using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Lists;

/// <summary>A newer file that is not wanted.</summary>
public sealed record DiscardedFile(long ReloadId);

/// <summary>Discards a newer file; the list stays as it is.</summary>
[Act("list.discard", Permission.Lists, "Discarded a newer file")]
public sealed class DiscardNewerFile(ReloadStore reloads) : Act<DiscardedFile>
{
    /// <inheritdoc/>
    protected override void Carry(DiscardedFile order, Deed deed)
    {
        var list = reloads.Get(order.ReloadId).ListId;
        reloads.Leave(order.ReloadId);
        deed.Changed(Matter.List, list);
    }
}
