using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Runs;

/// <summary>A run.</summary>
public sealed record OnRun(long RunId);

static class RunDeeds
{
    /// <summary>Says that a run changed; answers it as it is now.</summary>
    public static RunRow ChangedRun(this Deed deed, RunStore runs, long runId)
    {
        var run = runs.Get(runId);
        deed.Changed(Matter.Drop, run.DropId);
        return run;
    }
}
