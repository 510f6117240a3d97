using System.Diagnostics;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Microsoft.Data.Sqlite;

namespace Bandeja.Bench;

/// <summary>Taking back an act over a whole drop beside doing it.</summary>
static class UndoBench
{
    const int People = 50_000;

    public static void Hold()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        try
        {
            var by = Actor.Person("Bench", DateTimeOffset.UnixEpoch);
            using var database = new Database(Path.Combine(folder, "bandeja.sqlite"));
            var writer = new RowWriter(
                database,
                "List",
                "list.csv",
                null,
                [new(1, "First", ColumnType.Text, Role.GivenName), new(2, "Last", ColumnType.Text, Role.FamilyName)],
                by
            );
            for (var i = 0; i < People; i++)
                writer.Add([$"Given{i}", $"Family{i}"]);
            writer.Finish([], null);
            var design = new DesignStore(database).Create("Notice", writer.ListId, "{}", by);
            var drops = new DropStore(database);
            var drop = drops.CreateDrop(new CampaignStore(database).Create("Spring", by), "First", writer.ListId, [design], null, by);
            var everybody =
                new BenchRows(database).Page(drop, new(), 0, 1).Total == People
                    ? Enumerable.Range(1, People).Select(i => (long)i).ToList()
                    : throw new InvalidOperationException();
            var bench = new BenchStore(
                database,
                new(database, () => new(Core.Language.OrganizationLocale.UnitedStates, new(2027, 3, 1), _ => true), (_, _, _, _, _) => { })
            );
            double hold = double.MaxValue,
                undo = double.MaxValue;
            for (var round = 0; round < 3; round++)
            {
                var watch = Stopwatch.StartNew();
                bench.Act(drop, everybody, DropEventKind.Held, "by hand", null, "Held", by);
                hold = Math.Min(hold, watch.Elapsed.TotalSeconds);
                watch.Restart();
                bench.Undo(drop, by);
                undo = Math.Min(undo, watch.Elapsed.TotalSeconds);
            }
            Bench.Line(
                $"undo of a hold of {People:N0}",
                $"{undo:0.00} s",
                $"{hold:0.00} s to hold",
                Bench.Ratio(undo / hold),
                "at most 2×",
                undo <= hold * 2
            );
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, true);
        }
    }
}
