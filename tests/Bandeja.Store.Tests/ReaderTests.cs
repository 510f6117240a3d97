using System.Collections.Concurrent;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Tests;

/// <summary>Connections for reading: each in one pair of hands, each a view of the data as it is when it begins.</summary>
public sealed class ReaderTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-readers").FullName;
    readonly Database database;

    public ReaderTests()
    {
        database = new(Path.Combine(folder, "a.sqlite"));
        database.Write(c => c.Execute("INSERT INTO setting VALUES ('n', '0')"));
    }

    public void Dispose()
    {
        database.Dispose();
        Directory.Delete(folder, true);
    }

    static int Number(SqliteConnection c) => c.QuerySingle<int>("SELECT CAST(value AS INTEGER) FROM setting WHERE key = 'n'");

    [Fact]
    public async Task Whoever_reads_has_a_connection_alone_and_sees_what_was_written_before()
    {
        var inUse = new ConcurrentDictionary<SqliteConnection, bool>();
        var written = 0;
        using var over = new CancellationTokenSource();
        var writer = Task.Run(() =>
        {
            for (var n = 1; n <= 300; n++)
            {
                database.Write(c => c.Execute("UPDATE setting SET value = @n WHERE key = 'n'", new { n }));
                Volatile.Write(ref written, n);
            }
            over.Cancel();
        });
        var readers = Enumerable
            .Range(0, 8)
            .Select(_ =>
                Task.Run(() =>
                {
                    do
                    {
                        var least = Volatile.Read(ref written);
                        using var c = database.Open();
                        Assert.True(inUse.TryAdd(c, true), "two readers have one connection");
                        var first = Number(c);
                        Assert.InRange(first, least, 300);
                        Assert.Equal(first, Number(c));
                        Assert.True(inUse.TryRemove(c, out var _));
                    } while (!over.IsCancellationRequested);
                })
            )
            .ToList();
        await Task.WhenAll([writer, .. readers]);
        using var last = database.Open();
        Assert.Equal(300, Number(last));
    }

    [Fact]
    public void A_query_that_nobody_finished_keeps_its_view_from_nobody_else()
    {
        using (var c = database.Open())
        {
            // Left in the middle, as by whoever throws while going through rows.
            var rows = c.Query<string>("SELECT value FROM setting UNION ALL SELECT 'more'", buffered: false).GetEnumerator();
            Assert.True(rows.MoveNext());
        }
        database.Write(c => c.Execute("UPDATE setting SET value = '7' WHERE key = 'n'"));
        using var next = database.Open();
        Assert.Equal(7, Number(next));
    }

    [Fact]
    public void Closing_twice_gives_a_connection_back_once()
    {
        var c = database.Open();
        c.Dispose();
        c.Dispose();
        c.Close();
        using var one = database.Open();
        using var other = database.Open();
        Assert.NotSame(one, other);
        Assert.Equal((0, 0), (Number(one), Number(other)));
    }

    [Fact]
    public async Task What_is_held_is_one_view_until_it_ends()
    {
        using (database.Hold())
        {
            using (var c = database.Open())
                Assert.Equal(0, Number(c));
            await Task.Run(() => database.Write(c => c.Execute("UPDATE setting SET value = '5' WHERE key = 'n'")), CancellationToken.None);
            using var again = database.Open();
            Assert.Equal(0, Number(again));
        }
        using var after = database.Open();
        Assert.Equal(5, Number(after));
    }

    [Fact]
    public void Reading_cannot_write()
    {
        using var c = database.Open();
        Assert.Throws<SqliteException>(() => c.Execute("UPDATE setting SET value = '9'"));
    }
}
