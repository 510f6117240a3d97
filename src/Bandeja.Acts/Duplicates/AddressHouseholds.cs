using Bandeja.Acts.Lists;
using Bandeja.Core.Matching;
using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Duplicates;

/// <summary>Households to address.</summary>
/// <param name="Households">The members of each, the addressee first; all that were found where there are none.</param>
public sealed record AddressedHouseholds(long ListId, HouseholdForm Form, IReadOnlyList<IReadOnlyList<long>>? Households = null);

/// <summary>Addresses one piece to households.</summary>
[Act("households.address", Permission.Lists, "Addressed households")]
public sealed class AddressHouseholds(HouseholdStore households) : Act<AddressedHouseholds, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(AddressedHouseholds order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return households.Address(order.ListId, order.Households, order.Form, deed.Actor);
    }
}
