using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Devices;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Production;

namespace Bandeja.Work.Jobs;

/// <summary>
/// Prints a run, batch by batch: each is prepared, handed over under a key of its own, and followed sheet by sheet; a piece is produced
/// when
/// everything of its package is out of the printer. Whatever instant the process dies at, the batch is found again by its key; where the
/// printer keeps no keys, whoever stands beside it is asked.
/// </summary>
public sealed class PrintJob(
    RunStore runs,
    RunLog log,
    RunLife life,
    RunBatches batches,
    BatchFiles files,
    PrintDevices devices,
    Announcements announcements,
    TimeProvider time
) : IJobKind
{
    static readonly TimeSpan Between = TimeSpan.FromMilliseconds(120);

    /// <inheritdoc/>
    public string Kind => JobNames.Print;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var run = runs.Get(job.SubjectId);
        if (!run.State.IsUnderWay())
            return null;
        life.Start(run.Id);
        Tell(run);
        var settings = RunSettings.Read(run.SettingsJson);
        var device = devices.Of(run.DeviceId ?? throw new ConflictException("This run has no printer."));
        batches.Divide(run, settings.BatchOf);
        var all = batches.Of(run.Id);
        foreach (var batch in all.Where(b => b.State is not (BatchState.Out or BatchState.GivenUp)))
        {
            cancel.ThrowIfCancellationRequested();
            if (Paused(job, run, null, device))
                return "Paused";
            if (HandedOver(job, run, batch, settings, device, all.Count(b => b.State != BatchState.GivenUp), cancel) is not { } handed)
                return "Paused";
            if (!Followed(job, run, handed, settings, device, progress, cancel))
                return "Paused";
        }
        if (!life.Complete(run.Id, [], By(run)))
            return "Paused";
        Tell(run);
        return null;
    }

    Actor By(RunRow run) => Actor.Person(run.CreatedBy, time.GetUtcNow());

    void Tell(RunRow run) => announcements.Changed(Matter.Drop, run.DropId);

    bool Paused(JobRow work, RunRow run, RunBatch? batch, IPrintDevice device)
    {
        if (runs.IsWorkOf(run.Id, work.Id))
            return false;
        if (batch?.DeviceJob is { } job)
            device.Hold(job);
        Tell(run);
        return true;
    }

    /// <summary>The batch in the printer's hands; null where it is not known whether it is, or where the run was paused before.</summary>
    RunBatch? HandedOver(
        JobRow work,
        RunRow run,
        RunBatch batch,
        RunSettings settings,
        IPrintDevice device,
        int count,
        CancellationToken cancel
    )
    {
        if (batch.State == BatchState.Printing)
        {
            device.Release(batch.DeviceJob!);
            return batch;
        }
        if (batch.State == BatchState.Doubt || batch.State == BatchState.Handing && !device.RemembersKeys)
        {
            batches.Doubt(run, batch, By(run));
            life.PauseIfMade(
                run.Id,
                work.Id,
                $"Batch {batch.Number}, pieces {batch.FirstPiece:0000} to {batch.LastPiece:0000}, was being sent to the printer "
                    + "when the server stopped, and may have been printed. Check the printer, then mark the batch as printed or not "
                    + "printed.",
                By(run)
            );
            Tell(run);
            return null;
        }
        var prepared = files.Prepare(run, batch, count, cancel.ThrowIfCancellationRequested);
        if (!batches.Handing(batch, work.Id, prepared.Ends, prepared.Before))
        {
            Tell(run);
            return null;
        }
        var kind = run.Designs[(int)batch.Position - 1].Kind;
        var sheets = (prepared.Before + prepared.Ends[^1]) * settings.Copies;
        var job = device.HandOver(
            new(
                $"run-{run.Id}-batch-{batch.Number}",
                $"Run {run.Number}, batch {batch.Number}: {run.Designs[(int)batch.Position - 1].Name}, {batch.FirstPiece:0000} to "
                    + $"{batch.LastPiece:0000}",
                prepared.Path,
                kind.Rules().Stock,
                settings.Duplex && kind.Rules().HasPages,
                settings.Copies,
                settings.Collated,
                prepared.Pages,
                sheets
            )
        );
        batches.Printing(batch, job);
        return batches.Of(run.Id).Single(b => b.Number == batch.Number);
    }

    /// <summary>Follows a batch until it is out; false where the run was paused.</summary>
    bool Followed(
        JobRow work,
        RunRow run,
        RunBatch batch,
        RunSettings settings,
        IPrintDevice device,
        JobProgress progress,
        CancellationToken cancel
    )
    {
        var sheets = batch.Sheets(settings.Copies, settings.Collated);
        // What the run's log and its message tell already is not told again by a process that goes on where another ended.
        var (seen, told, spoiled) = ((int)batch.SheetsOut, runs.Get(run.Id).Message, (int)batch.SpoiledTold);
        var from = runs.Get(run.Id).Printed;
        var (since, before) = (time.GetTimestamp(), (PrintReport?)null);
        while (true)
        {
            cancel.ThrowIfCancellationRequested();
            var report = device.Look(batch.DeviceJob!);
            if (report.State == PrintState.Lost || report.State == PrintState.GivenUp && !device.TellsSheets)
            {
                var isOurs = life.PauseIfMade(
                    run.Id,
                    work.Id,
                    $"Batch {batch.Number}, pieces {batch.FirstPiece:0000} to {batch.LastPiece:0000}, "
                        + (
                            report.State == PrintState.Lost
                                ? "is no longer in the print queue, and the queue does not report whether it was printed"
                                : "was canceled at the print queue, and some of it may have been printed"
                        )
                        + ". Check the printer, then mark the batch as printed or not printed.",
                    By(run)
                );
                // Where the run was resumed from a piece meanwhile, it was we who took the batch away from the printer.
                if (isOurs)
                    batches.Doubt(run, batch, By(run));
                Tell(run);
                return false;
            }
            if (report.State == PrintState.GivenUp)
            {
                life.PauseIfMade(
                    run.Id,
                    work.Id,
                    $"Batch {batch.Number} was given up at the printer after {Math.Min(report.SheetsOut, sheets.Total):N0} of "
                        + $"{sheets.Total:N0} sheets. Resume the run from the first piece that must print again.",
                    By(run)
                );
                Record(run, batch, sheets, report, ref seen, ref from);
                return false;
            }
            Record(run, batch, sheets, report, ref seen, ref from);
            if (report.Spoiled.Count > spoiled)
            {
                batches.TellSpoiled(
                    batch,
                    report.Spoiled.Count,
                    report.Spoiled.Skip(spoiled).Select(s => Spoiled(run, batch, sheets, s)),
                    time.GetUtcNow()
                );
                spoiled = report.Spoiled.Count;
            }
            if (report.Trouble != told)
            {
                if ((told = report.Trouble) is not null)
                    log.Add(run.Id, told, time.GetUtcNow());
                life.Say(run.Id, told);
                Tell(run);
            }
            progress(from, run.Pieces);
            if (report.State == PrintState.Out)
                return true;
            // A batch of which nothing is heard any more is not waited for without end.
            if (before is null || before.State != report.State || before.SheetsOut != report.SheetsOut || before.Trouble != report.Trouble)
                (since, before) = (time.GetTimestamp(), report);
            else if (time.GetElapsedTime(since) > Patience(sheets.Total, device.TellsSheets))
                life.PauseIfMade(
                    run.Id,
                    work.Id,
                    $"Nothing has been heard of batch {batch.Number} for {time.GetElapsedTime(since).TotalMinutes:0} "
                        + $"minutes{(report.Trouble is { } trouble ? $". {trouble.TrimEnd('.')}" : "")}. Check the printer, then "
                        + "resume the run: the batch goes on from where it is.",
                    By(run)
                );
            if (Paused(work, run, batch, device))
            {
                Record(run, batch, sheets, device.Look(batch.DeviceJob!), ref seen, ref from);
                return false;
            }
            cancel.WaitHandle.WaitOne(Between);
        }
    }

    /// <summary>How long a batch may give no sign: where sheets are told, half an hour for the next one; where they are not, ten seconds
    /// more for each.</summary>
    static TimeSpan Patience(int sheets, bool told) =>
        TimeSpan.FromMinutes(30) + (told ? TimeSpan.Zero : TimeSpan.FromSeconds(10 * sheets));

    void Record(RunRow run, RunBatch batch, Core.Drops.SheetsOut sheets, PrintReport report, ref int seen, ref long printed)
    {
        var finished = report.State == PrintState.Out;
        var now = Math.Min(report.SheetsOut, sheets.Total);
        if (now == seen && !finished)
            return;
        seen = now;
        printed += batches.Report(run, batch, now, sheets.Pieces(now), finished, By(run));
    }

    /// <summary>What the run's log says of a sheet that jammed.</summary>
    string Spoiled(RunRow run, RunBatch batch, Core.Drops.SheetsOut sheets, int sheet) =>
        sheets.PieceOn(sheet) is { } at && runs.PieceAt(run.Id, (int)batch.FirstAt + at) is { } number
            ? $"Piece {number:0000} of {run.Designs[(int)batch.Position - 1].Name} jammed and is printed again; both sheets "
                + "carry its number. Take the first out."
            : "A separator sheet jammed and will print again.";

    /// <inheritdoc/>
    public void Waits(JobRow job, string why)
    {
        var run = runs.Get(job.SubjectId);
        life.Say(run.Id, why);
        Tell(run);
    }

    /// <summary>What is done stays done: the run waits until somebody lets it go on.</summary>
    public void Crashed(JobRow job, string message)
    {
        var run = runs.Get(job.SubjectId);
        life.PauseIfMade(run.Id, null, message, Actor.Rule(time.GetUtcNow()));
        Tell(run);
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message)
    {
        var run = runs.Get(job.SubjectId);
        var settings = RunSettings.Read(run.SettingsJson);
        foreach (var batch in batches.Of(run.Id).Where(b => b.State == BatchState.Printing && b.DeviceJob is not null))
        {
            // Nothing more of it comes out; what is out stays produced.
            var device = devices.Of(run.DeviceId!.Value);
            device.GiveUp(batch.DeviceJob!);
            var (sheets, seen, printed) = (batch.Sheets(settings.Copies, settings.Collated), (int)batch.SheetsOut, 0L);
            var report = device.Look(batch.DeviceJob!);
            // How much of it was printed before, a queue does not tell.
            if (!device.TellsSheets && report.State != PrintState.Out)
                batches.Doubt(run, batch, By(run));
            else
                Record(run, batch, sheets, report, ref seen, ref printed);
        }
        life.Stop(run.Id, state, message, Actor.Person(job.CreatedBy, time.GetUtcNow()));
        Tell(run);
    }
}
