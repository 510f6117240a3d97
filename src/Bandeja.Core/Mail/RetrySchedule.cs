namespace Bandeja.Core.Mail;

/// <summary>
/// When a message that the server put off (a reply of the 400s, RFC 5321 section 4.2.1) is tried again: the waits grow threefold up to
/// four hours, and after the last try it counts as refused. RFC 5321 section 4.5.4.1 wants the sender to wait and to give up some day.
/// </summary>
/// <param name="First">The wait after the first attempt.</param>
/// <param name="Tries">How many attempts there are in all.</param>
public sealed record RetrySchedule(TimeSpan First, int Tries = 8)
{
    static readonly TimeSpan Longest = TimeSpan.FromHours(4);

    /// <summary>When a message is tried again after so many attempts, all put off; null where that was the last.</summary>
    /// <param name="attempts">How many were made, at least 1.</param>
    public DateTimeOffset? After(int attempts, DateTimeOffset now)
    {
        if (attempts >= Tries)
            return null;
        var wait = First.TotalSeconds * Math.Pow(3, Math.Max(0, attempts - 1));
        return now + TimeSpan.FromSeconds(Math.Min(wait, Longest.TotalSeconds));
    }
}
