using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Mail;

/// <summary>Puts people on a suppression list who want no more email, or whose address is gone; they are held at once wherever they
/// wait.</summary>
public sealed class Unsubscribing(Database database, Surroundings surroundings, ListEditor editor, Announcements announcements)
{
    /// <summary>The list of who asked for no more.</summary>
    public const string Unsubscribed = "Unsubscribed";

    /// <summary>The list of addresses that are gone.</summary>
    public const string Undeliverable = "Returned email";

    /// <summary>Puts a recipient of a run on a list, unless their address is there already.</summary>
    /// <returns>False where nothing changed.</returns>
    public bool Suppress(string listName, long runId, long recipientId, string reason, Actor actor)
    {
        var drops = database.Write(c => Suppress(c, listName, runId, recipientId, reason, actor));
        foreach (var drop in drops)
            announcements.Changed(Matter.Drop, drop);
        return drops.Count > 0;
    }

    /// <summary>Settles proposals to suppress, all of them or none.</summary>
    public void Settle(long dropId, IReadOnlyList<MailReportRow> reports, bool suppress, Actor actor)
    {
        var drops = database.Write(c =>
        {
            var touched = new HashSet<long> { dropId };
            if (suppress)
                foreach (var r in reports)
                    touched.UnionWith(
                        Suppress(
                            c,
                            r.Action == "complained" ? Unsubscribed : Undeliverable,
                            r.RunId!.Value,
                            r.RecipientId!.Value,
                            r.Action == "complained" ? r.Words : $"Email returned: {r.Words}",
                            actor
                        )
                    );
            MailReports.Settle(c, [.. reports.Select(r => r.Id)], suppress ? "suppressed" : "left");
            return touched;
        });
        foreach (var drop in drops)
            announcements.Changed(Matter.Drop, drop);
    }

    /// <summary>Suppresses within the caller's transaction; answers the drops that it touches, none where nothing changed.</summary>
    IReadOnlyCollection<long> Suppress(SqliteConnection c, string listName, long runId, long recipientId, string reason, Actor actor)
    {
        var owner = c.QuerySingle<MailOwner>(
            "SELECT u.drop_id, d.list_id, m.address FROM run_mail m JOIN run u ON u.id = m.run_id JOIN mail_drop d ON d.id = "
                + "u.drop_id WHERE m.run_id = @runId AND m.recipient_id = @recipientId",
            new { runId, recipientId }
        );
        var columns = RowTable.Columns(c, owner.ListId);
        var values = ListStore.Recipient(c, owner.ListId, columns, recipientId).Values;
        string? By(Role role) => columns.ToList().FindIndex(x => x.Role == role) is >= 0 and var at ? values[at] : null;
        var address = owner.Address is { Length: > 0 } sent ? sent : By(Role.Email);
        // An address that is gone is gone for all who have it; whoever opts out speaks for themselves, though another may share the
        // mailbox.
        NewSuppression entry =
            listName == Undeliverable
                ? new(Email: address, Reason: reason, Channel: "email")
                : new(RecipientLabel.Of(columns, i => values[i]).Name, Email: address, Key: By(Role.Key), Reason: reason, Channel: "email");
        if (
            c.QuerySingle<bool>(
                "SELECT EXISTS (SELECT 1 FROM suppression s JOIN suppression_list l ON l.id = s.list_id WHERE l.name = @listName "
                    + "AND s.removed_at IS NULL AND s.match_email = @address AND s.name IS @Name AND s.key IS @Key)",
                new
                {
                    listName,
                    address = (address ?? "").Trim().ToLowerInvariant(),
                    entry.Name,
                    entry.Key,
                }
            )
        )
            return [];
        var list =
            c.QuerySingleOrDefault<long?>("SELECT id FROM suppression_list WHERE name = @listName", new { listName })
            ?? SuppressionStore.Create(c, listName, actor);
        SuppressionStore.Add(c, list, [entry], actor);
        // Held now, not at the next check: a run that is on leaves them out.
        var drops = c.Query<long>(
                "SELECT d.id FROM mail_drop d JOIN drop_recipient r ON r.drop_id = d.id WHERE r.recipient_id = @recipientId AND "
                    + "d.list_id = @ListId AND r.tray NOT IN ('Mailed', 'Returned')",
                new { recipientId, owner.ListId }
            )
            .ToHashSet();
        foreach (var drop in drops)
        {
            AutoHolds.Sweep(c, drop, [recipientId], surroundings.Now, actor);
            // Who would have had both gets the letter alone.
            editor.Recheck(c, drop, [recipientId], actor, null);
        }
        drops.Add(owner.DropId);
        return drops;
    }
}
