using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>Whether a step is skipped.</summary>
public sealed record SkippedStep(long CampaignId, long StepId, bool Skipped);

/// <summary>Skips a step, or takes it up again.</summary>
[Act("step.skip", Permission.Drops, "Skipped a step or took it up again")]
public sealed class SkipStep(StepEdits edits, SequenceWork work) : Act<SkippedStep>
{
    /// <inheritdoc/>
    protected override void Carry(SkippedStep order, Deed deed)
    {
        edits.Skip(order.StepId, order.Skipped);
        deed.Changed(Matter.Campaign, order.CampaignId);
        work.Follow(order.CampaignId);
    }
}
