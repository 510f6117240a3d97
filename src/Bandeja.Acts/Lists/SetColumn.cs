using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;

namespace Bandeja.Acts.Lists;

/// <summary>A value to set in a column for several recipients.</summary>
/// <param name="DropId">The drop at whose issues it was done, so that its undo takes it back; null for none.</param>
public sealed record ValueOfMany(long ListId, int ColumnId, IReadOnlyList<long> Recipients, string? Value = null, long? DropId = null);

/// <summary>Sets a column to one value for a selection.</summary>
[Act("list.set", Permission.Lists, "Set a column")]
public sealed class SetColumn(ListEditor editor, ListStore lists) : Act<ValueOfMany, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(ValueOfMany order, Deed deed)
    {
        var typed = new TypedCells(lists.Columns(order.ListId), editor.Surroundings.Locale, isLenient: false);
        var value = typed.Read(order.ColumnId, order.Value);
        var label = $"Set {typed[order.ColumnId].Name} to {value ?? "blank"} for {Given.Recipients(order.Recipients.Count)}";
        deed.Says(label);
        deed.ChangedList(order.ListId);
        IReadOnlyList<CellEdit> edits = [.. order.Recipients.Select(r => new CellEdit(r, order.ColumnId, value))];
        return editor.Edit(order.ListId, edits, label, deed.Actor, order.DropId);
    }
}
