using System.Text;
using Bandeja.Core.Campaigns;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>A step as the campaign shows it.</summary>
/// <param name="When">In words: “20 days after First notice is mailed”.</param>
/// <param name="MailOn">Its mail date; null where each recipient has their own.</param>
/// <param name="ReadyOn">By when its pieces are to be produced.</param>
/// <param name="MovedFor">Why the date is later than planned: a holiday, a day of the weekend.</param>
/// <param name="Trays">How many are in each tray of its drops.</param>
/// <param name="Due">One by one: how many wait for it, not collected yet.</param>
/// <param name="NextDue">One by one: the next day for which somebody is collected.</param>
/// <param name="DropIds">Its drops, the newest first.</param>
public sealed record StepSight(
    long Id,
    long Position,
    string Name,
    StepWho Who,
    long? SegmentId,
    string? SegmentName,
    string Condition,
    StepTiming Timing,
    string When,
    DateOnly? MailOn,
    DateOnly? ReadyOn,
    string? MovedFor,
    bool Mailed,
    bool Skipped,
    IReadOnlyDictionary<Tray, int> Trays,
    long Due,
    DateOnly? NextDue,
    long Responses,
    IReadOnlyList<long> DesignIds,
    IReadOnlyList<string> Designs,
    IReadOnlyList<long> DropIds
);

/// <summary>A campaign with its steps.</summary>
/// <param name="People">How many go through it, those who left among them.</param>
/// <param name="Left">How many left, by reason.</param>
public sealed record CampaignStanding(
    long Id,
    string Name,
    CampaignMode Mode,
    long? ListId,
    string? ListName,
    DateOnly? StartsOn,
    Entry Entry,
    string EntryFilter,
    string StayFilter,
    long ResponseDays,
    IReadOnlyList<StepSight> Steps,
    long People,
    IReadOnlyDictionary<LeaveReason, long> Left,
    IReadOnlyList<string> Fields
);

/// <summary>What a recipient got in a campaign, or is to get.</summary>
/// <param name="Words">“mailed Oct 26”, “needs review”.</param>
public sealed record PersonStep(long DropId, string Step, Tray Tray, DateOnly? On, string Words);

/// <summary>Where a recipient stands in a campaign.</summary>
/// <param name="Next">What comes next, in words.</param>
public sealed record CampaignPerson(
    long RecipientId,
    string Name,
    string Place,
    DateOnly? EnteredOn,
    IReadOnlyList<PersonStep> SoFar,
    string Next,
    DateOnly? LeftOn,
    string? LeftFor
);

/// <summary>A part of a campaign's people.</summary>
public sealed record CampaignPeople(long Total, IReadOnlyList<CampaignPerson> Rows);

/// <summary>Which of a campaign's people are asked for.</summary>
public enum PeopleOf
{
    All,
    In,
    Left,
}

/// <summary>Tells how campaigns stand.</summary>
public sealed class CampaignSight(Database database)
{
    const int MostDrops = 100;

    /// <summary>A campaign with its steps.</summary>
    public CampaignStanding Of(long campaignId)
    {
        using var c = database.Open();
        return Of(c, campaignId);
    }

    /// <inheritdoc cref="Of(long)"/>
    public CampaignStanding Of(SqliteConnection c, long campaignId)
    {
        var campaign = CampaignStore.Get(c, campaignId);
        var steps = CampaignStore.Steps(c, campaignId);
        var calendar = Calendars.Of(c);
        var dates = campaign.Goes == CampaignMode.Together ? StepDates.Of(c, campaign, steps, calendar).ToDictionary(d => d.Id) : [];
        var drops = c.Query<(long Step, long Id)>(
                "SELECT step_id, id FROM mail_drop WHERE campaign_id = @campaignId AND step_id IS NOT NULL ORDER BY collects_on "
                    + "DESC, id DESC",
                new { campaignId }
            )
            .ToLookup(d => d.Step, d => d.Id);
        var trays = c.Query<(long Step, string Tray, long Count)>(
                """
                SELECT m.step_id, s.what, sum(s.pieces) FROM mail_drop m JOIN drop_sum s ON s.drop_id = m.id AND s.day = ''
                WHERE m.campaign_id = @campaignId AND m.step_id IS NOT NULL GROUP BY m.step_id, s.what
                """,
                new { campaignId }
            )
            .ToLookup(t => t.Step);
        // Who is collected already waits in a drop, and is counted there.
        var due = c.Query<(long Step, long Count, DateOnly First)>(
                """
                SELECT p.next_step_id, count(*), min(p.due_on) FROM campaign_person p WHERE p.campaign_id = @campaignId AND p.due_on IS
                    NOT NULL
                    AND NOT EXISTS (SELECT 1 FROM mail_drop m JOIN drop_recipient d ON d.drop_id = m.id AND d.recipient_id = p.recipient_id
                        WHERE m.step_id = p.next_step_id)
                GROUP BY p.next_step_id
                """,
                new { campaignId }
            )
            .ToDictionary(d => d.Step);
        var responses = c.Query<(long Step, long Count)>(
                """
                SELECT m.step_id, count(*) FROM response r JOIN mail_drop m ON m.id = r.drop_id
                WHERE m.campaign_id = @campaignId AND r.undone_at IS NULL AND m.step_id IS NOT NULL GROUP BY m.step_id
                """,
                new { campaignId }
            )
            .ToDictionary(r => r.Step, r => r.Count);
        var names = c.Query<(long, string)>("SELECT id, name FROM design").ToDictionary(d => d.Item1, d => d.Item2);
        var segments = c.Query<(long, string)>("SELECT id, name FROM segment").ToDictionary(d => d.Item1, d => d.Item2);
        var days = SettingStore.Days(c);
        var sights = steps
            .Select(
                (s, i) =>
                {
                    var date = dates.GetValueOrDefault(s.Id);
                    return new StepSight(
                        s.Id,
                        s.Position,
                        s.Name,
                        Enum.Parse<StepWho>(s.Who),
                        s.SegmentId,
                        s.SegmentId is { } of ? segments.GetValueOrDefault(of) : null,
                        s.Condition,
                        s.Timing,
                        s.Timing.Words(i == 0 ? null : steps[i - 1].Name, days, campaign.Goes),
                        date?.MailOn,
                        date?.ReadyOn,
                        date?.MovedFor,
                        date?.Mailed ?? false,
                        s.Skipped,
                        trays[s.Id].Where(t => t.Count > 0).ToDictionary(t => Enum.Parse<Tray>(t.Tray), t => (int)t.Count),
                        due.TryGetValue(s.Id, out var waiting) ? waiting.Count : 0,
                        waiting.Count > 0 ? waiting.First : null,
                        responses.GetValueOrDefault(s.Id),
                        s.DesignIds,
                        [.. s.DesignIds.Select(d => names.GetValueOrDefault(d, "a design that was removed"))],
                        [.. drops[s.Id]]
                    );
                }
            )
            .ToList();
        return new(
            campaign.Id,
            campaign.Name,
            campaign.Goes,
            campaign.ListId,
            campaign.ListName,
            campaign.StartsOn,
            Enum.Parse<Entry>(campaign.Entry),
            campaign.EntryFilter,
            campaign.StayFilter,
            campaign.ResponseDays,
            sights,
            Count(c, campaign),
            Leaves.Counts(c, campaignId),
            campaign.ListId is { } list
                ? [.. new StepFields(RowTable.Columns(c, list), [.. steps.Select(s => s.Name)]).Own.Select(x => x.Name)]
                : []
        );
    }

    static long Count(SqliteConnection c, CampaignRow campaign) =>
        campaign switch
        {
            { Goes: CampaignMode.OneByOne } => c.QuerySingle<long>(
                "SELECT count(*) FROM campaign_person WHERE campaign_id = @Id",
                new { campaign.Id }
            ),
            { ListId: { } list } => c.QuerySingle<long>("SELECT row_count FROM list WHERE id = @list", new { list }),
            _ => 0,
        };

    /// <summary>A part of a campaign's people in the order of the list.</summary>
    public CampaignPeople People(long campaignId, string? search, PeopleOf which, int offset, int limit)
    {
        using var c = database.Open();
        var campaign = CampaignStore.Get(c, campaignId);
        if (campaign.ListId is not { } list)
            return new(0, []);
        using var command = c.CreateCommand();
        var one = campaign.Goes == CampaignMode.OneByOne;
        var from = new StringBuilder(
            $"""
            FROM {RowTable.Name(list)} r {(one ? "JOIN campaign_person p ON p.campaign_id = $campaign AND p.recipient_id = r.id" : "")}
            LEFT JOIN campaign_leave l ON l.campaign_id = $campaign AND l.recipient_id = r.id AND l.undone_at IS NULL
            WHERE {(one ? "1" : "(r.gone IS NULL OR l.id IS NOT NULL)")}
            """
        );
        command.Parameters.AddWithValue("$campaign", campaignId);
        if (which != PeopleOf.All)
            from.Append(which == PeopleOf.Left ? " AND l.id IS NOT NULL" : " AND l.id IS NULL");
        foreach (var condition in ListStore.SearchConditions(command, search))
            from.Append(" AND ").Append(condition);
        command.CommandText = $"SELECT count(*) {from}";
        var total = Convert.ToInt64(command.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture);
        command.CommandText = $"SELECT r.id {from} ORDER BY r.n LIMIT {limit} OFFSET {offset}";
        var ids = new List<long>();
        using (var reader = command.ExecuteReader())
            while (reader.Read())
                ids.Add(reader.GetInt64(0));
        return new(total, Rows(c, campaign, list, ids));
    }

    /// <summary>Where one recipient stands in the campaigns of their list.</summary>
    public IReadOnlyList<(CampaignRow Campaign, CampaignPerson Person)> OfRecipient(long listId, long recipientId)
    {
        using var c = database.Open();
        var found = new List<(CampaignRow, CampaignPerson)>();
        foreach (var id in c.Query<long>("SELECT id FROM campaign WHERE list_id = @listId ORDER BY id DESC", new { listId }).ToList())
        {
            var campaign = CampaignStore.Get(c, id);
            if (
                campaign.Goes == CampaignMode.OneByOne
                && !c.QuerySingle<bool>(
                    "SELECT EXISTS (SELECT 1 FROM campaign_person WHERE campaign_id = @id AND recipient_id = @recipientId)",
                    new { id, recipientId }
                )
            )
                continue;
            if (Rows(c, campaign, listId, [recipientId]) is [var person])
                found.Add((campaign, person));
        }
        return found;
    }

    List<CampaignPerson> Rows(SqliteConnection c, CampaignRow campaign, long list, IReadOnlyList<long> ids)
    {
        if (ids.Count == 0)
            return [];
        var (text, columns) = (IdSet.Json(ids), RowTable.Columns(c, list));
        var days = SettingStore.Days(c);
        var steps = CampaignStore.Steps(c, campaign.Id);
        var names = steps.ToDictionary(s => s.Id);
        var dates =
            campaign.Goes == CampaignMode.Together
                ? StepDates.Of(c, campaign, steps, Calendars.Of(c)).ToDictionary(d => d.Id, d => d.MailOn)
                : [];
        var left = Leaves.Of(c, campaign.Id, ids);
        var clocks = c.Query<(long Id, DateOnly Entered, long? Step, DateOnly? Due)>(
                "SELECT recipient_id, entered_on, next_step_id, due_on FROM campaign_person WHERE campaign_id = @Id AND "
                    + $"recipient_id {IdSet.In}",
                new { campaign.Id, ids = text }
            )
            .ToDictionary(p => p.Id);
        // A recipient may be in thousands of drops, and a campaign may have thousands: the fewer are gone through.
        var few =
            c.QuerySingle<long>("SELECT count(*) FROM mail_drop WHERE campaign_id = @Id AND step_id IS NOT NULL", new { campaign.Id })
            <= MostDrops;
        var pieces = c.Query<PieceRow>(
                $"""
                SELECT d.recipient_id, d.drop_id, m.step_id, d.tray, coalesce(d.mailed_on, d.emailed_on) AS out_on, d.hold_reason,
                    d.return_reason, m.mail_date, (SELECT message FROM piece_issue i WHERE i.drop_id = d.drop_id
                        AND i.recipient_id = d.recipient_id LIMIT 1) AS issue
                {(
                    few
                        ? "FROM mail_drop m CROSS JOIN drop_recipient d ON d.drop_id = m.id"
                        : "FROM drop_recipient d CROSS JOIN mail_drop m ON m.id = d.drop_id"
                )}
                WHERE d.recipient_id {IdSet.In} AND m.campaign_id = @Id AND m.step_id IS NOT NULL
                """,
                new { campaign.Id, ids = text }
            )
            .ToLookup(p => p.RecipientId);
        var labels = new Dictionary<long, RecipientLabel>();
        using (var command = c.CreateCommand())
        {
            command.CommandText = $"SELECT r.id, {RowTable.CellList(columns)} FROM {RowTable.Name(list)} r WHERE r.id {IdSet.In}";
            command.Parameters.AddWithValue("@ids", text);
            using var reader = command.ExecuteReader();
            while (reader.Read())
            {
                var values = RowTable.Cells(reader, 1, columns.Count);
                labels[reader.GetInt64(0)] = RecipientLabel.Of(columns, i => values[i]);
            }
        }
        return
        [
            .. ids.Where(labels.ContainsKey)
                .Select(id =>
                {
                    var own = pieces[id]
                        .Where(p => names.ContainsKey(p.StepId))
                        .OrderBy(p => names[p.StepId].Position)
                        .ThenBy(p => p.DropId)
                        .ToList();
                    var clock = clocks.GetValueOrDefault(id);
                    var leave = left.GetValueOrDefault(id);
                    return new CampaignPerson(
                        id,
                        labels[id].Name,
                        labels[id].Place,
                        clock.Id == 0 ? null : clock.Entered,
                        [
                            .. own.Where(p => p.IsOut)
                                .Select(p => new PersonStep(p.DropId, names[p.StepId].Name, p.Where, p.OutOn, p.Words(days))),
                        ],
                        leave is not null ? "" : Next(own.Where(p => !p.IsOut), clock.Step, clock.Due, names, dates, days),
                        leave?.OnDate,
                        leave?.Words
                    );
                }),
        ];
    }

    static string Next(
        IEnumerable<PieceRow> waiting,
        long? step,
        DateOnly? due,
        Dictionary<long, StepRow> names,
        Dictionary<long, DateOnly> dates,
        DayWords days
    )
    {
        // What is held can still be released; but what comes is what is not.
        var next = waiting.OrderBy(p => p.Where == Tray.Held).FirstOrDefault();
        if (next is not null)
        {
            var day = dates.TryGetValue(next.StepId, out var planned) ? planned : next.MailDate;
            return next.Where switch
            {
                Tray.Held => $"{names[next.StepId].Name}, held: {next.HoldReason}",
                Tray.NeedsReview => $"{names[next.StepId].Name}, needs review: {next.Issue}",
                Tray.Produced => $"{names[next.StepId].Name}, produced",
                _ => day is { } on ? $"{names[next.StepId].Name} on {days.Short(on)}" : names[next.StepId].Name,
            };
        }
        return step is { } id && due is { } when && names.TryGetValue(id, out var of) ? $"{of.Name} on {days.Short(when)}" : "nothing more";
    }

    sealed record PieceRow
    {
        public long RecipientId { get; init; }
        public long DropId { get; init; }
        public long StepId { get; init; }
        public string Tray { get; init; } = "";
        public DateOnly? OutOn { get; init; }
        public string? HoldReason { get; init; }
        public string? ReturnReason { get; init; }
        public DateOnly? MailDate { get; init; }
        public string? Issue { get; init; }
        public Tray Where => Enum.Parse<Tray>(Tray);
        public bool IsOut => Where is Core.Drops.Tray.Mailed or Core.Drops.Tray.Returned;

        public string Words(DayWords days)
        {
            var mailed = OutOn is { } on ? $"mailed {days.Short(on)}" : "mailed";
            return ReturnReason is null ? mailed : $"{mailed}, returned: {ReturnReason}";
        }
    }
}
