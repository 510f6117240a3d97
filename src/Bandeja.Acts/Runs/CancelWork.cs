using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Runs;

/// <summary>Long work that is not wanted any more.</summary>
public sealed record UnwantedWork(long JobId);

/// <summary>Cancels long work.</summary>
[Act("work.cancel", Permission.Lists, "Canceled work")]
public sealed class CancelWork(JobRunner runner) : Act<UnwantedWork>
{
    /// <summary>The work that is on is told to stop.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected override void Carry(UnwantedWork order, Deed deed) => runner.Cancel(order.JobId, deed.Actor);
}
