using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Server.Composition;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;

namespace Bandeja.Server.Endpoints;

/// <summary>A segment with how many are in it.</summary>
public sealed record SegmentView(long Id, string Name, string Filter, string Sorts, int Recipients, long Ticked, long Unticked, long Drops);

/// <summary>A segment to save.</summary>
public sealed record NewSegment(string Name, string Filter = "", string Sorts = "");

/// <summary>Recipients to tick in (true), untick out (false), or leave to the filter (null).</summary>
public sealed record Ticking(IReadOnlyList<long> Recipients, bool? Ticked = null);

/// <summary>A filter in either form; the shape counts where both are there.</summary>
public sealed record FilterQuestion(string? Text = null, FilterItem? Shape = null);

/// <summary>A filter in both forms.</summary>
/// <param name="Shape">Null where the text cannot be picked together.</param>
/// <param name="Count">How many pass; null where it cannot be used.</param>
public sealed record FilterAnswer(string Text, FilterItem? Shape, IReadOnlyList<LanguageError> Errors, string? Missing, int? Count);

static class SegmentEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/lists/{id:long}/segments", (long id, SegmentStore segments, ListStore lists, Database database, Surroundings surroundings) =>
            segments.OfList(id).Select(s => new SegmentView(s.Id, s.Name, s.Filter, s.Sorts, Count(id, s.Id, segments, lists, database, surroundings), s.Ticked, s.Unticked, s.Drops)).ToList()).WithSummary("A list's saved segments");

        api.MapPost("/lists/{id:long}/segments", (long id, NewSegment order, SegmentStore segments, Database database, Surroundings surroundings, CheckRequests checks, EventHub hub, HttpContext context) =>
        {
            var name = order.Name.Trim();
            if (name.Length is 0 or > 120) throw new BadInputException("Give the segment a name of at most 120 characters.");
            ListEndpoints.Asked(database, surroundings, segments, id, new(null, order.Filter));
            var segment = segments.Save(id, name, order.Filter.Trim(), order.Sorts, context.Actor());
            Changed(id, segment, segments, checks, hub);
            return segment;
        }).WithSummary("Save a filter as a segment; answers its id");

        api.MapDelete("/segments/{id:long}", (long id, SegmentStore segments, EventHub hub) =>
        {
            var list = segments.Get(id).ListId;
            segments.Remove(id);
            hub.Tell("list", new { Id = list });
            return TypedResults.NoContent();
        }).WithSummary("Remove a segment");

        api.MapPost("/segments/{id:long}/tick", (long id, Ticking order, SegmentStore segments, CheckRequests checks, EventHub hub) =>
        {
            segments.Tick(id, order.Recipients, order.Ticked);
            Changed(segments.Get(id).ListId, id, segments, checks, hub);
            return TypedResults.NoContent();
        }).WithSummary("Tick and untick single recipients on top of a segment's filter");

        api.MapPost("/lists/{id:long}/filter", Ask).WithSummary("A filter in both forms, typed and picked together, and how many pass it");
    }

    static int Count(long listId, long segmentId, SegmentStore segments, ListStore lists, Database database, Surroundings surroundings)
    {
        try
        {
            var (filter, search) = ListEndpoints.Asked(database, surroundings, segments, listId, new(SegmentId: segmentId));
            return lists.Count(listId, search, filter);
        }
        // A column that the filter reads may have been removed since.
        catch (BadInputException) { return 0; }
    }

    static void Changed(long listId, long segmentId, SegmentStore segments, CheckRequests checks, EventHub hub)
    {
        foreach (var drop in segments.DropsOf(segmentId)) checks.Drop(drop);
        hub.Tell("list", new { Id = listId });
        hub.Tell("drop", new { Id = 0 });
    }

    static FilterAnswer Ask(long id, FilterQuestion question, Database database, Surroundings surroundings, ListStore lists)
    {
        using var c = database.Open();
        var now = surroundings.Now;
        var columns = RowTable.Columns(c, id);
        var text = question.Text ?? "";
        if (question.Shape is { } shape)
        {
            if (Depth(shape) > 12) throw new BadInputException("Groups can stand in each other up to twelve deep.");
            if (FilterShape.ToExpression(shape, columns, out var missing) is not { } expression) return new("", shape, [], missing, null);
            text = expression.ToString()!;
        }
        if (string.IsNullOrWhiteSpace(text)) return new("", new(true, []), [], null, (int)lists.Get(id).RowCount);
        var filter = Filter.Parse(text, columns, now.Today, now.Locale, out var errors, DetailStore.Sets(c, id));
        return filter is null ? new(text, null, errors, null, null) : new(text, FilterShape.Of(filter.Expression), [], null, lists.Count(id, new(null, text), filter));
    }

    static int Depth(FilterItem item) => item.Items is { Count: > 0 } items ? 1 + items.Max(Depth) : 1;
}
