using Bandeja.Server.Events;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>Looks for recipients that may be the same, and for households.</summary>
public sealed class TwinJob(TwinStore twins, EventHub hub) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "twins";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        twins.FindAll(job.SubjectId, (done, total) => progress(done, total), cancel);
        hub.List(job.SubjectId);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message) { }
}
