using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Lists;

/// <summary>What to change about a column.</summary>
public sealed record ChangedColumn(long ListId, int ColumnId, ColumnEdit Edit);

/// <summary>Changes a column's heading, type, role, or formula.</summary>
[Act("list.change-column", Permission.Lists, "Changed a column")]
public sealed class ChangeColumn(ColumnStore columns, Computing computing) : Act<ChangedColumn, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(ChangedColumn order, Deed deed)
    {
        var edit = order.Edit with { Name = order.Edit.Name?.Trim() };
        var outcome = columns.Change(order.ListId, order.ColumnId, edit, deed.Actor);
        if (edit.Expression is not null || edit.Type is not null)
            computing.All(order.ListId, deed.Actor);
        deed.ChangedList(order.ListId);
        return outcome;
    }
}
