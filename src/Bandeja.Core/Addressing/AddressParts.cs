using System.Text.RegularExpressions;
using Bandeja.Core.Places;

namespace Bandeja.Core.Addressing;

/// <summary>The parts of an address that stands in one cell.</summary>
/// <param name="Street">The street line, where there is one before the city.</param>
/// <param name="City">The city.</param>
/// <param name="Region">The region, as it is written.</param>
/// <param name="PostalCode">The postal code.</param>
/// <param name="Country">A country's name at the end.</param>
public sealed partial record AddressParts(string? Street, string? City, string? Region, string? PostalCode, string? Country = null)
{
    /// <summary>Divides what a column of whole addresses holds; what cannot be divided stays whole in the street, so nothing is
    /// lost.</summary>
    /// <param name="home">The country whose forms are tried first; those of any other where it does not fit.</param>
    public static AddressParts OfCell(string value, Country home)
    {
        value = value.Trim();
        var a = Of(value, home) ?? Of(value, null);
        if (
            a?.Region is null
            && Countries.AtEnd(value) is var (before, country, name)
            && home.RegionOf(name) is null
            && Of(before, country) is { } abroad
        )
            return abroad with { Country = name };
        // Fernquay OR: the code is missing, and the checks tell it.
        return a ?? WithoutCode(value, home) ?? new(value, null, null, null);
    }

    static AddressParts? WithoutCode(string value, Country home)
    {
        // Salem, Oregon; and, where no comma divides them, Salem OR.
        var end = value.LastIndexOf(',');
        if (end < 0 || home.RegionOf(value[(end + 1)..].Trim()) is null)
        {
            end = value.LastIndexOfAny([' ', ',']);
            if (end < 0 || home.RegionOf(value[(end + 1)..]) is null || value[^1] is '.' || !value[(end + 1)..].All(char.IsUpper))
                return null;
        }
        var lines = value[..end].Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (lines.Length == 0 || lines[^1].Any(char.IsAsciiDigit))
            return null;
        return new(lines.Length > 1 ? string.Join(", ", lines[..^1]) : null, lines[^1], value[(end + 1)..].Trim(), null);
    }

    /// <summary>
    /// Divides <c>12 Quay Road, Fernquay, OR 97412</c>, <c>Fernquay OR 97412-1234</c>, <c>Victoria BC V8W 1N6</c>,
    /// <c>10115 Berlin</c> or <c>Cork T12 X4P8</c>. Null where no postal code can be told from the rest.
    /// </summary>
    public static AddressParts? Of(string text, Country? country)
    {
        var parts = text.Replace('\n', ',').Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).ToList();
        if (parts.Count == 0 || text.Length > 300)
            return null;
        // Salem, OR, 97301: a comma also before the code.
        if (parts.Count > 1 && CodeAlone().IsMatch(parts[^1]) && RegionAtEnd().IsMatch(parts[^2]))
        {
            parts[^2] += $" {parts[^1]}";
            parts.RemoveAt(parts.Count - 1);
        }
        var last = parts[^1];
        if (country is null or { Code: "US" or "CA" or "AU" } && AfterRegion().Match(last) is { Success: true } m)
        {
            var (before, region, code) = (m.Groups["city"].Value.Trim(), m.Groups["region"].Value, m.Groups["code"].Value);
            parts.RemoveAt(parts.Count - 1);
            if (before.Length > 0)
                parts.Add(before);
            return Compose(parts, region, code);
        }
        // 1237 NW Pine Ave is a street, however much its number looks like a postal code; so is PO Box 12345.
        if (
            country is not { Code: "US" or "CA" or "GB" or "IE" or "AU" or "NZ" }
            && CodeFirst().Match(last) is { Success: true } first
            && IsPlace(first.Groups["city"].Value)
            && IsCode(first.Groups["code"].Value.Trim(), country)
        )
        {
            parts[^1] = first.Groups["city"].Value.Trim();
            return Compose(parts, null, first.Groups["code"].Value.Trim());
        }
        if (
            CodeLast().Match(last) is { Success: true } end
            && end.Groups["city"].Value.Trim() is var place
            && (place.Length > 0 ? IsPlace(place) : parts.Count > 1 && IsPlace(parts[^2]))
            && IsCode(end.Groups["code"].Value, country)
        )
        {
            if (place.Length > 0)
                parts[^1] = place;
            else
                parts.RemoveAt(parts.Count - 1);
            return Compose(parts, null, end.Groups["code"].Value);
        }
        return null;
    }

    static bool IsCode(string code, Country? country) =>
        country is null
        || country.Masks.Count == 0
        || Places.PostalCode.Judge(country, code).State is PostalCodeState.Right or PostalCodeState.OtherForm;

    static bool IsPlace(string text) =>
        text.Length > 2
        && char.IsLetter(text[0])
        && !text.Any(char.IsAsciiDigit)
        && !NoPlace().IsMatch(text)
        && StreetLine.Of($"1 {text.TrimEnd('.')}").Suffix.Length == 0;

    static AddressParts Compose(List<string> parts, string? region, string code) =>
        new(parts.Count > 1 ? string.Join(", ", parts.Take(parts.Count - 1)) : null, parts.Count > 0 ? parts[^1] : null, region, code);

    [GeneratedRegex(
        @"^(?<city>.*?)\s*\b(?<region>[A-Z]{2,3})\.?\s+(?<code>\d{5}(-?\d{4})?|\d{4}|[A-Z]\d[A-Z] ?\d[A-Z]\d)$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex AfterRegion();

    [GeneratedRegex(@"^(\d{5}(-?\d{4})?|\d{4}|[A-Z]\d[A-Z] ?\d[A-Z]\d)$", RegexOptions.CultureInvariant)]
    private static partial Regex CodeAlone();

    [GeneratedRegex(@"(^|\s)[A-Z]{2,3}\.?$", RegexOptions.CultureInvariant)]
    private static partial Regex RegionAtEnd();

    [GeneratedRegex(
        @"^(p\.? ?o\.? box|box|suite|ste|apt|apartment|unit|room|floor|lot|rr|route|highway|hwy|postfach|apartado|postbus|boks|b\.?p\.?)\b",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex NoPlace();

    [GeneratedRegex(
        @"^(?<code>\d{5}|\d{4}-\d{3}|\d{4} [A-Z]{2}|\d{4}|\d{3} \d{2}|\d{2}-\d{3})\s+(?<city>\p{L}.*)$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex CodeFirst();

    [GeneratedRegex(
        @"^(?<city>.*?)\s*(?<code>\d{5}(-\d{4}|-\d{3})?|\d{3}-\d{4}|[A-Z]\d{2} [A-Z0-9]{4}|[A-Z]{1,2}\d[A-Z\d]? \d[A-Z]{2}|"
            + @"[A-Z]\d[A-Z] \d[A-Z]\d)$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex CodeLast();
}
