using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>Asks for the long work that follows from changes of a list: checking it, computing columns, looking for duplicates.</summary>
public sealed class ListWork(JobStore jobs, JobBells bells, TimeProvider time)
{
    /// <summary>Checks a list as soon as may be.</summary>
    public void Check(long listId) => Ask(ListCheckJob.Name, listId, "Checking the list");

    /// <summary>Computes all computed columns of a list.</summary>
    public void Compute(long listId) => Ask(ComputeJob.Name, listId, "Computing columns");

    /// <summary>Looks for duplicates and households.</summary>
    public void FindTwins(long listId) => Ask(TwinJob.Name, listId, "Looking for duplicates");

    void Ask(string kind, long listId, string label)
    {
        jobs.AddOnce(kind, listId, label, new("Bandeja", time.GetUtcNow()));
        bells.Ring(kind);
    }
}

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
        if (!doubts.IsStale(job.SubjectId)) return null;
        doubts.CheckAll(job.SubjectId, (done, total) => progress(done, total), cancel);
        hub.List(job.SubjectId);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message) { }
}

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
