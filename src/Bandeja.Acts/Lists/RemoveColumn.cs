using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Lists;

/// <summary>A column to take off a list.</summary>
public sealed record RemovedColumn(long ListId, int ColumnId);

/// <summary>Takes a column off the list; it can be undone.</summary>
[Act("list.remove-column", Permission.Lists, "Removed a column")]
public sealed class RemoveColumn(ColumnStore columns) : Act<RemovedColumn, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(RemovedColumn order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return columns.Remove(order.ListId, order.ColumnId, deed.Actor);
    }
}
