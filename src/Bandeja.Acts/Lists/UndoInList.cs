using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Lists;

/// <summary>What to undo in a list.</summary>
/// <param name="ActionId">Which entry of the log; null for the last.</param>
public sealed record UndoOfList(long ListId, long? ActionId = null);

/// <summary>Undoes what was done in a list: last, or any entry of its log.</summary>
[Act("list.undo", Permission.Lists, "Undid a change of a list")]
public sealed class UndoInList(ListUndo undo) : Act<UndoOfList, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(UndoOfList order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return order.ActionId is { } entry ? undo.Undo(order.ListId, entry, deed.Actor) : undo.UndoLast(order.ListId, deed.Actor);
    }
}
