using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>A step to add.</summary>
/// <param name="BeforeStepId">The step that it comes before; null for the end.</param>
public sealed record NewStep(long CampaignId, StepPlan Step, long? BeforeStepId = null);

/// <summary>Adds a step to a campaign; answers its id.</summary>
[Act("step.add", Permission.Drops, "Added a step")]
public sealed class AddStep(StepEdits edits, SequenceWork work) : Act<NewStep, long>
{
    /// <inheritdoc/>
    protected internal override long Do(NewStep order, Deed deed)
    {
        var step = order.Step with { Name = Given.Name(order.Step.Name, "step"), Condition = Given.Condition(order.Step.Condition) };
        var id = edits.Add(order.CampaignId, step, order.BeforeStepId, deed.Actor);
        deed.Says($"Added the step “{step.Name}”");
        deed.Changed(Matter.Campaign, order.CampaignId);
        work.Follow(order.CampaignId);
        return id;
    }
}
