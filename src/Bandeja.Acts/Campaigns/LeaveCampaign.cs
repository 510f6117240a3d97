using Bandeja.Core.Campaigns;
using Bandeja.Store;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Campaigns;

/// <summary>Recipients who leave a campaign.</summary>
/// <param name="On">When they left; null for today.</param>
public sealed record Leaving(long CampaignId, IReadOnlyList<long> Recipients, LeaveReason Reason, DateOnly? On = null, string? Note = null);

/// <summary>Lets recipients leave a campaign; answers how many left.</summary>
[Act("campaign.leave", Permission.Drops, "Let recipients leave a campaign")]
public sealed class LeaveCampaign(CampaignDesk desk, Surroundings surroundings, SequenceWork work) : Act<Leaving, int>
{
    /// <inheritdoc/>
    protected internal override int Do(Leaving order, Deed deed)
    {
        var today = surroundings.Now.Today;
        if (order.On > today)
            throw new BadInputException("Recipients can leave on a day in the past, or today.");
        if (order.Reason.FollowsFromData() && order.Reason != LeaveReason.Undeliverable)
            throw new BadInputException("This reason follows from the list. Choose another, or change the list.");
        var left = desk.Leave(order.CampaignId, order.Recipients, order.On ?? today, order.Reason, Given.Reason(order.Note), deed.Actor);
        deed.Says($"{Given.Recipients(left)} left a campaign: {order.Reason.Words()}");
        deed.Changed(Matter.Campaign, order.CampaignId);
        work.Check(order.CampaignId);
        return left;
    }
}
