using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>An act in a list's log.</summary>
public sealed record LogRow
{
    public long Id { get; init; }
    public string Label { get; init; } = "";
    public string At { get; init; } = "";
    public string By { get; init; } = "";
    public long Cells { get; init; }
    public long Recipients { get; init; }
    public bool Undone { get; init; }
    public bool IsUndo { get; init; }

    /// <summary>True where it was entered with a return: it is undone on the Returns page, together with what followed from it.</summary>
    public bool OfReturn { get; init; }
}

/// <summary>One value that an act changed.</summary>
public sealed record LogChange
{
    public long RecipientId { get; init; }
    public long Number { get; init; }
    public long ColumnId { get; init; }
    public string? Old { get; init; }
    public string? New { get; init; }
}

/// <summary>The log of a list's acts, and taking them back: the last one, any one, and again forward.</summary>
public sealed class ListUndo(Database database, ListEditor editor)
{
    /// <summary>The acts, the newest first, and returns for other lists that corrected an address on this one. What the program itself
    /// recomputed is not among them.</summary>
    public IReadOnlyList<LogRow> Log(long listId, int offset, int limit)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<LogRow>(
                """
                SELECT a.id, a.label, a.at, a.by, a.undone_by IS NOT NULL AS undone, a.undoes IS NOT NULL AS is_undo,
                       EXISTS (SELECT 1 FROM piece_return WHERE action_id = a.id) AS of_return,
                       (SELECT count(*) FROM cell_change WHERE action_id = a.id AND list_id = @listId) AS cells,
                       (SELECT count(DISTINCT recipient_id) FROM cell_change WHERE action_id = a.id AND list_id = @listId) AS recipients
                FROM action a
                WHERE a.by_itself = 0 AND (a.list_id = @listId
                    OR (a.id IN (SELECT action_id FROM piece_return) OR a.undoes IN (SELECT action_id FROM piece_return))
                        AND EXISTS (SELECT 1 FROM cell_change WHERE action_id = a.id AND list_id = @listId))
                ORDER BY a.id DESC LIMIT @limit OFFSET @offset
                """,
                new
                {
                    listId,
                    limit,
                    offset,
                }
            ),
        ];
    }

    /// <summary>The values that an act changed, the first of them.</summary>
    public IReadOnlyList<LogChange> Changes(long listId, long actionId, int limit)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<LogChange>(
                "SELECT ch.recipient_id, coalesce(r.n, 0) AS number, ch.column_id, ch.old, ch.new FROM cell_change ch LEFT JOIN "
                    + $"{RowTable.Name(listId)} r ON r.id = ch.recipient_id WHERE ch.action_id = @actionId AND ch.list_id = @listId "
                    + "ORDER BY ch.id LIMIT @limit",
                new
                {
                    actionId,
                    listId,
                    limit,
                }
            ),
        ];
    }

    /// <summary>What would be taken back and what would be done again next; null where there is nothing.</summary>
    public (string? Undo, string? Redo) Next(long listId)
    {
        using var c = database.Open();
        return (LastDone(c, listId)?.Label, LastUndone(c, listId)?.Label);
    }

    static ActionRow? LastDone(SqliteConnection c, long listId) =>
        c.QueryFirstOrDefault<ActionRow>(
            "SELECT id, list_id, drop_id, label, at, by FROM action WHERE list_id = @listId AND drop_id IS NULL AND undone_by IS "
                + "NULL AND undoes IS NULL AND by_itself = 0 ORDER BY id DESC LIMIT 1",
            new { listId }
        );

    /// <summary>The last taking back that can itself be taken back: nothing else was done since.</summary>
    static ActionRow? LastUndone(SqliteConnection c, long listId) =>
        c.QueryFirstOrDefault<ActionRow>(
            """
            SELECT u.id, u.list_id, u.drop_id, o.label, u.at, u.by FROM action u JOIN action o ON o.id = u.undoes AND o.undoes IS NULL
            WHERE u.list_id = @listId AND u.drop_id IS NULL AND u.undone_by IS NULL
              AND NOT EXISTS (SELECT 1 FROM action n WHERE n.list_id = @listId AND n.drop_id IS NULL AND n.undoes IS NULL
                  AND n.by_itself = 0 AND n.id > u.id)
            ORDER BY u.id DESC LIMIT 1
            """,
            new { listId }
        );

    /// <summary>Takes back the last act.</summary>
    public ActOutcome UndoLast(long listId, Actor actor) =>
        database.Write(c => Undo(c, listId, LastDone(c, listId) ?? throw new ConflictException("There is nothing to undo."), actor));

    /// <summary>Does again what was taken back last.</summary>
    public ActOutcome Redo(long listId, Actor actor) =>
        database.Write(c =>
        {
            var undo = LastUndone(c, listId) ?? throw new ConflictException("There is nothing to redo.");
            var outcome = Undo(c, listId, undo, actor);
            c.Execute("UPDATE action SET undone_by = NULL WHERE undone_by = @Id", new { undo.Id });
            return outcome with { Label = $"Redone: {undo.Label}" };
        });

    /// <summary>Takes back any act. Values that were changed again since stay, and are counted.</summary>
    public ActOutcome Undo(long listId, long actionId, Actor actor) =>
        database.Write(c =>
        {
            var action =
                c.QuerySingleOrDefault<ActionRow>(
                    "SELECT id, list_id, drop_id, label, at, by FROM action WHERE id = @actionId AND undone_by IS NULL AND undoes IS NULL",
                    new { actionId }
                ) ?? throw new ConflictException("This change was already undone or is not in the log.");
            Actions.NotOfReturns(c, action);
            if (action.ListId != listId)
                throw new ConflictException("This change was already undone or is not in the log.");
            return Undo(c, listId, action, actor);
        });

    ActOutcome Undo(SqliteConnection c, long listId, ActionRow action, Actor actor)
    {
        var label = $"Undone: {action.Label}";
        var undo = Actions.Begin(c, listId, null, label, actor, action.Id);
        c.Execute("UPDATE action SET undone_by = @undo WHERE id = @Id", new { undo, action.Id });
        var stayed = ColumnStore.Undo(c, listId, action.Id, undo, actor, editor.Surroundings.Locale);
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        var edits = new List<CellEdit>();
        // Only the first and the last state of a cell within the act matter.
        foreach (
            var cell in c.Query<(long RecipientId, long ColumnId, string? Old, string? New)>(
                    "SELECT recipient_id, column_id, old, new FROM cell_change WHERE action_id = @Id ORDER BY id",
                    new { action.Id }
                )
                .GroupBy(x => (x.RecipientId, x.ColumnId))
                .ToList()
        )
        {
            var column = (int)cell.Key.ColumnId;
            if (
                column != ListEditor.OnTheList
                && (shape.Position(column) < 0 || shape.Columns[shape.Position(column)].Kind == Core.Lists.ColumnKind.Computed)
            )
                continue;
            var now =
                column == ListEditor.OnTheList
                    ? c.QuerySingleOrDefault<string?>(
                        $"SELECT CASE WHEN gone IS NULL THEN 'yes' END FROM {RowTable.Name(listId)} WHERE id = @RecipientId",
                        new { cell.Key.RecipientId }
                    )
                    : c.QuerySingleOrDefault<string?>(
                        $"SELECT {RowTable.Cell(column)} FROM {RowTable.Name(listId)} WHERE id = @RecipientId",
                        new { cell.Key.RecipientId }
                    );
            if (now != cell.Last().New)
                stayed++;
            else
                edits.Add(new(cell.Key.RecipientId, column, cell.First().Old));
        }
        var left = c.Query<(long RecipientId, string Kind, long ColumnId)>(
                "SELECT recipient_id, kind, column_id FROM accepted_issue WHERE action_id = @Id",
                new { action.Id }
            )
            .ToList();
        var (people, householdsStayed) = HouseholdStore.Undo(c, listId, action.Id, undo);
        stayed += householdsStayed;
        c.Execute("DELETE FROM accepted_issue WHERE action_id = @Id", new { action.Id });
        var pairs = c.Query<(long A, long B)>("DELETE FROM not_duplicate WHERE action_id = @Id RETURNING a, b", new { action.Id });
        PeopleRecognition.Said(c, [.. pairs.SelectMany(p => (long[])[p.A, p.B])]);
        var changed = edits.Count == 0 ? 0 : editor.Apply(c, shape, edits, actor, undo);
        if (left.Count > 0)
            editor.CheckRows(c, shape, [.. left.Select(l => l.RecipientId).Distinct()]);
        if (people.Count > 0)
            editor.SweepDrops(c, listId, people, actor);
        c.Execute("UPDATE list SET revision = revision + 1 WHERE id = @listId", new { listId });
        return new ActOutcome(
            label,
            Math.Max(changed, left.Count),
            stayed == 0
                ? []
                :
                [
                    stayed == 1
                        ? "1 value was kept because it changed since then."
                        : $"{stayed:N0} values were kept because they " + "changed since then.",
                ]
        );
    }
}
