using Bandeja.Acts.Segments;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Work.Composition;

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
                (long id, NewSegment order, SaveSegment act, Caller caller) =>
                    caller.Does(act, new(id, order.Name, order.Filter, order.Sorts))
            )
            .WithSummary("Save a filter as a new segment; returns its ID");

        api.MapPut(
                "/segments/{id:long}",
                (long id, SegmentChange order, ChangeSegment act, Caller caller) =>
                    caller.Does(act, new(id, order.Revision, order.Name, order.Filter, order.Sorts))
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

        api.MapDelete("/segments/{id:long}", (long id, RemoveSegment act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove a segment");

        api.MapPost(
                "/segments/{id:long}/tick",
                (long id, Ticking order, PickForSegment act, Caller caller) => caller.Does(act, new(id, order.Recipients, order.Ticked))
            )
            .WithSummary("Add or exclude individual recipients in a segment");

        api.MapPost("/lists/{id:long}/filter", Ask).WithSummary("A filter in typed and built form, with the number of matching recipients");
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

    static FilterAnswer Ask(long id, FilterQuestion question, Database database, Surroundings surroundings, ListStore lists)
    {
        using var c = database.Open();
        var now = surroundings.Now;
        var columns = RowTable.Columns(c, id);
        var text = question.Text ?? "";
        if (question.Shape is { } shape)
        {
            if (Depth(shape) > 12)
                throw new BadInputException("Groups can be nested up to 12 levels deep.");
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
