using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Jobs;

/// <summary>Looks for recipients that may be the same, and for households.</summary>
public sealed class DuplicateJob(DuplicateStore duplicates, Announcements announcements) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Duplicates;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        duplicates.FindAll(job.SubjectId, (done, total) => progress(done, total), cancel);
        announcements.Changed(Matter.List, job.SubjectId);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
