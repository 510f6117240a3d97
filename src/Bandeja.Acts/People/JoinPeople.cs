using Bandeja.Store.People;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.People;

/// <summary>Says that two recipients are the same person.</summary>
[Act("people.join", Permission.Lists, "Said that two recipients are the same person")]
public sealed class JoinPeople(PeopleStore people) : Act<TwoRecipients>
{
    /// <inheritdoc/>
    protected override void Carry(TwoRecipients order, Deed deed)
    {
        people.Together(order.RecipientId, order.OtherId, deed.Actor);
        deed.Changed(Matter.People);
    }
}
