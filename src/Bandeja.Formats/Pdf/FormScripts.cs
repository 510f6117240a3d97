using System.Globalization;
using System.Text.RegularExpressions;

namespace Bandeja.Formats.Pdf;

/// <summary>Recognizes the calls by which forms say how dates and numbers are written (ISO 21757-1); scripts are read as text and never
/// run. Answers the form of <see cref="Core.Forms.FieldFormat"/>.</summary>
static partial class FormScripts
{
    /// <summary>The patterns of dates that are called by a number.</summary>
    static readonly string[] Dates =
    [
        "m/d",
        "m/d/yy",
        "mm/dd/yy",
        "mm/yy",
        "d-mmm",
        "d-mmm-yy",
        "dd-mmm-yy",
        "yy-mm-dd",
        "mmm-yy",
        "mmmm-yy",
        "mmm d, yyyy",
        "mmmm d, yyyy",
        "m/d/yy h:MM tt",
        "m/d/yy HH:MM",
    ];

    public static string? Format(string script)
    {
        if (NamedDate().Match(script) is { Success: true } named)
            return $"date {named.Groups[1].Value}";
        if (
            NumberedDate().Match(script) is { Success: true } numbered
            && int.Parse(numbered.Groups[1].Value, CultureInfo.InvariantCulture) is var n
            && n < 12
        )
            return $"date {Dates[n]}";
        if (Number().Match(script) is not { Success: true } number)
            return null;
        var (decimals, style, currency, before) = (
            number.Groups[1].Value,
            number.Groups[2].Value,
            number.Groups[3].Value,
            number.Groups[4].Value
        );
        currency = Escape()
            .Replace(currency, m => ((char)int.Parse(m.Groups[1].Value, NumberStyles.HexNumber, CultureInfo.InvariantCulture)).ToString());
        return $"number {decimals} {style} {(before == "true" ? "before" : "after")} {currency}".TrimEnd(currency.Length == 0 ? ' ' : '\0');
    }

    [GeneratedRegex("""AFDate_(?:Format|Keystroke)(?:Ex)?\s*\(\s*["']?([dmy/\-., ]{1,30})["']?\s*\)""", RegexOptions.None, 1000)]
    private static partial Regex NamedDate();

    [GeneratedRegex("""AFDate_(?:Format|Keystroke)\s*\(\s*(\d{1,2})\s*\)""", RegexOptions.None, 1000)]
    private static partial Regex NumberedDate();

    [GeneratedRegex(
        """AFNumber_Format\s*\(\s*(\d)\s*,\s*([0-4])\s*,\s*[^,()]{1,20},\s*[^,()]{1,20},\s*["']([^"']{0,8})["']\s*,\s*(true|false)\s*\)""",
        RegexOptions.None,
        1000
    )]
    private static partial Regex Number();

    [GeneratedRegex("""\\u([0-9a-fA-F]{4})""", RegexOptions.None, 1000)]
    private static partial Regex Escape();
}
