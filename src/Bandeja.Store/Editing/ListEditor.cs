using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>A value to set. Column 0 is whether the recipient is on the list: <c>yes</c>, or null for taken off.</summary>
/// <param name="Was">What the writer saw in the cell; null where that was not said.</param>
public sealed record CellEdit(long RecipientId, int ColumnId, string? Value, FormerValue? Was = null);

/// <summary>The value that somebody had before them when they changed it; null or blank for none.</summary>
public sealed record FormerValue(string? Value = null);

/// <summary>Where an edit comes from.</summary>
public enum EditOrigin
{
    /// <summary>A person, here.</summary>
    Here,

    /// <summary>A newer file.</summary>
    File,
}

/// <summary>
/// The one place where values of a list change. Whatever follows from a change is done in the same transaction: it is logged with
/// what was there before, computed columns are computed, the row is checked again, and so is its piece in every drop where it is
/// not mailed yet.
/// </summary>
public sealed class ListEditor(Database database, Func<ListSurroundings> surroundings, Recheck recheck)
{
    /// <summary>Composes and checks recipients of a drop again.</summary>
    public Recheck Recheck => recheck;

    /// <summary>Up to so many recipients are checked in their drops at once; with more, the drops are marked as to be checked, and a job
    /// does it.</summary>
    const int CheckedAtOnce = 200;

    /// <summary>The column that stands for being on the list.</summary>
    public const int OnTheList = 0;

    /// <summary>What lists depend on beside their data.</summary>
    public ListSurroundings Surroundings => surroundings();

    /// <summary>Sets values, as one act.</summary>
    /// <exception cref="ConflictException">Nothing would change, or a column is computed.</exception>
    public ActOutcome Edit(long listId, IReadOnlyList<CellEdit> edits, string label, Actor actor, long? dropId = null) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            var shape = ListShape.Of(c, listId, surroundings());
            foreach (var column in edits.Select(e => e.ColumnId).Distinct().Where(id => id != OnTheList))
                if (shape.Column(column).Kind == ColumnKind.Computed)
                    throw new ConflictException($"{shape.Column(column).Name} is computed. Change its formula or the columns it uses.");
            Unchanged(c, shape, edits);
            var actionId = Actions.Begin(c, listId, dropId, label, actor);
            var changed = Apply(c, shape, edits, actor, actionId);
            if (changed == 0)
                throw new ConflictException("Nothing to change. The cells already have these values.");
            return new ActOutcome(label, changed, []);
        });

    /// <summary>Refuses edits of cells that hold something else by now than what their writer saw, and than what they write.</summary>
    static void Unchanged(SqliteConnection c, ListShape shape, IReadOnlyList<CellEdit> edits)
    {
        foreach (var column in edits.Where(e => e.Was is not null && shape.Position(e.ColumnId) >= 0).GroupBy(e => e.ColumnId))
        foreach (var batch in column.Chunk(5000))
        {
            var now = c.Query<(long Id, string? Value)>(
                    $"SELECT id, {RowTable.Cell(column.Key)} FROM {RowTable.Name(shape.ListId)} WHERE id " + IdSet.In,
                    new { ids = IdSet.Json(batch.Select(e => e.RecipientId)) }
                )
                .ToDictionary(r => r.Id, r => r.Value);
            foreach (var edit in batch)
            {
                static string? Plain(string? value) => string.IsNullOrWhiteSpace(value) ? null : value;
                if (
                    !now.TryGetValue(edit.RecipientId, out var value)
                    || Plain(value) == Plain(edit.Was!.Value)
                    || Plain(value) == Plain(edit.Value)
                )
                    continue;
                var by = c.QueryFirstOrDefault<string?>(
                    "SELECT by FROM cell_change WHERE list_id = @ListId AND recipient_id = @RecipientId AND column_id = @Key ORDER "
                        + "BY id DESC LIMIT 1",
                    new
                    {
                        shape.ListId,
                        edit.RecipientId,
                        column.Key,
                    }
                );
                throw new StaleException(
                    $"{by ?? "Somebody"} changed {shape.Column(column.Key).Name} in the meantime. It was {Shown(edit.Was!.Value)} when "
                        + $"you opened it and is now {Shown(value)}. Your value, {Shown(edit.Value)}, was not saved. Review the new "
                        + "value, then change it again if yours is right."
                );
            }
        }
        static string Shown(string? value) =>
            string.IsNullOrWhiteSpace(value) ? "blank" : $"“{(value.Length <= 60 ? value : value[..59] + "…")}”";
    }

    /// <summary>Adds recipients at the end of a list, by hand.</summary>
    /// <returns>Their ids.</returns>
    public IReadOnlyList<long> AddRecipients(long listId, IReadOnlyList<IReadOnlyDictionary<int, string?>> rows, Actor actor) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            var shape = ListShape.Of(c, listId, surroundings());
            var actionId = Actions.Begin(
                c,
                listId,
                null,
                rows.Count == 1 ? "Added a recipient" : $"Added {rows.Count:N0} recipients",
                actor
            );
            return Insert(
                c,
                shape,
                [.. rows.Select(r => shape.Columns.Select(x => r.GetValueOrDefault(x.Id)).ToArray())],
                true,
                actor,
                actionId
            );
        });

    /// <summary>Inserts rows; they join the drops of the list in which nothing is mailed yet.</summary>
    internal static IReadOnlyList<long> Insert(
        SqliteConnection c,
        ListShape shape,
        IReadOnlyList<string?[]> rows,
        bool byHand,
        Actor actor,
        long actionId
    )
    {
        var first = c.QuerySingle<long>(
            "UPDATE sequence SET next = next + @Count WHERE name = 'recipient' RETURNING next - @Count",
            new { rows.Count }
        );
        var n = c.QuerySingle<long>($"SELECT coalesce(max(n), 0) FROM {RowTable.Name(shape.ListId)}");
        var ids = Enumerable.Range(0, rows.Count).Select(i => first + i).ToList();
        using var insert = c.CreateCommand();
        insert.CommandText =
            $"INSERT INTO {RowTable.Name(shape.ListId)} (id, n, find, "
            + $"hand{string.Concat(shape.Columns.Select(x => ", " + RowTable.Cell(x.Id)))}) VALUES ($id, $n, $find, "
            + $"$hand{string.Concat(shape.Columns.Select((_, i) => $", $v{i}"))})";
        foreach (var name in (string[])["$id", "$n", "$find", "$hand", .. shape.Columns.Select((_, i) => $"$v{i}")])
            insert.Parameters.AddWithValue(name, DBNull.Value);
        using var issues = new CheckIssueWriter(c, shape);
        using var log = new ChangeLog(c, shape.ListId, actor, actionId);
        for (var i = 0; i < rows.Count; i++)
        {
            var values = rows[i];
            var problems = shape.Compute(ids[i], values);
            (insert.Parameters[0].Value, insert.Parameters[1].Value, insert.Parameters[2].Value, insert.Parameters[3].Value) = (
                ids[i],
                n + i + 1,
                FoldedText.OfRow(values),
                byHand ? 1 : DBNull.Value
            );
            for (var v = 0; v < values.Length; v++)
                insert.Parameters[4 + v].Value = (object?)values[v] ?? DBNull.Value;
            insert.ExecuteNonQuery();
            log.Add(ids[i], OnTheList, null, "yes");
            issues.Write(ids[i], values, problems);
        }
        TieDetails(c, shape);
        if (shape.Columns.ToList().FindIndex(x => x.Role == Role.Email) is >= 0 and var email)
            SharedEmails.Of(c, shape, rows.Select(r => SharedEmails.Key(r[email])).OfType<string>().ToHashSet());
        c.Execute(
            "UPDATE list SET row_count = row_count + @Count, revision = revision + 1 WHERE id = @ListId",
            new { rows.Count, shape.ListId }
        );
        foreach (
            var drop in c.Query<long>(
                    "SELECT id FROM mail_drop d WHERE list_id = @ListId AND remails IS NULL AND step_id IS NULL AND single = 0 AND "
                        + "NOT EXISTS (SELECT 1 FROM drop_recipient "
                        + "WHERE drop_id = d.id AND (mailed_on IS NOT NULL OR emailed_on IS NOT NULL))",
                    new { shape.ListId }
                )
                .ToList()
        )
        {
            var piece = c.QuerySingle<long>(
                "SELECT coalesce(max(piece_number), 0) FROM drop_recipient WHERE drop_id = @drop",
                new { drop }
            );
            c.Execute(
                "INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray) VALUES (@drop, @id, @piece, 'Ready')",
                ids.Select(
                    (id, i) =>
                        new
                        {
                            drop,
                            id,
                            piece = piece + i + 1,
                        }
                )
            );
            DropEvents.Append(c, drop, [.. ids.Select(id => (id, new DropEvent(DropEventKind.Joined)))], actor, null);
            c.Execute("UPDATE mail_drop SET changes = changes + 1 WHERE id = @drop", new { drop });
            AutoHolds.Sweep(c, drop, ids, shape.Surroundings, actor);
        }
        // Who belongs in a step's drop is told by its rule when the drop is checked next.
        c.Execute(
            "UPDATE mail_drop SET changes = changes + 1 WHERE list_id = @ListId AND step_id IS NOT NULL AND collects_on IS NULL",
            new { shape.ListId }
        );
        return ids;
    }

    /// <summary>Sets values within the caller's transaction and does what follows from it.</summary>
    /// <returns>For how many recipients something changed.</returns>
    internal int Apply(
        SqliteConnection c,
        ListShape shape,
        IReadOnlyList<CellEdit> edits,
        Actor actor,
        long actionId,
        EditOrigin origin = EditOrigin.Here
    )
    {
        var notes = new Dictionary<long, string>();
        var addresses = new HashSet<string>();
        using (var rows = new RowUpdater(c, shape))
        using (var log = new ChangeLog(c, shape.ListId, actor, actionId))
        using (var issues = new CheckIssueWriter(c, shape))
            foreach (var ofRow in edits.GroupBy(e => e.RecipientId))
                if (ApplyRow(rows, log, issues, shape, ofRow, origin, addresses) is { } note)
                    notes[ofRow.Key] = note;
        if (notes.Count == 0)
            return 0;
        SharedEmails.Of(c, shape, addresses);
        if (edits.Any(e => shape.Position(e.ColumnId) is >= 0 and var at && shape.Columns[at].Role == Role.Key))
            TieDetails(c, shape);
        var recount = edits.Any(e => e.ColumnId == OnTheList)
            ? $", row_count = (SELECT count(*) FROM {RowTable.Name(shape.ListId)} WHERE gone IS NULL)"
            : "";
        c.Execute($"UPDATE list SET revision = revision + 1{recount} WHERE id = @ListId", new { shape.ListId });
        // Who is restored to the list belongs in the drops of steps that everyone on it gets.
        if (recount.Length > 0)
            c.Execute(
                "UPDATE mail_drop SET changes = changes + 1 WHERE list_id = @ListId AND step_id IS NOT NULL AND collects_on IS NULL",
                new { shape.ListId }
            );
        FollowInDrops(c, shape, notes, actor, actionId);
        // Who lives together, and what they are called, may be another now; what is named anew changes no household again.
        var named = shape.Columns.FirstOrDefault(x => x.Role == Role.AddressedTo)?.Id;
        if (edits.Any(e => e.ColumnId != named) && HouseholdStore.Renamed(c, shape, [.. notes.Keys]) is { Count: > 0 } renamed)
            Apply(c, shape, renamed, actor, actionId, origin);
        return notes.Count;
    }

    /// <summary>Ties the detail rows to their recipients anew after keys have changed; what sums them up is computed when the list is
    /// opened next.</summary>
    static void TieDetails(SqliteConnection c, ListShape shape)
    {
        if (shape.Details.Count == 0)
            return;
        DetailStore.Retie(c, shape.ListId);
        if (shape.Computed.DetailSets.Count > 0)
            c.Execute("UPDATE list SET computed_on = '0001-01-01' WHERE id = @ListId", new { shape.ListId });
    }

    static string? ApplyRow(
        RowUpdater rows,
        ChangeLog log,
        CheckIssueWriter issues,
        ListShape shape,
        IGrouping<long, CellEdit> edits,
        EditOrigin origin,
        HashSet<string> addresses
    )
    {
        var id = edits.Key;
        if (rows.Read(id) is not { } row)
            throw new NotFoundException("This recipient is not on the list.");
        var before = (string?[])row.Values.Clone();
        var gone = row.Gone;
        List<string> notes = [];
        foreach (var edit in edits)
        {
            if (edit.ColumnId == OnTheList)
            {
                if (gone == (edit.Value is null))
                    continue;
                gone = edit.Value is null;
                log.Add(id, OnTheList, gone ? "yes" : null, edit.Value);
                notes.Add(gone ? "removed from the list" : "restored to the list");
                continue;
            }
            var at = shape.Position(edit.ColumnId);
            if (at < 0)
                throw new NotFoundException("This column is no longer in the list.");
            if (row.Values[at] == edit.Value)
                continue;
            row.Values[at] = edit.Value;
            notes.Add($"{shape.Columns[at].Name}: {edit.Value ?? "blank"}");
        }
        if (notes.Count == 0)
            return null;
        var problems = shape.Compute(id, row.Values);
        for (var i = 0; i < before.Length; i++)
        {
            if (row.Values[i] == before[i])
                continue;
            log.Add(id, shape.Columns[i].Id, before[i], row.Values[i]);
            if (shape.Columns[i].Kind == ColumnKind.Source && origin == EditOrigin.Here)
                log.KeepSource(id, shape.Columns[i].Id, before[i]);
        }
        rows.Write(id, before, row.Values, gone);
        var email = shape.Columns.ToList().FindIndex(x => x.Role == Role.Email);
        if (email >= 0 && (before[email] != row.Values[email] || gone != row.Gone))
            foreach (var value in (string?[])[before[email], row.Values[email]])
                if (SharedEmails.Key(value) is { } address)
                    addresses.Add(address);
        if (gone)
            issues.Clear(id);
        else
            issues.Write(id, row.Values, problems);
        return string.Join("; ", notes);
    }

    void FollowInDrops(SqliteConnection c, ListShape shape, Dictionary<long, string> notes, Actor actor, long? actionId)
    {
        foreach (var drop in c.Query<long>("SELECT id FROM mail_drop WHERE list_id = @ListId", new { shape.ListId }).ToList())
        {
            var waiting = notes
                .Keys.Chunk(2000)
                .SelectMany(ids =>
                    c.Query<long>(
                        "SELECT recipient_id FROM drop_recipient WHERE drop_id = @drop AND tray NOT IN ('Mailed', 'Returned') AND "
                            + $"recipient_id {IdSet.In}",
                        new { drop, ids = IdSet.Json(ids) }
                    )
                )
                .ToList();
            if (waiting.Count == 0)
                continue;
            DropEvents.Append(c, drop, [.. waiting.Select(id => (id, new DropEvent(DropEventKind.Corrected, notes[id])))], actor, actionId);
            if (waiting.Count <= CheckedAtOnce)
                recheck(c, drop, waiting, actor, actionId);
            else
                c.Execute("UPDATE mail_drop SET changes = changes + 1 WHERE id = @drop", new { drop });
            AutoHolds.Sweep(c, drop, waiting, shape.Surroundings, actor);
        }
    }

    /// <summary>Looks at the households of a list anew, as after a change of the suppression lists.</summary>
    public void LookAtHouseholds(long listId, Actor actor) => database.Write(c => HouseholdStore.EvaluateAll(c, listId, this, actor));

    /// <summary>Checks some rows again within the caller's transaction.</summary>
    internal void CheckRows(SqliteConnection c, ListShape shape, IReadOnlyList<long> recipientIds)
    {
        using var rows = new RowUpdater(c, shape);
        using var issues = new CheckIssueWriter(c, shape);
        foreach (var id in recipientIds)
            if (rows.Read(id) is { Gone: false } row)
                issues.Write(id, row.Values, shape.Compute(id, (string?[])row.Values.Clone()));
    }

    /// <summary>Holds and releases some recipients by rule, in every drop of the list.</summary>
    internal void SweepDrops(SqliteConnection c, long listId, IReadOnlyList<long> recipientIds, Actor actor)
    {
        foreach (var drop in c.Query<long>("SELECT id FROM mail_drop WHERE list_id = @listId", new { listId }).ToList())
            AutoHolds.Sweep(c, drop, recipientIds, surroundings(), actor);
    }

    /// <summary>Computes all computed columns of a list anew, in batches, each a transaction of its own.</summary>
    public void Recompute(long listId, Actor actor, Action<long, long> progress, CancellationToken cancel)
    {
        List<long> ids;
        using (var c = database.Open())
            ids = [.. c.Query<long>($"SELECT id FROM {RowTable.Name(listId)} ORDER BY n")];
        var (done, changed, action) = (0, 0, (long?)null);
        foreach (var batch in ids.Chunk(1000))
        {
            cancel.ThrowIfCancellationRequested();
            database.Write(c =>
            {
                var shape = ListShape.Of(c, listId, surroundings());
                if (shape.Computed.Indexes.Count == 0)
                    return;
                using var rows = new RowUpdater(c, shape);
                using var issues = new CheckIssueWriter(c, shape);
                ChangeLog? log = null;
                foreach (var id in batch)
                {
                    if (rows.Read(id) is not { } row)
                        continue;
                    var before = (string?[])row.Values.Clone();
                    var problems = shape.Compute(id, row.Values);
                    if (!row.Gone)
                        issues.Write(id, row.Values, problems);
                    if (before.SequenceEqual(row.Values))
                        continue;
                    // Computed values are logged like any other: a run that was begun keeps the values of its moment.
                    action ??= Actions.Begin(c, listId, null, "Recomputed columns", actor, byItself: true);
                    log ??= new(c, listId, actor, action.Value);
                    for (var i = 0; i < before.Length; i++)
                        if (before[i] != row.Values[i])
                            log.Add(id, shape.Columns[i].Id, before[i], row.Values[i]);
                    rows.Write(id, before, row.Values, row.Gone);
                    changed++;
                }
                log?.Dispose();
                c.Execute("UPDATE list SET revision = revision + 1 WHERE id = @listId", new { listId });
            });
            progress(done += batch.Length, ids.Count);
        }
        database.Write(c =>
            c.Execute(
                "UPDATE list SET computed_on = @today WHERE id = @listId; UPDATE mail_drop SET changes = changes + 1 WHERE list_id "
                    + "= @listId AND @changed > 0",
                new
                {
                    today = surroundings().Today,
                    listId,
                    changed,
                }
            )
        );
    }
}
