using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>In which drop to undo.</summary>
public sealed record UndoOfDrop(long DropId);

/// <summary>Undoes what was done last in a drop.</summary>
[Act("drop.undo", Permission.Drops, "Undid what was done last")]
public sealed class UndoInDrop(BenchStore bench, DropStore drops) : Act<UndoOfDrop, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(UndoOfDrop order, Deed deed)
    {
        deed.Changed(Matter.Drop, order.DropId);
        var outcome = bench.Undo(order.DropId, deed.Actor);
        deed.Changed(Matter.List, drops.Drop(order.DropId).ListId);
        return outcome;
    }
}
