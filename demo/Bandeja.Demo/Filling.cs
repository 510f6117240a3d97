using System.Text.Json.Nodes;
using Bandeja.Acts;
using Bandeja.Acts.Campaigns;
using Bandeja.Acts.Designs;
using Bandeja.Acts.Drops;
using Bandeja.Acts.People;
using Bandeja.Acts.Settings;
using Bandeja.Core.Campaigns;
using Bandeja.Core.Composition;
using Bandeja.Core.Contact;
using Bandeja.Core.Documents;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Server;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Devices;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.Proofs;
using Bandeja.Store.Runs;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;
using Bandeja.Work.Documents;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;
using Dapper;
using Microsoft.Extensions.DependencyInjection;

namespace Bandeja.Demo;

/// <summary>A clock that the demo sets, so that what happened weeks ago stands in the ledger as weeks ago.</summary>
sealed class StoryClock(DateTimeOffset now) : TimeProvider
{
    public DateTimeOffset Now { get; set; } = now;

    public override DateTimeOffset GetUtcNow() => Now;
}

/// <summary>Fills a data folder with the demo's world, through the same code that the server runs: a campaign in the middle of its
/// life.</summary>
public sealed class Filling
{
    const string Keeper = "Marisol Quint",
        Helper = "Tomás Reyes";
    readonly IServiceProvider services;
    readonly StoryClock clock;
    readonly DateOnly today;
    readonly string files;

    Filling(IServiceProvider services, StoryClock clock, string files) =>
        (this.services, this.clock, this.files, today) = (services, clock, files, DateOnly.FromDateTime(clock.Now.DateTime));

    /// <summary>Makes the data folder and fills it.</summary>
    /// <param name="files">Where the demo's files lie (demo/files).</param>
    /// <param name="now">The day that the demo is seen on: what is past and what is due is told from it.</param>
    public static void Fill(string data, string files, DateTimeOffset now)
    {
        var clock = new StoryClock(now);
        var app = Application.Build(new ServerOptions(data, Port: 0), b => b.Services.AddSingleton<TimeProvider>(clock));
        new Filling(app.Services, clock, files).Tell();
        ((IDisposable)app).Dispose();
    }

    T Get<T>()
        where T : notnull => services.GetRequiredService<T>();

    Actor By(string name) => Actor.Person(name, clock.Now);

    void At(int daysAgo, int hour) =>
        clock.Now = new DateTimeOffset(today.AddDays(-daysAgo).ToDateTime(new TimeOnly(hour, 12)), TimeSpan.Zero);

    void Tell()
    {
        Get<SettingStore>().Set(new("Fernquay Botanic Garden", "en-US", "USD", PostalAddress: "14 Quay Road\nFernquay, OR 97412"));
        At(40, 9);
        var members = BringIn("members.csv", "Members, spring 2027", Keeper);
        Around(members);
        var emblem = Get<PictureFiles>().Add("emblem.png", File.ReadAllBytes(Path.Combine(files, "emblem.png")), By(Keeper)).Id;
        var renewal = Get<CampaignStore>().Create("Membership renewal", By(Keeper));
        FirstNotice(members, renewal, emblem);
        RoofWorks(emblem);
        SecondNotice(members, renewal, emblem);
        At(2, 14);
        var last = Get<DesignStore>().Create("Last call", members, LetterTexts.LastCall(emblem).ToJsonString(), By(Keeper));
        Drop(renewal, "Last call", members, today.AddDays(75), Keeper, last);
        var fair = Get<DesignStore>().Create("Plant fair invitation", members, LetterTexts.PlantFair(emblem).ToJsonString(), By(Helper));
        var adopters = Get<DesignStore>().Create("Letter to adopters", members, LetterTexts.Adopters(emblem).ToJsonString(), By(Helper));
        var envelope = Get<DesignStore>()
            .Create("Fair envelope, No. 10", members, SurfaceTexts.Envelope(emblem).ToJsonString(), By(Helper), PieceKind.Envelope);
        var labels = Get<DesignStore>()
            .Create("Address labels", members, SurfaceTexts.AddressLabels().ToJsonString(), By(Keeper), PieceKind.Labels);
        var badges = Get<DesignStore>().Create("Fair badges", members, SurfaceTexts.Badges().ToJsonString(), By(Helper), PieceKind.Labels);
        Get<DesignStore>()
            .Change(badges, description: "For the members’ first hour; the code is " + "scanned at the gate", tagsJson: """["spring"]""");
        Get<PrinterStore>()
            .Save(
                new()
                {
                    Name = "Front office",
                    EnvelopeEdge = "short",
                    EnvelopeDown = -2,
                    SheetRight = 0.5,
                }
            );
        Drop(
            Get<CampaignStore>().Create("Spring plant fair", By(Helper)),
            "Invitation",
            members,
            today.AddDays(60),
            Helper,
            fair,
            envelope,
            labels
        );
        Get<DesignStore>()
            .Change(
                adopters,
                description: "News of adopted plants, with a table for members who adopted some",
                tagsJson: """["spring","adoption"]"""
            );
        Get<DesignStore>().Change(last, description: "The last letter in the renewal series", tagsJson: """["renewal"]""");
        Get<DesignStore>().Change(fair, tagsJson: """["spring"]""");
        // The same invitation once more, by email where there is an address.
        var email = Get<DesignStore>()
            .Create("Plant fair, by email", members, LetterTexts.FairByEmail(emblem, fair).ToJsonString(), By(Helper), PieceKind.Email);
        Get<DesignStore>().Change(email, description: "With the letter attached to show at the gate", tagsJson: """["spring"]""");
        var reminder = Drop(
            Get<DropStore>().Drops().Single(d => d.Package.Any(p => p.DesignId == labels)).CampaignId,
            "Reminder",
            members,
            today.AddDays(72),
            Helper,
            fair,
            envelope,
            email
        );
        Get<DropStore>().SetChannels(reminder, new(Core.Mail.ChannelBy.Address));
        Get<DropChecker>().CheckAll(reminder, By("Bandeja"), (_, _) => { }, CancellationToken.None);
        var welcome = Letter("welcome-back.docx", members);
        var plot = Form("nursery-plot.pdf", members);
        Steps(renewal, members);
        AcrossCampaigns(members, renewal, plot);
        OneByOne(members, welcome, fair);
        Finish();
    }

    /// <summary>What the acts asked for is done before the first visitor comes. What one campaign plans counts for the others: a drop that
    /// was checked may leave another out of date.</summary>
    void Finish()
    {
        var (checks, drops) = (Get<CheckRequests>(), Get<DropStore>().Drops().Count);
        foreach (var list in Get<ListStore>().All())
            Get<ListWork>().Check(list.Id);
        Do(JobNames.ListCheck);
        checks.AllPeople();
        Do(JobNames.People);
        do checks.All();
        while (Do(JobNames.Check) && drops-- > 0);
    }

    /// <summary>Does what is queued of a kind; false where there was nothing.</summary>
    bool Do(string name)
    {
        var (jobs, by) = (Get<JobStore>(), By("Bandeja"));
        var kind = services.GetServices<IJobKind>().Single(k => k.Kind == name);
        var any = false;
        for (; jobs.Next(name, by) is { } job; any = true)
        {
            jobs.Start(job.Id);
            jobs.End(job.Id, RunState.Done, kind.Work(job, (_, _) => { }, CancellationToken.None), by);
        }
        return any;
    }

    /// <summary>What holds over all campaigns: nobody gets three letters within three weeks, and the renewal goes before the rest; a
    /// pattern for next year; a day on which nothing leaves; who does the review; a recipient's own document.</summary>
    void AcrossCampaigns(long members, long renewal, long plot)
    {
        At(1, 16);
        var performer = Get<Performer>();
        var drops = Get<DropStore>().Drops();
        performer.Perform(Get<SetContactLimits>(), new([new(Channel.Paper, 2, 21, ContactCount.Person)]), By(Keeper));
        foreach (var drop in drops.Where(d => d.CampaignId == renewal))
            performer.Perform(Get<SetPriority>(), new(drop.Id, MailPriority.First), By(Keeper));
        performer.Perform(Get<SavePattern>(), new(renewal, "Renewal in three letters"), By(Keeper));
        performer.Perform(
            Get<SetCalendar>(),
            CalendarSetting.First with
            {
                Holidays = [new(today.AddDays(61), "Seed counting; the garden office is closed")],
            },
            By(Keeper)
        );
        var second = drops.Single(d => d.CampaignId == renewal && d.Name == "Second notice");
        performer.Perform(Get<MarkWork>(), new($"{WorkKind.Review}:{second.Id}", Assign: true, To: Helper), By(Keeper));
        var applicant = Get<LetterBench>().Recipient(members, 4, null)!;
        var (_, page) = Get<LetterBench>().Compose(Get<DesignStore>().Newest(plot).DocumentJson, plot, members, applicant);
        performer.Perform(
            Get<AddPersonNote>(),
            new(members, applicant.Id, "Called about a nursery plot. Bed 4, if it is free; sends the application this week."),
            By(Helper)
        );
        performer.Perform(
            Get<KeepPersonFile>(),
            new(members, applicant.Id, "Plot application.pdf", Get<Letters>().ToPdf([page], "Application for a nursery plot")),
            By(Helper)
        );
    }

    /// <summary>The renewal goes in steps: who renews leaves it. Three did after their second notice was produced.</summary>
    void Steps(long renewal, long members)
    {
        At(1, 16);
        Get<StepEdits>().Plan(renewal, new(members, CampaignMode.Together, today.AddDays(-30), Entry.ByHand, "", "", 60), By(Keeper));
        var drops = Get<DropStore>().Drops().Where(d => d.CampaignId == renewal).OrderBy(d => d.Number).Select(d => d.Id).ToList();
        var mailed = InTray(drops[0], Tray.Mailed).ToHashSet();
        var renewed = InTray(drops[1], Tray.Ready)
            .Where(mailed.Contains)
            .Where((_, i) => i % 7 == 3)
            .Concat(InTray(drops[1], Tray.Produced).Where(mailed.Contains).Where((_, i) => i % 70 == 20).Take(3))
            .ToList();
        var responses = Get<ResponseStore>();
        for (var i = 0; i < renewed.Count; i++)
        {
            // Most answer in the first two weeks.
            var after = 3 + i * 37 % 11 + (i % 4 == 0 ? i * 13 % 14 : 0);
            responses.Record(
                new(
                    members,
                    renewed[i],
                    today.AddDays(Math.Min(-1, after - 30)),
                    i % 9 == 0 ? ResponseKind.Responded : ResponseKind.Paid,
                    i % 9 == 0
                        ? null
                        : (i % 5) switch
                        {
                            0 => 120,
                            1 or 2 => 64,
                            _ => 40,
                        },
                    i % 9 == 0 ? "renewed at the gate" : null,
                    "typed",
                    renewal
                ),
                By(i % 3 == 0 ? Helper : Keeper)
            );
        }
        foreach (var drop in drops)
            Get<DropChecker>().CheckAll(drop, By("Bandeja"), (_, _) => { }, CancellationToken.None);
    }

    /// <summary>New members are welcomed one by one: what is due in a week is collected for one day of it.</summary>
    void OneByOne(long members, long welcome, long fair)
    {
        At(1, 17);
        var campaign = Get<CampaignStore>().Create("Welcome to new members", By(Helper));
        Get<StepEdits>().Plan(campaign, new(members, CampaignMode.OneByOne, today.AddDays(-20), Entry.Added, "", "", 60), By(Helper));
        // Ready a working day before, so collected today, on whatever day of the week that is.
        var due = WorkCalendar.Usual.Next(today);
        Get<StepEdits>().Add(campaign, new("Welcome", [welcome], new(Weekday: due.DayOfWeek)), null, By(Helper));
        Get<StepEdits>().Add(campaign, new("First visit", [fair], new(After: 30, ReadyDays: 2)), null, By(Helper));
        using (var c = Get<Database>().Open())
        {
            var newest = c.Query<long>($"SELECT id FROM {RowTable.Name(members)} WHERE gone IS NULL ORDER BY n DESC LIMIT 31").ToList();
            for (var i = 0; i < newest.Count; i++)
                Get<CampaignDesk>().Enter(campaign, [newest[i]], due.AddDays(-1 - i % 5));
        }
        clock.Now = new DateTimeOffset(today.ToDateTime(new TimeOnly(7, 2)), TimeSpan.Zero);
        foreach (var drop in Get<DailyCollection>().Run(campaign, By("Bandeja")))
            Get<DropChecker>().CheckAll(drop, By("Bandeja"), (_, _) => { }, CancellationToken.None);
    }

    /// <summary>An application for a plot, filled in as far as the list goes; the date of birth is nobody's yet.</summary>
    long Form(string file, long list)
    {
        var order = new FormToStart("Application for a nursery plot", file, File.ReadAllBytes(Path.Combine(files, file)), list);
        var id = Get<Performer>().Perform(Get<StartForm>(), order, By(Helper));
        var designs = Get<DesignStore>();
        var newest = designs.Newest(id);
        var form = JsonNode.Parse(newest.DocumentJson)!.AsObject();
        var answers = form["answers"]!.AsObject();
        foreach (
            var (field, answer) in new Dictionary<string, string>
            {
                ["addr1"] = "{Street}",
                ["addr2"] = "{Street 2}",
                ["memno"] = "{`No.`}",
                ["since"] = "{Member since}",
                ["valid"] = "{Renewal date | date short}",
                ["due"] = "{Amount due | money}",
                ["news"] = "{Newsletter}",
                ["name_full"] = "{First} {Last}",
                ["wish"] = "",
                ["bed"] = "",
                ["rules"] = "",
                ["town_date"] = "",
            }
        )
            answers[field] = answer;
        form["boxes"] = new JsonArray(
            new JsonObject
            {
                ["id"] = "number",
                ["page"] = 0,
                ["x"] = 150,
                ["y"] = 8,
                ["width"] = 47,
                ["height"] = 6,
                ["size"] = 8,
                ["align"] = "right",
                ["color"] = "#6b6558",
                ["value"] = "{`No.`}, page {Page number} of {Page count}",
            }
        );
        designs.Save(id, newest.Number, newest.Revision, form.ToJsonString(), By(Helper), beside: false);
        designs.Change(id, description: "The garden office’s own PDF; goes out with the spring letter", tagsJson: """["spring"]""");
        return id;
    }

    /// <summary>A letter that came from a word processor.</summary>
    long Letter(string file, long list)
    {
        var (uploads, id) = (Get<Uploads>(), Guid.NewGuid().ToString("N"));
        File.Copy(Path.Combine(files, file), uploads.PathOf(id));
        uploads.Keep(id, file, By(Helper), (_, name) => Get<BroughtLetters>().Read(id, name, default));
        var choices = new DocumentChoices(
            list,
            Answers: new Dictionary<string, PlaceholderAnswer>
            {
                ["sample:address"] = new(AnswerKind.Field, "Delivery address"),
                ["signer"] = new(AnswerKind.Text, Keeper),
            },
            Marks: ["{{name}}", "«name»", "[name]"]
        );
        var made = Get<Performer>().Perform(Get<StartFromDocument>(), new DocumentToStart(id, "Welcome back", choices), By(Helper));
        Get<DesignStore>().Change(made, description: "From the office's own file", tagsJson: """["renewal"]""");
        return made;
    }

    long BringIn(string name, string listName, string by)
    {
        var server = Get<ServerOptions>();
        var id = Guid.NewGuid().ToString("N");
        var path = Path.Combine(server.Folder("uploads"), id);
        File.Copy(Path.Combine(files, name), path);
        Get<Database>()
            .Write(c =>
                c.Execute(
                    "INSERT INTO upload (id, name, size, at, by) VALUES (@id, @name, @size, @Stamp, @Name)",
                    new
                    {
                        id,
                        name,
                        size = new FileInfo(path).Length,
                        By(by).Stamp,
                        By(by).Name,
                    }
                )
            );
        var file = SourceFile.Open(path, name);
        var look = file.Look(new(), ListCustoms.UnitedStates);
        var columns = look.Columns.Select((c, i) => new ImportColumn(i, c.Name, c.Type, c.DateOrder, c.Role, Format: c.Format)).ToList();
        var options = new SourceOptions(look.Sheet, look.HeadingRow, look.Encoding, look.Delimiter, look.HeadingSpan);
        return ImportJob.BringIn(
            Get<Database>(),
            file,
            new(id, name, listName, options, columns.Count, columns),
            Countries.Named("US")!,
            By(by),
            (_, _) => { },
            CancellationToken.None
        );
    }

    /// <summary>What belongs to the members beside their list: the plants they adopted, segments, and who must not be mailed.</summary>
    void Around(long members)
    {
        const string plants = "adopted-plants.csv";
        var file = SourceFile.Open(Path.Combine(files, plants), plants);
        var look = file.Look(new(), ListCustoms.UnitedStates);
        var columns = look.Columns.Select((c, i) => new ImportColumn(i, c.Name, c.Type, c.DateOrder, c.Role, Format: c.Format)).ToList();
        DetailJob.BringIn(
            Get<DetailStore>(),
            file,
            new(
                members,
                "Plants",
                0,
                new("", plants, "Plants", new(look.Sheet, look.HeadingRow, look.Encoding, look.Delimiter), columns.Count, columns)
            ),
            Countries.Named("US")!,
            By(Keeper),
            (_, _) => { },
            CancellationToken.None
        );
        Get<SegmentStore>().Add(members, "Renewal in February", "`Renewal date` between \"2027-02-01\" and \"2027-02-28\"", "", By(Keeper));
        Get<SegmentStore>().Add(members, "Adopted a plant", "count(Plants) > 0", "", By(Helper));
        var asked = Get<SuppressionStore>().Create("Do not mail", By(Keeper));
        Get<SuppressionStore>()
            .Add(
                asked,
                [
                    new(null, null, null, null, null, "F-00137", "asked by phone", null),
                    new(null, null, null, null, null, "F-00590", "moved to the coast, will write", today.AddDays(200)),
                    new("Ines Lockridge", "18 Quay Road", "Fernquay", "97412", null, null, "returned unopened", null),
                ],
                By(Keeper)
            );
    }

    long Drop(long campaign, string name, long list, DateOnly mailDate, string by, params long[] designs)
    {
        var drop = Get<DropStore>().CreateDrop(campaign, name, list, designs, mailDate, By(by));
        Get<DropChecker>().CheckAll(drop, By("Bandeja"), (_, _) => { }, CancellationToken.None);
        return drop;
    }

    List<long> InTray(long drop, Tray tray) => [.. Get<BenchRows>().Ids(drop, new(tray))];

    RunRow Produce(long drop, string? pieces, string by)
    {
        var range = pieces is null ? null : PieceRange.Parse(pieces, out _);
        var run = Get<RunFreezing>()
            .Begin(
                drop,
                c => range?.Contains(c.PieceNumber) ?? true,
                "Not in this range",
                pieces is null ? "all Ready" : $"pieces {pieces}",
                null,
                DateOnly.FromDateTime(clock.Now.DateTime),
                By(by),
                // What a sheet, an envelope, and presorted postage come to.
                new() { Counted = plan => (new Dictionary<long, int>(), plan.Pieces.Count * 0.34m) }
            );
        var job = Get<JobStore>().Next(JobNames.Run, By(by))!;
        services.GetServices<IJobKind>().OfType<RunJob>().Single().Work(job, (_, _) => { }, CancellationToken.None);
        return run;
    }

    void FirstNotice(long members, long campaign, string emblem)
    {
        var bench = Get<BenchStore>();
        At(38, 10);
        var design = Get<DesignStore>().Create("First notice", members, LetterTexts.FirstNotice(emblem).ToJsonString(), By(Keeper));
        var drop = Drop(campaign, "First notice", members, today.AddDays(-30), Keeper, design);
        At(34, 11);
        foreach (
            var group in Get<DropIssues>()
                .Groups(drop)
                .Where(g =>
                    g.Kind is nameof(PieceIssueKind.MissingGlyph) or nameof(PieceIssueKind.TooWide) or nameof(PieceIssueKind.RunsOver)
                )
        )
            bench.Accept(drop, null, group.Alike, By(Keeper));
        bench.Act(drop, InTray(drop, Tray.NeedsReview), DropEventKind.Held, "Data missing; write by hand", null, "Held", By(Keeper));
        bench.Act(
            drop,
            [.. InTray(drop, Tray.Ready).Where((_, i) => i % 97 == 11)],
            DropEventKind.Held,
            "Do not mail",
            null,
            "Held",
            By(Helper)
        );
        At(31, 15);
        var run = Produce(drop, null, Keeper);
        At(30, 16);
        bench.MarkMailed(run.Id, today.AddDays(-30), null, By(Keeper));
        At(17, 9);
        bench.Act(
            drop,
            [.. InTray(drop, Tray.Mailed).Where((_, i) => i % 131 == 40)],
            DropEventKind.Returned,
            "moved, left no address",
            DateOnly.FromDateTime(clock.Now.DateTime),
            "Recorded return of",
            By(Helper)
        );
        bench.Act(
            drop,
            [.. InTray(drop, Tray.Mailed).Where((_, i) => i % 301 == 77)],
            DropEventKind.Returned,
            "no such number",
            DateOnly.FromDateTime(clock.Now.DateTime),
            "Recorded return of",
            By(Helper)
        );
    }

    void SecondNotice(long members, long campaign, string emblem)
    {
        var bench = Get<BenchStore>();
        At(6, 9);
        var design = Get<DesignStore>().Create("Second notice", members, LetterTexts.SecondNotice(emblem).ToJsonString(), By(Keeper));
        var drop = Drop(campaign, "Second notice", members, today.AddDays(5), Keeper, design);
        At(5, 10);
        var returned = Get<DropStore>().Drops().First(d => d.Name == "First notice").Id;
        bench.Act(drop, InTray(returned, Tray.Returned), DropEventKind.Held, "First notice was returned", null, "Held", By(Keeper));
        bench.Act(
            drop,
            [.. InTray(drop, Tray.Ready).Where((_, i) => i % 89 == 5)],
            DropEventKind.Held,
            "renewed at the gate",
            null,
            "Held",
            By(Helper)
        );
        At(4, 14);
        var run = Produce(drop, "1-320", Keeper);
        At(3, 16);
        bench.MarkMailed(run.Id, today.AddDays(-3), PieceRange.Parse("1-120", out _), By(Keeper));
        At(2, 11);
        Print(drop, "321-380");
        At(2, 15);
        LookAtSome(drop);
    }

    /// <summary>A run on the practice printer, in which a sheet jams.</summary>
    void Print(long drop, string pieces)
    {
        var practice = Get<PracticeStore>();
        var printer = practice.All()[0].PrinterId;
        var range = PieceRange.Parse(pieces, out _)!;
        var run = Get<RunFreezing>()
            .Begin(
                drop,
                c => range.Contains(c.PieceNumber),
                "Not in this range",
                $"pieces {pieces}",
                null,
                DateOnly.FromDateTime(clock.Now.DateTime),
                By(Helper),
                new()
                {
                    Output = RunOutput.Print,
                    DeviceId = printer,
                    SettingsJson = new RunSettings(BatchOf: 25, BreakSheets: true, Postage: "Presorted letters").ToJson(),
                }
            );
        using var stop = new CancellationTokenSource();
        var rollers = Task.Run(() =>
        {
            for (var step = 0; !stop.IsCancellationRequested; step++)
            {
                if (step == 40)
                    practice.Jam(printer, true);
                practice.Print(printer, 1, clock.Now);
                practice.Jam(printer, false);
                Thread.Sleep(1);
            }
        });
        services
            .GetServices<IJobKind>()
            .OfType<PrintJob>()
            .Single()
            .Work(Get<JobStore>().Get(Get<RunStore>().Get(run.Id).JobId!.Value), (_, _) => { }, CancellationToken.None);
        stop.Cancel();
        rollers.Wait();
    }

    /// <summary>Most of the proof set is looked at; one of it is wrong.</summary>
    void LookAtSome(long drop)
    {
        var (sets, proofs) = (Get<ProofSets>(), Get<ProofStore>());
        using var c = Get<Database>().Open();
        var row = DropStore.Drop(c, drop);
        var members = sets.Of(drop).Set.Members;
        var people = DropStore.Recipients(c, row, RowTable.Columns(c, row.ListId), [.. members.Select(m => m.RecipientId)]);
        var marks = sets.Marks(c, row, people);
        foreach (var (member, n) in members.Select((m, n) => (m, n)).SkipLast(4))
            proofs.Look(
                drop,
                member.RecipientId,
                n == 2 ? "wrong" : "right",
                n == 2 ? "The salutation reads “Dear ,” with no name" : null,
                marks[member.RecipientId],
                By(n % 3 == 0 ? Helper : Keeper)
            );
    }

    void RoofWorks(string emblem)
    {
        At(20, 11);
        var neighbors = BringIn("neighbors.xlsx", "Neighbors of the glasshouse", Helper);
        var design = Get<DesignStore>().Create("Glasshouse roof work", neighbors, LetterTexts.RoofWorks(emblem).ToJsonString(), By(Helper));
        var drop = Drop(
            Get<CampaignStore>().Create("Glasshouse roof", By(Helper)),
            "Notice to neighbors",
            neighbors,
            today.AddDays(-15),
            Helper,
            design
        );
        At(16, 13);
        var run = Produce(drop, null, Helper);
        At(15, 15);
        Get<BenchStore>().MarkMailed(run.Id, today.AddDays(-15), null, By(Helper));
    }
}
