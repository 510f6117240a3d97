using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>A set of detail rows of a list.</summary>
public sealed record DetailSetRow
{
    public long Id { get; init; }
    public long ListId { get; init; }
    public string Name { get; init; } = "";
    public string KeyColumn { get; init; } = "";
    public string SourceName { get; init; } = "";
    public long RowCount { get; init; }
    public long Unmatched { get; init; }
    public long Without { get; init; }
    public string ReportJson { get; init; } = "[]";
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>Rows of a second table that belong to recipients. Each set has a table of its own, <c>details_SET(n, recipient_id, key, c1
/// …)</c>.</summary>
public sealed class DetailStore(Database database)
{
    /// <summary>The table of a set.</summary>
    public static string Table(long detailId) => $"details_{detailId}";

    /// <summary>The sets of a list with their columns.</summary>
    public static IReadOnlyList<DetailSet> Sets(SqliteConnection c, long listId)
    {
        var sets = c.Query<(long Id, string Name)>(
                "SELECT id, name FROM detail_set WHERE list_id = @listId AND state = 'ready' ORDER BY id",
                new { listId }
            )
            .ToList();
        return
        [
            .. sets.Select(s => new DetailSet(
                s.Id,
                s.Name,
                [
                    .. c.Query<(long Id, string Name, string Type, string? Format)>(
                            "SELECT id, name, type, format FROM detail_column WHERE detail_id = @Id ORDER BY id",
                            new { s.Id }
                        )
                        .Select(x => new Column((int)x.Id, x.Name, Enum.Parse<ColumnType>(x.Type), Role.None, Format: x.Format)),
                ]
            )),
        ];
    }

    /// <summary>The sets of a list with their counts.</summary>
    public IReadOnlyList<(DetailSetRow Row, DetailSet Set)> OfList(long listId)
    {
        using var c = database.Open();
        var sets = Sets(c, listId).ToDictionary(s => s.Id);
        return
        [
            .. c.Query<DetailSetRow>(
                    "SELECT id, list_id, name, key_column, source_name, row_count, report_json, at, by FROM detail_set WHERE "
                        + "list_id = @listId AND state = 'ready' ORDER BY id",
                    new { listId }
                )
                .Select(r =>
                    (
                        r with
                        {
                            Unmatched = c.QuerySingle<long>($"SELECT count(*) FROM {Table(r.Id)} WHERE recipient_id IS NULL"),
                            Without = c.QuerySingle<long>(
                                $"SELECT count(*) FROM {RowTable.Name(listId)} r WHERE r.gone IS NULL AND NOT EXISTS (SELECT 1 FROM "
                                    + $"{Table(r.Id)} d WHERE d.recipient_id = r.id)"
                            ),
                        },
                        sets[r.Id]
                    )
                ),
        ];
    }

    /// <summary>Some rows of a set: of a recipient, or those that belong to nobody.</summary>
    public IReadOnlyList<string?[]> Rows(long detailId, long? recipientId, int limit)
    {
        using var c = database.Open();
        var listId =
            c.QuerySingleOrDefault<long?>("SELECT list_id FROM detail_set WHERE id = @detailId AND state = 'ready'", new { detailId })
            ?? throw new NotFoundException("These detail rows no longer exist.");
        var set = Sets(c, listId).First(s => s.Id == detailId);
        using var command = c.CreateCommand();
        command.CommandText =
            $"SELECT {string.Join(", ", set.Columns.Select(x => RowTable.Cell(x.Id)))} FROM {Table(detailId)} WHERE recipient_id IS "
            + $"$id ORDER BY n LIMIT {limit}";
        command.Parameters.AddWithValue("$id", (object?)recipientId ?? DBNull.Value);
        var rows = new List<string?[]>();
        using var reader = command.ExecuteReader();
        while (reader.Read())
            rows.Add(RowTable.Cells(reader, 0, set.Columns.Count));
        return rows;
    }

    /// <summary>Removes a set; answers the list that it was of.</summary>
    public long Remove(long detailId) =>
        database.Write(c =>
        {
            var listId =
                c.QuerySingleOrDefault<long?>("SELECT list_id FROM detail_set WHERE id = @detailId", new { detailId })
                ?? throw new NotFoundException("These detail rows no longer exist.");
            var name = c.QuerySingle<string>("SELECT name FROM detail_set WHERE id = @detailId", new { detailId });
            var position = Sets(c, listId).ToList().FindIndex(s => s.Id == detailId);
            var columns = RowTable.Columns(c, listId);
            var names = new Core.Language.Names(columns, Sets(c, listId));
            var reader = columns.FirstOrDefault(x =>
                x.Kind == ColumnKind.Computed
                && Core.Language.FieldParser.ParseExpression(x.Expression!, names).Expression.DetailSets().Contains(position)
            );
            if (reader is not null)
                throw new ConflictException($"{reader.Name} is computed from {name}. Change or remove that column first.");
            Drop(c, detailId);
            return listId;
        });

    internal static void Drop(SqliteConnection c, long detailId)
    {
        c.Execute($"DROP TABLE IF EXISTS {Table(detailId)}");
        c.Execute("DELETE FROM detail_set WHERE id = @detailId", new { detailId });
    }

    /// <summary>Removes sets that were being filled when the process ended.</summary>
    public static void RemoveUnfinished(Database database) =>
        database.Write(c =>
        {
            foreach (var id in c.Query<long>("SELECT id FROM detail_set WHERE state = 'loading'").ToList())
                Drop(c, id);
        });

    /// <summary>Fills a set, batch by batch; nobody sees it before it is whole. A set of the same name is replaced.</summary>
    /// <param name="key">Position of the column that names the recipient.</param>
    public long BringIn(
        long listId,
        string name,
        string sourceName,
        IReadOnlyList<Column> columns,
        int key,
        IEnumerable<string?[]> rows,
        Func<IReadOnlyList<string>> report,
        Actor actor
    )
    {
        Dictionary<string, long> recipients;
        using (var c = database.Open())
            recipients = Keys(c, listId);
        var detailId = database.Write(c =>
        {
            ListStore.Get(c, listId);
            var id = c.QuerySingle<long>(
                "INSERT INTO detail_set (list_id, name, key_column, state, source_name, at, by) VALUES (@listId, @name, @keyName, "
                    + "'loading', @sourceName, @Stamp, @Name) RETURNING id",
                new
                {
                    listId,
                    name,
                    keyName = columns[key].Name,
                    sourceName,
                    actor.Stamp,
                    actor.Name,
                }
            );
            c.Execute(
                "INSERT INTO detail_column (detail_id, id, name, type, format) VALUES (@id, @ColumnId, @Name, @Type, @Format)",
                columns.Select(x => new
                {
                    id,
                    ColumnId = x.Id,
                    x.Name,
                    Type = x.Type.ToString(),
                    x.Format,
                })
            );
            c.Execute(
                $"CREATE TABLE {Table(id)} (n INTEGER PRIMARY KEY, recipient_id INTEGER, key TEXT NOT "
                    + $"NULL{string.Concat(columns.Select(x => $", {RowTable.Cell(x.Id)} TEXT"))})"
            );
            return id;
        });
        try
        {
            var n = 0L;
            foreach (var batch in rows.Chunk(5000))
                database.Write(c =>
                {
                    using var insert = c.CreateCommand();
                    insert.CommandText =
                        $"INSERT INTO {Table(detailId)} VALUES ($n, $recipient, $key{string.Concat(columns.Select((_, i) => $", $v{i}"))})";
                    foreach (var p in (string[])["$n", "$recipient", "$key", .. columns.Select((_, i) => $"$v{i}")])
                        insert.Parameters.AddWithValue(p, DBNull.Value);
                    foreach (var row in batch)
                    {
                        var value = Plain(key < row.Length ? row[key] : null);
                        (insert.Parameters[0].Value, insert.Parameters[1].Value, insert.Parameters[2].Value) = (
                            ++n,
                            recipients.TryGetValue(value, out var id) ? id : DBNull.Value,
                            value
                        );
                        for (var i = 0; i < columns.Count; i++)
                            insert.Parameters[3 + i].Value = i < row.Length && row[i] is { } v ? v : DBNull.Value;
                        insert.ExecuteNonQuery();
                    }
                });
            database.Write(c =>
            {
                foreach (
                    var old in c.Query<long>(
                            "SELECT id FROM detail_set WHERE list_id = @listId AND name = @name AND id <> @detailId",
                            new
                            {
                                listId,
                                name,
                                detailId,
                            }
                        )
                        .ToList()
                )
                    Drop(c, old);
                c.Execute(
                    $"CREATE INDEX {Table(detailId)}_recipient ON {Table(detailId)}(recipient_id); CREATE INDEX "
                        + $"{Table(detailId)}_key ON {Table(detailId)}(key)"
                );
                c.Execute(
                    "UPDATE detail_set SET state = 'ready', row_count = @n, report_json = @report WHERE id = @detailId",
                    new
                    {
                        n,
                        report = JsonSerializer.Serialize(report()),
                        detailId,
                    }
                );
            });
            return detailId;
        }
        catch
        {
            database.Write(c => Drop(c, detailId));
            throw;
        }
    }

    static string Plain(string? key) => key is null ? "" : FoldedText.Of(key.Trim());

    static Dictionary<string, long> Keys(SqliteConnection c, long listId)
    {
        var key =
            RowTable.Columns(c, listId).FirstOrDefault(x => x.Role == Role.Key) ?? throw new ConflictException(
                "The list has no key column to match rows to recipients. Give a column the role “key” first."
            );
        var keys = new Dictionary<string, long>();
        foreach (
            var (id, value) in c.Query<(long, string)>(
                $"SELECT id, {RowTable.Cell(key.Id)} FROM {RowTable.Name(listId)} WHERE gone IS NULL AND {RowTable.Cell(key.Id)} IS "
                    + "NOT NULL ORDER BY n"
            )
        )
            keys.TryAdd(Plain(value), id);
        return keys;
    }

    /// <summary>Ties all detail rows of a list to its recipients anew, after keys have changed.</summary>
    internal static void Retie(SqliteConnection c, long listId)
    {
        var sets = Sets(c, listId);
        if (sets.Count == 0 || RowTable.Columns(c, listId).All(x => x.Role != Role.Key))
            return;
        var keys = Keys(c, listId);
        foreach (var set in sets)
        {
            // Only what belongs to another now is written: one edited key moves the rows of two recipients, not those of all.
            foreach (var (key, tied) in c.Query<(string, long?)>($"SELECT DISTINCT key, recipient_id FROM {Table(set.Id)}").ToList())
            {
                long? belongs = keys.TryGetValue(key, out var id) ? id : null;
                if (belongs != tied)
                    c.Execute(
                        $"UPDATE {Table(set.Id)} SET recipient_id = @belongs WHERE key = @key AND recipient_id IS NOT @belongs",
                        new { belongs, key }
                    );
            }
        }
    }
}
