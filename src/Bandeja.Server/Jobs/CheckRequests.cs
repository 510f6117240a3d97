using System.Collections.Concurrent;
using Bandeja.Server.Composition;
using Bandeja.Server.Events;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>Asks for checks; while somebody is typing, only once they pause.</summary>
public sealed class CheckRequests : IDisposable
{
    readonly DropChecker checker;
    readonly JobStore jobs;
    readonly JobBells bells;
    readonly DropStore drops;
    readonly EventHub hub;
    readonly TimeProvider time;
    readonly ILogger<CheckRequests> log;

    /// <summary>Begins to listen: whatever changes about a list is compared with what its drops depend on.</summary>
    public CheckRequests(
        DropChecker checker,
        JobStore jobs,
        JobBells bells,
        DropStore drops,
        EventHub hub,
        TimeProvider time,
        ILogger<CheckRequests> log
    )
    {
        (this.checker, this.jobs, this.bells, this.drops, this.hub, this.time, this.log) = (checker, jobs, bells, drops, hub, time, log);
        hub.ListChanged += List;
    }

    static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(800);
    readonly ConcurrentDictionary<long, ITimer> designs = [],
        lists = [];

    /// <summary>Checks a drop as soon as possible.</summary>
    public void Drop(long dropId)
    {
        jobs.AddOnce(CheckJob.Name, dropId, "Checking the pieces", new("Bandeja", time.GetUtcNow()));
        bells.Ring(CheckJob.Name);
    }

    /// <summary>Whether a drop's findings are up to date; where they are not, and can be, a check is asked for.</summary>
    public DropFreshness Freshness(long dropId)
    {
        var now = checker.Freshness(dropId);
        if (!now.Fresh && now.Error is null)
            Drop(dropId);
        return now;
    }

    /// <summary>Checks a drop that could not be checked once more.</summary>
    public void TryAgain(long dropId)
    {
        checker.TryAgain(dropId);
        Freshness(dropId);
    }

    /// <summary>Checks the drops of a list where they depend on what has changed, once that has rested for a moment.</summary>
    void List(long listId) => Wait(lists, listId, () => drops.Drops().Where(d => d.ListId == listId));

    /// <summary>Checks all drops that a design is used in, once it has rested for a moment.</summary>
    public void Design(long designId) =>
        Wait(designs, designId, () => drops.Drops().Where(d => d.Package.Any(p => p.DesignId == designId)));

    void Wait(ConcurrentDictionary<long, ITimer> timers, long id, Func<IEnumerable<DropRow>> meant) =>
        timers
            .GetOrAdd(id, _ => time.CreateTimer(_ => Rested(meant), null, Timeout.InfiniteTimeSpan, Timeout.InfiniteTimeSpan))
            .Change(Pause, Timeout.InfiniteTimeSpan);

    void Rested(Func<IEnumerable<DropRow>> meant)
    {
        try
        {
            foreach (var drop in meant())
                Freshness(drop.Id);
        }
        catch (Exception e)
        {
            // On a timer's thread an exception would end the process. The bench asks for the check again when it is opened.
            log.LogError(e, "Asking for a check failed");
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        hub.ListChanged -= List;
        foreach (var timer in designs.Values.Concat(lists.Values))
            timer.Dispose();
    }

    /// <summary>Checks all drops where they depend on what has changed.</summary>
    public void All()
    {
        foreach (var drop in drops.Drops())
            Freshness(drop.Id);
    }
}
