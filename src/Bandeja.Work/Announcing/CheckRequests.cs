using System.Collections.Concurrent;
using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.People;
using Bandeja.Store.Sequences;
using Bandeja.Work.Composition;

namespace Bandeja.Work.Announcing;

/// <summary>Asks for checks; while somebody is typing, only once they pause.</summary>
public sealed class CheckRequests(
    DropChecker checker,
    JobStore jobs,
    JobBells bells,
    DropStore drops,
    DailyCollection collection,
    PeopleRecognition people,
    SettingStore settings,
    TimeProvider time,
    ILogger<CheckRequests> log
) : IAsyncDisposable
{
    static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(800);
    readonly ConcurrentDictionary<long, ITimer> designs = [],
        lists = [],
        campaigns = [],
        limited = [];
    volatile bool stopped;

    /// <summary>Checks a drop as soon as possible.</summary>
    public void Drop(long dropId)
    {
        jobs.AddOnce(JobNames.Check, dropId, "Checking the pieces", Actor.Rule(time.GetUtcNow()));
        bells.Ring(JobNames.Check);
    }

    /// <summary>Whether a drop's issues are up to date; where they are not, and can be, a check is asked for.</summary>
    public DropFreshness Freshness(long dropId)
    {
        var now = checker.Freshness(dropId);
        if (!now.Fresh && now.Error is null)
            Drop(dropId);
        return now;
    }

    /// <summary>Refuses what depends on a drop's issues while they are not up to date; the check is asked for.</summary>
    /// <param name="so">What cannot be done then.</param>
    /// <exception cref="ConflictException">They are not up to date.</exception>
    public void MustBeFresh(long dropId, string so)
    {
        if (Freshness(dropId) is { Fresh: false } stale)
            throw new ConflictException(
                stale.Error is { } error
                    ? $"The pieces cannot be checked, so {so}: {error}"
                    : "The pieces are still being checked after a change. Try again in a moment."
            );
    }

    /// <summary>Checks a drop that could not be checked once more.</summary>
    public void TryAgain(long dropId)
    {
        checker.TryAgain(dropId);
        // Somebody wants it, whatever happened the last time.
        jobs.Add(JobNames.Check, dropId, "Checking the pieces", "{}", 0, Actor.Rule(time.GetUtcNow()));
        bells.Ring(JobNames.Check);
    }

    /// <summary>Checks the drops of a list where they depend on what has changed, once that has rested for a moment.</summary>
    public void List(long listId) =>
        Wait(
            lists,
            listId,
            () =>
            {
                People(listId);
                return drops.Drops().Where(d => d.ListId == listId);
            }
        );

    /// <summary>Recognizes the people of a list where it changed.</summary>
    public void People(long listId)
    {
        if (people.IsStale(listId))
            Recognize(listId);
    }

    void Recognize(long listId)
    {
        jobs.AddOnce(JobNames.People, listId, "Recognizing people across lists", Actor.Rule(time.GetUtcNow()));
        bells.Ring(JobNames.People);
    }

    /// <summary>The same for all lists: what an earlier version did not know of, or a stop has interrupted.</summary>
    public void AllPeople()
    {
        foreach (var list in people.Stale())
            Recognize(list);
    }

    /// <summary>After something happened in a drop: where it is a campaign's step, the steps after it may have other recipients, and
    /// somebody may be due; and the contact
    /// limits may keep back others in other drops.</summary>
    public void After(long dropId)
    {
        Limits();
        var campaign = drops.CampaignOfStep(dropId);
        if (campaign is { } id)
            Wait(campaigns, id, () => drops.Drops().Where(d => d.CampaignId == id && d.StepId is not null && d.CollectsOn is null));
    }

    /// <summary>After something that contact limits look at: they may keep back others.</summary>
    public void Limits()
    {
        if (settings.ContactLimits().Count > 0)
            Wait(limited, 0, StillToGo);
    }

    /// <summary>Drops of which pieces can still be produced.</summary>
    IEnumerable<DropRow> StillToGo()
    {
        var tallies = drops.Tallies();
        return drops
            .Drops()
            .Where(d =>
                tallies.GetValueOrDefault(d.Id) is { } t
                && (t[Tray.Ready] + t[Tray.NeedsReview] > 0 || t[Tray.Held] > 0 && t[Tray.Mailed] + t[Tray.Returned] == 0)
            );
    }

    /// <summary>Collects who is due in campaigns, as soon as may be.</summary>
    public void Collect()
    {
        jobs.AddOnce(JobNames.Collect, 0, "Collecting who is due", Actor.Rule(time.GetUtcNow()));
        bells.Ring(JobNames.Collect);
    }

    /// <summary>Checks all drops that a design is used in, once it has rested for a moment.</summary>
    public void Design(long designId) =>
        Wait(designs, designId, () => drops.Drops().Where(d => d.Package.Any(p => p.DesignId == designId)));

    void Wait(ConcurrentDictionary<long, ITimer> timers, long id, Func<IEnumerable<DropRow>> meant) =>
        timers.GetOrAdd(id, _ => Timer(() => Rested(meant))).Change(Pause, Timeout.InfiniteTimeSpan);

    /// <summary>A timer of its own: it must not read through the view of the request in which it was made.</summary>
    ITimer Timer(Action run)
    {
        using (ExecutionContext.IsFlowSuppressed() ? default(IDisposable) : ExecutionContext.SuppressFlow())
            return time.CreateTimer(_ => run(), null, Timeout.InfiniteTimeSpan, Timeout.InfiniteTimeSpan);
    }

    void Rested(Func<IEnumerable<DropRow>> meant)
    {
        if (stopped)
            return;
        try
        {
            foreach (var drop in meant())
                Freshness(drop.Id);
            if (collection.IsWorkToDo())
                Collect();
        }
        catch (Exception e)
        {
            // On a timer's thread an exception would end the process. The bench asks for the check again when it is opened.
            log.LogError(e, "Asking for a check failed");
        }
    }

    /// <summary>Asks for nothing more, and returns only after what a timer has begun: the database is closed next. What was still to be
    /// asked for is, when the server starts again.</summary>
    public void Stop() => DisposeAsync().AsTask().GetAwaiter().GetResult();

    /// <inheritdoc cref="Stop"/>
    public async ValueTask DisposeAsync()
    {
        stopped = true;
        foreach (var timer in designs.Values.Concat(lists.Values).Concat(campaigns.Values).Concat(limited.Values))
            await timer.DisposeAsync();
    }

    /// <summary>Checks all drops where they depend on what has changed.</summary>
    public void All()
    {
        foreach (var drop in drops.Drops())
            Freshness(drop.Id);
    }
}
