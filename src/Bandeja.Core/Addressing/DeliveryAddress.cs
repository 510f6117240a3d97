using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Addressing;

/// <summary>
/// The lines of a delivery address, from the columns' roles: name, organisation, street, place, and abroad the country in
/// capitals (UPU S42-1, 5.1: the country is the last line). Whether the code stands before or after the place follows the country.
/// </summary>
public static class DeliveryAddress
{
    // Where the postal code follows the place (UPU, "Postal addressing systems"): elsewhere it stands before it.
    static readonly HashSet<string> CodeAfterPlace = ["US", "CA", "AU", "NZ", "GB", "IE", "IN", "ZA", "PR", "SG", "HK"];

    /// <summary>The lines that are not blank; none where there is neither a street nor a place.</summary>
    /// <param name="homeCountry">The organisation's country, ISO 3166-1: its name is left out.</param>
    public static IReadOnlyList<string> Of(IReadOnlyList<Column> columns, IRow row, string homeCountry)
    {
        string By(Role role)
        {
            for (var i = 0; i < columns.Count; i++) if (columns[i].Role == role) return row[i]?.Trim() ?? "";
            return "";
        }
        static string Joined(params ReadOnlySpan<string> parts)
        {
            var text = "";
            foreach (var part in parts) if (part.Length > 0) text += text.Length == 0 ? part : " " + part;
            return text;
        }
        var name = Joined(By(Role.Title), By(Role.GivenName), By(Role.FamilyName));
        if (By(Role.GivenName).Length == 0 && By(Role.FamilyName).Length == 0) name = By(Role.FullName);
        var whole = By(Role.WholeAddress);
        if (By(Role.Street).Length == 0 && By(Role.City).Length == 0)
            return whole.Length == 0 ? [] : Lines([name, By(Role.Organisation), .. whole.Split(['\n', ';'], StringSplitOptions.TrimEntries)]);
        var country = Countries.Named(By(Role.Country));
        var code = country?.Code ?? (By(Role.Country).Length == 0 ? homeCountry : "");
        var place = code.Length == 0 || CodeAfterPlace.Contains(code)
            ? Joined(By(Role.City), By(Role.Region), By(Role.PostalCode))
            : Joined(By(Role.PostalCode), By(Role.City), country?.NeedsRegion == true ? By(Role.Region) : "");
        var abroad = By(Role.Country).Length > 0 && code != homeCountry ? (country?.Name ?? By(Role.Country)).ToUpperInvariant() : "";
        return Lines([name, By(Role.Organisation), By(Role.Street), By(Role.Street2), place, abroad]);
    }

    static IReadOnlyList<string> Lines(IEnumerable<string> lines) => [.. lines.Where(l => l.Length > 0)];
}
