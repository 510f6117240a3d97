using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;

namespace Bandeja.Acts.Lists;

/// <summary>A value to set in a cell; null or nothing but spaces is blank.</summary>
/// <param name="Was">What the cell held when it was read: where it holds something else now, nothing is changed. Null to set it whatever it
/// holds.</param>
public sealed record CellValue(long RecipientId, int ColumnId, string? Value = null, FormerValue? Was = null);

/// <summary>Values to set.</summary>
public sealed record Cells(long ListId, IReadOnlyList<CellValue> Values);

/// <summary>Sets values of cells, all of them or none.</summary>
[Act("list.cells", Permission.Lists, "Changed values")]
public sealed class SetCells(ListEditor editor, ListStore lists) : Act<Cells, ActOutcome>
{
    const int Most = 200_000;

    /// <inheritdoc/>
    protected internal override ActOutcome Do(Cells order, Deed deed)
    {
        if (order.Values.Count is 0 or > Most)
            throw new BadInputException($"Set 1 to {Most:N0} cells at once.");
        var typed = new TypedCells(lists.Columns(order.ListId), editor.Surroundings.Locale, isLenient: order.Values.Count > 1);
        var edits = order
            .Values.Select(cell => new CellEdit(cell.RecipientId, cell.ColumnId, typed.Read(cell.ColumnId, cell.Value), cell.Was))
            .ToList();
        var label = edits.Count == 1 ? $"Changed {typed[edits[0].ColumnId].Name}" : $"Pasted {edits.Count:N0} cells";
        deed.Says(label);
        deed.ChangedList(order.ListId);
        return typed.Of(editor.Edit(order.ListId, edits, label, deed.Actor));
    }
}
