using System.Globalization;
using System.Text.RegularExpressions;

namespace Bandeja.Core.Checks;

/// <summary>Dates as people write them, when the column's own reading has failed.</summary>
public static partial class DateText
{
    static readonly CultureInfo[] Languages =
    [
        CultureInfo.InvariantCulture,
        CultureInfo.GetCultureInfo("es-ES"),
        CultureInfo.GetCultureInfo("de-DE"),
        CultureInfo.GetCultureInfo("fr-FR"),
    ];
    static readonly string[] Worded = ["d MMM yyyy", "d MMMM yyyy", "MMM d yyyy", "MMMM d yyyy", "d-MMM-yyyy", "MMM yyyy", "MMMM yyyy"];

    /// <summary>All days that a text can mean; none where it is no date. Two-digit years are taken within the hundred years up to ten years
    /// from today.</summary>
    public static IReadOnlyList<DateOnly> Readings(string text, DateOnly today)
    {
        text = text.Trim();
        if (Numbers().Match(text) is { Success: true } m)
        {
            int a = Number(m, 1),
                b = Number(m, 2),
                c = Number(m, 3);
            if (m.Groups[1].Length == 4)
                return [.. Valid(a, b, c).Concat(Valid(a, c, b)).Distinct().Take(1)];
            var year = m.Groups[3].Length == 4 ? c : Century(c, today);
            return [.. Valid(year, a, b).Concat(Valid(year, b, a)).Distinct()];
        }
        if (Packed().Match(text) is { Success: true } p)
            return [.. Valid(Number(p, 1), Number(p, 2), Number(p, 3))];
        var plain = Points().Replace(text, " ").Replace(" de ", " ").Replace("  ", " ").Trim();
        foreach (var language in Languages)
        foreach (var pattern in Worded)
            if (DateTime.TryParseExact(plain, pattern, language, DateTimeStyles.AllowWhiteSpaces, out var read))
                return [DateOnly.FromDateTime(read)];
        return [];
    }

    static int Number(Match m, int group) => int.Parse(m.Groups[group].ValueSpan, CultureInfo.InvariantCulture);

    static int Century(int year, DateOnly today) =>
        (today.Year / 100 * 100 + year) is var guess && guess > today.Year + 10 ? guess - 100 : guess;

    static IEnumerable<DateOnly> Valid(int year, int month, int day)
    {
        if (year is >= 1 and <= 9999 && month is >= 1 and <= 12 && day >= 1 && day <= DateTime.DaysInMonth(year, month))
            yield return new(year, month, day);
    }

    [GeneratedRegex(@"^(\d{1,4})[-/. ]{1,2}(\d{1,2})[-/. ]{1,2}(\d{4}|\d{1,2})$", RegexOptions.CultureInvariant)]
    private static partial Regex Numbers();

    [GeneratedRegex(@"^((?:19|20)\d{2})(\d{2})(\d{2})$", RegexOptions.CultureInvariant)]
    private static partial Regex Packed();

    [GeneratedRegex(@"(?<=\d)(st|nd|rd|th)\b|[.,]", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Points();
}
