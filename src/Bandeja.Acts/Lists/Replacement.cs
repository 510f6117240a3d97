using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Lists;

namespace Bandeja.Acts.Lists;

/// <summary>What to find and what to put in its place.</summary>
/// <param name="Columns">In which columns; all that can be edited where there are none.</param>
/// <param name="Recipients">For which recipients; all where there are none.</param>
public sealed record Replacement(
    string Find,
    string With,
    bool MatchCase = false,
    bool WholeCell = false,
    IReadOnlyList<int>? Columns = null,
    IReadOnlyList<long>? Recipients = null
);

/// <summary>One cell before and after.</summary>
public sealed record CellBeforeAfter(long RecipientId, long Number, int ColumnId, string Before, string? After);

/// <summary>Finds the cells that replacing would change.</summary>
public sealed class ReplacementSearch(ListStore lists)
{
    /// <summary>The cells that would change, in the list's order.</summary>
    public IEnumerable<CellBeforeAfter> Find(long listId, Replacement order)
    {
        if (order.Find.Length == 0)
            throw new BadInputException("Enter the text to find.");
        var columns = lists.Columns(listId);
        var among = Enumerable
            .Range(0, columns.Count)
            .Where(i => columns[i].Kind != ColumnKind.Computed && (order.Columns is null || order.Columns.Contains(columns[i].Id)))
            .ToList();
        var comparison = order.MatchCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        foreach (var row in lists.Rows(listId, order.Recipients ?? lists.Ids(listId, new(), null)))
        foreach (var i in among)
        {
            if (row.Values[i] is not { } before)
                continue;
            if (order.WholeCell ? !before.Equals(order.Find, comparison) : !before.Contains(order.Find, comparison))
                continue;
            var after = order.WholeCell ? order.With : before.Replace(order.Find, order.With, comparison);
            if (after != before)
                yield return new(row.Id, row.Number, columns[i].Id, before, string.IsNullOrWhiteSpace(after) ? null : after);
        }
    }
}
