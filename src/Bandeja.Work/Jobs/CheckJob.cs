using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Jobs;

/// <summary>Checks all recipients of a drop after its letter, or what the letter depends on, has changed.</summary>
public sealed class CheckJob(DropChecker checker, ListEditor editor, DropStore drops, Announcements announcements, TimeProvider time)
    : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Check;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        // What asked for this check may have been answered by the one before it.
        if (checker.Freshness(job.SubjectId).Fresh)
            return null;
        try
        {
            editor.LookAtHouseholds(drops.Drop(job.SubjectId).ListId, Actor.Rule(time.GetUtcNow()));
            checker.CheckAll(job.SubjectId, Actor.Rule(time.GetUtcNow()), (done, total) => progress(done, total), cancel);
        }
        // A full disk passes; everything else would fail again in the same way, at every request.
        catch (Exception e) when (e is not (OperationCanceledException or IOException))
        {
            checker.Failed(job.SubjectId, e.Message);
            throw;
        }
        finally
        {
            announcements.Changed(Matter.Drop, job.SubjectId);
        }
        return null;
    }

    /// <summary>Until something changes, or somebody tries again, the drop says why its pieces are not checked.</summary>
    public void Crashed(JobRow job, string message)
    {
        checker.Failed(job.SubjectId, message);
        announcements.Changed(Matter.Drop, job.SubjectId);
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
