namespace Bandeja.Core.Mail;

/// <summary>
/// Keeps an account's limits: never more than so many messages in any minute, spread evenly over it, and in any twenty-four hours.
/// Connections of one account
/// share one pace. Safe to share between threads.
/// </summary>
/// <param name="perMinute">0 for no limit.</param>
/// <param name="perDay">0 for no limit.</param>
public sealed class SendPace(int perMinute, int perDay)
{
    static readonly TimeSpan Minute = TimeSpan.FromMinutes(1),
        Day = TimeSpan.FromDays(1);
    readonly Queue<DateTimeOffset> minute = [],
        day = [];
    readonly Lock gate = new();
    DateTimeOffset? last;

    /// <summary>Takes leave to send one message now.</summary>
    /// <returns>How long to wait before asking again; zero where the message may go, which then counts.</returns>
    public TimeSpan Take(DateTimeOffset now)
    {
        lock (gate)
        {
            var wait = Max(Max(Wait(minute, perMinute, Minute, now), Wait(day, perDay, Day, now)), Even(now));
            if (wait > TimeSpan.Zero)
                return wait;
            last = now;
            if (perMinute > 0)
                minute.Enqueue(now);
            if (perDay > 0)
                day.Enqueue(now);
            return TimeSpan.Zero;
        }
    }

    /// <summary>Counts messages that went out before, as the ledger knows them: a new start must not begin a new day.</summary>
    public void Count(IEnumerable<DateTimeOffset> sent)
    {
        lock (gate)
            foreach (var at in sent.Order())
            {
                if (perMinute > 0)
                    minute.Enqueue(at);
                if (last is null || at > last)
                    last = at;
                if (perDay > 0)
                    day.Enqueue(at);
            }
    }

    /// <summary>Until the next message's place in the minute: servers take a burst for something else than letters.</summary>
    TimeSpan Even(DateTimeOffset now)
    {
        if (perMinute <= 0 || last is not { } before)
            return TimeSpan.Zero;
        var wait = before + Minute / perMinute - now;
        // A clock that was set back must not hold a message for as long.
        return wait > Minute ? TimeSpan.Zero : wait;
    }

    static TimeSpan Wait(Queue<DateTimeOffset> sent, int limit, TimeSpan span, DateTimeOffset now)
    {
        if (limit <= 0)
            return TimeSpan.Zero;
        // What lies ahead of a clock that was set back counts as of now: else a limit could hold for as long as it was set back.
        while (sent.TryPeek(out var oldest) && (now - oldest >= span || oldest - now > span))
            sent.Dequeue();
        return sent.Count < limit ? TimeSpan.Zero : Max(sent.ElementAt(sent.Count - limit) + span - now, TimeSpan.FromMilliseconds(1));
    }

    static TimeSpan Max(TimeSpan a, TimeSpan b) => a > b ? a : b;
}
