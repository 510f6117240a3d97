using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>Which accepted issue of whom to open again.</summary>
public sealed record ReopenedIssue(long DropId, long Recipient, string Key);

/// <summary>Opens an accepted issue again.</summary>
[Act("drop.reopen", Permission.Proof, "Opened an accepted issue again")]
public sealed class ReopenIssue(BenchStore bench) : Act<ReopenedIssue, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(ReopenedIssue order, Deed deed)
    {
        deed.Changed(Matter.Drop, order.DropId);
        return bench.Reopen(order.DropId, order.Recipient, order.Key, deed.Actor);
    }
}
