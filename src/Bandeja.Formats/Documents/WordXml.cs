using System.Globalization;
using System.Xml.Linq;

namespace Bandeja.Formats.Documents;

/// <summary>
/// Reads elements and values of WordprocessingML by their local names: the transitional and the strict form (ISO/IEC 29500 parts 1 and 4)
/// differ in their namespaces and in how measures are written, not in what an element means.
/// </summary>
static class WordXml
{
    public const double EmuPerPoint = 12700;

    public static XElement? Child(this XElement? e, string name) => e?.Elements().FirstOrDefault(c => c.Name.LocalName == name);

    public static IEnumerable<XElement> Children(this XElement? e, string name) => e?.Elements().Where(c => c.Name.LocalName == name) ?? [];

    public static IEnumerable<XElement> Below(this XElement? e, string name) => e?.Descendants().Where(c => c.Name.LocalName == name) ?? [];

    public static string? Value(this XElement? e, string name = "val") =>
        e?.Attributes().FirstOrDefault(a => a.Name.LocalName == name)?.Value;

    /// <summary>A property that is on where its element stands there (17.17.4, and booleans).</summary>
    public static bool? On(this XElement? properties, string name) =>
        properties.Child(name) is { } e ? e.Value() is not ("0" or "false" or "off" or "none") : null;

    /// <summary>A measure in points: twentieths of a point, or a number with its unit.</summary>
    public static double? Points(string? value, double unit = 20)
    {
        if (string.IsNullOrWhiteSpace(value))
            return null;
        var text = value.Trim();
        var letters = text.Length >= 2 && char.IsLetter(text[^1]) ? text[^2..].ToLowerInvariant() : "";
        var factor = letters switch
        {
            "pt" => 1,
            "in" => 72,
            "cm" => 72 / 2.54,
            "mm" => 72 / 25.4,
            "pc" or "pi" => 12,
            _ => double.NaN,
        };
        if (double.IsNaN(factor))
            return Number(text) / unit;
        return Number(text[..^2]) * factor;
    }

    public static double? Number(string? value) =>
        double.TryParse(value, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) && double.IsFinite(n) && Math.Abs(n) < 1e9
            ? n
            : null;

    public static int? Whole(string? value) => Number(value) is { } n ? (int)n : null;

    /// <summary>A color as RRGGBB; null for none and for what follows from the surroundings.</summary>
    public static string? Color(string? value) =>
        value is { Length: 6 } && value.All(char.IsAsciiHexDigit) ? value.ToLowerInvariant() : null;
}
