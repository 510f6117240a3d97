using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Runs;

/// <summary>Re-creates a run's files from what was frozen with it; answers the long work that does it.</summary>
[Act("run.recreate", Permission.Produce, "Re-created a run's files")]
public sealed class RecreateFiles(RunStore runs, JobQueue queue) : Act<OnRun, long>
{
    /// <inheritdoc/>
    protected internal override long Do(OnRun order, Deed deed)
    {
        var run = deed.ChangedRun(runs, order.RunId);
        if (run.State != RunState.Done || !run.Output.IsFiles())
            throw new ConflictException("Only the files of a run that is done can be made again.");
        return queue.Add(JobNames.Remake, run.Id, $"Files of run {run.Number}, made again", new { }, deed.Actor, run.Pieces);
    }
}
