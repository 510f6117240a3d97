using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Runs;

/// <summary>Cancels a run; what is printed of it stays produced.</summary>
[Act("run.cancel", Permission.Produce, "Canceled a run")]
public sealed class CancelRun(RunStore runs, JobStore jobs, JobRunner runner, IEnumerable<IJobKind> kinds) : Act<OnRun, RunRow>
{
    /// <summary>The work that is on, and a printer, are told to stop.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override RunRow Do(OnRun order, Deed deed)
    {
        var run = runs.Get(order.RunId);
        if (run.State.IsOver())
            throw new ConflictException("This run has already ended.");
        var job = jobs.Get(run.JobId!.Value);
        // The work of a run that was just paused may still be on its way out: what ends the run then is not its being canceled.
        if (run.State != RunState.Paused && job.State.IsUnderWay())
            runner.Cancel(job.Id, deed.Actor);
        else
            kinds.First(k => k.Kind == job.Kind).Abandon(job with { CreatedBy = deed.Actor.Name }, RunState.Cancelled, null);
        return deed.ChangedRun(runs, run.Id);
    }
}
