using Bandeja.Core.Lists;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>A load of a list.</summary>
public sealed record VersionRow
{
    public long Number { get; init; }
    public long Mark { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
    public string? SourceName { get; init; }
    public string? OrderJson { get; init; }
    public long Recipients { get; init; }
    public long Added { get; init; }
    public long Changed { get; init; }
    public long Gone { get; init; }
}

/// <summary>The versions of lists: each load as it was, to be looked at and brought back.</summary>
public sealed class VersionStore(Database database, ListEditor editor)
{
    /// <summary>A list's versions, the newest first.</summary>
    public IReadOnlyList<VersionRow> OfList(long listId)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<VersionRow>(
                "SELECT number, mark, at, by, source_name, order_json, recipients, added, changed, gone FROM list_version WHERE "
                    + "list_id = @listId ORDER BY number DESC",
                new { listId }
            ),
        ];
    }

    static VersionRow Get(SqliteConnection c, long listId, long number) =>
        c.QuerySingleOrDefault<VersionRow>(
            "SELECT number, mark, at, by, source_name, order_json, recipients, added, changed, gone FROM list_version WHERE list_id "
                + "= @listId AND number = @number",
            new { listId, number }
        ) ?? throw new NotFoundException("The list does not have that version.");

    /// <summary>What each cell that was changed since a version held then.</summary>
    static Dictionary<(long Recipient, int Column), string?> Then(SqliteConnection c, long listId, long mark)
    {
        var then = new Dictionary<(long, int), string?>();
        foreach (
            var (recipient, column, old) in c.Query<(long, long, string?)>(
                "SELECT recipient_id, column_id, old FROM cell_change WHERE list_id = @listId AND id > @mark ORDER BY id",
                new { listId, mark }
            )
        )
            then.TryAdd((recipient, (int)column), old);
        return then;
    }

    /// <summary>A part of the recipients of a version with the values of that moment, and how many there were.</summary>
    public (IReadOnlyList<RecipientRow> Rows, int Total) Rows(long listId, long number, int offset, int limit)
    {
        using var c = database.Open();
        var then = Then(c, listId, Get(c, listId, number).Mark);
        var columns = RowTable.Columns(c, listId);
        var ids = c.Query<(long Id, bool Gone)>($"SELECT id, gone IS NOT NULL FROM {RowTable.Name(listId)} ORDER BY n")
            .Where(r => then.TryGetValue((r.Id, ListEditor.OnTheList), out var was) ? was is not null : !r.Gone)
            .Select(r => r.Id)
            .ToArray();
        var rows = ListStore.ByIds(
            c,
            listId,
            columns,
            ids.AsSpan(Math.Min(offset, ids.Length), Math.Max(0, Math.Min(limit, ids.Length - offset)))
        );
        foreach (var row in rows)
            for (var i = 0; i < columns.Count; i++)
                if (then.TryGetValue((row.Id, columns[i].Id), out var was))
                    row.Values[i] = was;
        return (rows, ids.Length);
    }

    /// <summary>Brings a version back: what came from files is again as it was then. What was made here by hand stays.</summary>
    public ActOutcome BringBack(long listId, long number, Actor actor) =>
        database.Write(c =>
        {
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            var edits = Then(c, listId, Get(c, listId, number).Mark)
                .Where(x =>
                    x.Key.Column == ListEditor.OnTheList
                    || shape.Position(x.Key.Column) is >= 0 and var at && shape.Columns[at].Kind == ColumnKind.Source
                )
                .Select(x => new CellEdit(x.Key.Recipient, x.Key.Column, x.Value))
                .ToList();
            var label = $"Restored version {number}";
            var action = Actions.Begin(c, listId, null, label, actor);
            var changed = editor.Apply(c, shape, edits, actor, action, EditOrigin.File);
            if (changed == 0)
                throw new ConflictException("The list already matches that version.");
            // What the files said then is what stands here now.
            c.Execute("DELETE FROM source_value WHERE list_id = @listId", new { listId });
            DetailStore.Retie(c, listId);
            return new ActOutcome(label, changed, []);
        });
}
