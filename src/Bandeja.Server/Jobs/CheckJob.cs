using Bandeja.Server.Composition;
using Bandeja.Server.Events;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>Checks all recipients of a drop after its letter, or what the letter depends on, has changed.</summary>
public sealed class CheckJob(DropChecker checker, ListEditor editor, DropStore drops, EventHub hub, TimeProvider time) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "check";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        // What asked for this check may have been answered by the one before it.
        if (checker.Freshness(job.SubjectId).Fresh)
            return null;
        try
        {
            editor.LookAtHouseholds(drops.Drop(job.SubjectId).ListId, new("Bandeja", time.GetUtcNow()));
            checker.CheckAll(job.SubjectId, new("Bandeja", time.GetUtcNow()), (done, total) => progress(done, total), cancel);
        }
        // A full disk passes; everything else would fail again in the same way, at every request.
        catch (Exception e) when (e is not (OperationCanceledException or IOException))
        {
            checker.Failed(job.SubjectId, e.Message);
            throw;
        }
        finally
        {
            hub.Tell("drop", new { Id = job.SubjectId });
        }
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message) { }
}
