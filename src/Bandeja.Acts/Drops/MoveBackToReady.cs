using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>Moves produced pieces back to Ready, to be produced again; the reason stands in the ledger.</summary>
[Act("drop.move-back", Permission.Produce, "Moved produced pieces back to Ready")]
public sealed class MoveBackToReady(BenchStore bench) : Act<OnRecipients, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(OnRecipients order, Deed deed)
    {
        var reason = Given.Reason(order.Reason) ?? "no reason given";
        deed.Says($"Moved the pieces of {Given.Recipients(order.Recipients.Count)} back to Ready: {reason}");
        deed.Changed(Matter.Drop, order.DropId);
        return bench.Act(order.DropId, order.Recipients, DropEventKind.TakenBack, reason, null, "Moved back to Ready:", deed.Actor);
    }
}
