using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Jobs;

/// <summary>Computes a list's computed columns.</summary>
public sealed class ComputeJob(ListEditor editor, Announcements announcements, TimeProvider time) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Compute;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        editor.Recompute(job.SubjectId, Actor.Rule(time.GetUtcNow()), (done, total) => progress(done, total), cancel);
        announcements.Changed(Matter.List, job.SubjectId);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
