using Bandeja.Server.Events;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>Computes a list's computed columns.</summary>
public sealed class ComputeJob(ListEditor editor, EventHub hub, TimeProvider time) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "compute";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        editor.Recompute(job.SubjectId, new("Bandeja", time.GetUtcNow()), (done, total) => progress(done, total), cancel);
        hub.List(job.SubjectId);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message) { }
}
