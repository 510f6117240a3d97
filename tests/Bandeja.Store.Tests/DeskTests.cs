using Bandeja.Core.Checks;
using Bandeja.Core.Drops;
using Bandeja.Core.Formulas;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Store.Tests;

/// <summary>Editing a list: what follows from an edit, taking it back, columns, fixes, duplicates, suppression, segments.</summary>
public sealed class DeskTests
{
    static IReadOnlyList<RecipientRow> Rows(World w) => w.Lists.Page(w.List, new(), null, 0, 1000).Rows;

    static string Picture(World w) => string.Join('\n', Rows(w).Select(r => $"{r.Id}:{string.Join('|', r.Values)}"));

    static ListUndo Undo(World w) => new(w.Database, w.Editor);

    static ColumnStore Columns(World w) => new(w.Database, w.Editor);

    static CheckIssues Issues(World w) => new(w.Database, w.Editor);

    static HouseholdStore Households(World w) => new(w.Database, w.Editor);

    static DuplicateStore Duplicates(World w) => new(w.Database, w.Editor);

    /// <summary>Any row of edits, taken back one by one, gives back the list as it was; done again, what it had become.</summary>
    [Property(MaxTest = 25)]
    public Property Undo_gives_back_and_redo_gives_again() =>
        Prop.ForAll(
            (
                from row in Gen.Choose(0, 9)
                from column in Gen.Choose(1, 4)
                from value in Gen.Elements("Zoë", "12", null, " x ", "N/A")
                select (row, column, value)
            )
                .ListOf()
                .Where(l => l.Count is > 0 and < 8)
                .ToArbitrary(),
            edits =>
            {
                using var w = new World();
                var pictures = new List<string> { Picture(w) };
                var ids = Rows(w).Select(r => r.Id).ToList();
                foreach (var (row, column, value) in edits)
                {
                    try
                    {
                        if (column == 4 && value is null)
                            w.Editor.Edit(w.List, [new(ids[row], ListEditor.OnTheList, null)], "off", w.By());
                        else
                            w.Editor.Edit(w.List, [new(ids[row], column, value), new(ids[(row + 1) % 10], column, value)], "edit", w.By());
                        pictures.Add(Picture(w));
                    }
                    catch (ConflictException) { } // nothing would change
                }
                for (var i = pictures.Count - 2; i >= 0; i--)
                {
                    Undo(w).UndoLast(w.List, w.By());
                    Assert.Equal(pictures[i], Picture(w));
                }
                for (var i = 1; i < pictures.Count; i++)
                {
                    Undo(w).Redo(w.List, w.By());
                    Assert.Equal(pictures[i], Picture(w));
                }
                w.MustAddUp();
            }
        );

    [Fact]
    public void A_fix_is_logged_with_why_and_its_undo_gives_back_the_original()
    {
        using var w = new World();
        var before = Picture(w);
        w.Editor.Edit(w.List, [new(Rows(w)[0].Id, 2, "FAMILY NAME"), new(Rows(w)[1].Id, 2, "  Spaced  ")], "spoil", w.By());
        var spoilt = Picture(w);
        Issues(w).CheckAll(w.List, (_, _) => { }, default);
        Assert.Equal(
            (1, 1),
            (
                Issues(w).Groups(w.List).Single(g => g.Kind == CheckKind.Capitals).Fixable,
                Issues(w).Groups(w.List).Single(g => g.Kind == CheckKind.Spaces).Fixable
            )
        );
        var fix = Issues(w).Fix(w.List, new(CheckKind.Capitals), w.By("Tomás"));
        Assert.Equal("Fixed capitalization for 1 recipient", fix.Label);
        Assert.Equal("Family Name", Rows(w)[0].Values[1]);
        Assert.DoesNotContain(Issues(w).Groups(w.List), g => g.Kind == CheckKind.Capitals);
        var logged = Undo(w).Log(w.List, 0, 10)[0];
        Assert.Equal(("Tomás", fix.Label), (logged.By, logged.Label));
        Assert.Equal(
            ("FAMILY NAME", "Family Name"),
            (Undo(w).Changes(w.List, logged.Id, 9)[0].Old, Undo(w).Changes(w.List, logged.Id, 9)[0].New)
        );
        Undo(w).Undo(w.List, logged.Id, w.By());
        Assert.Equal(spoilt, Picture(w));
        Assert.Contains(Issues(w).Groups(w.List), g => g.Kind == CheckKind.Capitals);
        Undo(w).UndoLast(w.List, w.By());
        Assert.Equal(before, Picture(w));
        Assert.Throws<ConflictException>(() => Issues(w).Fix(w.List, new(CheckKind.Capitals), w.By()));
    }

    [Fact]
    public void While_a_list_is_checked_again_no_issue_is_gone_that_is_there_afterward()
    {
        using var w = new World(1_100);
        var rows = Rows(w);
        w.Editor.Edit(w.List, [new(rows[0].Id, 2, "FIRST ONE"), new(rows[^1].Id, 2, "LAST ONE")], "edit", w.By());
        var seen = new List<int>();
        Issues(w).CheckAll(w.List, (_, _) => seen.Add(Issues(w).Groups(w.List).Single(g => g.Kind == CheckKind.Capitals).Cells), default);
        Assert.Equal([2, 2, 2], seen);
    }

    [Fact]
    public void What_changed_again_since_stays_when_an_older_act_is_taken_back()
    {
        using var w = new World();
        var (a, b) = (Rows(w)[0].Id, Rows(w)[1].Id);
        w.Editor.Edit(w.List, [new(a, 1, "One"), new(b, 1, "Two")], "first", w.By());
        var first = Undo(w).Log(w.List, 0, 1)[0].Id;
        w.Editor.Edit(w.List, [new(a, 1, "Newer")], "second", w.By());
        Assert.Equal("1 value was kept because it changed since then.", Assert.Single(Undo(w).Undo(w.List, first, w.By()).Skipped));
        Assert.Equal(("Newer", "Given2"), (Rows(w)[0].Values[0], Rows(w)[1].Values[0]));
        Assert.Throws<ConflictException>(() => Undo(w).Undo(w.List, first, w.By()));
    }

    [Fact]
    public void A_issue_that_was_left_comes_back_when_the_value_changes()
    {
        using var w = new World();
        var id = Rows(w)[0].Id;
        w.Editor.Edit(w.List, [new(id, 2, "ALL CAPITALS")], "edit", w.By());
        Assert.Single(Issues(w).Groups(w.List), g => g.Kind == CheckKind.Capitals);
        Issues(w).Leave(w.List, new(CheckKind.Capitals, [id]), w.By());
        Issues(w).CheckAll(w.List, (_, _) => { }, default);
        Assert.DoesNotContain(Issues(w).Groups(w.List), g => g.Kind == CheckKind.Capitals);
        Undo(w).UndoLast(w.List, w.By());
        Assert.Contains(Issues(w).Groups(w.List), g => g.Kind == CheckKind.Capitals);
        Undo(w).Redo(w.List, w.By());
        w.Editor.Edit(w.List, [new(id, 2, "OTHER CAPITALS")], "edit", w.By());
        Assert.Contains(Issues(w).Groups(w.List), g => g.Kind == CheckKind.Capitals);
    }

    [Fact]
    public void An_issue_in_a_computed_column_keeps_nothing_else_from_being_fixed()
    {
        using var w = new World();
        var ids = Rows(w).Select(r => r.Id).ToList();
        Columns(w).Add(w.List, "Loud", ColumnType.Text, Role.FamilyName, "upper(Last)", w.By());
        Columns(w).Add(w.List, "Spaced", ColumnType.Text, Role.None, "\"  \" & City & \"  x\"", w.By());
        w.Editor.Recompute(w.List, w.By(), (_, _) => { }, default);
        w.Editor.Edit(w.List, [new(ids[0], 4, "  Cork "), new(ids[1], 4, "CORK  CITY"), new(ids[2], 2, "OKAFOR")], "edit", w.By());
        Issues(w).CheckAll(w.List, (_, _) => { }, default);
        var groups = Issues(w).Groups(w.List);
        foreach (var g in groups.Where(g => g.Fixable > 0))
        {
            var outcome = Issues(w).Fix(w.List, new(g.Kind), w.By());
            Assert.True(outcome.Changed > 0);
        }
        Assert.DoesNotContain(Rows(w), r => r.Values[3] is "  Cork " or "CORK  CITY");
        // What is left in computed columns is told, and offers nothing that could not be done.
        Assert.All(Issues(w).Groups(w.List), g => Assert.Equal(0, g.Fixable));
    }

    [Fact]
    public void Computed_columns_follow_edits_and_columns_come_and_go()
    {
        using var w = new World();
        var id = Rows(w)[0].Id;
        var total = Columns(w).Add(w.List, "Total", ColumnType.Number, Role.None, "Amount * 2", w.By());
        w.Editor.Recompute(w.List, w.By(), (_, _) => { }, default);
        Assert.Equal("3.00", Rows(w)[0].Values[4]);
        w.Editor.Edit(w.List, [new(id, 3, "10")], "edit", w.By());
        Assert.Equal("20", Rows(w)[0].Values[4]);
        w.Editor.Edit(w.List, [new(id, 3, "waived")], "edit", w.By());
        Assert.Null(Rows(w)[0].Values[4]);
        Assert.Contains(Issues(w).Groups(w.List), g => g.Kind == CheckKind.Computed);
        Assert.Contains(
            "is computed",
            Assert.Throws<ConflictException>(() => w.Editor.Edit(w.List, [new(id, total, "1")], "edit", w.By())).Message
        );
        Assert.Contains(
            "Total is computed from Amount",
            Assert.Throws<ConflictException>(() => Columns(w).Remove(w.List, 3, w.By())).Message
        );
        Columns(w).Change(w.List, 3, new(Name: "Due"), w.By());
        Assert.Equal("`Due` * 2", w.Lists.Columns(w.List)[4].Expression);
        Columns(w).Remove(w.List, total, w.By());
        Assert.Equal(4, w.Lists.Columns(w.List).Count);
        Undo(w).UndoLast(w.List, w.By());
        Assert.Equal("5.00", Rows(w)[1].Values[4]);
        Assert.Throws<ComputedColumnException>(() => Columns(w).Add(w.List, "Loop", ColumnType.Number, Role.None, "Loop + 1", w.By()));
        Assert.Throws<ConflictException>(() => Columns(w).Add(w.List, "total", ColumnType.Text, Role.None, null, w.By()));
        Assert.Equal(5, w.Lists.Columns(w.List).Count);
    }

    [Fact]
    public void A_column_becomes_another_type_and_a_role_belongs_to_one()
    {
        using var w = new World();
        Columns(w).Change(w.List, 4, new(Role: Role.FamilyName), w.By());
        Assert.Equal([Role.GivenName, Role.None, Role.None, Role.FamilyName], w.Lists.Columns(w.List).Select(c => c.Role));
        Undo(w).UndoLast(w.List, w.By());
        Assert.Equal(Role.FamilyName, w.Lists.Columns(w.List)[1].Role);
        w.Editor.Edit(w.List, [new(Rows(w)[0].Id, 1, "3/31/2027"), new(Rows(w)[1].Id, 1, "soon")], "edit", w.By());
        Columns(w).Change(w.List, 1, new(Type: ColumnType.Date), w.By());
        Assert.Equal(("2027-03-31", "soon"), (Rows(w)[0].Values[0], Rows(w)[1].Values[0]));
        Assert.True(Issues(w).IsStale(w.List));
        Issues(w).CheckAll(w.List, (_, _) => { }, default);
        Assert.Contains(Issues(w).Groups(w.List), g => g.Kind == CheckKind.NotADate);
        var divided = Columns(w).Divide(w.List, 2, Role.FullName, null, w.By());
        Assert.Equal("Split Last into Title, Given name, Family name", divided.Label);
        Assert.Equal("Family001", Rows(w)[0].Values[6]);
    }

    [Fact]
    public void Taken_off_the_list_is_held_in_the_drop_with_the_reason_and_comes_back()
    {
        using var w = new World();
        var (a, b) = (Rows(w)[0].Id, Rows(w)[1].Id);
        Duplicates(w).Keep(w.List, a, b, true, w.By());
        Assert.Equal(9, w.Lists.Get(w.List).RowCount);
        Assert.Contains("Kept", w.Rows.Page(w.Drop, new(Tray.Held), 0, 9).Rows.Single(r => r.Id == b).HoldReason);
        w.MustAddUp();
        Undo(w).UndoLast(w.List, w.By());
        Assert.DoesNotContain(b, w.Ids(Tray.Held));
        Assert.Equal(10, w.Lists.Get(w.List).RowCount);
        w.MustAddUp();
    }

    [Fact]
    public void Whoever_is_added_joins_the_drops_in_which_nothing_is_mailed_yet()
    {
        using var w = new World();
        var id = Assert.Single(w.Editor.AddRecipients(w.List, [new Dictionary<int, string?> { [2] = "Newcomer" }], w.By()));
        Assert.Contains(id, w.Ids());
        w.MustAddUp();
        var run = w.Produce();
        w.Bench.MarkMailed(run.Id, new(2027, 3, 12), null, w.By());
        var late = Assert.Single(w.Editor.AddRecipients(w.List, [new Dictionary<int, string?> { [2] = "Late" }], w.By()));
        Assert.DoesNotContain(late, w.Ids());
        Undo(w).UndoLast(w.List, w.By());
        Assert.DoesNotContain(Rows(w), r => r.Id == late);
    }

    [Fact]
    public void The_suppressed_are_held_in_every_drop_and_who_is_released_knowingly_stays_released()
    {
        using var w = new World();
        Columns(w).Add(w.List, "Email", ColumnType.Text, Role.Email, null, w.By());
        var (a, b) = (Rows(w)[0].Id, Rows(w)[1].Id);
        w.Editor.Edit(w.List, [new(a, 5, "Ana@Example.org"), new(b, 5, "per@example.org")], "emails", w.By());
        var store = new SuppressionStore(w.Database);
        var list = store.Create("Asked not to", w.By());
        void Sweep() => w.Database.Write(c => AutoHolds.Sweep(c, w.Drop, null, w.Editor.Surroundings, w.By("Bandeja")));
        Assert.Equal(
            (2, 1),
            store.Add(
                list,
                [
                    new(null, null, null, null, "ana@example.org", null, "by phone", null),
                    new(null, null, null, null, "per@example.org", null, null, new(2027, 2, 1)),
                    new("Somebody", null, null, null, null, null, null, null),
                ],
                w.By()
            )
        );
        Sweep();
        Assert.Equal("Asked not to: by phone", w.Rows.Page(w.Drop, new(Tray.Held), 0, 9).Rows.Single(r => r.Id == a).HoldReason);
        Assert.DoesNotContain(b, w.Ids(Tray.Held)); // theirs had ended
        w.Bench.Act(w.Drop, [a], DropEventKind.Released, null, null, "Released", w.By());
        Sweep();
        Assert.DoesNotContain(a, w.Ids(Tray.Held));
        // An edit that makes somebody match holds them at once, one that ends it releases them.
        w.Editor.Edit(w.List, [new(b, 5, "ana@example.org")], "edit", w.By());
        Assert.Contains(b, w.Ids(Tray.Held));
        w.Editor.Edit(w.List, [new(b, 5, "other@example.org")], "edit", w.By());
        Assert.DoesNotContain(b, w.Ids(Tray.Held));
        w.MustAddUp();
    }

    [Fact]
    public void A_drop_for_a_segment_holds_the_others_and_ticks_count_on_top()
    {
        using var w = new World();
        var segments = new SegmentStore(w.Database);
        var segment = segments.Add(w.List, "Cork", "City = \"Cork\"", "", w.By());
        var (out_, in_) = (Rows(w)[1].Id, Rows(w)[0].Id);
        segments.Tick(segment, [out_], false);
        segments.Tick(segment, [in_], true);
        var filter = Filter.Parse(
            "City = \"Cork\"",
            w.Lists.Columns(w.List),
            new(2027, 3, 1),
            Core.Language.OrganizationLocale.UnitedStates,
            out _
        );
        var found = w.Lists.Page(w.List, new(null, "City = \"Cork\"", "", null, segment), filter, 0, 100);
        Assert.Equal(5, found.Total);
        Assert.Contains(found.Rows, r => r.Id == in_);
        Assert.DoesNotContain(found.Rows, r => r.Id == out_);
        var drop = w.Drops.CreateDrop(1, "For Cork", w.List, [w.Design], null, w.By(), segment, w.Editor.Surroundings);
        var trays = w.Drops.Trays(drop);
        Assert.Equal((5, 10), (trays[Tray.Held], trays.Values.Sum()));
        Assert.Equal("Not in “Cork”", w.Rows.Page(drop, new(Tray.Held), 0, 9).Rows.Single(r => r.Id == out_).HoldReason);
        w.Editor.Edit(w.List, [new(Rows(w)[2].Id, 4, "Cork")], "moved", w.By());
        Assert.Equal(4, w.Drops.Trays(drop)[Tray.Held]);
        Assert.Contains("because a drop uses", Assert.Throws<ConflictException>(() => segments.Remove(segment)).Message);
    }

    [Fact]
    public void Households_get_one_piece()
    {
        using var w = new World(4);
        Columns(w).Add(w.List, "Street", ColumnType.Text, Role.Street, null, w.By());
        var ids = Rows(w).Select(r => r.Id).ToList();
        w.Editor.Edit(
            w.List,
            [
                new(ids[0], 5, "9 Tide St"),
                new(ids[2], 5, "9 Tide Street"),
                new(ids[2], 2, "Family001"),
                new(ids[0], 1, "Luis"),
                new(ids[2], 1, "Rosa"),
            ],
            "same house",
            w.By()
        );
        Duplicates(w).FindAll(w.List, (_, _) => { }, default);
        Assert.Equal([ids[0], ids[2]], Households(w).Page(w.List, 0, 9).Single().Members.Select(m => m.Row.Id));
        Households(w).Address(w.List, null, HouseholdForm.GivenNames, w.By());
        Assert.Equal(("Luis and Rosa Family001", "Luis and Rosa Family001"), (Rows(w)[0].Values[5], Rows(w)[2].Values[5]));
        Assert.StartsWith("Household piece goes to Family001, Luis", w.Rows.Page(w.Drop, new(Tray.Held), 0, 9).Rows.Single().HoldReason);
        Assert.Throws<ConflictException>(() => Households(w).Address(w.List, null, HouseholdForm.Family, w.By()));
        Undo(w).UndoLast(w.List, w.By());
        Assert.Empty(w.Ids(Tray.Held));
        w.MustAddUp();
    }

    [Fact]
    public void Detail_rows_are_tied_by_key_and_summed_up()
    {
        using var w = new World();
        Columns(w).Change(w.List, 2, new(Role: Role.Key), w.By());
        var details = new DetailStore(w.Database);
        var id = details.BringIn(
            w.List,
            "Gifts",
            "gifts.csv",
            [new(1, "Who", ColumnType.Text, Role.None), new(2, "Amount", ColumnType.Number, Role.None)],
            0,
            [
                ["family001", "10"],
                ["Family001", "5"],
                ["FAMILY002", "x"],
                ["nobody", "1"],
            ],
            () => ["a remark"],
            w.By()
        );
        var set = details.OfList(w.List).Single();
        Assert.Equal((4, 1, 8), (set.Row.RowCount, set.Row.Unmatched, set.Row.Without));
        Assert.Equal<string?[]>(["nobody", "1"], details.Rows(id, null, 9).Single());
        Columns(w).Add(w.List, "Given", ColumnType.Number, Role.None, "sum(Gifts.Amount)", w.By());
        w.Editor.Recompute(w.List, w.By(), (_, _) => { }, default);
        Assert.Equal<string?[]>(["15", null, null], [.. Rows(w).Take(3).Select(r => r.Values[4])]);
        Assert.Contains(Issues(w).Groups(w.List), g => g.Kind == CheckKind.Computed && g.Recipients == 1);
        var filter = Filter.Parse(
            "count(Gifts) > 0",
            w.Lists.Columns(w.List),
            new(2027, 3, 1),
            Core.Language.OrganizationLocale.UnitedStates,
            out _,
            [set.Set]
        )!;
        Assert.Equal(2, w.Lists.Page(w.List, new(null, "count(Gifts) > 0"), filter, 0, 9).Total);
        // A key that changes, and somebody new, find their rows.
        w.Editor.Edit(w.List, [new(Rows(w)[2].Id, 2, "Nobody")], "key", w.By());
        Assert.Equal(0, details.OfList(w.List).Single().Row.Unmatched);
        w.Editor.Recompute(w.List, w.By(), (_, _) => { }, default);
        Assert.Equal("1", Rows(w)[2].Values[4]);
        Assert.Contains("Given is computed from Gifts", Assert.Throws<ConflictException>(() => details.Remove(id)).Message);
        Assert.Contains(
            "no key column",
            Assert
                .Throws<ConflictException>(() =>
                    new DetailStore(new World().Database).BringIn(
                        1,
                        "G",
                        "g",
                        [new(1, "A", ColumnType.Text, Role.None)],
                        0,
                        [],
                        () => [],
                        w.By()
                    )
                )
                .Message
        );
    }
}
