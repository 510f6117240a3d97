using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Production;

namespace Bandeja.Acts.Runs;

/// <summary>A run to start.</summary>
public sealed record RunToStart(long DropId, RunOrder Order);

/// <summary>Starts a run.</summary>
[Act("run.start", Permission.Produce, "Started a run")]
public sealed class StartRun(RunPlanner planner, CheckRequests checks, JobBells bells) : Act<RunToStart, RunRow>
{
    /// <summary>Weights and sheets are told from pieces that are composed first; what is frozen is checked and written at once.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override void Before(RunToStart order)
    {
        if (!order.Order.IsReprint)
            checks.MustBeFresh(order.DropId, "nothing is produced");
    }

    /// <inheritdoc/>
    protected internal override RunRow Do(RunToStart order, Deed deed)
    {
        var run = planner.Begin(order.DropId, order.Order, deed.Actor);
        bells.Ring(run.Work);
        deed.Says($"Started run {run.Number} with {Given.Recipients((int)run.Pieces)}");
        deed.Changed(Matter.Drop, order.DropId);
        return run;
    }
}
