using Bandeja.Core.Contact;
using Bandeja.Store.Drops;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>A drop's place among the others where contact limits let only one go.</summary>
public sealed record NewPriority(long DropId, MailPriority Priority);

/// <summary>Sets which of two drops goes where a contact limit lets only one go.</summary>
[Act("drop.priority", Permission.Drops, "Changed a drop's priority")]
public sealed class SetPriority(DropStore drops) : Act<NewPriority>
{
    /// <inheritdoc/>
    protected override void Carry(NewPriority order, Deed deed)
    {
        drops.SetPriority(order.DropId, order.Priority);
        deed.Changed(Matter.Drop, order.DropId);
    }
}
