using System.Collections.Concurrent;
using Bandeja.Server.Composition;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>Checks all recipients of a drop after its letter, or what the letter depends on, has changed.</summary>
public sealed class CheckJob(DropChecker checker, EventHub hub, TimeProvider time) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "check";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        checker.CheckAll(job.SubjectId, new("Bandeja", time.GetUtcNow()), (done, total) => progress(done, total), cancel);
        hub.Tell("drop", new { Id = job.SubjectId });
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message) { }
}

/// <summary>Asks for checks; while somebody is typing, only once they pause.</summary>
public sealed class CheckRequests(DropChecker checker, JobStore jobs, JobBells bells, DropStore drops, TimeProvider time, ILogger<CheckRequests> log) : IDisposable
{
    static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(800);
    readonly ConcurrentDictionary<long, ITimer> waiting = [];

    /// <summary>Checks a drop as soon as may be.</summary>
    public void Drop(long dropId)
    {
        jobs.AddOnce(CheckJob.Name, dropId, "Checking the pieces", new("Bandeja", time.GetUtcNow()));
        bells.Ring(CheckJob.Name);
    }

    /// <summary>Whether a drop's pieces are not checked as things are now; then that is asked for.</summary>
    public bool IsNeeded(long dropId)
    {
        if (!checker.IsStale(dropId)) return false;
        Drop(dropId);
        return true;
    }

    /// <summary>Checks all drops that a design is used in, once it has rested for a moment.</summary>
    public void Design(long designId)
    {
        var timer = waiting.GetOrAdd(designId, id => time.CreateTimer(_ => Rested(id), null, Timeout.InfiniteTimeSpan, Timeout.InfiniteTimeSpan));
        timer.Change(Pause, Timeout.InfiniteTimeSpan);
    }

    void Rested(long designId)
    {
        try
        {
            foreach (var drop in drops.Drops().Where(d => d.Package.Any(p => p.DesignId == designId))) Drop(drop.Id);
        }
        catch (Exception e)
        {
            // On a timer's thread an exception would end the process. The bench asks for the check again when it is opened.
            log.LogError(e, "Asking for the check of design {Design} failed", designId);
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        foreach (var timer in waiting.Values) timer.Dispose();
    }

    /// <summary>Checks all drops.</summary>
    public void All()
    {
        foreach (var drop in drops.Drops()) Drop(drop.Id);
    }
}
