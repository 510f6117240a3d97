using System.Globalization;
using System.Text.RegularExpressions;

namespace Bandeja.Core.Checks;

/// <summary>Numbers as people write them, when the column's own reading has failed: a decimal comma, a currency, spaces between
/// thousands.</summary>
public static partial class NumberText
{
    /// <summary>The number, or null where the text is not clearly one.</summary>
    public static decimal? Read(string text)
    {
        var bare = Currency().Replace(text, "").Replace("'", "").Replace("’", "");
        bare = string.Concat(bare.Where(c => !char.IsWhiteSpace(c)));
        if (bare.EndsWith(",-", StringComparison.Ordinal) || bare.EndsWith(".-", StringComparison.Ordinal))
            bare = bare[..^2];
        var percent = bare.EndsWith('%');
        bare = bare.TrimEnd('%');
        // Bookkeeping puts the minus sign behind: 12.50-
        var negative = bare.Length > 0 && (IsMinus(bare[0]) || IsMinus(bare[^1]) || bare[0] == '(' && bare[^1] == ')');
        bare = bare.Trim('(', ')', '-', '–', '−');
        // The last point or comma divides the decimals where both are used, or where it is not followed by just three digits.
        if (Continental().IsMatch(bare))
            bare = bare.Replace(".", "").Replace(',', '.');
        else if (Anglo().IsMatch(bare))
            bare = bare.Replace(",", "");
        else
            return null;
        return bare.Length <= 20 && decimal.TryParse(bare, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
            ? (negative ? -number : number) / (percent ? 100 : 1)
            : null;
    }

    static bool IsMinus(char c) => c is '-' or '–' or '−';

    [GeneratedRegex(@"USD|EUR|GBP|CHF|CAD|MXN|US\$|[$€£]|\bdollars?\b|\beuros?\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Currency();

    [GeneratedRegex(@"^(\d{1,3}(\.\d{3})+|\d+),(\d{1,2}|\d{4,})$|^\d{1,3}(\.\d{3}){2,}$", RegexOptions.CultureInvariant)]
    private static partial Regex Continental();

    [GeneratedRegex(@"^(\d{1,3}(,\d{3})+|\d+)(\.\d+)?$", RegexOptions.CultureInvariant)]
    private static partial Regex Anglo();
}
