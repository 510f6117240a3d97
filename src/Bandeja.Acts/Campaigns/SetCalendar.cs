using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>Says on which days nothing is mailed. Dates that depend on it follow.</summary>
[Act("calendar.set", Permission.Settings, "Changed the calendar")]
public sealed class SetCalendar(Database database) : Act<CalendarSetting>
{
    const int LongestName = 80;

    /// <inheritdoc/>
    protected override void Carry(CalendarSetting order, Deed deed)
    {
        if (order.Holidays.Any(h => h.Name.Length > LongestName))
            throw new BadInputException($"The name of a holiday can have {LongestName} characters.");
        database.Write(c => Calendars.Set(c, order));
        deed.Changed(Matter.Campaign);
    }
}
