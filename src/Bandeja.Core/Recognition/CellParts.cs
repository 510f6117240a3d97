using Bandeja.Core.Addressing;
using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Recognition;

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
            Role.WholeAddress => [Role.Street, Role.City, Role.Region, Role.PostalCode],
            _ => [],
        };

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
            _ => part.ToString(),
        };

    /// <summary>The parts of a value in the order of <see cref="RolesOf"/>; what cannot be divided stays whole in the part that matters
    /// most, so nothing is lost.</summary>
    public static string?[] Divide(string? value, Role whole, Country home)
    {
        if (string.IsNullOrWhiteSpace(value))
            return new string?[RolesOf(whole).Count];
        if (whole == Role.FullName)
            return NameParts.Of(value) is var n
                ? [n.Title, n.Given, n.Family, n.Suffix, n.PartnerTitle, n.PartnerGiven, n.PartnerFamily, n.Organization, n.Household]
                : [];
        // The country may differ from row to row; the forms of the commonest are tried where home's do not fit.
        var a = AddressParts.Of(value.Trim(), home) ?? AddressParts.Of(value.Trim(), null);
        return a is null ? [value.Trim(), null, null, null] : [a.Street, a.City, a.Region, a.PostalCode];
    }

    /// <summary>The parts that always get a column; the others only where a value has them.</summary>
    public static bool IsAlways(Role part) =>
        part is Role.Title or Role.GivenName or Role.FamilyName or Role.Street or Role.City or Role.Region or Role.PostalCode;

    /// <summary>How the first filled values would be divided: the parts' headings, then a row for each of them, the whole value
    /// first.</summary>
    public static IReadOnlyList<string?[]> Preview(string heading, Role whole, IEnumerable<string?> values, Country home)
    {
        var roles = RolesOf(whole);
        if (roles.Count == 0)
            return [];
        var filled = values
            .Where(v => !string.IsNullOrWhiteSpace(v))
            .Take(400)
            .Select(v => (Value: v, Parts: Divide(v, whole, home)))
            .ToList();
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
