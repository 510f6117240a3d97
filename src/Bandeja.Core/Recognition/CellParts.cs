using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Recognition;

/// <summary>How a column of whole names or whole addresses is divided.</summary>
/// <param name="Whole">What it holds.</param>
/// <param name="FamilyFirst">For names: true where the family name stands first without a comma.</param>
public sealed record Division(Role Whole, bool FamilyFirst = false);

/// <summary>Columns that come of dividing one that holds a whole name or a whole address.</summary>
public static class CellParts
{
    /// <summary>The roles of the parts; empty where a column of such a role cannot be divided.</summary>
    public static IReadOnlyList<Role> RolesOf(Role whole) =>
        whole switch
        {
            Role.FullName =>
            [
                Role.Title,
                Role.GivenName,
                Role.FamilyName,
                Role.Suffix,
                Role.PartnerTitle,
                Role.PartnerGivenName,
                Role.PartnerFamilyName,
                Role.Organization,
                Role.AddressedTo,
            ],
            Role.WholeAddress => [Role.Street, Role.City, Role.Region, Role.PostalCode, Role.Country],
            _ => [],
        };

    /// <summary>Whether whole names of a column stand with the family name first and no comma, see <see cref="NameOrder"/>.</summary>
    public static bool IsFamilyFirst(Role whole, IEnumerable<string?> values) =>
        whole == Role.FullName && NameOrder.IsFamilyFirst(Telling(values));

    /// <summary>An example of what would print badly if a column of whole names or addresses were not split: <c>Okafor, Ana</c>, or a city
    /// and a postal code by which nothing could be sorted. Null where most values are none, and nothing is proposed.</summary>
    public static string? Example(Role whole, IEnumerable<string?> values, Country home)
    {
        var filled = Telling(values).ToList();
        List<string> found = whole switch
        {
            Role.FullName =>
            [
                .. filled.Where(v =>
                    v.Contains(',')
                    && NameParts.Of(v) is { IsCertain: true, Organization: null, Household: null, Family: { } family } n
                    && (n.Given ?? n.PartnerGiven) is not null
                    && v.TrimStart().StartsWith(family, StringComparison.Ordinal)
                ),
            ],
            Role.WholeAddress =>
            [
                .. filled.Where(v => Divide(v, whole, home) is [_, not null, var region, var code, _] && (region ?? code) is not null),
            ],
            _ => [],
        };
        var people = whole == Role.FullName ? filled.Count(v => NameParts.Of(v).Organization is null) : filled.Count;
        return found.Count > 0 && found.Count * 2 > people ? found[0].Trim() : null;
    }

    /// <summary>The first filled values: so many say what a column is like.</summary>
    static IEnumerable<string> Telling(IEnumerable<string?> values) =>
        values.Where(v => !string.IsNullOrWhiteSpace(v)).Take(400).Select(v => v!);

    /// <summary>True for the parts of the second of two people.</summary>
    public static bool IsOfPartner(Role role) => role is Role.PartnerTitle or Role.PartnerGivenName or Role.PartnerFamilyName;

    /// <summary>What a part's column is called.</summary>
    public static string NameOf(Role part) =>
        part switch
        {
            Role.Title => "Title",
            Role.GivenName => "Given name",
            Role.FamilyName => "Family name",
            Role.Suffix => "Suffix",
            Role.PartnerTitle => "Partner's title",
            Role.PartnerGivenName => "Partner's given name",
            Role.PartnerFamilyName => "Partner's family name",
            Role.Organization => "Organization",
            Role.AddressedTo => "Addressed to",
            Role.Street => "Street",
            Role.City => "City",
            Role.Region => "Region",
            Role.PostalCode => "Postal code",
            Role.Country => "Country",
            _ => part.ToString(),
        };

    /// <summary>The parts of a value in the order of <see cref="RolesOf"/>; what cannot be divided stays whole in the part that matters
    /// most, so nothing is lost.</summary>
    /// <param name="familyFirst">For whole names: true where the family name stands first without a comma.</param>
    public static string?[] Divide(string? value, Role whole, Country home, bool familyFirst = false)
    {
        if (string.IsNullOrWhiteSpace(value))
            return new string?[RolesOf(whole).Count];
        if (whole == Role.FullName)
        {
            var n = NameParts.Of(value, familyFirst);
            string?[] parts =
            [
                n.Title,
                n.Given,
                n.Family,
                n.Suffix,
                n.PartnerTitle,
                n.PartnerGiven,
                n.PartnerFamily,
                n.Organization,
                n.Household,
            ];
            return Array.ConvertAll(parts, p => string.IsNullOrWhiteSpace(p) ? null : p);
        }
        // The country may differ from row to row.
        var a = AddressParts.OfCell(value, home);
        return [a.Street, a.City, a.Region, a.PostalCode, a.Country];
    }

    /// <summary>The parts that always get a column; the others only where a value has them.</summary>
    public static bool IsAlways(Role part) =>
        part is Role.Title or Role.GivenName or Role.FamilyName or Role.City or Role.Region or Role.PostalCode;

    /// <summary>How the first filled values would be divided: the parts' headings, then a row for each of them, the whole value
    /// first.</summary>
    public static IReadOnlyList<string?[]> Preview(
        string heading,
        Role whole,
        IEnumerable<string?> values,
        Country home,
        bool familyFirst = false
    )
    {
        var roles = RolesOf(whole);
        if (roles.Count == 0)
            return [];
        var filled = Telling(values).Select(v => (Value: v, Parts: Divide(v, whole, home, familyFirst))).ToList();
        var shown = Enumerable.Range(0, roles.Count).Where(i => IsAlways(roles[i]) || filled.Any(f => f.Parts[i] is not null)).ToList();
        // The ones with the most parts say the most.
        var telling = filled.Take(3).Concat(filled.Skip(3).OrderByDescending(f => f.Parts.Count(p => p is not null)).Take(4));
        return
        [
            [heading, .. shown.Select(i => NameOf(roles[i]))],
            .. telling.Select(f => (string?[])[f.Value, .. shown.Select(i => f.Parts[i])]),
        ];
    }
}
