using Bandeja.Core.Texts;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>Reads and writes rows of a list one after another, with prepared statements.</summary>
sealed class RowUpdater : IDisposable
{
    readonly SqliteConnection connection;
    readonly ListShape shape;
    readonly SqliteCommand read;
    readonly Dictionary<string, SqliteCommand> updates = [];

    public RowUpdater(SqliteConnection connection, ListShape shape)
    {
        (this.connection, this.shape) = (connection, shape);
        read = connection.CreateCommand();
        read.CommandText = $"SELECT r.gone, {RowTable.CellList(shape.Columns)} FROM {RowTable.Name(shape.ListId)} r WHERE r.id = $id";
        read.Parameters.Add("$id", SqliteType.Integer);
    }

    public (string?[] Values, bool Gone)? Read(long id)
    {
        read.Parameters[0].Value = id;
        using var reader = read.ExecuteReader();
        return reader.Read() ? (RowTable.Cells(reader, 1, shape.Columns.Count), !reader.IsDBNull(0)) : null;
    }

    public void Write(long id, string?[] before, string?[] values, bool gone)
    {
        var changed = Enumerable.Range(0, values.Length).Where(i => values[i] != before[i]).ToList();
        var key = string.Join(',', changed);
        if (!updates.TryGetValue(key, out var update))
        {
            updates[key] = update = connection.CreateCommand();
            update.CommandText =
                $"UPDATE {RowTable.Name(shape.ListId)} SET find = $find, gone = "
                + $"$gone{string.Concat(changed.Select(i => $", {RowTable.Cell(shape.Columns[i].Id)} = $v{i}"))} WHERE id = $id";
            foreach (var name in (string[])["$id", "$find", "$gone", .. changed.Select(i => $"$v{i}")])
                update.Parameters.AddWithValue(name, DBNull.Value);
        }
        (update.Parameters[0].Value, update.Parameters[1].Value, update.Parameters[2].Value) = (
            id,
            FoldedText.OfRow(values),
            gone ? 1 : DBNull.Value
        );
        for (var i = 0; i < changed.Count; i++)
            update.Parameters[3 + i].Value = (object?)values[changed[i]] ?? DBNull.Value;
        update.ExecuteNonQuery();
    }

    public void Dispose()
    {
        read.Dispose();
        foreach (var update in updates.Values)
            update.Dispose();
    }
}

/// <summary>Adds to the log of changed values.</summary>
sealed class ChangeLog : IDisposable
{
    readonly SqliteCommand insert,
        source;

    public ChangeLog(SqliteConnection c, long listId, Actor actor, long actionId)
    {
        insert = c.CreateCommand();
        insert.CommandText =
            "INSERT INTO cell_change (list_id, recipient_id, column_id, old, new, at, by, action_id) VALUES ($list, $recipient, "
            + "$column, $old, $new, $at, $by, $action)";
        foreach (
            var (name, value) in new (string, object)[]
            {
                ("$recipient", 0),
                ("$column", 0),
                ("$old", DBNull.Value),
                ("$new", DBNull.Value),
                ("$list", listId),
                ("$at", actor.Stamp),
                ("$by", actor.Name),
                ("$action", actionId),
            }
        )
            insert.Parameters.AddWithValue(name, value);
        source = c.CreateCommand();
        source.CommandText =
            "INSERT OR IGNORE INTO source_value (list_id, recipient_id, column_id, value) VALUES ($list, $recipient, $column, $value)";
        foreach (
            var (name, value) in new (string, object)[] { ("$recipient", 0), ("$column", 0), ("$value", DBNull.Value), ("$list", listId) }
        )
            source.Parameters.AddWithValue(name, value);
    }

    public void Add(long recipientId, int columnId, string? old, string? value)
    {
        (insert.Parameters[0].Value, insert.Parameters[1].Value, insert.Parameters[2].Value, insert.Parameters[3].Value) = (
            recipientId,
            columnId,
            (object?)old ?? DBNull.Value,
            (object?)value ?? DBNull.Value
        );
        insert.ExecuteNonQuery();
    }

    /// <summary>Keeps what the file said, before the first change made here.</summary>
    public void KeepSource(long recipientId, int columnId, string? value)
    {
        (source.Parameters[0].Value, source.Parameters[1].Value, source.Parameters[2].Value) = (
            recipientId,
            columnId,
            (object?)value ?? DBNull.Value
        );
        source.ExecuteNonQuery();
    }

    public void Dispose()
    {
        insert.Dispose();
        source.Dispose();
    }
}
