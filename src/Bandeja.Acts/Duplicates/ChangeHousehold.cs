using Bandeja.Acts.Lists;
using Bandeja.Core.Matching;
using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Duplicates;

/// <summary>Who belongs to a household, in order, and how it is addressed.</summary>
public sealed record ChangedHousehold(
    long ListId,
    long HouseholdId,
    IReadOnlyList<long> Members,
    HouseholdForm Form = HouseholdForm.GivenNames
);

/// <summary>Changes who belongs to a household; with fewer than two members it is dissolved.</summary>
[Act("households.change", Permission.Lists, "Changed a household")]
public sealed class ChangeHousehold(HouseholdStore households) : Act<ChangedHousehold, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(ChangedHousehold order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return households.Change(order.HouseholdId, order.Members, order.Form, deed.Actor);
    }
}
