using Bandeja.Core.Drops;
using Bandeja.Store.Designs;
using Bandeja.Store.Runs;

namespace Bandeja.Store.Tests;

public sealed class RunTests : IDisposable
{
    readonly World world = new();

    public void Dispose() => world.Dispose();

    [Fact]
    public void A_run_makes_the_ready_and_marks_nobody_as_mailed()
    {
        var run = world.Produce();
        Assert.Equal((8, 0, 2), (world.Trays[Tray.Produced], world.Trays[Tray.Mailed], world.Trays[Tray.NeedsReview]));
        Assert.Equal((8, 8, RunState.Done), (run.Pieces, run.Waiting, run.State));
        Assert.Contains("No chosen recipients are Ready", Assert.Throws<ConflictException>(() => world.Produce()).Message);
        world.MustAddUp();
    }

    [Fact]
    public void A_second_run_does_not_take_what_is_in_a_run_that_goes_on()
    {
        world.Freezing.Begin(world.Drop, c => c.PieceNumber <= 3, "Not in this range", "pieces 1-3", null, new(2027, 3, 2), world.By());
        var plan = world.Planning.Plan(world.Drop, _ => true, "");
        Assert.Equal(5, plan.Pieces.Count);
        Assert.Equal(3, plan.Excluded.Single(l => l.Reason.StartsWith("In an unfinished run", StringComparison.Ordinal)).Count);
    }

    [Fact]
    public void A_run_of_another_size_than_was_said_is_refused()
    {
        Assert.Contains(
            "something changed",
            Assert
                .Throws<ConflictException>(() => world.Freezing.Begin(world.Drop, _ => true, "", "all", 9, new(2027, 3, 2), world.By()))
                .Message
        );
        Assert.Empty(world.Runs.OfDrop(world.Drop));
    }

    [Fact]
    public void A_cancelled_run_leaves_everybody_where_they_were_and_cannot_complete()
    {
        var run = world.Freezing.Begin(world.Drop, _ => true, "", "all", null, new(2027, 3, 2), world.By());
        world.Life.Start(run.Id);
        Assert.True(world.Life.Stop(run.Id, RunState.Cancelled, null, world.By()));
        Assert.False(world.Life.Complete(run.Id, [World.File(1, 8)], world.By()));
        Assert.Equal(8, world.Trays[Tray.Ready]);
        Assert.Equal(8, world.Planning.Plan(world.Drop, _ => true, "").Pieces.Count);
    }

    [Fact]
    public void Whoever_pauses_second_changes_nothing_and_the_run_can_go_on()
    {
        var run = world.Freezing.Begin(world.Drop, _ => true, "", "all", null, new(2027, 3, 2), world.By());
        world.Life.Start(run.Id);
        world.Life.Pause(run.Id, "Paused by hand.", world.By());
        Assert.False(world.Life.PauseIfMade(run.Id, null, "The printer gave up.", world.By()));
        Assert.Equal((RunState.Paused, "Paused by hand."), (world.Runs.Get(run.Id).State, world.Runs.Get(run.Id).Message));
        Assert.DoesNotContain(world.Log.Of(run.Id), l => l.Text.Contains("gave up", StringComparison.Ordinal));
        Assert.Throws<ConflictException>(() => world.Life.Pause(run.Id, "again", world.By()));
        world.Life.Resume(run.Id, "goes on", world.By());
        Assert.Equal(RunState.Queued, world.Runs.State(run.Id));
        Assert.True(world.Life.PauseIfMade(run.Id, null, "The printer gave up.", world.By()));
    }

    [Fact]
    public void What_the_work_before_saw_does_not_pause_a_run_that_was_resumed()
    {
        var run = world.Freezing.Begin(world.Drop, _ => true, "", "all", null, new(2027, 3, 2), world.By());
        world.Life.Start(run.Id);
        var before = world.Runs.Get(run.Id).JobId!.Value;
        world.Life.Pause(run.Id, "Paused by hand.", world.By());
        world.Life.Resume(run.Id, "goes on", world.By());
        var now = world.Runs.Get(run.Id).JobId!.Value;
        Assert.NotEqual(before, now);
        Assert.False(world.Life.PauseIfMade(run.Id, before, "The batch was given up.", world.By()));
        Assert.Equal(RunState.Queued, world.Runs.State(run.Id));
        Assert.True(world.Life.PauseIfMade(run.Id, now, "The printer is gone.", world.By()));
    }

    [Fact]
    public void Completing_twice_produces_once()
    {
        var run = world.Freezing.Begin(world.Drop, _ => true, "", "all", null, new(2027, 3, 2), world.By());
        world.Life.Start(run.Id);
        Assert.True(world.Life.Complete(run.Id, [World.File(1, 8)], world.By()));
        Assert.False(world.Life.Complete(run.Id, [World.File(1, 8)], world.By()));
        Assert.Equal(8, world.History.OfDrop(world.Drop).Count(e => e.Kind == "Produced"));
    }

    [Fact]
    public void A_run_is_made_with_the_values_of_its_beginning_whatever_is_corrected_since()
    {
        var run = world.Freezing.Begin(world.Drop, _ => true, "", "all", null, new(2027, 3, 2), world.By());
        var id = world.Ids()[0];
        world.Bench.Correct(world.List, world.Drop, id, 1, "Once", world.By());
        world.Bench.Correct(world.List, world.Drop, id, 1, "Twice", world.By());
        world.Bench.Correct(world.List, world.Drop, world.Ids()[1], 3, "99", world.By());
        var pieces = world.Runs.Pieces(run, world.List, World.Columns).ToList();
        Assert.Equal(("Given1", "2.50"), (pieces[0].Values[0], pieces[1].Values[2]));
        Assert.Equal([1, 2, 3, 4, 6, 7, 8, 9], pieces.Select(p => p.PieceNumber));
        world.Life.Start(run.Id);
        world.Life.Complete(run.Id, [World.File(1, 8)], world.By());
        Assert.Equal(2, world.Runs.Get(run.Id).CorrectedSince);
    }

    [Fact]
    public void Some_pieces_are_marked_as_mailed_then_the_rest_but_never_the_held()
    {
        var run = world.Produce();
        world.Bench.Act(world.Drop, [world.Ids()[1]], DropEventKind.Held, "asked to wait", null, "Held", world.By());
        Assert.Equal(2, world.Bench.MarkMailed(run.Id, new(2027, 3, 3), PieceRange.Parse("1-3", out _), world.By()).Changed);
        var rest = world.Bench.MarkMailed(run.Id, new(2027, 3, 4), null, world.By());
        Assert.Equal(5, rest.Changed);
        Assert.Equal((7, 1), (world.Trays[Tray.Mailed], world.Trays[Tray.Held]));
        Assert.Equal((7, 0, 1), (world.Runs.Get(run.Id).Mailed, world.Runs.Get(run.Id).Waiting, world.Runs.Get(run.Id).HeldBack));
        Assert.Throws<ConflictException>(() => world.Bench.MarkMailed(run.Id, new(2027, 3, 4), null, world.By()));
        Assert.Equal(new DateOnly(2027, 3, 3), world.History.LastMailed([world.Ids()[0]])[world.Ids()[0]].MailedOn);
        world.Bench.Undo(world.Drop, world.By());
        Assert.Equal(2, world.Trays[Tray.Mailed]);
        world.MustAddUp();
    }

    [Fact]
    public void Pieces_taken_back_are_offered_to_the_next_run()
    {
        var run = world.Produce();
        world.Bench.Act(world.Drop, [world.Ids()[0]], DropEventKind.TakenBack, null, null, "Took back", world.By());
        Assert.Equal([1], world.Planning.Plan(world.Drop, _ => true, "").Pieces.Select(p => p.PieceNumber));
        Assert.Equal(7, world.Bench.TakeRunBack(run.Id, "smeared", world.By()).Changed);
        Assert.Equal(8, world.Produce().Pieces);
        Assert.Contains("produced again since", Assert.Throws<ConflictException>(() => world.Bench.Undo(world.Drop, world.By())).Message);
        world.MustAddUp();
    }

    [Fact]
    public void A_produced_version_is_sealed_and_writing_on_makes_a_new_one()
    {
        var designs = new DesignStore(world.Database);
        world.Produce();
        Assert.True(designs.Newest(world.Design).Sealed);
        var saved = designs.Save(world.Design, 1, 1, """{"content":[{"type":"paragraph"}]}""", world.By());
        Assert.Equal(2, saved.Number);
        Assert.Equal(World.Document, designs.Versions(world.Design).Single(v => v.Number == 1).DocumentJson);
        Assert.Equal(1, world.Runs.OfDrop(world.Drop)[0].Designs[0].DesignVersion);
    }

    [Fact]
    public void Writing_goes_on_in_one_version_until_somebody_rests_or_another_writes()
    {
        var designs = new DesignStore(world.Database);
        string Text(int n) => $$"""{"content":[],"maxPages":{{n}}}""";
        Assert.Equal(1, designs.Save(world.Design, 1, 1, Text(1), world.By()).Number);
        world.Now = world.Now.AddMinutes(11);
        Assert.Equal(2, designs.Save(world.Design, 1, 2, Text(2), world.By()).Number);
        Assert.Equal(3, designs.Save(world.Design, 2, 1, Text(3), world.By("Tomás")).Number);
        Assert.Contains(
            "Tomás has since saved version 3",
            Assert.Throws<StaleException>(() => designs.Save(world.Design, 2, 1, Text(4), world.By())).Message
        );
        // Within a version, too: a second window of the same person does not write over the first.
        Assert.Equal(2, designs.Save(world.Design, 3, 1, Text(5), world.By("Tomás")).Revision);
        Assert.Throws<StaleException>(() => designs.Save(world.Design, 3, 1, Text(6), world.By("Tomás")));
        var restored = designs.Restore(world.Design, 1, world.By());
        Assert.Equal((4, 1L, Text(1)), (restored.Number, restored.RestoredFrom, restored.DocumentJson));
        Assert.Equal([4, 3, 2, 1], designs.Versions(world.Design).Select(v => v.Number));
    }

    [Fact]
    public void A_clock_that_is_set_back_changes_no_order_of_what_happened()
    {
        var run = world.Produce("1-3");
        world.Now = world.Now.AddDays(-400);
        world.Bench.MarkMailed(run.Id, new(2027, 3, 3), null, world.By());
        world.Bench.Undo(world.Drop, world.By());
        var second = world.Produce();
        Assert.Equal(5, second.Pieces);
        Assert.Equal(2, second.Number);
        world.MustAddUp();
        Assert.Equal(
            ["Produced", "Mailed", "MailUndone"],
            world
                .History.OfDrop(world.Drop)
                .Where(e => e.PieceNumber == 1 && e.Kind is "Produced" or "Mailed" or "MailUndone")
                .Where(e => e.PieceNumber == 1)
                .Select(e => e.Kind)
        );
    }

    [Fact]
    public void The_ledger_has_a_row_for_every_piece()
    {
        var run = world.Produce("1-4");
        world.Bench.MarkMailed(run.Id, new(2027, 3, 3), PieceRange.Parse("1", out _), world.By());
        world.Bench.Act(world.Drop, [world.Ids()[0]], DropEventKind.Returned, "moved", new(2027, 4, 1), "Returned", world.By());
        var rows = world.Ledger.Rows(null).ToList();
        Assert.Equal(10, rows.Count);
        Assert.All(rows, r => Assert.Equal(LedgerExport.Headings.Count, r.Count));
        Assert.Equal(
            ("0001", "Family001, Given1", "Returned", "1", "2027-03-03", "moved"),
            (rows[0][2], rows[0][4], rows[0][9], rows[0][10], rows[0][13], rows[0][14])
        );
        Assert.Equal(("Produced", null), (rows[1][9], rows[1][13]));
        Assert.Equal("Needs review", rows[4][9]);
    }
}
