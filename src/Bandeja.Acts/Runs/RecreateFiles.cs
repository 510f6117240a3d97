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
            throw new ConflictException("Files can be re-created only after a run is done.");
        return queue.Add(JobNames.Remake, run.Id, $"Re-creating files of run {run.Number}", new { }, deed.Actor, run.Pieces);
    }
}
