using Bandeja.Core.Contact;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using Bandeja.Core.Matching;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Dapper;

namespace Bandeja.Store.Tests;

/// <summary>People over several lists, and how much mail they get at most.</summary>
public sealed class PeopleTests : IDisposable
{
    static readonly Column[] Columns =
    [
        new(1, "Name", ColumnType.Text, Role.FullName),
        new(2, "Street", ColumnType.Text, Role.Street),
        new(3, "ZIP", ColumnType.Text, Role.PostalCode),
        new(4, "Email", ColumnType.Text, Role.Email),
    ];
    static readonly DateOnly Today = new(2027, 3, 1);
    readonly World world = new();
    readonly PeopleRecognition recognition;
    readonly PeopleStore people;

    public PeopleTests()
    {
        recognition = new(world.Database);
        people = new(world.Database, recognition);
    }

    public void Dispose() => world.Dispose();

    ListSurroundings Surroundings => new(OrganizationLocale.UnitedStates, Today, _ => true);

    (long List, long[] Ids) Make(string name, params string?[][] rows)
    {
        var writer = new RowWriter(world.Database, name, $"{name}.csv", null, Columns, world.By());
        foreach (var row in rows)
            writer.Add([.. row]);
        writer.Finish([], null);
        using var c = world.Database.Open();
        return (writer.ListId, [.. c.Query<long>($"SELECT id FROM rows_{writer.ListId} ORDER BY n")]);
    }

    bool Look(long list) => recognition.Look(list, (_, _) => { }, default);

    long Person(long id)
    {
        using var c = world.Database.Open();
        return c.QuerySingle<long>("SELECT person_id FROM person_row WHERE recipient_id = @id", new { id });
    }

    void Set(long list, long id, int column, string? value) => world.Editor.Edit(list, [new(id, column, value)], "Changed", world.By());

    void Act(long drop, long id, DropEventKind kind) =>
        world.Bench.Act(drop, [id], kind, kind == DropEventKind.Held ? "asked us" : null, null, "Changed", world.By());

    [Fact]
    public void The_same_person_on_two_lists_is_one_and_can_be_separated_and_joined()
    {
        var (members, m) = Make(
            "Members",
            ["Ana Okafor", "12 Quay Road", "97412", null],
            ["Luis Ortega", "9 Elm Street", "97412", "luis@x.example"]
        );
        var (donors, d) = Make("Donors", ["Okafor, Ana", "12 Quay Rd.", "97412-1234", null], ["L. Ortega", "PO Box 3", "10001", null]);
        Assert.True(recognition.IsStale(donors));
        Look(members);
        Assert.True(Look(donors));
        Assert.False(recognition.IsStale(donors));
        var other = Assert.Single(people.Of(members, m[0]).Others);
        Assert.Equal((d[0], "Donors", "Same name and address"), (other.RecipientId, other.ListName, other.Why));
        Assert.Empty(people.Of(members, m[1]).Others);

        people.Separate(m[0], d[0], world.By());
        var view = people.Of(donors, d[0]);
        Assert.Empty(view.Others);
        Assert.Equal(m[0], Assert.Single(view.Different).RecipientId);
        // A change that would bring them together again does not.
        Set(donors, d[0], 4, "ana@x.example");
        Look(donors);
        Assert.Empty(people.Of(donors, d[0]).Others);

        people.Together(d[0], m[0], world.By());
        Assert.Equal(m[0], Assert.Single(people.Of(donors, d[0]).Others).RecipientId);
        people.Together(d[1], m[1], world.By());
        Assert.Equal("marked as the same person", Assert.Single(people.Of(members, m[1]).Others).Why);
        // What somebody said holds when values change.
        Set(donors, d[1], 1, "Somebody Else");
        Look(donors);
        Assert.Equal(Person(m[1]), Person(d[1]));
        Assert.Throws<BadInputException>(() => people.Together(d[0], d[0], world.By()));
        Assert.Throws<NotFoundException>(() => people.Separate(d[0], 99_999, world.By()));
        Assert.Equal(2, people.Find("okafor ANA").Count);
        Assert.Single(people.Find("luis@x"));
        Assert.Empty(people.Find("'; DROP TABLE person_row; --"));
        Assert.Empty(people.Find("  "));
    }

    [Fact]
    public void Looking_only_at_what_changed_comes_to_the_same_as_looking_at_all()
    {
        var random = new Random(21);
        string?[] names = ["Ana Okafor", "Ana Okafar", "Ana P. Okafor", "Marisol Ortega", "Luis Ortega", null];
        string?[] streets = ["12 Quay Road", "12 Quay Rd", "14 Quay Road", null];
        string?[] codes = ["97412", "97413", null];
        string?[] emails = [null, "a@x.example", "m@x.example"];
        string? Any(string?[] from) => from[random.Next(from.Length)];
        string?[] Row() => [Any(names), Any(streets), Any(codes), Any(emails)];
        var lists = Enumerable.Range(0, 3).Select(i => Make($"L{i}", [.. Enumerable.Range(0, 8).Select(_ => Row())])).ToArray();
        foreach (var (list, _) in lists)
            Look(list);
        for (var round = 0; round < 25; round++)
        {
            for (var n = random.Next(1, 5); n > 0; n--)
            {
                var (list, ids) = lists[random.Next(3)];
                var (id, column) = (ids[random.Next(ids.Length)], random.Next(1, 5));
                var value = Any(new[] { names, streets, codes, emails }[column - 1]);
                using var read = world.Database.Open();
                if (RowTable.Values(read, Columns, list, id)![column - 1] != value)
                    Set(list, id, column, value);
            }
            foreach (var (list, _) in lists)
                Look(list);
            using var c = world.Database.Open();
            var keys = new MatchKeys(Columns);
            var all = lists
                .SelectMany(l => l.Ids.Select(id => keys.Of(id, RowTable.Values(c, Columns, l.List, id)!)))
                .ToDictionary(r => r.Id);
            var pairs =
                from a in all.Values
                from b in all.Values
                where a.Id < b.Id && Duplicates.Same(a, b) is not null
                select new SamePair(a.Id, b.Id, 1);
            foreach (var (id, person) in SamePeople.Of([.. all.Keys], pairs, new HashSet<(long, long)>()))
                Assert.Equal(person, Person(id));
        }
    }

    long Drop(long list, string name, DateOnly date) =>
        world.Drops.CreateDrop(
            new CampaignStore(world.Database).Create(name, world.By()),
            name,
            list,
            [world.Design],
            date,
            world.By(),
            surroundings: Surroundings
        );

    void Sweep(long drop) => world.Database.Write(c => AutoHolds.Sweep(c, drop, null, Surroundings, world.By()));

    void Limit(params ContactLimit[] limits) => new SettingStore(world.Database).SetContactLimits(limits);

    (string Tray, string? Why) In(long drop, long id)
    {
        using var c = world.Database.Open();
        return c.QuerySingle<(string, string?)>(
            "SELECT tray, hold_reason FROM drop_recipient WHERE drop_id = @drop AND recipient_id = @id",
            new { drop, id }
        );
    }

    [Fact]
    public void A_piece_too_many_is_held_with_the_mail_that_was_the_reason()
    {
        var (members, m) = Make("Members", ["Ana Okafor", "12 Quay Road", "97412", null], ["Bo Li", "5 Elm Street", "97412", null]);
        var (donors, d) = Make("Donors", ["Ana Okafor", "12 Quay Rd", "97412", null], ["Cy Petrov", "7 Elm Street", "97412", null]);
        Look(members);
        Look(donors);
        Limit(new ContactLimit(Channel.Paper, 1, 30, ContactCount.Person));
        var first = Drop(members, "Renewal", new(2027, 3, 10));
        var second = Drop(donors, "Spring appeal", new(2027, 3, 20));
        var third = Drop(donors, "Summer appeal", new(2027, 4, 25));
        foreach (var drop in (long[])[first, second, third])
            Sweep(drop);
        Assert.Equal("Ready", In(first, m[0]).Tray);
        var (tray, why) = In(second, d[0]);
        Assert.Equal("Held", tray);
        Assert.Equal("Contact limit, 1 piece on paper in 30 days for a person: Renewal · Renewal, planned for March 10", why);
        Assert.Equal("Ready", In(second, d[1]).Tray);
        Assert.Equal("Ready", In(third, d[0]).Tray);

        // The one that matters more goes, and the other is held.
        world.Drops.SetPriority(second, MailPriority.First);
        Sweep(second);
        Sweep(first);
        Assert.Equal("Ready", In(second, d[0]).Tray);
        Assert.Equal("Held", In(first, m[0]).Tray);
        Assert.Contains("Spring appeal", In(first, m[0]).Why);
        // Somebody overrides it: it stays so.
        Act(first, m[0], DropEventKind.Released);
        Sweep(first);
        Assert.Equal("Ready", In(first, m[0]).Tray);

        // What goes in any case is never held, and counts.
        world.Drops.SetPriority(third, MailPriority.Always);
        world.Drops.Change(third, null, new(2027, 3, 22));
        Sweep(third);
        Assert.Equal("Ready", In(third, d[0]).Tray);
        Sweep(second);
        Assert.Contains("Summer appeal", In(second, d[0]).Why);
        Limit();
        Sweep(second);
        Assert.Equal("Ready", In(second, d[0]).Tray);
    }

    [Fact]
    public void A_household_counts_together_and_of_two_in_one_drop_the_first_gets_it()
    {
        var (members, m) = Make("Members", ["Ana Okafor", "12 Quay Road", "97412", null], ["Luis Okafor", "12 Quay Road", "97412", null]);
        Look(members);
        Limit(new ContactLimit(Channel.Both, 1, 10, ContactCount.Person));
        var drop = Drop(members, "Renewal", new(2027, 3, 10));
        Sweep(drop);
        Assert.Equal("Ready", In(drop, m[1]).Tray);
        Limit(new ContactLimit(Channel.Both, 1, 10, ContactCount.Household));
        Sweep(drop);
        Assert.Equal("Ready", In(drop, m[0]).Tray);
        Assert.Contains("another piece of this drop", In(drop, m[1]).Why);
        // The first does not get it: so the other does.
        Act(drop, m[0], DropEventKind.Held);
        Sweep(drop);
        Assert.Equal("Ready", In(drop, m[1]).Tray);
        // Of two of whom the first was held by the limit as well, one gets it once that lets go.
        Act(drop, m[0], DropEventKind.Released);
        var other = Drop(members, "Other", new(2027, 3, 9));
        world.Drops.SetPriority(other, MailPriority.Always);
        Sweep(drop);
        Assert.Equal(("Held", "Held"), (In(drop, m[0]).Tray, In(drop, m[1]).Tray));
        Act(other, m[0], DropEventKind.Held);
        Sweep(drop);
        Assert.Equal(("Ready", "Held"), (In(drop, m[0]).Tray, In(drop, m[1]).Tray));
        // A limit of emails does not count letters.
        Limit(new ContactLimit(Channel.Email, 1, 10, ContactCount.Household));
        Sweep(drop);
        Assert.Equal("Ready", In(drop, m[0]).Tray);
        Assert.Equal("Ready", In(drop, m[1]).Tray);
    }

    [Fact]
    public void Whom_a_drop_kept_back_stays_held_once_it_is_mailed()
    {
        var (members, m) = Make("Members", ["Ana Okafor", "12 Quay Road", "97412", null], ["Bo Li", "5 Elm Street", "97412", null]);
        var (donors, d) = Make("Donors", ["Ana Okafor", "12 Quay Rd", "97412", null], ["Cy Petrov", "7 Elm Street", "97412", null]);
        Look(members);
        Look(donors);
        Limit(new ContactLimit(Channel.Paper, 1, 30, ContactCount.Person));
        var (first, second) = (Drop(members, "Renewal", new(2027, 3, 2)), Drop(donors, "Appeal", new(2027, 3, 4)));
        Sweep(second);
        Assert.Equal("Held", In(second, d[0]).Tray);
        string Mark()
        {
            using var c = world.Database.Open();
            return ContactHolds.Mark(c, DropStore.Drop(c, second), Today);
        }
        var before = Mark();
        world.Database.Write(c =>
            DropEvents.Append(
                c,
                second,
                [(d[1], new(DropEventKind.Produced)), (d[1], new(DropEventKind.Mailed, Date: new(2027, 3, 4)))],
                world.By(),
                null
            )
        );
        Assert.NotEqual(before, Mark());
        // What was the reason is no more, and nothing changes: the appeal is over.
        Act(first, m[0], DropEventKind.Held);
        Sweep(second);
        Assert.Equal("Held", In(second, d[0]).Tray);
        Assert.Contains("Renewal", In(second, d[0]).Why);
        Assert.Equal("over", Mark());
    }

    [Fact]
    public void Two_that_are_marked_as_not_duplicates_are_two_people_until_that_is_undone()
    {
        var (members, m) = Make("Members", ["Ana Okafor", "12 Quay Road", "97412", null], ["Ana Okafor", "12 Quay Rd", "97412", null]);
        Look(members);
        Assert.Equal(Person(m[0]), Person(m[1]));
        new DuplicateStore(world.Database, world.Editor).Different(members, m[0], m[1], world.By());
        Assert.NotEqual(Person(m[0]), Person(m[1]));
        new ListUndo(world.Database, world.Editor).UndoLast(members, world.By());
        Assert.Equal(Person(m[0]), Person(m[1]));
    }

    [Fact]
    public void What_limits_look_at_has_a_mark_that_changes_with_it()
    {
        var (members, m) = Make("Members", ["Ana Okafor", "12 Quay Road", "97412", null]);
        Look(members);
        var (a, b) = (Drop(members, "A", new(2027, 3, 10)), Drop(members, "B", new(2027, 3, 12)));
        string Mark(long drop)
        {
            using var c = world.Database.Open();
            return ContactHolds.Mark(c, DropStore.Drop(c, drop), Today);
        }
        Assert.Equal("", Mark(b));
        Limit(new ContactLimit(Channel.Paper, 1, 30, ContactCount.Person));
        var marks = new HashSet<string>();
        void Changed() => Assert.True(marks.Add(Mark(b)));
        Changed();
        Act(a, m[0], DropEventKind.Held);
        Changed();
        Act(a, m[0], DropEventKind.Released);
        Changed();
        world.Drops.SetPriority(a, MailPriority.Last);
        Changed();
        world.Drops.Change(a, null, new(2027, 3, 11));
        Changed();
        Set(members, m[0], 2, "14 Quay Road");
        Look(members);
        Changed();
        Assert.False(marks.Add(Mark(b)));
    }

    [Fact]
    public void Erased_people_are_nobody_any_more()
    {
        var (members, m) = Make("Members", ["Ana Okafor", "12 Quay Road", "97412", null]);
        var (donors, d) = Make("Donors", ["Ana Okafor", "12 Quay Rd", "97412", null]);
        Look(members);
        Look(donors);
        Assert.NotEmpty(people.Of(donors, d[0]).Others);
        new Removals(world.Database).ErasePeople(members, world.By());
        Look(members);
        Assert.Empty(people.Of(donors, d[0]).Others);
        Assert.Single(people.Find("okafor"));
        new Removals(world.Database).RemoveList(donors);
        Assert.Empty(people.Find("okafor"));
        Assert.False(Look(donors));
        Assert.NotEqual(0, m[0]);
    }
}
