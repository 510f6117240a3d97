namespace Bandeja.Core.Campaigns;

/// <summary>A day on which nothing is mailed.</summary>
public sealed record Holiday(DateOnly Date, string Name);

/// <summary>On which days mail leaves: all but the days of the weekend and holidays. Days are calendar days; no clock and no time zone is
/// asked, so daylight saving changes nothing.</summary>
public sealed class WorkCalendar
{
    /// <summary>How many holidays a calendar may list.</summary>
    public const int MostHolidays = 10_000;

    // Longer than a calendar full of holidays in a row, so that a search always ends.
    const int Farthest = MostHolidays * 8;

    readonly HashSet<DayOfWeek> weekend;
    readonly Dictionary<DateOnly, string> holidays = [];
    readonly Dictionary<int, Dictionary<DateOnly, string>> federal = [];

    /// <summary>Makes a calendar.</summary>
    /// <param name="weekend">Days of the week on which nothing is mailed; at least one day must be left.</param>
    /// <param name="holidays">Days on which nothing is mailed; a day that is listed twice has its first name.</param>
    /// <param name="withFederal">True where the holidays of the federal government are observed as well.</param>
    /// <exception cref="ArgumentException">No day of the week is left, or there are too many holidays.</exception>
    public WorkCalendar(IEnumerable<DayOfWeek> weekend, IReadOnlyCollection<Holiday> holidays, bool withFederal)
    {
        this.weekend = [.. weekend];
        if (this.weekend.Count > 6)
            throw new ArgumentException("Leave at least one day of the week on which mail goes out.");
        if (holidays.Count > MostHolidays)
            throw new ArgumentException($"A calendar can have {MostHolidays:N0} holidays.");
        foreach (var holiday in holidays)
            this.holidays.TryAdd(holiday.Date, holiday.Name);
        WithFederal = withFederal;
    }

    /// <summary>Saturdays, Sundays, and federal holidays off.</summary>
    public static WorkCalendar Usual => new([DayOfWeek.Saturday, DayOfWeek.Sunday], [], true);

    /// <summary>True where the holidays of the federal government are observed as well.</summary>
    public bool WithFederal { get; }

    /// <summary>The days of the week on which nothing is mailed.</summary>
    public IReadOnlySet<DayOfWeek> Weekend => weekend;

    /// <summary>Why nothing is mailed on a day: the holiday's name, or the day of the week; null where mail goes out.</summary>
    public string? WhyNot(DateOnly day) =>
        holidays.TryGetValue(day, out var name) ? name
        : WithFederal && Federal(day) is { } observed ? observed
        : weekend.Contains(day.DayOfWeek) ? day.DayOfWeek.ToString()
        : null;

    /// <summary>The first day on which mail goes out, from a day on; the day itself where no later one is left.</summary>
    public DateOnly OnOrAfter(DateOnly day)
    {
        for (var d = day; d < DateOnly.MaxValue && d.DayNumber - day.DayNumber < Farthest; d = d.AddDays(1))
            if (WhyNot(d) is null)
                return d;
        return day;
    }

    /// <summary>The day that lies a number of working days before another; 0 is the last working day up to that day.</summary>
    public DateOnly Before(DateOnly day, int workingDays)
    {
        var left = workingDays;
        for (var d = day; d > DateOnly.MinValue && day.DayNumber - d.DayNumber < Farthest; d = d.AddDays(-1))
            if (WhyNot(d) is null && left-- == 0)
                return d;
        return day;
    }

    /// <summary>The next working day after a day, or the one before it.</summary>
    public DateOnly Next(DateOnly day, bool back = false) =>
        back
            ? day == DateOnly.MinValue
                ? day
                : Before(day.AddDays(-1), 0)
            : day == DateOnly.MaxValue
                ? day
                : OnOrAfter(day.AddDays(1));

    string? Federal(DateOnly day)
    {
        if (!federal.TryGetValue(day.Year, out var year))
            // New Year's Day of the year after may be observed on the last day of this one.
            federal[day.Year] = year = FederalHolidays(day.Year)
                .Concat(day.Year < 9999 ? FederalHolidays(day.Year + 1) : [])
                .DistinctBy(h => h.Date)
                .ToDictionary(h => h.Date, h => h.Name);
        return year.GetValueOrDefault(day);
    }

    /// <summary>The federal holidays of a year on the days on which they are observed: one on a Saturday on the Friday before, one on a
    /// Sunday on the Monday after (5 U.S.C. 6103(a), (b); Executive Order 11582).</summary>
    public static IReadOnlyList<Holiday> FederalHolidays(int year)
    {
        DateOnly Nth(int month, DayOfWeek day, int n)
        {
            var first = new DateOnly(year, month, 1);
            return first.AddDays(((int)day - (int)first.DayOfWeek + 7) % 7 + 7 * (n - 1));
        }
        DateOnly Last(int month, DayOfWeek day)
        {
            var last = new DateOnly(year, month, DateTime.DaysInMonth(year, month));
            return last.AddDays(-(((int)last.DayOfWeek - (int)day + 7) % 7));
        }
        Holiday Fixed(int month, int day, string name)
        {
            var d = new DateOnly(year, month, day);
            var observed = d.DayOfWeek switch
            {
                DayOfWeek.Saturday when d > DateOnly.MinValue => d.AddDays(-1),
                DayOfWeek.Sunday => d.AddDays(1),
                _ => d,
            };
            return new(observed, name);
        }
        return
        [
            Fixed(1, 1, "New Year’s Day"),
            new(Nth(1, DayOfWeek.Monday, 3), "Martin Luther King Jr. Day"),
            new(Nth(2, DayOfWeek.Monday, 3), "Washington’s Birthday"),
            new(Last(5, DayOfWeek.Monday), "Memorial Day"),
            Fixed(6, 19, "Juneteenth"),
            Fixed(7, 4, "Independence Day"),
            new(Nth(9, DayOfWeek.Monday, 1), "Labor Day"),
            new(Nth(10, DayOfWeek.Monday, 2), "Columbus Day"),
            Fixed(11, 11, "Veterans Day"),
            new(Nth(11, DayOfWeek.Thursday, 4), "Thanksgiving Day"),
            Fixed(12, 25, "Christmas Day"),
        ];
    }
}
