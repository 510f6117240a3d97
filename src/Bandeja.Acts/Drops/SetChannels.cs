using Bandeja.Core.Mail;
using Bandeja.Store.Drops;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>What decides who gets paper and who email.</summary>
public sealed record NewChannels(long DropId, ChannelBy By, int? ColumnId = null);

/// <summary>Sets the rule by which a drop's recipients get paper, email, or both.</summary>
[Act("drop.channels", Permission.Drops, "Changed who gets paper and who email")]
public sealed class SetChannels(DropStore drops, CheckRequests checks) : Act<NewChannels>
{
    /// <inheritdoc/>
    protected override void Carry(NewChannels order, Deed deed)
    {
        drops.SetChannels(order.DropId, new(order.By, order.ColumnId));
        checks.Drop(order.DropId);
        deed.Changed(Matter.Drop, order.DropId);
    }
}
