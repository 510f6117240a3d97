using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>Two recipients that may be the same, with all their values.</summary>
public sealed record DuplicateView(RecipientRow A, RecipientRow B, DuplicateReason Reason, int Likeness);

/// <summary>How many of what was found are still open.</summary>
public sealed record DuplicateCounts(int Sure, int ToCompare, int Households, int Addressed, bool Stale);

/// <summary>Recipients that may be the same person, and households.</summary>
public sealed class DuplicateStore(Database database, ListEditor editor)
{
    const string Open = """
        FROM duplicate t JOIN {0} a ON a.id = t.a AND a.gone IS NULL JOIN {0} b ON b.id = t.b AND b.gone IS NULL
        WHERE t.list_id = @listId AND NOT EXISTS (SELECT 1 FROM not_duplicate d WHERE d.list_id = t.list_id AND d.a = t.a AND d.b = t.b)
        """;
    const string Sure = "t.reason IN ('SameKey', 'SameNameAndAddress')";

    static string OpenPairs(long listId) => string.Format(System.Globalization.CultureInfo.InvariantCulture, Open, RowTable.Name(listId));

    /// <summary>Looks through a whole list.</summary>
    public void FindAll(long listId, Action<long, long> progress, CancellationToken cancel)
    {
        var rows = new List<MatchRow>();
        long revision;
        HashSet<(long, long)> different;
        using (var c = database.Open())
        {
            var columns = RowTable.Columns(c, listId);
            ListStore.Get(c, listId);
            revision = c.QuerySingle<long>("SELECT revision FROM list WHERE id = @listId", new { listId });
            different = [.. c.Query<(long, long)>("SELECT a, b FROM not_duplicate WHERE list_id = @listId", new { listId })];
            var keys = new MatchKeys(columns);
            var wanted = keys.Columns;
            using var command = c.CreateCommand();
            command.CommandText =
                $"SELECT id{string.Concat(wanted.Select(i => ", " + RowTable.Cell(columns[i].Id)))} FROM {RowTable.Name(listId)} "
                + "WHERE gone IS NULL ORDER BY n";
            using var reader = command.ExecuteReader();
            var values = new string?[columns.Count];
            while (reader.Read())
            {
                for (var i = 0; i < wanted.Count; i++)
                    values[wanted[i]] = reader.IsDBNull(i + 1) ? null : reader.GetString(i + 1);
                rows.Add(keys.Of(reader.GetInt64(0), values));
                if ((rows.Count & 1023) == 0)
                    cancel.ThrowIfCancellationRequested();
            }
        }
        progress(rows.Count / 2, rows.Count);
        var found = Duplicates.Find(rows, different, cancel);
        database.Write(c =>
        {
            c.Execute("DELETE FROM duplicate WHERE list_id = @listId; DELETE FROM household_found WHERE list_id = @listId", new { listId });
            c.Execute(
                "INSERT INTO duplicate VALUES (@listId, @A, @B, @Reason, @Likeness)",
                found.Pairs.Select(p => new
                {
                    listId,
                    p.A,
                    p.B,
                    Reason = p.Reason.ToString(),
                    p.Likeness,
                })
            );
            c.Execute(
                "INSERT INTO household_found VALUES (@listId, @n, @members)",
                found.Households.Select(
                    (h, n) =>
                        new
                        {
                            listId,
                            n,
                            members = JsonSerializer.Serialize(h.Members),
                        }
                )
            );
            c.Execute(
                "UPDATE list SET duplicates_mark = @revision WHERE id = @listId",
                new { revision = revision.ToString(System.Globalization.CultureInfo.InvariantCulture), listId }
            );
        });
    }

    /// <summary>What is open.</summary>
    public DuplicateCounts Counts(long listId)
    {
        using var c = database.Open();
        var (sure, all) = c.QuerySingle<(long, long)>($"SELECT coalesce(sum({Sure}), 0), count(*) {OpenPairs(listId)}", new { listId });
        var (found, addressed) = HouseholdStore.Counts(c, listId);
        return new((int)sure, (int)(all - sure), found + addressed, addressed, !IsSearched(c, listId));
    }

    /// <summary>True where the list was searched since it changed last.</summary>
    public static bool IsSearched(SqliteConnection c, long listId) =>
        c.QuerySingle<bool>("SELECT coalesce(duplicates_mark, '') = CAST(revision AS TEXT) FROM list WHERE id = @listId", new { listId });

    /// <summary>The open pairs of a list, the surest first, as far as they are known.</summary>
    /// <param name="limit">How many at most; -1 for all.</param>
    public static IReadOnlyList<DuplicatePair> OpenPairsOf(SqliteConnection c, long listId, int offset = 0, int limit = -1) =>
        [
            .. c.Query<(long A, long B, string Reason, long Likeness)>(
                    $"SELECT t.a, t.b, t.reason, t.likeness {OpenPairs(listId)} ORDER BY {Sure} DESC, t.likeness DESC, t.a LIMIT "
                        + "@limit OFFSET @offset",
                    new
                    {
                        listId,
                        limit,
                        offset,
                    }
                )
                .Select(p => new DuplicatePair(p.A, p.B, Enum.Parse<DuplicateReason>(p.Reason), (int)p.Likeness)),
        ];

    /// <summary>A part of the open pairs, the surest first.</summary>
    public IReadOnlyList<DuplicateView> Pairs(long listId, int offset, int limit)
    {
        using var c = database.Open();
        var columns = RowTable.Columns(c, listId);
        return
        [
            .. OpenPairsOf(c, listId, offset, limit)
                .Select(p => new DuplicateView(
                    ListStore.Recipient(c, listId, columns, p.A),
                    ListStore.Recipient(c, listId, columns, p.B),
                    p.Reason,
                    p.Likeness
                )),
        ];
    }

    /// <summary>Keeps one of two that are the same; the other is removed from the list, and on demand gives its values where the kept one
    /// is
    /// blank.</summary>
    public ActOutcome Keep(long listId, long keep, long other, bool join, Actor actor) =>
        database.Write(c =>
        {
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            var (kept, gone) = (ListStore.Recipient(c, listId, shape.Columns, keep), ListStore.Recipient(c, listId, shape.Columns, other));
            if (keep == other)
                throw new ConflictException("These are already one recipient.");
            var label = $"Kept {Called(shape, kept)} and removed its duplicate {Called(shape, gone)}";
            var edits = KeepEdits(shape, kept, gone, join);
            editor.Apply(c, shape, edits, actor, Actions.Begin(c, listId, null, label, actor));
            return new ActOutcome(label, 1, []);
        });

    static List<CellEdit> KeepEdits(ListShape shape, RecipientRow kept, RecipientRow gone, bool join)
    {
        var edits = new List<CellEdit> { new(gone.Id, ListEditor.OnTheList, null) };
        if (!join)
            return edits;
        for (var i = 0; i < shape.Columns.Count; i++)
            if (kept.Values[i] is null && gone.Values[i] is not null && shape.Columns[i].Kind != ColumnKind.Computed)
                edits.Add(new(kept.Id, shape.Columns[i].Id, gone.Values[i]));
        return edits;
    }

    /// <summary>Keeps the first of each certain match, with the other's values where it is blank.</summary>
    public ActOutcome KeepSure(long listId, Actor actor) =>
        database.Write(c =>
        {
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            var pairs = c.Query<(long A, long B)>($"SELECT t.a, t.b {OpenPairs(listId)} AND {Sure} ORDER BY t.a, t.b", new { listId })
                .ToList();
            var taken = new HashSet<long>();
            var filled = new HashSet<(long, int)>();
            var edits = new List<CellEdit>();
            foreach (var (a, b) in pairs)
            {
                if (taken.Contains(a) || !taken.Add(b))
                    continue;
                edits.AddRange(
                    KeepEdits(
                            shape,
                            ListStore.Recipient(c, listId, shape.Columns, a),
                            ListStore.Recipient(c, listId, shape.Columns, b),
                            true
                        )
                        .Where(e => filled.Add((e.RecipientId, e.ColumnId)))
                );
            }
            if (taken.Count == 0)
                throw new ConflictException("There are no certain matches.");
            var label = taken.Count == 1 ? "Merged 1 pair of duplicates" : $"Merged {taken.Count:N0} pairs of duplicates";
            editor.Apply(c, shape, edits, actor, Actions.Begin(c, listId, null, label, actor));
            return new ActOutcome(label, taken.Count, []);
        });

    /// <summary>Marks two as different for good.</summary>
    public ActOutcome Different(long listId, long a, long b, Actor actor) =>
        database.Write(c =>
        {
            (a, b) = a < b ? (a, b) : (b, a);
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            var label =
                $"{Called(shape, ListStore.Recipient(c, listId, shape.Columns, a))} and "
                + $"{Called(shape, ListStore.Recipient(c, listId, shape.Columns, b))} are not duplicates";
            var action = Actions.Begin(c, listId, null, label, actor);
            c.Execute(
                "INSERT OR IGNORE INTO not_duplicate VALUES (@listId, @a, @b, @action)",
                new
                {
                    listId,
                    a,
                    b,
                    action,
                }
            );
            PeopleRecognition.Said(c, [a, b]);
            return new ActOutcome(label, 1, []);
        });

    static int At(ListShape shape, Role role) => shape.Columns.ToList().FindIndex(x => x.Role == role);

    static string Called(ListShape shape, RecipientRow row) =>
        At(shape, Role.Key) is >= 0 and var key && row.Values[key] is { } code
            ? code
            : RecipientLabel.Of(shape.Columns, i => row.Values[i]).Name;
}
