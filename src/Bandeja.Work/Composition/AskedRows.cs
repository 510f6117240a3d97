using Bandeja.Core.Formulas;
using Bandeja.Store;
using Bandeja.Store.Lists;

namespace Bandeja.Work.Composition;

/// <summary>Which rows of a list a search asks for.</summary>
static class AskedRows
{
    /// <summary>The filter of a search: its own, or its segment's. A segment brings its order where the search has none.</summary>
    /// <exception cref="BadInputException">The filter has a mistake.</exception>
    public static (Filter? Filter, ListSearch Search) Of(
        Database database,
        Surroundings surroundings,
        SegmentStore segments,
        long listId,
        ListSearch search
    )
    {
        using var c = database.Open();
        var segment = search.SegmentId is { } id ? segments.Get(id) : null;
        if (segment is not null && segment.ListId != listId)
            throw new BadInputException("This segment belongs to another list.");
        var text = segment is null ? search.Where : segment.Filter;
        search = search with { Where = text, Sorts = search.Sorts.Length > 0 ? search.Sorts : segment?.Sorts ?? "" };
        if (string.IsNullOrWhiteSpace(text))
            return (null, search);
        var now = surroundings.Now;
        var filter = Filter.Parse(text, RowTable.Columns(c, listId), now.Today, now.Locale, out var errors, DetailStore.Sets(c, listId));
        return filter is null
            ? throw new BadInputException($"{errors[0].Message} (at character {errors[0].Position + 1} of the filter)")
            : (filter, search);
    }
}
