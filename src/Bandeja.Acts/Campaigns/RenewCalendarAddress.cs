using Bandeja.Store.Sequences;

namespace Bandeja.Acts.Campaigns;

/// <summary>The calendar's address; there is one.</summary>
public sealed record CalendarAddress;

/// <summary>Gives the calendar a new secret address; answers its secret part.</summary>
[Act("calendar.address", Permission.Settings, "Gave the calendar a new address")]
public sealed class RenewCalendarAddress(MailCalendar calendar) : Act<CalendarAddress, string>
{
    /// <inheritdoc/>
    protected internal override string Do(CalendarAddress order, Deed deed) => calendar.Renew();
}
