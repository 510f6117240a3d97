using System.Globalization;
using System.Text.RegularExpressions;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Addressing;

/// <summary>When the country stands on the last line. The names are stored.</summary>
public enum CountryLine
{
    Abroad,
    Always,
    Never,
}

/// <summary>What is wrong about an address. The last three are for who reads the addresses of a list.</summary>
public enum AddressIssue
{
    NoStreet,
    NoPlace,
    UnknownCountry,
    CountryInCity,
    NoAddressee,
}

/// <summary>Something wrong about an address.</summary>
/// <param name="Value">The value it is about; empty where it is about a blank.</param>
public readonly record struct AddressProblem(AddressIssue Issue, string Value);

/// <summary>
/// Writes delivery addresses from the columns' roles, in the order and with the capitals of each country's post
/// (<c>AddressFormats.tsv</c>). What is blank closes up. Bound to a list's columns once; serves one thread.
/// </summary>
public sealed partial class DeliveryAddress
{
    const int Kept = 4096;
    readonly RecipientRoles roles;
    readonly CountryLine countryLine;
    readonly string language;
    readonly Country? home;
    readonly Dictionary<string, Country?> countries = new(StringComparer.Ordinal);
    readonly Dictionary<string, bool> cities = new(StringComparer.Ordinal);
    readonly Dictionary<(string, string), string> regions = [];
    readonly Dictionary<(string, string), string> ofCodes = [];
    readonly Dictionary<(string, string, string), string> codes = [];
    readonly Dictionary<(string, CultureInfo), string> capitals = [];
    readonly List<string> streets = [];
    readonly string unitHeading;
    readonly bool hasPartners;
    readonly List<AddressLine> lines = [];
    readonly List<AddressProblem> problems = [];

    /// <summary>Binds to a list.</summary>
    /// <param name="homeCountry">The organization's country, ISO 3166-1; also that of a recipient without one.</param>
    /// <param name="language">The sender's language, in which the country's name is written (UPU Convention, Regulations, article 17-113:
    /// in a language known in the country of posting); a BCP 47 tag.</param>
    public DeliveryAddress(
        IReadOnlyList<Column> columns,
        string homeCountry,
        CountryLine countryLine = CountryLine.Abroad,
        string language = "en"
    )
    {
        roles = new(columns);
        hasPartners = roles.Has(Role.PartnerGivenName) || roles.Has(Role.PartnerFamilyName) || roles.Has(Role.PartnerFullName);
        unitHeading = columns.FirstOrDefault(c => c.Role == Role.Unit)?.Name ?? "";
        (this.countryLine, this.language) = (countryLine, language[..Math.Min(2, language.Length)]);
        home = Countries.Named(homeCountry);
        HomeCode = homeCountry;
    }

    string HomeCode { get; }

    /// <summary>The lines of the last address.</summary>
    public IReadOnlyList<AddressLine> Lines => lines;

    /// <summary>What is wrong about the last address.</summary>
    public IReadOnlyList<AddressProblem> Problems => problems;

    /// <summary>The country of the last address, ISO 3166-1; empty where it is not known.</summary>
    public string Country { get; private set; } = "";

    /// <summary>The postal code of the last address as it is written; empty where it is blank, or stands within a whole address.</summary>
    public string Code { get; private set; } = "";

    /// <summary>Writes the lines of one recipient; none where there is neither a street nor a place.</summary>
    public IReadOnlyList<AddressLine> Write(IRow row)
    {
        lines.Clear();
        problems.Clear();
        Code = "";
        string street = roles.Of(row, Role.Street),
            city = roles.Of(row, Role.City),
            countryText = roles.Of(row, Role.Country),
            code = roles.Of(row, Role.PostalCode);
        // A column with the whole address gives way to its parts; where some are missing, it says what they do not.
        var whole = street.Length == 0 || city.Length == 0 ? roles.Of(row, Role.WholeAddress) : "";
        var country = countryText.Length == 0 ? home : Known(countryText);
        Country = country?.Code ?? (countryText.Length == 0 ? HomeCode : "");
        street = WithNumber(street, roles.Of(row, Role.HouseNumber), country);
        streets.Clear();
        foreach (var line in (string[])[street, roles.Of(row, Role.Street2), roles.Of(row, Role.Street3)])
            if (line.Length > 0)
                streets.AddRange(CareOf.Lines(line));
        var regionText = roles.Of(row, Role.Region);
        // A whole address on one line is written as if its parts had columns of their own.
        if (whole.Length > 0 && city.Length == 0 && OneLine(whole, country, code) is { } parts)
        {
            whole = "";
            foreach (var line in parts.Streets)
                if (!streets.Contains(line, StringComparer.OrdinalIgnoreCase))
                    streets.Add(line);
            (city, code, regionText) = (parts.City, parts.Code, regionText.Length > 0 ? regionText : parts.Region);
            if (parts.Country.Length > 0 && countryText.Length == 0)
            {
                countryText = parts.Country;
                country = Known(countryText);
                Country = country?.Code ?? "";
            }
        }
        // Where the list has no regions at all, the code tells them.
        if (regionText.Length == 0 && country is not null && city.Length > 0 && !roles.Has(Role.Region) && whole.Length == 0)
            regionText = RegionOfCode(country, code);
        var unit = Unit(row);
        if (unit.Length > 0 && streets.Exists(s => SecondaryUnit.IsSaid(s, unit)))
            unit = "";
        if (streets.Count == 0 && unit.Length == 0 && city.Length == 0 && whole.Length == 0 && code.Length == 0)
            return lines;
        var native = Country is "JP" or "CN" or "TW" or "KR" && IsNative(city.Length > 0 ? city : street);
        var format = AddressFormat.Of(Country, native);
        Addressee(row, format, native);
        var region = RegionOf(country, regionText);
        string district = roles.Of(row, Role.District),
            locality = roles.Of(row, Role.Locality);
        code = Code = CodeOf(country, code, region);
        if (whole.Length > 0)
        {
            var all = whole.Split(['\n', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
            var said = FoldedText.Of(whole);
            bool Unsaid(string part) => part.Length > 0 && !said.Contains(FoldedText.Of(part), StringComparison.Ordinal);
            foreach (var line in streets)
                if (Unsaid(line))
                    Add(AddressLineKind.Street, line);
            if (Unsaid(unit) && !SecondaryUnit.IsSaid(whole, unit))
                Add(AddressLineKind.Street, unit);
            foreach (var line in all)
                Add(AddressLineKind.Street, line);
            streets.Clear();
            PlaceLines(
                format,
                "",
                Unsaid(locality) ? locality : "",
                Unsaid(district) ? district : "",
                Unsaid(city) ? city : "",
                Unsaid(region) && Unsaid(regionText) ? region : "",
                Unsaid(code) ? code : ""
            );
        }
        else
        {
            if (streets.Count == 0 && unit.Length == 0)
                problems.Add(new(AddressIssue.NoStreet, ""));
            if (city.Length == 0 && code.Length == 0)
                problems.Add(new(AddressIssue.NoPlace, ""));
            else if (city.Length > 0 && EndsInCountry(city, countryText))
                problems.Add(new(AddressIssue.CountryInCity, city));
            // The region is not written twice where it is called as its capital city is.
            if (region.Length > 0 && region.Equals(city, StringComparison.OrdinalIgnoreCase))
                region = "";
            PlaceLines(format, unit, locality, district, city, region, code);
        }
        if (countryText.Length > 0 && country is null)
            problems.Add(new(AddressIssue.UnknownCountry, countryText));
        var writes = countryLine switch
        {
            CountryLine.Never => false,
            CountryLine.Always => true,
            _ => country is null ? countryText.Length > 0 : country.Code != HomeCode,
        };
        if (writes && (country is not null || countryText.Length > 0))
            AddCountry(Upper(country is null ? countryText : Countries.NameIn(country, language), Texts.Capitals.Of(language)));
        return lines;
    }

    /// <summary>The last line. A city that is a country, and stands alone on its line, has said it already.</summary>
    void AddCountry(string name)
    {
        if (lines.Count == 0 || !lines[^1].Text.Equals(name, StringComparison.OrdinalIgnoreCase))
            Add(AddressLineKind.Country, name);
    }

    void Add(AddressLineKind kind, string text)
    {
        if (text.Length > 0)
            lines.Add(new(kind, text));
    }

    void Addressee(IRow row, AddressFormat format, bool native)
    {
        var person = PersonName.Of(roles, row);
        if (native)
            person = person with { FamilyFirst = true };
        var partner = hasPartners ? PersonName.PartnerOf(roles, row) : default;
        // In German the addressee is in the accusative: an Herrn Müller (DIN 5008).
        if (Country is "DE" or "AT")
            (person, partner) = (
                person with
                {
                    Title = Herrn(person.Title),
                    Whole = Herrn(person.Whole),
                },
                partner with
                {
                    Title = Herrn(partner.Title ?? ""),
                }
            );
        var name =
            hasPartners && !partner.IsEmpty
                ? PersonName.Household(person, partner, roles.Of(row, Role.Language) is { Length: > 1 } own ? own : language)
                : person.Full;
        // One piece for a household is addressed to all of it.
        if (roles.Of(row, Role.AddressedTo) is { Length: > 0 } all)
            name = all;
        string organization = roles.Of(row, Role.Organization),
            attention = roles.Of(row, Role.Attention);
        if (name.Length == 0 && organization.Length == 0 && attention.Length == 0)
            problems.Add(new(AddressIssue.NoAddressee, ""));
        foreach (var part in format.Addressee)
        {
            if (part == 'N')
                Add(AddressLineKind.Name, name);
            else if (part == 'O')
                Add(AddressLineKind.Organization, organization);
            else if (attention.Length > 0)
                Add(
                    AddressLineKind.Attention,
                    format.AttentionWord.Length == 0
                    || attention.StartsWith("att", StringComparison.OrdinalIgnoreCase)
                    || attention.StartsWith("c/o", StringComparison.OrdinalIgnoreCase)
                    || attention.StartsWith(format.AttentionWord, StringComparison.OrdinalIgnoreCase)
                        ? attention
                        : $"{format.AttentionWord} {attention}"
                );
        }
    }

    static string Herrn(string title) =>
        title == "Herr" || title.StartsWith("Herr ", StringComparison.Ordinal) ? "Herrn" + title[4..] : title;

    /// <summary>The region in which all addresses with a code lie; empty where it is not one.</summary>
    string RegionOfCode(Country country, string code)
    {
        if (country.Regions.Count == 0 || code.Length == 0)
            return "";
        if (ofCodes.TryGetValue((country.Code, code), out var known))
            return known;
        if (ofCodes.Count >= Kept)
            ofCodes.Clear();
        var right = PostalCode.Judge(country, code) is (PostalCodeState.Right, _);
        return ofCodes[(country.Code, code)] = right && country.RegionsOfCode(code).ToList() is [var only] ? only.Code : "";
    }

    /// <summary>The parts of a whole address; null where it has lines already, or its city and postal code cannot be told.</summary>
    /// <param name="beside">The code that stands in a column of its own; empty where it does not.</param>
    static (IEnumerable<string> Streets, string City, string Region, string Code, string Country)? OneLine(
        string whole,
        Country? country,
        string beside
    )
    {
        if (country is null || whole.AsSpan().ContainsAny('\n', ';'))
            return null;
        var (street, city, region, code, named) = AddressParts.OfCell(whole, country);
        // A code in both must be one.
        if (city is null || beside.Length > 0 && code is not null && !beside.StartsWith(code, StringComparison.OrdinalIgnoreCase))
            return null;
        code = beside.Length > 0 ? beside : code;
        if (code is null)
            return null;
        return (AfterComma().Split(street ?? "").Where(s => s.Length > 0).SelectMany(CareOf.Lines), city, region ?? "", code, named ?? "");
    }

    // “Calle Mayor, 5” is one line.
    [GeneratedRegex(@"\s*,\s*(?=[\p{L}#])", RegexOptions.CultureInvariant)]
    private static partial Regex AfterComma();

    /// <summary>The street with a house number that stands in a column of its own, as the country writes it.</summary>
    static string WithNumber(string street, string number, Country? country)
    {
        if (number.Length == 0 || street.Length == 0)
            return street.Length == 0 ? number : street;
        if (
            street.EndsWith(" " + number, StringComparison.OrdinalIgnoreCase)
            || street.StartsWith(number + " ", StringComparison.OrdinalIgnoreCase)
        )
            return street;
        return country?.WritesNumberFirst == true
            ? $"{number} {street}"
            : $"{street}{(country?.Code is "ES" or "PT" or "BR" ? "," : "")} {number}";
    }

    /// <summary>The part of a building; a bare number is dressed in what the column is called, or in the sign for a number (Publication 28,
    /// 213.2).</summary>
    string Unit(IRow row)
    {
        var unit = roles.Of(row, Role.Unit);
        if (
            unit.Length is 0 or > 6
            || Country is not ("US" or "CA")
            || SecondaryUnit.IsUnit(unit)
            || !unit.All(char.IsLetterOrDigit)
            || !unit.Any(char.IsAsciiDigit) && unit.Length > 1
        )
            return unit;
        return SecondaryUnit.IsUnit($"{unitHeading} 1") ? $"{unitHeading} {unit}" : $"# {unit}";
    }

    void PlaceLines(AddressFormat format, string unit, string locality, string district, string city, string region, string code)
    {
        var at = -1;
        // A unit on the second or third line goes where its country puts units; all other lines stay in their order.
        var above = format.Lines[0] is [{ Token: AddressToken.Unit }];
        if (
            unit.Length == 0
            && streets.Count > 1
            && (format.UnitOnStreet || above)
            && !SecondaryUnit.IsUnit(streets[0])
            && streets.FindIndex(1, SecondaryUnit.IsUnit) is var found and > 0
        )
        {
            (unit, at) = (streets[found], found - 1);
            streets.RemoveAt(found);
        }
        if (format.UnitOnStreet && unit.Length > 0 && streets.Count > 0)
        {
            // Publication 28, 213.2 and 232: a secondary unit ends the street line; what is too long stands above it.
            if (at < 0)
                at = streets.FindIndex(s => char.IsAsciiDigit(s[0])) is var numbered and >= 0 ? numbered : 0;
            var joined = $"{streets[at]} {unit}";
            if (format.MaxCharacters == 0 || joined.Length <= format.MaxCharacters)
                streets[at] = joined;
            else
                streets.Insert(at, unit);
            unit = "";
        }
        else if (format.UnitOnStreet && unit.Length > 0)
        {
            streets.Add(unit);
            unit = "";
        }
        // A district stands with the locality where the country's form has no place for it.
        if (district.Length > 0 && !format.Lines.Any(l => l.Any(p => p.Token == AddressToken.District)))
            locality = locality.Length == 0 ? district : $"{locality}, {district}";
        foreach (var parts in format.Lines)
        {
            if (locality.Length > 0 && parts.Any(p => p.Token == AddressToken.City))
            {
                Add(AddressLineKind.Street, locality);
                locality = "";
            }
            if (parts is [{ Token: AddressToken.Street }])
            {
                foreach (var line in streets)
                    Add(AddressLineKind.Street, line);
                continue;
            }
            var text = "";
            foreach (var part in parts)
            {
                var value = part.Token switch
                {
                    AddressToken.Street => streets.Count > 0 ? streets[0] : "",
                    AddressToken.Unit => unit,
                    AddressToken.District => district,
                    AddressToken.City => city,
                    AddressToken.Region => region,
                    _ => code,
                };
                if (value.Length == 0)
                    continue;
                if (part.Capitals)
                    value = Upper(value, format.Culture);
                text =
                    text.Length == 0
                        ? part.Always.Length == 0
                            ? value
                            : part.Always + value
                        : string.Concat(text, part.Before, value);
            }
            Add(
                parts[0].Token is AddressToken.Unit || parts is [{ Token: AddressToken.District }]
                    ? AddressLineKind.Street
                    : AddressLineKind.Place,
                text
            );
            // In a script of its own a street may share its line with the city: what belongs to it follows.
            if (parts.Any(p => p.Token == AddressToken.Street))
                foreach (var line in streets.Skip(1))
                    Add(AddressLineKind.Street, line);
        }
        Add(AddressLineKind.Street, locality);
    }

    Country? Known(string text)
    {
        if (countries.TryGetValue(text, out var known))
            return known;
        if (countries.Count >= Kept)
            countries.Clear();
        return countries[text] = Countries.Named(text);
    }

    string Upper(string text, CultureInfo culture)
    {
        if (capitals.TryGetValue((text, culture), out var known))
            return known;
        if (capitals.Count >= Kept)
            capitals.Clear();
        return capitals[(text, culture)] = Texts.Capitals.Upper(text, culture);
    }

    /// <summary>The region as the country's post writes it: the code where the country has codes.</summary>
    string RegionOf(Country? country, string region)
    {
        if (country is null || region.Length == 0)
            return region;
        if (regions.TryGetValue((country.Code, region), out var known))
            return known;
        if (regions.Count >= Kept)
            regions.Clear();
        return regions[(country.Code, region)] = country.RegionOf(region)?.Code ?? region;
    }

    /// <summary>The postal code as its country writes it: <c>974121234</c> becomes <c>97412-1234</c>, <c>v1l4b3</c> becomes <c>V1L 4B3</c>.
    /// A zero that a spreadsheet dropped is written where the region bears it out: 1970 in Massachusetts is 01970. What is no code of the
    /// country stays as it is.</summary>
    string CodeOf(Country? country, string code, string region)
    {
        if (country is null || code.Length == 0 || country.Masks.Count == 0)
            return code;
        if (codes.TryGetValue((country.Code, code, region), out var known))
            return known;
        if (codes.Count >= Kept)
            codes.Clear();
        return codes[(country.Code, code, region)] = PostalCode.Judge(country, code) switch
        {
            (PostalCodeState.OtherForm, { } proposal) => proposal,
            (PostalCodeState.LostZero, { } proposal) when country.RegionsOfCode(proposal).Any(r => r.Code == region) => proposal,
            _ => code,
        };
    }

    /// <summary>True where a city ends in the name of a country that the country column does not say, or says once more: <c>TORONTO
    /// CANADA</c>.</summary>
    bool EndsInCountry(string city, string countryText)
    {
        var at = city.AsSpan().LastIndexOfAny(' ', ',');
        if (at <= 0)
            return false;
        if (cities.TryGetValue(city, out var known))
            return known;
        if (cities.Count >= Kept)
            cities.Clear();
        var last = city[(at + 1)..];
        var before = city[..at].TrimEnd(' ', ',');
        var word = before[(before.LastIndexOf(' ') + 1)..];
        // Ciudad de México and New Mexico are places of their own.
        var own =
            word.ToLowerInvariant()
                is "west"
                    or "east"
                    or "north"
                    or "south"
                    or "mount"
                    or "fort"
                    or "old"
                    or "de"
                    or "of"
                    or "new"
                    or "nueva"
                    or "nuevo"
                    or "do"
                    or "della"
                    or "port"
                    or "little"
                    or "st"
                    or "san";
        return cities[city] =
            !own
            && last.Length > 1
            && (last.Length > 3 || city.Contains(',') || !city.Any(char.IsLower))
            && Countries.Named(last) is not null
            && !(last.Length == 2 && Countries.Named(countryText) is { Regions.Count: > 0 } named && named.RegionOf(last) is not null)
            && !(last.Length == 2 && countryText.Length == 0 && home?.RegionOf(last) is not null);
    }

    static bool IsNative(string text) =>
        text.Any(c => c is >= '\u3040' and <= '\u30ff' or >= '\u3400' and <= '\u9fff' or >= '\uac00' and <= '\ud7a3');
}
