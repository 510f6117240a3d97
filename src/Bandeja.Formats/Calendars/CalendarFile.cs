using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;

namespace Bandeja.Formats.Calendars;

/// <summary>A day in a calendar.</summary>
/// <param name="Uid">Its identity, the same each time (RFC 5545, section 3.8.4.7).</param>
/// <param name="IsDone">True where it has happened.</param>
public sealed record CalendarDay(string Uid, DateOnly On, string Summary, string Description, bool IsDone);

/// <summary>Writes calendars as iCalendar (RFC 5545).</summary>
public static class CalendarFile
{
    /// <summary>A calendar of whole days.</summary>
    /// <param name="stamp">When it was written (section 3.8.7.2).</param>
    public static string Of(string name, IEnumerable<CalendarDay> days, DateTimeOffset stamp)
    {
        var calendar = new Calendar { ProductId = "-//Bandeja//Mail dates//EN", Method = "PUBLISH" };
        calendar.AddProperty("X-WR-CALNAME", name);
        foreach (var day in days)
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = day.Uid,
                    DtStamp = new CalDateTime(stamp.UtcDateTime, "UTC"),
                    Start = new CalDateTime(day.On),
                    // The end of a whole day is the day after it (section 3.6.1).
                    End = day.On < DateOnly.MaxValue ? new CalDateTime(day.On.AddDays(1)) : null,
                    Summary = day.Summary,
                    Description = day.Description,
                    // A mail date keeps nobody from meeting.
                    Transparency = TransparencyType.Transparent,
                    Status = day.IsDone ? EventStatus.Confirmed : EventStatus.Tentative,
                }
            );
        return new CalendarSerializer().SerializeToString(calendar)!;
    }
}
