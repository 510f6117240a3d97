using System.Globalization;
using System.Text;

namespace Bandeja.Core.Forms;

/// <summary>
/// How a form writes dates and numbers in a field. The standard leaves that to a script of the field (ISO 32000-2, 12.6.4.17 and
/// ISO 21757-1); what such scripts call is known, and is read here without running
/// anything: <c>date mm/dd/yyyy</c>, or <c>number</c> with the number of decimals, the style of the separators, and the currency.
/// </summary>
public static class FieldFormat
{
    /// <summary>A date in the form's pattern, or a number in the form's way; null where the format is for something else.</summary>
    public static string? Write(string? format, DateOnly? date, decimal? number)
    {
        if (format is null)
            return null;
        if (date is { } day && format.StartsWith("date ", StringComparison.Ordinal))
            return Date(format[5..], day);
        if (number is { } value && format.StartsWith("number ", StringComparison.Ordinal))
            return Number(format[7..].Split(' ', 4), value);
        return null;
    }

    /// <summary>Patterns such as <c>mmm d, yyyy</c>: m, d, and y, each as often as there are digits; three or four m for the month's name;
    /// the rest stands as it is. Names are English, as the scripts have them.</summary>
    static string Date(string pattern, DateOnly day)
    {
        var text = new StringBuilder();
        var names = CultureInfo.InvariantCulture.DateTimeFormat;
        for (var i = 0; i < pattern.Length; )
        {
            var c = pattern[i];
            var run = 1;
            while (i + run < pattern.Length && pattern[i + run] == c)
                run++;
            text.Append(
                (c, run) switch
                {
                    ('m', 1) => $"{day.Month}",
                    ('m', 2) => $"{day.Month:00}",
                    ('m', 3) => names.AbbreviatedMonthNames[day.Month - 1],
                    ('m', _) => names.MonthNames[day.Month - 1],
                    ('d', 1) => $"{day.Day}",
                    ('d', 2) => $"{day.Day:00}",
                    ('d', 3) => names.AbbreviatedDayNames[(int)day.DayOfWeek],
                    ('d', _) => names.DayNames[(int)day.DayOfWeek],
                    ('y', <= 2) => $"{day.Year % 100:00}",
                    ('y', _) => $"{day.Year:0000}",
                    _ => new string(c, run),
                }
            );
            i += run;
        }
        return text.ToString();
    }

    /// <param name="parts">Decimals; the style of the separators: 0 for 1,234.56, 1 for 1234.56, 2 for 1.234,56, 3 for 1234,56, 4 for
    /// 1'234.56; <c>before</c> or <c>after</c>, and the currency with its space.</param>
    static string Number(string[] parts, decimal value)
    {
        var decimals = Math.Clamp(int.Parse(parts[0], CultureInfo.InvariantCulture), 0, 10);
        var (group, point) = parts[1] switch
        {
            "1" => ("", "."),
            "2" => (".", ","),
            "3" => ("", ","),
            "4" => ("'", "."),
            _ => (",", "."),
        };
        var rounded = Math.Round(Math.Abs(value), decimals, MidpointRounding.AwayFromZero);
        var whole = Math.Truncate(rounded).ToString(CultureInfo.InvariantCulture);
        var digits = new StringBuilder(whole);
        for (var at = whole.Length - 3; at > 0 && group.Length > 0; at -= 3)
            digits.Insert(at, group);
        if (decimals > 0)
            digits.Append(point).Append((rounded - Math.Truncate(rounded)).ToString($"F{decimals}", CultureInfo.InvariantCulture)[2..]);
        var currency = parts.Length > 3 ? parts[3] : "";
        var written = parts.Length > 2 && parts[2] == "after" ? digits + currency : currency + digits;
        return value < 0 && rounded != 0 ? "-" + written : written;
    }
}
