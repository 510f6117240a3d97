using Dapper;

namespace Bandeja.Store.Mail;

/// <summary>The mailbox in which an account's bounces arrive, and how far it has been read.</summary>
public sealed record BounceMailboxRow
{
    public long AccountId { get; init; }
    public string Host { get; init; } = "";
    public long Port { get; init; }

    /// <summary>starttls or tls; none for the practice post office.</summary>
    public string Tls { get; init; } = "tls";
    public string UserName { get; init; } = "";

    /// <summary>The password, encrypted. Never sent to a browser.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string? Secret { get; init; }
    public bool HasPassword => Secret is not null;
    public string Folder { get; init; } = "INBOX";
    public long EveryMinutes { get; init; } = 10;

    /// <summary>Where bounces are sent to; null for the sender of the message.</summary>
    public string? ReturnAddress { get; init; }

    /// <summary>True where each message gets a return address of its own.</summary>
    public bool OwnAddress { get; init; }

    [System.Text.Json.Serialization.JsonIgnore]
    public long UidValidity { get; init; }

    [System.Text.Json.Serialization.JsonIgnore]
    public long LastUid { get; init; }

    /// <summary>When it was read last; null where it never was.</summary>
    public string? ReadAt { get; init; }

    /// <summary>What went wrong the last time; null where nothing did.</summary>
    public string? Problem { get; init; }

    /// <summary>How many messages were looked at so far.</summary>
    public long Messages { get; init; }

    /// <summary>How many new reports were taken from them.</summary>
    public long Reports { get; init; }
}

/// <summary>The mailboxes in which bounces arrive, one for an account.</summary>
public sealed class BounceMailboxes(Database database)
{
    const string Sql =
        "SELECT account_id, host, port, tls, user_name, secret, folder, every_minutes, return_address, own_address, uid_validity, "
        + "last_uid, read_at, problem, messages, reports FROM bounce_mailbox";

    /// <summary>All of them.</summary>
    public IReadOnlyList<BounceMailboxRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<BounceMailboxRow>(Sql + " ORDER BY account_id")];
    }

    /// <summary>An account's; null where it has none.</summary>
    public BounceMailboxRow? Of(long accountId)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<BounceMailboxRow>(Sql + " WHERE account_id = @accountId", new { accountId });
    }

    /// <summary>
    /// Sets an account's mailbox. The password stays where <see cref="BounceMailboxRow.Secret"/> is null and server and user are the same;
    /// another mailbox is read from its beginning.
    /// </summary>
    public void Save(BounceMailboxRow mailbox) =>
        database.Write(c =>
        {
            const string same = "host = excluded.host AND port = excluded.port AND tls = excluded.tls AND user_name = excluded.user_name";
            const string sameFolder = same + " AND folder = excluded.folder";
            c.Execute(
                $"""
                INSERT INTO bounce_mailbox (account_id, host, port, tls, user_name, secret, folder, every_minutes, return_address,
                    own_address)
                VALUES (@AccountId, @Host, @Port, @Tls, @UserName, @Secret, @Folder, @EveryMinutes, @ReturnAddress, @OwnAddress)
                ON CONFLICT (account_id) DO UPDATE SET
                    secret = CASE WHEN excluded.secret IS NOT NULL THEN excluded.secret WHEN {same} THEN secret END,
                    uid_validity = CASE WHEN {sameFolder} THEN uid_validity ELSE 0 END,
                    last_uid = CASE WHEN {sameFolder} THEN last_uid ELSE 0 END,
                    host = excluded.host, port = excluded.port, tls = excluded.tls, user_name = excluded.user_name,
                        folder = excluded.folder,
                    every_minutes = excluded.every_minutes, return_address = excluded.return_address, own_address = excluded.own_address,
                    problem = NULL
                """,
                mailbox
            );
        });

    /// <summary>An account has no such mailbox any more; what was read stays.</summary>
    public void Remove(long accountId) =>
        database.Write(c => c.Execute("DELETE FROM bounce_mailbox WHERE account_id = @accountId", new { accountId }));

    /// <summary>Keeps how far a mailbox has been read, as long as it is still the same.</summary>
    public void Advance(BounceMailboxRow mailbox, long uidValidity, long lastUid, int messages, int reports) =>
        database.Write(c =>
            c.Execute(
                """
                UPDATE bounce_mailbox SET uid_validity = @uidValidity, last_uid = @lastUid, messages = messages + @messages,
                    reports = reports + @reports
                WHERE account_id = @AccountId AND host = @Host AND port = @Port AND user_name = @UserName AND folder = @Folder
                """,
                new
                {
                    mailbox.AccountId,
                    mailbox.Host,
                    mailbox.Port,
                    mailbox.UserName,
                    mailbox.Folder,
                    uidValidity,
                    lastUid,
                    messages,
                    reports,
                }
            )
        );

    /// <summary>Keeps that a mailbox was read, or why it could not be.</summary>
    public void Done(long accountId, string? problem, DateTimeOffset at) =>
        database.Write(c =>
            c.Execute(
                "UPDATE bounce_mailbox SET read_at = @Stamp, problem = @problem WHERE account_id = @accountId",
                new
                {
                    accountId,
                    problem,
                    Stamp = Actor.StampOf(at),
                }
            )
        );
}
