using System.Text.RegularExpressions;

namespace Bandeja.Core.Addressing;

/// <summary>
/// Mail in care of another person: <c>C/O MARY KLEIN 12 OAK ST</c>, as rolls of owners have it in one cell. On a piece, that person has a
/// line above the street.
/// </summary>
static partial class CareOf
{
    /// <summary>The lines of what stands in a street's column: two where it begins with “in care of” and a street follows the name, else
    /// one.</summary>
    public static IEnumerable<string> Lines(string street)
    {
        if (street.Length == 0 || street[0] is not ('c' or 'C' or '%' or 'i' or 'I'))
            return [street];
        var match = InOneLine().Match(street);
        return match.Success ? [match.Groups["who"].Value.TrimEnd(',', ';', ' '), match.Groups["street"].Value] : [street];
    }

    [GeneratedRegex(
        @"^(?<who>(?:c\s?/\s?o\b|%|(?:in )?care of\b)[\s:]*\p{L}[^\d]*?)[\s,;]+"
            + @"(?<street>(?:\d+\S*\s+(?=.*\p{L})\S|p\.?\s?o\.?\s?box\s+\S).*)$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex InOneLine();
}
