using Bandeja.Store.Runs;

namespace Bandeja.Acts.Runs;

/// <summary>Pauses a run; its pieces stay with it.</summary>
[Act("run.pause", Permission.Produce, "Paused a run")]
public sealed class PauseRun(RunStore runs, RunLife life) : Act<OnRun, RunRow>
{
    /// <inheritdoc/>
    protected internal override RunRow Do(OnRun order, Deed deed)
    {
        life.Pause(order.RunId, $"Paused by {deed.Actor.Name}.", deed.Actor);
        return deed.ChangedRun(runs, order.RunId);
    }
}
