using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Suppressions;

/// <summary>An entry for a suppression list.</summary>
public sealed record Suppressed(long SuppressionListId, NewSuppression Entry);

/// <summary>Adds somebody who must not be mailed.</summary>
[Act("suppression.add", Permission.Suppressions, "Suppressed a recipient")]
public sealed class Suppress(SuppressionStore store) : Act<Suppressed>
{
    /// <inheritdoc/>
    protected override void Carry(Suppressed order, Deed deed)
    {
        if (order.Entry.Channel is not ("all" or "email"))
            throw new BadInputException("An entry ends all mail or email: say “all” or “email”.");
        if (store.Add(order.SuppressionListId, [order.Entry], deed.Actor).Added == 0)
            throw new BadInputException(
                "This entry cannot be matched. Enter a key, an email address, or a name with street and postal code."
            );
        deed.Changed(Matter.Suppression, order.SuppressionListId);
    }
}
