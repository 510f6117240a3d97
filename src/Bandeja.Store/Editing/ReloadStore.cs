using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>A newer file held against a list.</summary>
public sealed record ReloadRow
{
    public long Id { get; init; }
    public long ListId { get; init; }
    public string OrderJson { get; init; } = "";
    public string SourceName { get; init; } = "";
    public long Revision { get; init; }
    public string MatchedBy { get; init; } = "";
    public long Unchanged { get; init; }
    public string ReportJson { get; init; } = "[]";
    public long Added { get; init; }
    public long Changed { get; init; }
    public long Gone { get; init; }
    public long InBoth { get; init; }
}

/// <summary>A cell that the newer file has otherwise. A column of the file that the list does not have yet has a negative id.</summary>
/// <param name="C">The column.</param>
/// <param name="Before">What the file said last time.</param>
/// <param name="Here">What stands here.</param>
/// <param name="File">What the file says now.</param>
public sealed record ReloadCell(int C, string? Before, string? Here, string? File);

/// <summary>One recipient who is new, changed or gone.</summary>
public sealed record ReloadItem(
    int Number,
    string Kind,
    long? RecipientId,
    bool InBoth,
    IReadOnlyList<ReloadCell> Cells,
    RecipientRow? Recipient
);

/// <summary>What to take over of a newer file.</summary>
/// <param name="KeepHere">For cells changed in both: true to keep what stands here.</param>
/// <param name="Except">Numbers of items that are left out.</param>
public sealed record ReloadChoice(bool Added, bool Changed, bool Gone, bool KeepHere, IReadOnlyList<int>? Except = null);

/// <summary>Loads lists again from newer files: held against the list first, then taken over as one act.</summary>
public sealed class ReloadStore(Database database, ListEditor editor)
{
    const string Sql = """
        SELECT id, list_id, order_json, source_name, revision, matched_by, unchanged, report_json,
               (SELECT count(*) FROM reload_row WHERE reload_id = reload.id AND kind = 'added') AS added, (SELECT count(*) FROM reload_row
                   WHERE reload_id = reload.id AND kind = 'changed') AS changed,
               (SELECT count(*) FROM reload_row WHERE reload_id = reload.id AND kind = 'gone') AS gone, (SELECT count(*) FROM reload_row
                   WHERE reload_id = reload.id AND in_both > 0) AS in_both
        FROM reload
        """;

    /// <summary>The newest comparison of a list that nobody has taken over or left yet, or null.</summary>
    public ReloadRow? OfList(long listId)
    {
        using var c = database.Open();
        return c.QueryFirstOrDefault<ReloadRow>(Sql + " WHERE list_id = @listId ORDER BY id DESC LIMIT 1", new { listId });
    }

    /// <summary>One comparison.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public ReloadRow Get(long reloadId)
    {
        using var c = database.Open();
        return Get(c, reloadId);
    }

    static ReloadRow Get(SqliteConnection c, long reloadId) =>
        c.QuerySingleOrDefault<ReloadRow>(Sql + " WHERE id = @reloadId", new { reloadId })
        ?? throw new NotFoundException("This comparison no longer exists.");

    /// <summary>A part of the items of a kind: added, changed or gone.</summary>
    public IReadOnlyList<ReloadItem> Items(long reloadId, string kind, int offset, int limit)
    {
        using var c = database.Open();
        var reload = Get(c, reloadId);
        var columns = RowTable.Columns(c, reload.ListId);
        return
        [
            .. c.Query<(long N, string Kind, long? Recipient, long Both, string Cells)>(
                    "SELECT n, kind, recipient_id, in_both, cells_json FROM reload_row WHERE reload_id = @reloadId AND kind = @kind "
                        + "ORDER BY in_both > 0 DESC, n LIMIT @limit OFFSET @offset",
                    new
                    {
                        reloadId,
                        kind,
                        limit,
                        offset,
                    }
                )
                .ToList()
                .Select(r => new ReloadItem(
                    (int)r.N,
                    r.Kind,
                    r.Recipient,
                    r.Both > 0,
                    JsonSerializer.Deserialize<ReloadCell[]>(r.Cells)!,
                    r.Recipient is { } id ? ListStore.ByIds(c, reload.ListId, columns, [id]).FirstOrDefault() : null
                )),
        ];
    }

    /// <summary>Leaves a comparison.</summary>
    public void Leave(long reloadId) =>
        database.Write(c =>
            c.Execute("DELETE FROM reload_row WHERE reload_id = @reloadId; DELETE FROM reload WHERE id = @reloadId", new { reloadId })
        );

    /// <summary>Holds a newer file against a list.</summary>
    /// <param name="headings">The file's columns: for each the id of the list's column, or null with its heading and type where the list
    /// has none.</param>
    /// <param name="rows">The rows, typed, in the order of the headings.</param>
    /// <param name="report">What reading found; asked for at the end.</param>
    /// <exception cref="ConflictException">Nobody could be matched.</exception>
    public long Compare(
        long listId,
        string orderJson,
        string sourceName,
        IReadOnlyList<Column> headings,
        IEnumerable<string?[]> rows,
        Func<IReadOnlyList<string>> report,
        Actor actor,
        CancellationToken cancel
    )
    {
        using var c = database.Open();
        var (shape, revision) = (
            ListShape.Of(c, listId, editor.Surroundings),
            c.QuerySingle<long>("SELECT revision FROM list WHERE id = @listId", new { listId })
        );
        var known = Known(c, shape);
        var inFile = FileColumns(shape, headings);
        var keys = new MatchKeys(inFile);
        var byKey = keys.HasKey && known.Count(k => k.Match.Key.Length > 0) * 2 >= known.Count;
        if (!byKey && known.All(k => k.Match.NameAndAddress.Length == 0) && known.Count > 0)
            throw new ConflictException(
                "The list has no key and no full names and addresses, so recipients in the newer file cannot be matched. Give a "
                    + "column the role “key”."
            );
        var matcher = new RowMatcher(known.Select(k => k.Match), byKey);
        var here = known.ToDictionary(k => k.Match.Id);
        var remarks = new Dictionary<string, int>();
        var (unchanged, stayOff) = (0, 0);
        var found = new List<(string Kind, long? Recipient, int InBoth, string Cells)>();
        using var reader = new RowUpdater(c, shape);
        foreach (var row in rows)
        {
            if ((found.Count & 255) == 0)
                cancel.ThrowIfCancellationRequested();
            var id = matcher.Take(keys.Of(0, row), out var remark);
            if (remark is not null)
                remarks[remark] = remarks.GetValueOrDefault(remark) + 1;
            if (id is null)
            {
                found.Add(
                    (
                        "added",
                        null,
                        0,
                        JsonSerializer.Serialize(
                            headings.Select((h, i) => new ReloadCell(h.Id, null, null, row[i])).Where(x => x.File is not null)
                        )
                    )
                );
                continue;
            }
            here.Remove(id.Value, out var mine);
            if (mine.Gone)
            {
                stayOff++;
                continue;
            }
            var cells = Changed(c, shape, headings, row, id.Value, reader.Read(id.Value)!.Value.Values);
            if (cells.Count == 0)
                unchanged++;
            else
                found.Add(
                    (
                        "changed",
                        id,
                        cells.Count(x => x.C > 0 && CellMerge.Of(x.File, x.Before, x.Here) == CellOutcome.ChangedInBoth),
                        JsonSerializer.Serialize(cells)
                    )
                );
        }
        found.AddRange(
            here.Values.Where(k => !k.Gone && !k.ByHand).OrderBy(k => k.Match.Id).Select(k => ("gone", (long?)k.Match.Id, 0, "[]"))
        );
        List<string> notes = [.. report(), .. remarks.Select(r => r.Value == 1 ? $"1 row {r.Key}." : $"{r.Value:N0} rows: {r.Key}.")];
        if (stayOff > 0)
            notes.Add(
                stayOff == 1
                    ? "1 recipient removed here is in the file and will stay removed."
                    : $"{stayOff:N0} recipients removed here are in the file and will stay removed."
            );
        return database.Write(w =>
        {
            w.Execute(
                "DELETE FROM reload_row WHERE reload_id IN (SELECT id FROM reload WHERE list_id = @listId); DELETE FROM reload "
                    + "WHERE list_id = @listId",
                new { listId }
            );
            var id = w.QuerySingle<long>(
                "INSERT INTO reload (list_id, order_json, source_name, revision, matched_by, unchanged, report_json, at, by) VALUES "
                    + "(@listId, @orderJson, @sourceName, @revision, @matchedBy, @unchanged, @report, @Stamp, @Name) RETURNING id",
                new
                {
                    listId,
                    orderJson,
                    sourceName,
                    revision,
                    matchedBy = byKey ? "key" : "name and address",
                    unchanged,
                    report = JsonSerializer.Serialize(notes),
                    actor.Stamp,
                    actor.Name,
                }
            );
            w.Execute(
                "INSERT INTO reload_row VALUES (@id, @n, @Kind, @Recipient, @InBoth, @Cells)",
                found.Select(
                    (f, n) =>
                        new
                        {
                            id,
                            n,
                            f.Kind,
                            f.Recipient,
                            f.InBoth,
                            f.Cells,
                        }
                )
            );
            return id;
        });
    }

    /// <summary>The file's columns with the roles that they have in the list.</summary>
    static List<Column> FileColumns(ListShape shape, IReadOnlyList<Column> headings) =>
        [.. headings.Select(h => shape.Position(h.Id) is >= 0 and var at ? shape.Columns[at] : h)];

    static List<(MatchRow Match, bool Gone, bool ByHand)> Known(SqliteConnection c, ListShape shape)
    {
        var keys = new MatchKeys(shape.Columns);
        // What the file said counts, not what was mended here: the newer file may still say it.
        var source = c.Query<(long, long, string?)>(
                "SELECT recipient_id, column_id, value FROM source_value WHERE list_id = @ListId",
                new { shape.ListId }
            )
            .ToLookup(s => s.Item1, s => (shape.Position((int)s.Item2), s.Item3));
        using var command = c.CreateCommand();
        command.CommandText =
            $"SELECT r.id, r.gone, r.hand, {RowTable.CellList(shape.Columns)} FROM {RowTable.Name(shape.ListId)} r ORDER BY r.gone "
            + "IS NOT NULL, r.n";
        var known = new List<(MatchRow, bool, bool)>();
        using var reader = command.ExecuteReader();
        while (reader.Read())
        {
            var values = RowTable.Cells(reader, 3, shape.Columns.Count);
            foreach (var (at, value) in source[reader.GetInt64(0)])
                if (at >= 0)
                    values[at] = value;
            known.Add((keys.Of(reader.GetInt64(0), values), !reader.IsDBNull(1), !reader.IsDBNull(2)));
        }
        return known;
    }

    static List<ReloadCell> Changed(
        SqliteConnection c,
        ListShape shape,
        IReadOnlyList<Column> headings,
        string?[] row,
        long id,
        string?[] here
    )
    {
        var said = c.Query<(long Column, string? Value)>(
                "SELECT column_id, value FROM source_value WHERE list_id = @ListId AND recipient_id = @id",
                new { shape.ListId, id }
            )
            .ToDictionary(s => (int)s.Column, s => s.Value);
        var cells = new List<ReloadCell>();
        for (var i = 0; i < headings.Count; i++)
        {
            var at = shape.Position(headings[i].Id);
            if (at < 0)
            {
                if (row[i] is not null)
                    cells.Add(new(headings[i].Id, null, null, row[i]));
                continue;
            }
            var before = said.TryGetValue(headings[i].Id, out var value) ? value : here[at];
            if (CellMerge.Of(row[i], before, here[at]) != CellOutcome.Stays)
                cells.Add(new(headings[i].Id, before, here[at], row[i]));
        }
        return cells;
    }

    /// <summary>Takes over what was chosen, as one act; the list gets a new version.</summary>
    /// <param name="newColumns">The file's columns that the list does not have, by their negative ids.</param>
    /// <exception cref="ConflictException">The list was changed since it was compared, or nothing was chosen.</exception>
    public ActOutcome Take(long reloadId, ReloadChoice choice, IReadOnlyDictionary<int, Column> newColumns, Actor actor) =>
        database.Write(c =>
        {
            var reload = Get(c, reloadId);
            var listId = reload.ListId;
            if (c.QuerySingle<long>("SELECT revision FROM list WHERE id = @listId", new { listId }) != reload.Revision)
                throw new ConflictException(
                    "The list changed after the file was compared with it. Import the file again to see what it would " + "change now."
                );
            var except = choice.Except?.ToHashSet() ?? [];
            var items = c.Query<(long N, string Kind, long? Recipient, string Cells)>(
                    "SELECT n, kind, recipient_id, cells_json FROM reload_row WHERE reload_id = @reloadId ORDER BY n",
                    new { reloadId }
                )
                .Where(r => !except.Contains((int)r.N))
                .ToList();
            List<(long N, string Kind, long? Recipient, string Cells)> Of(string kind, bool wanted) =>
                wanted ? [.. items.Where(i => i.Kind == kind)] : [];
            var (added, changed, gone) = (Of("added", choice.Added), Of("changed", choice.Changed), Of("gone", choice.Gone));
            if (added.Count + changed.Count + gone.Count == 0)
                throw new ConflictException("No changes are selected to apply.");
            var label = $"Updated from {reload.SourceName}: {added.Count:N0} added, {changed.Count:N0} changed, {gone.Count:N0} removed";
            var action = Actions.Begin(c, listId, null, label, actor);
            var ids = newColumns.ToDictionary(
                n => n.Key,
                n =>
                    ColumnStore.Add(
                        c,
                        listId,
                        Unused(c, listId, n.Value.Name),
                        n.Value.Type,
                        n.Value.Role,
                        ColumnKind.Source,
                        null,
                        n.Value.Name,
                        action,
                        n.Value.Format
                    )
            );
            int Id(int column) => column < 0 ? ids.GetValueOrDefault(column, -1) : column;
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            var edits = new List<CellEdit>();
            foreach (var item in changed)
            foreach (var cell in JsonSerializer.Deserialize<ReloadCell[]>(item.Cells)!.Where(x => x.C > 0 || ids.ContainsKey(x.C)))
            {
                var inBoth = cell.C > 0 && CellMerge.Of(cell.File, cell.Before, cell.Here) == CellOutcome.ChangedInBoth;
                if (!inBoth || !choice.KeepHere)
                    edits.Add(new(item.Recipient!.Value, Id(cell.C), cell.File));
                // It is settled either way: the next file is held against what this one said.
                if (inBoth && choice.KeepHere)
                    c.Execute(
                        "INSERT OR REPLACE INTO source_value VALUES (@listId, @Recipient, @C, @File)",
                        new
                        {
                            listId,
                            item.Recipient,
                            cell.C,
                            cell.File,
                        }
                    );
                else
                    c.Execute(
                        "DELETE FROM source_value WHERE list_id = @listId AND recipient_id = @Recipient AND column_id = @C",
                        new
                        {
                            listId,
                            item.Recipient,
                            cell.C,
                        }
                    );
            }
            edits.AddRange(gone.Select(g => new CellEdit(g.Recipient!.Value, ListEditor.OnTheList, null)));
            editor.Apply(c, shape, edits, actor, action, EditOrigin.File);
            if (added.Count > 0)
                ListEditor.Insert(
                    c,
                    shape,
                    [
                        .. added.Select(a =>
                        {
                            var values = new string?[shape.Columns.Count];
                            foreach (var cell in JsonSerializer.Deserialize<ReloadCell[]>(a.Cells)!)
                                if (shape.Position(Id(cell.C)) is >= 0 and var at)
                                    values[at] = cell.File;
                            return values;
                        }),
                    ],
                    false,
                    actor,
                    action
                );
            DetailStore.Retie(c, listId);
            c.Execute(
                """
                INSERT INTO list_version (list_id, number, mark, at, by, source_name, order_json, recipients, added, changed, gone,
                    report_json)
                SELECT id, (SELECT coalesce(max(number), 0) + 1 FROM list_version
                    WHERE list_id = @listId), @mark, @Stamp, @Name, @SourceName, @OrderJson, row_count, @a, @ch, @g, @ReportJson FROM list
                    WHERE id = @listId;
                UPDATE list SET source_name = @SourceName WHERE id = @listId;
                DELETE FROM reload_row WHERE reload_id = @Id; DELETE FROM reload WHERE id = @Id
                """,
                new
                {
                    listId,
                    mark = ListStore.LastChange(c, listId),
                    actor.Stamp,
                    actor.Name,
                    reload.SourceName,
                    reload.OrderJson,
                    a = added.Count,
                    ch = changed.Count,
                    g = gone.Count,
                    reload.ReportJson,
                    reload.Id,
                }
            );
            return new ActOutcome(label, added.Count + changed.Count + gone.Count, []);
        });

    static string Unused(SqliteConnection c, long listId, string name)
    {
        var taken = RowTable.Columns(c, listId).Select(x => x.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var unused = name;
        for (var n = 2; taken.Contains(unused); n++)
            unused = $"{name} {n}";
        return unused;
    }
}
