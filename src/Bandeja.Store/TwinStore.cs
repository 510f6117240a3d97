using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>Two recipients that may be the same, with all their values.</summary>
public sealed record TwinView(RecipientRow A, RecipientRow B, TwinReason Reason, int Likeness);

/// <summary>People at one address.</summary>
/// <param name="Addressee">Who gets the piece for all, where that was decided; else null.</param>
public sealed record HouseholdView(IReadOnlyList<RecipientRow> Members, long? Addressee);

/// <summary>How many of what was found are still open.</summary>
public sealed record TwinCounts(int Sure, int ToCompare, int Households, int Addressed, bool Stale);

/// <summary>Recipients that may be the same person, and households.</summary>
public sealed class TwinStore(Database database, ListEditor editor)
{
    const string Open = """
        FROM twin t JOIN {0} a ON a.id = t.a AND a.gone IS NULL JOIN {0} b ON b.id = t.b AND b.gone IS NULL
        WHERE t.list_id = @listId AND NOT EXISTS (SELECT 1 FROM twin_different d WHERE d.list_id = t.list_id AND d.a = t.a AND d.b = t.b)
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
            different = [.. c.Query<(long, long)>("SELECT a, b FROM twin_different WHERE list_id = @listId", new { listId })];
            var keys = new MatchKeys(columns);
            var wanted = keys.Columns;
            using var command = c.CreateCommand();
            command.CommandText = $"SELECT id{string.Concat(wanted.Select(i => ", " + RowTable.Cell(columns[i].Id)))} FROM {RowTable.Name(listId)} WHERE gone IS NULL ORDER BY n";
            using var reader = command.ExecuteReader();
            var values = new string?[columns.Count];
            while (reader.Read())
            {
                for (var i = 0; i < wanted.Count; i++) values[wanted[i]] = reader.IsDBNull(i + 1) ? null : reader.GetString(i + 1);
                rows.Add(keys.Of(reader.GetInt64(0), values));
                if ((rows.Count & 1023) == 0) cancel.ThrowIfCancellationRequested();
            }
        }
        progress(rows.Count / 2, rows.Count);
        var found = Duplicates.Find(rows, different, cancel);
        database.Write(c =>
        {
            c.Execute("DELETE FROM twin WHERE list_id = @listId; DELETE FROM household_found WHERE list_id = @listId", new { listId });
            c.Execute("INSERT INTO twin VALUES (@listId, @A, @B, @Reason, @Likeness)", found.Pairs.Select(p => new { listId, p.A, p.B, Reason = p.Reason.ToString(), p.Likeness }));
            c.Execute("INSERT INTO household_found VALUES (@listId, @n, @members)", found.Households.Select((h, n) => new { listId, n, members = JsonSerializer.Serialize(h.Members) }));
            c.Execute("UPDATE list SET twins_mark = @revision WHERE id = @listId", new { revision = revision.ToString(System.Globalization.CultureInfo.InvariantCulture), listId });
        });
    }

    /// <summary>What is open.</summary>
    public TwinCounts Counts(long listId)
    {
        using var c = database.Open();
        var (sure, all) = c.QuerySingle<(long, long)>($"SELECT coalesce(sum({Sure}), 0), count(*) {OpenPairs(listId)}", new { listId });
        var (mark, revision) = c.QuerySingle<(string?, long)>("SELECT twins_mark, revision FROM list WHERE id = @listId", new { listId });
        var addressed = c.QuerySingle<long>("SELECT count(DISTINCT addressee_id) FROM household_member WHERE list_id = @listId", new { listId });
        return new((int)sure, (int)(all - sure), (int)c.QuerySingle<long>("SELECT count(*) FROM household_found WHERE list_id = @listId", new { listId }), (int)addressed, mark != revision.ToString(System.Globalization.CultureInfo.InvariantCulture));
    }

    /// <summary>A part of the open pairs, the surest first.</summary>
    public IReadOnlyList<TwinView> Pairs(long listId, int offset, int limit)
    {
        using var c = database.Open();
        var columns = RowTable.Columns(c, listId);
        return [.. c.Query<(long A, long B, string Reason, long Likeness)>($"SELECT t.a, t.b, t.reason, t.likeness {OpenPairs(listId)} ORDER BY {Sure} DESC, t.likeness DESC, t.a LIMIT @limit OFFSET @offset", new { listId, limit, offset }).ToList()
            .Select(p => new TwinView(ListStore.Recipient(c, listId, columns, p.A), ListStore.Recipient(c, listId, columns, p.B), Enum.Parse<TwinReason>(p.Reason), (int)p.Likeness))];
    }

    /// <summary>A part of the households found.</summary>
    public IReadOnlyList<HouseholdView> Households(long listId, int offset, int limit)
    {
        using var c = database.Open();
        var columns = RowTable.Columns(c, listId);
        return [.. c.Query<string>("SELECT members_json FROM household_found WHERE list_id = @listId ORDER BY n LIMIT @limit OFFSET @offset", new { listId, limit, offset }).ToList().Select(json =>
        {
            var ids = JsonSerializer.Deserialize<long[]>(json)!;
            return new HouseholdView(ListStore.ByIds(c, listId, columns, ids), c.QueryFirstOrDefault<long?>($"SELECT addressee_id FROM household_member WHERE list_id = @listId AND recipient_id IN ({string.Join(',', ids)})", new { listId }));
        })];
    }

    /// <summary>Keeps one of two that are the same; the other is taken off the list, and on demand gives its values where the kept one is blank.</summary>
    public ActOutcome Keep(long listId, long keep, long other, bool join, Actor actor) => database.Write(c =>
    {
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        var (kept, gone) = (ListStore.Recipient(c, listId, shape.Columns, keep), ListStore.Recipient(c, listId, shape.Columns, other));
        if (keep == other) throw new ConflictException("These are one recipient already.");
        var label = $"Kept {Called(shape, kept)}, the same as {Called(shape, gone)}";
        var edits = KeepEdits(shape, kept, gone, join);
        editor.Apply(c, shape, edits, actor, Actions.Begin(c, listId, null, label, actor));
        return new ActOutcome(label, 1, []);
    });

    static List<CellEdit> KeepEdits(ListShape shape, RecipientRow kept, RecipientRow gone, bool join)
    {
        var edits = new List<CellEdit> { new(gone.Id, ListEditor.OnTheList, null) };
        if (!join) return edits;
        for (var i = 0; i < shape.Columns.Count; i++)
            if (kept.Values[i] is null && gone.Values[i] is not null && shape.Columns[i].Kind != ColumnKind.Computed) edits.Add(new(kept.Id, shape.Columns[i].Id, gone.Values[i]));
        return edits;
    }

    /// <summary>Keeps the first of each pair about which there is no doubt, with the other's values where it is blank.</summary>
    public ActOutcome KeepSure(long listId, Actor actor) => database.Write(c =>
    {
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        var pairs = c.Query<(long A, long B)>($"SELECT t.a, t.b {OpenPairs(listId)} AND {Sure} ORDER BY t.a, t.b", new { listId }).ToList();
        var taken = new HashSet<long>();
        var filled = new HashSet<(long, int)>();
        var edits = new List<CellEdit>();
        foreach (var (a, b) in pairs)
        {
            if (taken.Contains(a) || !taken.Add(b)) continue;
            edits.AddRange(KeepEdits(shape, ListStore.Recipient(c, listId, shape.Columns, a), ListStore.Recipient(c, listId, shape.Columns, b), true).Where(e => filled.Add((e.RecipientId, e.ColumnId))));
        }
        if (taken.Count == 0) throw new ConflictException("There are no pairs about which there is no doubt.");
        var label = taken.Count == 1 ? "Kept one of 2 that are the same" : $"Kept one each of {taken.Count:N0} pairs that are the same";
        editor.Apply(c, shape, edits, actor, Actions.Begin(c, listId, null, label, actor));
        return new ActOutcome(label, taken.Count, []);
    });

    /// <summary>Marks two as different for good.</summary>
    public ActOutcome Different(long listId, long a, long b, Actor actor) => database.Write(c =>
    {
        (a, b) = a < b ? (a, b) : (b, a);
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        var label = $"{Called(shape, ListStore.Recipient(c, listId, shape.Columns, a))} and {Called(shape, ListStore.Recipient(c, listId, shape.Columns, b))} are different people";
        var action = Actions.Begin(c, listId, null, label, actor);
        c.Execute("INSERT OR IGNORE INTO twin_different VALUES (@listId, @a, @b, @action)", new { listId, a, b, action });
        return new ActOutcome(label, 1, []);
    });

    /// <summary>The heading of the column that a household's name goes to.</summary>
    public const string AddressedTo = "Addressed to";

    /// <summary>Addresses one piece to households: the addressee gets the name of all in “Addressed to”, the others are held in every drop.</summary>
    /// <param name="households">The members of each, the addressee first; null for all that were found and are not addressed yet.</param>
    public ActOutcome Address(long listId, IReadOnlyList<IReadOnlyList<long>>? households, HouseholdForm form, Actor actor) => database.Write(c =>
    {
        var addressed = c.Query<long>("SELECT recipient_id FROM household_member WHERE list_id = @listId UNION SELECT addressee_id FROM household_member WHERE list_id = @listId", new { listId }).ToHashSet();
        households ??= [.. c.Query<string>("SELECT members_json FROM household_found WHERE list_id = @listId ORDER BY n", new { listId }).Select(j => JsonSerializer.Deserialize<long[]>(j)!).Where(m => !m.Any(addressed.Contains))];
        if (households.Count == 0 || households.Any(h => h.Count < 2)) throw new ConflictException("There is no household (any more) that is not addressed yet.");
        if (households.SelectMany(h => h).Any(addressed.Contains)) throw new ConflictException("Somebody of this household belongs to an addressed one already. Take that back first.");
        var label = $"Addressed one piece to {(households.Count == 1 ? "a household" : $"{households.Count:N0} households")}";
        var action = Actions.Begin(c, listId, null, label, actor);
        var column = RowTable.Columns(c, listId).FirstOrDefault(x => x.Name.Equals(AddressedTo, StringComparison.OrdinalIgnoreCase))?.Id ?? ColumnStore.Add(c, listId, AddressedTo, ColumnType.Text, Role.None, ColumnKind.Hand, null, null, action);
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        var (given, family) = (At(shape, Role.GivenName), At(shape, Role.FamilyName));
        var full = At(shape, Role.FullName);
        var edits = new List<CellEdit>();
        foreach (var members in households)
        {
            var people = ListStore.ByIds(c, listId, shape.Columns, [.. members]);
            var names = people.Select(p => given >= 0 || family >= 0 ? (given >= 0 ? p.Values[given] : null, family >= 0 ? p.Values[family] : null) : full >= 0 && p.Values[full] is { } whole ? (NameParts.Of(whole).Given, NameParts.Of(whole).Family) : (null, null)).ToList();
            edits.Add(new(members[0], column, HouseholdName.Of(names, form, shape.Surroundings.Locale.Tag)));
            c.Execute("INSERT INTO household_member VALUES (@listId, @id, @addressee, @action)", members.Skip(1).Select(id => new { listId, id, addressee = members[0], action }));
        }
        editor.Apply(c, shape, edits, actor, action);
        editor.SweepDrops(c, listId, [.. households.SelectMany(h => h)], actor);
        return new ActOutcome(label, households.Count, []);
    });

    static int At(ListShape shape, Role role) => shape.Columns.ToList().FindIndex(x => x.Role == role);

    static string Called(ListShape shape, RecipientRow row) => At(shape, Role.Key) is >= 0 and var key && row.Values[key] is { } code ? code : RecipientLabel.Of(shape.Columns, i => row.Values[i]).Name;
}
