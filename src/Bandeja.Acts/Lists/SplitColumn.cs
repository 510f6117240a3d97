using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Lists;

/// <summary>A column of full names or full addresses to split into their parts.</summary>
/// <param name="FamilyFirst">For names: true where the family name stands first without a comma; null for what the values tell.</param>
public sealed record Splitting(long ListId, int ColumnId, Role Whole, bool? FamilyFirst = null);

/// <summary>Splits a column of full names or addresses.</summary>
[Act("list.split-column", Permission.Lists, "Split a column")]
public sealed class SplitColumn(ColumnStore columns) : Act<Splitting, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(Splitting order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return columns.Divide(order.ListId, order.ColumnId, order.Whole, order.FamilyFirst, deed.Actor);
    }
}
