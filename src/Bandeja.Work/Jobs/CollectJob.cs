using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Jobs;

/// <summary>Lets recipients into campaigns that they go through one by one, and collects who is due into drops.</summary>
public sealed class CollectJob(DailyCollection collection, Announcements announcements, CheckRequests checks, TimeProvider time) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Collect;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var (drops, wrong) = collection.Run(Actor.Rule(time.GetUtcNow()), cancel);
        foreach (var drop in drops)
        {
            announcements.Changed(Matter.Drop, drop);
            checks.Drop(drop);
        }
        announcements.Changed(Matter.Campaign);
        return wrong.Count == 0 ? null : string.Join(' ', wrong);
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
