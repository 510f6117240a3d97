using System.Diagnostics;
using Bandeja.Core.Campaigns;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Sequences;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Bench;

/// <summary>Campaigns at size: a million people one by one, and two hundred campaigns of twelve steps with ten million rows in the
/// ledger.</summary>
static class CampaignBench
{
    const int People = 1_000_000,
        DueADay = 10_000,
        Campaigns = 200,
        Steps = 12,
        Pieces = 10_000_000;
    static readonly DateOnly Today = new(2027, 3, 1);

    static ListSurroundings Surroundings => new(OrganizationLocale.UnitedStates, Today, _ => true);

    public static void Collect()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        try
        {
            var by = Actor.Person("Bench", new DateTimeOffset(Today.ToDateTime(new(9, 0)), TimeSpan.Zero));
            using var database = new Database(Path.Combine(folder, "bandeja.sqlite"));
            var (list, design) = Make(database, People, by);
            var campaign = new CampaignStore(database).Create("Welcome", by);
            var edits = new StepEdits(database, () => Surroundings);
            edits.Plan(campaign, new(list, CampaignMode.OneByOne, Today, Entry.ByHand, "", "", 60), by);
            var step = edits.Add(campaign, new("Welcome", [design], new(ReadyDays: 0)), null, by);
            database.Write(c =>
                c.Execute(
                    $"""
                    INSERT INTO campaign_person (campaign_id, recipient_id, entered_on, next_step_id, due_on)
                    SELECT @campaign, id, '2027-02-01', @step, date('2027-03-01', '+' || ((n - 1) / {DueADay}) || ' days')
                    FROM {RowTable.Name(list)}
                    """,
                    new { campaign, step }
                )
            );
            var today = Today;
            var collection = new DailyCollection(database, () => Surroundings with { Today = today });
            double took = double.MaxValue,
                plain = double.MaxValue;
            // A day's work three times, as a server that runs does it: each time for the next day's people.
            for (var round = 0; round < 3; round++)
            {
                today = Today.AddDays(round);
                var watch = Stopwatch.StartNew();
                using (var c = database.Open())
                    c.ExecuteScalar<long>(
                        $"SELECT sum(length(r.find) + (p.due_on <= '{today:yyyy-MM-dd}')) FROM campaign_person p "
                            + $"JOIN {RowTable.Name(list)} r ON r.id = p.recipient_id"
                    );
                plain = Math.Min(plain, watch.Elapsed.TotalSeconds);
                watch.Restart();
                var drops = collection.Run(campaign, by);
                took = Math.Min(took, watch.Elapsed.TotalSeconds);
                using var after = database.Open();
                var collected = after.QuerySingle<long>(
                    "SELECT count(*) FROM drop_recipient WHERE drop_id = @drop",
                    new { drop = drops.Single() }
                );
                if (collected != DueADay)
                    throw new InvalidOperationException($"{collected} were collected.");
            }
            Bench.Line(
                $"{DueADay:N0} due of {People:N0} one by one, collected into their drop",
                $"{took:0.00} s",
                $"{plain:0.00} s, one plain SQL pass over the same rows",
                Bench.Ratio(took / plain),
                "at most 3×, under 60 s",
                took <= plain * 3 && took < 60
            );
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, true);
        }
    }

    public static void Ledger()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        try
        {
            var by = Actor.Person("Bench", new DateTimeOffset(Today.ToDateTime(new(9, 0)), TimeSpan.Zero));
            using var database = new Database(Path.Combine(folder, "bandeja.sqlite"));
            var people = Pieces / Campaigns / Steps;
            var (list, design) = Make(database, people, by);
            var edits = new StepEdits(database, () => Surroundings);
            var first = 0L;
            for (var k = 0; k < Campaigns; k++)
            {
                var campaign = new CampaignStore(database).Create($"Campaign {k + 1}", by);
                first = first == 0 ? campaign : first;
                edits.Plan(campaign, new(list, CampaignMode.Together, Today.AddDays(-300), Entry.ByHand, "", "", 60), by);
                for (var s = 0; s < Steps; s++)
                    edits.Add(campaign, new($"Step {s + 1}", [design], new(After: 20)), null, by);
                database.Write(c =>
                {
                    c.Execute(
                        $"""
                        INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray, mailed_on)
                        SELECT m.id, r.id, r.n, 'Mailed', '2026-12-15' FROM mail_drop m JOIN {RowTable.Name(list)} r
                        WHERE m.campaign_id = @campaign
                        """,
                        new { campaign }
                    );
                    // Sums of days follow changes; these rows were never changed.
                    c.Execute(
                        """
                        INSERT INTO drop_sum SELECT drop_id, 'on paper', mailed_on, count(*) FROM drop_recipient
                        WHERE drop_id IN (SELECT id FROM mail_drop WHERE campaign_id = @campaign) GROUP BY drop_id, mailed_on
                        """,
                        new { campaign }
                    );
                    c.Execute(
                        $"""
                        INSERT INTO response (list_id, recipient_id, on_date, kind, cents, source, drop_id, at, by)
                        SELECT @list, recipient_id, '2026-12-20', 'Paid', 4000, 'file', drop_id, '', '' FROM drop_recipient
                        WHERE drop_id = (SELECT min(id) FROM mail_drop WHERE campaign_id = @campaign) AND piece_number % 10 = 0
                        """,
                        new { campaign, list }
                    );
                });
            }
            var reports = new CampaignReports(database, new(database), () => Surroundings);
            var sight = new CampaignSight(database);
            void Measure(string what, Action ours)
            {
                double took = double.MaxValue,
                    plain = double.MaxValue;
                for (var round = 0; round < 3; round++)
                {
                    var watch = Stopwatch.StartNew();
                    ours();
                    took = Math.Min(took, watch.Elapsed.TotalMilliseconds);
                    watch.Restart();
                    using var c = database.Open();
                    c.Query<(string, long)>(
                            "SELECT tray, count(*) FROM drop_recipient d JOIN mail_drop m ON m.id = d.drop_id WHERE m.campaign_id = "
                                + "@first GROUP BY tray",
                            new { first }
                        )
                        .ToList();
                    plain = Math.Min(plain, watch.Elapsed.TotalMilliseconds);
                }
                Bench.Line(
                    $"{what}, {Pieces / 1_000_000} million pieces in {Campaigns} campaigns",
                    $"{took:0} ms",
                    $"{plain:0} ms, counting the campaign's trays by plain SQL",
                    Bench.Ratio(took / plain),
                    "under 300 ms",
                    took < 300
                );
            }
            Measure("the page of a campaign", () => sight.Of(first));
            Measure("a page of its people", () => sight.People(first, null, PeopleOf.All, 0, 100));
            Measure("its report", () => reports.Of(first));
            Measure("its report by a column", () => reports.By(first, ReportBy.Column, 3));
            Measure("what is to be done today", () => new WorkList(database, new(database)).Of(Today, (_, _) => false));
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, true);
        }
    }

    static (long List, long Design) Make(Database database, int people, Actor by)
    {
        var writer = new RowWriter(
            database,
            "List",
            "list.csv",
            null,
            [
                new(1, "Number", ColumnType.Text, Role.Key),
                new(2, "Name", ColumnType.Text, Role.FullName),
                new(3, "Level", ColumnType.Text, Role.None),
            ],
            by
        );
        for (var i = 0; i < people; i++)
            writer.Add([$"M-{i}", $"Given{i} Family{i}", $"Level {i % 5}"]);
        writer.Finish([], null);
        return (writer.ListId, new DesignStore(database).Create("Notice", writer.ListId, "{}", by));
    }
}
