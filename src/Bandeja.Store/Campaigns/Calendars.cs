using System.Text.Json;
using Bandeja.Core.Campaigns;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Campaigns;

/// <summary>The calendar as it is edited.</summary>
/// <param name="Weekend">Days of the week on which nothing is mailed.</param>
/// <param name="FederalHolidays">True where federal holidays are observed as well.</param>
/// <param name="Holidays">The organization's own.</param>
public sealed record CalendarSetting(IReadOnlyList<DayOfWeek> Weekend, bool FederalHolidays, IReadOnlyList<Holiday> Holidays)
{
    /// <summary>Before anybody changed it.</summary>
    public static readonly CalendarSetting First = new([DayOfWeek.Saturday, DayOfWeek.Sunday], true, []);

    /// <summary>The calendar that it describes.</summary>
    /// <exception cref="BadInputException">It leaves no day, or has too many holidays.</exception>
    public WorkCalendar Calendar()
    {
        try
        {
            return new(Weekend, Holidays, FederalHolidays);
        }
        catch (ArgumentException e)
        {
            throw new BadInputException(e.Message);
        }
    }
}

/// <summary>Keeps the calendar of days on which mail goes out.</summary>
public static class Calendars
{
    const string Key = "calendar";

    /// <summary>As it is edited.</summary>
    public static CalendarSetting Setting(SqliteConnection c) =>
        c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = @Key", new { Key }) is { } json
            ? JsonSerializer.Deserialize<CalendarSetting>(json)!
            : CalendarSetting.First;

    /// <summary>The calendar.</summary>
    public static WorkCalendar Of(SqliteConnection c) => Setting(c).Calendar();

    /// <summary>Changes it; all dates that depend on it follow.</summary>
    public static void Set(SqliteConnection c, CalendarSetting setting)
    {
        setting.Calendar();
        c.Execute(
            "INSERT INTO setting VALUES (@Key, @Value) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
            new { Key, Value = JsonSerializer.Serialize(setting) }
        );
        foreach (
            var (id, mode) in c.Query<(long, string)>(
                    "SELECT id, mode FROM campaign WHERE mode <> @none",
                    new { none = nameof(CampaignMode.Drops) }
                )
                .ToList()
        )
            if (mode == nameof(CampaignMode.Together))
                StepDates.Refresh(c, id);
            else
                PersonClocks.RefreshAll(c, id);
    }
}
