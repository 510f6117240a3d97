using System.Globalization;
using System.Text;

namespace Bandeja.Core.Language;

/// <summary>
/// Dates by Unicode CLDR patterns (UTS #35 part 4, “Date Format Patterns”): <c>y yy yyyy</c>, <c>M MM MMM MMMM</c> and the
/// standalone <c>L</c>, <c>d dd</c>, <c>E EEE EEEE</c>, <c>D</c>, <c>Q</c>, text in single quotes.
/// </summary>
public static class DatePattern
{
    /// <summary>The reason why a pattern cannot be used, or null.</summary>
    public static string? Mistake(string pattern)
    {
        var quoted = false;
        var parts = new HashSet<char>();
        for (var i = 0; i < pattern.Length; i++)
        {
            var c = pattern[i];
            if (c == '\'')
            {
                quoted = !quoted;
                continue;
            }
            if (quoted || !char.IsAsciiLetter(c))
                continue;
            var run = Run(pattern, i);
            var known = c switch
            {
                'y' or 'u' => run <= 4,
                'M' or 'L' => run <= 4,
                'd' => run <= 2,
                'E' => run <= 4,
                'D' => run <= 3,
                'Q' => run <= 2,
                _ => false,
            };
            if (!known)
                return $"“{new string(c, run)}” is not a date part; use d, MMMM, yyyy, or EEEE, or put text in 'single quotes'";
            parts.Add(c);
            i += run - 1;
        }
        // Beside a month nobody means the day of the year.
        return parts.Contains('D') && !parts.Contains('d') && (parts.Contains('M') || parts.Contains('L'))
                ? "“D” counts the days of the year; the day of the month is d"
            : quoted ? "a single quote is not closed"
            : pattern.Length == 0 ? "the pattern is empty"
            : null;
    }

    /// <summary>The pattern that is meant by one with small letters for months, or capitals for days and years: <c>mm/DD/YYYY</c>; null
    /// where that gives none either.</summary>
    public static string? Meant(string pattern)
    {
        var meant = new StringBuilder();
        var quoted = false;
        foreach (var c in pattern)
        {
            quoted ^= c == '\'';
            meant.Append(
                quoted ? c
                : c == 'm' ? 'M'
                : c == 'Y' ? 'y'
                : c == 'D' ? 'd'
                : c
            );
        }
        return Mistake(meant.ToString()) is null ? meant.ToString() : null;
    }

    static int Run(string pattern, int at)
    {
        var n = 1;
        while (at + n < pattern.Length && pattern[at + n] == pattern[at])
            n++;
        return n;
    }

    /// <summary>Formats a date. The pattern is one that <see cref="Mistake"/> accepts.</summary>
    public static string Format(DateOnly date, string pattern, CultureInfo culture)
    {
        var names = culture.DateTimeFormat;
        var text = new StringBuilder();
        for (var i = 0; i < pattern.Length; i++)
        {
            var c = pattern[i];
            if (c == '\'')
            {
                var close = pattern.IndexOf('\'', i + 1);
                if (close == i + 1)
                    text.Append('\'');
                if (close < 0)
                    close = pattern.Length;
                text.Append(pattern, i + 1, Math.Max(0, close - i - 1));
                i = close;
                continue;
            }
            if (!char.IsAsciiLetter(c))
            {
                text.Append(c);
                continue;
            }
            var run = Run(pattern, i);
            text.Append(
                (c, run) switch
                {
                    ('y' or 'u', 2) => (date.Year % 100).ToString("00", CultureInfo.InvariantCulture),
                    ('y' or 'u', _) => date.Year.ToString(new string('0', run), CultureInfo.InvariantCulture),
                    ('M', 4) => names.MonthGenitiveNames[date.Month - 1],
                    ('L', 4) => names.MonthNames[date.Month - 1],
                    ('M' or 'L', 3) => names.AbbreviatedMonthNames[date.Month - 1],
                    ('M' or 'L', _) => date.Month.ToString(new string('0', run), CultureInfo.InvariantCulture),
                    ('E', 4) => names.DayNames[(int)date.DayOfWeek],
                    ('E', _) => names.AbbreviatedDayNames[(int)date.DayOfWeek],
                    ('D', _) => date.DayOfYear.ToString(new string('0', run), CultureInfo.InvariantCulture),
                    ('Q', _) => ((date.Month + 2) / 3).ToString(new string('0', run), CultureInfo.InvariantCulture),
                    _ => date.Day.ToString(new string('0', run), CultureInfo.InvariantCulture),
                }
            );
            i += run - 1;
        }
        return text.ToString();
    }
}
