using Bandeja.Core.Texts;

namespace Bandeja.Core.Checks;

/// <summary>Capitals for street lines: <c>510 TIDE ST NE APT 3B</c> becomes <c>510 Tide St NE Apt 3B</c>; PO Box, directionals and ordinals
/// come out right.</summary>
public static class StreetCase
{
    // Directionals of USPS Publication 28, section 233, and what else is written in capitals.
    static readonly HashSet<string> Capitals = new(StringComparer.OrdinalIgnoreCase)
    {
        "NE",
        "NW",
        "SE",
        "SW",
        "N",
        "S",
        "E",
        "W",
        "PO",
        "P.O.",
        "RR",
        "HC",
        "PMB",
        "APO",
        "FPO",
        "DPO",
        "II",
        "III",
        "IV",
        "US",
    };

    /// <summary>The line with capitals where they belong.</summary>
    public static string Of(string street) => string.Join(' ', street.Split(' ').Select((word, i) => Word(word, i)));

    static string Word(string word, int position)
    {
        var bare = word.Trim(',', ';');
        if (bare.Length == 0)
            return word;
        if (Capitals.Contains(bare))
            return word.ToUpperInvariant();
        // 42ND is an ordinal, 3B a door.
        if (char.IsAsciiDigit(bare[0]))
            return bare.Length > 2 && bare[^2..].ToUpperInvariant() is "ST" or "ND" or "RD" or "TH" && char.IsAsciiDigit(bare[^3])
                ? word.ToLowerInvariant()
                : word.ToUpperInvariant();
        if (bare.Length == 1)
            return word.ToUpperInvariant();
        return
            position > 0
            && bare.ToLowerInvariant()
                is "of"
                    or "and"
                    or "the"
                    or "de"
                    or "del"
                    or "la"
                    or "las"
                    or "los"
                    or "du"
                    or "des"
                    or "der"
                    or "am"
                    or "im"
            ? word.ToLowerInvariant()
            : NameCase.Of(word);
    }
}
