using System.Globalization;
using System.Text.RegularExpressions;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>
/// Dates as writers of letters and filters write them: ISO 8601 (<c>2027-01-31</c>), in figures in the order of the organization's short
/// date, and with the month's name in its language or in English.
/// </summary>
public static partial class WrittenDate
{
    /// <summary>The order of the parts in the organization's short date (CLDR).</summary>
    public static DateOrder OrderOf(OrganizationLocale locale) =>
        locale.DateShort.IndexOf('y') < locale.DateShort.IndexOf('d') ? DateOrder.YearMonthDay
        : locale.DateShort.IndexOf('M') < locale.DateShort.IndexOf('d') ? DateOrder.MonthDayYear
        : DateOrder.DayMonthYear;

    /// <summary>Reads a date; false where it is none.</summary>
    public static bool TryRead(string text, OrganizationLocale locale, out DateOnly date)
    {
        date = default;
        text = text.Trim();
        if (text.Length is < 6 or > 40)
            return false;
        if (Figures().Match(text) is { Success: true } m)
        {
            int a = Part(m, 1),
                b = Part(m, 2),
                c = Part(m, 3);
            if (m.Groups[1].Length == 4)
                return Make(a, b, c, out date);
            if (m.Groups[1].Length > 2 || m.Groups[3].Length is not (2 or 4))
                return false;
            // A two-digit year is the nearest to now of the hundred years up to 2069, as spreadsheets and POSIX strptime (%y) take it.
            var year =
                m.Groups[3].Length == 4 ? c
                : c < 69 ? 2000 + c
                : 1900 + c;
            return OrderOf(locale) == DateOrder.MonthDayYear ? Make(year, a, b, out date) : Make(year, b, a, out date);
        }
        var plain = Signs().Replace(text, " ").Trim();
        foreach (var culture in (CultureInfo[])[locale.Culture, CultureInfo.InvariantCulture])
            if (
                DateTime.TryParseExact(
                    plain,
                    ["MMM d yyyy", "MMMM d yyyy", "d MMM yyyy", "d MMMM yyyy"],
                    Pointless(culture),
                    DateTimeStyles.AllowWhiteSpaces,
                    out var read
                )
            )
            {
                date = DateOnly.FromDateTime(read);
                return true;
            }
        return false;
    }

    /// <summary>The length of a date that is written without quotes at a position of a text; 0 where there is none.</summary>
    internal static int LengthAt(string text, int at, int end)
    {
        foreach (var form in (Regex[])[IsoAt(), FiguresAt(), MonthAt(), DayAt()])
            if (
                form.Match(text, at, end - at) is { Success: true } m
                && m.Index == at
                && (at + m.Length == end || !char.IsLetterOrDigit(text[at + m.Length]))
            )
                return m.Length;
        return 0;
    }

    /// <summary>How a writer should write a date here: in the organization's short form, and in ISO 8601.</summary>
    public static string Example(OrganizationLocale locale)
    {
        var day = new DateOnly(2027, 1, 31);
        return $"{DatePattern.Format(day, locale.DateShort, locale.Culture)} or 2027-01-31";
    }

    static int Part(Match m, int group) => int.Parse(m.Groups[group].ValueSpan, CultureInfo.InvariantCulture);

    static bool Make(int year, int month, int day, out DateOnly date)
    {
        var valid = year is >= 1 and <= 9999 && month is >= 1 and <= 12 && day >= 1 && day <= DateTime.DaysInMonth(year, month);
        date = valid ? new(year, month, day) : default;
        return valid;
    }

    // Short names of months end in a point in some languages ("janv."); it is read with or without.
    static CultureInfo Pointless(CultureInfo culture)
    {
        var own = (CultureInfo)culture.Clone();
        static string[] Plain(string[] names) => [.. names.Select(n => n.TrimEnd('.'))];
        own.DateTimeFormat.AbbreviatedMonthNames = Plain(culture.DateTimeFormat.AbbreviatedMonthNames);
        own.DateTimeFormat.AbbreviatedMonthGenitiveNames = Plain(culture.DateTimeFormat.AbbreviatedMonthGenitiveNames);
        return own;
    }

    [GeneratedRegex(@"^(\d{1,4})[-/.](\d{1,2})[-/.](\d{1,4})\.?$", RegexOptions.CultureInvariant)]
    private static partial Regex Figures();

    [GeneratedRegex(@"(?<=\d)(st|nd|rd|th)\b|[.,]|\bde\b|\s+", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Signs();

    [GeneratedRegex(@"\G\d{4}-\d{1,2}-\d{1,2}", RegexOptions.CultureInvariant)]
    private static partial Regex IsoAt();

    [GeneratedRegex(@"\G(\d{1,2}/\d{1,2}/\d{4}|\d{1,2}-\d{1,2}-\d{4}|\d{1,2}\.\d{1,2}\.(\d{4}|\d{2}))", RegexOptions.CultureInvariant)]
    private static partial Regex FiguresAt();

    [GeneratedRegex(@"\G\p{L}{3,12}\.? \d{1,2}(st|nd|rd|th)?,? \d{4}", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex MonthAt();

    [GeneratedRegex(
        @"\G\d{1,2}(\.|st|nd|rd|th)? (de )?\p{L}{3,12}\.?,? (de )?\d{4}",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex DayAt();
}
