using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>A step as it is to be from now on.</summary>
public sealed record ChangedStep(long CampaignId, long StepId, StepPlan Step);

/// <summary>Changes a step: its name, package, date, and to whom it goes.</summary>
[Act("step.change", Permission.Drops, "Changed a step")]
public sealed class ChangeStep(StepEdits edits, SequenceWork work) : Act<ChangedStep>
{
    /// <inheritdoc/>
    protected override void Carry(ChangedStep order, Deed deed)
    {
        var step = order.Step with { Name = Given.Name(order.Step.Name, "step"), Condition = Given.Condition(order.Step.Condition) };
        edits.Change(order.StepId, step);
        deed.Says($"Changed the step “{step.Name}”");
        deed.Changed(Matter.Campaign, order.CampaignId);
        work.Follow(order.CampaignId);
    }
}
