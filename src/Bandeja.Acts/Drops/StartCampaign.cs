using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;

namespace Bandeja.Acts.Drops;

/// <summary>A campaign to start.</summary>
public sealed record NewCampaign(string Name);

/// <summary>Starts a campaign; answers its id.</summary>
[Act("campaign.start", Permission.Drops, "Started a campaign")]
public sealed class StartCampaign(CampaignStore campaigns) : Act<NewCampaign, long>
{
    /// <inheritdoc/>
    protected internal override long Do(NewCampaign order, Deed deed)
    {
        var name = Given.Name(order.Name, "campaign");
        deed.Says($"Started the campaign “{name}”");
        return campaigns.Create(name, deed.Actor);
    }
}
