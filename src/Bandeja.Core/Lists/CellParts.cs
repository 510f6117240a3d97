using Bandeja.Core.Checks;
using Bandeja.Core.Places;

namespace Bandeja.Core.Lists;

/// <summary>Columns that come of dividing one that holds a whole name or a whole address.</summary>
public static class CellParts
{
    /// <summary>The roles of the parts; empty where a column of such a role cannot be divided.</summary>
    public static IReadOnlyList<Role> RolesOf(Role whole) => whole switch
    {
        Role.FullName => [Role.Title, Role.GivenName, Role.FamilyName],
        Role.WholeAddress => [Role.Street, Role.City, Role.Region, Role.PostalCode],
        _ => [],
    };

    /// <summary>What a part's column is called.</summary>
    public static string NameOf(Role part) => part switch { Role.Title => "Title", Role.GivenName => "Given name", Role.FamilyName => "Family name", Role.Street => "Street", Role.City => "City", Role.Region => "Region", Role.PostalCode => "Postal code", _ => part.ToString() };

    /// <summary>The parts of a value in the order of <see cref="RolesOf"/>; what cannot be divided stays whole in the part that matters most, so nothing is lost.</summary>
    public static string?[] Divide(string? value, Role whole, Country home)
    {
        if (string.IsNullOrWhiteSpace(value)) return new string?[RolesOf(whole).Count];
        if (whole == Role.FullName) return NameParts.Of(value) is var n ? [n.Title, n.Given, n.Family] : [];
        // The country may differ from row to row; the forms of the commonest are tried where home's do not fit.
        var a = AddressParts.Of(value.Trim(), home) ?? AddressParts.Of(value.Trim(), null);
        return a is null ? [value.Trim(), null, null, null] : [a.Street, a.City, a.Region, a.PostalCode];
    }

    /// <summary>How the first filled values would be divided: the parts' headings, then a row for each of them, the whole value first.</summary>
    public static IReadOnlyList<string?[]> Preview(string heading, Role whole, IEnumerable<string?> values, Country home)
    {
        var roles = RolesOf(whole);
        if (roles.Count == 0) return [];
        return [[heading, .. roles.Select(NameOf)], .. values.Where(v => !string.IsNullOrWhiteSpace(v)).Take(5).Select(v => (string?[])[v, .. Divide(v, whole, home)])];
    }
}
