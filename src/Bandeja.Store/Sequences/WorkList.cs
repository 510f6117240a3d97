using Bandeja.Core.Campaigns;
using Bandeja.Core.Drops;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>What has to be done. The names are stored; never rename one.</summary>
public enum WorkKind
{
    /// <summary>Pieces may have gone out, and nobody knows.</summary>
    SettleDoubts,

    /// <summary>A run is paused.</summary>
    ResumeRun,

    /// <summary>Pieces were produced for recipients who are not to get them anymore.</summary>
    PullPieces,
    MarkMailed,
    Review,
    SignOff,
    Produce,

    /// <summary>Nothing has to be done yet.</summary>
    Planned,
}

/// <summary>A piece of work.</summary>
/// <param name="Key">Its identity, by which it is assigned and postponed.</param>
/// <param name="Title">“22 recipients need review”.</param>
/// <param name="Path">Where it is done, in the application.</param>
/// <param name="Pieces">The numbers to pull; at most fifty.</param>
/// <param name="As">What it is like now: where that changes, it is not done any more.</param>
public sealed record WorkRow(
    string Key,
    WorkKind Kind,
    DueGroup Group,
    string Title,
    string Campaign,
    string Drop,
    long DropId,
    string Path,
    DateOnly? DueOn,
    DateOnly? MailOn,
    IReadOnlyList<long> Pieces,
    string As,
    string? AssignedTo,
    DateOnly? PostponedUntil,
    string? Reason
);

/// <summary>Work that waits, and what was postponed.</summary>
/// <param name="People">Names that work can be assigned to: who did something here.</param>
public sealed record WorkToday(DateOnly Today, IReadOnlyList<WorkRow> Rows, IReadOnlyList<WorkRow> Postponed, IReadOnlyList<string> People);

/// <summary>Tells what has to be done, over all drops, from what they are like; nobody has to enter it.</summary>
public sealed class WorkList(Database database, DropStore drops)
{
    /// <summary>What has to be done.</summary>
    /// <param name="signOff">Whether a drop's sign-off is wanted and not there.</param>
    public WorkToday Of(DateOnly today, Func<SqliteConnection, DropRow, bool> signOff)
    {
        using var c = database.Open();
        var calendar = Calendars.Of(c);
        var tallies = drops.Tallies();
        var paused = drops.PausedRuns();
        var readyDays = c.Query<(long, int)>("SELECT id, ready_days FROM campaign_step").ToDictionary(s => s.Item1, s => s.Item2);
        var marks = c.Query<Mark>("SELECT work, assigned_to, until, reason, done_as FROM work_mark").ToDictionary(m => m.Work);
        var rows = new List<WorkRow>();
        foreach (var drop in drops.Drops())
        {
            var t = tallies.GetValueOrDefault(drop.Id) ?? TrayTally.Empty;
            var before = rows.Count;
            var days = drop.StepId is { } step ? readyDays.GetValueOrDefault(step, 1) : 1;
            DateOnly? ready = drop.MailDate is { } mail ? calendar.Before(mail, days) : null;
            void Add(WorkKind kind, string title, string place, DateOnly? due, string like, IReadOnlyList<long>? pieces = null)
            {
                var key = $"{kind}:{drop.Id}";
                var mark = marks.GetValueOrDefault(key);
                if (mark?.DoneAs == like)
                    return;
                rows.Add(
                    new(
                        key,
                        kind,
                        WorkDue.Of(due, today),
                        title,
                        drop.CampaignName,
                        drop.Name,
                        drop.Id,
                        $"/drops/{drop.Id}/{place}",
                        due,
                        drop.MailDate,
                        pieces ?? [],
                        like,
                        mark?.AssignedTo,
                        mark?.Until > today ? mark.Until : null,
                        mark?.Until > today ? mark.Reason : null
                    )
                );
            }
            string Count(int n, string one, string many) => n == 1 ? $"1 {one}" : $"{n:N0} {many}";
            if (t.InDoubt > 0)
                Add(
                    WorkKind.SettleDoubts,
                    $"{Count(t.InDoubt, "piece is", "pieces are")} in doubt and may have been sent",
                    "proof?inDoubt=1",
                    today,
                    $"{t.InDoubt}"
                );
            foreach (var run in paused[drop.Id].Take(1))
                Add(WorkKind.ResumeRun, "A run is paused and waits for you", $"produce/{run}", today, $"{run}");
            if (t.Noted > 0)
            {
                var pieces = c.Query<long>(
                        """
                        SELECT piece_number FROM drop_recipient WHERE drop_id = @Id AND rule_note IS NOT NULL AND tray = 'Produced'
                        ORDER BY piece_number
                        """,
                        new { drop.Id }
                    )
                    .ToList();
                Add(
                    WorkKind.PullPieces,
                    $"Pull {Count(t.Noted, "piece", "pieces")} from the trays",
                    "proof?noted=1",
                    today,
                    string.Join(',', pieces),
                    [.. pieces.Take(50)]
                );
            }
            if (t[Tray.Produced] - t.Noted is > 0 and var made)
                Add(
                    WorkKind.MarkMailed,
                    $"{Count(made, "produced piece is", "produced pieces are")} not marked as mailed",
                    "ledger",
                    drop.MailDate ?? today,
                    $"{made}"
                );
            if (t[Tray.NeedsReview] is > 0 and var look)
                Add(WorkKind.Review, $"{Count(look, "recipient needs", "recipients need")} review", "proof", ready, $"{look}");
            if (t[Tray.Ready] is > 0 and var waiting)
            {
                if (signOff(c, drop))
                    Add(WorkKind.SignOff, "A sign-off is waiting", "proof/set", ready, $"{waiting}");
                Add(
                    WorkKind.Produce,
                    $"{Count(waiting, "recipient is", "recipients are")} ready to be produced",
                    "produce",
                    ready,
                    $"{waiting}"
                );
            }
            if (drop.MailDate >= today && rows.Count == before && t[Tray.Mailed] + t[Tray.Returned] == 0)
                Add(WorkKind.Planned, $"{drop.Name}: nothing to do yet", "proof", ready, $"{drop.MailDate}");
        }
        var people = c.Query<string>(
                """
                SELECT name FROM (SELECT actor AS name, max(id) AS last FROM act_log
                    WHERE actor_kind = 'Person' AND id > (SELECT max(id) - 20000 FROM act_log) GROUP BY actor UNION ALL
                    SELECT assigned_to, 0 FROM work_mark WHERE assigned_to IS NOT NULL)
                WHERE name <> @System GROUP BY name ORDER BY max(last) DESC LIMIT 20
                """,
                new { Actor.System }
            )
            .ToList();
        var sorted = rows.OrderBy(r => r.Group)
            // What may have gone out is settled before anything is repeated.
            .ThenBy(r =>
                r.Group > DueGroup.Today ? 0
                : r.Kind == WorkKind.SettleDoubts ? 0
                : 1
            )
            .ThenBy(r => r.DueOn ?? DateOnly.MaxValue)
            .ThenBy(r => r.DropId)
            .ThenBy(r => r.Kind)
            .ToList();
        return new(today, [.. sorted.Where(r => r.PostponedUntil is null)], [.. sorted.Where(r => r.PostponedUntil is not null)], people);
    }

    sealed record Mark
    {
        public string Work { get; init; } = "";
        public string? AssignedTo { get; init; }
        public DateOnly? Until { get; init; }
        public string? Reason { get; init; }
        public string? DoneAs { get; init; }
    }

    /// <summary>Whose a piece of work is; null for nobody's.</summary>
    public void Assign(string key, string? to, Actor actor) => Write(key, "assigned_to = @to", new { to }, actor);

    /// <summary>Lets work rest until a day; null to take it up again.</summary>
    public void Postpone(string key, DateOnly? until, string? reason, Actor actor) =>
        Write(key, "until = @until, reason = @reason", new { until, reason }, actor);

    /// <summary>Says that work is done as it is now: it stands there again once there is more of it; null to take that back.</summary>
    public void Done(string key, string? like, Actor actor) => Write(key, "done_as = @like", new { like }, actor);

    void Write(string key, string set, object values, Actor actor) =>
        database.Write(c =>
        {
            if (
                key.Length > 60
                || key.Split(':') is not [var kind, var drop]
                || !Enum.TryParse<WorkKind>(kind, out _)
                || !long.TryParse(drop, out var id)
            )
                throw new BadInputException("This task no longer exists.");
            DropStore.Drop(c, id);
            c.Execute(
                "INSERT INTO work_mark (work, at, by) VALUES (@key, @Stamp, @Name) ON CONFLICT (work) DO UPDATE SET at = "
                    + "excluded.at, by = excluded.by",
                new
                {
                    key,
                    actor.Stamp,
                    actor.Name,
                }
            );
            var all = new DynamicParameters(values);
            all.Add("key", key);
            c.Execute($"UPDATE work_mark SET {set} WHERE work = @key", all);
        });
}
