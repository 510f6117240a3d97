using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.People;

/// <summary>
/// Recognizes the people of all lists. Of a list that changed only the rows that changed are looked at, each compared only with those who
/// share a block with it (<see cref="Duplicates.Blocks"/>).
/// </summary>
public sealed class PeopleRecognition(Database database)
{
    const int Batch = 500;

    /// <summary>True where rows of a list were not looked at since they changed.</summary>
    public bool IsStale(long listId)
    {
        using var c = database.Open();
        return ToLookAt(c, listId) is { Rows.Count: > 0 };
    }

    /// <summary>Lists whose rows were not looked at since they changed.</summary>
    public IReadOnlyList<long> Stale()
    {
        using var c = database.Open();
        return
        [
            .. c.Query<long>("SELECT id FROM list WHERE state = 'ready' ORDER BY id")
                .ToList()
                .Where(id => ToLookAt(c, id) is { Rows.Count: > 0 }),
        ];
    }

    sealed record Mark(string Columns, long ChangeId, long RowId);

    /// <summary>What is to be looked at, and the mark for when it was; null for a list that is not there.</summary>
    static (IReadOnlyList<long> Rows, Mark Mark, MatchKeys Keys, IReadOnlyList<Column> Columns)? ToLookAt(SqliteConnection c, long listId)
    {
        if (c.QuerySingleOrDefault<string>("SELECT state FROM list WHERE id = @listId", new { listId }) != "ready")
            return null;
        var columns = RowTable.Columns(c, listId);
        var keys = new MatchKeys(columns);
        // What a computed column says changes without a note of it.
        var computed = keys.Columns.Any(i => columns[i].Kind == ColumnKind.Computed);
        var revision = computed ? c.QuerySingle<long>("SELECT revision FROM list WHERE id = @listId", new { listId }) : 0;
        var mark = new Mark(
            $"{revision}|{string.Join('|', keys.Columns.Select(i => columns[i].ToString()))}",
            ListStore.LastChange(c, listId),
            c.QuerySingle<long>($"SELECT coalesce(max(id), 0) FROM {RowTable.Name(listId)}")
        );
        var (known, change, row) = c.QueryFirstOrDefault<(string?, long, long)>(
            "SELECT columns, change_id, row_id FROM people_mark WHERE list_id = @listId",
            new { listId }
        );
        var rows =
            known != mark.Columns
                ? c.Query<long>($"SELECT id FROM {RowTable.Name(listId)} ORDER BY id")
                : c.Query<long>(
                    $"""
                    SELECT id FROM {RowTable.Name(listId)} WHERE id > @row
                    UNION SELECT recipient_id FROM cell_change WHERE list_id = @listId AND id > @change AND recipient_id <= @row
                    """,
                    new
                    {
                        listId,
                        row,
                        change,
                    }
                );
        return ([.. rows], mark, keys, columns);
    }

    /// <summary>Looks at what changed in a list.</summary>
    /// <returns>True where somebody is recognized otherwise than before.</returns>
    public bool Look(long listId, Action<long, long> progress, CancellationToken cancel)
    {
        (IReadOnlyList<long> Rows, Mark Mark, MatchKeys Keys, IReadOnlyList<Column> Columns) todo;
        using (var c = database.Open())
            if (ToLookAt(c, listId) is { } found)
                todo = found;
            else
                return false;
        var (changed, done) = (false, 0);
        foreach (var ids in todo.Rows.Chunk(Batch))
        {
            cancel.ThrowIfCancellationRequested();
            changed |= database.Write(c =>
                // The list may have been removed meanwhile.
                c.QuerySingleOrDefault<long?>("SELECT id FROM list WHERE id = @listId", new { listId })
                    is not null
                && Look(c, listId, ids, todo.Keys, todo.Columns)
            );
            progress(done += ids.Length, todo.Rows.Count);
        }
        database.Write(c =>
            c.Execute(
                """
                INSERT INTO people_mark (list_id, columns, change_id, row_id) SELECT @listId, @Columns, @ChangeId, @RowId
                    WHERE EXISTS (SELECT 1 FROM list WHERE id = @listId)
                ON CONFLICT (list_id) DO UPDATE SET columns = excluded.columns, change_id = excluded.change_id, row_id = excluded.row_id
                """,
                new
                {
                    listId,
                    todo.Mark.Columns,
                    todo.Mark.ChangeId,
                    todo.Mark.RowId,
                }
            )
        );
        return changed;
    }

    static bool Look(SqliteConnection c, long listId, long[] ids, MatchKeys keys, IReadOnlyList<Column> columns)
    {
        var now = new List<MatchRow>(ids.Length);
        using (var read = c.CreateCommand())
        {
            read.CommandText =
                $"SELECT r.id, {RowTable.CellList(columns)} FROM {RowTable.Name(listId)} r " + $"WHERE r.id {IdSet.In} ORDER BY r.id";
            read.Parameters.AddWithValue("@ids", IdSet.Json(ids));
            using var reader = read.ExecuteReader();
            while (reader.Read())
                now.Add(keys.Of(reader.GetInt64(0), RowTable.Cells(reader, 1, columns.Count)));
        }
        var before = PeopleMatcher.Rows(c, ids);
        var changed = now.Where(row =>
                !before.TryGetValue(row.Id, out var was)
                || was.Row != row with { Key = "", IsOrganization = was.Row.IsOrganization }
                || was.Home != Home(row)
            )
            .Select(row => (row, Home(row)))
            .ToList();
        if (changed.Count == 0)
            return false;
        using var matcher = new PeopleMatcher(c, listId);
        Join(c, matcher.Take(changed));
        Changed(c);
        return true;
    }

    const string RevisionKey = "people revision";

    /// <summary>Notes that somebody is recognized otherwise than before, or has another address.</summary>
    static void Changed(SqliteConnection c) =>
        c.Execute(
            "INSERT INTO setting VALUES (@RevisionKey, '1') ON CONFLICT (key) DO UPDATE SET value = CAST(value AS INTEGER) + 1",
            new { RevisionKey }
        );

    /// <summary>A mark that changes with who is who, and who lives where.</summary>
    internal static string Revision(SqliteConnection c) =>
        c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = @RevisionKey", new { RevisionKey }) ?? "";

    static string Home(MatchRow row) => row.IsOrganization || row.Name.Length == 0 ? "" : row.Address;

    /// <summary>After somebody said who of some recipients are the same, or are not.</summary>
    internal static void Said(SqliteConnection c, IReadOnlyCollection<long> recipients)
    {
        if (recipients.Count > 0 && Join(c, recipients))
            Changed(c);
    }

    /// <summary>Puts together anew the people to whom some recipients belong.</summary>
    /// <returns>True where that is other than before.</returns>
    static bool Join(SqliteConnection c, IReadOnlyCollection<long> recipients)
    {
        var all = c.Query<(long Id, long Person)>(
                "SELECT recipient_id, person_id FROM person_row WHERE person_id IN (SELECT person_id FROM person_row "
                    + $"WHERE recipient_id {IdSet.In})",
                new { ids = IdSet.Json(recipients) }
            )
            .ToDictionary(r => r.Id, r => r.Person);
        if (all.Count == 0)
            return false;
        var ids = IdSet.Json(all.Keys);
        var pairs = c.Query<(long A, long B, string Reason, bool ByHand)>(
                $"SELECT a, b, reason, by_hand FROM same_person WHERE a {IdSet.In} AND b {IdSet.In}",
                new { ids }
            )
            .Select(p => new SamePair(p.A, p.B, p.ByHand ? 10 : 5 - (int)Enum.Parse<DuplicateReason>(p.Reason)))
            .ToList();
        var different = c.Query<(long, long)>(
                $"""
                SELECT a, b FROM not_same_person WHERE a {IdSet.In} AND b {IdSet.In}
                UNION SELECT a, b FROM not_duplicate WHERE a {IdSet.In} AND b {IdSet.In}
                """,
                new { ids }
            )
            .ToHashSet();
        var changed = false;
        foreach (var (id, person) in SamePeople.Of(all.Keys, pairs, different))
            if (all[id] != person)
                changed |= c.Execute("UPDATE person_row SET person_id = @person WHERE recipient_id = @id", new { person, id }) > 0;
        return changed;
    }

    /// <summary>Forgets who the recipients of a list are, within the caller's transaction; the others stay together.</summary>
    internal static void Forget(SqliteConnection c, long listId)
    {
        const string Rows = "(SELECT recipient_id FROM person_row WHERE list_id = @listId)";
        var others = c.Query<long>(
                $"""
                SELECT recipient_id FROM person_row WHERE list_id <> @listId
                    AND person_id IN (SELECT person_id FROM person_row WHERE list_id = @listId)
                """,
                new { listId }
            )
            .ToList();
        c.Execute(
            $"""
            DELETE FROM person_block WHERE recipient_id IN {Rows};
            DELETE FROM same_person WHERE a IN {Rows} OR b IN {Rows};
            DELETE FROM not_same_person WHERE a IN {Rows} OR b IN {Rows};
            DELETE FROM person_row WHERE list_id = @listId;
            DELETE FROM people_mark WHERE list_id = @listId
            """,
            new { listId }
        );
        foreach (var ids in others.Chunk(Batch))
            Join(c, ids);
        Changed(c);
    }
}
