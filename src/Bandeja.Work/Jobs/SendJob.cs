using System.Globalization;
using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Mail;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Mail;

namespace Bandeja.Work.Jobs;

/// <summary>
/// Sends a run's messages. One thread makes them in the run's order; as many as the account has connections hand them over. What is
/// about to be tried is written down before, and what the server answered after: killed at any instant, nothing that was taken is sent
/// again, what was not begun is sent, and what lay between is in doubt.
/// </summary>
public sealed class SendJob(
    RunStore runs,
    RunLife life,
    RunMails mails,
    MailAccounts accounts,
    MailRoom room,
    Announcements announcements,
    TimeProvider time
) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Send;

    /// <summary>Accounts do not wait for each other.</summary>
    public int AtOnce => 4;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var run = runs.Get(job.SubjectId);
        if (!run.State.IsUnderWay())
            return null;
        if (run.State == RunState.Running)
            mails.TakeUpAgain(run, time.GetUtcNow());
        life.Start(run.Id);
        Tell(run);
        var account = accounts.Get(run.AccountId ?? throw new ConflictException("This run has no account to send with."));
        var sending = new Sending(room, run, account, job, progress, () => Tell(run), cancel);
        sending.Go();
        Tell(run);
        var state = mails.Close(run, By(run));
        Tell(run);
        if (state != RunState.Running)
            return state == RunState.Done ? null : "Paused";
        // What was put off comes later; until then nobody need wait for it.
        var next = mails.Counts(run.Id).NextAt;
        var until = next is null ? time.GetUtcNow().AddSeconds(1) : DateTimeOffset.Parse(next, CultureInfo.InvariantCulture);
        if (sending.Until is { } limited && (next is null || limited < until))
            until = limited;
        life.Say(run.Id, sending.Waits ?? $"Deferred messages will be retried at {sending.Clock(until)}.");
        Tell(run);
        throw new LaterException(until);
    }

    Actor By(RunRow run) => Actor.Person(run.CreatedBy, time.GetUtcNow());

    void Tell(RunRow run) => announcements.Changed(Matter.Drop, run.DropId);

    /// <summary>What is done stays done: the run waits until somebody lets it go on.</summary>
    public void Crashed(JobRow job, string message)
    {
        var run = runs.Get(job.SubjectId);
        life.PauseIfMade(run.Id, null, message, Actor.Rule(time.GetUtcNow()));
        Tell(run);
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message)
    {
        var run = runs.Get(job.SubjectId);
        // No server was asked about what is still marked as being handed over, if its thread has ended: it stands in doubt until somebody
        // looks.
        mails.TakeUpAgain(run, time.GetUtcNow());
        life.Stop(run.Id, state, message, Actor.Person(job.CreatedBy, time.GetUtcNow()));
        Tell(run);
    }
}
