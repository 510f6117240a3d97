using System.Collections.Concurrent;
using Bandeja.Core.Language;
using Bandeja.Core.Mail;
using Bandeja.Store;
using Bandeja.Store.Mail;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Mail;

/// <summary>What sending needs.</summary>
public sealed record MailRoom(
    Database Database,
    RunStore Runs,
    RunLife Life,
    RunLog Log,
    RunMails Mails,
    Letters Letters,
    Messages Messages,
    RunSecrets RunSecrets,
    MailSecrets Secrets,
    AccountPaces Paces,
    PostOffice PostOffice,
    PublicAddress Address,
    MailHosts Hosts,
    BounceMailboxes Mailboxes,
    SettingStore Settings,
    TimeProvider Time
);

/// <summary>One stretch of sending: until nothing is due, the run is paused, or the account's limit is reached for a while.</summary>
public sealed class Sending(
    MailRoom own,
    RunRow run,
    MailAccountRow account,
    JobRow job,
    JobProgress progress,
    Action tell,
    CancellationToken cancel
)
{
    const int Ahead = 64,
        AtOnce = 5000,
        MostRefusals = 10;
    static readonly TimeSpan Glance = TimeSpan.FromMilliseconds(200);
    readonly SendPace pace = own.Paces.Of(account);

    // Asked once: thousands of messages may be put off.
    readonly DayWords days = own.Settings.Organization().ToLocale().Days;
    readonly BounceMailboxRow? mailbox = own.Mailboxes.Of(account.Id);
    readonly RetrySchedule schedule = new(TimeSpan.FromSeconds(Math.Max(1, account.FirstWait)));
    long finished;
    int losses,
        mostLosses,
        refusals,
        outstanding;
    volatile bool stop;
    volatile Exception? broken;
    long seen,
        told;

    /// <summary>A time of day as the organization's people read it.</summary>
    public string Clock(DateTimeOffset at) => days.Clock(own.Time.LocalTimeZone.ToLocal(at));

    string DayAndClock(DateTimeOffset at) =>
        $"{days.Short(DateOnly.FromDateTime(own.Time.LocalTimeZone.ToLocal(at).DateTime))}, {Clock(at)}";

    /// <summary>When the account may send again, where its limit keeps it waiting.</summary>
    public DateTimeOffset? Until { get; private set; }

    /// <summary>Why the run waits, where that is not because of what was put off.</summary>
    public string? Waits { get; private set; }

    Actor By => Actor.Person(run.CreatedBy, own.Time.GetUtcNow());
    DateOnly Day => DateOnly.FromDateTime(own.Time.GetLocalNow().DateTime);

    /// <summary>Sends.</summary>
    public void Go()
    {
        var counts = own.Mails.Counts(run.Id);
        finished = run.Pieces - counts.Waiting - counts.Later - counts.Handing;
        progress(finished, run.Pieces);
        using var c = own.Database.Follow(); // what a run froze does not change
        var frozen = new FrozenMail(new FrozenRun(c, own.Letters, run), own.Messages, own.RunSecrets.Open(run.Secret), own.Address);
        using var ready = new BlockingCollection<(ReadyMail Mail, DueMail Due)>(Ahead);
        var connections = (int)Math.Clamp(account.Connections, 1, Math.Max(1, Math.Min(20, counts.Waiting + counts.Later)));
        // A server that lets nobody in is asked a few times and then left alone, until somebody has looked.
        mostLosses = (int)Math.Clamp(counts.Waiting + counts.Later, 1, 5);
        var password = own.Secrets.Open(account);
        var senders = Enumerable
            .Range(0, connections)
            .Select(_ =>
                Task.Factory.StartNew(
                    () => Hand(ready, password),
                    CancellationToken.None,
                    TaskCreationOptions.LongRunning,
                    TaskScheduler.Default
                )
            )
            .ToArray();
        try
        {
            while (!Stopped() && own.Mails.Due(run.Id, own.Time.GetUtcNow(), AtOnce) is { Count: > 0 } due)
                Make(frozen, due, ready);
        }
        finally
        {
            ready.CompleteAdding();
            Task.WaitAll(senders, CancellationToken.None);
        }
        cancel.ThrowIfCancellationRequested();
        if (broken is { } why)
            PauseFor(why);
    }

    /// <summary>
    /// Pauses the run because of something on this server. What was being handed over is in doubt. That is written as soon as it can be: on
    /// a
    /// full disk not at once, and until then the run is neither sent on nor lost.
    /// </summary>
    void PauseFor(Exception why)
    {
        var words = StorageTrouble.IsFull(why) ? "The disk is full." : why.Message.Trim().TrimEnd('.') + ".";
        while (true)
        {
            try
            {
                own.Mails.TakeUpAgain(run, own.Time.GetUtcNow(), "sending stopped because of a problem on this server");
                own.Life.PauseIfMade(
                    run.Id,
                    job.Id,
                    $"Sending stopped because of a problem on this server: {words} Fix it, then resume the run.",
                    By
                );
                return;
            }
            catch (Exception e) when (e is Microsoft.Data.Sqlite.SqliteException or IOException)
            {
                if (cancel.WaitHandle.WaitOne(TimeSpan.FromSeconds(1)))
                    cancel.ThrowIfCancellationRequested();
            }
        }
    }

    /// <summary>Makes the messages that are due; those that wait for their turn in the queue are not asked for twice.</summary>
    void Make(FrozenMail frozen, IReadOnlyList<DueMail> due, BlockingCollection<(ReadyMail, DueMail)> ready)
    {
        var byPosition = due.ToDictionary(d => (int)d.Position);
        foreach (var (from, to) in Stretches([.. byPosition.Keys.Order()]))
        {
            foreach (var piece in own.Runs.Pieces(run, frozen.Run.Drop.ListId, frozen.Run.Setting.Columns, from, to))
            {
                if (Stopped())
                    return;
                var mail = byPosition[piece.Position];
                var made = frozen.Make(piece, mail, mail.Date ?? own.Time.GetLocalNow());
                Interlocked.Increment(ref outstanding);
                while (!ready.TryAdd((made, mail), 100))
                    if (Stopped())
                        return;
            }
        }
        // The next look at what is due must not find what is still in somebody's hands.
        while (Volatile.Read(ref outstanding) > 0 && !stop)
            Thread.Sleep(1);
    }

    /// <summary>Positions as stretches of neighbors, which are read at once.</summary>
    static IEnumerable<(int From, int To)> Stretches(IReadOnlyList<int> positions)
    {
        for (var i = 0; i < positions.Count; )
        {
            var j = i;
            while (j + 1 < positions.Count && positions[j + 1] == positions[j] + 1)
                j++;
            yield return (positions[i], positions[j]);
            i = j + 1;
        }
    }

    bool Stopped()
    {
        if (stop || cancel.IsCancellationRequested)
            return true;
        // Whoever pauses it says so in the database; it is asked now and then.
        var last = Interlocked.Read(ref seen);
        if (own.Time.GetElapsedTime(last) < Glance || Interlocked.CompareExchange(ref seen, own.Time.GetTimestamp(), last) != last)
            return stop;
        return stop = !own.Runs.IsWorkOf(run.Id, job.Id);
    }

    void Hand(BlockingCollection<(ReadyMail Mail, DueMail Due)> ready, string? password)
    {
        using var link = new MailLink(account, password, own.PostOffice.Port, own.Address.Greeting, own.Hosts);
        // What the server has just taken is recorded together with the next attempt, where there is one at once: one transaction instead of
        // two.
        TakenMail? taken = null;
        void Record()
        {
            if (taken is not null)
                own.Mails.Sent(run, taken);
            taken = null;
        }
        try
        {
            while (true)
            {
                if (!ready.TryTake(out var next))
                {
                    Record();
                    if (!ready.TryTake(out next, Timeout.Infinite))
                        return;
                }
                try
                {
                    if (account.PerMinute > 0 || account.PerDay > 0)
                        Record(); // the next may have to wait
                    if (Stopped() || !Paced())
                        continue; // it stays as it is, not begun
                    One(link, next.Mail, next.Due, ref taken);
                    progress(Interlocked.Increment(ref finished), run.Pieces);
                    var last = Interlocked.Read(ref told);
                    if (
                        own.Time.GetElapsedTime(last) > TimeSpan.FromMilliseconds(800)
                        && Interlocked.CompareExchange(ref told, own.Time.GetTimestamp(), last) == last
                    )
                        tell();
                }
                finally
                {
                    Interlocked.Decrement(ref outstanding);
                }
            }
        }
        catch (Exception e)
        {
            // One that cannot write down what it does must not go on, and neither may the others.
            broken ??= e;
            stop = true;
        }
        finally
        {
            try
            {
                Record();
            }
            catch (Exception e)
            {
                broken ??= e;
            } // it stays as being handed over, and so is in doubt
        }
    }

    /// <summary>Waits for the account's turn; false where it is so far off that the run waits in the queue instead.</summary>
    bool Paced()
    {
        while (true)
        {
            var wait = pace.Take(own.Time.GetUtcNow());
            if (wait == TimeSpan.Zero)
                return true;
            if (wait > TimeSpan.FromSeconds(20))
            {
                Until = own.Time.GetUtcNow() + wait;
                var daily = account.PerDay > 0 && wait > TimeSpan.FromMinutes(1);
                Waits =
                    "The account’s sending limit was reached "
                    + $"({(daily ? $"{account.PerDay:N0} a day" : $"{account.PerMinute:N0} a minute")}). "
                    + $"Sending resumes at {DayAndClock(Until.Value)}.";
                stop = true;
                return false;
            }
            if (cancel.WaitHandle.WaitOne(wait < Glance ? wait : Glance) || Stopped())
                return false;
        }
    }

    void One(MailLink link, ReadyMail ready, DueMail due, ref TakenMail? taken)
    {
        var id = ready.Piece.RecipientId;
        var before = taken;
        taken = null;
        if (own.Mails.Handing(run, id, ready.Mail.To?.Address ?? "", own.Time.GetUtcNow(), before, ready.Message?.Date) is not null)
            return;
        if (ready.Message is not { } message)
        {
            // No server was asked: it is no refusal.
            own.Mails.NotSent(run, id, ready.Problem!);
            return;
        }
        var result = link.Send(message, new(null, ReturnTo(ready, due)), Formats.Mail.MessageMaker.Envelope(ready.Mail));
        switch (result.Outcome)
        {
            case HandOver.Sent:
                (losses, refusals) = (0, 0);
                taken = new(id, result.Words, Day, By);
                Copies(link, ready);
                break;
            case HandOver.NotPossible:
                own.Mails.NotSent(run, id, result.Words);
                break;
            case HandOver.Refused:
                own.Mails.Refused(run, id, result.Address, result.Words, By);
                // So many in a row are not wrong addresses: the account is blocked, or the message taken for unwanted. Whoever sends on
                // makes it worse.
                if (Interlocked.Increment(ref refusals) == MostRefusals)
                    Stop(
                        $"The mail server rejected {MostRefusals} messages in a row, the last with: {result.Words} Check whether "
                            + "the account or the message is the cause, then resume the run."
                    );
                break;
            case HandOver.Doubt:
                own.Mails.Doubt(run, id, result.Words, By);
                own.Log.Add(run.Id, $"Piece {ready.Piece.PieceNumber:0000} is in doubt: {result.Words}", own.Time.GetUtcNow());
                break;
            case HandOver.Later when schedule.After((int)due.Attempts + 1, own.Time.GetUtcNow()) is { } next:
                own.Mails.Later(run.Id, id, result.Words, next);
                own.Log.Add(
                    run.Id,
                    $"Piece {ready.Piece.PieceNumber:0000} was put off: {result.Words} It is tried again at {Clock(next)}.",
                    own.Time.GetUtcNow()
                );
                break;
            case HandOver.Later:
                own.Mails.Refused(run, id, ready.Mail.To?.Address, $"Deferred {schedule.Tries} times. Last reply: {result.Words}", By);
                break;
            default:
                own.Mails.NotBegun(run.Id, id, own.Time.GetUtcNow() + TimeSpan.FromSeconds(Math.Max(1, account.FirstWait)), result.Words);
                if (Interlocked.Increment(ref losses) < mostLosses)
                    break;
                Stop($"The mail server cannot be used: {result.Words} Test and fix the account, then resume the run. Nothing is lost.");
                break;
        }
    }

    /// <summary>Where the message comes back to, if it cannot be delivered: the account's mailbox for bounces, else its sender.</summary>
    string ReturnTo(ReadyMail ready, DueMail due) =>
        mailbox?.ReturnAddress is not { } address ? ready.Mail.From!.Address
        : mailbox.OwnAddress ? ReturnPath.Of(address, due.MessageId)
        : address;

    /// <summary>Sends the copies of a message that the server has taken. What becomes of them stands in the run's history and changes
    /// nothing for the recipient.</summary>
    void Copies(MailLink link, ReadyMail ready)
    {
        if (ready.Copy is not { } copy)
            return;
        foreach (var to in Formats.Mail.MessageMaker.Copies(ready.Mail))
        {
            pace.Count([own.Time.GetUtcNow()]);
            var result = link.Send(copy, new(null, mailbox?.ReturnAddress ?? ready.Mail.From!.Address), [to]);
            if (result.Outcome != HandOver.Sent)
                own.Log.Add(
                    run.Id,
                    $"The copy of piece {ready.Piece.PieceNumber:0000} to {to.Address} was not delivered: {result.Words}",
                    own.Time.GetUtcNow()
                );
        }
    }

    void Stop(string why)
    {
        stop = true;
        own.Life.PauseIfMade(run.Id, job.Id, why, By);
    }
}
