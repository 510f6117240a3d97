using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Production;

namespace Bandeja.Work.Jobs;

/// <summary>Makes the files of a finished run again, from what was frozen with it; nothing is recorded of its pieces.</summary>
public sealed class RemakeJob(RunStore runs, RunLog log, RunFiles files, Announcements announcements, TimeProvider time) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Remake;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var run = runs.Get(job.SubjectId);
        var made = files.Make(run, progress, cancel.ThrowIfCancellationRequested);
        var same =
            made.Count == run.Files.Count && made.Zip(run.Files).All(f => f.Second.Sha256 is null || f.First.Sha256 == f.Second.Sha256);
        var text = same
            ? "The files were re-created and are identical."
            : "The files were re-created but are not identical, because a newer version of the program produced them, or detail "
                + "rows or pictures have changed.";
        runs.FilesGone(run.Id, text, false, Actor.Person(job.CreatedBy, time.GetUtcNow()));
        announcements.Changed(Matter.Drop, run.DropId);
        return text;
    }

    /// <inheritdoc/>
    public void Waits(JobRow job, string why) => files.DiscardParts(job.SubjectId);

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message)
    {
        files.DiscardParts(job.SubjectId);
        if (message is not null)
            log.Add(job.SubjectId, $"The files could not be re-created: {message}", time.GetUtcNow());
    }
}
