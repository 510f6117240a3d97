using Bandeja.Core.Matching;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.People;

/// <summary>
/// Writes down recipients whose values changed, and who of all others is the same. Serves one batch within one transaction: a million of
/// them ask the same few questions, so each is prepared once.
/// </summary>
sealed class PeopleMatcher : IDisposable
{
    /// <summary>Of a block that is larger, only so many are compared: a tower of flats, or a name that fills a town.</summary>
    const int MostInBlock = 200;

    const string Fields = "recipient_id, email, name, street, place, family, home";

    readonly SqliteConnection c;
    readonly SqliteCommand store,
        inBlock,
        intoBlock,
        find,
        tie;
    readonly Dictionary<long, MatchRow?> known = [];

    public PeopleMatcher(SqliteConnection c, long listId)
    {
        this.c = c;
        store = Prepared(
            """
            INSERT INTO person_row (recipient_id, list_id, person_id, email, name, street, place, family, home)
            VALUES ($id, $list, $id, $email, $name, $street, $place, $family, $home)
            ON CONFLICT (recipient_id) DO UPDATE SET email = excluded.email, name = excluded.name, street = excluded.street,
                place = excluded.place, family = excluded.family, home = excluded.home
            """,
            "$id",
            "$list",
            "$email",
            "$name",
            "$street",
            "$place",
            "$family",
            "$home"
        );
        store.Parameters["$list"].Value = listId;
        inBlock = Prepared(
            $"SELECT recipient_id FROM person_block WHERE block = $block ORDER BY recipient_id LIMIT {MostInBlock}",
            "$block"
        );
        intoBlock = Prepared("INSERT OR IGNORE INTO person_block VALUES ($block, $id)", "$block", "$id");
        find = Prepared($"SELECT {Fields} FROM person_row WHERE recipient_id = $id", "$id");
        tie = Prepared("INSERT OR IGNORE INTO same_person (a, b, reason) VALUES ($a, $b, $reason)", "$a", "$b", "$reason");
    }

    SqliteCommand Prepared(string sql, params string[] names)
    {
        var command = c.CreateCommand();
        command.CommandText = sql;
        foreach (var name in names)
            command.Parameters.AddWithValue(name, DBNull.Value);
        return command;
    }

    /// <summary>What the rules see of some recipients, as it was written down, and the address by which households are told.</summary>
    public static Dictionary<long, (MatchRow Row, string Home)> Rows(SqliteConnection c, IEnumerable<long> ids) =>
        c.Query<(long Id, string Email, string Name, string Street, string Place, string Family, string Home)>(
                $"SELECT {Fields} FROM person_row WHERE recipient_id {IdSet.In}",
                new { ids = IdSet.Json(ids) }
            )
            .ToDictionary(r => r.Id, r => (new MatchRow(r.Id, "", r.Email, r.Name, r.Street, r.Place, r.Family), r.Home));

    /// <summary>Takes recipients in whose values are new, and matches each with all that are known.</summary>
    /// <returns>Everyone whose person may be another now.</returns>
    public HashSet<long> Take(IReadOnlyList<(MatchRow Row, string Home)> changed)
    {
        var ids = IdSet.Json(changed.Select(r => r.Row.Id));
        var affected = c.Query<long>(
                "SELECT recipient_id FROM person_row WHERE person_id IN (SELECT person_id FROM person_row WHERE recipient_id "
                    + $"{IdSet.In})",
                new { ids }
            )
            .ToHashSet();
        affected.UnionWith(changed.Select(r => r.Row.Id));
        c.Execute($"DELETE FROM person_block WHERE recipient_id {IdSet.In}", new { ids });
        c.Execute($"DELETE FROM same_person WHERE a {IdSet.In} AND by_hand = 0", new { ids });
        c.Execute($"DELETE FROM same_person WHERE b {IdSet.In} AND by_hand = 0", new { ids });
        foreach (var (row, home) in changed)
        {
            Store(row, home);
            Match(row, affected);
        }
        return affected;
    }

    void Store(MatchRow row, string home)
    {
        var p = store.Parameters;
        (p["$id"].Value, p["$email"].Value, p["$name"].Value) = (row.Id, row.Email, row.Name);
        (p["$street"].Value, p["$place"].Value, p["$family"].Value, p["$home"].Value) = (row.Street, row.Place, row.Family, home);
        store.ExecuteNonQuery();
        known[row.Id] = row;
    }

    void Match(MatchRow row, HashSet<long> affected)
    {
        var near = new SortedSet<long>();
        foreach (var block in Duplicates.Blocks(row))
        {
            inBlock.Parameters[0].Value = block;
            using (var reader = inBlock.ExecuteReader())
                while (reader.Read())
                    near.Add(reader.GetInt64(0));
            (intoBlock.Parameters[0].Value, intoBlock.Parameters[1].Value) = (block, row.Id);
            intoBlock.ExecuteNonQuery();
        }
        var exact = false;
        foreach (var id in near)
        {
            if (id == row.Id || Known(id) is not { } other || Duplicates.Same(row, other) is not { } reason)
                continue;
            // Of many who are the very same, each is tied to the first.
            if (reason == DuplicateReason.SameNameAndAddress && exact)
                continue;
            exact |= reason == DuplicateReason.SameNameAndAddress;
            var p = tie.Parameters;
            (p[0].Value, p[1].Value, p[2].Value) = (Math.Min(id, row.Id), Math.Max(id, row.Id), reason.ToString());
            tie.ExecuteNonQuery();
            affected.Add(id);
        }
    }

    MatchRow? Known(long id)
    {
        if (known.TryGetValue(id, out var row))
            return row;
        find.Parameters[0].Value = id;
        using var r = find.ExecuteReader();
        return known[id] = r.Read() ? new(id, "", r.GetString(1), r.GetString(2), r.GetString(3), r.GetString(4), r.GetString(5)) : null;
    }

    public void Dispose()
    {
        foreach (var command in (SqliteCommand[])[store, inBlock, intoBlock, find, tie])
            command.Dispose();
    }
}
