using System.Globalization;

namespace Bandeja.Core.Language;

/// <summary>How the program itself says days and times of day to the people who work with it: in English, in the order and with the clock
/// of the organization's country. What goes to recipients is written by <see cref="OrganizationLocale"/>.</summary>
/// <param name="MonthFirst">True for March 12, 2027 and 2:30 PM; false for 12 March 2027 and 14:30.</param>
public readonly record struct DayWords(bool MonthFirst)
{
    // As the web has it (customs.ts).
    static readonly string[] MonthFirstCountries = ["US", "CA", "MX", "PH"];

    /// <summary>Those of an organization with this locale.</summary>
    /// <param name="tag">A BCP 47 tag with a country.</param>
    public static DayWords For(string tag) => new(MonthFirstCountries.Contains(tag[(tag.LastIndexOf('-') + 1)..]));

    /// <summary>A day: Mar 12, 2027.</summary>
    public string Of(DateOnly day) => day.ToString(MonthFirst ? "MMM d, yyyy" : "d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A day: March 12, 2027.</summary>
    public string Long(DateOnly day) => day.ToString(MonthFirst ? "MMMM d, yyyy" : "d MMMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A day of which one knows the year: Mar 12.</summary>
    public string Short(DateOnly day) => day.ToString(MonthFirst ? "MMM d" : "d MMM", CultureInfo.InvariantCulture);

    /// <summary>A day of which one knows the year: March 12.</summary>
    public string LongShort(DateOnly day) => day.ToString(MonthFirst ? "MMMM d" : "d MMMM", CultureInfo.InvariantCulture);

    /// <summary>A time of day: 2:30:05 PM.</summary>
    public string Clock(DateTimeOffset at) => at.ToString(MonthFirst ? "h:mm:ss tt" : "HH:mm:ss", CultureInfo.InvariantCulture);
}
