namespace Bandeja.Core.Matching;

/// <summary>Finds for each row of a newer file the recipient that it is.</summary>
public sealed class RowMatcher
{
    readonly Dictionary<string, long> ids = [];
    readonly HashSet<string> twice = [];
    readonly Func<MatchRow, string> by;

    /// <summary>Learns the recipients there are.</summary>
    /// <param name="byKey">True to match by the key, false by name and address.</param>
    public RowMatcher(IEnumerable<MatchRow> known, bool byKey)
    {
        by = byKey ? r => r.Key : r => r.NameAndAddress;
        foreach (var row in known)
        {
            var value = by(row);
            if (value.Length > 0 && !ids.TryAdd(value, row.Id))
                twice.Add(value);
        }
    }

    /// <summary>The recipient that a row is, or null; each is given out once. <paramref name="remark"/> says why a row that seems known is
    /// taken for a new one.</summary>
    public long? Take(MatchRow row, out string? remark)
    {
        var value = by(row);
        remark = null;
        if (value.Length == 0)
            return null;
        if (twice.Contains(value))
            remark = "matches more than one recipient on the list; the first was used";
        if (ids.Remove(value, out var id))
        {
            given.Add(value);
            return id;
        }
        if (given.Contains(value))
            remark = "repeats a key in the file; the first row was matched, and this one was added as new";
        return null;
    }

    readonly HashSet<string> given = [];
}

/// <summary>What becomes of one cell when a list is loaded again.</summary>
public enum CellOutcome
{
    /// <summary>The file says what it said: what is here stays, mended or not.</summary>
    Stays,

    /// <summary>The file says something new, and nobody touched the cell here.</summary>
    Changed,

    /// <summary>The file says something new, and the cell was changed here as well: somebody must look.</summary>
    ChangedInBoth,
}

/// <summary>The rule for cells when a list is loaded again.</summary>
public static class CellMerge
{
    /// <summary>Compares what the file says now with what it said, and with what stands here.</summary>
    public static CellOutcome Of(string? file, string? before, string? here) =>
        file == before || file == here ? CellOutcome.Stays
        : here == before ? CellOutcome.Changed
        : CellOutcome.ChangedInBoth;
}
