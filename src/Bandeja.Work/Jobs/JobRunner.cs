using System.Collections.Concurrent;
using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Jobs;

/// <summary>One kind of long work.</summary>
public interface IJobKind
{
    /// <summary>The kind's name in the queue.</summary>
    string Kind { get; }

    /// <summary>Does the work. What it throws ends the job as failed, with the message for the user.</summary>
    /// <returns>A sentence on what came of it, or null.</returns>
    string? Work(JobRow job, JobProgress progress, CancellationToken cancel);

    /// <summary>How many pieces of this work go on side by side.</summary>
    int AtOnce => 1;

    /// <summary>Makes room where the disk or the database keeps work from going on; it begins again later.</summary>
    void Waits(JobRow job, string why) { }

    /// <summary>Cleans up after work during which the server ended twice; it has been ended as failed.</summary>
    void Crashed(JobRow job, string message) => Abandon(job, RunState.Failed, message);

    /// <summary>Cleans up after work that was canceled or failed; must work also for a job that never started.</summary>
    void Abandon(JobRow job, RunState state, string? message);
}

/// <summary>Says that work goes on at a later moment; until then it is in the queue and keeps nobody waiting.</summary>
public sealed class LaterException(DateTimeOffset until) : Exception
{
    /// <summary>When it goes on.</summary>
    public DateTimeOffset Until => until;
}

/// <summary>
/// Takes work from the durable queue, a loop or more for each kind, so that a long import keeps no run waiting. What was running when
/// the process ended is taken up again from its beginning: each kind makes its work visible only when it is whole.
/// </summary>
public sealed class JobRunner(
    JobStore jobs,
    IEnumerable<IJobKind> kinds,
    JobBells bells,
    EventHub hub,
    TimeProvider time,
    ILogger<JobRunner> log
) : BackgroundService
{
    readonly ConcurrentDictionary<long, CancellationTokenSource> running = [];

    /// <summary>When the loops of a kind last looked for work; null while one of them does some.</summary>
    readonly ConcurrentDictionary<string, long?> looked = [];

    /// <summary>The kinds of work that nobody has looked for in a while, and that is not being done either.</summary>
    public IReadOnlyList<string> Stuck() =>
        [
            .. kinds
                .Where(k => looked.TryGetValue(k.Kind, out var at) && at is { } last && time.GetElapsedTime(last) > TimeSpan.FromMinutes(1))
                .Select(k => k.Kind),
        ];

    /// <inheritdoc cref="JobBells.Ring"/>
    public void Ring(string kind) => bells.Ring(kind);

    /// <summary>Cancels work that is queued or running.</summary>
    /// <exception cref="ConflictException">It has ended already.</exception>
    public void Cancel(long jobId, Actor actor)
    {
        var job = jobs.Get(jobId);
        if (running.TryGetValue(jobId, out var source))
            source.Cancel();
        else if (jobs.End(jobId, RunState.Cancelled, null, actor))
            Kind(job.Kind).Abandon(job, RunState.Cancelled, null);
        else
            throw new ConflictException("This job has already ended.");
        Tell(jobId);
    }

    IJobKind Kind(string kind) => kinds.First(k => k.Kind == kind);

    void Tell(long jobId) => hub.Tell("job", jobs.Get(jobId));

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stop)
    {
        foreach (var job in jobs.TakeUpAgain(Now()))
        {
            log.LogError(
                "Job {Job} ({Kind}) was running when the server ended, the second time; it is not started again",
                job.Id,
                job.Kind
            );
            Kind(job.Kind).Crashed(job, JobStore.Crashed);
        }
        return Task.WhenAll(
            kinds
                .SelectMany(kind => Enumerable.Repeat(kind, kind.AtOnce))
                .Select(kind => Task.Run(() => Loop(kind, stop), CancellationToken.None))
        );
    }

    async Task Loop(IJobKind kind, CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                looked[kind.Kind] = time.GetTimestamp();
                if (jobs.Next(kind.Kind, Now()) is { } job)
                {
                    looked[kind.Kind] = null;
                    Do(kind, job, stop);
                }
                else
                    await bells.Of(kind.Kind).WaitAsync(kind.AtOnce > 1 ? TimeSpan.FromSeconds(1) : TimeSpan.FromSeconds(5), stop);
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                // The database could not be asked (a full disk, say): the work stays in the queue, and is tried again.
                log.LogError(e, "The queue of {Kind} could not go on", kind.Kind);
                await Task.Delay(TimeSpan.FromSeconds(2), CancellationToken.None);
            }
        }
    }

    void Do(IJobKind kind, JobRow job, CancellationToken stop)
    {
        using var source = CancellationTokenSource.CreateLinkedTokenSource(stop);
        running[job.Id] = source;
        var last = time.GetTimestamp();
        var later = false;
        try
        {
            if (!jobs.Start(job.Id))
                return;
            Tell(job.Id);
            var message = kind.Work(
                job,
                (done, total) =>
                {
                    if (time.GetElapsedTime(last) < TimeSpan.FromMilliseconds(250))
                        return;
                    last = time.GetTimestamp();
                    jobs.Progress(job.Id, done, total);
                    Tell(job.Id);
                },
                source.Token
            );
            jobs.End(job.Id, RunState.Done, message, Now());
        }
        catch (LaterException e)
        {
            jobs.Wait(job.Id, e.Until, null);
            later = true;
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            jobs.Leave(job.Id); // the server is closing; after the next start the work is taken up again
            return;
        }
        catch (OperationCanceledException)
        {
            End(kind, job, RunState.Cancelled, null);
        }
        catch (Exception e) when (StorageTrouble.Is(e))
        {
            log.LogWarning("Job {Job} ({Kind}) waits: {Reason}", job.Id, job.Kind, e.Message);
            PutOff(kind, job, StorageTrouble.Waiting(e), stop);
            later = true;
        }
        catch (Exception e)
        {
            if (
                e
                is not (
                    Formats.Lists.ListFileException
                    or ConflictException
                    or NotFoundException
                    or Core.Composition.LetterFormatException
                    or Core.Formulas.ComputedColumnException
                )
            )
                log.LogError(e, "Job {Job} ({Kind}) failed", job.Id, job.Kind);
            End(kind, job, RunState.Failed, e.Message);
        }
        finally
        {
            running.TryRemove(job.Id, out _);
            // Somebody canceled while the work was on its way back into the queue: that must not be lost. From here on a cancellation finds
            // it there.
            if (
                later
                && source.IsCancellationRequested
                && !stop.IsCancellationRequested
                && jobs.End(job.Id, RunState.Cancelled, null, Now())
            )
                End(kind, job, RunState.Cancelled, null);
            if (!stop.IsCancellationRequested)
                Tell(job.Id);
        }
    }

    /// <summary>Puts work back into the queue that the disk or the database keeps from going on. That, too, is written to the database: it
    /// is tried until it succeeds, or the server ends.</summary>
    void PutOff(IJobKind kind, JobRow job, string why, CancellationToken stop)
    {
        try
        {
            kind.Waits(job, why);
        }
        catch (Exception e)
        {
            log.LogWarning(e, "Job {Job} ({Kind}) could not make room or say what it waits for", job.Id, job.Kind);
        }
        for (; !stop.IsCancellationRequested; stop.WaitHandle.WaitOne(Pause))
            try
            {
                jobs.Wait(job.Id, time.GetUtcNow() + Pause, why);
                return;
            }
            catch (Exception e) when (StorageTrouble.Is(e))
            {
                log.LogWarning("Job {Job} ({Kind}) still waits: {Reason}", job.Id, job.Kind, e.Message);
            }
    }

    /// <summary>How long work waits for the disk or the database before it is tried again.</summary>
    static readonly TimeSpan Pause = TimeSpan.FromSeconds(3);

    void End(IJobKind kind, JobRow job, RunState state, string? message)
    {
        try
        {
            kind.Abandon(job, state, message);
        }
        catch (Exception e)
        {
            log.LogError(e, "Cleaning up after job {Job} failed", job.Id);
        }
        jobs.End(job.Id, state, message, Now());
    }

    Actor Now() => Actor.Rule(time.GetUtcNow());
}
