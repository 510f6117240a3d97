using System.Globalization;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;

namespace Bandeja.Store.Runs;

/// <summary>The ledger as a table: for each recipient of each drop whether and when they were mailed.</summary>
public sealed class LedgerExport(Database database)
{
    /// <summary>The ledger of a drop, or of all drops: a row for each piece.</summary>
    public IEnumerable<IReadOnlyList<string?>> Rows(long? dropId)
    {
        using var c = database.Open();
        foreach (var id in dropId is { } one ? [one] : c.Query<long>("SELECT id FROM mail_drop ORDER BY id").ToList())
        {
            var drop = DropStore.Drop(c, id);
            var columns = RowTable.Columns(c, drop.ListId);
            var key = columns.ToList().FindIndex(x => x.Role == Role.Key);
            var runs = c.Query<(long Id, long Number, string? Finished, string Designs, string Versions)>(
                    """
                    SELECT run.id, run.number, run.finished_at,
                           (SELECT group_concat(name, ' + ') FROM (SELECT g.name FROM run_design r JOIN design_version v
                               ON v.id = r.design_version_id JOIN design g ON g.id = v.design_id WHERE r.run_id = run.id
                               ORDER BY r.position)),
                           (SELECT group_concat(number, ' + ') FROM (SELECT v.number FROM run_design r JOIN design_version v
                               ON v.id = r.design_version_id WHERE r.run_id = run.id ORDER BY r.position))
                    FROM run WHERE drop_id = @id
                    """,
                    new { id }
                )
                .ToDictionary(r => r.Id);
            var reprints = c.Query<(long Recipient, string Runs)>(
                    "SELECT recipient_id, group_concat(number, ', ') FROM (SELECT e.recipient_id, u.number FROM drop_event e JOIN "
                        + "run u ON u.id = e.run_id WHERE e.drop_id = @id AND e.kind = 'Reprinted' ORDER BY e.id) GROUP BY recipient_id",
                    new { id }
                )
                .ToDictionary(r => r.Recipient, r => r.Runs);
            var addresses = c.Query<(long Run, long Recipient, string? Address)>(
                    "SELECT m.run_id, m.recipient_id, m.address FROM run_mail m JOIN run u ON u.id = m.run_id WHERE u.drop_id = @id",
                    new { id }
                )
                .ToDictionary(m => (m.Run, m.Recipient), m => m.Address);
            var email = columns.ToList().FindIndex(x => x.Role == Role.Email);
            // What stood on the piece that went out, whatever is corrected later; the last reprint counts.
            var printed = c.Query<(long Recipient, bool Email, string? Name, string? Address)>(
                    "SELECT p.recipient_id, u.output IN ('email', 'eml', 'mbox'), p.printed_name, p.printed_address FROM run_piece "
                        + "p JOIN run u ON u.id = p.run_id WHERE u.drop_id = @id AND p.printed_at IS NOT NULL AND p.printed_name IS "
                        + "NOT NULL ORDER BY p.printed_at, u.id",
                    new { id }
                )
                .GroupBy(p => (p.Recipient, p.Email))
                .ToDictionary(g => g.Key, g => (g.Last().Name, g.Last().Address));
            var codes = c.Query<(long Run, long Recipient, string Codes)>(
                    "SELECT p.run_id, p.recipient_id, p.barcodes FROM run_piece p JOIN run u ON u.id = p.run_id WHERE u.drop_id = "
                        + "@id AND p.barcodes IS NOT NULL",
                    new { id }
                )
                .ToDictionary(p => (p.Run, p.Recipient), p => p.Codes.Replace("\n", "; "));
            var history = c.Query<(long Recipient, string Kind, string At, string By, string? Note, long? Run, string? Date)>(
                    "SELECT e.recipient_id, e.kind, e.at, e.by, e.note, u.number, e.date FROM drop_event e LEFT JOIN run u ON u.id "
                        + "= e.run_id WHERE e.drop_id = @id AND e.kind <> 'Checked' ORDER BY e.id",
                    new { id }
                )
                .ToLookup(e => e.Recipient);
            string Designs(bool mail) => string.Join(" + ", drop.Package.Where(p => p.IsEmail == mail).Select(p => p.Name));
            foreach (var r in DropStore.Recipients(c, drop, columns, null))
            {
                var label = RecipientLabel.Of(columns, i => r.Values[i]);
                var happened = string.Join("; ", history[r.Id].Select(e => LedgerHistory.Words(e.Kind, e.At, e.By, e.Note, e.Run, e.Date)));
                var back = string.Join(
                    "; ",
                    history[r.Id]
                        .Where(e => LedgerHistory.IsBackToReady(e.Kind))
                        .Select(e => LedgerHistory.Words(e.Kind, e.At, e.By, e.Note, e.Run, e.Date))
                );
                // A piece each: who gets paper and email has two. What went out another way than it would go now is told, too.
                foreach (var mail in (bool[])[false, true])
                {
                    if (
                        !r.Channel.HasFlag(mail ? Core.Mail.Channel.Email : Core.Mail.Channel.Paper)
                        && (mail ? r.EmailRunId : r.RunId) is null
                    )
                        continue;
                    var runId = mail ? r.EmailRunId : r.RunId;
                    var run = runId is { } made ? runs[made] : default;
                    var then = runId is null ? default : printed.GetValueOrDefault((r.Id, mail));
                    var goesTo = !mail
                        ? then.Address ?? label.Place
                        : (runId is { } sent ? addresses.GetValueOrDefault((sent, r.Id)) : null) ?? (email >= 0 ? r.Values[email] : null);
                    yield return
                    [
                        drop.CampaignName,
                        drop.Name,
                        r.PieceNumber.ToString("0000", CultureInfo.InvariantCulture),
                        key >= 0 ? r.Values[key] : null,
                        then.Name ?? label.Name,
                        mail ? "Email" : "Paper",
                        goesTo,
                        runId is null ? Designs(mail) : run.Designs,
                        runId is null ? null : run.Versions,
                        TrayName(r.Tray),
                        runId is null ? null : run.Number.ToString(CultureInfo.InvariantCulture),
                        run.Finished,
                        mail ? null : reprints.GetValueOrDefault(r.Id),
                        (mail ? r.EmailedOn : r.MailedOn)?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                        r.ReturnReason,
                        r.HoldReason,
                        r.InDoubt.FirstOrDefault(d => d.Email == mail) is { } doubt
                            ? $"May have been {(mail ? "sent" : "printed")} in run {doubt.RunNumber}"
                            : null,
                        runId is { } coded ? codes.GetValueOrDefault((coded, r.Id)) : null,
                        back.Length == 0 ? null : back,
                        happened.Length == 0 ? null : happened,
                    ];
                }
            }
        }
    }

    /// <summary>The headings of <see cref="Ledger"/>.</summary>
    public static readonly IReadOnlyList<Column> Headings =
    [
        .. new[]
        {
            "Campaign",
            "Drop",
            "Piece",
            "Key",
            "Recipient",
            "Channel",
            "Destination",
            "Package",
            "Versions",
            "Tray",
            "Run",
            "Produced",
            "Reprinted in run",
            "Mailed",
            "Returned",
            "Held",
            "In doubt",
            "Barcodes",
            "Back to Ready",
            "History",
        }.Select(
            (h, i) =>
                new Column(
                    i + 1,
                    h,
                    h switch
                    {
                        "Run" => ColumnType.Number,
                        "Mailed" => ColumnType.Date,
                        _ => ColumnType.Text,
                    },
                    Role.None
                )
        ),
    ];

    static string TrayName(Tray tray) => tray == Tray.NeedsReview ? "Needs review" : tray.ToString();
}
