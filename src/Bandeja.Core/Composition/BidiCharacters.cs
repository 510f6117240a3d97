using System.Globalization;

namespace Bandeja.Core.Composition;

/// <summary>What the Unicode Character Database says of characters for the reading order
/// (<c>assets/unicode/make-bidi-classes.mjs</c> makes the tables).</summary>
static class BidiCharacters
{
    static readonly (int First, int Last, BidiClass Class)[] Ranges =
    [
        .. Lines("BidiClasses.txt").Select(p => (Hex(p[0]), Hex(p[1]), Enum.Parse<BidiClass>(p[2]))),
    ];

    static readonly Dictionary<int, int> Brackets = Lines("BidiBrackets.txt")
        .ToDictionary(p => Hex(p[0]), p => p[2] == "o" ? Canonical(Hex(p[0])) : -Canonical(Hex(p[1])));

    /// <summary>A character's type.</summary>
    public static BidiClass ClassOf(int codePoint)
    {
        var (low, high) = (0, Ranges.Length - 1);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (codePoint > Ranges[middle].Last)
                low = middle + 1;
            else
                high = middle;
        }
        return Ranges[low].Class;
    }

    /// <summary>For a bracket that opens, the number of its pair; for one that closes, the same below zero; 0 for what is no
    /// bracket.</summary>
    public static int Bracket(int codePoint) => Brackets.GetValueOrDefault(codePoint);

    // U+2329 and U+3008 are canonically equivalent, so either opens for either (BD16).
    static int Canonical(int opening) => opening == 0x2329 ? 0x3008 : opening;

    static int Hex(string text) => int.Parse(text, NumberStyles.HexNumber, CultureInfo.InvariantCulture);

    static IEnumerable<string[]> Lines(string resource)
    {
        using var reader = new StreamReader(typeof(BidiCharacters).Assembly.GetManifestResourceStream(resource)!);
        while (reader.ReadLine() is { } line)
            yield return line.Split(' ');
    }
}
