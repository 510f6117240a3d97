using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Runs;

namespace Bandeja.Acts.Runs;

/// <summary>A run whose pieces go back, and why.</summary>
public sealed record RunBack(long RunId, string? Reason = null);

/// <summary>Moves a run's pieces back to Ready, to be produced again.</summary>
[Act("run.move-back", Permission.Produce, "Moved a run's pieces back to Ready")]
public sealed class MoveRunBackToReady(BenchStore bench, RunStore runs) : Act<RunBack, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(RunBack order, Deed deed)
    {
        var reason = Given.Reason(order.Reason) ?? "no reason given";
        deed.Says($"Moved a run's pieces back to Ready: {reason}");
        deed.ChangedRun(runs, order.RunId);
        return bench.TakeRunBack(order.RunId, reason, deed.Actor);
    }
}
