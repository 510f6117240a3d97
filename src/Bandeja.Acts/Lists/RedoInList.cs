using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Lists;

/// <summary>In which list to redo.</summary>
public sealed record RedoOfList(long ListId);

/// <summary>Redoes what was undone last in a list.</summary>
[Act("list.redo", Permission.Lists, "Redid a change of a list")]
public sealed class RedoInList(ListUndo undo) : Act<RedoOfList, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(RedoOfList order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return undo.Redo(order.ListId, deed.Actor);
    }
}
