using Bandeja.Core.Campaigns;
using Bandeja.Core.Formulas;
using Bandeja.Core.Lists;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>What a step, or a drop of a campaign without steps, came to. Money is in the currency's hundredth part.</summary>
/// <param name="Responses">How many pieces were credited with at least one response.</param>
/// <param name="Cents">What its mailed pieces cost; null where that was never reckoned.</param>
/// <param name="Received">What came in.</param>
/// <param name="Curve">The share that had responded by each day after the mailing.</param>
public sealed record StepResult(
    string Name,
    DateOnly? FirstMailed,
    DateOnly? LastMailed,
    long Mailed,
    long Returned,
    long Responses,
    long? Cents,
    long Received,
    IReadOnlyList<double> Curve
);

/// <summary>A part of those who were mailed, such as those of one region.</summary>
public sealed record ReportShare(string Name, long Mailed, long Responded, long Received);

/// <summary>A campaign in numbers, all recounted from the ledger.</summary>
/// <param name="People">How many recipients were mailed at least once.</param>
/// <param name="Responded">How many of them responded.</param>
/// <param name="NotCredited">Responses of the campaign's list, while it ran, that count for no piece.</param>
/// <param name="Returns">Why pieces were returned.</param>
/// <param name="Window">For how many days a piece is credited with a response.</param>
public sealed record CampaignReport(
    long Id,
    string Name,
    string Currency,
    DateOnly? From,
    DateOnly? To,
    IReadOnlyList<StepResult> Steps,
    StepResult Whole,
    long People,
    long Responded,
    long NotCredited,
    IReadOnlyDictionary<string, long> Returns,
    long Window
);

/// <summary>By what the people of a report are divided.</summary>
public enum ReportBy
{
    Column,
    Segment,
    Version,
    Channel,
}

/// <summary>Counts campaigns.</summary>
public sealed class CampaignReports(Database database, SettingStore settings, Func<ListSurroundings> surroundings)
{
    /// <summary>A share with fewer is told with the others.</summary>
    const int MostShares = 40;

    /// <summary>A campaign in numbers.</summary>
    public CampaignReport Of(long campaignId)
    {
        using var c = database.Open();
        var campaign = CampaignStore.Get(c, campaignId);
        var window = (int)campaign.ResponseDays;
        var steps = CampaignStore.Steps(c, campaignId).ToDictionary(s => s.Id);
        var drops = c.Query<(long Id, long? Step, string Name, long Number)>(
                "SELECT id, step_id, name, number FROM mail_drop WHERE campaign_id = @campaignId ORDER BY number",
                new { campaignId }
            )
            .ToList();
        var mailed = c.Query<(long Drop, DateOnly Day, long Pieces)>(
                """
                SELECT s.drop_id, s.day, sum(s.pieces) FROM drop_sum s JOIN mail_drop m ON m.id = s.drop_id
                WHERE m.campaign_id = @campaignId AND s.day <> '' AND s.pieces > 0 GROUP BY s.drop_id, s.day
                """,
                new { campaignId }
            )
            .ToLookup(x => x.Drop);
        var trays = c.Query<(long Drop, string Tray, long Pieces)>(
                """
                SELECT s.drop_id, s.what, s.pieces FROM drop_sum s JOIN mail_drop m ON m.id = s.drop_id
                WHERE m.campaign_id = @campaignId AND s.day = '' AND s.what IN ('Mailed', 'Returned')
                """,
                new { campaignId }
            )
            .ToLookup(x => x.Drop);
        var costs = c.Query<(long Drop, long Cents, long Pieces)>(
                """
                SELECT r.drop_id, sum(r.cents), sum(r.pieces) FROM run r JOIN mail_drop m ON m.id = r.drop_id
                WHERE m.campaign_id = @campaignId AND r.cents IS NOT NULL AND r.state = 'done' GROUP BY r.drop_id
                """,
                new { campaignId }
            )
            .ToDictionary(x => x.Drop, x => (x.Cents, x.Pieces));
        var responses = c.Query<(long Drop, long Recipient, int? After, long Cents)>(
                """
                SELECT r.drop_id, r.recipient_id, min(CAST(julianday(r.on_date) - julianday(coalesce(d.mailed_on, d.emailed_on)) AS
                    INTEGER)),
                    coalesce(sum(r.cents), 0)
                FROM response r JOIN mail_drop m ON m.id = r.drop_id
                    LEFT JOIN drop_recipient d ON d.drop_id = r.drop_id AND d.recipient_id = r.recipient_id
                WHERE m.campaign_id = @campaignId AND r.undone_at IS NULL GROUP BY r.drop_id, r.recipient_id
                """,
                new { campaignId }
            )
            .ToList();
        var ofDrop = responses.ToLookup(r => r.Drop);
        long Sent(long drop) => trays[drop].Sum(t => t.Pieces);
        // What was produced and has not left cost something, too, but not what was mailed.
        long Cost(long drop)
        {
            var (cents, pieces) = costs.GetValueOrDefault(drop);
            return pieces > Sent(drop) ? (long)Math.Round((decimal)cents / pieces * Sent(drop)) : cents;
        }
        StepResult Line(string name, IReadOnlyList<long> ids)
        {
            var days = ids.SelectMany(id => mailed[id]).ToList();
            var answered = ids.SelectMany(id => ofDrop[id]).ToList();
            var sent = ids.Sum(Sent);
            return new(
                name,
                days.Count == 0 ? null : days.Min(d => d.Day),
                days.Count == 0 ? null : days.Max(d => d.Day),
                sent,
                ids.Sum(id => trays[id].Where(t => t.Tray == "Returned").Sum(t => t.Pieces)),
                answered.Count,
                ids.Any(id => costs.ContainsKey(id) && Sent(id) > 0) ? ids.Sum(Cost) : null,
                answered.Sum(r => r.Cents),
                ResponseCurve.Of(sent, answered.GroupBy(r => r.After ?? 0).ToDictionary(g => g.Key, g => (long)g.Count()), window)
            );
        }
        var lines = steps
            .Values.OrderBy(s => s.Position)
            .Select(s => Line(s.Name, [.. drops.Where(d => d.Step == s.Id).Select(d => d.Id)]))
            .Concat(drops.Where(d => d.Step is null).Select(d => Line(d.Name, [d.Id])))
            .ToList();
        var whole = Line("Whole campaign", [.. drops.Select(d => d.Id)]);
        return new(
            campaign.Id,
            campaign.Name,
            settings.Organization().Currency,
            whole.FirstMailed,
            whole.LastMailed,
            lines,
            whole,
            c.QuerySingle<long>(
                """
                SELECT count(DISTINCT d.recipient_id) FROM mail_drop m CROSS JOIN drop_recipient d ON d.drop_id = m.id
                WHERE m.campaign_id = @campaignId AND d.tray IN ('Mailed', 'Returned')
                """,
                new { campaignId }
            ),
            responses.Select(r => r.Recipient).Distinct().Count(),
            campaign.ListId is null
                ? 0
                : c.QuerySingle<long>(
                    """
                    SELECT count(*) FROM response WHERE list_id = @ListId AND drop_id IS NULL AND undone_at IS NULL AND on_date >= @start
                    """,
                    new { campaign.ListId, start = whole.FirstMailed ?? campaign.StartsOn ?? DateOnly.MaxValue }
                ),
            c.Query<(string Reason, long Count)>(
                    """
                    SELECT coalesce(d.return_reason, 'no reason given'), count(*) FROM mail_drop m CROSS JOIN drop_recipient d ON
                        d.drop_id = m.id
                        AND d.tray = 'Returned'
                    WHERE m.campaign_id = @campaignId GROUP BY 1 ORDER BY 2 DESC
                    """,
                    new { campaignId }
                )
                .ToDictionary(x => x.Reason, x => x.Count),
            window
        );
    }

    /// <summary>How many of those who were mailed responded, divided by a column, the list's segments, the design's version, or the
    /// channel; the largest first.</summary>
    public IReadOnlyList<ReportShare> By(long campaignId, ReportBy by, int? columnId)
    {
        using var c = database.Open();
        var campaign = CampaignStore.Get(c, campaignId);
        var list =
            campaign.ListId
            ?? c.QueryFirstOrDefault<long?>(
                "SELECT list_id FROM mail_drop WHERE campaign_id = @campaignId ORDER BY id",
                new { campaignId }
            );
        if (list is not { } of)
            return [];
        return by switch
        {
            ReportBy.Segment => Segments(c, campaignId, of),
            ReportBy.Column => Grouped(c, campaignId, Column(c, of, columnId), $"LEFT JOIN {RowTable.Name(of)} v ON v.id = p.recipient_id"),
            ReportBy.Version => Grouped(
                c,
                campaignId,
                "(SELECT g.name || ', version ' || v.number FROM run_design x JOIN design_version v ON v.id = x.design_version_id "
                    + "JOIN design g "
                    + "ON g.id = v.design_id WHERE x.run_id = p.run ORDER BY x.position LIMIT 1)",
                ""
            ),
            _ => Grouped(c, campaignId, "p.channel", ""),
        };
    }

    static string Column(SqliteConnection c, long listId, int? columnId) =>
        RowTable.Columns(c, listId).Any(x => x.Id == columnId)
            ? $"v.{RowTable.Cell(columnId!.Value)}"
            : throw new NotFoundException("The list no longer has this column.");

    /// <summary>One row a recipient: by their last piece, and with what came in.</summary>
    const string People = """
        WITH p AS (
            SELECT d.recipient_id, max(m.number) AS number, coalesce(d.run_id, d.email_run_id) AS run, d.channel
            FROM mail_drop m CROSS JOIN drop_recipient d ON d.drop_id = m.id
            WHERE m.campaign_id = @campaignId AND d.tray IN ('Mailed', 'Returned') GROUP BY d.recipient_id
        ), a AS (
            SELECT r.recipient_id, coalesce(sum(r.cents), 0) AS cents FROM response r JOIN mail_drop m ON m.id = r.drop_id
            WHERE m.campaign_id = @campaignId AND r.undone_at IS NULL GROUP BY r.recipient_id
        )
        """;

    static List<ReportShare> Grouped(SqliteConnection c, long campaignId, string what, string join)
    {
        var rows = c.Query<(string? Name, long Mailed, long Responded, long Received)>(
                $"""
                {People}
                SELECT max({what}), count(*), count(a.recipient_id), coalesce(sum(a.cents), 0) FROM p {join}
                LEFT JOIN a ON a.recipient_id = p.recipient_id GROUP BY {what} COLLATE NOCASE ORDER BY 2 DESC, 1
                """,
                new { campaignId }
            )
            .Select(r => new ReportShare(string.IsNullOrWhiteSpace(r.Name) ? "blank" : r.Name, r.Mailed, r.Responded, r.Received))
            .ToList();
        if (rows.Count <= MostShares)
            return rows;
        var rest = rows[MostShares..];
        return
        [
            .. rows[..MostShares],
            new($"{rest.Count:N0} others", rest.Sum(r => r.Mailed), rest.Sum(r => r.Responded), rest.Sum(r => r.Received)),
        ];
    }

    List<ReportShare> Segments(SqliteConnection c, long campaignId, long list)
    {
        var shape = ListShape.Of(c, list, surroundings());
        var segments = c.Query<(long Id, string Name, string Filter)>(
                "SELECT id, name, filter FROM segment WHERE list_id = @list ORDER BY name COLLATE NAMES",
                new { list }
            )
            .Select(s => (s.Id, s.Name, Filter: s.Filter.Length == 0 ? null : Parsed(shape, s.Filter)))
            .ToList();
        var ticks = c.Query<(long Segment, long Recipient, bool Ticked)>(
                "SELECT segment_id, recipient_id, ticked FROM segment_tick WHERE segment_id IN (SELECT id FROM segment WHERE "
                    + "list_id = @list)",
                new { list }
            )
            .ToDictionary(t => (t.Segment, t.Recipient), t => t.Ticked);
        var sums = segments.ToDictionary(s => s.Id, _ => (Mailed: 0L, Responded: 0L, Received: 0L));
        var details = new DetailReader(c, shape.Details, [.. segments.SelectMany(s => s.Filter?.DetailSets ?? []).Distinct()]);
        using var command = c.CreateCommand();
        command.CommandText = $"""
            {People}
            SELECT p.recipient_id, a.recipient_id IS NOT NULL, coalesce(a.cents, 0), {RowTable.CellList(shape.Columns)} FROM p
            JOIN {RowTable.Name(list)} r ON r.id = p.recipient_id LEFT JOIN a ON a.recipient_id = p.recipient_id
            """;
        command.Parameters.AddWithValue("@campaignId", campaignId);
        using var reader = command.ExecuteReader();
        while (reader.Read())
        {
            var (id, responded, cents) = (reader.GetInt64(0), reader.GetBoolean(1), reader.GetInt64(2));
            var row = new ArrayRow(RowTable.Cells(reader, 3, shape.Columns.Count), set => details.Rows(id, set));
            foreach (var s in segments)
                if (ticks.TryGetValue((s.Id, id), out var ticked) ? ticked : s.Filter?.Passes(row) != false)
                {
                    var sum = sums[s.Id];
                    sums[s.Id] = (sum.Mailed + 1, sum.Responded + (responded ? 1 : 0), sum.Received + cents);
                }
        }
        return
        [
            .. segments
                .Select(s => new ReportShare(s.Name, sums[s.Id].Mailed, sums[s.Id].Responded, sums[s.Id].Received))
                .OrderByDescending(s => s.Mailed),
        ];
    }

    /// <summary>A segment whose filter has a mistake is left out, not the report.</summary>
    static Filter? Parsed(ListShape shape, string filter)
    {
        try
        {
            return shape.Filter(filter);
        }
        catch (ConflictException)
        {
            return null;
        }
    }
}
