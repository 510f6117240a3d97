using System.Globalization;
using System.Text.Json;
using Bandeja.Core.Campaigns;
using Bandeja.Core.Drops;
using Bandeja.Core.Mail;
using Bandeja.Store.Campaigns;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Drops;

/// <summary>What checking a recipient came to.</summary>
/// <param name="Channel">How the drop's rule lets their pieces go out.</param>
public sealed record CheckedPiece(long RecipientId, int Pages, Channel Channel, IReadOnlyList<PieceIssue> Issues);

/// <summary>
/// The one place where events are added. The events and the trays they lead to are written in the caller's transaction, so a
/// tray never says anything that the events do not.
/// </summary>
public static class DropEvents
{
    /// <summary>The states of some recipients of a drop.</summary>
    public static Dictionary<long, RecipientState> States(SqliteConnection c, long dropId, IReadOnlyList<long> recipientIds)
    {
        var states = new Dictionary<long, RecipientState>(recipientIds.Count);
        var issues = new Dictionary<long, List<string>>();
        var doubts = PieceDoubts.Of(c, dropId);
        foreach (var ids in recipientIds.Chunk(5000))
        {
            var list = IdSet.Json(ids);
            foreach (
                var (id, key) in c.Query<(long, string)>(
                    $"SELECT recipient_id, key FROM piece_issue WHERE drop_id = @dropId AND recipient_id {IdSet.In}",
                    new { dropId, ids = list }
                )
            )
                (issues.TryGetValue(id, out var known) ? known : issues[id] = []).Add(key);
            foreach (
                var r in c.Query<StateRow>(
                    "SELECT recipient_id, hold_reason, run_id, mailed_on, return_reason, accepted_json, hold_rule, overruled_json, "
                        + "channel, channel_by_hand, email_run_id, emailed_on FROM drop_recipient WHERE drop_id = @dropId AND "
                        + $"recipient_id {IdSet.In}",
                    new { dropId, ids = list }
                )
            )
                states[r.RecipientId] = new RecipientState
                {
                    Issues = issues.GetValueOrDefault(r.RecipientId) ?? [],
                    Accepted = r.AcceptedJson is null ? [] : JsonSerializer.Deserialize<string[]>(r.AcceptedJson)!,
                    HoldReason = r.HoldReason,
                    HoldRule = r.HoldRule,
                    Overruled = r.OverruledJson is null ? [] : JsonSerializer.Deserialize<string[]>(r.OverruledJson)!,
                    ProducedRun = r.RunId,
                    MailedOn = r.MailedOn,
                    ReturnReason = r.ReturnReason,
                    Channel = Enum.Parse<Channel>(r.Channel),
                    ChannelByHand = r.ChannelByHand,
                    EmailRun = r.EmailRunId,
                    EmailedOn = r.EmailedOn,
                    PaperInDoubt = doubts[r.RecipientId].Any(d => !d.Email),
                    EmailInDoubt = doubts[r.RecipientId].Any(d => d.Email),
                };
        }
        return states;
    }

    sealed record StateRow
    {
        public long RecipientId { get; init; }
        public string? HoldReason { get; init; }
        public long? RunId { get; init; }
        public DateOnly? MailedOn { get; init; }
        public string? ReturnReason { get; init; }
        public string? AcceptedJson { get; init; }
        public string? HoldRule { get; init; }
        public string? OverruledJson { get; init; }
        public string Channel { get; init; } = "";
        public bool ChannelByHand { get; init; }
        public long? EmailRunId { get; init; }
        public DateOnly? EmailedOn { get; init; }
    }

    /// <summary>Adds events and brings the trays up to date. Every recipient must be in the drop.</summary>
    public static void Append(
        SqliteConnection c,
        long dropId,
        IReadOnlyList<(long RecipientId, DropEvent Event)> events,
        Actor actor,
        long? actionId
    )
    {
        if (events.Count == 0)
            return;
        var states = States(c, dropId, [.. events.Select(e => e.RecipientId).Distinct()]);
        using var insert = c.CreateCommand();
        insert.CommandText =
            "INSERT INTO drop_event (drop_id, recipient_id, kind, at, by, note, keys_json, run_id, date, action_id) VALUES ($drop, "
            + "$recipient, $kind, $at, $by, $note, $keys, $run, $date, $action)";
        foreach (
            var name in (ReadOnlySpan<string>)["$drop", "$recipient", "$kind", "$at", "$by", "$note", "$keys", "$run", "$date", "$action"]
        )
            insert.Parameters.AddWithValue(name, DBNull.Value);
        foreach (var (recipientId, e) in events)
        {
            states[recipientId] = states[recipientId].After(e);
            object?[] values =
            [
                dropId,
                recipientId,
                e.Kind.ToString(),
                actor.Stamp,
                actor.Name,
                e.Note,
                e.Keys is null ? null : JsonSerializer.Serialize(e.Keys),
                e.RunId,
                Iso(e.Date),
                actionId,
            ];
            for (var i = 0; i < values.Length; i++)
                insert.Parameters[i].Value = values[i] ?? DBNull.Value;
            insert.ExecuteNonQuery();
        }
        WriteStates(c, dropId, states);
        FollowInCampaign(c, dropId, events, actor);
    }

    /// <summary>What left the building, or came back, moves a campaign's clocks.</summary>
    static void FollowInCampaign(SqliteConnection c, long dropId, IReadOnlyList<(long RecipientId, DropEvent Event)> events, Actor actor)
    {
        long[] Of(params DropEventKind[] kinds) =>
            [.. events.Where(e => kinds.Contains(e.Event.Kind)).Select(e => e.RecipientId).Distinct()];
        if (Of(DropEventKind.Mailed, DropEventKind.MailUndone, DropEventKind.Returned, DropEventKind.ReturnUndone) is { Length: > 0 } moved)
            PersonClocks.AfterMailing(c, dropId, moved);
        if (
            c.QuerySingleOrDefault<long?>("SELECT campaign_id FROM mail_drop WHERE id = @dropId AND step_id IS NOT NULL", new { dropId })
            is not { } campaign
        )
            return;
        foreach (var day in events.Where(e => e.Event.Kind == DropEventKind.Returned).GroupBy(e => e.Event.Date))
            Leaves.Add(
                c,
                campaign,
                [.. day.Select(e => e.RecipientId).Distinct()],
                day.Key ?? SettingStore.DayOf(c, actor.At),
                LeaveReason.Undeliverable,
                null,
                actor
            );
        // By the drop's rule again is no new try: what came back has come back.
        var tried = events.Where(e => e.Event is { Kind: DropEventKind.GoesBy, Keys: [DropEvent.ByHand, ..] }).Select(e => e.RecipientId);
        if (Of(DropEventKind.ReturnUndone, DropEventKind.MailUndone).Union(tried).ToArray() is { Length: > 0 } again)
            Leaves.Undo(c, campaign, again, Actor.Rule(actor.At), [LeaveReason.Undeliverable]);
    }

    /// <summary>
    /// Adds what a finished run comes to, for all its pieces that are not told yet: a run has thousands, all with the same event, so they
    /// are written by the database itself. What it makes of the trays is what <see cref="RecipientState.Tray"/> says.
    /// </summary>
    /// <param name="reprint">True where the pieces were made before: then nothing changes but the ledger.</param>
    /// <param name="email">True where the run made emails and nothing on paper.</param>
    public static void AppendMade(SqliteConnection c, long dropId, long runId, bool reprint, Actor actor, bool email = false)
    {
        // In parts: what one statement changes is kept in memory until it ends.
        const int part = 10_000;
        const string pieces = "FROM run_piece WHERE run_id = @runId AND printed_at IS NULL AND position BETWEEN @from AND @to";
        var last = c.QuerySingle<long>("SELECT coalesce(max(position), -1) FROM run_piece WHERE run_id = @runId", new { runId });
        for (var from = 0L; from <= last; from += part)
        {
            var values = new
            {
                dropId,
                runId,
                kind = (reprint ? DropEventKind.Reprinted : DropEventKind.Produced).ToString(),
                actor.Stamp,
                actor.Name,
                from,
                to = from + part - 1,
                email,
                keys = DropEvent.KeysOf(email) is { } k ? JsonSerializer.Serialize(k) : null,
            };
            c.Execute(
                "INSERT INTO drop_event (drop_id, recipient_id, kind, at, by, run_id, keys_json) SELECT @dropId, recipient_id, "
                    + $"@kind, @Stamp, @Name, @runId, @keys {pieces} ORDER BY position",
                values
            );
            if (reprint)
                continue;
            c.Execute(
                $"""
                UPDATE drop_recipient SET {(email ? "email_run_id" : "run_id")} = @runId, tray = CASE
                    WHEN return_reason IS NOT NULL THEN '{nameof(Tray.Returned)}'
                    WHEN (channel = '{nameof(Channel.Email)}' OR mailed_on IS NOT NULL) AND (channel = '{nameof(
                    Channel.Paper
                )}' OR emailed_on IS NOT NULL) THEN '{nameof(Tray.Mailed)}'
                    WHEN hold_reason IS NOT NULL THEN '{nameof(Tray.Held)}'
                    WHEN (channel = '{nameof(Channel.Email)}' OR run_id IS NOT NULL OR NOT @email) AND (channel = '{nameof(
                    Channel.Paper
                )}' OR email_run_id IS NOT NULL OR @email) THEN '{nameof(Tray.Produced)}'
                    ELSE tray END
                WHERE drop_id = @dropId AND recipient_id IN (SELECT recipient_id {pieces})
                """,
                values
            );
        }
    }

    /// <summary>
    /// Adds that a recipient's email was made and taken by the mail server. Thousands come one by one, each in a transaction of its own,
    /// so the state is not read first: what it makes of the tray is what <see cref="RecipientState.Tray"/> says.
    /// </summary>
    public static void AppendSent(SqliteConnection c, long dropId, long runId, long recipientId, DateOnly day, Actor actor)
    {
        c.Execute(
            $"""
            INSERT INTO drop_event (drop_id, recipient_id, kind, at, by, run_id, keys_json, date) VALUES
                (@dropId, @recipientId, '{nameof(
                DropEventKind.Produced
            )}', @Stamp, @Name, @runId, @keys, NULL), (@dropId, @recipientId, '{nameof(
                DropEventKind.Mailed
            )}', @Stamp, @Name, @runId, @keys, @day);
            UPDATE drop_recipient SET email_run_id = @runId, emailed_on = @day, return_reason = NULL, tray = CASE
                WHEN channel = '{nameof(Channel.Email)}' OR mailed_on IS NOT NULL THEN '{nameof(Tray.Mailed)}'
                WHEN hold_reason IS NOT NULL THEN '{nameof(Tray.Held)}'
                WHEN channel = '{nameof(Channel.Paper)}' AND run_id IS NULL THEN tray
                WHEN run_id IS NOT NULL THEN '{nameof(Tray.Produced)}'
                ELSE tray END
            WHERE drop_id = @dropId AND recipient_id = @recipientId;
            """,
            new
            {
                dropId,
                runId,
                recipientId,
                day = Iso(day),
                actor.Stamp,
                actor.Name,
                keys = $"[\"{DropEvent.EmailLeg}\"]",
            }
        );
        PersonClocks.AfterMailing(c, dropId, [recipientId]);
    }

    static string? Iso(DateOnly? date) => date?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    static void WriteStates(SqliteConnection c, long dropId, Dictionary<long, RecipientState> states)
    {
        using var update = c.CreateCommand();
        update.CommandText =
            "UPDATE drop_recipient SET tray = $tray, hold_reason = $hold, run_id = $run, mailed_on = $mailed, return_reason = "
            + "$return, accepted_json = $accepted, hold_rule = $rule, overruled_json = $overruled, channel = $channel, "
            + "channel_by_hand = $hand, email_run_id = $emailRun, emailed_on = $emailed WHERE drop_id = $drop AND "
            + "recipient_id = $recipient";
        foreach (
            var name in (ReadOnlySpan<string>)
                [
                    "$tray",
                    "$hold",
                    "$run",
                    "$mailed",
                    "$return",
                    "$accepted",
                    "$rule",
                    "$overruled",
                    "$channel",
                    "$hand",
                    "$emailRun",
                    "$emailed",
                    "$drop",
                    "$recipient",
                ]
        )
            update.Parameters.AddWithValue(name, DBNull.Value);
        foreach (var (id, s) in states)
        {
            object?[] values =
            [
                s.Tray.ToString(),
                s.HoldReason,
                s.ProducedRun,
                Iso(s.MailedOn),
                s.ReturnReason,
                s.Accepted.Count == 0 ? null : JsonSerializer.Serialize(s.Accepted),
                s.HoldRule,
                s.Overruled.Count == 0 ? null : JsonSerializer.Serialize(s.Overruled),
                s.Channel.ToString(),
                s.ChannelByHand ? 1 : 0,
                s.EmailRun,
                Iso(s.EmailedOn),
                dropId,
                id,
            ];
            for (var i = 0; i < values.Length; i++)
                update.Parameters[i].Value = values[i] ?? DBNull.Value;
            update.ExecuteNonQuery();
        }
    }

    /// <summary>Takes the outcome of checking: where a recipient's issues changed, they are replaced and an event says so.</summary>
    public static void ApplyCheck(SqliteConnection c, long dropId, IReadOnlyList<CheckedPiece> results, Actor actor, long? actionId)
    {
        var states = States(c, dropId, [.. results.Select(r => r.RecipientId)]);
        var events = new List<(long, DropEvent)>();
        foreach (var (id, pages, channel, issues) in results)
        {
            // Once something is made, the way of the rest stays as it was: else a corrected address could send the same thing twice.
            if (states[id] is { ChannelByHand: false, IsBegun: false } state && state.Channel != channel)
                events.Add((id, new(DropEventKind.GoesBy, channel.ToString())));
            c.Execute(
                "UPDATE drop_recipient SET pages = @pages WHERE drop_id = @dropId AND recipient_id = @id AND pages <> @pages",
                new
                {
                    pages,
                    dropId,
                    id,
                }
            );
            if (states[id].Issues.Order(StringComparer.Ordinal).SequenceEqual(issues.Select(f => f.Key).Order(StringComparer.Ordinal)))
                continue;
            c.Execute("DELETE FROM piece_issue WHERE drop_id = @dropId AND recipient_id = @id", new { dropId, id });
            c.Execute(
                "INSERT INTO piece_issue (drop_id, recipient_id, key, alike, kind, subject, detail, message) VALUES (@dropId, @id, "
                    + "@Key, @Group, @Kind, @Subject, @Detail, @Message)",
                issues.Select(f => new
                {
                    dropId,
                    id,
                    f.Key,
                    f.Group,
                    Kind = f.Kind.ToString(),
                    f.Subject,
                    f.Detail,
                    f.Message,
                })
            );
            events.Add((id, new(DropEventKind.Checked, Keys: [.. issues.Select(f => f.Key)])));
        }
        Append(c, dropId, events, actor, actionId);
    }

    /// <summary>What was accepted about a column stays accepted when the column is called otherwise.</summary>
    internal static void FollowName(SqliteConnection c, long listId, string formerName, string name, Actor actor, long actionId)
    {
        foreach (var drop in c.Query<long>("SELECT id FROM mail_drop WHERE list_id = @listId", new { listId }).ToList())
        {
            var events = c.Query<(long Recipient, string Accepted)>(
                    "SELECT recipient_id, accepted_json FROM drop_recipient WHERE drop_id = @drop AND instr(accepted_json, @plain) > 0",
                    new { drop, plain = JsonSerializer.Serialize($"|{formerName}|")[1..^1] }
                )
                .Select(r =>
                    (
                        r.Recipient,
                        Keys: JsonSerializer
                            .Deserialize<string[]>(r.Accepted)!
                            .Select(k => k.Split('|', 3))
                            .Where(k => k.Length == 3 && k[1] == formerName)
                            .Select(k => $"{k[0]}|{name}|{k[2]}")
                            .ToArray()
                    )
                )
                .Where(r => r.Keys.Length > 0)
                .Select(r => (r.Recipient, new DropEvent(DropEventKind.Accepted, Keys: r.Keys)))
                .ToList();
            Append(c, drop, events, actor, actionId);
        }
    }

    /// <summary>Computes a drop's trays anew from its events alone, to hold the stored ones against them.</summary>
    public static IReadOnlyDictionary<long, Tray> Replay(SqliteConnection c, long dropId)
    {
        var states = new Dictionary<long, RecipientState>();
        foreach (
            var (id, kind, note, keys, run, date) in c.Query<(long, string, string?, string?, long?, string?)>(
                "SELECT recipient_id, kind, note, keys_json, run_id, date FROM drop_event WHERE drop_id = @dropId ORDER BY id",
                new { dropId }
            )
        )
        {
            var e = new DropEvent(
                Enum.Parse<DropEventKind>(kind),
                note,
                keys is null ? null : JsonSerializer.Deserialize<string[]>(keys),
                run,
                date is null ? null : DateOnly.ParseExact(date, "yyyy-MM-dd", CultureInfo.InvariantCulture)
            );
            states[id] = states.GetValueOrDefault(id, RecipientState.Start).After(e);
        }
        return states.ToDictionary(s => s.Key, s => s.Value.Tray);
    }
}
