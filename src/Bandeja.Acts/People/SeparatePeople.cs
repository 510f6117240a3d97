using Bandeja.Store.People;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.People;

/// <summary>Two recipients, of one list or of two.</summary>
public sealed record TwoRecipients(long RecipientId, long OtherId);

/// <summary>Says that two recipients are not the same person.</summary>
[Act("people.separate", Permission.Lists, "Said that two recipients are different people")]
public sealed class SeparatePeople(PeopleStore people) : Act<TwoRecipients>
{
    /// <inheritdoc/>
    protected override void Carry(TwoRecipients order, Deed deed)
    {
        people.Separate(order.RecipientId, order.OtherId, deed.Actor);
        deed.Changed(Matter.People);
    }
}
