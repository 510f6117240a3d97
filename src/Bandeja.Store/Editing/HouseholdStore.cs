using System.Text.Json;
using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Core.Recognition;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>Somebody at an address.</summary>
/// <param name="Belongs">True where they belong to the household; always false before one was addressed.</param>
/// <param name="Apart">Why the piece is not addressed to them though they belong; null where it is.</param>
public sealed record HouseholdMember(RecipientRow Row, bool Belongs, string? Apart);

/// <summary>Recipients at the same address.</summary>
/// <param name="Id">The household; null where none was addressed yet.</param>
/// <param name="Name">The name of all; null where fewer than two are addressed.</param>
public sealed record HouseholdView(long? Id, IReadOnlyList<HouseholdMember> Members, HouseholdForm Form, string? Name);

/// <summary>A household of a drop of which nobody gets a piece.</summary>
/// <param name="Members">Each member with the reason.</param>
public sealed record HouseholdWithout(long Id, string Address, IReadOnlyList<HouseholdReason> Members);

/// <summary>Why a member of a household gets no piece.</summary>
public sealed record HouseholdReason(long RecipientId, string Name, string Why);

/// <summary>
/// Households: people at one address who get one piece. Who belongs is stored; who the piece is addressed to is looked at anew with every
/// change of a member. The name of all stands in a column with the role “addressed to”, so letters, envelopes, labels, emails, and what a
/// run froze all have it; in each drop the first member who can get the piece does (<see cref="AutoHolds"/>).
/// </summary>
public sealed class HouseholdStore(Database database, ListEditor editor)
{
    /// <summary>The heading of the column that a household's name goes to.</summary>
    public const string AddressedTo = "Addressed to";

    /// <summary>A part of the households that were found or addressed.</summary>
    public IReadOnlyList<HouseholdView> Page(long listId, int offset, int limit)
    {
        using var c = database.Open();
        var columns = RowTable.Columns(c, listId);
        var belonging = c.Query<(long Recipient, long Household, string? Apart)>(
                "SELECT recipient_id, household_id, apart FROM household_person WHERE list_id = @listId ORDER BY household_id, position",
                new { listId }
            )
            .ToList();
        var of = belonging.ToDictionary(b => b.Recipient, b => b.Household);
        var found = c.Query<string>("SELECT members_json FROM household_found WHERE list_id = @listId ORDER BY n", new { listId })
            .Select(j => JsonSerializer.Deserialize<long[]>(j)!)
            .ToList();
        var homes = c.Query<(long Id, string Form, string? Named)>(
                "SELECT id, form, named FROM household WHERE list_id = @listId",
                new { listId }
            )
            .ToDictionary(h => h.Id);
        var ids = found
            .Select(members => (Household: members.Where(of.ContainsKey).Select(m => (long?)of[m]).FirstOrDefault(), Found: members))
            .Concat(homes.Keys.Order().Select(h => (Household: (long?)h, Found: Array.Empty<long>())))
            .DistinctBy(h => h.Household is { } id ? (id, 0L) : (-1, h.Found[0]))
            .ToList();
        return
        [
            .. ids.Skip(offset)
                .Take(limit)
                .Select(h =>
                {
                    if (h.Household is not { } id)
                        return new HouseholdView(
                            null,
                            [.. ListStore.ByIds(c, listId, columns, h.Found).Select(r => new HouseholdMember(r, false, null))],
                            HouseholdForm.GivenNames,
                            null
                        );
                    var members = belonging.Where(b => b.Household == id).ToList();
                    var rows = ListStore.ByIds(
                        c,
                        listId,
                        columns,
                        [
                            .. members.Select(m => m.Recipient),
                            .. h.Found.Except(members.Select(m => m.Recipient)).Where(f => !of.ContainsKey(f)),
                        ]
                    );
                    return new HouseholdView(
                        id,
                        [
                            .. rows.Select(r =>
                                members.FirstOrDefault(m => m.Recipient == r.Id) is { Recipient: > 0 } m
                                    ? new HouseholdMember(r, true, m.Apart)
                                    : new HouseholdMember(r, false, null)
                            ),
                        ],
                        Enum.Parse<HouseholdForm>(homes[id].Form),
                        homes[id].Named
                    );
                }),
        ];
    }

    /// <summary>How many households there are to address, and how many are addressed.</summary>
    internal static (int Open, int Addressed) Counts(SqliteConnection c, long listId) =>
        c.QuerySingle<(int, int)>(
            """
            SELECT (SELECT count(*) FROM household_found f WHERE f.list_id = @listId AND NOT EXISTS (SELECT 1
                FROM json_each(f.members_json) m JOIN household_person p ON p.list_id = @listId AND p.recipient_id = m.value)),
                   (SELECT count(*) FROM household WHERE list_id = @listId)
            """,
            new { listId }
        );

    /// <summary>Addresses one piece to households.</summary>
    /// <param name="households">The members of each in order; null for all that were found and are not addressed yet.</param>
    /// <exception cref="ConflictException">There is none, or somebody belongs to another one.</exception>
    public ActOutcome Address(long listId, IReadOnlyList<IReadOnlyList<long>>? households, HouseholdForm form, Actor actor) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            var taken = c.Query<long>("SELECT recipient_id FROM household_person WHERE list_id = @listId", new { listId }).ToHashSet();
            households ??=
            [
                .. c.Query<string>("SELECT members_json FROM household_found WHERE list_id = @listId ORDER BY n", new { listId })
                    .Select(j => JsonSerializer.Deserialize<long[]>(j)!)
                    .Where(m => !m.Any(taken.Contains)),
            ];
            if (households.Count == 0)
                throw new ConflictException("There are no households left to combine.");
            if (households.Any(h => h.Distinct().Count() < 2))
                throw new ConflictException("A household has at least two members.");
            if (households.SelectMany(h => h).FirstOrDefault(taken.Contains) is > 0)
                throw new ConflictException("One of these already belongs to another household. Remove them from it first.");
            if (households.SelectMany(h => h).GroupBy(m => m).Any(g => g.Count() > 1))
                throw new ConflictException("One of these is in two households.");
            var label = $"Combined into one piece: {(households.Count == 1 ? "a household" : $"{households.Count:N0} households")}";
            var action = Actions.Begin(c, listId, null, label, actor);
            Column(c, listId, action);
            foreach (var members in households)
            {
                var id = c.QuerySingle<long>(
                    "INSERT INTO household (list_id, form) VALUES (@listId, @form) RETURNING id",
                    new { listId, form = form.ToString() }
                );
                Put(c, listId, id, new(form.ToString(), null, [.. members.Distinct()]), action);
            }
            After(c, listId, [.. households.SelectMany(h => h)], actor, action);
            return new ActOutcome(label, households.Count, []);
        });

    /// <summary>Changes who belongs to a household, in which order, and how it is addressed. With fewer than two members it is one no
    /// more.</summary>
    public ActOutcome Change(long householdId, IReadOnlyList<long> members, HouseholdForm form, Actor actor) =>
        database.Write(c =>
        {
            var listId =
                c.QuerySingleOrDefault<long?>("SELECT list_id FROM household WHERE id = @householdId", new { householdId })
                ?? throw new NotFoundException("This household no longer exists.");
            var before = State(c, householdId)!;
            var now = members.Distinct().ToArray();
            if (
                now.Length > 0
                && c.QuerySingle<long>($"SELECT count(*) FROM {RowTable.Name(listId)} WHERE id {IdSet.In}", new { ids = IdSet.Json(now) })
                    != now.Length
            )
                throw new NotFoundException("One of these is not on the list.");
            if (
                now.Length > 0
                && c.QueryFirstOrDefault<long?>(
                    "SELECT recipient_id FROM household_person WHERE list_id = @listId AND household_id <> @householdId AND "
                        + $"recipient_id {IdSet.In} LIMIT 1",
                    new
                    {
                        listId,
                        householdId,
                        ids = IdSet.Json(now),
                    }
                )
                    is not null
            )
                throw new ConflictException("One of these already belongs to another household. Remove them from it first.");
            var label = now.Length < 2 ? "Addressed the members of a household one by one" : "Changed a household";
            var action = Actions.Begin(c, listId, null, label, actor);
            Put(c, listId, householdId, now.Length < 2 ? null : new(form.ToString(), null, now), action);
            After(c, listId, [.. before.Members.Union(now)], actor, action);
            return new ActOutcome(label, 1, []);
        });

    sealed record Stored(string Form, string? Named, long[] Members);

    static Stored? State(SqliteConnection c, long householdId) =>
        c.QuerySingleOrDefault<(string Form, string? Named)?>(
            "SELECT form, named FROM household WHERE id = @householdId",
            new { householdId }
        )
            is { } home
            ? new(
                home.Form,
                home.Named,
                [
                    .. c.Query<long>(
                        "SELECT recipient_id FROM household_person WHERE household_id = @householdId ORDER BY position",
                        new { householdId }
                    ),
                ]
            )
            : null;

    /// <summary>Brings a household into a state, and logs what it was.</summary>
    static void Put(SqliteConnection c, long listId, long householdId, Stored? to, long actionId)
    {
        var from = State(c, householdId);
        if (from?.Members.Length == 0)
            from = null;
        if (to is null)
            c.Execute(
                "DELETE FROM household_person WHERE household_id = @householdId; DELETE FROM household WHERE id = @householdId",
                new { householdId }
            );
        else
        {
            c.Execute(
                "INSERT INTO household (id, list_id, form) VALUES (@householdId, @listId, @Form) ON CONFLICT (id) DO UPDATE SET "
                    + "form = excluded.form, named = NULL; DELETE FROM household_person WHERE household_id = @householdId",
                new
                {
                    householdId,
                    listId,
                    to.Form,
                }
            );
            c.Execute(
                "INSERT INTO household_person (list_id, recipient_id, household_id, position) VALUES (@listId, @id, @householdId, "
                    + "@position)",
                to.Members.Select(
                    (id, position) =>
                        new
                        {
                            listId,
                            id,
                            householdId,
                            position,
                        }
                )
            );
        }
        c.Execute(
            "INSERT INTO household_change (household_id, list_id, old_json, new_json, action_id) VALUES (@householdId, @listId, "
                + "@from, @to, @actionId)",
            new
            {
                householdId,
                listId,
                from = from is null ? null : JsonSerializer.Serialize(from),
                to = to is null ? null : JsonSerializer.Serialize(to),
                actionId,
            }
        );
    }

    /// <summary>Undoes what an act did to households. One that was changed again since stays as it is.</summary>
    /// <returns>The recipients that were or are concerned, and how many households stayed.</returns>
    internal static (IReadOnlyList<long> Recipients, int Stayed) Undo(SqliteConnection c, long listId, long actionId, long undo)
    {
        var (recipients, stayed) = (new HashSet<long>(), 0);
        foreach (
            var change in c.Query<(long Household, string? Old, string? New)>(
                    "SELECT household_id, old_json, new_json FROM household_change WHERE action_id = @actionId ORDER BY id DESC",
                    new { actionId }
                )
                .ToList()
        )
        {
            static Stored? Read(string? json) => json is null ? null : JsonSerializer.Deserialize<Stored>(json, JsonSerializerOptions.Web);
            var (old, made, now) = (Read(change.Old), Read(change.New), State(c, change.Household));
            var free =
                old is null
                || c.QuerySingle<long>(
                    "SELECT count(*) FROM household_person WHERE list_id = @listId AND household_id <> @Household AND recipient_id "
                        + IdSet.In,
                    new
                    {
                        listId,
                        change.Household,
                        ids = IdSet.Json(old.Members),
                    }
                ) == 0;
            if (!free || (now is null) != (made is null) || now is not null && !now.Members.SequenceEqual(made!.Members))
            {
                stayed++;
                continue;
            }
            Put(c, listId, change.Household, old, undo);
            recipients.UnionWith([.. old?.Members ?? [], .. now?.Members ?? []]);
        }
        return ([.. recipients], stayed);
    }

    static int Column(SqliteConnection c, long listId, long actionId)
    {
        var columns = RowTable.Columns(c, listId);
        if (columns.FirstOrDefault(x => x.Role == Role.AddressedTo) is { Kind: not ColumnKind.Computed } own)
            return own.Id;
        // A column called so that came with the file stays as it is: what stands in it is not ours.
        var name = AddressedTo;
        for (var n = 2; columns.Any(x => x.Name.Equals(name, StringComparison.OrdinalIgnoreCase)); n++)
            name = $"{AddressedTo} {n}";
        return ColumnStore.Add(c, listId, name, ColumnType.Text, Role.AddressedTo, ColumnKind.Hand, null, null, actionId);
    }

    void After(SqliteConnection c, long listId, IReadOnlyList<long> recipients, Actor actor, long actionId)
    {
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        var touched = recipients.ToHashSet();
        // Whoever left a household has no part in its name any more.
        if (shape.Columns.FirstOrDefault(x => x.Role == Role.AddressedTo) is { } column)
        {
            var alone = c.Query<long>(
                    $"SELECT id FROM {RowTable.Name(listId)} r WHERE id {IdSet.In} AND "
                        + $"{RowTable.Cell(column.Id)} IS NOT NULL AND NOT EXISTS (SELECT 1 FROM household_person p WHERE p.list_id = "
                        + "@listId AND p.recipient_id = r.id)",
                    new { listId, ids = IdSet.Json(touched) }
                )
                .ToList();
            if (alone.Count > 0)
                editor.Apply(c, shape, [.. alone.Select(id => new CellEdit(id, column.Id, null))], actor, actionId);
        }
        editor.Apply(c, shape, Renamed(c, shape, recipients), actor, actionId);
        editor.SweepDrops(c, listId, recipients, actor);
    }

    /// <summary>
    /// Looks at the households of some recipients anew: who lives together and can get mail, and what they are called. Answers the cells to
    /// change by it. A name that a person wrote stays as long as the members and their names are the same.
    /// </summary>
    /// <param name="recipients">Recipients that changed; null for all.</param>
    internal static IReadOnlyList<CellEdit> Renamed(SqliteConnection c, ListShape shape, IReadOnlyList<long>? recipients)
    {
        var theirs = recipients is null
            ? ""
            : " AND id IN (SELECT household_id FROM household_person WHERE list_id = @ListId AND recipient_id " + $"{IdSet.In})";
        var homes = c.Query<(long Id, string Form, string? Named)>(
                $"SELECT id, form, named FROM household WHERE list_id = @ListId{theirs}",
                new { shape.ListId, ids = IdSet.Json(recipients ?? []) }
            )
            .ToList();
        if (homes.Count == 0)
            return [];
        int At(Role role) => shape.Columns.ToList().FindIndex(x => x.Role == role);
        var (given, family, full, name) = (At(Role.GivenName), At(Role.FamilyName), At(Role.FullName), At(Role.AddressedTo));
        var keys = new MatchKeys(shape.Columns);
        var suppression = new SuppressionMatcher(c, shape.Surroundings.Today);
        using var rows = new RowUpdater(c, shape);
        var edits = new List<CellEdit>();
        foreach (var home in homes)
        {
            var members = c.Query<(long Id, string? Apart)>(
                    "SELECT recipient_id, apart FROM household_person WHERE household_id = @Id ORDER BY position",
                    new { home.Id }
                )
                .ToList();
            var people = new List<HouseholdPerson>();
            var called = new Dictionary<long, string?>();
            foreach (var (id, _) in members)
            {
                if (rows.Read(id) is not { } row)
                    continue;
                var match = keys.Of(id, row.Values);
                var (first, last) =
                    given >= 0 || family >= 0 ? (given >= 0 ? row.Values[given] : null, family >= 0 ? row.Values[family] : null)
                    : full >= 0 && row.Values[full] is { } whole ? (NameParts.Of(whole).Given, NameParts.Of(whole).Family)
                    : (null, null);
                people.Add(new(id, first, last, match.Address, row.Gone, suppression.Find(match)?.Reason));
                called[id] = name >= 0 ? row.Values[name] : null;
            }
            var addressing = HouseholdAddressing.Of(people, Enum.Parse<HouseholdForm>(home.Form), shape.Surroundings.Locale.Tag);
            var apart = addressing.Apart.ToDictionary(a => a.Id, a => a.Why);
            foreach (var (id, before) in members)
                if (apart.GetValueOrDefault(id) != before)
                    c.Execute(
                        "UPDATE household_person SET apart = @why WHERE list_id = @ListId AND recipient_id = @id",
                        new
                        {
                            why = apart.GetValueOrDefault(id),
                            shape.ListId,
                            id,
                        }
                    );
            if (addressing.Name != home.Named)
                c.Execute("UPDATE household SET named = @Name WHERE id = @Id", new { addressing.Name, home.Id });
            if (name < 0)
                continue;
            foreach (var (id, now) in called)
            {
                var wanted = apart.ContainsKey(id) ? null : addressing.Name;
                // The same name as last time, and something else in the cell: a person wrote that.
                if (now != wanted && !(wanted is not null && wanted == home.Named && now is not null))
                    edits.Add(new(id, shape.Columns[name].Id, wanted));
            }
        }
        return edits;
    }

    /// <summary>Looks at all households of a list anew, as after a change of the suppression lists.</summary>
    internal static void EvaluateAll(SqliteConnection c, long listId, ListEditor editor, Actor actor)
    {
        if (c.QuerySingle<long>("SELECT count(*) FROM household WHERE list_id = @listId", new { listId }) == 0)
            return;
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        var edits = Renamed(c, shape, null);
        if (edits.Count > 0)
            editor.Apply(c, shape, edits, actor, Actions.Begin(c, listId, null, "Checked households again", actor, byItself: true));
    }

    /// <summary>A mark that changes with who belongs to which household, and why somebody is apart.</summary>
    public static string Mark(SqliteConnection c, long listId) =>
        c.QuerySingle<string>(
            "SELECT count(*) || '/' || coalesce(sum(recipient_id * (household_id % 1000 + 1) * (position + 1)), 0) || '/' || "
                + "count(apart) FROM household_person WHERE list_id = @listId",
            new { listId }
        );

    /// <summary>Households of which nobody gets a piece of a drop, each member with the reason.</summary>
    public IReadOnlyList<HouseholdWithout> Without(long dropId, int limit = 200)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var columns = RowTable.Columns(c, drop.ListId);
        var ids = c.Query<long>(
                """
                SELECT p.household_id FROM household_person p LEFT JOIN drop_recipient d
                    ON d.drop_id = @dropId AND d.recipient_id = p.recipient_id
                WHERE p.list_id = @ListId GROUP BY p.household_id HAVING sum(d.tray IS NOT NULL AND d.tray <> 'Held') = 0
                    AND count(d.tray) > 0 ORDER BY p.household_id LIMIT @limit
                """,
                new
                {
                    dropId,
                    drop.ListId,
                    limit,
                }
            )
            .ToList();
        return
        [
            .. ids.Select(id =>
            {
                var members = c.Query<(long Recipient, string? Why)>(
                        "SELECT p.recipient_id, coalesce(d.hold_reason, p.apart, 'not in this drop') FROM household_person p LEFT "
                            + "JOIN drop_recipient d ON d.drop_id = @dropId AND d.recipient_id = p.recipient_id WHERE p.household_id "
                            + "= @id ORDER BY p.position",
                        new { dropId, id }
                    )
                    .ToDictionary(m => m.Recipient, m => m.Why);
                var rows = ListStore.ByIds(c, drop.ListId, columns, [.. members.Keys]);
                return new HouseholdWithout(
                    id,
                    RecipientLabel.Of(columns, i => rows[0].Values[i]).Place,
                    [.. rows.Select(r => new HouseholdReason(r.Id, RecipientLabel.Of(columns, i => r.Values[i]).Name, members[r.Id] ?? ""))]
                );
            }),
        ];
    }
}
