using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>A step of a campaign.</summary>
public sealed record StepOfCampaign(long CampaignId, long StepId);

/// <summary>Removes a step of which nothing was produced.</summary>
[Act("step.remove", Permission.Drops, "Removed a step")]
public sealed class RemoveStep(StepEdits edits, SequenceWork work) : Act<StepOfCampaign>
{
    /// <inheritdoc/>
    protected override void Carry(StepOfCampaign order, Deed deed)
    {
        edits.Remove(order.StepId);
        deed.Changed(Matter.Campaign, order.CampaignId);
        work.Follow(order.CampaignId);
    }
}
