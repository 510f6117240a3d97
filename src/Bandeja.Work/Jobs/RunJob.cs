using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Production;

namespace Bandeja.Work.Jobs;

/// <summary>
/// Makes a run's files. They get their names only when all are whole and on the disk, and only then are the pieces recorded as produced,
/// all in one transaction. Killed at any instant, the run begins anew from what was frozen, and makes the same.
/// </summary>
public sealed class RunJob(RunStore runs, RunLife life, RunFiles files, Announcements announcements, TimeProvider time) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Run;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var run = runs.Get(job.SubjectId);
        if (!run.State.IsUnderWay())
            return null;
        life.Start(run.Id);
        announcements.Changed(Matter.Drop, run.DropId);
        var (at, done) = (time.GetTimestamp(), 0);
        try
        {
            var made = files.Make(
                run,
                progress,
                () =>
                {
                    done++;
                    if ((done & 63) != 0)
                        return;
                    cancel.ThrowIfCancellationRequested();
                    // Whoever pauses it says so in the database: that holds also for a run that another process took up.
                    if (time.GetElapsedTime(at) < TimeSpan.FromMilliseconds(200))
                        return;
                    at = time.GetTimestamp();
                    if (!runs.IsWorkOf(run.Id, job.Id))
                        throw new PausedException();
                }
            );
            cancel.ThrowIfCancellationRequested();
            if (!life.Complete(run.Id, made, Actor.Person(run.CreatedBy, time.GetUtcNow())))
            {
                files.Discard(run.Id);
                return "Paused";
            }
        }
        catch (PausedException)
        {
            files.Discard(run.Id);
            announcements.Changed(Matter.Drop, run.DropId);
            return "Paused";
        }
        announcements.Changed(Matter.Drop, run.DropId);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message)
    {
        var run = runs.Get(job.SubjectId);
        if (life.Stop(run.Id, state, message, Actor.Person(job.CreatedBy, time.GetUtcNow())))
            files.Discard(run.Id);
        announcements.Changed(Matter.Drop, run.DropId);
    }

    /// <inheritdoc/>
    public void Waits(JobRow job, string why)
    {
        var run = runs.Get(job.SubjectId);
        files.Discard(run.Id);
        life.Say(run.Id, why);
        announcements.Changed(Matter.Drop, run.DropId);
    }

    /// <summary>What was frozen is not lost: the run waits until somebody lets it go on.</summary>
    public void Crashed(JobRow job, string message)
    {
        var run = runs.Get(job.SubjectId);
        life.PauseIfMade(run.Id, null, message, Actor.Rule(time.GetUtcNow()));
        announcements.Changed(Matter.Drop, run.DropId);
    }

    sealed class PausedException : Exception;
}
