using Bandeja.Store;
using Bandeja.Store.Drops;
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
public sealed class ChangeDrop(DropStore drops) : Act<ChangeOfDrop>
{
    /// <inheritdoc/>
    protected override void Carry(ChangeOfDrop order, Deed deed)
    {
        var change = order.Change;
        if (change is { NoMailDate: true, MailDate: not null })
            throw new BadInputException("Give a mail date, or clear it; not both.");
        drops.Change(
            order.DropId,
            change.Name is null ? null : Given.Name(change.Name, "drop"),
            change.MailDate,
            change.NeedsSignOff,
            change.NoMailDate
        );
        deed.Changed(Matter.Drop, order.DropId);
    }
}
