using System.Globalization;

namespace Bandeja.Core.Addressing;

/// <summary>What a line of an address is.</summary>
public enum AddressLineKind
{
    Name,
    Attention,
    Organization,
    Street,
    Place,
    Country,
}

/// <summary>A line of a delivery address.</summary>
public readonly record struct AddressLine(AddressLineKind Kind, string Text);

/// <summary>
/// Shortens lines of an address by the postal guides' abbreviations (<c>Abbreviations.tsv</c> has them with their sources), a word at a
/// time from the end of the line, only as far as it must be.
/// </summary>
public static class AddressAbbreviations
{
    static readonly Dictionary<(string Language, bool Street, string Word), string> Table = Read();

    // Streets of these are one word with what they are called after: Lindenstraße, Kerkstraat.
    static readonly string[] Endings = ["straße", "strasse", "platz", "straat", "laan", "plein", "weg"];

    static Dictionary<(string, bool, string), string> Read()
    {
        var all = new Dictionary<(string, bool, string), string>();
        using var reader = new StreamReader(typeof(AddressAbbreviations).Assembly.GetManifestResourceStream("Abbreviations.tsv")!);
        while (reader.ReadLine() is { } row)
            if (row.Length > 0 && row[0] != '#' && row.Split('\t') is [var language, var kind, var word, var abbreviation])
                all[(language, kind == "s", word)] = abbreviation;
        return all;
    }

    static string LanguageOf(string country) =>
        country switch
        {
            "DE" or "AT" or "CH" or "LI" => "de",
            "FR" or "BE" or "LU" => "fr",
            "ES" or "MX" or "AR" or "CL" or "CO" or "PE" => "es",
            "IT" => "it",
            "PT" or "BR" => "pt",
            "NL" => "nl",
            _ => "en",
        };

    /// <summary>The line, shortened until it fits; as short as can be where it never does. Names lose their middle names to initials;
    /// places and countries stay.</summary>
    /// <param name="country">ISO 3166-1: whose abbreviations are used.</param>
    /// <param name="fits">True where a line is short enough.</param>
    public static string Shorten(AddressLine line, string country, Func<string, bool> fits)
    {
        if (fits(line.Text) || line.Kind is AddressLineKind.Place or AddressLineKind.Country)
            return line.Text;
        var words = line.Text.Split(' ');
        if (line.Kind == AddressLineKind.Name)
            return Initials(words, fits);
        var street = line.Kind == AddressLineKind.Street;
        // Where the parts of a street line are known, those are shortened before a word of its name is: Lake View Road keeps its lake.
        if (street && country == "US" && StreetLine.Of(line.Text).ToString() is var standard && standard.Length < line.Text.Length)
        {
            if (fits(standard))
                return standard;
            words = standard.Split(' ');
        }
        var language = LanguageOf(country);
        for (var i = words.Length - 1; i >= 0; i--)
        {
            if (Short(words[i], language, street, i == 0) is not { } shorter)
                continue;
            words[i] = shorter;
            var text = string.Join(' ', words);
            if (fits(text))
                return text;
        }
        return string.Join(' ', words);
    }

    static string? Short(string word, string language, bool street, bool first)
    {
        var bare = word.Trim(',', '.', ';');
        if (bare.Length == 0)
            return null;
        var lower = bare.ToLower(CultureInfo.InvariantCulture);
        // The first word of an organization is its name: American Trading stays American.
        if (first && !street)
            return null;
        var found = Table.GetValueOrDefault((language, street, lower));
        if (found is null && street)
            foreach (var ending in Endings)
                if (
                    lower.Length > ending.Length + 2
                    && lower.EndsWith(ending, StringComparison.Ordinal)
                    && Table.TryGetValue((language, true, ending), out var end)
                )
                    found = bare[..^ending.Length] + end.ToLowerInvariant();
        if (found is null || found.Length >= bare.Length)
            return null;
        if (bare.Length > 1 && bare.All(c => !char.IsLower(c)))
            found = found.ToUpperInvariant();
        return word.EndsWith(',') ? found + "," : found;
    }

    static string Initials(string[] words, Func<string, bool> fits)
    {
        for (var i = words.Length - 2; i > 0; i--)
        {
            if (words[i].Length < 3 || !char.IsUpper(words[i][0]) || words[i].EndsWith('.') || words[i].EndsWith(','))
                continue;
            words[i] = words[i][0] + ".";
            var text = string.Join(' ', words);
            if (fits(text))
                return text;
        }
        return string.Join(' ', words);
    }
}
