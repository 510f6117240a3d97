using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Server.Composition;
using Bandeja.Server.Events;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;

namespace Bandeja.Server.Endpoints;

/// <summary>A segment with how many are in it.</summary>
/// <param name="Revision">Goes up with every change; a change says which one it is based on.</param>
/// <param name="Problem">Why its filter cannot be used any more; null where it can.</param>
public sealed record SegmentView(
    long Id,
    string Name,
    string Filter,
    string Sorts,
    int Recipients,
    long Ticked,
    long Unticked,
    long Drops,
    long Revision,
    string? Problem
);

/// <summary>What a segment is to be from now on.</summary>
/// <param name="Revision">The one it is based on.</param>
public sealed record SegmentChange(string Name, string Filter, long Revision, string Sorts = "");

/// <summary>What replacing a segment's filter would change.</summary>
/// <param name="Before">How many recipients it has now; null where its filter cannot be used.</param>
/// <param name="Leave">How many would leave it.</param>
/// <param name="Join">How many would come into it.</param>
/// <param name="Drops">The drops that use it.</param>
public sealed record SegmentEffect(int? Before, int After, int Leave, int Join, IReadOnlyList<string> Drops);

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
        api.MapGet(
                "/lists/{id:long}/segments",
                (long id, SegmentStore segments, ListStore lists, Database database, Surroundings surroundings) =>
                    segments
                        .OfList(id)
                        .Select(s =>
                            Count(id, s.Id, segments, lists, database, surroundings) is var (count, problem)
                                ? new SegmentView(
                                    s.Id,
                                    s.Name,
                                    s.Filter,
                                    s.Sorts,
                                    count,
                                    s.Ticked,
                                    s.Unticked,
                                    s.Drops,
                                    s.Revision,
                                    problem
                                )
                                : null!
                        )
                        .ToList()
            )
            .WithSummary("A list's saved segments");

        api.MapPost(
                "/lists/{id:long}/segments",
                (
                    long id,
                    NewSegment order,
                    SegmentStore segments,
                    Database database,
                    Surroundings surroundings,
                    CheckRequests checks,
                    EventHub hub,
                    HttpContext context
                ) =>
                {
                    var segment = segments.Add(
                        id,
                        Named(order.Name),
                        Checked(id, order.Filter, segments, database, surroundings),
                        order.Sorts,
                        context.Actor()
                    );
                    Changed(id, segment, segments, checks, hub);
                    return segment;
                }
            )
            .WithSummary("Save a filter as a new segment; answers its id");

        api.MapPut(
                "/segments/{id:long}",
                (
                    long id,
                    SegmentChange order,
                    SegmentStore segments,
                    Database database,
                    Surroundings surroundings,
                    CheckRequests checks,
                    EventHub hub
                ) =>
                {
                    var list = segments.Get(id).ListId;
                    segments.Change(
                        id,
                        order.Revision,
                        Named(order.Name),
                        Checked(list, order.Filter, segments, database, surroundings),
                        order.Sorts
                    );
                    Changed(list, id, segments, checks, hub);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Change a segment's name or filter; its drops follow");

        api.MapPost(
                "/segments/{id:long}/effect",
                (
                    long id,
                    FilterQuestion question,
                    SegmentStore segments,
                    ListStore lists,
                    DropStore drops,
                    Database database,
                    Surroundings surroundings
                ) =>
                {
                    var list = segments.Get(id).ListId;
                    HashSet<long> Ids(ListSearch asked) =>
                        AskedRows.Of(database, surroundings, segments, list, asked) is var (filter, search)
                            ? [.. lists.Ids(list, search, filter)]
                            : [];
                    var after = Ids(new(null, question.Text ?? ""));
                    HashSet<long>? before = null;
                    try
                    {
                        before = Ids(new(SegmentId: id));
                    }
                    catch (BadInputException) { } // its filter cannot be used any more: that is why it is replaced
                    var ticks = segments.Ticks(id, [.. after.Union(before ?? [])]);
                    after = [.. after.Where(r => ticks.GetValueOrDefault(r, true)), .. ticks.Where(t => t.Value).Select(t => t.Key)];
                    return new SegmentEffect(
                        before?.Count,
                        after.Count,
                        before is null ? 0 : before.Except(after).Count(),
                        before is null ? after.Count : after.Except(before).Count(),
                        [.. segments.DropsOf(id).Select(d => drops.Drop(d)).Select(d => $"{d.CampaignName} · {d.Name}")]
                    );
                }
            )
            .WithSummary("What replacing a segment's filter would change");

        api.MapDelete(
                "/segments/{id:long}",
                (long id, SegmentStore segments, EventHub hub) =>
                {
                    var list = segments.Get(id).ListId;
                    segments.Remove(id);
                    hub.List(list);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Remove a segment");

        api.MapPost(
                "/segments/{id:long}/tick",
                (long id, Ticking order, SegmentStore segments, CheckRequests checks, EventHub hub) =>
                {
                    segments.Tick(id, order.Recipients, order.Ticked);
                    Changed(segments.Get(id).ListId, id, segments, checks, hub);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Tick and untick single recipients on top of a segment's filter");

        api.MapPost("/lists/{id:long}/filter", Ask).WithSummary("A filter in both forms, typed and picked together, and how many pass it");
    }

    static string Named(string name) =>
        name.Trim() is { Length: > 0 and <= 120 } own
            ? own
            : throw new BadInputException("Enter a name for the segment, at most 120 characters.");

    static string Checked(long listId, string filter, SegmentStore segments, Database database, Surroundings surroundings)
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

    static (int Count, string? Problem) Count(
        long listId,
        long segmentId,
        SegmentStore segments,
        ListStore lists,
        Database database,
        Surroundings surroundings
    )
    {
        try
        {
            var (filter, search) = AskedRows.Of(database, surroundings, segments, listId, new(SegmentId: segmentId));
            return (lists.Count(listId, search, filter), null);
        }
        // A column that the filter reads may have been removed since.
        catch (BadInputException e)
        {
            return (0, e.Message);
        }
    }

    static void Changed(long listId, long segmentId, SegmentStore segments, CheckRequests checks, EventHub hub)
    {
        foreach (var drop in segments.DropsOf(segmentId))
            checks.Drop(drop);
        hub.List(listId);
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
            if (Depth(shape) > 12)
                throw new BadInputException("Groups can stand in each other up to twelve deep.");
            if (FilterShape.ToExpression(shape, columns, out var missing) is not { } expression)
                return new("", shape, [], missing, null);
            text = expression.ToString()!;
        }
        if (string.IsNullOrWhiteSpace(text))
            return new("", new(true, []), [], null, (int)lists.Get(id).RowCount);
        var filter = Filter.Parse(text, columns, now.Today, now.Locale, out var errors, DetailStore.Sets(c, id));
        return filter is null
            ? new(text, null, errors, null, null)
            : new(text, FilterShape.Of(filter.Expression), [], null, lists.Count(id, new(null, text), filter));
    }

    static int Depth(FilterItem item) => item.Items is { Count: > 0 } items ? 1 + items.Max(Depth) : 1;
}
