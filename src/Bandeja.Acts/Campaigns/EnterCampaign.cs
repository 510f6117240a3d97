using Bandeja.Store;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Campaigns;

/// <summary>Recipients who enter a campaign.</summary>
/// <param name="On">From when their clock runs; null for today.</param>
public sealed record Entering(long CampaignId, IReadOnlyList<long> Recipients, DateOnly? On = null);

/// <summary>Puts recipients into a campaign that they go through one by one; answers how many entered.</summary>
[Act("campaign.enter", Permission.Drops, "Put recipients into a campaign")]
public sealed class EnterCampaign(CampaignDesk desk, Surroundings surroundings, CheckRequests checks) : Act<Entering, int>
{
    /// <inheritdoc/>
    protected internal override int Do(Entering order, Deed deed)
    {
        var today = surroundings.Now.Today;
        if (order.On > today)
            throw new BadInputException("Recipients can enter on a day in the past, or today.");
        var entered = desk.Enter(order.CampaignId, order.Recipients, order.On ?? today);
        deed.Says($"Put {Given.Recipients(entered)} into a campaign");
        deed.Changed(Matter.Campaign, order.CampaignId);
        checks.Collect();
        return entered;
    }
}
