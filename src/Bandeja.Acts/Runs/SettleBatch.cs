using Bandeja.Store.Runs;

namespace Bandeja.Acts.Runs;

/// <summary>Whether a batch that is in doubt was printed.</summary>
public sealed record SettledBatch(long RunId, long Batch, bool Printed);

/// <summary>Says of a batch in doubt whether it was printed.</summary>
[Act("run.settle-batch", Permission.Produce, "Resolved a batch in doubt")]
public sealed class SettleBatch(RunStore runs, RunBatches batches) : Act<SettledBatch, RunRow>
{
    /// <inheritdoc/>
    protected internal override RunRow Do(SettledBatch order, Deed deed)
    {
        batches.Settle(runs.Get(order.RunId), order.Batch, order.Printed, deed.Actor);
        deed.Says($"Marked batch {order.Batch} as {(order.Printed ? "printed" : "not printed")}");
        return deed.ChangedRun(runs, order.RunId);
    }
}
