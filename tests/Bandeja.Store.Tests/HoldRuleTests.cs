using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Store.Tests;

/// <summary>Holds by rule: whatever happens to the list, its segments and the suppression lists, the trays add up and say why.</summary>
public sealed class HoldRuleTests
{
    static readonly DropEvent[] Events =
    [
        new(DropEventKind.Held, "by hand"),
        new(DropEventKind.Held, "Do not mail: asked", ["suppression"]),
        new(DropEventKind.Released, "by hand"),
        new(DropEventKind.Released, null, [AutoHolds.ByRule]),
    ];

    [Fact]
    public void A_hold_knows_its_rule_and_a_release_by_a_person_is_remembered()
    {
        var held = RecipientState.Start.After(Events[1]);
        Assert.Equal(("suppression", Tray.Held), (held.HoldRule, held.Tray));
        var let = held.After(Events[2]);
        Assert.Equal((null, Tray.Ready, "suppression"), (let.HoldRule, let.Tray, Assert.Single(let.Overruled)));
        var gone = held.After(Events[3]);
        Assert.Empty(gone.Overruled);
        Assert.Empty(RecipientState.Start.After(Events[0]).After(Events[2]).Overruled);
        Assert.Null(RecipientState.Start.After(Events[0]).HoldRule);
    }

    static IReadOnlyList<long> Who(HoldGroups groups, long drop, HoldGroup group)
    {
        var ids = groups.Recipients(drop, group.Reason);
        Assert.Equal(group.Count, ids.Count);
        // What stands on each adds up, too.
        if (group.Each.Count > 0)
            Assert.Equal(group.Count, group.Each.Sum(e => e.Count));
        return ids;
    }

    /// <summary>Random acts on list, segment, suppression and bench; after each the trays are what the events say, and the rules
    /// hold.</summary>
    [Property(MaxTest = 15)]
    public Property The_trays_always_add_up() =>
        Prop.ForAll(
            Gen.Choose(0, 999).ListOf().Where(l => l.Count is > 2 and < 14).ToArbitrary(),
            acts =>
            {
                using var w = new World(8);
                new ColumnStore(w.Database, w.Editor).Change(w.List, 2, new(Role: Role.Key), w.By());
                var (suppressions, segments, undo) = (
                    new SuppressionStore(w.Database),
                    new SegmentStore(w.Database),
                    new ListUndo(w.Database, w.Editor)
                );
                var suppression = suppressions.Create("No", w.By());
                var segment = segments.Add(w.List, "Cork", "City = \"Cork\"", "", w.By());
                var drop = w.Drops.CreateDrop(1, "Cork", w.List, [w.Design], null, w.By(), segment, w.Editor.Surroundings);
                var ids = w.Ids();
                var suppressed = new HashSet<int>();
                foreach (var n in acts)
                {
                    var who = n % 8;
                    try
                    {
                        switch (n / 8 % 7)
                        {
                            case 0:
                                w.Editor.Edit(w.List, [new(ids[who], 4, n % 3 == 0 ? "Cork" : "Malmö")], "city", w.By());
                                break;
                            case 1:
                                w.Editor.Edit(
                                    w.List,
                                    [new(ids[who], ListEditor.OnTheList, n % 2 == 0 ? null : "yes")],
                                    "off or on",
                                    w.By()
                                );
                                break;
                            case 2:
                                if (suppressed.Add(who))
                                    suppressions.Add(suppression, [new(Key: $"Family{who + 1:000}", Reason: "asked")], w.By());
                                break;
                            case 3:
                                w.Bench.Act(
                                    drop,
                                    [ids[who]],
                                    n % 2 == 0 ? DropEventKind.Held : DropEventKind.Released,
                                    "by hand",
                                    null,
                                    "Act",
                                    w.By()
                                );
                                break;
                            case 4:
                                segments.Tick(segment, [ids[who]], n % 3 == 0 ? null : n % 2 == 0);
                                break;
                            case 5:
                                if (undo.Next(w.List).Undo?.StartsWith("Edited column", StringComparison.Ordinal) == false)
                                    undo.UndoLast(w.List, w.By());
                                break;
                            default:
                                undo.Redo(w.List, w.By());
                                break;
                        }
                    }
                    catch (ConflictException) { } // it makes no sense now
                    w.Database.Write(c => AutoHolds.Sweep(c, drop, null, w.Editor.Surroundings, w.By("Bandeja")));
                    Assert.Equal(8, w.Drops.Trays(drop).Values.Sum());
                    using var c = w.Database.Open();
                    foreach (var (id, tray) in DropEvents.Replay(c, drop))
                        Assert.Contains(id, w.Rows.Ids(drop, new(tray)));
                    // Each who is held stands under one reason, and under no other.
                    var groups = new HoldGroups(w.Database);
                    Assert.Equal(w.Rows.Ids(drop, new(Tray.Held)).Order(), groups.Of(drop).SelectMany(g => Who(groups, drop, g)).Order());
                    // Nobody whom a rule keeps out is Ready, unless somebody has said so.
                    var states = DropEvents.States(c, drop, ids);
                    foreach (var row in w.Rows.Page(drop, new(), 0, 100).Rows.Where(r => r.HoldReason is null))
                        if (suppressed.Contains(int.Parse(row.Values[1]![6..], System.Globalization.CultureInfo.InvariantCulture) - 1))
                            Assert.NotEmpty(states[row.Id].Overruled);
                    // Swept again, nothing changes.
                    var events = w.History.OfDrop(drop).Count;
                    w.Database.Write(x => AutoHolds.Sweep(x, drop, null, w.Editor.Surroundings, w.By("Bandeja")));
                    Assert.Equal(events, w.History.OfDrop(drop).Count);
                }
            }
        );

    [Fact]
    public void People_are_recognized_by_key_email_or_name_and_address()
    {
        using var w = new World(1);
        var store = new SuppressionStore(w.Database);
        var list = store.Create("No", w.By());
        store.Add(
            list,
            [
                new(Key: "M-1"),
                new(Email: "ANA@example.org"),
                new(Name: "Okafor, Ana", Street: "9 Tide Street Apt 4", PostalCode: "97412-1234", Reason: "moved", Until: new(2027, 3, 1)),
            ],
            w.By()
        );
        using var c = w.Database.Open();
        var today = new SuppressionMatcher(c, new(2027, 3, 1));
        Core.Matching.MatchKeys keys = new(
            [
                new(1, "K", ColumnType.Text, Role.Key),
                new(2, "E", ColumnType.Text, Role.Email),
                new(3, "N", ColumnType.Text, Role.FullName),
                new(4, "S", ColumnType.Text, Role.Street),
                new(5, "Z", ColumnType.Text, Role.PostalCode),
            ]
        );
        Assert.Equal("no reason given", today.Find(keys.Of(1, ["m-1 "]))!.Value.Reason);
        Assert.NotNull(today.Find(keys.Of(1, [null, " ana@EXAMPLE.org"])));
        Assert.Equal(
            "moved (until Mar 1, 2027)",
            today.Find(keys.Of(1, [null, null, "Ana Okafor", "9 tide st #4", "97412"]))!.Value.Reason
        );
        Assert.Null(today.Find(keys.Of(1, [null, null, "Ana Okafor"])));
        Assert.Null(today.Find(keys.Of(1, ["M-2", "per@example.org", "Per Nowak", "9 tide st #4", "97412"])));
        Assert.Null(new SuppressionMatcher(c, new(2027, 3, 2)).Find(keys.Of(1, [null, null, "Ana Okafor", "9 tide st #4", "97412"])));
        var (rows, total) = store.Entries(list, "ana", 0, 10);
        Assert.Equal((2, 2), (rows.Count, total));
        Assert.Equal(3, store.All().Single().Entries);
    }

    [Fact]
    public void A_list_is_sorted_by_several_columns_and_counted_without_being_read()
    {
        using var w = new World();
        string[] Names(string sorts) => [.. w.Lists.Page(w.List, new(Sorts: sorts), null, 0, 4).Rows.Select(r => r.Values[1]!)];
        Assert.Equal(["Family002", "Family004", "Family006", "Family008"], Names("4,2"));
        Assert.Equal(["Family010", "Family008", "Family006", "Family004"], Names("4,-2"));
        Assert.Equal(["Family009", "Family007", "Family005", "Family003"], Names("-4,-3"));
        Assert.Equal(["Family001", "Family002", "Family003", "Family004"], Names("99,x,--,"));
        Assert.Equal(10, w.Lists.Count(w.List, new(), null));
        Assert.Equal(5, w.Lists.Count(w.List, new("cork"), null));
        Assert.Equal(w.Lists.Ids(w.List, new(Sorts: "-2"), null), [.. w.Lists.Ids(w.List, new(), null).Reverse()]);
        Assert.Equal(["Family010", "Family001"], w.Lists.Rows(w.List, [w.Ids()[9], w.Ids()[0]]).Select(r => r.Values[1]));
    }
}
