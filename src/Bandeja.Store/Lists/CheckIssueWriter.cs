using System.Text.Json;
using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>Writes the issues of rows as they are checked.</summary>
sealed class CheckIssueWriter : IDisposable
{
    readonly ListShape shape;
    readonly SqliteCommand delete,
        insert;
    readonly Dictionary<(long, string, int), string?> left;

    public CheckIssueWriter(SqliteConnection c, ListShape shape)
    {
        this.shape = shape;
        delete = c.CreateCommand();
        delete.CommandText =
            "DELETE FROM check_issue WHERE list_id = $list AND recipient_id BETWEEN $first AND $last "
            + $"AND kind <> '{nameof(CheckKind.SameEmail)}'";
        delete.Parameters.AddWithValue("$list", shape.ListId);
        delete.Parameters.AddWithValue("$first", 0L);
        delete.Parameters.AddWithValue("$last", 0L);
        insert = c.CreateCommand();
        insert.CommandText =
            "INSERT OR IGNORE INTO check_issue (list_id, recipient_id, kind, column_id, message, fixes_json) VALUES ($list, $recipient, "
            + "$kind, $column, $message, $fixes)";
        foreach (var name in (ReadOnlySpan<string>)["$list", "$recipient", "$kind", "$column", "$message", "$fixes"])
            insert.Parameters.AddWithValue(name, DBNull.Value);
        insert.Parameters[0].Value = shape.ListId;
        left = c.Query<(long Recipient, string Kind, long Column, string? Value)>(
                "SELECT recipient_id, kind, column_id, value FROM accepted_issue WHERE list_id = @ListId",
                new { shape.ListId }
            )
            .ToDictionary(l => (l.Recipient, l.Kind, (int)l.Column), l => l.Value);
    }

    public void Clear(long recipientId) => Clear(recipientId, recipientId);

    /// <summary>Takes away what was found of the recipients of a range, both ends among them.</summary>
    public void Clear(long first, long last)
    {
        (delete.Parameters[1].Value, delete.Parameters[2].Value) = (first, last);
        delete.ExecuteNonQuery();
    }

    /// <param name="cleared">True where what was found before has been taken away.</param>
    public void Write(long recipientId, string?[] values, List<(int Column, string Message)> problems, bool cleared = false)
    {
        if (!cleared)
            Clear(recipientId);
        foreach (var issue in shape.Checker.Check(values))
            Insert(recipientId, values, issue);
        foreach (var (column, message) in problems)
            Insert(recipientId, values, CheckIssue.Of(CheckKind.Computed, column, message));
    }

    void Insert(long recipientId, string?[] values, CheckIssue issue)
    {
        var (kind, column) = (issue.Kind.ToString(), shape.Columns[issue.Column]);
        if (left.TryGetValue((recipientId, kind, column.Id), out var value) && value == values[issue.Column])
            return;
        (insert.Parameters[1].Value, insert.Parameters[2].Value, insert.Parameters[3].Value, insert.Parameters[4].Value) = (
            recipientId,
            kind,
            column.Id,
            issue.Message
        );
        // What is computed changes with what it is computed from, and cannot be fixed where it stands.
        var fixes = issue
            .Fixes.Where(f => shape.Columns[f.Column].Kind != ColumnKind.Computed)
            .Select(f => new FixRow(shape.Columns[f.Column].Id, f.Value))
            .ToList();
        insert.Parameters[5].Value = fixes.Count == 0 ? DBNull.Value : JsonSerializer.Serialize(fixes);
        insert.ExecuteNonQuery();
    }

    public void Dispose()
    {
        delete.Dispose();
        insert.Dispose();
    }
}

/// <summary>A fix as it is stored.</summary>
sealed record FixRow(int C, string? V);
