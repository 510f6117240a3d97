using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>
/// Fills a new list in batches, each in a transaction of its own, so that other writers get their turn. Until
/// <see cref="Finish"/> the list is in state <c>loading</c> and nobody sees it; what a crash leaves is removed at the next start.
/// </summary>
public sealed class RowWriter
{
    /// <summary>What is written at once: others wait for it, so wide rows and long texts make smaller batches.</summary>
    const int BatchRows = 5000,
        BatchCells = 50_000,
        BatchCharacters = 2_000_000;

    /// <summary>How many rows are removed at once.</summary>
    const int RemovedRows = 5000;

    readonly Database database;
    readonly Actor actor;
    readonly List<Column> columns;
    readonly List<string?[]> batch = [];
    readonly StringBuilder find = new();
    long rows;
    int batchCells,
        batchCharacters;

    /// <summary>Begins a list.</summary>
    public RowWriter(Database database, string name, string? sourceName, string? uploadId, IReadOnlyList<Column> columns, Actor actor)
    {
        (this.database, this.actor, this.columns) = (database, actor, [.. columns]);
        ListId = database.Write(c =>
        {
            var id = c.QuerySingle<long>(
                "INSERT INTO list (name, state, source_name, upload_id, created_at, created_by) VALUES (@name, 'loading', "
                    + "@sourceName, @uploadId, @Stamp, @Name) RETURNING id",
                new
                {
                    name,
                    sourceName,
                    uploadId,
                    actor.Stamp,
                    actor.Name,
                }
            );
            RowTable.Create(c, id, columns);
            return id;
        });
    }

    /// <summary>The new list.</summary>
    public long ListId { get; }

    /// <summary>Rows taken so far.</summary>
    public long Rows => rows;

    /// <summary>The columns, those added on the way included.</summary>
    public IReadOnlyList<Column> Columns => columns;

    /// <summary>Adds a column on the way, for rows that are longer than the headings.</summary>
    public void Widen(Column column)
    {
        Flush();
        database.Write(c => RowTable.Widen(c, ListId, column, columns.Count));
        columns.Add(column);
    }

    /// <summary>Takes a row; cells beyond its length are blank.</summary>
    public void Add(string?[] cells)
    {
        batch.Add(cells);
        rows++;
        batchCells += cells.Length;
        foreach (var cell in cells)
            batchCharacters += cell?.Length ?? 0;
        if (batch.Count >= BatchRows || batchCells >= BatchCells || batchCharacters >= BatchCharacters)
            Flush();
    }

    void Flush()
    {
        if (batch.Count == 0)
            return;
        database.Write(connection =>
        {
            var id = connection.QuerySingle<long>(
                "UPDATE sequence SET next = next + @count WHERE name = 'recipient' RETURNING next - @count",
                new { count = batch.Count }
            );
            using var insert = connection.CreateCommand();
            insert.CommandText =
                $"INSERT INTO {RowTable.Name(ListId)} (id, n, find{string.Concat(columns.Select(x => ", " + RowTable.Cell(x.Id)))}) "
                + $"VALUES ($id, $n, $find{string.Concat(columns.Select((_, i) => $", $v{i}"))})";
            var idParameter = insert.Parameters.Add("$id", SqliteType.Integer);
            var n = insert.Parameters.Add("$n", SqliteType.Integer);
            var findParameter = insert.Parameters.Add("$find", SqliteType.Text);
            var values = columns.Select((_, i) => insert.Parameters.Add($"$v{i}", SqliteType.Text)).ToArray();
            insert.Prepare();
            var first = rows - batch.Count + 1;
            for (var r = 0; r < batch.Count; r++)
            {
                var cells = batch[r];
                find.Clear();
                for (var i = 0; i < values.Length; i++)
                {
                    var value = i < cells.Length ? cells[i] : null;
                    values[i].Value = (object?)value ?? DBNull.Value;
                    if (value is null)
                        continue;
                    if (find.Length > 0)
                        find.Append('\u001f');
                    FoldedText.Append(find, value);
                }
                idParameter.Value = id + r;
                n.Value = first + r;
                findParameter.Value = find.ToString();
                insert.ExecuteNonQuery();
            }
        });
        batch.Clear();
        (batchCells, batchCharacters) = (0, 0);
    }

    /// <summary>Makes the list visible, as its first version.</summary>
    /// <param name="report">What was found on the way.</param>
    /// <param name="orderJson">How the file was read, for loading a newer one.</param>
    public void Finish(IReadOnlyList<string> report, string? orderJson)
    {
        Flush();
        database.Write(c =>
            c.Execute(
                """
                UPDATE list SET state = 'ready', row_count = @rows, report_json = @report WHERE id = @ListId;
                INSERT INTO list_version (list_id, number, mark, at, by, source_name, order_json, recipients, added, report_json)
                SELECT id, 1, 0, created_at, created_by, source_name, @orderJson, @rows, @rows, @report FROM list WHERE id = @ListId
                """,
                new
                {
                    rows,
                    report = System.Text.Json.JsonSerializer.Serialize(report),
                    ListId,
                    orderJson,
                }
            )
        );
    }

    /// <summary>Removes what was written, some rows at a time: what is removed is overwritten, and others get their turn in
    /// between.</summary>
    public void Abandon()
    {
        while (
            database.Write(c =>
                c.Execute($"DELETE FROM {RowTable.Name(ListId)} WHERE id IN (SELECT id FROM {RowTable.Name(ListId)} LIMIT {RemovedRows})")
            ) > 0
        ) { }
        database.Write(c => Remove(c, ListId));
    }

    /// <summary>Removes lists that were being filled when the process ended.</summary>
    public static int RemoveUnfinished(Database database) =>
        database.Write(c =>
        {
            var ids = c.Query<long>("SELECT id FROM list WHERE state = 'loading'").ToList();
            foreach (var id in ids)
                Remove(c, id);
            return ids.Count;
        });

    static void Remove(SqliteConnection c, long id)
    {
        RowTable.Remove(c, id);
        c.Execute("DELETE FROM list WHERE id = @id", new { id });
    }
}
