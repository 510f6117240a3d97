using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>Lets held recipients go on.</summary>
[Act("drop.release", Permission.Drops, "Released recipients")]
public sealed class ReleaseRecipients(BenchStore bench) : Act<OnRecipients, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(OnRecipients order, Deed deed)
    {
        deed.Says($"Released {Given.Recipients(order.Recipients.Count)}");
        deed.Changed(Matter.Drop, order.DropId);
        var reason = Given.Reason(order.Reason);
        return bench.Act(order.DropId, order.Recipients, DropEventKind.Released, reason, null, "Released", deed.Actor);
    }
}
