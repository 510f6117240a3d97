using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Mail;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Mail;
using Bandeja.Store.Runs;
using Dapper;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Store.Tests;

/// <summary>Messages of a run on their way, and what the ledger and the trays say of them.</summary>
public sealed class MailRunTests
{
    const string Email = """{"kind":"email","subject":[],"content":[]}""";
    static readonly DateOnly Day = new(2027, 3, 2);

    /// <summary>Ten people: three by email, three on paper, four both ways. The account waits for nothing.</summary>
    static World Mixed()
    {
        var w = new World(
            10,
            id =>
                (id % 3) switch
                {
                    0 => Channel.Email,
                    1 => Channel.Both,
                    _ => Channel.Paper,
                }
        );
        var email = new DesignStore(w.Database).Create("By email", w.List, Email, w.By(), PieceKind.Email);
        w.Drops.SetPackage(w.Drop, [w.Design, email]);
        w.Database.Write(c => w.Editor.Recheck(c, w.Drop, w.Ids(), w.By(), null));
        return w;
    }

    static RunRow Begin(World w, RunOutput output = RunOutput.Email, Func<PlanCandidate, bool>? chosen = null)
    {
        var run = w.Freezing.Begin(
            w.Drop,
            chosen ?? (_ => true),
            "Not chosen",
            "all Ready",
            null,
            Day,
            w.By(),
            new()
            {
                Output = output,
                AccountId = output == RunOutput.Email ? new MailAccounts(w.Database).All()[0].Id : null,
                MessageIdOf = _ => "example.org",
                Makes = [.. w.Drops.Drop(w.Drop).Package.Where(p => p.IsEmail == output.IsMail()).Select(p => p.DesignId)],
            }
        );
        w.Life.Start(run.Id);
        return w.Runs.Get(run.Id);
    }

    static RecipientState State(World w, long id)
    {
        using var c = w.Database.Open();
        return DropEvents.States(c, w.Drop, [id])[id];
    }

    [Fact]
    public void A_message_that_the_server_took_is_produced_and_mailed_and_the_paper_is_still_to_do()
    {
        using var w = Mixed();
        var run = Begin(w);
        Assert.Equal([1L, 3, 4, 6, 7, 9], w.Mails.Due(run.Id, w.Now, 100).Select(d => d.RecipientId));
        Assert.Null(w.Mails.Handing(run, 1, "one@example.org", w.Now));
        // What one has in hand nobody else can take, and it is not due.
        Assert.NotNull(w.Mails.Handing(run, 1, "one@example.org", w.Now));
        w.Mails.Sent(run, new(1, "250 OK", Day, w.By()));
        Assert.Equal((Tray.Ready, Day), (State(w, 1).Tray, State(w, 1).EmailedOn));
        Assert.Null(w.Mails.Handing(run, 3, "three@example.org", w.Now));
        w.Mails.Sent(run, new(3, "250 OK", Day, w.By()));
        Assert.Equal(Tray.Mailed, State(w, 3).Tray);
        w.MustAddUp();
        // While the messages are on their way the letters can be made: the two do not wait for each other.
        var letters = Begin(w, RunOutput.One);
        Assert.True(w.Life.Complete(letters.Id, [World.File(10, 5)], w.By()));
        w.Bench.MarkMailed(letters.Id, Day, null, w.By());
        Assert.Equal((Tray.Mailed, Tray.Ready), (State(w, 1).Tray, State(w, 4).Tray));
        w.MustAddUp();
        // Twice the same is nothing.
        w.Mails.Sent(run, new(1, "250 OK", Day.AddDays(1), w.By()));
        Assert.Equal(Day, State(w, 1).EmailedOn);
        var rows = w.Ledger.Rows(w.Drop).Where(r => r[4]!.Contains("Given1", StringComparison.Ordinal)).ToList();
        Assert.Equal(2, rows.Count);
    }

    [Fact]
    public void What_was_in_hand_when_the_server_stopped_is_in_doubt_until_somebody_looks()
    {
        using var w = Mixed();
        var run = Begin(w);
        foreach (var id in (long[])[1, 3, 4])
            Assert.Null(w.Mails.Handing(run, id, $"{id}@example.org", w.Now));
        w.Mails.Sent(run, new(4, "250 OK", Day, w.By()));
        Assert.Equal(2, w.Mails.TakeUpAgain(run, w.Now));
        Assert.Equal(0, w.Mails.TakeUpAgain(run, w.Now));
        Assert.Equal([6L, 7, 9], w.Mails.Due(run.Id, w.Now, 100).Select(d => d.RecipientId));
        w.Mails.Settle(run, 1, true, Day, w.By());
        w.Mails.Settle(run, 3, false, Day, w.By());
        Assert.Throws<ConflictException>(() => w.Mails.Settle(run, 3, true, Day, w.By()));
        Assert.Equal([3L, 6, 7, 9], w.Mails.Due(run.Id, w.Now, 100).Select(d => d.RecipientId));
        Assert.Equal(Day, State(w, 1).EmailedOn);
        Assert.Contains(
            w.Log.Of(run.Id),
            l => l.Text.Contains("2 messages were being sent when the server stopped", StringComparison.Ordinal)
        );
        // With one in doubt a run does not say that it is done.
        foreach (var id in (long[])[3, 6, 7, 9])
            Assert.Null(w.Mails.Handing(run, id, $"{id}@example.org", w.Now));
        foreach (var id in (long[])[3, 6, 7])
            w.Mails.Sent(run, new(id, "250 OK", Day, w.By()));
        w.Mails.Doubt(run, 9, "The connection ended.", w.By());
        Assert.Equal(RunState.Paused, w.Mails.Close(run, w.By()));
        w.Mails.Settle(run, 9, true, Day, w.By());
        Assert.Equal(RunState.Done, w.Mails.Close(run, w.By()));
        Assert.Equal(RunState.Done, w.Runs.State(run.Id));
    }

    [Fact]
    public void What_was_put_off_is_due_when_its_time_has_come_and_before_what_was_never_tried()
    {
        using var w = Mixed();
        var run = Begin(w);
        Assert.Null(w.Mails.Handing(run, 1, "one@example.org", w.Now));
        w.Mails.Later(run.Id, 1, "451 later", w.Now.AddMinutes(1));
        Assert.DoesNotContain(w.Mails.Due(run.Id, w.Now, 100), d => d.RecipientId == 1);
        Assert.Equal((1, 5, false), (w.Mails.Counts(run.Id).Later, w.Mails.Counts(run.Id).Waiting, w.Mails.Counts(run.Id).IsOver));
        var first = w.Mails.Due(run.Id, w.Now.AddMinutes(1), 100)[0];
        Assert.Equal((1, 1), (first.RecipientId, first.Attempts));
        // No connection: that was no attempt.
        Assert.Null(w.Mails.Handing(run, 1, "one@example.org", w.Now.AddMinutes(1)));
        w.Mails.NotBegun(run.Id, 1, w.Now.AddMinutes(2), "no connection");
        Assert.Equal(1, w.Mails.Due(run.Id, w.Now.AddMinutes(2), 1)[0].Attempts);
    }

    [Fact]
    public void Who_was_refused_needs_a_look_and_who_was_held_meanwhile_is_excluded()
    {
        using var w = Mixed();
        var run = Begin(w);
        Assert.Null(w.Mails.Handing(run, 1, "one@example.org", w.Now));
        w.Mails.Refused(run, 1, "one@example.org", "550 no such user", w.By());
        Assert.Equal(Tray.NeedsReview, State(w, 1).Tray);
        w.Bench.Act(w.Drop, [3], DropEventKind.Held, "asked", null, "Held", w.By());
        w.Bench.GoBy(w.Drop, w.Ids(), Channel.Paper, w.By()); // those in the run keep their way
        Assert.Equal(Channel.Email, State(w, 3).Channel);
        Assert.Equal("Held: asked", w.Mails.Handing(run, 3, "three@example.org", w.Now));
        Assert.Equal((1, 1), (w.Mails.Counts(run.Id).Refused, w.Mails.Counts(run.Id).Excluded));
        w.MustAddUp();
    }

    [Fact]
    public void A_report_moves_to_returned_counts_once_and_may_come_too_early()
    {
        using var w = Mixed();
        var (run, reports) = (Begin(w), new MailReports(w.Database, () => new(OrganizationLocale.UnitedStates, Day, _ => true)));
        var all = w.Mails.All(run.Id);
        NewReport Failed(long id, string status = "5.1.1", string action = "failed") =>
            new(all[id].MessageId, $"{id}@example.org", action, status, "no such user", $"{id}{status}{action}");
        void Send(long id)
        {
            Assert.Null(w.Mails.Handing(run, id, $"{id}@example.org", w.Now));
            w.Mails.Sent(run, new(id, "250 OK", Day, w.By()));
        }
        Send(3);
        var (row, isNew) = reports.Take(Failed(3), Day, w.By());
        Assert.True(isNew && row.Hard && row.Settled is null && row.RecipientId == 3);
        Assert.False(reports.Take(Failed(3), Day, w.By()).IsNew);
        Assert.Equal(Tray.Returned, State(w, 3).Tray);
        // The report is there before the server's answer to the message.
        Assert.Null(w.Mails.Handing(run, 6, "6@example.org", w.Now));
        reports.Take(Failed(6), Day, w.By());
        Assert.NotEqual(Tray.Returned, State(w, 6).Tray);
        w.Mails.Sent(run, new(6, "250 OK", Day, w.By()));
        Assert.Equal(Tray.Returned, State(w, 6).Tray);
        // A full mailbox is not gone, a delay is no failure, a copy is not the recipient, and a strange report is nobody's.
        Send(9);
        Assert.False(reports.Take(Failed(9, "4.2.2", "delayed"), Day, w.By()).Row.Hard);
        reports.Take(Failed(9) with { Address = "copy@example.org" }, Day, w.By());
        Assert.Equal(Tray.Mailed, State(w, 9).Tray);
        Assert.False(Failed(9, "5.2.2").IsHard);
        Assert.Null(reports.Take(new("<other@example.org>", "x@example.org", "failed", "5.1.1", "", "strange"), Day, w.By()).Row.DropId);
        Assert.Equal(4, reports.OfDrop(w.Drop).Count);
        w.Database.Write(c => MailReports.Settle(c, [row.Id], "suppressed"));
        w.Database.Write(c => MailReports.Settle(c, [row.Id], "left"));
        Assert.Equal("suppressed", reports.OfDrop(w.Drop).Single(r => r.Id == row.Id).Settled);
        // Who comes back by email can go on paper; then they are to be made.
        w.Bench.GoBy(w.Drop, [3], Channel.Paper, w.By());
        Assert.Equal(Tray.Ready, State(w, 3).Tray);
        w.MustAddUp();
    }

    [Property(MaxTest = 60)]
    public Property Nobody_is_sent_twice_and_all_add_up_in_any_order_of_acts() =>
        Prop.ForAll(
            Gen.Choose(0, 12).SelectMany(act => Gen.Choose(0, 1023).Select(n => (act, n))).NonEmptyListOf().ToArbitrary(),
            acts =>
            {
                using var w = Mixed();
                var reports = new MailReports(w.Database, () => new(OrganizationLocale.UnitedStates, Day, _ => true));
                long? going = null;
                foreach (var (act, n) in acts)
                {
                    try
                    {
                        Do(act, n);
                    }
                    catch (ConflictException) { } // refused with a sentence: nothing may have changed
                    w.MustAddUp();
                    AllIsTold(w);
                }
                return true;

                List<long> Some(int n) => [.. w.Ids().Where((_, i) => (n >> i & 1) == 1)];
                void Do(int act, int n)
                {
                    switch (act)
                    {
                        case 0:
                            w.Bench.Act(w.Drop, Some(n), DropEventKind.Held, "asked", null, "Held", w.By());
                            break;
                        case 1:
                            w.Bench.Act(w.Drop, Some(n), DropEventKind.Released, null, null, "Released", w.By());
                            break;
                        case 2:
                            w.Bench.GoBy(
                                w.Drop,
                                Some(n),
                                (n % 4) switch
                                {
                                    0 => Channel.Paper,
                                    1 => Channel.Email,
                                    2 => Channel.Both,
                                    _ => null,
                                },
                                w.By()
                            );
                            break;
                        case 3 or 4:
                            var made = Begin(w, act == 3 ? RunOutput.One : RunOutput.Mbox, c => (n >> c.PieceNumber & 1) == 1);
                            w.Life.Complete(made.Id, [World.File(1, (int)made.Pieces)], w.By());
                            break;
                        case 5 when going is null:
                            going = Begin(w, chosen: c => (n >> c.PieceNumber & 1) == 1).Id;
                            break;
                        case 6 or 7 when going is { } id:
                            Send(w.Runs.Get(id), n);
                            break;
                        case 8 when going is { } id:
                            w.Mails.TakeUpAgain(w.Runs.Get(id), w.Now);
                            foreach (var doubt in Some(n))
                                w.Mails.Settle(w.Runs.Get(id), doubt, n % 2 == 0, Day, w.By());
                            break;
                        case 9 when going is { } id:
                            if (n % 3 == 0)
                                w.Life.Stop(id, RunState.Cancelled, null, w.By());
                            if (n % 3 == 0 || w.Mails.Close(w.Runs.Get(id), w.By()) == RunState.Done)
                                going = null;
                            break;
                        case 10:
                            w.Bench.Act(w.Drop, Some(n), DropEventKind.TakenBack, null, null, "Took back", w.By());
                            break;
                        case 11:
                            foreach (var run in w.Runs.OfDrop(w.Drop).Where(r => r.Output != RunOutput.Email && r.Waiting > 0).Take(1))
                                w.Bench.MarkMailed(run.Id, Day, null, w.By());
                            break;
                        default:
                            if (n % 2 == 0)
                                w.Bench.Undo(w.Drop, w.By());
                            else
                                foreach (var run in w.Runs.OfDrop(w.Drop).Where(r => r.Output == RunOutput.Email).Take(1))
                                foreach (var m in w.Mails.All(run.Id).Values.Where(m => (n >> (int)m.Position & 1) == 1))
                                    reports.Take(
                                        new(m.MessageId, $"{m.RecipientId}@example.org", "failed", "5.1.1", "gone", m.MessageId),
                                        Day,
                                        w.By()
                                    );
                            break;
                    }
                }

                // The server takes a message, puts it off, refuses it, ends the connection, or nothing more is heard of it.
                void Send(RunRow run, int n)
                {
                    if (run.State != RunState.Running)
                        return;
                    foreach (var due in w.Mails.Due(run.Id, w.Now.AddHours(n % 2), 1 + n % 3))
                    {
                        if (w.Mails.Handing(run, due.RecipientId, $"{due.RecipientId}@example.org", w.Now) is not null)
                            continue;
                        switch ((n + due.RecipientId) % 6)
                        {
                            case 0:
                                w.Mails.Later(run.Id, due.RecipientId, "451 later", w.Now.AddMinutes(30));
                                break;
                            case 1:
                                w.Mails.Refused(run, due.RecipientId, $"{due.RecipientId}@example.org", "550 no", w.By());
                                break;
                            case 2:
                                w.Mails.Doubt(run, due.RecipientId, "The connection ended.", w.By());
                                break;
                            case 3:
                                return;
                            default:
                                w.Mails.Sent(run, new(due.RecipientId, "250 OK", Day, w.By()));
                                break;
                        }
                    }
                }
            }
        );

    /// <summary>What the messages, the ledger's events and the recipients' rows say must be one story.</summary>
    static void AllIsTold(World w)
    {
        using var c = w.Database.Open();
        // What a server took has one event that says so, from this very run, and the other way round.
        var taken = c.Query<(long Run, long Recipient)>(
                "SELECT m.run_id, m.recipient_id FROM run_mail m JOIN run u ON u.id = m.run_id WHERE m.state = 'sent' ORDER BY 1, 2"
            )
            .ToList();
        Assert.Equal(
            taken,
            c.Query<(long, long)>(
                "SELECT e.run_id, e.recipient_id FROM drop_event e JOIN run u ON u.id = e.run_id WHERE e.kind = 'Mailed' AND "
                    + "u.output = 'email' ORDER BY 1, 2"
            )
        );
        // Nobody is sent twice.
        Assert.Equal(taken.Count, taken.Select(t => t.Recipient).Distinct().Count());
        Assert.Empty(
            c.Query<long>(
                "SELECT recipient_id FROM drop_recipient WHERE emailed_on IS NOT NULL AND email_run_id IS NULL OR mailed_on IS NOT "
                    + "NULL AND run_id IS NULL"
            )
        );
        // Nobody's email is in two runs that are not finished.
        Assert.Empty(
            c.Query<long>(
                "SELECT m.recipient_id FROM run_mail m JOIN run u ON u.id = m.run_id WHERE u.state IN ('queued', 'running', "
                    + "'paused') AND m.state NOT IN ('sent', 'refused', 'left out') GROUP BY m.recipient_id HAVING count(*) > 1"
            )
        );
        // The rows are what the events add up to, in every part and not only in the tray.
        var events = c.Query<(long Id, string Kind, string? Note, string? Keys, long? Run, string? Date)>(
                "SELECT recipient_id, kind, note, keys_json, run_id, date FROM drop_event WHERE drop_id = @Drop ORDER BY id",
                new { w.Drop }
            )
            .ToLookup(e => e.Id);
        foreach (var (id, state) in DropEvents.States(c, w.Drop, w.Ids()))
        {
            var told = RecipientState.Of(
                events[id]
                    .Select(e => new DropEvent(
                        Enum.Parse<DropEventKind>(e.Kind),
                        e.Note,
                        e.Keys is null ? null : System.Text.Json.JsonSerializer.Deserialize<string[]>(e.Keys),
                        e.Run,
                        e.Date is null ? null : DateOnly.Parse(e.Date, System.Globalization.CultureInfo.InvariantCulture)
                    ))
            );
            Assert.Equal(
                (
                    told.Channel,
                    told.ChannelByHand,
                    told.EmailRun,
                    told.EmailedOn,
                    told.ProducedRun,
                    told.MailedOn,
                    told.ReturnReason,
                    told.HoldReason
                ),
                (
                    state.Channel,
                    state.ChannelByHand,
                    state.EmailRun,
                    state.EmailedOn,
                    state.ProducedRun,
                    state.MailedOn,
                    state.ReturnReason,
                    state.HoldReason
                )
            );
        }
    }
}
