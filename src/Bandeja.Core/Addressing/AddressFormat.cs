using System.Globalization;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Addressing;

/// <summary>What stands at a place of an address line.</summary>
enum AddressToken
{
    Street,
    Unit,
    District,
    City,
    Region,
    PostalCode,
}

/// <summary>A token of a line.</summary>
/// <param name="Before">What is printed before it where something stands before it on the line.</param>
/// <param name="Always">What is printed before it in any case: 〒 before a code.</param>
readonly record struct AddressPart(AddressToken Token, bool Capitals, string Before, string Always);

/// <summary>How a country's post writes an address. <c>AddressFormats.tsv</c> has one row a country, with its source.</summary>
/// <param name="Addressee">The order of the addressee's lines: N person, O organization, A attention.</param>
/// <param name="UnitOnStreet">True where a unit follows on the street's line if it fits.</param>
/// <param name="AttentionWord">How an attention line begins.</param>
/// <param name="MaxCharacters">Most characters to a line where the postal guide says; 0 where it does not.</param>
/// <param name="Source">The postal guide or standard.</param>
sealed record AddressFormat(
    string Country,
    string Addressee,
    IReadOnlyList<AddressPart[]> Lines,
    bool UnitOnStreet,
    string AttentionWord,
    int MaxCharacters,
    string Source,
    CultureInfo Culture
)
{
    static readonly Dictionary<string, AddressFormat> ByCountry = Read();

    /// <summary>The codes of the countries that have a format.</summary>
    public static IReadOnlyCollection<string> Countries { get; } = [.. ByCountry.Keys.Where(k => k.Length == 2)];

    /// <summary>The format for a country where nothing else is known.</summary>
    public static AddressFormat General { get; } = ByCountry["*"];

    /// <summary>The format of a country; the general one where it has none.</summary>
    /// <param name="nativeScript">True where the address is written in the country's own script.</param>
    public static AddressFormat Of(string country, bool nativeScript = false) =>
        (nativeScript ? ByCountry.GetValueOrDefault(country + "-native") : null) ?? ByCountry.GetValueOrDefault(country) ?? General;

    static Dictionary<string, AddressFormat> Read()
    {
        var all = new Dictionary<string, AddressFormat>(StringComparer.OrdinalIgnoreCase);
        using var reader = new StreamReader(typeof(AddressFormat).Assembly.GetManifestResourceStream("AddressFormats.tsv")!);
        while (reader.ReadLine() is { } row)
        {
            if (row.Length == 0 || row[0] == '#')
                continue;
            var cells = row.Split('\t');
            var joins = cells[2].StartsWith("S+U", StringComparison.Ordinal);
            var lines = cells[2].Replace("S+U", "S").Split('|').Select(Parts).ToList();
            // Capitals follow the country's own letters: İSTANBUL is not ISTANBUL.
            var culture = Capitals.OfCountry(cells[0][..Math.Min(2, cells[0].Length)]);
            all[cells[0]] = new(
                cells[0],
                cells[1],
                lines,
                joins,
                cells[3],
                int.Parse(cells[4], CultureInfo.InvariantCulture),
                cells[5],
                culture
            );
        }
        return all;
    }

    static AddressPart[] Parts(string line)
    {
        var parts = new List<AddressPart>();
        var before = "";
        var capitals = false;
        foreach (var c in line)
        {
            AddressToken? token = c switch
            {
                'S' => AddressToken.Street,
                'U' => AddressToken.Unit,
                'D' => AddressToken.District,
                'C' => AddressToken.City,
                'R' => AddressToken.Region,
                'Z' => AddressToken.PostalCode,
                _ => null,
            };
            if (c == '^')
            {
                capitals = true;
                continue;
            }
            if (token is not { } known)
            {
                before += c;
                continue;
            }
            parts.Add(parts.Count == 0 ? new(known, capitals, "", before) : new(known, capitals, before, ""));
            (before, capitals) = ("", false);
        }
        return [.. parts];
    }
}
