using System.Text.Json;
using Bandeja.Core.Checks;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>What one check found in a list.</summary>
public sealed record CheckIssueGroup(CheckKind Kind, int Cells, int Recipients, int Fixable);

/// <summary>A value before and after a fix.</summary>
public sealed record ProposedCell(int ColumnId, string? Before, string? After);

/// <summary>An issue with what a fix would do.</summary>
public sealed record CheckIssueRow(
    long RecipientId,
    long Number,
    CheckKind Kind,
    int ColumnId,
    string Message,
    IReadOnlyList<ProposedCell> Proposal
);

/// <summary>Which issues are meant: all of a kind, or some recipients' of it.</summary>
public sealed record CheckIssueChoice(CheckKind Kind, IReadOnlyList<long>? Recipients = null);

/// <summary>The checks of lists: what they found, and the fixes.</summary>
public sealed class CheckIssues(Database database, ListEditor editor)
{
    /// <summary>True where the list must be checked anew.</summary>
    public bool IsStale(long listId)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<string?>("SELECT checked_mark FROM list WHERE id = @listId", new { listId })
            != ListShape.Of(c, listId, editor.Surroundings).CheckMark;
    }

    /// <summary>Says that a list must be checked anew, whatever it was checked for.</summary>
    public void Outdated(long listId) =>
        database.Write(c => c.Execute("UPDATE list SET checked_mark = NULL WHERE id = @listId", new { listId }));

    /// <summary>Checks a whole list, batch by batch; each is read, checked and written in one transaction, and others write in
    /// between.</summary>
    public void CheckAll(long listId, Action<long, long> progress, CancellationToken cancel)
    {
        // What was found stays until its rows are checked again, batch by batch: no issue is gone meanwhile that is there afterward. Who is
        // added later is checked as they come. Until it is done the list counts as unchecked.
        var (mark, ids) = database.Write(c =>
        {
            ListStore.Get(c, listId);
            c.Execute(
                "UPDATE list SET checked_mark = NULL WHERE id = @listId; DELETE FROM check_issue WHERE list_id = @listId AND recipient_id "
                    + $"NOT IN (SELECT id FROM {RowTable.Name(listId)} WHERE gone IS NULL)",
                new { listId }
            );
            return (
                ListShape.Of(c, listId, editor.Surroundings).CheckMark,
                c.Query<long>($"SELECT id FROM {RowTable.Name(listId)} WHERE gone IS NULL ORDER BY id").ToList()
            );
        });
        var done = 0;
        foreach (var batch in ids.Chunk(500))
        {
            cancel.ThrowIfCancellationRequested();
            database.Write(c => Check(c, listId, batch));
            progress(done += batch.Length, ids.Count);
        }
        database.Write(c =>
        {
            SharedEmails.All(c, ListShape.Of(c, listId, editor.Surroundings));
            c.Execute("UPDATE list SET checked_mark = @mark WHERE id = @listId", new { mark, listId });
        });
    }

    void Check(SqliteConnection c, long listId, long[] ids)
    {
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        using var command = c.CreateCommand();
        command.CommandText =
            $"SELECT r.id, {RowTable.CellList(shape.Columns)} FROM {RowTable.Name(listId)} r WHERE r.id BETWEEN $first AND $last "
            + "AND r.gone IS NULL";
        command.Parameters.AddWithValue("$first", ids[0]);
        command.Parameters.AddWithValue("$last", ids[^1]);
        using var issues = new CheckIssueWriter(c, shape);
        using var reader = command.ExecuteReader();
        var rows = new List<(long, string?[])>(ids.Length);
        while (reader.Read())
            rows.Add((reader.GetInt64(0), RowTable.Cells(reader, 1, shape.Columns.Count)));
        reader.Close();
        issues.Clear(ids[0], ids[^1]);
        foreach (var (id, values) in rows)
            issues.Write(id, values, shape.Computed.Indexes.Count == 0 ? [] : shape.Compute(id, (string?[])values.Clone()), cleared: true);
    }

    /// <summary>The checks that found something, with how much.</summary>
    public IReadOnlyList<CheckIssueGroup> Groups(long listId)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<(string Kind, long Cells, long Recipients, long Fixable)>(
                    "SELECT kind, count(*), count(DISTINCT recipient_id), count(fixes_json) FROM check_issue WHERE list_id = @listId "
                        + "GROUP BY kind",
                    new { listId }
                )
                .Select(g => new CheckIssueGroup(Enum.Parse<CheckKind>(g.Kind), (int)g.Cells, (int)g.Recipients, (int)g.Fixable)),
        ];
    }

    /// <summary>How many cells and recipients have issues.</summary>
    public (int Cells, int Recipients) Totals(long listId)
    {
        using var c = database.Open();
        var (cells, recipients) = c.QuerySingle<(long, long)>(
            "SELECT count(*), count(DISTINCT recipient_id) FROM (SELECT DISTINCT recipient_id, column_id FROM check_issue WHERE list_id = "
                + "@listId)",
            new { listId }
        );
        return ((int)cells, (int)recipients);
    }

    /// <summary>A part of the issues of a kind, in the order of the list, with before and after; those with a proposal first.</summary>
    public IReadOnlyList<CheckIssueRow> Rows(long listId, CheckKind kind, int offset, int limit)
    {
        using var c = database.Open();
        return Read(
            c,
            listId,
            $"SELECT d.recipient_id, r.n, d.kind, d.column_id, d.message, d.fixes_json FROM check_issue d JOIN {RowTable.Name(listId)} r "
                + "ON r.id = d.recipient_id WHERE d.list_id = @listId AND d.kind = @kind ORDER BY d.fixes_json IS NULL, r.n LIMIT "
                + "@limit OFFSET @offset",
            new
            {
                listId,
                kind = kind.ToString(),
                limit,
                offset,
            }
        );
    }

    /// <summary>What is found about a recipient's values, by the columns; the first where several things are.</summary>
    public static IReadOnlyDictionary<int, string> Messages(SqliteConnection c, long listId, long recipientId) =>
        c.Query<(int Column, string Message)>(
                "SELECT column_id, message FROM check_issue WHERE list_id = @listId AND recipient_id = @recipientId ORDER BY kind",
                new { listId, recipientId }
            )
            .GroupBy(m => m.Column)
            .ToDictionary(g => g.Key, g => g.First().Message);

    /// <summary>The issues of some recipients.</summary>
    public IReadOnlyList<CheckIssueRow> Of(long listId, IReadOnlyList<long> recipients)
    {
        if (recipients.Count == 0)
            return [];
        using var c = database.Open();
        return Read(
            c,
            listId,
            $"SELECT d.recipient_id, r.n, d.kind, d.column_id, d.message, d.fixes_json FROM check_issue d JOIN {RowTable.Name(listId)} r "
                + $"ON r.id = d.recipient_id WHERE d.list_id = @listId AND d.recipient_id {IdSet.In}",
            new { listId, ids = IdSet.Json(recipients) }
        );
    }

    static List<CheckIssueRow> Read(SqliteConnection c, long listId, string sql, object parameters)
    {
        var columns = RowTable.Columns(c, listId);
        return
        [
            .. c.Query<(long Recipient, long N, string Kind, long Column, string Message, string? Fixes)>(sql, parameters)
                .ToList()
                .Select(d =>
                {
                    var fixes = d.Fixes is null ? [] : JsonSerializer.Deserialize<FixRow[]>(d.Fixes)!;
                    var values = fixes.Length == 0 ? [] : ListStore.Recipient(c, listId, columns, d.Recipient).Values;
                    return new CheckIssueRow(
                        d.Recipient,
                        d.N,
                        Enum.Parse<CheckKind>(d.Kind),
                        (int)d.Column,
                        d.Message,
                        [
                            .. fixes.Select(f => new ProposedCell(
                                f.C,
                                columns.Select((x, i) => (x.Id, i)).FirstOrDefault(x => x.Id == f.C) is var at && at.Id == f.C
                                    ? values[at.i]
                                    : null,
                                f.V
                            )),
                        ]
                    );
                }),
        ];
    }

    /// <summary>Makes the proposed changes, as one act that can be taken back.</summary>
    /// <exception cref="ConflictException">There is nothing that can be fixed.</exception>
    public ActOutcome Fix(long listId, CheckIssueChoice choice, Actor actor) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            var edits = c.Query<(long Recipient, string Fixes)>(
                    "SELECT recipient_id, fixes_json FROM check_issue WHERE list_id = @listId AND kind = @kind AND fixes_json IS NOT "
                        + $"NULL{Among(choice)}",
                    Of(choice, listId)
                )
                .SelectMany(d => JsonSerializer.Deserialize<FixRow[]>(d.Fixes)!.Select(f => new CellEdit(d.Recipient, f.C, f.V)))
                .ToList();
            if (edits.Count == 0)
                throw new ConflictException("There is nothing left to fix.");
            var recipients = edits.Select(e => e.RecipientId).Distinct().Count();
            var label = $"{CheckText.Of(choice.Kind).Why} {(recipients == 1 ? "1 recipient" : $"{recipients:N0} recipients")}";
            editor.Apply(c, shape, edits, actor, Actions.Begin(c, listId, null, label, actor));
            return new ActOutcome(label, recipients, []);
        });

    /// <summary>Leaves issues as they are: they are shown no more until the value changes.</summary>
    public ActOutcome Leave(long listId, CheckIssueChoice choice, Actor actor) =>
        database.Write(c =>
        {
            var columns = ListShape.Of(c, listId, editor.Surroundings);
            var meant = c.Query<(long Recipient, long Column)>(
                    $"SELECT recipient_id, column_id FROM check_issue WHERE list_id = @listId AND kind = @kind{Among(choice)}",
                    Of(choice, listId)
                )
                .ToList();
            if (meant.Count == 0)
                throw new ConflictException("This issue no longer exists.");
            var label =
                $"Accepted “{CheckText.Of(choice.Kind).Title}” as is for "
                + $"{(meant.Count == 1 ? "1 recipient" : $"{meant.Count:N0} recipients")}";
            var action = Actions.Begin(c, listId, null, label, actor);
            foreach (var column in meant.GroupBy(m => m.Column))
                c.Execute(
                    "INSERT OR REPLACE INTO accepted_issue (list_id, recipient_id, kind, column_id, value, at, by, action_id) SELECT "
                        + $"@listId, id, @kind, @Key, {RowTable.Cell((int)column.Key)}, @Stamp, @Name, @action FROM "
                        + $"{RowTable.Name(listId)} WHERE id = @id",
                    column.Select(m => new
                    {
                        listId,
                        id = m.Recipient,
                        kind = choice.Kind.ToString(),
                        column.Key,
                        actor.Stamp,
                        actor.Name,
                        action,
                    })
                );
            c.Execute($"DELETE FROM check_issue WHERE list_id = @listId AND kind = @kind{Among(choice)}", Of(choice, listId));
            return new ActOutcome(label, meant.Count, []);
        });

    static string Among(CheckIssueChoice choice) => choice.Recipients is null ? "" : $" AND recipient_id {IdSet.In}";

    static object Of(CheckIssueChoice choice, long listId) =>
        new
        {
            listId,
            kind = choice.Kind.ToString(),
            ids = IdSet.Json(choice.Recipients ?? []),
        };
}
