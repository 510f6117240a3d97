using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Jobs;

/// <summary>Makes all checks on a list.</summary>
public sealed class ListCheckJob(CheckIssues issues, Announcements announcements) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.ListCheck;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        // What asked for this check may have been answered by the one before it.
        if (!issues.IsStale(job.SubjectId))
            return null;
        issues.CheckAll(job.SubjectId, (done, total) => progress(done, total), cancel);
        announcements.Changed(Matter.List, job.SubjectId);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
