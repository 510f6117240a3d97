using Bandeja.Core.Formulas;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>A value to correct, on the list or where it was seen in a drop.</summary>
/// <param name="ListId">The list; null where the drop says it.</param>
/// <param name="DropId">The drop at whose bench it was seen, so that its undo takes it back; null for none.</param>
/// <param name="Value">Null or nothing but spaces for blank.</param>
/// <param name="Was">What it was when it was read; where it is something else now, nothing is changed. Null to set it whatever it
/// is.</param>
public sealed record Correction(long? ListId, long? DropId, long RecipientId, int ColumnId, string? Value, FormerValue? Was = null);

/// <summary>Corrects a value.</summary>
[Act("list.correct", Permission.Lists, "Corrected a value")]
public sealed class CorrectValue(BenchStore bench, ListEditor editor, ListStore lists, DropStore drops) : Act<Correction, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(Correction order, Deed deed)
    {
        var list = order.ListId ?? drops.Drop(order.DropId!.Value).ListId;
        var column =
            lists.Columns(list).FirstOrDefault(x => x.Id == order.ColumnId) ?? throw new NotFoundException(
                "This column is not in the list."
            );
        if (order.Value?.Length > Lists.TypedCells.Longest)
            throw new BadInputException($"A value can have {Lists.TypedCells.Longest:N0} characters.");
        if (TypedValue.Read(column, order.Value, editor.Surroundings.Locale, out var canonical) is { } problem)
            throw new BadInputException(problem);
        deed.Says($"Corrected {column.Name}");
        deed.Changed(Matter.List, list);
        deed.Changed(Matter.Drop);
        return bench.Correct(list, order.DropId, order.RecipientId, order.ColumnId, canonical, deed.Actor, order.Was);
    }
}
