using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>What to change about a drop.</summary>
/// <param name="MailDate">Null to leave it as it is.</param>
/// <param name="NeedsSignOff">True where no run may begin before somebody has signed off.</param>
/// <param name="NoMailDate">True to clear the mail date.</param>
public sealed record DropChange(string? Name = null, DateOnly? MailDate = null, bool? NeedsSignOff = null, bool NoMailDate = false);

/// <summary>What to change about which drop.</summary>
public sealed record ChangeOfDrop(long DropId, DropChange Change);

/// <summary>Changes a drop's name, its mail date, or whether it must be signed off.</summary>
[Act("drop.change", Permission.Drops, "Changed a drop's name, mail date, or sign-off rule")]
public sealed class ChangeDrop(DropStore drops, StepEdits edits, SequenceWork work) : Act<ChangeOfDrop>
{
    /// <inheritdoc/>
    protected override void Carry(ChangeOfDrop order, Deed deed)
    {
        var change = order.Change;
        if (change is { NoMailDate: true, MailDate: not null })
            throw new BadInputException("Give a mail date, or clear it; not both.");
        var drop = drops.Drop(order.DropId);
        var step = drop.CollectsOn is null ? drop.StepId : null;
        if (step is not null && change.NoMailDate)
            throw new ConflictException(
                "This drop is a step of its campaign, which gives it its date. Move the step to another day instead."
            );
        var name = change.Name is null ? null : Given.Name(change.Name, "drop");
        var moves = change.MailDate is { } date && date != drop.MailDate;
        // What the step is called and when it is mailed is the campaign's; the steps after it follow.
        if (step is { } id && (moves || name is not null && name != drop.Name))
        {
            if (moves)
                edits.Move(id, change.MailDate!.Value);
            if (name is not null && name != drop.Name)
                edits.Rename(id, name);
            deed.Changed(Matter.Campaign, drop.CampaignId);
            work.Follow(drop.CampaignId);
        }
        drops.Change(order.DropId, name, step is null ? change.MailDate : null, change.NeedsSignOff, change.NoMailDate);
        deed.Changed(Matter.Drop, order.DropId);
    }
}
