using Bandeja.Server.Events;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>Makes all checks on a list.</summary>
public sealed class ListCheckJob(DoubtStore doubts, EventHub hub) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "listcheck";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        // What asked for this check may have been answered by the one before it.
        if (!doubts.IsStale(job.SubjectId))
            return null;
        doubts.CheckAll(job.SubjectId, (done, total) => progress(done, total), cancel);
        hub.List(job.SubjectId);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message) { }
}
