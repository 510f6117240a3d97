using Bandeja.Core.Campaigns;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Bandeja.Store.Sequences;
using Dapper;

namespace Bandeja.Store.Tests;

/// <summary>A list and a design, and everything that campaigns with steps are made with; the day is set by the test.</summary>
sealed class SequenceWorld : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-steps").FullName;
    readonly Dictionary<long, long> lastRun = [];

    public SequenceWorld(int recipients, DateOnly today)
    {
        Today = today;
        Database = new(FreshDatabase.In(folder));
        Editor = new(Database, () => Surroundings, (_, _, _, _, _) => { });
        Bench = new(Database, Editor);
        var writer = new RowWriter(Database, "Members", "members.csv", null, Columns, By());
        for (var i = 1; i <= recipients; i++)
            writer.Add([$"M-{i}", $"Given{i}", i % 3 == 0 ? "Patron" : "Friend"]);
        writer.Finish([], null);
        List = writer.ListId;
        Design = new DesignStore(Database).Create("Letter", List, World.Document, By());
        Campaign = new CampaignStore(Database).Create("Renewal", By());
        Edits = new(Database, () => Surroundings);
        Desk = new(Database, () => Surroundings);
        Members = new(Database, () => Surroundings);
        Collection = new(Database, () => Surroundings);
        Responses = new(Database, Desk);
        Sight = new(Database);
    }

    public static readonly Column[] Columns =
    [
        new(1, "Number", ColumnType.Text, Role.Key),
        new(2, "First", ColumnType.Text, Role.GivenName),
        new(3, "Level", ColumnType.Text, Role.None),
    ];

    public DateOnly Today { get; set; }
    public ListSurroundings Surroundings => new(OrganizationLocale.UnitedStates, Today, _ => true);
    public Database Database { get; }
    public ListEditor Editor { get; }
    public BenchStore Bench { get; }
    public StepEdits Edits { get; }
    public CampaignDesk Desk { get; }
    public StepMembers Members { get; }
    public DailyCollection Collection { get; }
    public ResponseStore Responses { get; }
    public CampaignSight Sight { get; }
    public long List { get; }
    public long Design { get; }
    public long Campaign { get; }

    public Actor By() => Actor.Person("Marisol", new DateTimeOffset(Today.ToDateTime(new(9, 0)), TimeSpan.Zero));

    public void Plan(CampaignMode mode, Entry entry = Entry.ByHand, string stay = "", string entryFilter = "") =>
        Edits.Plan(Campaign, new(List, mode, Today, entry, entryFilter, stay, 60), By());

    public long Step(string name, StepTiming timing, StepWho who = StepWho.Everyone, string condition = "", long? before = null) =>
        Edits.Add(Campaign, new(name, [Design], timing, who, null, condition), before, By());

    public List<long> Recipients()
    {
        using var c = Database.Open();
        return [.. c.Query<long>($"SELECT id FROM {RowTable.Name(List)} WHERE gone IS NULL ORDER BY n")];
    }

    public long Add(string number) =>
        Editor.AddRecipients(
            List,
            [
                new Dictionary<int, string?>
                {
                    [1] = number,
                    [2] = "New",
                    [3] = "Friend",
                },
            ],
            By()
        )[0];

    /// <summary>As when a drop is checked: who belongs in it is in it, and who must not be is held.</summary>
    public void Follow(long drop)
    {
        Members.Follow(drop, By());
        Database.Write(c => AutoHolds.Sweep(c, drop, null, Surroundings, By()));
    }

    public List<(long Id, long Step, DateOnly MailOn)> Drops()
    {
        using var c = Database.Open();
        return
        [
            .. c.Query<(long, long, DateOnly)>(
                "SELECT id, step_id, mail_date FROM mail_drop WHERE campaign_id = @Campaign AND step_id IS NOT NULL ORDER BY id",
                new { Campaign }
            ),
        ];
    }

    public int Ready(long drop)
    {
        using var c = Database.Open();
        return new DropStore(Database).Trays(drop)[Tray.Ready];
    }

    /// <summary>Produces who is Ready, and marks them as mailed today.</summary>
    public long? Mail(long drop, Func<PlanCandidate, bool>? chosen = null)
    {
        if (Ready(drop) == 0)
            return null;
        var run = Produce(drop, chosen);
        Bench.MarkMailed(run, Today, null, By());
        return run;
    }

    public long Produce(long drop, Func<PlanCandidate, bool>? chosen = null)
    {
        var run = new RunFreezing(Database).Begin(drop, chosen ?? (_ => true), "Not chosen", "all Ready", null, Today, By());
        var life = new RunLife(Database);
        life.Start(run.Id);
        Assert.True(life.Complete(run.Id, [World.File(1000, (int)run.Pieces)], By()));
        lastRun[drop] = run.Id;
        return run.Id;
    }

    public Dictionary<(long Person, long Step), DateOnly> Mailed()
    {
        using var c = Database.Open();
        return c.Query<(long, long, DateOnly)>(
                "SELECT d.recipient_id, m.step_id, d.mailed_on FROM drop_recipient d JOIN mail_drop m ON m.id = d.drop_id WHERE "
                    + "m.campaign_id = @Campaign AND d.mailed_on IS NOT NULL",
                new { Campaign }
            )
            .ToDictionary(x => (x.Item1, x.Item2), x => x.Item3);
    }

    /// <summary>What must hold at any time: sums are what a recount says, and trays what the events alone say.</summary>
    public void MustAddUp()
    {
        using var c = Database.Open();
        Assert.Equal(
            c.Query<(long, string, string, long)>(
                """
                SELECT drop_id, tray, '', count(*) FROM drop_recipient GROUP BY drop_id, tray UNION ALL
                SELECT drop_id, 'on paper', mailed_on, count(*) FROM drop_recipient WHERE mailed_on IS NOT NULL
                    GROUP BY drop_id, mailed_on UNION ALL
                SELECT drop_id, 'by email', emailed_on, count(*) FROM drop_recipient WHERE emailed_on IS NOT NULL
                    GROUP BY drop_id, emailed_on
                ORDER BY 1, 2, 3
                """
            ),
            c.Query<(long, string, string, long)>("SELECT drop_id, what, day, pieces FROM drop_sum WHERE pieces <> 0 ORDER BY 1, 2, 3")
        );
        foreach (var (drop, _, _) in Drops())
        {
            var replayed = DropEvents.Replay(c, drop);
            foreach (
                var (id, tray) in c.Query<(long, string)>(
                    "SELECT recipient_id, tray FROM drop_recipient WHERE drop_id = @drop",
                    new { drop }
                )
            )
                Assert.Equal(replayed[id].ToString(), tray);
        }
    }

    public void Dispose()
    {
        Database.Dispose();
        Directory.Delete(folder, true);
    }
}
