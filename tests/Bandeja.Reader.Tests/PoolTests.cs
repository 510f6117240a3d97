using System.Diagnostics;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Work.Reading;

namespace Bandeja.Reader.Tests;

/// <summary>What happens to the process that reads: kept, replaced, stopped, ended with whoever asked.</summary>
public sealed class PoolTests : ReaderTests
{
    readonly List<ReaderPool> pools = [];

    ReaderPool Pool(Limits? limits = null, int atOnce = 2)
    {
        var pool = new ReaderPool(limits ?? Limits.Usual, atOnce);
        pools.Add(pool);
        return pool;
    }

    public override void Dispose()
    {
        pools.ForEach(p => p.Dispose());
        base.Dispose();
    }

    string Members(int rows) =>
        Files.Text("members.csv", "First,ZIP,Note\n" + string.Concat(Enumerable.Range(0, rows).Select(i => $"Ana {i},02139,\"a, b\"\n")));

    static int[] Begun(ReaderPool pool) => [.. pool.Idle.Select(p => p.Id)];

    [Fact]
    public void Rows_come_as_they_would_be_read_here()
    {
        var path = Files.Text(
            "a.csv",
            "First,Note\nAna,\"two\nlines\"\n\n,\nZoë 😀,\"=1\"\nx\n" + string.Concat(Enumerable.Repeat("Per,more\n", 20_000))
        );
        var own = SourceFile.Open(path, "a.csv");
        var options = own.Complete(new() { HeadingRow = 0 });
        using var here = own.Rows(options);
        using var there = Shared.List(path, "a.csv", Cancel).Rows(options);
        while (here.Read())
        {
            Assert.True(there.Read());
            Assert.Equal(here.Cells(), there.Cells());
            Assert.Equal(here.RowNumber, there.RowNumber);
        }
        Assert.False(there.Read());
        Assert.False(there.Read());
        Assert.Equal(1, there.Progress);
        Assert.Equal(here.Notes.Sentences(), there.Notes.Sentences());
    }

    [Fact]
    public void A_process_that_answered_is_used_again_and_so_is_one_that_refused()
    {
        var pool = Pool();
        var reader = Reader(pool);
        Look(Members(10), reader: reader);
        var first = Assert.Single(Begun(pool));
        Refused(() => Look(Files.Text("empty.csv", ""), reader: reader));
        Assert.Equal(first, Assert.Single(Begun(pool)));
    }

    [Fact]
    public void Whoever_leaves_ends_the_process_and_the_next_gets_another()
    {
        var pool = Pool();
        var reader = Reader(pool);
        var path = Members(200_000);
        Look(path, reader: reader);
        var first = Assert.Single(Begun(pool));
        using var leaving = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        using (var rows = reader.List(path, "members.csv", leaving.Token).Rows(new(HeadingRow: 0, Encoding: "utf-8", Delimiter: ",")))
        {
            Assert.True(rows.Read());
            leaving.Cancel();
            Assert.Throws<OperationCanceledException>(() =>
            {
                while (rows.Read()) { }
            });
        }
        Assert.Empty(Begun(pool));
        Assert.Throws<ArgumentException>(() => Process.GetProcessById(first));
        Assert.Equal(3, Look(path, reader: reader).Columns.Count);
    }

    [Fact]
    public void Whoever_stops_after_the_first_rows_leaves_nothing_behind()
    {
        var pool = Pool();
        using (
            var rows = Reader(pool)
                .List(Members(200_000), "members.csv", Cancel)
                .Rows(new(HeadingRow: 0, Encoding: "utf-8", Delimiter: ","))
        )
            Assert.True(rows.Read());
        Assert.Empty(Begun(pool));
    }

    [Fact]
    public void A_file_that_takes_too_much_memory_comes_to_a_message()
    {
        var reader = Reader(Pool(new(48 << 20, 2L << 30, 256 << 20, TimeSpan.FromSeconds(60))));
        var path = Files.Text(
            "a.json",
            "[" + string.Join(",", Enumerable.Range(0, 400_000).Select(i => $"{{\"First\": \"Ana {i}\"}}")) + "]"
        );
        var said = Assert.Throws<ListFileException>(() => Look(path, reader: reader)).Message;
        Assert.Contains("takes more than 48 MB of memory", said);
        // Whoever comes next is not concerned.
        Assert.Equal(3, Look(Members(10), reader: reader).Columns.Count);
    }

    [Fact]
    public void A_file_that_keeps_the_computer_busy_comes_to_a_message()
    {
        var reader = Reader(Pool(Limits.Usual with { Silence = TimeSpan.FromMilliseconds(300) }));
        var path = Path.Combine(Files.Folder, "a.sqlite");
        using (var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={path};Pooling=False"))
        {
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText = "CREATE TABLE t (a)";
            command.ExecuteNonQuery();
        }
        var said = Assert
            .Throws<ListFileException>(() =>
                Look(path, new(Query: "WITH RECURSIVE r(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM r) SELECT sum(n) FROM r"), reader)
            )
            .Message;
        Assert.Contains("seconds of computing", said);
    }

    [Fact]
    public void A_process_that_crashes_comes_to_a_message_and_into_the_log()
    {
        var pool = Pool();
        var reader = Reader(pool);
        var path = Members(200_000);
        Look(path, reader: reader);
        using (var rows = reader.List(path, "members.csv", Cancel).Rows(new(HeadingRow: 0, Encoding: "utf-8", Delimiter: ",")))
        {
            Assert.True(rows.Read());
            pool.Working.Single().Kill();
            var said = Assert
                .Throws<ListFileException>(() =>
                {
                    while (rows.Read()) { }
                })
                .Message;
            Assert.Contains("“members.csv” is damaged or in a form that cannot be read", said);
        }
        Assert.Contains(log.Lines, l => l.Contains("crashed"));
        Assert.Equal(3, Look(path, reader: reader).Columns.Count);
    }

    [Fact]
    public void What_nobody_foresaw_comes_to_a_message_and_into_the_log_and_ends_the_process()
    {
        var pool = Pool();
        var reader = Reader(pool);
        // A file that was there and is gone.
        var said = Assert
            .Throws<ListFileException>(() => reader.Accept(Path.Combine(Files.Folder, "gone.csv"), "gone.csv", Cancel))
            .Message;
        Assert.Contains("cannot be read", said);
        Assert.Contains(log.Lines, l => l.Contains("FileNotFoundException"));
        Assert.Empty(Begun(pool));
    }

    [Fact]
    public async Task No_more_read_at_once_than_there_is_room_for_and_whoever_waits_can_leave()
    {
        var pool = Pool(atOnce: 1);
        var reader = Reader(pool);
        var path = Members(200_000);
        var options = new SourceOptions(HeadingRow: 0, Encoding: "utf-8", Delimiter: ",");
        using (var rows = reader.List(path, "members.csv", Cancel).Rows(options))
        {
            Assert.True(rows.Read());
            using var leaving = new CancellationTokenSource();
            var waiting = Task.Run(() => reader.Accept(path, "members.csv", leaving.Token), Cancel);
            leaving.Cancel();
            await Assert.ThrowsAnyAsync<OperationCanceledException>(() => waiting);
        }
        reader.Accept(path, "members.csv", Cancel);
    }

    [Fact]
    public void It_is_confined_before_it_reads()
    {
        var pool = Pool();
        pool.Warm();
        Assert.Equal(2, Begun(pool).Length);
        foreach (var id in Begun(pool))
        {
            var limits = File.ReadAllLines($"/proc/{id}/limits");
            Assert.Contains(limits, l => l.StartsWith("Max data size") && l.Contains($" {Limits.Usual.Data} "));
            Assert.Contains(limits, l => l.StartsWith("Max core file size") && l.Contains(" 0 "));
            var surroundings = File.ReadAllText($"/proc/{id}/environ");
            Assert.Contains("DOTNET_GCHeapHardLimit=40000000", surroundings);
            Assert.DoesNotContain("CHROMIUM", surroundings);
        }
    }

    [Fact]
    public void Its_messages_are_in_the_culture_of_whoever_asks()
    {
        var before = System.Globalization.CultureInfo.CurrentCulture;
        try
        {
            System.Globalization.CultureInfo.CurrentCulture = new("de-DE");
            var path = Files.Text("a.json", $"[{{\"First\": \"{new string('x', 1_000_001)}\"}}]");
            Assert.Contains("1.000.000", Refused(() => Look(path)));
        }
        finally
        {
            System.Globalization.CultureInfo.CurrentCulture = before;
        }
    }
}
