using System.Globalization;
using System.Text.RegularExpressions;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Recognition;

/// <summary>
/// Times of day that stand with dates, as appointments have them. A date keeps none, so they can have a column of their own, as text in the
/// country's clock.
/// </summary>
public static partial class TimesOfDay
{
    // Unicode CLDR, supplemental data, timeData: territories that prefer the clock of twelve hours.
    static readonly HashSet<string> TwelveHours = [.. "US CA AU NZ IN PH PK BD MY SG HK PR GU VI AS MP".Split(' ')];

    /// <summary>The time of day in a value, such as 9:30 AM; null where there is none, where it is midnight, which programs write where
    /// there is none, or where it is that of Greenwich and not of a place.</summary>
    public static string? Of(string? value, Country home)
    {
        if (Read(value) is not { } time || time == default)
            return null;
        var seconds = time.Second == 0 ? "" : ":ss";
        return time.ToString(TwelveHours.Contains(home.Code) ? $"h:mm{seconds} tt" : $"HH:mm{seconds}", CultureInfo.InvariantCulture);
    }

    static TimeOnly? Read(string? value)
    {
        if (value is not { Length: > 8 and <= 60 } || AtTheEnd().Match(value.Trim()) is not { Success: true } m || m.Groups["zero"].Success)
            return null;
        int Part(string group) => m.Groups[group].Success ? int.Parse(m.Groups[group].ValueSpan, CultureInfo.InvariantCulture) : 0;
        var (hour, minute, second) = (Part("h"), Part("m"), Part("s"));
        if (m.Groups["half"].Success)
        {
            if (hour is < 1 or > 12)
                return null;
            hour = hour % 12 + (char.ToUpperInvariant(m.Groups["half"].Value[0]) == 'P' ? 12 : 0);
        }
        return hour < 24 && minute < 60 && second < 60 ? new(hour, minute, second) : null;
    }

    /// <summary>What the column of the times is called.</summary>
    public static string NameOf(string heading)
    {
        var name = heading.Trim();
        if (name.Equals("date", StringComparison.OrdinalIgnoreCase))
            return "Time";
        foreach (var end in (string[])[" date/time", " date and time", " date & time", " datetime", " date"])
            if (name.EndsWith(end, StringComparison.OrdinalIgnoreCase))
                name = name[..^end.Length];
        return $"{name} time";
    }

    /// <summary>A time that stands among a column's dates, and whether people seem to have set the times: those that programs note have
    /// seconds.</summary>
    public static (string? Example, bool SetByPeople) Among(IEnumerable<string?> values, DateOrder order, Country home)
    {
        string? example = null;
        var seconds = false;
        foreach (var value in values)
            if (Of(value, home) is { } time && WrittenValue.TryDate(value!.Trim(), order, out _))
            {
                example ??= time;
                seconds |= Read(value)!.Value.Second != 0;
            }
        return (example, example is not null && !seconds);
    }

    [GeneratedRegex(
        @"[\sT,](?<h>\d{1,2}):(?<m>\d{2})(?::(?<s>\d{2})(?:[.,]\d{1,9})?)?\s?(?<half>[AaPp]\.?\s?[Mm]\.?)?\s?"
            + @"(?:(?<zero>Z|UTC|GMT|[+-]00(?::?00)?)|[+-]\d{2}(?::?\d{2})?)?$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex AtTheEnd();
}
