using Dapper;

namespace Bandeja.Store.Mail;

/// <summary>An account that email is sent with.</summary>
public sealed record MailAccountRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";

    /// <summary>practice: the practice post office; smtp: a server somewhere.</summary>
    public string Kind { get; init; } = "smtp";
    public string Host { get; init; } = "";
    public long Port { get; init; }

    /// <summary>none, starttls or tls.</summary>
    public string Tls { get; init; } = "starttls";
    public string? UserName { get; init; }

    /// <summary>The password, encrypted. Never sent to a browser.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string? Secret { get; init; }
    public bool HasPassword => Secret is not null;

    /// <summary>Messages in any minute; 0 for no limit.</summary>
    public long PerMinute { get; init; }

    /// <summary>Messages in any twenty-four hours; 0 for no limit.</summary>
    public long PerDay { get; init; }
    public long Connections { get; init; }

    /// <summary>Seconds until what was put off is tried again for the first time.</summary>
    public long FirstWait { get; init; }
}

/// <summary>The accounts that email is sent with.</summary>
public sealed class MailAccounts(Database database)
{
    const string Sql =
        "SELECT id, name, kind, host, port, tls, user_name, secret, per_minute, per_day, connections, first_wait FROM mail_account";

    /// <summary>All accounts: the practice post office first, then by name.</summary>
    public IReadOnlyList<MailAccountRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<MailAccountRow>(Sql + " ORDER BY kind, name COLLATE NAMES")];
    }

    /// <summary>One account.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public MailAccountRow Get(long id)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<MailAccountRow>(Sql + " WHERE id = @id", new { id })
            ?? throw new NotFoundException("This account no longer exists.");
    }

    // A password is for one user of one server: whoever may change where mail goes must not get it sent to a server of theirs, nor over a
    // line that is less safe than the one it was given for.
    const string SameServer =
        "user_name IS @UserName AND host = @Host COLLATE NOCASE AND port = @Port "
        + "AND (tls = @Tls OR tls = 'none' OR tls = 'starttls' AND @Tls = 'tls')";

    /// <summary>Adds an account, or changes one. The password stays where <see cref="MailAccountRow.Secret"/> is null, and user, server,
    /// and
    /// port are the same, and the encryption is no weaker; otherwise it is dropped.</summary>
    /// <exception cref="ConflictException">Another account has the name.</exception>
    public long Save(MailAccountRow account, Actor actor) =>
        database.Write(c =>
        {
            if (c.QuerySingle<bool>("SELECT EXISTS (SELECT 1 FROM mail_account WHERE name = @Name AND id <> @Id)", account))
                throw new ConflictException($"There is already an account named “{account.Name}”.");
            var values = new
            {
                account.Id,
                account.Name,
                account.Kind,
                account.Host,
                account.Port,
                account.Tls,
                account.UserName,
                account.Secret,
                account.PerMinute,
                account.PerDay,
                account.Connections,
                account.FirstWait,
                actor.Stamp,
                By = actor.Name,
            };
            if (account.Id == 0)
                return c.QuerySingle<long>(
                    "INSERT INTO mail_account (name, kind, host, port, tls, user_name, secret, per_minute, per_day, connections, "
                        + "first_wait, created_at, created_by) VALUES (@Name, @Kind, @Host, @Port, @Tls, @UserName, @Secret, "
                        + "@PerMinute, @PerDay, @Connections, @FirstWait, @Stamp, @By) RETURNING id",
                    values
                );
            c.Execute(
                $"""
                UPDATE mail_account SET name = @Name, secret = CASE WHEN @Secret IS NOT NULL THEN @Secret WHEN {SameServer} THEN secret END,
                    host = @Host, port = @Port, tls = @Tls, user_name = @UserName, per_minute = @PerMinute, per_day = @PerDay,
                    connections = @Connections, first_wait = @FirstWait
                WHERE id = @Id
                """,
                values
            );
            return account.Id;
        });

    /// <summary>Removes an account that no run has sent with.</summary>
    /// <exception cref="ConflictException">Runs speak of it, or it is the practice post office.</exception>
    public void Remove(long id) =>
        database.Write(c =>
        {
            if (c.QuerySingle<bool>("SELECT EXISTS (SELECT 1 FROM run WHERE account_id = @id)", new { id }))
                throw new ConflictException(
                    "This account cannot be removed because the ledger has runs " + "sent with it. You can edit it instead."
                );
            if (c.Execute("DELETE FROM mail_account WHERE id = @id AND kind <> 'practice'", new { id }) == 0)
                throw new ConflictException("The practice post office cannot be removed.");
        });

    /// <summary>When messages were handed over with an account since a moment: they count for its limits.</summary>
    public IReadOnlyList<string> TriedSince(long id, DateTimeOffset since)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<string>(
                "SELECT m.tried_at FROM run_mail m JOIN run u ON u.id = m.run_id WHERE u.account_id = @id AND m.tried_at > @Stamp",
                new { id, Stamp = Actor.StampOf(since) }
            ),
        ];
    }
}
