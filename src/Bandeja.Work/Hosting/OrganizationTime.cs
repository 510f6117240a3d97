using Bandeja.Store;

namespace Bandeja.Work.Hosting;

/// <summary>The clock, with days and hours counted in the organization's time zone: what is due today, when a run begins, the date that is
/// printed.</summary>
/// <param name="clock">What tells the moment.</param>
/// <param name="settings">Asked late: the settings are read from a database that needs a clock itself.</param>
public sealed class OrganizationTime(TimeProvider clock, Func<SettingStore> settings) : TimeProvider
{
    volatile Known? known;

    sealed record Known(string Name, TimeZoneInfo Zone);

    /// <summary>The organization's zone; the server's own where none was set, or where this machine does not know it any more.</summary>
    public override TimeZoneInfo LocalTimeZone
    {
        get
        {
            var name = settings().TimeZone;
            if (known is { } same && same.Name == name)
                return same.Zone;
            var zone = SettingStore.Zone(name, clock.LocalTimeZone);
            known = new(name, zone);
            return zone;
        }
    }

    /// <inheritdoc/>
    public override DateTimeOffset GetUtcNow() => clock.GetUtcNow();

    /// <inheritdoc/>
    public override long GetTimestamp() => clock.GetTimestamp();

    /// <inheritdoc/>
    public override long TimestampFrequency => clock.TimestampFrequency;

    /// <inheritdoc/>
    public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period) =>
        clock.CreateTimer(callback, state, dueTime, period);
}
