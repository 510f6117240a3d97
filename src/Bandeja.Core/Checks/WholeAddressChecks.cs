using System.Text.RegularExpressions;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Checks;

/// <summary>
/// The postal code of an address, or of its last line, that stands in one cell: “Salem, MA 1970” is printed as it stands, so its code is
/// held against the country's rules as one in a column of its own is. Only a code behind its region is taken for one, or in a column of
/// cities one beside the city: a number behind anything else may be that of a house, a box, or a road.
/// </summary>
static partial class WholeAddressChecks
{
    /// <summary>Where a last line may stand, the likeliest first.</summary>
    static readonly Role[] Cells = [Role.WholeAddress, Role.City, Role.Street3, Role.Street2, Role.Street];

    static readonly Country[] WithRegions = [.. Countries.All.Where(c => c.Regions.Count > 0)];

    /// <summary>Regions have at most this many words: Newfoundland and Labrador, Northern Mariana Islands.</summary>
    const int RegionWords = 3;

    const int LongestCell = 300;

    /// <summary>Adds at most one issue; none where the code has a column of its own.</summary>
    public static void Check(CheckedRow row)
    {
        if (row[Role.PostalCode] is not null)
            return;
        foreach (var role in Cells)
            if (row[role] is { Length: <= LongestCell } cell && Ending(cell, row) is var (country, region, code))
            {
                // A road may be called “Highway MA 128”, and a street end in a box: what is not a code of the region there is not one.
                if (role == Role.WholeAddress || role != Role.Street && IsCode(country, code.Value) || Reads(country, region, code.Value))
                    Judge(row, role, cell, country, region, code);
                return;
            }
        Alone(row, Role.City);
        // Beside a street the whole address is its last line, and no box or road stands there.
        if (row[Role.Street] is not null)
            Alone(row, Role.WholeAddress);
    }

    /// <summary>A code beside its city without a region: “Salem 1970”, “1067 Dresden”. No city's name begins or ends with so many
    /// digits, so in a cell without other digits that is a code; only a lost zero is sure enough to be told.</summary>
    static void Alone(CheckedRow row, Role role)
    {
        if (row[role] is not { Length: <= LongestCell } cell || row.Country is not { } country)
            return;
        var code = BesideCity().Match(cell).Groups["code"];
        if (
            code.Success
            && PostalCode.Judge(country, code.Value) is (PostalCodeState.LostZero, { } proposal)
            && (country.Regions.Count == 0 || country.RegionsOfCode(proposal).Any())
        )
            Judge(row, role, cell, country, null, code);
    }

    /// <summary>Judges a code within a cell; a fix keeps what stands around it.</summary>
    static void Judge(CheckedRow row, Role role, string cell, Country country, Region? region, Group code) =>
        AddressChecks.Judge(
            row,
            role,
            country,
            region,
            code.Value,
            proposal => $"{cell[..code.Index]}{proposal}{cell[(code.Index + code.Length)..]}"
        );

    static bool IsCode(Country country, string code) =>
        PostalCode.Judge(country, code).State is PostalCodeState.Right or PostalCodeState.OtherForm;

    /// <summary>The region and the code at the end of a cell, before a country where one stands behind them.</summary>
    static (Country, Region, Group)? Ending(string cell, CheckedRow row)
    {
        var said = row[Role.Country] is null ? null : row.Country;
        // What country it is cannot be told.
        if (row.Country is null)
            return null;
        var end = cell.TrimEnd().TrimEnd(',', ';', '.').Length;
        var lastMark = cell.AsSpan(0, end).LastIndexOfAny(',', ';', '\n');
        if (
            lastMark > 0
            && Countries.Named(cell[(lastMark + 1)..end].Trim()) is { } named
            && !cell.AsSpan(lastMark, end - lastMark).ContainsAnyInRange('0', '9')
        )
            (said, end) = (said ?? named, cell.AsSpan(0, lastMark).TrimEnd(" ,;\n\r").Length);
        else if (CountryBehindCode(cell[..end]) is ({ } behind, var codeEnd))
            (said, end) = (said ?? behind, codeEnd);
        var match = CodeAtEnd().Match(cell[..end]);
        if (!match.Success)
            return null;
        var code = match.Groups["code"];
        var before = cell[..match.Index];
        if (said is not null)
            return RegionBefore(before, said) is { } there ? (said, there, code) : null;
        // Nobody says which country: the first in which region and code go together, else the organization's own.
        foreach (var country in (Country[])[row.Settings.Home, .. WithRegions])
            if (RegionBefore(before, country) is { } region && Reads(country, region, code.Value))
                return (country, region, code);
        return RegionBefore(before, row.Settings.Home) is { } own ? (row.Settings.Home, own, code) : null;
    }

    /// <summary>A country that stands right behind a code, and where that code ends: “Newark NJ 07102 USA”.</summary>
    static (Country? Country, int End) CountryBehindCode(string text)
    {
        var digit = text.AsSpan().LastIndexOfAnyInRange('0', '9');
        if (digit < 0 || digit + 2 >= text.Length || text[digit + 1] != ' ')
            return default;
        return (Countries.Named(text[(digit + 2)..].Trim()), digit + 1);
    }

    /// <summary>True where a code, as it is or mended, is one of the region.</summary>
    static bool Reads(Country country, Region region, string code)
    {
        var (state, proposal) = PostalCode.Judge(country, code);
        return state is not PostalCodeState.Malformed && region.HasCode(state is PostalCodeState.Right ? code : proposal!);
    }

    static Region? RegionBefore(string text, Country country)
    {
        if (country.Regions.Count == 0)
            return null;
        var piece = text[(text.AsSpan().LastIndexOfAny(',', ';', '\n') + 1)..].Trim();
        var words = piece.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        for (var n = Math.Min(RegionWords, words.Length); n > 0; n--)
        {
            var name = string.Join(' ', words[^n..]);
            // “Casa de la 1970”: two small letters in the middle of a line are a word, not a state.
            if (name.Length <= 3 && n < words.Length && name != name.ToUpperInvariant())
                continue;
            if (country.RegionOf(name) is { } region)
                return region;
        }
        return null;
    }

    [GeneratedRegex(
        @"^\s*(?<code>\d{3,5})\s+\p{L}[^\d]*$|^[^\d]*\p{L}[\s,]+(?<code>\d{3,5}(?:-\d{4})?)\s*$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex BesideCity();

    [GeneratedRegex(
        @"[\s,]+(?<code>\d{4,5}-\d{3,4}|\d{4,5}-|\d{8,9}|\d{3,5}|[A-Za-z]\d[A-Za-z][ -]?\d[A-Za-z]\d)$",
        RegexOptions.CultureInvariant | RegexOptions.RightToLeft
    )]
    private static partial Regex CodeAtEnd();
}
