using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Drops;

/// <summary>A drop to start. Without a campaign's id, a campaign of that name is started.</summary>
public sealed record NewDrop(
    string Name,
    long ListId,
    IReadOnlyList<long> DesignIds,
    long? CampaignId = null,
    string? CampaignName = null,
    DateOnly? MailDate = null,
    long? SegmentId = null
);

/// <summary>Starts a drop, with a campaign where it has none yet; answers its id.</summary>
[Act("drop.start", Permission.Drops, "Started a drop")]
public sealed class StartDrop(DropStore drops, CampaignStore campaigns, CheckRequests checks, Surroundings surroundings)
    : Act<NewDrop, long>
{
    /// <inheritdoc/>
    protected internal override long Do(NewDrop order, Deed deed)
    {
        var name = Given.Name(order.Name, "drop");
        var campaign = order.CampaignId ?? campaigns.Create(Given.Name(order.CampaignName, "campaign"), deed.Actor);
        var id = drops.CreateDrop(
            campaign,
            name,
            order.ListId,
            order.DesignIds,
            order.MailDate,
            deed.Actor,
            order.SegmentId,
            surroundings.Now
        );
        checks.Drop(id);
        deed.Says($"Started the drop “{name}”");
        deed.Changed(Matter.Drop, id);
        return id;
    }
}
