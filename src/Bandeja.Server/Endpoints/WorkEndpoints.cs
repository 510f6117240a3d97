using System.Globalization;
using System.Text;
using Bandeja.Acts.Campaigns;
using Bandeja.Core.Drops;
using Bandeja.Formats.Calendars;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Proofs;
using Bandeja.Store.Sequences;
using Bandeja.Work.Composition;

namespace Bandeja.Server.Endpoints;

/// <summary>The calendar's days and settings.</summary>
/// <param name="Closed">Days of the stretch on which nothing is mailed: the name of the holiday, or of the day of the week.</param>
public sealed record CalendarView(IReadOnlyList<MailDay> Days, IReadOnlyList<Core.Campaigns.Holiday> Closed);

/// <summary>Where the calendar can be subscribed to.</summary>
/// <param name="Secret">The secret part of the address; null where there is none yet.</param>
public sealed record SubscriptionView(string? Secret);

static class WorkEndpoints
{
    // A year and the rest of its weeks.
    const int MostDays = 430;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/work",
                (WorkList work, Letters letters, Surroundings surroundings) =>
                    work.Of(
                        surroundings.Now.Today,
                        (c, drop) => drop.NeedsSignOff && SignOffView.Of(c, drop, letters.Rules(c, drop)).State != SignOffState.Valid
                    )
            )
            .WithSummary("What has to be done, by when it is due");
        api.MapPost("/work/mark", (WorkMark order, MarkWork act, Caller caller) => caller.Does(act, order))
            .WithSummary("Assign, postpone, or finish a piece of work");
        api.MapGet(
                "/calendar",
                (DateOnly from, DateOnly to, MailCalendar calendar, Database database) =>
                {
                    if (to < from || to.DayNumber - from.DayNumber > MostDays)
                        throw new BadInputException($"Ask for at most {MostDays} days, the first before the last.");
                    using var c = database.Open();
                    var working = Calendars.Of(c);
                    var closed = Enumerable
                        .Range(0, to.DayNumber - from.DayNumber + 1)
                        .Select(from.AddDays)
                        .Select(d => new Core.Campaigns.Holiday(d, working.WhyNot(d) ?? ""))
                        .Where(h => h.Name.Length > 0)
                        .ToList();
                    return new CalendarView(calendar.Of(from, to), closed);
                }
            )
            .WithSummary("What is mailed on which day, across campaigns");
        api.MapGet(
                "/calendar.ics",
                (MailCalendar calendar, SettingStore settings, TimeProvider time, Surroundings surroundings) =>
                    Results.File(Ics(calendar, settings, time, surroundings), "text/calendar", "mail-dates.ics")
            )
            .WithSummary("The mail dates as an iCalendar file")
            .Produces(200, contentType: "text/calendar");
        api.MapGet("/calendar/address", (MailCalendar calendar) => new SubscriptionView(calendar.Address()))
            .WithSummary("The secret part of the calendar feed’s address; null if there is no feed");
        api.MapPost("/calendar/address", (RenewCalendarAddress act, Caller caller) => new SubscriptionView(caller.Does(act, new())))
            .WithSummary("Give the calendar a new secret address; the one before no longer works");
        api.MapGet(
                "/settings/calendar",
                (Database database) =>
                {
                    using var c = database.Open();
                    return Calendars.Setting(c);
                }
            )
            .WithSummary("On which days nothing is mailed");
        api.MapPut("/settings/calendar", (CalendarSetting order, SetCalendar act, Caller caller) => caller.Does(act, order))
            .WithSummary("Say on which days nothing is mailed; dates that depend on it follow");
    }

    /// <summary>The calendar at its secret address: calendar programs do not sign in.</summary>
    public static void MapFeed(WebApplication app) =>
        app.MapGet(
                "/calendar/{file}",
                (string file, MailCalendar calendar, SettingStore settings, TimeProvider time, Surroundings surroundings) =>
                    file.EndsWith(".ics", StringComparison.Ordinal)
                    && calendar.Address() is { } secret
                    && System.Security.Cryptography.CryptographicOperations.FixedTimeEquals(
                        Encoding.UTF8.GetBytes(secret),
                        Encoding.UTF8.GetBytes(file[..^4])
                    )
                        ? Results.File(Ics(calendar, settings, time, surroundings), "text/calendar")
                        : Results.NotFound()
            )
            .ExcludeFromDescription();

    static byte[] Ics(MailCalendar calendar, SettingStore settings, TimeProvider time, Surroundings surroundings)
    {
        var today = surroundings.Now.Today;
        var organization = settings.Organization();
        return Encoding.UTF8.GetBytes(
            CalendarFile.Of(
                organization.Name.Length == 0 ? "Mail dates" : $"{organization.Name}: mail dates",
                calendar
                    .Of(today.AddDays(-180), today.AddDays(MostDays))
                    .Select(d => new CalendarDay(
                        d.DropId is { } drop
                            ? $"drop-{drop}@bandeja"
                            : string.Create(CultureInfo.InvariantCulture, $"step-{d.StepId}-{d.On:yyyyMMdd}@bandeja"),
                        d.On,
                        $"{d.Campaign}: {d.Name}",
                        d.Pieces == 1 ? "1 piece" : $"{d.Pieces:N0} pieces",
                        d.Mailed
                    )),
                time.GetUtcNow()
            )
        );
    }
}
