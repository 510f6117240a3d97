using System.Globalization;

namespace Bandeja.Formats.Ledger;

/// <summary>Cells that a spreadsheet must not take for formulas.</summary>
public static class SafeCell
{
    /// <summary>
    /// The value, with an apostrophe before it where a spreadsheet would start a formula: = + - @, tab, carriage return, and
    /// their full-width forms (after the OWASP advice on CSV injection). Plain numbers stay numbers.
    /// </summary>
    public static string Of(string? value)
    {
        if (string.IsNullOrEmpty(value))
            return "";
        var first = value.AsSpan().TrimStart(" \u00A0");
        if (first.IsEmpty || first[0] is not ('=' or '+' or '-' or '@' or '\t' or '\r' or '\n' or '＝' or '＋' or '－' or '＠'))
            return value;
        return
            first[0] == '-'
            && decimal.TryParse(value, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out _)
            ? value
            : "'" + value;
    }
}
