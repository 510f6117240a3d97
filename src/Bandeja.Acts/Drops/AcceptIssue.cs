using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>Which issue to accept: of one recipient, or of all who have one alike.</summary>
public sealed record AcceptedIssue(long DropId, string Alike, long? Recipient = null);

/// <summary>Accepts an issue as it is.</summary>
[Act("drop.accept", Permission.Proof, "Accepted an issue as is")]
public sealed class AcceptIssue(BenchStore bench) : Act<AcceptedIssue, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(AcceptedIssue order, Deed deed)
    {
        deed.Changed(Matter.Drop, order.DropId);
        return bench.Accept(order.DropId, order.Recipient, order.Alike, deed.Actor);
    }
}
