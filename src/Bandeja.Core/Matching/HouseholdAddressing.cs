namespace Bandeja.Core.Matching;

/// <summary>A member of a household as it is looked at.</summary>
/// <param name="Given">Given name, or null.</param>
/// <param name="Family">Family name, or null.</param>
/// <param name="Address">The street and place by which addresses are compared (<see cref="MatchRow.Address"/>); empty where it is not
/// whole.</param>
/// <param name="Removed">True where the member is off the list.</param>
/// <param name="Suppressed">Why the member must not be mailed; null where they may be.</param>
public sealed record HouseholdPerson(long Id, string? Given, string? Family, string Address, bool Removed, string? Suppressed);

/// <summary>Who of a household a piece is addressed to, and by which name.</summary>
/// <param name="Together">Members who live together and can get mail, in the household's order.</param>
/// <param name="Apart">The others, each with the reason.</param>
/// <param name="Name">The name of all, for the addressee's line; null where fewer than two are left.</param>
public sealed record HouseholdAddressing(IReadOnlyList<long> Together, IReadOnlyList<(long Id, string Why)> Apart, string? Name)
{
    /// <summary>Looks at a household as it is now.</summary>
    /// <param name="people">Its members in order.</param>
    /// <param name="language">A BCP 47 tag.</param>
    public static HouseholdAddressing Of(IReadOnlyList<HouseholdPerson> people, HouseholdForm form, string language)
    {
        // The household lives where most of it lives; where that is even, where the first of them does.
        var home =
            people
                .Where(p => !p.Removed && p.Address.Length > 0)
                .GroupBy(p => p.Address)
                .OrderByDescending(g => g.Count())
                .Select(g => g.Key)
                .FirstOrDefault()
            ?? "";
        var apart = new List<(long, string)>();
        var together = new List<HouseholdPerson>();
        foreach (var p in people)
        {
            if (p.Removed)
                apart.Add((p.Id, "removed from the list"));
            else if (p.Suppressed is { } why)
                apart.Add((p.Id, $"suppressed: {why}"));
            else if (p.Address != home)
                apart.Add((p.Id, "has another address now"));
            else
                together.Add(p);
        }
        var name = together.Count < 2 ? "" : HouseholdName.Of([.. together.Select(p => (p.Given, p.Family))], form, language);
        return new([.. together.Select(p => p.Id)], apart, name.Length == 0 ? null : name);
    }
}
