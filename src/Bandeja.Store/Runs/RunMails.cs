using Bandeja.Core.Drops;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>A message of a run that is to be tried now.</summary>
public sealed record DueMail
{
    public long RecipientId { get; init; }
    public long Position { get; init; }
    public string MessageId { get; init; } = "";
    public string Token { get; init; } = "";
    public long Attempts { get; init; }

    /// <summary>When it was tried last; null where it was not.</summary>
    public string? TriedAt { get; init; }

    /// <summary>What stands in the message as its date, from the first attempt on; null before it, and for messages of earlier
    /// versions.</summary>
    public string? DatedAt { get; init; }

    /// <summary>The message's date; null where it has none yet.</summary>
    public DateTimeOffset? Date =>
        (DatedAt ?? TriedAt) is { } at ? DateTimeOffset.Parse(at, System.Globalization.CultureInfo.InvariantCulture) : null;
}

/// <summary>A message that a mail server took.</summary>
/// <param name="Words">The server's answer.</param>
public sealed record TakenMail(long RecipientId, string Words, DateOnly Day, Actor Actor);

/// <summary>How many messages of a run are in which state.</summary>
public sealed record MailCounts
{
    public long Waiting { get; init; }
    public long Handing { get; init; }
    public long Later { get; init; }
    public long Doubt { get; init; }
    public long Sent { get; init; }
    public long Refused { get; init; }
    public long Excluded { get; init; }

    /// <summary>When the next of those put off is due.</summary>
    public string? NextAt { get; init; }

    /// <summary>True where nothing is left to be tried.</summary>
    public bool IsOver => Waiting + Handing + Later == 0;
}

/// <summary>
/// The messages of runs on their way through a mail server. What is about to be tried says so before; what the server took is recorded
/// with the ledger in one transaction. So after a crash exactly those are in doubt whose attempt had begun and whose answer nobody has.
/// </summary>
public sealed class RunMails(Database database, Recheck recheck, Func<ListSurroundings> surroundings)
{
    /// <summary>The messages that can be tried now, the first of the run first, those that were put off before those that were
    /// not.</summary>
    public IReadOnlyList<DueMail> Due(long runId, DateTimeOffset now, int limit)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<DueMail>(
                """
                SELECT recipient_id, position, message_id, token, attempts, tried_at, dated_at FROM (
                    SELECT *, 0 AS first FROM run_mail WHERE run_id = @runId AND state = 'later' AND next_at <= @Stamp
                    UNION ALL SELECT *, 1 FROM run_mail WHERE run_id = @runId AND state = 'waiting') ORDER BY first, position LIMIT @limit
                """,
                new
                {
                    runId,
                    Stamp = Actor.StampOf(now),
                    limit,
                }
            ),
        ];
    }

    /// <summary>Every message of a run, in its order.</summary>
    public IReadOnlyDictionary<long, DueMail> All(long runId)
    {
        using var c = database.Open();
        return c.Query<DueMail>(
                "SELECT recipient_id, position, message_id, token, attempts, tried_at, dated_at FROM run_mail WHERE run_id = @runId",
                new { runId }
            )
            .ToDictionary(m => m.RecipientId);
    }

    /// <summary>Whose messages of a run a mail server took.</summary>
    public IReadOnlySet<long> SentOf(long runId)
    {
        using var c = database.Open();
        return c.Query<long>("SELECT recipient_id FROM run_mail WHERE run_id = @runId AND state = 'sent'", new { runId }).ToHashSet();
    }

    /// <summary>How the messages of a run stand.</summary>
    public MailCounts Counts(long runId)
    {
        using var c = database.Open();
        return Counts(c, runId);
    }

    static MailCounts Counts(SqliteConnection c, long runId) =>
        c.QuerySingle<MailCounts>(
            """
            SELECT coalesce(sum(state = 'waiting'), 0) AS waiting, coalesce(sum(state = 'handing'), 0) AS handing,
                coalesce(sum(state = 'later'), 0) AS later, coalesce(sum(state = 'doubt'), 0) AS doubt, coalesce(sum(state = 'sent'),
                0) AS sent,
                   coalesce(sum(state = 'refused'), 0) AS refused, coalesce(sum(state = 'excluded'), 0) AS excluded, min(CASE
                       WHEN state = 'later' THEN next_at END) AS next_at
            FROM run_mail WHERE run_id = @runId
            """,
            new { runId }
        );

    /// <summary>Says that a message is about to be handed over.</summary>
    /// <returns>A sentence why it must not be, because something happened to the recipient since; null where it may.</returns>
    /// <param name="before">The message before it, which the server has just taken: both are written at once.</param>
    /// <param name="dated">What stands in the message as its date; kept with the first attempt.</param>
    public string? Handing(
        RunRow run,
        long recipientId,
        string address,
        DateTimeOffset now,
        TakenMail? before = null,
        DateTimeOffset? dated = null
    ) =>
        database.Write(c =>
        {
            if (before is not null)
                Sent(c, run, before);
            var (hold, emailed, channel) = c.QuerySingle<(string? Hold, string? Emailed, string Channel)>(
                "SELECT hold_reason, emailed_on, channel FROM drop_recipient WHERE drop_id = @DropId AND recipient_id = @recipientId",
                new { run.DropId, recipientId }
            );
            var why =
                emailed is not null ? "Already sent"
                : PieceDoubts.MessageInDoubt(c, run.DropId, recipientId, run.Id) is { } other ? $"In doubt: run {other} may have sent it"
                : hold is not null ? $"Held: {hold}"
                : channel == nameof(Core.Mail.Channel.Paper) ? "Sent on paper"
                : null;
            if (why is not null)
            {
                c.Execute(
                    "UPDATE run_mail SET state = 'excluded', words = @why WHERE run_id = @Id AND recipient_id = @recipientId AND "
                        + "state IN ('waiting', 'later')",
                    new
                    {
                        run.Id,
                        recipientId,
                        why,
                    }
                );
                return why;
            }
            return
                c.Execute(
                    "UPDATE run_mail SET state = 'handing', address = @address, tried_at = @Stamp, dated_at = coalesce(dated_at, "
                        + "@date), attempts = attempts + 1 WHERE run_id = @Id AND recipient_id = @recipientId AND state IN "
                        + "('waiting', 'later')",
                    new
                    {
                        run.Id,
                        recipientId,
                        address,
                        Stamp = Actor.StampOf(now),
                        date = dated?.ToString("yyyy-MM-dd'T'HH:mm:sszzz", System.Globalization.CultureInfo.InvariantCulture),
                    }
                ) == 0
                ? "Already being sent"
                : null;
        });

    /// <summary>Records that the server took a message: the piece is made and mailed.</summary>
    public void Sent(RunRow run, TakenMail taken) => database.Write(c => Sent(c, run, taken));

    void Sent(SqliteConnection c, RunRow run, TakenMail taken)
    {
        var (recipientId, words, day, actor) = taken;
        if (
            c.Execute(
                "UPDATE run_mail SET state = 'sent', sent_at = @Stamp, words = @words WHERE run_id = @Id AND recipient_id = "
                    + "@recipientId AND state IN ('handing', 'doubt')",
                new
                {
                    run.Id,
                    recipientId,
                    words,
                    actor.Stamp,
                }
            ) == 0
        )
            return;
        c.Execute(
            "UPDATE run_piece SET printed_at = @Stamp WHERE run_id = @Id AND recipient_id = @recipientId",
            new
            {
                run.Id,
                recipientId,
                actor.Stamp,
            }
        );
        DropEvents.AppendSent(c, run.DropId, run.Id, recipientId, day, actor);
        if (MailReports.TakeEarly(c, run, recipientId, day, actor))
            AutoHolds.SweepSteps(c, run.DropId, [recipientId], surroundings(), actor);
    }

    /// <summary>Records that the server put a message off.</summary>
    /// <param name="next">When it is tried again.</param>
    public void Later(long runId, long recipientId, string words, DateTimeOffset next) =>
        database.Write(c =>
            c.Execute(
                "UPDATE run_mail SET state = 'later', words = @words, next_at = @Stamp WHERE run_id = @runId AND recipient_id = "
                    + "@recipientId AND state = 'handing'",
                new
                {
                    runId,
                    recipientId,
                    words,
                    Stamp = Actor.StampOf(next),
                }
            )
        );

    /// <summary>Records that a message was not begun after all, because no connection could be had: it is as it was, and the attempt does
    /// not count.</summary>
    public void NotBegun(long runId, long recipientId, DateTimeOffset next, string words) =>
        database.Write(c =>
            c.Execute(
                "UPDATE run_mail SET state = 'later', next_at = @Stamp, words = @words, attempts = max(0, attempts - 1) WHERE "
                    + "run_id = @runId AND recipient_id = @recipientId AND state = 'handing'",
                new
                {
                    runId,
                    recipientId,
                    words,
                    Stamp = Actor.StampOf(next),
                }
            )
        );

    /// <summary>Records that the server refused a message for good: the recipient needs review until the address is another or somebody
    /// accepts that.</summary>
    /// <param name="address">The address that was refused; null where the message itself was.</param>
    public void Refused(RunRow run, long recipientId, string? address, string words, Actor actor) =>
        database.Write(c =>
        {
            c.Execute(
                "UPDATE run_mail SET state = 'refused', words = @words WHERE run_id = @Id AND recipient_id = @recipientId AND state "
                    + "= 'handing'",
                new
                {
                    run.Id,
                    recipientId,
                    words,
                }
            );
            c.Execute(
                "INSERT INTO mail_refusal (drop_id, recipient_id, address, words, at) VALUES (@DropId, @recipientId, @address, "
                    + "@words, @Stamp) ON CONFLICT DO UPDATE SET address = excluded.address, words = excluded.words, at = excluded.at",
                new
                {
                    run.DropId,
                    recipientId,
                    address = address ?? "",
                    words,
                    actor.Stamp,
                }
            );
            DropEvents.Append(c, run.DropId, [(recipientId, new(DropEventKind.Refused, words, [DropEvent.EmailLeg], run.Id))], actor, null);
            recheck(c, run.DropId, [recipientId], actor, null);
        });

    /// <summary>Records that a message was not sent, though no server was asked: it could not be made, or this server cannot take such an
    /// address. The recipient stays Ready.</summary>
    public void NotSent(RunRow run, long recipientId, string words) =>
        database.Write(c =>
            c.Execute(
                "UPDATE run_mail SET state = 'excluded', words = @words WHERE run_id = @Id AND recipient_id = @recipientId AND "
                    + "state = 'handing'",
                new
                {
                    run.Id,
                    recipientId,
                    words,
                }
            )
        );

    /// <summary>Records that nobody knows whether the server has a message: the connection ended after all of it was sent.</summary>
    public void Doubt(RunRow run, long recipientId, string words, Actor actor) =>
        database.Write(c =>
        {
            if (
                c.Execute(
                    "UPDATE run_mail SET state = 'doubt', words = @words WHERE run_id = @Id AND recipient_id = @recipientId AND "
                        + "state = 'handing'",
                    new
                    {
                        run.Id,
                        recipientId,
                        words,
                    }
                ) > 0
            )
                Tell(c, run, [recipientId], words, actor);
        });

    static void Tell(SqliteConnection c, RunRow run, IReadOnlyList<long> recipients, string words, Actor actor) =>
        DropEvents.Append(
            c,
            run.DropId,
            [.. recipients.Select(r => (r, new DropEvent(DropEventKind.InDoubt, words, DropEvent.KeysOf(true), run.Id)))],
            actor,
            null
        );

    /// <summary>What was being sent when the work on a run ended is in doubt.</summary>
    /// <returns>How many there are.</returns>
    /// <param name="when">What ended it, after "when".</param>
    public int TakeUpAgain(RunRow run, DateTimeOffset now, string when = ServerStopped) =>
        database.Write(c => TakeUpAgain(c, run, now, when));

    const string ServerStopped = "the server stopped";

    static int TakeUpAgain(SqliteConnection c, RunRow run, DateTimeOffset now, string when = ServerStopped)
    {
        var words = $"This message was being sent when {when}.";
        var recipients = c.Query<long>(
                "UPDATE run_mail SET state = 'doubt', words = @words WHERE run_id = @Id AND state = 'handing' RETURNING recipient_id",
                new { run.Id, words }
            )
            .ToList();
        if (recipients.Count == 0)
            return 0;
        Tell(c, run, recipients, words, Actor.Rule(now));
        RunLog.Add(
            c,
            run.Id,
            $"{(recipients.Count == 1 ? "1 message was" : $"{recipients.Count:N0} messages were")} being sent when {when}, and may "
                + "or may not have been accepted. Check the mail server, then mark each one as sent or not sent.",
            now
        );
        return recipients.Count;
    }

    /// <summary>When the server starts, nothing can be under way: what any run was sending when the process ended is in doubt, also where
    /// the run was paused or canceled meanwhile.</summary>
    public void TakeUpAll(DateTimeOffset now) =>
        database.Write(c =>
        {
            foreach (var run in c.Query<long>("SELECT DISTINCT run_id FROM run_mail WHERE state = 'handing'").ToList())
                TakeUpAgain(c, RunStore.Get(c, run), now);
        });

    /// <summary>Settles a doubt: the message was sent, or it was not. A run that still goes on tries it again; where the run has ended, the
    /// recipient is Ready again.</summary>
    /// <exception cref="ConflictException">It is not in doubt, or another run has sent this piece since.</exception>
    public void Settle(RunRow run, long recipientId, bool sent, DateOnly day, Actor actor) =>
        database.Write(c =>
        {
            var ended = RunStates.Read(c.QuerySingle<string>("SELECT state FROM run WHERE id = @Id", new { run.Id })).IsOver();
            var mail = c.QuerySingleOrDefault<string?>(
                "SELECT state FROM run_mail WHERE run_id = @Id AND recipient_id = @recipientId",
                new { run.Id, recipientId }
            );
            var state = mail is null ? (MailState?)null : Enum.Parse<MailState>(mail, ignoreCase: true);
            if (state != MailState.Doubt && !(ended && state == MailState.Handing))
                throw new ConflictException("This message is no longer in doubt.");
            if (
                c.QueryFirstOrDefault<long?>(
                    "SELECT u.number FROM drop_recipient d JOIN run u ON u.id = d.email_run_id WHERE d.drop_id = @DropId AND "
                        + "d.recipient_id = @recipientId AND d.emailed_on IS NOT NULL AND u.id <> @Id",
                    new
                    {
                        run.DropId,
                        run.Id,
                        recipientId,
                    }
                ) is
                { } other
            )
                throw new ConflictException($"Run {other} has since sent this piece, so run {run.Number} has nothing left to resolve.");
            if (sent)
                Sent(c, run, new(recipientId, $"{actor.Name} checked: it was sent.", day, actor));
            else
                c.Execute(
                    "UPDATE run_mail SET state = 'waiting' WHERE run_id = @Id AND recipient_id = @recipientId",
                    new { run.Id, recipientId }
                );
            var piece = c.QuerySingle<long>(
                "SELECT piece_number FROM run_piece WHERE run_id = @Id AND recipient_id = @recipientId",
                new { run.Id, recipientId }
            );
            var found =
                sent ? "sent"
                : ended ? "not sent"
                : "not sent; it will be tried again";
            DropEvents.Append(
                c,
                run.DropId,
                [(recipientId, new(DropEventKind.DoubtSettled, sent ? "sent" : "not sent", DropEvent.KeysOf(true), run.Id))],
                actor,
                null
            );
            RunLog.Add(c, run.Id, $"{actor.Name} checked: message {piece:0000} was {found}.", actor.At);
        });

    /// <summary>Ends a run of which nothing is left to be tried; where messages are in doubt it is paused until somebody has
    /// looked.</summary>
    /// <returns>The state that the run has now.</returns>
    public RunState Close(RunRow run, Actor actor) =>
        database.Write(c =>
        {
            var n = Counts(c, run.Id);
            var state = RunStates.Read(c.QuerySingle<string>("SELECT state FROM run WHERE id = @Id", new { run.Id }));
            if (!n.IsOver || state is not (RunState.Running or RunState.Paused))
                return state;
            if (n.Doubt > 0)
            {
                var message =
                    $"{(n.Doubt == 1 ? "1 message is" : $"{n.Doubt:N0} messages are")} in doubt: {(n.Doubt == 1 ? "it" : "they")} "
                    + "may have been sent. Check the mail server, then mark each one as sent or not sent.";
                c.Execute("UPDATE run SET state = 'paused', message = @message WHERE id = @Id", new { run.Id, message });
                if (state == RunState.Running)
                    RunLog.Add(c, run.Id, message, actor.At);
                return RunState.Paused;
            }
            c.Execute("UPDATE run SET state = 'done', message = NULL, finished_at = @Stamp WHERE id = @Id", new { run.Id, actor.Stamp });
            c.Execute(
                "UPDATE job SET state = 'done', done = total, finished_at = @Stamp WHERE kind = 'send' AND subject_id = @Id AND "
                    + "state IN ('queued', 'running')",
                new { run.Id, actor.Stamp }
            );
            RunLog.Add(
                c,
                run.Id,
                $"Done: {n.Sent:N0} "
                    + $"sent{(n.Refused > 0 ? $", {n.Refused:N0} rejected" : "")}{(n.Excluded > 0 ? $", {n.Excluded:N0} excluded" : "")}.",
                actor.At
            );
            return RunState.Done;
        });

    /// <summary>The address of a drop's recipients that a mail server refused, with its words.</summary>
    public static IReadOnlyDictionary<long, (string Address, string Words)> Refusals(SqliteConnection c, long dropId) =>
        c.Query<(long Id, string Address, string Words)>(
                "SELECT recipient_id, address, words FROM mail_refusal WHERE drop_id = @dropId",
                new { dropId }
            )
            .ToDictionary(r => r.Id, r => (r.Address, r.Words));

    /// <summary>Whose message has a token; null where nobody's has.</summary>
    public MailOwner? OfToken(string token)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<MailOwner>(OwnerSql + " WHERE m.token = @token", new { token });
    }

    /// <summary>Whose message a Message-ID is of; null where nobody's.</summary>
    public static MailOwner? OfMessage(SqliteConnection c, string messageId) =>
        c.QuerySingleOrDefault<MailOwner>(OwnerSql + " WHERE m.message_id = @messageId", new { messageId });

    /// <summary>Whose message a mark in a return address stands for; null where nobody's. A mark is what the Message-ID has before the
    /// @.</summary>
    public static MailOwner? OfReturnMark(SqliteConnection c, string mark) =>
        c.QueryFirstOrDefault<MailOwner>(
            OwnerSql + " WHERE m.message_id >= @from AND m.message_id < @to",
            new { from = mark + "@", to = mark + "A" }
        );

    /// <summary>Whose message went to an address last, within the ten days before a moment (servers try for five, RFC 5321, section
    /// 4.5.4.1); null where nobody's did.</summary>
    public static MailOwner? LastTo(SqliteConnection c, string address, DateTimeOffset at) =>
        address.Length == 0
            ? null
            : c.QueryFirstOrDefault<MailOwner>(
                OwnerSql
                    + " WHERE m.address = @address COLLATE NOCASE AND m.sent_at IS NOT NULL AND m.sent_at <= @until AND m.sent_at "
                    + ">= @since ORDER BY m.sent_at DESC LIMIT 1",
                new
                {
                    address,
                    until = Actor.StampOf(at.AddMinutes(10)),
                    since = Actor.StampOf(at.AddDays(-10)),
                }
            );

    const string OwnerSql =
        "SELECT m.run_id, m.recipient_id, m.address, u.drop_id, u.number AS run_number, d.list_id, d.name AS drop_name, k.name AS "
        + "campaign_name, p.piece_number FROM run_mail m JOIN run u ON u.id = m.run_id JOIN mail_drop d ON d.id = u.drop_id JOIN "
        + "campaign k ON k.id = d.campaign_id JOIN run_piece p ON p.run_id = m.run_id AND p.recipient_id = m.recipient_id";
}

/// <summary>Whose a message is.</summary>
public sealed record MailOwner
{
    public long RunId { get; init; }
    public long RunNumber { get; init; }
    public long RecipientId { get; init; }
    public long DropId { get; init; }
    public long ListId { get; init; }
    public string? Address { get; init; }
    public string DropName { get; init; } = "";
    public string CampaignName { get; init; } = "";
    public long PieceNumber { get; init; }
}
