using Bandeja.Core.Mail;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>Recipients and their channel; without one, the drop's rule decides.</summary>
public sealed record ChosenChannel(long DropId, IReadOnlyList<long> Recipients, Channel? Channel = null);

/// <summary>Chooses for some recipients how their pieces go out.</summary>
[Act("drop.channel", Permission.Drops, "Chose the channel of recipients")]
public sealed class ChooseChannel(BenchStore bench) : Act<ChosenChannel, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(ChosenChannel order, Deed deed)
    {
        deed.Changed(Matter.Drop, order.DropId);
        return bench.GoBy(order.DropId, order.Recipients, order.Channel, deed.Actor);
    }
}
