using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>A suppression list.</summary>
public sealed record SuppressionListRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public string CreatedAt { get; init; } = "";
    public string CreatedBy { get; init; } = "";
    public long Entries { get; init; }
}

/// <summary>Somebody who must not be mailed.</summary>
public sealed record SuppressionRow
{
    public long Id { get; init; }
    public string? Name { get; init; }
    public string? Street { get; init; }
    public string? City { get; init; }
    public string? PostalCode { get; init; }
    public string? Email { get; init; }
    public string? Key { get; init; }
    public string Reason { get; init; } = "";

    /// <summary>all, or email where letters may still go out.</summary>
    public string Channel { get; init; } = "all";
    public DateOnly? Until { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>An entry to add.</summary>
/// <param name="Channel">all, or email where letters may still go out.</param>
public sealed record NewSuppression(
    string? Name = null,
    string? Street = null,
    string? City = null,
    string? PostalCode = null,
    string? Email = null,
    string? Key = null,
    string? Reason = null,
    DateOnly? Until = null,
    string Channel = "all"
);

/// <summary>The people who must not be mailed, kept apart from lists.</summary>
public sealed class SuppressionStore(Database database)
{
    /// <summary>All suppression lists.</summary>
    public IReadOnlyList<SuppressionListRow> All()
    {
        using var c = database.Open();
        return
        [
            .. c.Query<SuppressionListRow>(
                "SELECT l.id, l.name, l.created_at, l.created_by, (SELECT count(*) FROM suppression s WHERE s.list_id = l.id AND "
                    + "s.removed_at IS NULL) AS entries FROM suppression_list l ORDER BY l.name COLLATE NAMES"
            ),
        ];
    }

    /// <summary>Begins a suppression list.</summary>
    public long Create(string name, Actor actor) => database.Write(c => Create(c, name, actor));

    /// <summary>Begins a suppression list within the caller's transaction.</summary>
    public static long Create(SqliteConnection c, string name, Actor actor) =>
        c.QuerySingle<long>(
            "INSERT INTO suppression_list (name, created_at, created_by) VALUES (@name, @Stamp, @Name) RETURNING id",
            new
            {
                name,
                actor.Stamp,
                actor.Name,
            }
        );

    /// <summary>A part of a list's entries, the newest first, and how many there are.</summary>
    public (IReadOnlyList<SuppressionRow> Rows, int Total) Entries(long listId, string? search, int offset, int limit)
    {
        using var c = database.Open();
        Known(c, listId);
        var like = string.IsNullOrWhiteSpace(search) ? null : $"%{search.Trim().Replace("%", "").Replace("_", "")}%";
        const string where =
            " FROM suppression WHERE list_id = @listId AND removed_at IS NULL AND (@like IS NULL OR name LIKE @like OR email LIKE "
            + "@like OR key LIKE @like OR street LIKE @like OR reason LIKE @like)";
        return (
            [
                .. c.Query<SuppressionRow>(
                    "SELECT id, name, street, city, postal_code, email, key, reason, channel, until, at, by"
                        + where
                        + " ORDER BY id DESC LIMIT @limit OFFSET @offset",
                    new
                    {
                        listId,
                        like,
                        limit,
                        offset,
                    }
                ),
            ],
            (int)c.QuerySingle<long>("SELECT count(*)" + where, new { listId, like })
        );
    }

    static void Known(SqliteConnection c, long listId)
    {
        if (c.QuerySingleOrDefault<long?>("SELECT id FROM suppression_list WHERE id = @listId", new { listId }) is null)
            throw new NotFoundException("This suppression list no longer exists.");
    }

    /// <summary>Adds entries. One that nobody could be matched by is refused.</summary>
    /// <returns>How many were added, and how many could not be.</returns>
    public (int Added, int Unusable) Add(long listId, IEnumerable<NewSuppression> entries, Actor actor) =>
        database.Write(c => Add(c, listId, entries, actor));

    /// <summary>Adds entries within the caller's transaction.</summary>
    public static (int Added, int Unusable) Add(SqliteConnection c, long listId, IEnumerable<NewSuppression> entries, Actor actor)
    {
        Known(c, listId);
        var (added, unusable) = (0, 0);
        foreach (var e in entries)
        {
            var match = Match(e.Key, e.Email, e.Name, e.Street, e.PostalCode, e.City);
            if (match is { Key: "", Email: "", NameAndAddress: "" })
            {
                unusable++;
                continue;
            }
            c.Execute(
                """
                INSERT INTO suppression (list_id, name, street, city, postal_code, email, key, reason, channel, until, at, by, match_key,
                    match_email, match_person)
                VALUES (@listId, @Name, @Street, @City, @PostalCode, @Email, @Key, @reason, @Channel, @Until, @Stamp, @by, @mk, @me, @mp)
                """,
                new
                {
                    listId,
                    e.Name,
                    e.Street,
                    e.City,
                    e.PostalCode,
                    e.Email,
                    e.Key,
                    reason = string.IsNullOrWhiteSpace(e.Reason) ? "no reason given" : e.Reason.Trim(),
                    e.Channel,
                    e.Until,
                    actor.Stamp,
                    by = actor.Name,
                    mk = match.Key,
                    me = match.Email,
                    mp = match.NameAndAddress,
                }
            );
            added++;
        }
        return (added, unusable);
    }

    static readonly MatchKeys Keys = new(
        [
            new(1, "Key", ColumnType.Text, Role.Key),
            new(2, "Email", ColumnType.Text, Role.Email),
            new(3, "Name", ColumnType.Text, Role.FullName),
            new(4, "Street", ColumnType.Text, Role.Street),
            new(5, "Code", ColumnType.Text, Role.PostalCode),
            new(6, "City", ColumnType.Text, Role.City),
        ]
    );

    static MatchRow Match(string? key, string? email, string? name, string? street, string? postal, string? city) =>
        Keys.Of(0, [key, email, name, street, postal, city]);

    /// <summary>Takes an entry off.</summary>
    public void Remove(long entryId, Actor actor) =>
        database.Write(c =>
        {
            if (
                c.Execute(
                    "UPDATE suppression SET removed_at = @Stamp, removed_by = @Name WHERE id = @entryId AND removed_at IS NULL",
                    new
                    {
                        actor.Stamp,
                        actor.Name,
                        entryId,
                    }
                ) == 0
            )
                throw new NotFoundException("This entry no longer exists.");
        });

    /// <summary>Puts an entry back.</summary>
    public void Restore(long entryId) =>
        database.Write(c => c.Execute("UPDATE suppression SET removed_at = NULL, removed_by = NULL WHERE id = @entryId", new { entryId }));

    /// <summary>A mark that changes with who is suppressed today.</summary>
    public static string Mark(SqliteConnection c, DateOnly today) =>
        c.QuerySingle<string>(
            "SELECT count(*) || '/' || coalesce(max(id), 0) || '/' || coalesce(sum(id), 0) FROM suppression WHERE removed_at IS "
                + "NULL AND (until IS NULL OR until >= @today)",
            new { today }
        );
}

/// <summary>Finds whether a recipient is suppressed today: by key, by email, or by name and address.</summary>
public sealed class SuppressionMatcher
{
    readonly Dictionary<string, (string ListName, string Reason)> byKey = [],
        byEmail = [],
        byPerson = [];

    // Of emails alone: who it is beside the address, because two can share one and only one of them opt out.
    readonly Dictionary<string, List<(string Key, string Name, (string, string) Why)>> noEmail = [];

    /// <summary>Reads all entries that hold today.</summary>
    public SuppressionMatcher(SqliteConnection c, DateOnly today)
    {
        var days = SettingStore.Days(c);
        foreach (
            var (list, reason, until, key, email, person, name, channel) in c.Query<(
                string,
                string,
                DateOnly?,
                string,
                string,
                string,
                string?,
                string
            )>(
                "SELECT l.name, s.reason, s.until, s.match_key, s.match_email, s.match_person, s.name, s.channel FROM suppression s "
                    + "JOIN suppression_list l ON l.id = s.list_id WHERE s.removed_at IS NULL AND (s.until IS NULL OR s.until >= "
                    + "@today) ORDER BY s.id",
                new { today }
            )
        )
        {
            var why = (list, until is null ? reason : $"{reason} (until {days.Of(until.Value)})");
            if (channel == "email")
            {
                var of = email.Length > 0 ? email : key;
                if (!noEmail.TryGetValue(of, out var entries))
                    noEmail[of] = entries = [];
                entries.Add((key, MatchKeys.NameOf(name), why));
                continue;
            }
            if (key.Length > 0)
                byKey.TryAdd(key, why);
            if (email.Length > 0)
                byEmail.TryAdd(email, why);
            if (person.Length > 0)
                byPerson.TryAdd(person, why);
        }
    }

    /// <summary>The list and the reason, or null.</summary>
    public (string ListName, string Reason)? Find(MatchRow row) =>
        row.Key.Length > 0 && byKey.TryGetValue(row.Key, out var why)
        || row.Email.Length > 0 && byEmail.TryGetValue(row.Email, out why)
        || row.NameAndAddress.Length > 0 && byPerson.TryGetValue(row.NameAndAddress, out why)
            ? why
            : null;

    /// <summary>The list and the reason where a recipient gets no email, though letters may go out; null else.</summary>
    public (string ListName, string Reason)? FindEmail(MatchRow row)
    {
        foreach (var at in (string[])[row.Email, row.Key])
            if (at.Length > 0 && noEmail.TryGetValue(at, out var entries))
                foreach (var (key, name, why) in entries)
                    if (
                        key.Length > 0 && row.Key.Length > 0 ? key == row.Key : name.Length == 0 || row.Name.Length == 0 || name == row.Name
                    )
                        return why;
        return null;
    }
}
