using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>Keeps recipients out of a drop.</summary>
[Act("drop.hold", Permission.Drops, "Held recipients")]
public sealed class HoldRecipients(BenchStore bench) : Act<OnRecipients, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(OnRecipients order, Deed deed)
    {
        var reason = Given.Reason(order.Reason) ?? "by hand";
        deed.Says($"Held {Given.Recipients(order.Recipients.Count)}: {reason}");
        deed.Changed(Matter.Drop, order.DropId);
        return bench.Act(order.DropId, order.Recipients, DropEventKind.Held, reason, null, "Held", deed.Actor);
    }
}
