using Bandeja.Core.Formulas;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Segments;

/// <summary>What acts on segments share.</summary>
public sealed class SegmentFilters(SegmentStore segments, Database database, Surroundings surroundings, CheckRequests checks)
{
    /// <summary>A segment's name.</summary>
    internal static string Name(string name) =>
        name.Trim() is { Length: > 0 and <= 120 } own
            ? own
            : throw new BadInputException("Enter a name for the segment, at most 120 characters.");

    /// <summary>A filter as it is kept.</summary>
    /// <exception cref="BadInputException">It cannot be used.</exception>
    internal string Checked(long listId, string filter)
    {
        AskedRows.Of(database, surroundings, segments, listId, new(null, filter));
        if (string.IsNullOrWhiteSpace(filter))
            return "";
        // Dates are kept as ISO 8601 whatever the organization's way of writing them: a segment means the same after that was changed.
        using var c = database.Open();
        var now = surroundings.Now;
        var parsed = Filter.Parse(filter, RowTable.Columns(c, listId), now.Today, now.Locale, out _, DetailStore.Sets(c, listId))!;
        return parsed.Expression.HasDates() ? parsed.Expression.ToString()! : filter.Trim();
    }

    /// <summary>Says that a segment changed: its drops follow.</summary>
    internal void Changed(long listId, long segmentId, Deed deed)
    {
        foreach (var drop in segments.DropsOf(segmentId))
            checks.Drop(drop);
        deed.Changed(Matter.List, listId);
        deed.Changed(Matter.Drop);
    }
}
