using System.Globalization;
using System.Net.Http.Json;
using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Server;
using Bandeja.Store;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;
using CsvHelper;
using CsvHelper.Configuration;
using Microsoft.Data.Sqlite;

namespace Bandeja.Bench;

/// <summary>A list of 100,000 rows and 20 columns: brought in, and its first page asked for.</summary>
static class ListBench
{
    const int Rows = 100_000;
    static readonly string[] Headings =
    [
        "No.",
        "Title",
        "First",
        "Last",
        "Organization",
        "Street",
        "Street 2",
        "City",
        "State",
        "ZIP",
        "Country",
        "Email",
        "Phone",
        "Level",
        "Member since",
        "Renewal date",
        "Amount due",
        "Last gift",
        "Newsletter",
        "Note",
    ];
    static readonly Actor By = Actor.Person("Bench", DateTimeOffset.UnixEpoch);

    static string MakeFile(string folder)
    {
        var path = Path.Combine(folder, "list.csv");
        using var writer = new StreamWriter(path, false, new UTF8Encoding(false));
        writer.WriteLine(string.Join(',', Headings));
        for (var i = 0; i < Rows; i++)
            writer.WriteLine(
                $"F-{i:000000},Ms,Given{i % 977},Family{i % 7919},,\"{i % 2400} Lantern "
                    + $"Row\",,Fernquay,OR,0{1000 + i % 9000},,g{i}@example.org,(541) "
                    + $"555-01{i % 100:00},Friend,{1990 + i % 37},{1 + i % 12:00}/{1 + i % 28:00}/2027,{i % 1000}.50,{i % 40 * 5},"
                    + $"{(i % 3 == 0 ? "yes" : "no")},"
            );
        return path;
    }

    static long Ours(string csv, string databasePath)
    {
        using var database = new Database(databasePath);
        var file = SourceFile.Open(csv, "list.csv");
        var look = file.Look(new(), ListCustoms.UnitedStates);
        var columns = look.Columns.Select((c, i) => new ImportColumn(i, c.Name, c.Type, c.DateOrder, c.Role, Format: c.Format)).ToList();
        return ImportJob.BringIn(
            database,
            file,
            new("bench", "list.csv", "List", new(look.Sheet, look.HeadingRow, look.Encoding, look.Delimiter), columns.Count, columns),
            Countries.Named("US")!,
            By,
            (_, _) => { },
            CancellationToken.None
        );
    }

    /// <summary>The plain way: the CSV library's rows, bulk-inserted with one prepared statement in one transaction, and nothing
    /// else.</summary>
    static void Plain(string csv, string databasePath)
    {
        using var connection = new SqliteConnection($"Data Source={databasePath};Pooling=False");
        connection.Open();
        Execute(connection, "PRAGMA journal_mode = WAL; PRAGMA synchronous = NORMAL");
        Execute(connection, $"CREATE TABLE t ({string.Join(',', Enumerable.Range(0, Headings.Length).Select(i => $"c{i} TEXT"))})");
        using var reader = new StreamReader(csv);
        using var parser = new CsvParser(reader, new CsvConfiguration(CultureInfo.InvariantCulture));
        using var transaction = connection.BeginTransaction();
        using var insert = connection.CreateCommand();
        insert.CommandText = $"INSERT INTO t VALUES ({string.Join(',', Enumerable.Range(0, Headings.Length).Select(i => $"$v{i}"))})";
        var values = Enumerable.Range(0, Headings.Length).Select(i => insert.Parameters.Add($"$v{i}", SqliteType.Text)).ToArray();
        parser.Read();
        while (parser.Read())
        {
            for (var i = 0; i < values.Length; i++)
                values[i].Value = parser[i];
            insert.ExecuteNonQuery();
        }
        transaction.Commit();
    }

    static void Execute(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    public static void Import()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        var csv = MakeFile(folder);
        var n = 0;
        var before = Bench.PeakMegabytes();
        Ours(csv, Path.Combine(folder, "first.sqlite"));
        SqliteConnection.ClearAllPools();
        var peak = Bench.PeakMegabytes();
        var (ours, plain) = Bench.InTurn(
            () => Ours(csv, Path.Combine(folder, $"ours{n++}.sqlite")),
            () => Plain(csv, Path.Combine(folder, $"plain{n++}.sqlite"))
        );
        Bench.Line(
            "import of 100,000 rows × 20 columns",
            Bench.Time(ours),
            Bench.Time(plain),
            Bench.Ratio(ours / plain),
            "at most 2×",
            ours / plain <= 2
        );
        Bench.Line("peak memory of the import", $"{peak:0} MB", $"{before:0} MB before it", "–", "under 500 MB", peak < 500);
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, true);
    }

    public static void FirstPage()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        var csv = MakeFile(folder);
        var data = Path.Combine(folder, "data");
        Directory.CreateDirectory(data);
        var list = Ours(csv, Path.Combine(data, "bandeja.sqlite"));
        var app = Application.Build(new ServerOptions(data, Port: 0));
        app.StartAsync().Wait();
        using var client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) };
        using var connection = new SqliteConnection($"Data Source={Path.Combine(data, "bandeja.sqlite")};Mode=ReadOnly");
        connection.Open();
        var round = 0;
        // Each round filters at another amount, so that no answer comes from memory.
        var (ours, bare) = Bench.InTurn(
            () =>
                client
                    .GetFromJsonAsync<object>(
                        $"/api/lists/{list}/recipients?where={Uri.EscapeDataString($"Amount due > {500 + ++round}")}&sorts=4&limit=100"
                    )
                    .Wait(),
            () =>
            {
                using var command = connection.CreateCommand();
                command.CommandText =
                    $"SELECT * FROM rows_{list} WHERE CAST(c17 AS REAL) > {500 + round} ORDER BY c4 COLLATE NOCASE, n LIMIT 100";
                using var reader = command.ExecuteReader();
                while (reader.Read())
                    reader.GetValue(5);
            },
            9
        );
        Bench.Line(
            "first page of it, filtered and sorted",
            Bench.Time(ours),
            Bench.Time(bare),
            Bench.Ratio(ours / bare),
            "at most 3× and under 200 ms",
            ours / bare <= 3 && ours < 0.2
        );
        app.StopAsync().Wait();
        ((IDisposable)app).Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, true);
    }
}
