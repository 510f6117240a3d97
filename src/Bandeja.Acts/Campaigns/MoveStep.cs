using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>The date on which a step is to be mailed.</summary>
public sealed record MovedStep(long CampaignId, long StepId, DateOnly MailOn);

/// <summary>Mails a step on another day.</summary>
[Act("step.move", Permission.Drops, "Moved a step to another day")]
public sealed class MoveStep(StepEdits edits, SequenceWork work) : Act<MovedStep>
{
    /// <inheritdoc/>
    protected override void Carry(MovedStep order, Deed deed)
    {
        edits.Move(order.StepId, order.MailOn);
        deed.Says($"Moved a step to {order.MailOn:yyyy-MM-dd}");
        deed.Changed(Matter.Campaign, order.CampaignId);
        work.Follow(order.CampaignId);
    }
}
