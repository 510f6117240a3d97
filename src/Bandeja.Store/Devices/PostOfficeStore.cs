using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Devices;

/// <summary>A message in the practice post office, as its list shows it.</summary>
public sealed record PostedRow
{
    public long Id { get; init; }
    public string At { get; init; } = "";
    public string Sender { get; init; } = "";
    public string Recipients { get; init; } = "";
    public string FromLine { get; init; } = "";
    public string Subject { get; init; } = "";
    public string MessageId { get; init; } = "";
    public long Size { get; init; }
    public long Files { get; init; }
}

/// <summary>Something that the practice post office is told to do.</summary>
public sealed record BehaviorRow
{
    public long Id { get; init; }

    /// <summary>refuse, later, slow, drop, drop after, report.</summary>
    public string Kind { get; init; } = "";

    /// <summary>An address, @ and a domain, or * for all.</summary>
    public string Address { get; init; } = "";

    /// <summary>How often it still does so; null for ever.</summary>
    public long? Times { get; init; }
    public string Words { get; init; } = "";
}

/// <summary>A message that arrives.</summary>
/// <param name="Returned">True where it came back to somebody who sends through the post office: it lies in their mailbox.</param>
public sealed record Posted(
    string Sender,
    string Recipients,
    string FromLine,
    string Subject,
    string MessageId,
    int Files,
    string Body,
    ReadOnlyMemory<byte> Raw,
    bool Returned = false
);

/// <summary>The practice post office's inbox, in a database of its own: it stands for a server elsewhere, which knows nothing of
/// ours.</summary>
public sealed class PostOfficeStore(Database database) : IDisposable
{
    /// <inheritdoc/>
    public void Dispose() => database.Dispose();

    const string Sql = "SELECT m.id, m.at, m.sender, m.recipients, m.from_line, m.subject, m.message_id, m.size, m.files FROM message m";

    /// <summary>Where its migrations are among the embedded ones.</summary>
    public const string Migrations = ".PostOffice.";

    /// <summary>Keeps a message; when this returns it is there for good.</summary>
    public long Add(Posted posted, DateTimeOffset at) =>
        database.Write(c =>
        {
            var id = c.QuerySingle<long>(
                "INSERT INTO message (at, sender, recipients, from_line, subject, message_id, size, files, returned) VALUES "
                    + "(@Stamp, @Sender, @Recipients, @FromLine, @Subject, @MessageId, @size, @Files, @Returned) RETURNING id",
                new
                {
                    Stamp = Actor.StampOf(at),
                    posted.Sender,
                    posted.Recipients,
                    posted.FromLine,
                    posted.Subject,
                    posted.MessageId,
                    size = posted.Raw.Length,
                    posted.Files,
                    posted.Returned,
                }
            );
            using var raw = c.CreateCommand();
            raw.CommandText = "INSERT INTO message_raw (id, raw) VALUES ($id, zeroblob($size))";
            raw.Parameters.AddWithValue("$id", id);
            raw.Parameters.AddWithValue("$size", posted.Raw.Length);
            raw.ExecuteNonQuery();
            using (var blob = new SqliteBlob(c, "message_raw", "raw", id))
                blob.Write(posted.Raw.Span);
            c.Execute(
                "INSERT INTO message_words (rowid, recipients, from_line, subject, body) VALUES (@id, @Recipients, @FromLine, "
                    + "@Subject, @Body)",
                new
                {
                    id,
                    posted.Recipients,
                    posted.FromLine,
                    posted.Subject,
                    posted.Body,
                }
            );
            return id;
        });

    /// <summary>Removes messages by their ids.</summary>
    public void RemoveMessages(IReadOnlyList<string> messageIds)
    {
        database.Write(c =>
        {
            foreach (
                var id in messageIds
                    .SelectMany(m => c.Query<long>("SELECT id FROM message WHERE message_id IN (@m, '<' || @m || '>')", new { m }))
                    .ToList()
            )
            {
                c.Execute("DELETE FROM message_words WHERE rowid = @id", new { id });
                c.Execute("DELETE FROM message_raw WHERE id = @id", new { id });
                c.Execute("DELETE FROM message WHERE id = @id", new { id });
            }
        });
        database.Checkpoint();
    }

    /// <summary>A part of the messages, the newest first, and how many there are. All words must be found, by their beginnings; a whole
    /// address is found as it is.</summary>
    public (IReadOnlyList<PostedRow> Rows, int Total) Page(string? search, int offset, int limit)
    {
        using var c = database.Open();
        // What stands together is found together: a whole address is that address, anything else may be a beginning.
        var words = (search ?? "")
            .Split([' ', '\t'], StringSplitOptions.RemoveEmptyEntries)
            .Select(w =>
                (
                    Whole: w.IndexOf('@') is > 0 and var at && w.IndexOf('.', at) > at,
                    Text: string.Join(
                        ' ',
                        w.Split(w.Where(c => !char.IsLetterOrDigit(c)).Distinct().ToArray(), StringSplitOptions.RemoveEmptyEntries)
                    )
                )
            )
            .Where(w => w.Text.Length > 0)
            .Select(w => $"\"{w.Text}\"{(w.Whole ? "" : "*")}")
            .ToArray();
        if (words.Length == 0)
            return (
                [.. c.Query<PostedRow>(Sql + " ORDER BY m.id DESC LIMIT @limit OFFSET @offset", new { limit, offset })],
                (int)c.QuerySingle<long>("SELECT count(*) FROM message")
            );
        var match = string.Join(' ', words);
        return (
            [
                .. c.Query<PostedRow>(
                    Sql
                        + " JOIN message_words w ON w.rowid = m.id WHERE w.message_words MATCH @match ORDER BY w.rowid DESC LIMIT "
                        + "@limit OFFSET @offset",
                    new
                    {
                        match,
                        limit,
                        offset,
                    }
                ),
            ],
            (int)c.QuerySingle<long>("SELECT count(*) FROM message_words WHERE message_words MATCH @match", new { match })
        );
    }

    /// <summary>A message with its bytes.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public (PostedRow Row, byte[] Raw) Get(long id)
    {
        using var c = database.Open();
        var row =
            c.QuerySingleOrDefault<PostedRow>(Sql + " WHERE m.id = @id", new { id })
            ?? throw new NotFoundException("This message no longer exists.");
        return (row, c.QuerySingle<byte[]>("SELECT raw FROM message_raw WHERE id = @id", new { id }));
    }

    /// <summary>What lies in the mailbox of who sends through the post office: number, size in bytes, and when it came, the oldest
    /// first.</summary>
    public IReadOnlyList<(long Id, long Size, string At)> Mailbox()
    {
        using var c = database.Open();
        return [.. c.Query<(long, long, string)>("SELECT id, size, at FROM message WHERE returned = 1 ORDER BY id")];
    }

    /// <summary>True where somebody sent through the post office from an address.</summary>
    public bool HasSender(string address)
    {
        using var c = database.Open();
        return c.QuerySingle<bool>("SELECT EXISTS (SELECT 1 FROM message WHERE sender = @address COLLATE NOCASE)", new { address });
    }

    /// <summary>Takes a message out, or all of them.</summary>
    public void Remove(long? id) =>
        database.Write(c =>
        {
            foreach (var table in (string[])["message_words", "message_raw", "message"])
                c.Execute(
                    $"DELETE FROM {table}{(id is null ? "" : $" WHERE {(table == "message_words" ? "rowid" : "id")} = @id")}",
                    new { id }
                );
        });

    /// <summary>What it is told to do.</summary>
    public IReadOnlyList<BehaviorRow> Behaviors()
    {
        using var c = database.Open();
        return [.. c.Query<BehaviorRow>("SELECT id, kind, address, times, words FROM behaviour ORDER BY id")];
    }

    /// <summary>Tells it to do something.</summary>
    public long Tell(string kind, string address, int? times, string words) =>
        database.Write(c =>
            c.QuerySingle<long>(
                "INSERT INTO behaviour (kind, address, times, words) VALUES (@kind, @address, @times, @words) RETURNING id",
                new
                {
                    kind,
                    address,
                    times,
                    words,
                }
            )
        );

    /// <summary>Tells it to do so no more.</summary>
    public void Untell(long id) => database.Write(c => c.Execute("DELETE FROM behaviour WHERE id = @id", new { id }));

    /// <summary>Takes what it is to do with an address at a point of a session, and counts it; null where it is to do nothing.</summary>
    public BehaviorRow? Take(string address, params string[] kinds)
    {
        var behavior = Behaviors().FirstOrDefault(b => kinds.Contains(b.Kind) && Fits(b.Address, address));
        if (behavior is null)
            return null;
        if (behavior.Times is null)
            return behavior;
        return database.Write(c =>
        {
            // Several connections ask at once: whoever counts it down does it.
            if (c.Execute("UPDATE behaviour SET times = times - 1 WHERE id = @Id AND times > 0", new { behavior.Id }) == 0)
                return null;
            c.Execute("DELETE FROM behaviour WHERE id = @Id AND times <= 0", new { behavior.Id });
            return behavior;
        });
    }

    static bool Fits(string pattern, string address) =>
        pattern == "*"
        || pattern.Equals(address, StringComparison.OrdinalIgnoreCase)
        || pattern.StartsWith('@') && address.EndsWith(pattern, StringComparison.OrdinalIgnoreCase);
}
