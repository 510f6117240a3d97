using Bandeja.Core.Drops;
using Bandeja.Store.Devices;
using Bandeja.Store.Runs;
using Dapper;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Store.Tests;

/// <summary>Trays and ledger under any order of what can happen to printed runs.</summary>
public sealed class PrintPropertyTests
{
    [Property(MaxTest = 40)]
    public Property Nobody_is_lost_or_made_twice_in_any_order_of_acts() =>
        Prop.ForAll(
            Gen.Choose(0, 11).SelectMany(act => Gen.Choose(0, 1023).Select(n => (act, n))).NonEmptyListOf().ToArbitrary(),
            acts =>
            {
                using var world = new World();
                var batches = new RunBatches(world.Database);
                var practice = new PracticeStore(world.Database);
                var printer = practice.All()[0].PrinterId;
                long? going = null;
                foreach (var (act, n) in acts)
                {
                    try
                    {
                        Do(act, n);
                    }
                    catch (ConflictException) { } // refused with a sentence: nothing may have changed
                    world.MustAddUp();
                    AllIsTold(world);
                }
                return true;

                List<long> Some(int n) => [.. world.Ids().Where((_, i) => (n >> i & 1) == 1)];
                void Do(int act, int n)
                {
                    switch (act)
                    {
                        case 0:
                            world.Bench.Act(world.Drop, Some(n), DropEventKind.Held, "asked", null, "Held", world.By());
                            break;
                        case 1:
                            world.Bench.Act(world.Drop, Some(n), DropEventKind.Released, null, null, "Released", world.By());
                            break;
                        case 2 when going is null:
                            going = world
                                .Freezing.Begin(
                                    world.Drop,
                                    c => (n >> c.PieceNumber & 1) == 1,
                                    "Not chosen",
                                    "some",
                                    null,
                                    new(2027, 3, 2),
                                    world.By(),
                                    new() { Output = RunOutput.Print, DeviceId = printer }
                                )
                                .Id;
                            world.Life.Start(going.Value);
                            batches.Divide(world.Runs.Get(going.Value), 1 + n % 4);
                            break;
                        case 3 or 4 when going is { } id:
                            Print(id, n);
                            break;
                        case 5 when going is { } id:
                            world.Life.Pause(id, "paused", world.By());
                            break;
                        case 6 when going is { } id:
                            world.Life.Resume(id, "goes on", world.By());
                            world.Life.Start(id);
                            break;
                        case 7 when going is { } id && world.Runs.State(id) == RunState.Paused:
                            batches.GoBackTo(world.Runs.Get(id), 1 + n % 10, 2, world.By());
                            break;
                        case 8 when going is { } id:
                            world.Life.Stop(id, RunState.Cancelled, null, world.By());
                            going = null;
                            break;
                        case 9:
                            world.Bench.Act(world.Drop, Some(n), DropEventKind.TakenBack, null, null, "Took back", world.By());
                            break;
                        case 10:
                            foreach (var run in world.Runs.OfDrop(world.Drop).Where(r => r.Waiting > 0).Take(1))
                                world.Bench.MarkMailed(
                                    run.Id,
                                    new(2027, 3, 3),
                                    n % 2 == 0 ? null : PieceRange.Parse("1-6", out _),
                                    world.By(),
                                    n % 3 == 0 ? 1 + n % 10 : null
                                );
                            break;
                        default:
                            if (n % 2 == 0)
                                world.Bench.Act(
                                    world.Drop,
                                    Some(n),
                                    DropEventKind.Returned,
                                    "moved",
                                    new(2027, 4, 1),
                                    "Returned",
                                    world.By()
                                );
                            else if (going is null)
                            {
                                var again = world.Freezing.Begin(
                                    world.Drop,
                                    c => (n >> c.PieceNumber & 1) == 1,
                                    "Not chosen",
                                    "reprint",
                                    null,
                                    new(2027, 3, 2),
                                    world.By(),
                                    new() { Reprints = true }
                                );
                                world.Life.Start(again.Id);
                                world.Life.Complete(again.Id, [World.File(1, (int)again.Pieces)], world.By());
                            }
                            break;
                    }
                }

                // The printer gives out some sheets of the batch that is next; a crash is that nothing more is heard of it until the next
                // time.
                void Print(long id, int n)
                {
                    var run = world.Runs.Get(id);
                    if (
                        run.State != RunState.Running
                        || batches.Of(id).FirstOrDefault(b => b.State is BatchState.Waiting or BatchState.Handing or BatchState.Printing)
                            is not { } batch
                    )
                    {
                        if (run.State == RunState.Running && world.Life.Complete(id, [], world.By()))
                            going = null;
                        return;
                    }
                    var pieces = (int)(batch.LastAt - batch.FirstAt + 1);
                    if (batch.State == BatchState.Waiting)
                        Assert.True(batches.Handing(batch, run.JobId!.Value, [.. Enumerable.Range(1, pieces)], 0));
                    batches.Printing(batch, $"{batch.Number}");
                    var sheets = Math.Min(pieces, (int)batch.SheetsOut + n % 4);
                    batches.Report(run, batches.Of(id).Single(b => b.Number == batch.Number), sheets, sheets, sheets == pieces, world.By());
                }
            }
        );

    /// <summary>What the run's pieces, the ledger's events and the recipients' rows say must be one story.</summary>
    static void AllIsTold(World world)
    {
        using var c = world.Database.Open();
        // A piece that is printed whole has an event that says so, from this very run.
        Assert.Empty(
            c.Query<long>(
                "SELECT p.recipient_id FROM run_piece p JOIN run u ON u.id = p.run_id WHERE p.printed_at IS NOT NULL AND NOT EXISTS "
                    + "(SELECT 1 FROM drop_event e WHERE e.run_id = p.run_id AND e.recipient_id = p.recipient_id AND e.kind IN "
                    + "('Produced', 'Reprinted'))"
            )
        );
        // Between two productions of a piece by runs it was taken back: nobody has two pieces in the house.
        foreach (
            var events in c.Query<(long Recipient, string Kind)>(
                    "SELECT recipient_id, kind FROM drop_event WHERE kind IN ('Produced', 'TakenBack') ORDER BY id"
                )
                .GroupBy(e => e.Recipient)
        )
        {
            var made = 0;
            foreach (var (_, kind) in events)
                Assert.InRange(made += kind == "Produced" ? 1 : -1, 0, 1);
        }
        // Nobody is mailed without a piece, and what is mailed once is not mailed again before that is taken back.
        Assert.Empty(c.Query<long>("SELECT recipient_id FROM drop_recipient WHERE mailed_on IS NOT NULL AND run_id IS NULL"));
    }
}
