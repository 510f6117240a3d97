using Bandeja.Core.Drops;
using Bandeja.Store.Drops;
using Dapper;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Tests;

public sealed class BenchTests : IDisposable
{
    readonly World world = new();

    public void Dispose() => world.Dispose();

    [Fact]
    public void A_new_drop_has_everybody_checked_and_numbered_in_the_order_of_the_list()
    {
        Assert.Equal((2, 8), (world.Trays[Tray.NeedsReview], world.Trays[Tray.Ready]));
        var page = world.Rows.Page(world.Drop, new(), 0, 100);
        Assert.Equal(Enumerable.Range(1, 10), page.Rows.Select(r => r.PieceNumber));
        Assert.Equal("Family001", page.Rows[0].Values[1]);
        world.MustAddUp();
    }

    [Fact]
    public void Hold_release_and_undo_leave_their_trace_in_the_ledger()
    {
        var one = world.Ids(Tray.Ready)[0];
        world.Bench.Act(world.Drop, [one], DropEventKind.Held, "asked to wait", null, "Held", world.By());
        Assert.Equal(1, world.Trays[Tray.Held]);
        world.Bench.Act(world.Drop, [one], DropEventKind.Released, null, null, "Released", world.By("Tomás"));
        Assert.Equal(0, world.Trays[Tray.Held]);
        world.Bench.Undo(world.Drop, world.By());
        Assert.Equal("asked to wait", world.Rows.Page(world.Drop, new(Tray.Held), 0, 1).Rows.Single().HoldReason);
        world.Bench.Undo(world.Drop, world.By());
        Assert.Equal(0, world.Trays[Tray.Held]);
        Assert.Equal(["Released", "Held", "Released", "Held", "Joined"], world.History.Events(one).Select(e => e.Kind));
        Assert.Throws<ConflictException>(() => world.Bench.Undo(world.Drop, world.By()));
        world.MustAddUp();
    }

    [Fact]
    public void A_selection_is_held_at_once_and_those_held_already_are_told()
    {
        world.Bench.Act(world.Drop, [world.Ids()[0]], DropEventKind.Held, "x", null, "Held", world.By());
        var outcome = world.Bench.Act(world.Drop, world.Ids(), DropEventKind.Held, "y", null, "Held", world.By());
        Assert.Equal((9, "1 recipient is already held."), (outcome.Changed, outcome.Skipped.Single()));
        Assert.Equal(10, world.Trays[Tray.Held]);
        Assert.Throws<ConflictException>(() => world.Bench.Act(world.Drop, world.Ids(), DropEventKind.Held, "z", null, "Held", world.By()));
        world.MustAddUp();
    }

    [Fact]
    public void A_issue_is_accepted_for_one_or_for_all_alike_and_opened_again()
    {
        var two = world.Ids(Tray.NeedsReview);
        world.Bench.Accept(world.Drop, two[0], "Blank|First", world.By());
        Assert.Equal(1, world.Trays[Tray.NeedsReview]);
        var group = Assert.Single(world.Issues.Groups(world.Drop));
        Assert.Equal((2, 1), (group.Recipients, group.Open));
        Assert.Equal(1, world.Bench.Accept(world.Drop, null, "Blank|First", world.By()).Changed);
        Assert.Equal(0, world.Trays[Tray.NeedsReview]);
        world.Bench.Reopen(world.Drop, two[1], "Blank|First|", world.By());
        Assert.Equal([two[1]], world.Ids(Tray.NeedsReview));
        Assert.Throws<ConflictException>(() => world.Bench.Accept(world.Drop, null, "Blank|Nothing", world.By()));
        world.MustAddUp();
    }

    [Fact]
    public void A_value_corrected_at_the_bench_changes_list_tray_and_log_and_can_be_taken_back()
    {
        var id = world.Ids(Tray.NeedsReview)[0];
        world.Bench.Correct(world.List, world.Drop, id, 1, "Beatriz", world.By());
        Assert.Equal("Beatriz", world.Lists.Recipient(world.List, id).Values[0]);
        Assert.Equal(1, world.Trays[Tray.NeedsReview]);
        Assert.Equal((null, "Beatriz", "Marisol"), world.Lists.Changes(id).Select(c => (c.Old, c.New, c.By)).Single());
        Assert.Single(world.Lists.Page(world.List, new("beatriz"), null, 0, 10).Rows);
        world.Bench.Undo(world.Drop, world.By());
        Assert.Null(world.Lists.Recipient(world.List, id).Values[0]);
        Assert.Equal(2, world.Trays[Tray.NeedsReview]);
        Assert.Empty(world.Lists.Page(world.List, new("beatriz"), null, 0, 10).Rows);
        world.MustAddUp();
    }

    [Fact]
    public void A_correction_is_not_taken_back_over_a_newer_one()
    {
        var id = world.Ids()[0];
        world.Bench.Correct(world.List, world.Drop, id, 1, "Ana", world.By());
        world.Bench.Correct(world.List, null, id, 1, "Anna", world.By());
        Assert.Contains("changed again since", Assert.Throws<ConflictException>(() => world.Bench.Undo(world.Drop, world.By())).Message);
        Assert.Equal("Anna", world.Lists.Recipient(world.List, id).Values[0]);
    }

    [Fact]
    public void The_ledger_is_only_ever_added_to()
    {
        foreach (var sql in (string[])["UPDATE drop_event SET by = 'x'", "DELETE FROM drop_event"])
            Assert.Contains("only ever added to", Assert.Throws<SqliteException>(() => world.Database.Write(c => c.Execute(sql))).Message);
    }

    [Fact]
    public void A_failed_act_leaves_nothing_behind()
    {
        var before = world.History.OfDrop(world.Drop).Count;
        Assert.Throws<InvalidOperationException>(() =>
            world.Database.Write(c =>
            {
                DropEvents.Append(c, world.Drop, [(world.Ids()[0], new(DropEventKind.Held, "x"))], world.By(), null);
                throw new InvalidOperationException("the power fails here");
            })
        );
        Assert.Equal(before, world.History.OfDrop(world.Drop).Count);
        world.MustAddUp();
    }

    [Fact]
    public void Recipients_are_found_by_name_number_tray_and_issue()
    {
        Assert.Equal(7, world.Rows.Page(world.Drop, new(Search: "0007"), 0, 10).Rows.Single().PieceNumber);
        Assert.Equal(3, world.Rows.Page(world.Drop, new(Search: "family003"), 0, 10).Rows.Single().PieceNumber);
        Assert.Equal([5, 10], world.Rows.Page(world.Drop, new(Alike: "Blank|First"), 0, 10).Rows.Select(r => r.PieceNumber));
        Assert.Equal([10, 9, 8], world.Rows.Page(world.Drop, new(Sort: "name", Descending: true), 0, 3).Rows.Select(r => r.PieceNumber));
        Assert.Equal("Cork", world.Rows.Page(world.Drop, new(Sort: "place"), 0, 1).Rows.Single().Values[3]);
    }

    /// <summary>Whatever coordinators do in whatever order, the trays add up and are what the events say.</summary>
    [Property(MaxTest = 25)]
    public Property Trays_add_up_after_any_acts() =>
        Prop.ForAll(
            Gen.Choose(0, 9).SelectMany(act => Gen.Choose(0, 1023).Select(who => (act, who))).NonEmptyListOf().ToArbitrary(),
            acts =>
            {
                using var own = new World();
                foreach (var (act, who) in acts)
                {
                    var ids = own.Ids().Where((_, i) => (who >> i & 1) == 1).ToList();
                    try
                    {
                        switch (act)
                        {
                            case 0:
                                own.Bench.Act(own.Drop, ids, DropEventKind.Held, $"reason {who % 3}", null, "Held", own.By());
                                break;
                            case 1:
                                own.Bench.Act(own.Drop, ids, DropEventKind.Released, null, null, "Released", own.By());
                                break;
                            case 2:
                                own.Bench.Accept(own.Drop, null, "Blank|First", own.By());
                                break;
                            case 3:
                                own.Bench.Correct(own.List, own.Drop, own.Ids()[who % 10], 1, who % 2 == 0 ? null : $"Name{who}", own.By());
                                break;
                            case 4:
                                own.Produce(who % 2 == 0 ? null : "1-5");
                                break;
                            case 5:
                                own.Bench.Act(own.Drop, ids, DropEventKind.TakenBack, null, null, "Took back", own.By());
                                break;
                            case 6:
                                if (own.Runs.OfDrop(own.Drop).FirstOrDefault() is { } run)
                                    own.Bench.MarkMailed(run.Id, new(2027, 3, 3), null, own.By());
                                break;
                            case 7:
                                own.Bench.Act(own.Drop, ids, DropEventKind.Returned, "moved", new(2027, 4, 1), "Returned", own.By());
                                break;
                            default:
                                own.Bench.Undo(own.Drop, own.By());
                                break;
                        }
                    }
                    catch (ConflictException) { } // what makes no sense is refused, and changes nothing
                    own.MustAddUp();
                }
            }
        );
}
