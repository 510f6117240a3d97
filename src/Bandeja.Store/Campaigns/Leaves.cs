using Bandeja.Core.Campaigns;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Campaigns;

/// <summary>That somebody left a campaign.</summary>
public sealed record LeaveRow
{
    public long Id { get; init; }
    public long CampaignId { get; init; }
    public long RecipientId { get; init; }
    public DateOnly OnDate { get; init; }
    public string Reason { get; init; } = "";
    public string? Note { get; init; }
    public long? ResponseId { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";

    /// <summary>The reason.</summary>
    public LeaveReason Why => Enum.Parse<LeaveReason>(Reason);

    /// <summary>Within a sentence: “responded” or what somebody wrote.</summary>
    public string Words => Why == LeaveReason.ByHand && Note is { Length: > 0 } note ? note : Why.Words();
}

/// <summary>Who left a campaign, when, and why. A leaving is never erased when it is undone, so that it can be told later.</summary>
public static class Leaves
{
    const string Sql =
        "SELECT id, campaign_id, recipient_id, on_date, reason, note, response_id, at, by FROM campaign_leave WHERE undone_at IS NULL";

    /// <summary>Those of some recipients who left a campaign.</summary>
    public static IReadOnlyDictionary<long, LeaveRow> Of(SqliteConnection c, long campaignId, IReadOnlyCollection<long> recipientIds) =>
        recipientIds
            .Chunk(5000)
            .SelectMany(ids =>
                c.Query<LeaveRow>(
                    $"{Sql} AND campaign_id = @campaignId AND recipient_id {IdSet.In}",
                    new { campaignId, ids = IdSet.Json(ids) }
                )
            )
            .ToDictionary(l => l.RecipientId);

    /// <summary>How many left a campaign, by reason.</summary>
    public static IReadOnlyDictionary<LeaveReason, long> Counts(SqliteConnection c, long campaignId) =>
        c.Query<(string Reason, long Count)>(
                "SELECT reason, count(*) FROM campaign_leave WHERE campaign_id = @campaignId AND undone_at IS NULL GROUP BY reason",
                new { campaignId }
            )
            .ToDictionary(x => Enum.Parse<LeaveReason>(x.Reason), x => x.Count);

    /// <summary>For which of some recipients somebody undid by hand that they left for a reason: it holds for them no more.</summary>
    internal static HashSet<(long Recipient, LeaveReason Reason)> Overruled(
        SqliteConnection c,
        long campaignId,
        IReadOnlyCollection<long> recipientIds
    ) =>
        [
            .. recipientIds
                .Chunk(5000)
                .SelectMany(ids =>
                    c.Query<(long, string)>(
                        "SELECT recipient_id, reason FROM campaign_leave WHERE campaign_id = @campaignId AND undone_at IS NOT NULL AND "
                            + $"undone_by <> '{Actor.System}' AND recipient_id {IdSet.In}",
                        new { campaignId, ids = IdSet.Json(ids) }
                    )
                )
                .Select(x => (x.Item1, Enum.Parse<LeaveReason>(x.Item2))),
        ];

    /// <summary>Records that recipients left; who left before stays as they are.</summary>
    /// <returns>How many left by it.</returns>
    public static int Add(
        SqliteConnection c,
        long campaignId,
        IReadOnlyCollection<long> recipientIds,
        DateOnly on,
        LeaveReason reason,
        string? note,
        Actor actor,
        long? responseId = null
    )
    {
        var added = c.Execute(
            """
            INSERT INTO campaign_leave (campaign_id, recipient_id, on_date, reason, note, response_id, at, by)
            VALUES (@campaignId, @id, @on, @reason, @note, @responseId, @Stamp, @Name)
            ON CONFLICT (campaign_id, recipient_id) WHERE undone_at IS NULL DO NOTHING
            """,
            recipientIds.Select(id => new
            {
                campaignId,
                id,
                on,
                reason = reason.ToString(),
                note,
                responseId,
                actor.Stamp,
                actor.Name,
            })
        );
        if (added == 0)
            return 0;
        CampaignStore.Changed(c, campaignId);
        PersonClocks.Refresh(c, campaignId, recipientIds);
        return added;
    }

    /// <summary>Undoes that recipients left, for some reasons only where they are given.</summary>
    /// <returns>How many are in again.</returns>
    public static int Undo(
        SqliteConnection c,
        long campaignId,
        IReadOnlyCollection<long> recipientIds,
        Actor actor,
        IReadOnlyCollection<LeaveReason>? reasons = null
    )
    {
        var undone = recipientIds
            .Chunk(5000)
            .Sum(ids =>
                c.Execute(
                    "UPDATE campaign_leave SET undone_at = @Stamp, undone_by = @Name WHERE campaign_id = @campaignId AND undone_at IS NULL "
                        + $"AND recipient_id {IdSet.In} "
                        + (reasons is null ? "" : $"AND reason IN ({string.Join(',', reasons.Select(r => $"'{r}'"))})"),
                    new
                    {
                        campaignId,
                        ids = IdSet.Json(ids),
                        actor.Stamp,
                        actor.Name,
                    }
                )
            );
        if (undone == 0)
            return 0;
        // Where a step's drop was filled while they had left, they are not in it yet.
        foreach (var ids in recipientIds.Chunk(5000))
            c.Execute(
                $"""
                UPDATE mail_drop SET changes = changes + 1 WHERE campaign_id = @campaignId AND step_id IS NOT NULL AND collects_on IS NULL
                    AND (SELECT count(*) FROM drop_recipient d WHERE d.drop_id = mail_drop.id AND d.recipient_id {IdSet.In}) < @Length
                """,
                new
                {
                    campaignId,
                    ids.Length,
                    ids = IdSet.Json(ids),
                }
            );
        CampaignStore.Changed(c, campaignId);
        PersonClocks.Refresh(c, campaignId, recipientIds);
        return undone;
    }

    /// <summary>Brings what follows from other data up to date: who is suppressed, off the list, or does not meet the campaign's condition
    /// has left, and is in again where that is no longer so.</summary>
    /// <param name="now">The reason that holds for each, or null.</param>
    internal static void Follow(
        SqliteConnection c,
        long campaignId,
        IReadOnlyDictionary<long, (LeaveReason Reason, string Note)?> now,
        DateOnly today,
        Actor actor
    )
    {
        var left = Of(c, campaignId, [.. now.Keys]);
        var gone = now.Where(n => n.Value is not null && !left.ContainsKey(n.Key)).ToList();
        foreach (var reason in gone.GroupBy(n => n.Value!.Value))
            Add(c, campaignId, [.. reason.Select(n => n.Key)], today, reason.Key.Reason, reason.Key.Note, actor);
        var back = now.Where(n =>
                n.Value is null
                && left.TryGetValue(n.Key, out var row)
                && row.Why is LeaveReason.AskedNot or LeaveReason.OffTheList or LeaveReason.Condition
            )
            .Select(n => n.Key)
            .ToList();
        if (back.Count > 0)
            Undo(c, campaignId, back, actor, [LeaveReason.AskedNot, LeaveReason.OffTheList, LeaveReason.Condition]);
    }
}
