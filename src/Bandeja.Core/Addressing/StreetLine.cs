namespace Bandeja.Core.Addressing;

/// <summary>The parts of a United States street line (USPS Publication 28, section 23 and appendix C1); empty where there is
/// none.</summary>
/// <param name="Number">The house number, or the whole of <c>PO Box 12</c>.</param>
/// <param name="Before">The directional before the name: <c>NE</c>.</param>
/// <param name="Name">The street's name.</param>
/// <param name="Suffix">The kind of street, abbreviated: <c>Ave</c>.</param>
/// <param name="After">The directional after the suffix.</param>
/// <param name="Unit">Apartment, suite or the like.</param>
public sealed record StreetLine(string Number, string Before, string Name, string Suffix, string After, string Unit)
{
    static readonly Dictionary<string, string> Directionals = new(StringComparer.OrdinalIgnoreCase)
    {
        ["north"] = "N",
        ["south"] = "S",
        ["east"] = "E",
        ["west"] = "W",
        ["northeast"] = "NE",
        ["northwest"] = "NW",
        ["southeast"] = "SE",
        ["southwest"] = "SW",
        ["n"] = "N",
        ["s"] = "S",
        ["e"] = "E",
        ["w"] = "W",
        ["ne"] = "NE",
        ["nw"] = "NW",
        ["se"] = "SE",
        ["sw"] = "SW",
    };
    static readonly Dictionary<string, string> Suffixes = ReadSuffixes();

    static Dictionary<string, string> ReadSuffixes()
    {
        var all = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase)
        {
            ["way"] = "Way",
            ["loop"] = "Loop",
            ["path"] = "Path",
            ["run"] = "Run",
            ["walk"] = "Walk",
            ["pass"] = "Pass",
            ["row"] = "Row",
            ["spur"] = "Spur",
        };
        foreach (
            var word in (string[])
                [
                    "avenue",
                    "boulevard",
                    "circle",
                    "court",
                    "crescent",
                    "crossing",
                    "drive",
                    "expressway",
                    "freeway",
                    "gardens",
                    "grove",
                    "heights",
                    "highway",
                    "hill",
                    "hollow",
                    "junction",
                    "landing",
                    "lane",
                    "manor",
                    "parkway",
                    "place",
                    "plaza",
                    "point",
                    "ridge",
                    "road",
                    "route",
                    "square",
                    "street",
                    "terrace",
                    "trail",
                    "turnpike",
                    "valley",
                    "view",
                    "vista",
                ]
        )
        {
            var abbreviation = AddressAbbreviations.Shorten(
                new(AddressLineKind.Street, $"x {word}"),
                "GB",
                t => t.Length < word.Length + 2
            )[2..];
            all[word] = abbreviation;
            all[abbreviation] = abbreviation;
        }
        all["av"] = "Ave";
        return all;
    }

    /// <summary>Divides a line: <c>510 Northeast Tide Street Apt 3</c> is number 510, NE, Tide, St, unit Apt 3.</summary>
    public static StreetLine Of(string line)
    {
        var words = line.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).ToList();
        var unitAt = -1;
        for (var i = 1; i < words.Count && unitAt < 0; i++)
            if (
                SecondaryUnit.IsUnit(string.Join(' ', words.Skip(i)))
                && !Suffixes.ContainsKey(words[i].TrimEnd('.'))
                && (i + 1 < words.Count || words[i].StartsWith('#') || i > 2)
            )
                unitAt = i;
        var unit = unitAt < 0 ? "" : string.Join(' ', words.Skip(unitAt));
        if (unitAt >= 0)
            words.RemoveRange(unitAt, words.Count - unitAt);
        if (words.Count > 1 && words[0].Replace(".", "").Equals("PO", StringComparison.OrdinalIgnoreCase))
            return new(string.Join(' ', words), "", "", "", "", unit);
        var number = words.Count > 1 && char.IsAsciiDigit(words[0][0]) && !IsOrdinal(words[0]) ? words[0] : "";
        if (number.Length > 0)
            words.RemoveAt(0);
        string Take(int at, Dictionary<string, string> known)
        {
            if (words.Count < 2 || !known.TryGetValue(words[at].TrimEnd('.'), out var found))
                return "";
            words.RemoveAt(at);
            return found;
        }
        var after = Take(words.Count - 1, Directionals);
        var suffix = words.Count == 0 ? "" : Take(words.Count - 1, Suffixes);
        var before = words.Count == 0 ? "" : Take(0, Directionals);
        return new(number, before, string.Join(' ', words), suffix, after, unit);
    }

    static bool IsOrdinal(string word) => word.Length > 2 && word[^2..].ToLowerInvariant() is "st" or "nd" or "rd" or "th";

    /// <summary>The line as the post prefers it.</summary>
    public override string ToString() => string.Join(' ', new[] { Number, Before, Name, Suffix, After, Unit }.Where(p => p.Length > 0));
}
