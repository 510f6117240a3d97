using Bandeja.Core.Texts;

namespace Bandeja.Core.Places;

/// <summary>A country as the post sees it.</summary>
/// <param name="Code">ISO 3166-1 alpha-2.</param>
/// <param name="Name">Its name in English.</param>
/// <param name="Masks">Forms of its postal code: 9 a digit, A a letter, * either; none where the country has no codes.</param>
/// <param name="NeedsRegion">True where an address is not whole without a region.</param>
/// <param name="CodesBeginWithZero">True where a code may begin with 0, so that a spreadsheet may have lost it.</param>
/// <param name="Regions">Its regions, where they are known here.</param>
public sealed record Country(
    string Code,
    string Name,
    IReadOnlyList<string> Masks,
    bool NeedsRegion,
    bool CodesBeginWithZero,
    IReadOnlyList<Region> Regions
)
{
    // UPU, "Postal addressing systems in member countries": where the delivery line is written number first.
    static readonly HashSet<string> NumberFirst =
    [
        .. "US CA GB IE AU NZ ZA FR LU MC SG HK PH IN IL MY TH LK PK BD KE NG GH JM TT BB MT CY TN DZ MA PR GU VI AS MP".Split(' '),
    ];

    static readonly HashSet<string> PluralOrCommon = [.. "NL BQ PH BS GM KM MV IM".Split(' ')];

    /// <summary>The name within a sentence: “the United States”, “Germany”.</summary>
    public string InSentence =>
        Name.StartsWith("United ", StringComparison.Ordinal)
        || Name.Split(' ')[^1] is "Islands" or "Republic" or "Territory" or "Territories"
        || PluralOrCommon.Contains(Code)
            ? $"the {Name}"
            : Name;

    /// <summary>True where a house number stands before the name of its street.</summary>
    public bool WritesNumberFirst => NumberFirst.Contains(Code);

    /// <summary>The region of a code or a name, without regard to case and accents, or null.</summary>
    public Region? RegionOf(string value)
    {
        var folded = FoldedText.Of(value.Trim().TrimEnd('.'));
        foreach (var region in Regions)
            if (region.FoldedCode == folded || region.FoldedName == folded)
                return region;
        return null;
    }

    /// <summary>The regions to which a postal code belongs by its first characters.</summary>
    public IEnumerable<Region> RegionsOfCode(string postalCode) => Regions.Where(r => r.HasCode(postalCode));
}

/// <summary>A state, province or the like.</summary>
/// <param name="Code">The code that the post writes.</param>
/// <param name="Name">Its name.</param>
/// <param name="Prefixes">Ranges of the first characters of its postal codes.</param>
public sealed record Region(string Code, string Name, IReadOnlyList<(string From, string To)> Prefixes)
{
    internal string FoldedCode { get; } = FoldedText.Of(Code);
    internal string FoldedName { get; } = FoldedText.Of(Name);

    /// <summary>True where a postal code begins as this region's codes do, or nothing is known of them.</summary>
    public bool HasCode(string postalCode)
    {
        if (Prefixes.Count == 0)
            return true;
        foreach (var (from, to) in Prefixes)
        {
            if (postalCode.Length < from.Length || postalCode.Length < to.Length)
                continue;
            if (
                string.CompareOrdinal(postalCode, 0, from, 0, from.Length) >= 0
                && string.CompareOrdinal(postalCode, 0, to, 0, to.Length) <= 0
            )
                return true;
        }
        return false;
    }
}

/// <summary>The countries that are known here.</summary>
public static class Countries
{
    static readonly Dictionary<string, Country> ByName = [];

    /// <summary>All of them.</summary>
    public static IReadOnlyList<Country> All { get; } = Read();

    /// <summary>The country of a code or a name in one of several languages, without regard to case and accents; null where it is not
    /// known.</summary>
    public static Country? Named(string? name) => name is null ? null : ByName.GetValueOrDefault(Plain(name));

    static readonly Dictionary<(string Code, string Language), string> Translated = ReadNames();

    /// <summary>A country that stands at the end of a text, as it is written, and what stands before it; null where there is none. Of the
    /// codes of two letters only US and UK count: others are states as well.</summary>
    public static (string Before, Country Country, string Name)? AtEnd(string text)
    {
        var words = text.TrimEnd('.', ' ').Split(' ');
        for (var count = Math.Min(4, words.Length - 1); count > 0; count--)
        {
            var name = string.Join(' ', words[^count..]);
            var before = string.Join(' ', words[..^count]).TrimEnd(',', ' ');
            if (before.Length > 0 && !name.Contains(',') && (name.Length > 2 || name is "US" or "UK") && Named(name) is { } country)
                return (before, country, name);
        }
        return null;
    }

    /// <summary>A country's name in a language, a two-letter BCP 47 tag, by CLDR; in English where the language is not known.</summary>
    public static string NameIn(Country country, string language) => Translated.GetValueOrDefault((country.Code, language), country.Name);

    static Dictionary<(string, string), string> ReadNames()
    {
        string[]? languages = null;
        var names = new Dictionary<(string, string), string>();
        foreach (var row in Rows("CountryNames.tsv"))
        {
            if (languages is null)
            {
                languages = row;
                continue;
            }
            for (var i = 1; i < row.Length; i++)
                names[(row[0], languages[i])] = row[i];
        }
        return names;
    }

    /// <summary>The known country whose name is nearest to a mistyped one, or null.</summary>
    public static Country? Nearest(string name)
    {
        var plain = Plain(name);
        if (plain.Length < 4)
            return null;
        var best = ByName
            .Where(n => n.Key.Length > 3)
            .Select(n => (n.Value, Distance: Quickenshtein.Levenshtein.GetDistance(n.Key, plain)))
            .MinBy(n => n.Distance);
        return best.Distance <= Math.Max(1, plain.Length / 6) ? best.Value : null;
    }

    static string Plain(string name) => FoldedText.Of(name.Trim().TrimEnd('.'));

    static List<Country> Read()
    {
        var regions = Rows("Regions.tsv")
            .ToLookup(r => r[0], r => new Region(r[1], r[2], [.. r[3].Split(',').Select(p => p.Split('-')).Select(p => (p[0], p[^1]))]));
        var all = new List<Country>();
        foreach (var row in Rows("Countries.tsv"))
        {
            var names = row[1].Split('|');
            var country = new Country(
                row[0],
                names[0],
                row[2].Split('|', StringSplitOptions.RemoveEmptyEntries),
                row[3].Contains('r'),
                row[3].Contains('0'),
                [.. regions[row[0]]]
            );
            all.Add(country);
            foreach (var name in names.Append(row[0]))
                ByName.TryAdd(Plain(name), country);
        }
        // Also as other languages call it; a name that two countries have somewhere belongs to the one that was named first.
        var byCode = all.ToDictionary(c => c.Code);
        foreach (var row in Rows("CountryNames.tsv").Skip(1))
        foreach (var name in row.Skip(1))
            ByName.TryAdd(Plain(name), byCode[row[0]]);
        return all;
    }

    static IEnumerable<string[]> Rows(string resource)
    {
        using var reader = new StreamReader(typeof(Countries).Assembly.GetManifestResourceStream(resource)!);
        while (reader.ReadLine() is { } line)
            if (line.Length > 0 && line[0] != '#')
                yield return line.Split('\t');
    }
}
