using Bandeja.Core.Campaigns;
using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Mail;
using Bandeja.Core.Returns;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Mail;
using Bandeja.Store.Returns;
using Bandeja.Store.Runs;
using Bandeja.Store.Sequences;
using Dapper;
using FsCheck.Xunit;

namespace Bandeja.Store.Tests;

/// <summary>Campaigns over weeks, held against a small model of the rules that knows nothing of the database.</summary>
public sealed class SequenceTests
{
    static readonly WorkCalendar Calendar = WorkCalendar.Usual;
    static readonly DateOnly Monday = new(2027, 3, 1);

    /// <summary>Sixty days with random acts. Everyone on the list who has not left gets each step on its day.</summary>
    [Property(MaxTest = 12)]
    public void Together_everyone_gets_exactly_what_the_rules_say(int seed)
    {
        var random = new Random(seed);
        using var w = new SequenceWorld(12, Monday);
        w.Plan(CampaignMode.Together);
        (string Name, int After)[] plan = [("First", 0), ("Second", random.Next(3, 20)), ("Last", random.Next(3, 20))];
        var steps = plan.Select(p => w.Step(p.Name, new(After: p.After))).ToList();
        var drops = w.Drops().ToDictionary(d => d.Step, d => d.Id);

        var people = w.Recipients().ToDictionary(id => id, _ => true);
        var expected = new Dictionary<(long, long), DateOnly>();
        var (next, due) = (0, Calendar.OnOrAfter(Monday));
        for (var day = 0; day < 60; day++, w.Today = w.Today.AddDays(1))
        {
            Acts(random, w, people);
            foreach (var drop in drops.Values)
                w.Follow(drop);
            w.MustAddUp();
            if (next == steps.Count || w.Today < due)
                continue;
            Assert.Equal(due, w.Drops().Single(d => d.Step == steps[next]).MailOn);
            var getting = people.Where(p => p.Value).Select(p => p.Key).ToList();
            Assert.Equal(getting.Count, w.Ready(drops[steps[next]]));
            w.Mail(drops[steps[next]]);
            foreach (var id in getting)
                expected[(id, steps[next])] = w.Today;
            if (getting.Count == 0)
                return;
            if (++next < steps.Count)
                due = Calendar.OnOrAfter(w.Today.AddDays(plan[next].After));
        }
        Assert.Equal(expected.OrderBy(x => x.Key), w.Mailed().OrderBy(x => x.Key));
    }

    /// <summary>The same with a clock for each: from the day on which they entered, and from each piece that they got.</summary>
    [Property(MaxTest = 12)]
    public void One_by_one_everyone_gets_exactly_what_the_rules_say(int seed)
    {
        var random = new Random(seed);
        using var w = new SequenceWorld(8, Monday);
        w.Plan(CampaignMode.OneByOne, Entry.Everyone);
        var weekday = random.Next(2) == 0 ? (DayOfWeek?)null : (DayOfWeek)random.Next(1, 6);
        StepTiming[] plan =
        [
            new(After: random.Next(0, 4), ReadyDays: random.Next(0, 3)),
            new(After: random.Next(3, 15), ReadyDays: random.Next(0, 3), Weekday: weekday),
            new(After: random.Next(0, 15), ReadyDays: 0),
        ];
        var steps = plan.Select((t, i) => w.Step($"Step {i + 1}", t)).ToList();

        var people = w.Recipients().ToDictionary(id => id, _ => true);
        var clock = people.Keys.ToDictionary(id => id, _ => (Next: 0, Base: Monday));
        var expected = new Dictionary<(long, long), DateOnly>();
        DateOnly Due(int step, DateOnly from)
        {
            var day = from.AddDays(plan[step].After);
            while (plan[step].Weekday is { } on && day.DayOfWeek != on)
                day = day.AddDays(1);
            return Calendar.OnOrAfter(day);
        }
        for (var day = 0; day < 60; day++, w.Today = w.Today.AddDays(1))
        {
            Acts(random, w, people);
            foreach (var id in people.Keys.Where(id => !clock.ContainsKey(id)).ToList())
                clock[id] = (0, w.Today);
            // Collected as often as may be: what a day has brings nothing twice.
            for (var times = random.Next(1, 3); times > 0; times--)
                w.Collection.Run(w.Campaign, w.By());
            w.MustAddUp();
            if (Calendar.WhyNot(w.Today) is not null)
                continue;
            foreach (var drop in w.Drops().Where(d => d.MailOn <= w.Today))
                w.Mail(drop.Id);
            foreach (var id in people.Where(p => p.Value).Select(p => p.Key).ToList())
                if (clock[id].Next < steps.Count && Due(clock[id].Next, clock[id].Base) <= w.Today)
                {
                    expected[(id, steps[clock[id].Next])] = w.Today;
                    clock[id] = (clock[id].Next + 1, w.Today);
                }
            // A step that follows at once is collected after the one before it was mailed, and goes with the next working day's.
            Assert.Equal(expected.OrderBy(x => x.Key), w.Mailed().OrderBy(x => x.Key));
        }
    }

    /// <summary>What happens meanwhile: some respond, leave, come back, are added, or are removed from the list.</summary>
    static void Acts(Random random, SequenceWorld w, Dictionary<long, bool> people)
    {
        for (var n = random.Next(0, 3); n > 0; n--)
        {
            var id = people.Keys.ElementAt(random.Next(people.Count));
            switch (random.Next(6))
            {
                case 0 when people[id]:
                    w.Desk.Leave(w.Campaign, [id], w.Today, LeaveReason.ByHand, "asked on the phone", w.By());
                    people[id] = false;
                    break;
                case 1 when people[id]:
                    w.Responses.Record(new(w.List, id, w.Today, ResponseKind.Paid, 20, null, "typed", w.Campaign), w.By());
                    people[id] = false;
                    break;
                case 2 when !people[id]:
                    w.Desk.Return(w.Campaign, [id], w.By());
                    people[id] = true;
                    break;
                case 3:
                    people[w.Add($"N-{people.Count}")] = true;
                    break;
            }
        }
    }

    [Fact]
    public void Who_leaves_is_held_where_their_piece_waits_and_named_where_it_was_produced()
    {
        using var w = new SequenceWorld(6, Monday);
        w.Plan(CampaignMode.Together);
        var first = w.Step("First", new());
        w.Step("Second", new(After: 10));
        var drops = w.Drops().OrderBy(d => d.MailOn).Select(d => d.Id).ToList();
        foreach (var drop in drops)
            w.Follow(drop);
        var people = w.Recipients();
        w.Produce(drops[0], p => p.PieceNumber <= 3);
        w.Desk.Leave(w.Campaign, [people[0], people[4]], w.Today, LeaveReason.ByHand, "moved away", w.By());
        using var c = w.Database.Open();
        var held = c.Query<(long, string?, string?, string)>(
                "SELECT recipient_id, hold_reason, rule_note, tray FROM drop_recipient WHERE drop_id = @drop AND (hold_reason IS "
                    + "NOT NULL OR "
                    + "rule_note IS NOT NULL) ORDER BY piece_number",
                new { drop = drops[0] }
            )
            .ToList();
        Assert.Equal(
            [
                (people[0], (string?)null, (string?)"Left the campaign Mar 1: moved away", "Produced"),
                (people[4], "Left the campaign Mar 1: moved away", null, "Held"),
            ],
            held
        );
        Assert.Equal(4, w.Ready(drops[1]));
        var work = new WorkList(w.Database, new(w.Database)).Of(w.Today, (_, _) => false);
        var pull = Assert.Single(work.Rows, r => r.Kind == WorkKind.PullPieces);
        Assert.Equal([1L], pull.Pieces);
        Assert.Equal("Pull 1 piece from the trays", pull.Title);
        // Undone, everything is as it was.
        w.Desk.Return(w.Campaign, [people[0], people[4]], w.By());
        Assert.Equal((3, 6), (w.Ready(drops[0]), w.Ready(drops[1])));
        Assert.NotEqual(0, first);
    }

    [Fact]
    public void A_condition_asks_the_ledger_and_only_earlier_steps()
    {
        using var w = new SequenceWorld(6, Monday);
        w.Plan(CampaignMode.Together);
        w.Step("First notice", new());
        w.Step("Reminder", new(After: 20), StepWho.Condition, "Days since First notice >= 20 and Responded = no and Level = \"Friend\"");
        var drops = w.Drops().OrderBy(d => d.MailOn).Select(d => d.Id).ToList();
        foreach (var drop in drops)
            w.Follow(drop);
        // Looked at early, it goes to whom it will go when the first is mailed as planned.
        Assert.Equal(4, w.Ready(drops[1]));
        w.Mail(drops[0], p => p.PieceNumber != 2);
        w.Responses.Record(new(w.List, w.Recipients()[0], w.Today, ResponseKind.Responded, null, null, "typed"), w.By());
        w.Today = w.Today.AddDays(21);
        w.Follow(drops[1]);
        // One responded; the second still waits for its first notice, so it is not twenty days ago.
        Assert.Equal(2, w.Ready(drops[1]));

        string Refused(string condition, long? before = null) =>
            Assert.Throws<BadInputException>(() => w.Step("Third", new(After: 5), StepWho.Condition, condition, before)).Message;
        Assert.Contains("its own step", Refused("Days since Third > 1"), StringComparison.Ordinal);
        Assert.Contains("cannot be used", Refused("Days since Fourth > 1"), StringComparison.Ordinal);
        Assert.Contains("Enter the condition", Refused(""), StringComparison.Ordinal);
        var reminder = w.Sight.Of(w.Campaign).Steps[1].Id;
        Assert.Contains("comes after this step", Refused("Days since Reminder > 1", reminder), StringComparison.Ordinal);
    }

    static void FollowAll(SequenceWorld w)
    {
        foreach (var drop in w.Drops())
            w.Follow(drop.Id);
    }

    [Fact]
    public void Conditions_follow_steps_and_columns_that_are_called_otherwise_and_nothing_else()
    {
        using var w = new SequenceWorld(6, Monday);
        w.Plan(CampaignMode.Together, stay: "Level <> \"gone\"");
        var first = w.Step("First", new());
        w.Step("First notice", new(After: 5));
        // The list has a column First, and another step begins with the same word.
        const string Asks = "Days since First >= 20 and Mailed First notice is not blank and First <> \"x\"";
        w.Step("Reminder", new(After: 20), StepWho.Condition, Asks);
        var steps = w.Sight.Of(w.Campaign).Steps;
        Assert.Throws<ConflictException>(() => w.Edits.Remove(first));
        w.Edits.Rename(first, "Opening");
        var condition = w.Sight.Of(w.Campaign).Steps[2].Condition;
        Assert.Contains("Days since Opening", condition, StringComparison.Ordinal);
        Assert.Contains("Mailed First notice", condition, StringComparison.Ordinal);
        Assert.Contains("First <>", condition.Replace("`", "", StringComparison.Ordinal), StringComparison.Ordinal);
        // A skipped step can still be asked about: nobody got it.
        w.Edits.Skip(first, true);
        FollowAll(w);
        Assert.Equal(0, w.Ready(w.Drops()[2].Id));
        w.Edits.Skip(first, false);
        var columns = new ColumnStore(w.Database, w.Editor);
        columns.Change(w.List, 3, new(Name: "Tier"), w.By());
        Assert.Contains("Tier", w.Sight.Of(w.Campaign).StayFilter, StringComparison.Ordinal);
        FollowAll(w);
        Assert.Equal(6, w.Ready(w.Drops()[2].Id));
        Assert.Contains(
            "is read by the campaign Renewal",
            Assert.Throws<ConflictException>(() => columns.Remove(w.List, 3, w.By())).Message,
            StringComparison.Ordinal
        );
        Assert.Equal(3, steps.Count);
    }

    [Fact]
    public void A_skipped_step_brings_nobody_back_who_does_not_meet_the_condition_to_stay()
    {
        using var w = new SequenceWorld(3, Monday);
        w.Plan(CampaignMode.Together, stay: "Level = \"Friend\"");
        w.Step("First", new());
        var second = w.Step("Second", new(After: 5));
        w.Editor.Edit(w.List, [new(w.Recipients()[2], 3, "Friend")], "Changed the level", w.By());
        foreach (var drop in w.Drops())
            w.Follow(drop.Id);
        w.Editor.Edit(w.List, [new(w.Recipients()[2], 3, "Patron")], "Changed the level", w.By());
        w.Edits.Skip(second, true);
        foreach (var drop in w.Drops())
            w.Follow(drop.Id);
        Assert.Equal(1, w.Sight.Of(w.Campaign).Left[LeaveReason.Condition]);
    }

    [Fact]
    public void What_a_step_goes_to_and_mails_is_not_removed_under_it()
    {
        using var w = new SequenceWorld(3, Monday);
        w.Plan(CampaignMode.OneByOne);
        var segments = new Bandeja.Store.Lists.SegmentStore(w.Database);
        var segment = segments.Add(w.List, "Patrons", "Level = \"Patron\"", "", w.By());
        w.Edits.Add(w.Campaign, new("First", [w.Design], new(), StepWho.Segment, segment), null, w.By());
        Assert.Contains(
            "Renewal, First",
            Assert.Throws<ConflictException>(() => segments.Remove(segment)).Message,
            StringComparison.Ordinal
        );
        Assert.Contains("the step First", new Removals(w.Database).OfDesign(w.Design).Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public void Whoever_is_added_enters_on_the_day_that_it_is_where_the_organization_is()
    {
        using var w = new SequenceWorld(1, Monday);
        w.Plan(CampaignMode.OneByOne, Entry.Added);
        w.Step("Welcome", new());
        new SettingStore(w.Database).Set(new("Fernquay Botanic Garden", "en-US", "USD", TimeZone: "Pacific/Honolulu"));
        // Nine in the morning by UTC is late in the evening before, in Honolulu.
        w.Today = Monday.AddDays(2);
        var id = w.Add("M-20");
        w.Collection.Run(w.Campaign, w.By());
        using var c = w.Database.Open();
        Assert.Equal(
            Monday.AddDays(1),
            c.QuerySingle<DateOnly>("SELECT entered_on FROM campaign_person WHERE recipient_id = @id", new { id })
        );
    }

    /// <summary>The drops of two steps, ten days apart, with everyone in both.</summary>
    static List<long> TwoSteps(SequenceWorld w)
    {
        w.Plan(CampaignMode.Together);
        w.Step("First", new());
        w.Step("Second", new(After: 10));
        var drops = w.Drops().OrderBy(d => d.MailOn).Select(d => d.Id).ToList();
        foreach (var drop in drops)
            w.Follow(drop);
        return drops;
    }

    [Fact]
    public void A_bounce_that_comes_before_its_message_is_recorded_ends_it_as_soon_as_that_is()
    {
        using var w = new SequenceWorld(4, Monday);
        var drops = TwoSteps(w);
        var (store, id) = (new DropStore(w.Database), w.Recipients()[1]);
        const string document = """{"kind":"email","subject":[],"content":[]}""";
        var email = new DesignStore(w.Database).Create("By email", w.List, document, w.By(), PieceKind.Email);
        store.SetPackage(drops[0], [w.Design, email]);
        w.Bench.GoBy(drops[0], [id], Channel.Email, w.By());
        var account = new MailAccounts(w.Database).All()[0].Id;
        var ask = new RunAsk
        {
            Output = RunOutput.Email,
            AccountId = account,
            MessageIdOf = _ => "example.org",
            Makes = [email],
        };
        var run = new RunFreezing(w.Database).Begin(drops[0], _ => true, "Not chosen", "all Ready", null, w.Today, w.By(), ask);
        new RunLife(w.Database).Start(run.Id);
        var mails = new RunMails(w.Database, w.Editor.Recheck, () => w.Surroundings);
        var message = mails.All(run.Id)[id].MessageId;
        Assert.Null(mails.Handing(run, id, "ana@example.org", w.By().At));
        new MailReports(w.Database, () => w.Surroundings).Take(
            new(message, "ana@example.org", "failed", "5.1.1", "no such user", "early"),
            w.Today,
            w.By()
        );
        Assert.Equal(4, w.Ready(drops[1]));
        mails.Sent(run, new(id, "250 OK", w.Today, w.By()));
        Assert.Equal(3, w.Ready(drops[1]));
        w.MustAddUp();
    }

    [Fact]
    public void Whose_mailing_is_undone_after_it_came_back_gets_the_steps_to_come_at_once()
    {
        using var w = new SequenceWorld(4, Monday);
        var drops = TwoSteps(w);
        w.Mail(drops[0]);
        var id = w.Recipients()[1];
        w.Bench.Act(drops[0], [id], DropEventKind.Returned, "vacant", w.Today, "Returned", w.By());
        Assert.Equal(3, w.Ready(drops[1]));
        w.Bench.Act(drops[0], [id], DropEventKind.MailUndone, "still here", null, "Undone", w.By());
        Assert.Equal(4, w.Ready(drops[1]));
        Assert.Empty(w.Sight.Of(w.Campaign).Left);
        w.MustAddUp();
    }

    [Fact]
    public void Returned_mail_ends_it_until_the_address_is_another_or_the_return_is_undone()
    {
        using var w = new SequenceWorld(4, Monday);
        var drops = TwoSteps(w);
        w.Mail(drops[0]);
        var id = w.Recipients()[1];
        // At once, without a check in between: the drop of the step that comes says why.
        w.Bench.Act(drops[0], [id], DropEventKind.Returned, "vacant", w.Today, "Returned", w.By());
        Assert.Equal(3, w.Ready(drops[1]));
        Assert.Equal(1, w.Sight.Of(w.Campaign).Left[LeaveReason.Undeliverable]);
        w.Bench.Undo(drops[0], w.By());
        Assert.Equal(4, w.Ready(drops[1]));

        // What came back and is tried another way is in the campaign again; the way that it went, or the rule's, is no other.
        const string document = """{"kind":"email","subject":[],"content":[]}""";
        var email = new DesignStore(w.Database).Create("By email", w.List, document, w.By(), PieceKind.Email);
        new DropStore(w.Database).SetPackage(drops[0], [w.Design, email]);
        w.Bench.Act(drops[0], [id], DropEventKind.Returned, "vacant", w.Today, "Returned", w.By());
        w.Today = Monday.AddDays(3);
        Assert.Throws<ConflictException>(() => w.Bench.GoBy(drops[0], [id], Channel.Paper, w.By()));
        w.Bench.GoBy(drops[0], [id], null, w.By());
        Assert.Equal((3, 1), (w.Ready(drops[1]), w.Sight.Of(w.Campaign).Left[LeaveReason.Undeliverable]));
        w.Bench.GoBy(drops[0], [id], Channel.Email, w.By());
        Assert.Equal((4, 1), (w.Ready(drops[1]), w.Ready(drops[0])));
        // Taken back, they came back on the day of then.
        w.Bench.Undo(drops[0], w.By());
        Assert.Equal(3, w.Ready(drops[1]));
        using (var c = w.Database.Open())
            Assert.Equal(
                Monday,
                c.QuerySingle<DateOnly>("SELECT on_date FROM campaign_leave WHERE recipient_id = @id AND undone_at IS NULL", new { id })
            );
        w.MustAddUp();
        w.Bench.Act(drops[0], [id], DropEventKind.ReturnUndone, null, null, "Undone", w.By());
        Assert.Equal(4, w.Ready(drops[1]));

        // The same at the returns desk; with a new address they stay in the campaign.
        var returns = new ReturnStore(w.Database, w.Editor, w.Bench);
        ReturnEntry Entry(ReturnFollowUp follow, Dictionary<int, string?> address) =>
            new(drops[0], id, ReturnReason.Vacant, follow, w.Today, address);
        var recorded = returns.Record(Entry(ReturnFollowUp.Record, []), w.By());
        Assert.Equal(3, w.Ready(drops[1]));
        returns.Undo(recorded.Row.Id, w.By());
        Assert.Equal(4, w.Ready(drops[1]));
        returns.Record(Entry(ReturnFollowUp.Correct, new() { [2] = "Another" }), w.By());
        Assert.Equal(4, w.Ready(drops[1]));
    }

    [Fact]
    public void A_condition_to_stay_lets_recipients_go_and_come_back_with_their_data()
    {
        using var w = new SequenceWorld(6, Monday);
        w.Plan(CampaignMode.OneByOne, Entry.Condition, "Level = \"Patron\"", "Level = \"Patron\"");
        var step = w.Step("Welcome", new(After: 3, ReadyDays: 0));
        w.Collection.Run(w.Campaign, w.By());
        Assert.Equal(2, w.Sight.Of(w.Campaign).People);
        Assert.Equal((2, Monday.AddDays(3)), ((int)w.Sight.Of(w.Campaign).Steps[0].Due, w.Sight.Of(w.Campaign).Steps[0].NextDue));
        w.Today = Monday.AddDays(3);
        w.Collection.Run(w.Campaign, w.By());
        var drop = Assert.Single(w.Drops()).Id;
        Assert.Equal(2, w.Ready(drop));
        var patron = w.Recipients()[2];
        w.Editor.Edit(w.List, [new(patron, 3, "Friend")], "Changed the level", w.By());
        w.Follow(drop);
        Assert.Equal(1, w.Ready(drop));
        Assert.Equal(1, w.Sight.Of(w.Campaign).Left[LeaveReason.Condition]);
        w.Editor.Edit(w.List, [new(patron, 3, "Patron")], "Changed the level", w.By());
        w.Follow(drop);
        Assert.Equal(2, w.Ready(drop));
        Assert.Empty(w.Sight.Of(w.Campaign).Left);
        Assert.NotEqual(0, step);
    }

    [Fact]
    public void Who_is_in_a_later_drop_waits_while_an_earlier_step_comes_first()
    {
        using var w = new SequenceWorld(2, Monday);
        w.Plan(CampaignMode.OneByOne, Entry.Everyone);
        w.Step("First", new(ReadyDays: 0));
        var last = w.Step("Last", new(After: 7, ReadyDays: 2));
        w.Collection.Run(w.Campaign, w.By());
        w.Mail(w.Drops()[0].Id);
        w.Today = Monday.AddDays(4);
        w.Collection.Run(w.Campaign, w.By());
        var drop = w.Drops()[1].Id;
        Assert.Equal(2, w.Ready(drop));
        w.Step("Between", new(After: 5, ReadyDays: 0), before: last);
        w.Follow(drop);
        Assert.Equal(0, w.Ready(drop));
        w.Today = Monday.AddDays(7);
        w.Collection.Run(w.Campaign, w.By());
        w.Mail(w.Drops()[2].Id);
        Assert.False(w.Collection.IsWorkToDo());
        w.Today = Monday.AddDays(14);
        Assert.True(w.Collection.IsWorkToDo());
        w.Collection.Run(w.Campaign, w.By());
        Assert.Equal(2, w.Ready(drop));
        Assert.Equal(3, w.Drops().Count);
    }

    [Fact]
    public void A_clock_that_is_set_back_collects_nobody_twice()
    {
        using var w = new SequenceWorld(3, Monday);
        w.Plan(CampaignMode.OneByOne, Entry.Everyone);
        w.Step("Welcome", new(ReadyDays: 0));
        w.Step("Second", new(After: 5, ReadyDays: 0));
        w.Collection.Run(w.Campaign, w.By());
        w.Mail(w.Drops()[0].Id);
        w.Today = Monday.AddDays(-3);
        Assert.Empty(w.Collection.Run(w.Campaign, w.By()));
        w.Today = Monday.AddDays(30);
        Assert.Single(w.Collection.Run(w.Campaign, w.By()));
        Assert.Empty(w.Collection.Run(w.Campaign, w.By()));
        Assert.Equal(3, w.Ready(w.Drops()[1].Id));
    }

    [Fact]
    public void What_a_change_of_steps_would_come_to_is_said_and_nothing_is_changed()
    {
        using var w = new SequenceWorld(5, Monday);
        w.Plan(CampaignMode.Together);
        w.Step("First", new());
        var second = w.Step("Second", new(After: 10));
        w.Step("Last", new(After: 10));
        foreach (var drop in w.Drops())
            w.Follow(drop.Id);
        var preview = new StepPreview(w.Database, w.Sight, () => w.Surroundings);
        Assert.Equal(
            ["“Second” moves from Mar 11, 2027 to Mar 16, 2027.", "“Last” moves from Mar 22, 2027 to Mar 26, 2027."],
            preview.Of(w.Campaign, () => w.Edits.Move(second, new(2027, 3, 16))).Sentences
        );
        Assert.Equal(["5 recipients do not get “Second”."], preview.Of(w.Campaign, () => w.Edits.Skip(second, true)).Sentences);
        Assert.Contains(
            "“Extra” is mailed Mar 8, 2027 to 5 recipients.",
            preview.Of(w.Campaign, () => w.Step("Extra", new(After: 7), before: second)).Sentences
        );
        Assert.Equal([new DateOnly(2027, 3, 11), new(2027, 3, 22)], w.Sight.Of(w.Campaign).Steps.Skip(1).Select(s => s.MailOn!.Value));
        Assert.Equal(3, w.Sight.Of(w.Campaign).Steps.Count);
        // A mailed step stays where it is.
        w.Mail(w.Drops()[0].Id);
        Assert.Throws<ConflictException>(() => w.Edits.Move(w.Sight.Of(w.Campaign).Steps[0].Id, new(2027, 3, 16)));
    }

    [Fact]
    public void A_pattern_counts_from_the_new_first_day_and_says_what_is_missing()
    {
        using var w = new SequenceWorld(3, Monday);
        w.Plan(CampaignMode.Together);
        w.Step("First", new(On: new(2027, 3, 2)));
        w.Step("Second", new(On: new(2027, 3, 23)));
        var patterns = new Patterns(w.Database, w.Edits);
        var pattern = patterns.Save(w.Campaign, "Two notices", w.By());
        var other = new CampaignStore(w.Database).Create("Autumn", w.By());
        w.Edits.Plan(other, new(w.List, CampaignMode.Together, new(2027, 9, 1), Entry.ByHand, "", "", 60), w.By());
        patterns.Use(pattern, other, w.By());
        Assert.Equal([new DateOnly(2027, 9, 2), new(2027, 9, 23)], w.Sight.Of(other).Steps.Select(s => s.MailOn!.Value));
        Assert.Throws<ConflictException>(() => patterns.Use(pattern, other, w.By()));
        w.Database.Write(c => c.Execute("UPDATE design SET archived = 1"));
        var third = new CampaignStore(w.Database).Create("Winter", w.By());
        w.Edits.Plan(third, new(w.List, CampaignMode.Together, new(2027, 12, 1), Entry.ByHand, "", "", 60), w.By());
        Assert.Contains(
            "“Letter” of “First” is archived",
            Assert.Throws<ConflictException>(() => patterns.Use(pattern, third, w.By())).Message,
            StringComparison.Ordinal
        );
        Assert.Empty(w.Sight.Of(third).Steps);
    }

    [Fact]
    public void Drops_that_a_campaign_had_become_its_steps_with_everyone_in_them()
    {
        using var w = new SequenceWorld(4, Monday);
        var drops = new DropStore(w.Database);
        var first = drops.CreateDrop(w.Campaign, "Notice", w.List, [w.Design], new(2027, 3, 2), w.By(), null, w.Surroundings);
        var second = drops.CreateDrop(w.Campaign, "Notice", w.List, [w.Design], new(2027, 3, 22), w.By(), null, w.Surroundings);
        w.Mail(first);
        w.Plan(CampaignMode.Together);
        var steps = w.Sight.Of(w.Campaign).Steps;
        Assert.Equal(["Notice", "Notice 2"], steps.Select(s => s.Name));
        Assert.Equal([new DateOnly(2027, 3, 1), new(2027, 3, 22)], steps.Select(s => s.MailOn!.Value));
        Assert.Equal([first, second], steps.Select(s => s.DropIds.Single()));
        w.Desk.Leave(w.Campaign, [w.Recipients()[0]], w.Today, LeaveReason.Responded, null, w.By());
        Assert.Equal(3, w.Ready(second));
    }

    [Fact]
    public void A_responder_is_found_by_their_own_number_first_and_by_the_piece()
    {
        using var w = new SequenceWorld(3, Monday);
        w.Plan(CampaignMode.Together);
        w.Step("First", new());
        var drop = w.Drops()[0].Id;
        w.Follow(drop);
        Assert.Empty(w.Responses.Find("2", null, w.Today));
        w.Mail(drop);
        var found = Assert.Single(w.Responses.Find(" m-2 ", null, w.Today));
        Assert.Equal(("—, Given2", "Renewal · First", (DateOnly?)null), (found.Name, found.Credited, found.Responded));
        w.Responses.Record(new(w.List, found.RecipientId, w.Today, ResponseKind.Paid, 5, null, "typed"), w.By());
        Assert.Equal(w.Today, Assert.Single(w.Responses.Find("#0002", w.Campaign, w.Today)).Responded);
        Assert.Empty(w.Responses.Find("M-9", null, w.Today));
        Assert.Empty(w.Responses.Find(" ", null, w.Today));
    }

    [Fact]
    public void A_response_counts_for_the_last_piece_within_the_window_and_is_never_counted_twice()
    {
        using var w = new SequenceWorld(3, Monday);
        w.Plan(CampaignMode.Together);
        w.Step("First", new());
        w.Step("Second", new(After: 10));
        foreach (var (drop, _, on) in w.Drops())
        {
            w.Today = on;
            w.Follow(drop);
            w.Mail(drop);
        }
        w.Today = new(2027, 6, 30);
        var import = w.Responses.Import(
            [
                new("M-1", new(2027, 3, 5), null, null, null),
                new("m-2 ", new(2027, 3, 15), 40, null, null),
                new("3", new(2027, 6, 1), null, null, null),
                new("M-9", new(2027, 3, 5), null, null, null),
                new("M-1", new(2027, 7, 1), null, null, null),
                new("M-1", new(2027, 3, 5), null, null, null),
            ],
            null,
            w.Today,
            w.By()
        );
        Assert.Equal((3, 1, 1), (import.Recorded, import.Known, import.NotCredited));
        Assert.Equal(["Line 4: no recipient has the number “M-9”.", "Line 5: Jul 1, 2027 is in the future."], import.NotFound);
        Assert.Equal(
            [(null, (long?)null), ("Renewal · Second", 4000), ("Renewal · First", null)],
            w.Responses.Last(5).Select(r => (r.Credited, r.Cents))
        );
        var report = new CampaignReports(w.Database, new(w.Database), () => w.Surroundings).Of(w.Campaign);
        Assert.Equal([(3L, 1L, 0L), (3, 1, 4000)], report.Steps.Select(s => (s.Mailed, s.Responses, s.Received)));
        Assert.Equal((3L, 2L, 1L), (report.People, report.Responded, report.NotCredited));
        Assert.Equal(1.0 / 3, report.Steps[0].Curve[4], 6);
        Assert.Equal(3, w.Responses.UndoBatch(import.Batch!.Value, w.By()));
        Assert.Empty(w.Sight.Of(w.Campaign).Left);
    }
}
