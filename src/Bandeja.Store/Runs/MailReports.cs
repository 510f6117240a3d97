using Bandeja.Core.Drops;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>A delivery report as it is kept.</summary>
public sealed record MailReportRow
{
    public long Id { get; init; }
    public string At { get; init; } = "";
    public long? RunId { get; init; }
    public long? RunNumber { get; init; }
    public long? RecipientId { get; init; }
    public long? PieceNumber { get; init; }
    public long? DropId { get; init; }
    public string Address { get; init; } = "";

    /// <summary>failed, delayed, delivered, relayed or expanded (RFC 3464, section 2.3.3); complained (RFC 5965).</summary>
    public string Action { get; init; } = "";

    /// <summary>For instance 5.1.1 (RFC 3463).</summary>
    public string Status { get; init; } = "";
    public string Words { get; init; } = "";

    /// <summary>True where the address is gone for good.</summary>
    public bool Hard { get; init; }

    /// <summary>suppressed or left; null while the proposal is open.</summary>
    public string? Settled { get; init; }
}

/// <summary>What a delivery report says of one recipient.</summary>
/// <param name="MessageId">Of the message that it is about; null where the report does not say.</param>
/// <param name="Mark">The same for the same report.</param>
/// <param name="At">When the report was written: by it and the address it is matched where it names no message.</param>
/// <param name="ReturnMark">What stands for the message in the address that the report came back to; null where nothing does.</param>
public sealed record NewReport(
    string? MessageId,
    string Address,
    string Action,
    string Status,
    string Words,
    string Mark,
    DateTimeOffset At = default,
    string? ReturnMark = null
)
{
    /// <summary>True where mail to the address failed for good: a permanent failure (class 5) of an address or mailbox, RFC 3463 section
    /// 3.2 and 3.3.</summary>
    public bool IsHard =>
        Action == "complained"
        || Action == "failed" && Status.StartsWith("5.", StringComparison.Ordinal) && Status is not ("5.2.2" or "5.3.4" or "5.2.3");
}

/// <summary>Delivery reports (RFC 3464) and what came of them.</summary>
public sealed class MailReports(Database database, Func<ListSurroundings> surroundings)
{
    const string Sql =
        "SELECT r.id, r.at, r.run_id, u.number AS run_number, r.recipient_id, p.piece_number, r.drop_id, r.address, r.action, "
        + "r.status, r.words, r.hard, r.settled FROM mail_report r LEFT JOIN run u ON u.id = r.run_id LEFT JOIN run_piece p ON "
        + "p.run_id = r.run_id AND p.recipient_id = r.recipient_id";

    /// <summary>Takes a report in: where it tells that a message of ours failed, the recipient is moved to Returned with the
    /// reason.</summary>
    /// <returns>The drop that it concerns; null where it is matched to none, and whether it is new.</returns>
    public (MailReportRow Row, bool IsNew) Take(NewReport report, DateOnly day, Actor actor) =>
        database.Write(c =>
        {
            if (c.QuerySingleOrDefault<MailReportRow>(Sql + " WHERE r.mark = @Mark", new { report.Mark }) is { } known)
                return (known, false);
            // A report without the message's id is about the last message that went to its address before it.
            var owner =
                (report.MessageId is { } id ? RunMails.OfMessage(c, id) : null)
                ?? (report.ReturnMark is { } mark ? RunMails.OfReturnMark(c, mark) : null)
                ?? RunMails.LastTo(c, report.Address, report.At == default ? actor.At : report.At);
            if (report.Address.Length == 0)
                report = report with { Address = owner?.Address ?? "" };
            var row = c.QuerySingle<long>(
                "INSERT INTO mail_report (at, run_id, recipient_id, drop_id, address, action, status, words, hard, mark, settled) "
                    + "VALUES (@Stamp, @RunId, @RecipientId, @DropId, @Address, @Action, @Status, @Words, @hard, @Mark, @settled) "
                    + "RETURNING id",
                new
                {
                    actor.Stamp,
                    RunId = owner?.RunId,
                    RecipientId = owner?.RecipientId,
                    DropId = owner?.DropId,
                    report.Address,
                    report.Action,
                    report.Status,
                    report.Words,
                    hard = report.IsHard,
                    report.Mark,
                    settled = report.IsHard && owner is not null ? null : "left",
                }
            );
            if (owner is not null)
            {
                // A report about somebody who was only copied says nothing about the recipient.
                var own = owner.Address is null || string.Equals(owner.Address, report.Address, StringComparison.OrdinalIgnoreCase);
                var state = DropEvents.States(c, owner.DropId, [owner.RecipientId])[owner.RecipientId];
                if (report.Action == "failed" && own && state.Objection(DropEventKind.Returned) is null)
                {
                    DropEvents.Append(
                        c,
                        owner.DropId,
                        [(owner.RecipientId, CameBack(report.Address, report.Words, owner.RunId, day))],
                        actor,
                        null
                    );
                    AutoHolds.SweepSteps(c, owner.DropId, [owner.RecipientId], surroundings(), actor);
                }
                RunLog.Add(
                    c,
                    owner.RunId,
                    $"Report on piece {owner.PieceNumber:0000}, {report.Address}: {report.Action}, {report.Status}. {report.Words}",
                    actor.At
                );
            }
            return (c.QuerySingle<MailReportRow>(Sql + " WHERE r.id = @row", new { row }), true);
        });

    static DropEvent CameBack(string address, string words, long runId, DateOnly day) =>
        new(DropEventKind.Returned, $"email to {address}: {words}", [DropEvent.EmailLeg], runId, day);

    /// <summary>A report may come before it is recorded that the server took the message: then it holds as soon as that is.</summary>
    /// <returns>True where there was one.</returns>
    internal static bool TakeEarly(SqliteConnection c, RunRow run, long recipientId, DateOnly day, Actor actor)
    {
        if (
            c.QueryFirstOrDefault<(string? Address, string? Words)>(
                "SELECT r.address, r.words FROM mail_report r JOIN run_mail m ON m.run_id = r.run_id AND m.recipient_id = "
                    + "r.recipient_id WHERE r.run_id = @Id AND r.recipient_id = @recipientId AND r.action = 'failed' AND (m.address "
                    + "IS NULL OR m.address = r.address COLLATE NOCASE)",
                new { run.Id, recipientId }
            )
            is not
            ({ } address, { } words)
        )
            return false;
        DropEvents.Append(c, run.DropId, [(recipientId, CameBack(address, words, run.Id, day))], actor, null);
        return true;
    }

    /// <summary>The reports on a drop, the newest first.</summary>
    public IReadOnlyList<MailReportRow> OfDrop(long dropId)
    {
        using var c = database.Open();
        return [.. c.Query<MailReportRow>(Sql + " WHERE r.drop_id = @dropId ORDER BY r.id DESC", new { dropId })];
    }

    /// <summary>Settles the proposal to suppress.</summary>
    public static void Settle(SqliteConnection c, IReadOnlyList<long> ids, string how) =>
        c.Execute("UPDATE mail_report SET settled = @how WHERE id IN @ids AND settled IS NULL", new { ids, how });
}
