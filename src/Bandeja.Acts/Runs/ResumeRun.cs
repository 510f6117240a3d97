using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Devices;
using Bandeja.Work.Freezing;

namespace Bandeja.Acts.Runs;

/// <summary>A run to resume.</summary>
/// <param name="From">From which piece a run that prints goes on; null for where it was.</param>
public sealed record ResumedRun(long RunId, int? From = null);

/// <summary>Resumes a paused run; one that prints, also from a piece.</summary>
[Act("run.resume", Permission.Produce, "Resumed a run")]
public sealed class ResumeRun(RunStore runs, RunLife life, RunBatches batches, PrintDevices devices, JobBells bells)
    : Act<ResumedRun, RunRow>
{
    /// <summary>A printer may be asked to give up what it has.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override RunRow Do(ResumedRun order, Deed deed)
    {
        var run = runs.Get(order.RunId);
        if (run.State != RunState.Paused)
            throw new ConflictException("This run is not paused.");
        if (batches.Of(run.Id).Any(b => b.State == BatchState.Doubt))
            throw new ConflictException("First mark the batch in doubt as printed or not printed.");
        if (order.From is { } from)
        {
            if (run.Output != RunOutput.Print)
                throw new BadInputException("Only a print run can resume from a piece number. A run that produces files starts over.");
            var device = devices.Of(run.DeviceId!.Value);
            foreach (var batch in batches.GoBackTo(run, from, RunSettings.Read(run.SettingsJson).BatchOf, deed.Actor))
                if (batch.DeviceJob is { } job)
                    device.GiveUp(job);
        }
        life.Resume(run.Id, $"Resumed by {deed.Actor.Name}.", deed.Actor);
        bells.Ring(run.Work);
        return deed.ChangedRun(runs, run.Id);
    }
}
