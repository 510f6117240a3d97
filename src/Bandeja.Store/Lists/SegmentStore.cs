using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>A saved filter of a list.</summary>
public sealed record SegmentRow
{
    public long Id { get; init; }
    public long ListId { get; init; }
    public string Name { get; init; } = "";
    public string Filter { get; init; } = "";
    public string Sorts { get; init; } = "";
    public long Ticked { get; init; }
    public long Unticked { get; init; }
    public long Drops { get; init; }

    /// <summary>Goes up with every change.</summary>
    public long Revision { get; init; }
}

/// <summary>Saved filters, with recipients ticked and unticked by hand on top of them.</summary>
public sealed class SegmentStore(Database database)
{
    const string Sql = """
        SELECT s.id, s.list_id, s.name, s.filter, s.sorts, s.revision, (SELECT count(*) FROM segment_tick
            WHERE segment_id = s.id AND ticked = 1) AS ticked,
               (SELECT count(*) FROM segment_tick WHERE segment_id = s.id AND ticked = 0) AS unticked, (SELECT count(*) FROM mail_drop
                   WHERE segment_id = s.id) AS drops
        FROM segment s
        """;

    /// <summary>The segments of a list, by name.</summary>
    public IReadOnlyList<SegmentRow> OfList(long listId)
    {
        using var c = database.Open();
        return [.. c.Query<SegmentRow>(Sql + " WHERE s.list_id = @listId ORDER BY s.name COLLATE NAMES", new { listId })];
    }

    /// <summary>One segment.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public SegmentRow Get(long segmentId)
    {
        using var c = database.Open();
        return Get(c, segmentId);
    }

    /// <inheritdoc cref="Get(long)"/>
    public static SegmentRow Get(SqliteConnection c, long segmentId) =>
        c.QuerySingleOrDefault<SegmentRow>(Sql + " WHERE s.id = @segmentId", new { segmentId })
        ?? throw new NotFoundException("This segment no longer exists.");

    /// <summary>Saves a filter as a new segment.</summary>
    /// <exception cref="ConflictException">The list has a segment of that name: nothing is overwritten by the way.</exception>
    public long Add(long listId, string name, string filter, string sorts, Actor actor) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            if (
                c.QueryFirstOrDefault<(long Id, long Drops)?>(
                    "SELECT id, (SELECT count(*) FROM mail_drop WHERE segment_id = segment.id) FROM segment WHERE list_id = @listId "
                        + "AND name = @name COLLATE NOCASE",
                    new { listId, name }
                ) is
                { } there
            )
            {
                var used = there.Drops switch
                {
                    0 => "",
                    1 => ", and a drop uses it",
                    _ => $", and {there.Drops} drops use it",
                };
                throw new ConflictException($"The list has a segment “{name}” already{used}. Choose another name, or replace that one.");
            }
            return c.QuerySingle<long>(
                "INSERT INTO segment (list_id, name, filter, sorts, created_at, created_by) VALUES (@listId, @name, @filter, "
                    + "@sorts, @Stamp, @Name) RETURNING id",
                new
                {
                    listId,
                    name,
                    filter,
                    sorts,
                    actor.Stamp,
                    actor.Name,
                }
            );
        });

    /// <summary>Changes a segment: its name, its filter.</summary>
    /// <param name="basedOn">The revision that the writer had before them.</param>
    /// <exception cref="StaleException">It was changed since.</exception>
    /// <exception cref="ConflictException">Another segment has that name.</exception>
    public void Change(long segmentId, long basedOn, string name, string filter, string sorts) =>
        database.Write(c =>
        {
            var segment = Get(c, segmentId);
            if (segment.Revision != basedOn)
                throw new StaleException(
                    $"The segment “{segment.Name}” was changed since you opened it: its filter is now "
                        + $"{(segment.Filter.Length == 0 ? "empty" : segment.Filter)}. Open it again, then make your change."
                );
            if (
                c.QuerySingle<bool>(
                    "SELECT EXISTS (SELECT 1 FROM segment WHERE list_id = @ListId AND name = @name COLLATE NOCASE AND id <> @segmentId)",
                    new
                    {
                        segment.ListId,
                        name,
                        segmentId,
                    }
                )
            )
                throw new ConflictException($"The list has another segment “{name}”. Choose another name.");
            c.Execute(
                "UPDATE segment SET name = @name, filter = @filter, sorts = @sorts, revision = revision + 1 WHERE id = @segmentId",
                new
                {
                    name,
                    filter,
                    sorts,
                    segmentId,
                }
            );
        });

    /// <summary>Removes a segment.</summary>
    /// <exception cref="ConflictException">A drop is made for it.</exception>
    public void Remove(long segmentId) =>
        database.Write(c =>
        {
            if (Get(c, segmentId).Drops > 0)
                throw new ConflictException("This segment cannot be removed because a drop uses it.");
            if (
                c.QueryFirstOrDefault<string>(
                    "SELECT k.name || ', ' || s.name FROM campaign_step s JOIN campaign k ON k.id = s.campaign_id WHERE "
                        + "s.segment_id = @segmentId",
                    new { segmentId }
                ) is
                { } step
            )
                throw new ConflictException($"The step {step} goes to this segment. Change the step first.");
            c.Execute("DELETE FROM segment WHERE id = @segmentId", new { segmentId });
        });

    /// <summary>The drops that are made for a segment.</summary>
    public IReadOnlyList<long> DropsOf(long segmentId)
    {
        using var c = database.Open();
        return [.. c.Query<long>("SELECT id FROM mail_drop WHERE segment_id = @segmentId", new { segmentId })];
    }

    /// <summary>Ticks recipients in, unticks them out, or leaves them to the filter again.</summary>
    public void Tick(long segmentId, IReadOnlyList<long> recipientIds, bool? ticked) =>
        database.Write(c =>
        {
            Get(c, segmentId);
            foreach (var id in recipientIds)
                if (ticked is null)
                    c.Execute("DELETE FROM segment_tick WHERE segment_id = @segmentId AND recipient_id = @id", new { segmentId, id });
                else
                    c.Execute(
                        "INSERT INTO segment_tick VALUES (@segmentId, @id, @ticked) ON CONFLICT (segment_id, recipient_id) DO "
                            + "UPDATE SET ticked = excluded.ticked",
                        new
                        {
                            segmentId,
                            id,
                            ticked,
                        }
                    );
        });

    /// <summary>Which of some recipients were ticked or unticked by hand.</summary>
    public IReadOnlyDictionary<long, bool> Ticks(long segmentId, IReadOnlyList<long> recipientIds)
    {
        using var c = database.Open();
        return recipientIds.Count == 0
            ? new Dictionary<long, bool>()
            : c.Query<(long, bool)>(
                    "SELECT recipient_id, ticked FROM segment_tick WHERE segment_id = @segmentId AND recipient_id " + IdSet.In,
                    new { segmentId, ids = IdSet.Json(recipientIds) }
                )
                .ToDictionary(t => t.Item1, t => t.Item2);
    }

    /// <summary>A mark that changes when who is in a segment may have changed by its definition.</summary>
    public static string Mark(SqliteConnection c, long? segmentId) =>
        segmentId is null
            ? ""
            : c.QuerySingleOrDefault<string?>(
                "SELECT filter || '|' || (SELECT count(*) || '/' || coalesce(sum(recipient_id * (1 + ticked)), 0) FROM segment_tick "
                    + "WHERE segment_id = segment.id) FROM segment WHERE id = @segmentId",
                new { segmentId }
            ) ?? "";
}
