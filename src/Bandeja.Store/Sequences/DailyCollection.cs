using Bandeja.Core.Campaigns;
using Bandeja.Core.Formulas;
using Bandeja.Core.Lists;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>
/// Campaigns whose recipients go through them one by one: lets in who is to enter, and collects who is due into drops, one for each step
/// and day. It can be done any number of times a day, and after days on which nothing ran: nobody is let in or collected twice, and who
/// was due meanwhile is collected now.
/// </summary>
public sealed class DailyCollection(Database database, Func<ListSurroundings> surroundings)
{
    const int Batch = 2000;

    /// <summary>True where somebody was added to a list whose recipients enter a campaign, may meet its condition, or is due.</summary>
    public bool IsWorkToDo()
    {
        using var c = database.Open();
        var today = surroundings().Today;
        foreach (
            var (id, list, entry, after) in c.Query<(long, long?, string, long)>(
                "SELECT id, list_id, entry, entry_after FROM campaign WHERE mode = @mode",
                new { mode = nameof(CampaignMode.OneByOne) }
            )
        )
            if (
                entry == nameof(Entry.Condition)
                || entry != nameof(Entry.ByHand)
                    && list is { } of
                    && c.QuerySingle<bool>($"SELECT EXISTS (SELECT 1 FROM {RowTable.Name(of)} WHERE id > @after)", new { after })
                || Due(c, id, today).Count > 0
                || Waiting(c, id, today).Count > 0
            )
                return true;
        return false;
    }

    /// <summary>Does it for all campaigns.</summary>
    /// <returns>The drops into which somebody was collected, and what kept campaigns from it, a sentence each.</returns>
    public (IReadOnlyList<long> Drops, IReadOnlyList<string> Wrong) Run(Actor actor, CancellationToken cancel = default)
    {
        List<long> campaigns;
        using (var c = database.Open())
            campaigns =
            [
                .. c.Query<long>("SELECT id FROM campaign WHERE mode = @mode ORDER BY id", new { mode = nameof(CampaignMode.OneByOne) }),
            ];
        var drops = new List<long>();
        var wrong = new List<string>();
        foreach (var id in campaigns)
            try
            {
                drops.AddRange(Run(id, actor, cancel));
            }
            catch (Exception e) when (e is ConflictException or NotFoundException)
            {
                // A condition that cannot be read anymore keeps no other campaign waiting.
                using var c = database.Open();
                wrong.Add($"{CampaignStore.Get(c, id).Name}: {e.Message}");
            }
        return ([.. drops.Distinct()], wrong);
    }

    /// <summary>Does it for one campaign.</summary>
    public IReadOnlyList<long> Run(long campaignId, Actor actor, CancellationToken cancel = default)
    {
        LetIn(campaignId, actor, cancel);
        return Collect(campaignId, actor, cancel);
    }

    /// <summary>Lets in who is to enter by the campaign's rule.</summary>
    void LetIn(long campaignId, Actor actor, CancellationToken cancel)
    {
        var now = surroundings();
        List<(long Id, DateOnly On)> entering;
        long last;
        using (var c = database.Open())
        {
            var campaign = CampaignStore.Get(c, campaignId);
            if (campaign.ListId is not { } list || campaign.StartsOn > now.Today || Enum.Parse<Entry>(campaign.Entry) == Entry.ByHand)
                return;
            last = c.QuerySingle<long>($"SELECT coalesce(max(id), 0) FROM {RowTable.Name(list)}");
            entering =
                Enum.Parse<Entry>(campaign.Entry) == Entry.Condition
                    ? [.. Meeting(c, campaign, list, now).Select(id => (id, now.Today))]
                    : [.. Added(c, campaign, list, now)];
        }
        foreach (var batch in entering.Chunk(Batch))
        {
            cancel.ThrowIfCancellationRequested();
            database.Write(c => Enter(c, campaignId, batch));
        }
        database.Write(c =>
            c.Execute("UPDATE campaign SET entry_after = @last WHERE id = @campaignId AND entry_after < @last", new { campaignId, last })
        );
    }

    /// <summary>Who was added to the list since it was last looked through, with the day on which they were.</summary>
    static IEnumerable<(long, DateOnly)> Added(SqliteConnection c, CampaignRow campaign, long list, ListSurroundings now)
    {
        var dayOf = SettingStore.DaysOf(c);
        return c.Query<(long Id, string? At)>(
                $"""
                SELECT r.id, (SELECT max(at) FROM cell_change WHERE list_id = @list AND recipient_id = r.id AND column_id = 0)
                FROM {RowTable.Name(list)} r WHERE r.id > @EntryAfter AND r.gone IS NULL ORDER BY r.id
                """,
                new { list, campaign.EntryAfter }
            )
            .Select(r => (r.Id, r.At is null ? now.Today : Earlier(dayOf(DateTimeOffset.Parse(r.At, null)), now.Today, campaign.StartsOn)));
    }

    /// <summary>A day that is neither after today nor before the campaign began: a clock that was set back moves nobody's.</summary>
    static DateOnly Earlier(DateOnly day, DateOnly today, DateOnly? start) =>
        day > today ? today
        : start is { } s && day < s ? s
        : day;

    static IEnumerable<long> Meeting(SqliteConnection c, CampaignRow campaign, long list, ListSurroundings now)
    {
        var shape = ListShape.Of(c, list, now);
        var filter = shape.Filter(campaign.EntryFilter);
        var details = new DetailReader(c, shape.Details, filter.DetailSets);
        using var command = c.CreateCommand();
        command.CommandText = $"""
            SELECT r.id, {RowTable.CellList(shape.Columns)} FROM {RowTable.Name(list)} r WHERE r.gone IS NULL
                AND NOT EXISTS (SELECT 1 FROM campaign_person WHERE campaign_id = $campaign AND recipient_id = r.id) ORDER BY r.id
            """;
        command.Parameters.AddWithValue("$campaign", campaign.Id);
        using var reader = command.ExecuteReader();
        while (reader.Read())
        {
            var id = reader.GetInt64(0);
            if (filter.Passes(new ArrayRow(RowTable.Cells(reader, 1, shape.Columns.Count), set => details.Rows(id, set))))
                yield return id;
        }
    }

    /// <summary>Puts recipients into a campaign; who is in it already stays as they are.</summary>
    internal static int Enter(SqliteConnection c, long campaignId, IReadOnlyList<(long Id, DateOnly On)> who)
    {
        var entered = c.Execute(
            "INSERT INTO campaign_person (campaign_id, recipient_id, entered_on) VALUES (@campaignId, @Id, @On) ON CONFLICT DO NOTHING",
            who.Select(w => new
            {
                campaignId,
                w.Id,
                w.On,
            })
        );
        PersonClocks.Refresh(c, campaignId, [.. who.Select(w => w.Id)]);
        return entered;
    }

    IReadOnlyList<long> Collect(long campaignId, Actor actor, CancellationToken cancel)
    {
        var now = surroundings();
        List<(long Recipient, long Step, DateOnly Due)> due;
        using (var c = database.Open())
            due = Due(c, campaignId, now.Today);
        var drops = new List<long>();
        List<(long Drop, long Recipient)> waiting;
        using (var c = database.Open())
            waiting = Waiting(c, campaignId, now.Today);
        foreach (var drop in waiting.GroupBy(w => w.Drop))
        {
            database.Write(c => AutoHolds.Sweep(c, drop.Key, [.. drop.Select(w => w.Recipient)], now, actor));
            drops.Add(drop.Key);
        }
        // Who should have been collected before is mailed with those of today: a drop is never for a day that has passed.
        foreach (var batch in due.GroupBy(p => (p.Step, Day: p.Due < now.Today ? now.Today : p.Due)))
        foreach (var ids in batch.Select(p => p.Recipient).Chunk(Batch))
        {
            cancel.ThrowIfCancellationRequested();
            drops.Add(
                database.Write(c =>
                {
                    var day = Calendars.Of(c).OnOrAfter(batch.Key.Day);
                    var drop = OpenDrop(c, batch.Key.Step, day, actor);
                    StepMembers.Add(c, drop, ids, now, actor);
                    c.Execute("UPDATE mail_drop SET changes = changes + 1 WHERE id = @drop", new { drop });
                    return drop;
                })
            );
        }
        return [.. drops.Distinct()];
    }

    /// <summary>Who is in a drop of their next step and held there, because another came first for a while.</summary>
    static List<(long Drop, long Recipient)> Waiting(SqliteConnection c, long campaignId, DateOnly today) =>
        [
            .. c.Query<(long, long)>(
                """
                SELECT d.drop_id, p.recipient_id FROM campaign_person p CROSS JOIN mail_drop m ON m.step_id = p.next_step_id
                CROSS JOIN drop_recipient d ON d.drop_id = m.id AND d.recipient_id = p.recipient_id
                WHERE p.campaign_id = @campaignId AND p.due_on <= @today AND d.hold_rule = 'step' AND d.hold_reason LIKE 'Waits for%'
                """,
                new { campaignId, today }
            ),
        ];

    /// <summary>Who is due and not collected yet, in the order of their days.</summary>
    static List<(long Recipient, long Step, DateOnly Due)> Due(SqliteConnection c, long campaignId, DateOnly today)
    {
        var ready = CampaignStore.Steps(c, campaignId).ToDictionary(s => s.Id, s => (int)s.ReadyDays);
        var calendar = Calendars.Of(c);
        // A drop is there as many working days before as its pieces must be ready, so that there is time to produce them.
        var until = today;
        for (var i = 0; i < ready.Values.DefaultIfEmpty().Max(); i++)
            until = calendar.Next(until);
        // Each day of a step is asked of the calendar once.
        var isTime = new Dictionary<(long Step, DateOnly Due), bool>();
        return
        [
            .. c.Query<(long Recipient, long Step, DateOnly Due)>(
                    """
                    SELECT p.recipient_id, p.next_step_id, p.due_on FROM campaign_person p
                    WHERE p.campaign_id = @campaignId AND p.due_on <= @until AND NOT EXISTS (
                        SELECT 1 FROM mail_drop m CROSS JOIN drop_recipient d ON d.drop_id = m.id AND d.recipient_id = p.recipient_id
                        WHERE m.step_id = p.next_step_id) ORDER BY p.due_on, p.recipient_id
                    """,
                    new { campaignId, until }
                )
                .Where(p =>
                    isTime.TryGetValue((p.Step, p.Due), out var known)
                        ? known
                        : isTime[(p.Step, p.Due)] = calendar.Before(p.Due, ready.GetValueOrDefault(p.Step)) <= today
                ),
        ];
    }

    /// <summary>The drop for a step and day of which nothing was produced yet; it is made where there is none.</summary>
    static long OpenDrop(SqliteConnection c, long stepId, DateOnly day, Actor actor)
    {
        var open = c.QueryFirstOrDefault<long?>(
            """
            SELECT id FROM mail_drop m WHERE step_id = @stepId AND collects_on = @day
                AND NOT EXISTS (SELECT 1 FROM run WHERE drop_id = m.id) ORDER BY id DESC
            """,
            new { stepId, day }
        );
        if (open is { } there)
            return there;
        var step = CampaignStore.Step(c, stepId);
        var name = $"{step.Name}, {SettingStore.Days(c).Of(day)}";
        var number = c.QuerySingle<long>(
            "SELECT count(*) FROM mail_drop WHERE step_id = @stepId AND collects_on = @day",
            new { stepId, day }
        );
        return StepDrops.Create(c, step, number == 0 ? name : $"{name} ({number + 1})", day, day, actor);
    }
}
