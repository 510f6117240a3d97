namespace Bandeja.Work.Hosting;

/// <summary>Moments as clocks show them here.</summary>
static class LocalTime
{
    /// <summary>A moment as clocks show it here.</summary>
    public static DateTimeOffset ToLocal(this TimeZoneInfo zone, DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, zone);
}
