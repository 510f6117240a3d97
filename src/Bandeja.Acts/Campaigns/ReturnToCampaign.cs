using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>Recipients of a campaign.</summary>
public sealed record OfCampaign(long CampaignId, IReadOnlyList<long> Recipients);

/// <summary>Undoes that recipients left a campaign; answers how many are in again.</summary>
[Act("campaign.return", Permission.Drops, "Undid that recipients left a campaign")]
public sealed class ReturnToCampaign(CampaignDesk desk, SequenceWork work, CheckRequests checks) : Act<OfCampaign, int>
{
    /// <inheritdoc/>
    protected internal override int Do(OfCampaign order, Deed deed)
    {
        var back = desk.Return(order.CampaignId, order.Recipients, deed.Actor);
        deed.Changed(Matter.Campaign, order.CampaignId);
        work.Check(order.CampaignId);
        checks.Collect();
        return back;
    }
}
