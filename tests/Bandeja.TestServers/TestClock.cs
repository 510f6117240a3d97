namespace Bandeja.TestServers;

/// <summary>A clock that goes on like the one on the wall, from whatever moment, and can be set forward: what waits for a moment that is
/// passed then goes on at once, as on a machine that slept.</summary>
public sealed class TestClock(DateTimeOffset start) : TimeProvider
{
    readonly Lock one = new();
    readonly List<Waiting> timers = [];
    readonly long begun = System.GetTimestamp();
    TimeSpan ahead;

    /// <inheritdoc/>
    public override TimeZoneInfo LocalTimeZone => TimeZoneInfo.Utc;

    /// <inheritdoc/>
    public override DateTimeOffset GetUtcNow()
    {
        lock (one)
            return start + ahead + System.GetElapsedTime(begun);
    }

    /// <inheritdoc/>
    public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period)
    {
        var timer = new Waiting(this, callback, state, period);
        lock (one)
            timers.Add(timer);
        timer.Change(dueTime, period);
        return timer;
    }

    /// <summary>Sets the clock forward; back where it is negative, which lets nothing go on.</summary>
    public void Set(TimeSpan forward)
    {
        List<Waiting> all;
        lock (one)
        {
            ahead += forward;
            all = [.. timers];
        }
        foreach (var timer in all)
            timer.Jumped(forward);
    }

    sealed class Waiting : ITimer
    {
        readonly TestClock clock;
        readonly ITimer timer;
        readonly Lock one = new();
        TimeSpan period,
            left = Timeout.InfiniteTimeSpan;
        long since;

        public Waiting(TestClock clock, TimerCallback callback, object? state, TimeSpan period)
        {
            (this.clock, this.period) = (clock, period);
            timer = System.CreateTimer(
                s =>
                {
                    lock (one)
                        (left, since) = (this.period > TimeSpan.Zero ? this.period : Timeout.InfiniteTimeSpan, System.GetTimestamp());
                    callback(s);
                },
                state,
                Timeout.InfiniteTimeSpan,
                Timeout.InfiniteTimeSpan
            );
        }

        public bool Change(TimeSpan dueTime, TimeSpan period)
        {
            lock (one)
                (left, since, this.period) = (dueTime, System.GetTimestamp(), period);
            return timer.Change(dueTime, period);
        }

        public void Jumped(TimeSpan forward)
        {
            lock (one)
            {
                if (left < TimeSpan.Zero || forward <= TimeSpan.Zero)
                    return;
                var rest = left - System.GetElapsedTime(since) - forward;
                (left, since) = (rest > TimeSpan.Zero ? rest : TimeSpan.Zero, System.GetTimestamp());
                timer.Change(left, period);
            }
        }

        public void Dispose()
        {
            lock (clock.one)
                clock.timers.Remove(this);
            timer.Dispose();
        }

        public ValueTask DisposeAsync()
        {
            Dispose();
            return ValueTask.CompletedTask;
        }
    }
}
