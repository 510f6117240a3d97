using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>The server as a process of its own, killed in the middle of a run and started again.</summary>
public sealed class CrashTests : ServerProcess
{
    /// <summary>Some seconds of work: it is killed while that goes on.</summary>
    const int Recipients = 1_500;

    /// <summary>How often the server is killed: more often where somebody has the time.</summary>
    static readonly int Kills = int.TryParse(Environment.GetEnvironmentVariable("BANDEJA_KILLS"), out var n) ? n : 15;

    async Task<long> Prepare(int recipients = Recipients, string text = "")
    {
        var (list, design) = await PrepareList(recipients, text);
        return await Drop(list, design);
    }

    async Task<long> Drop(long list, long design)
    {
        var drop = (long)
            await Post(
                "/api/drops",
                new
                {
                    name = "Notice",
                    listId = list,
                    designIds = new[] { design },
                    campaignName = "Renewal",
                }
            );
        await Until($"/api/drops/{drop}", d => !(bool)d["checking"]!);
        return drop;
    }

    async Task<(long List, long Design)> PrepareList(int recipients, string text)
    {
        var upload = JsonNode.Parse(
            await (
                await http.PostAsync(
                    "/api/uploads?name=m.csv",
                    new ByteArrayContent(
                        Encoding.UTF8.GetBytes(
                            "First,Last\r\n" + string.Concat(Enumerable.Range(1, recipients).Select(i => $"Given{i},Family{i}\r\n"))
                        )
                    )
                )
            ).Content.ReadAsStringAsync()
        )!;
        var columns = new[]
        {
            new
            {
                position = 0,
                name = "First",
                type = "Text",
                dateOrder = "YearMonthDay",
                role = "GivenName",
            },
            new
            {
                position = 1,
                name = "Last",
                type = "Text",
                dateOrder = "YearMonthDay",
                role = "FamilyName",
            },
        };
        var job = await Post(
            $"/api/uploads/{upload["id"]}/list",
            new
            {
                name = "Members",
                width = 2,
                columns,
                options = new
                {
                    headingRow = 0,
                    encoding = "utf-8",
                    delimiter = ",",
                    sheet = (string?)null,
                },
            }
        );
        await Until($"/api/jobs/{job["jobId"]}", j => (string)j["state"]! == "done");
        var list = (long)(await Get("/api/lists"))[0]!["id"]!;
        var design = (long)
            await Post(
                "/api/designs",
                new
                {
                    name = "Letter",
                    listId = list,
                    document = Api.Letter(
                        "Dear {First} {Last},",
                        text.Length > 0 ? text : string.Concat(Enumerable.Repeat("{First} and {Last} walk the riverside path; ", 60))
                    ),
                }
            );
        return (list, design);
    }

    [Fact]
    public async Task Killed_during_a_run_nobody_is_lost_and_nobody_is_made_twice()
    {
        await Start();
        var drop = await Prepare();
        var run = await Post($"/api/drops/{drop}/runs", new { output = "one" });
        await Until($"/api/jobs/{run["jobId"]}", j => (long)j["done"]! > 0);
        server!.Kill();
        await server.WaitForExitAsync();
        Assert.True(File.Exists(Path.Combine(data, "runs", $"{run["id"]}", "1.part")), "it was killed in the middle");
        Assert.False(File.Exists(Path.Combine(data, "runs", $"{run["id"]}", "1.pdf")));

        await Start();
        // While the run is taken up again its pieces are not offered to another.
        var plan = await Post($"/api/drops/{drop}/plan", new { output = "one" });
        Assert.Equal(Recipients, (int)plan["onTheList"]!);
        Assert.Equal(0, (int)plan["pieces"]!);
        var done = await Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        Assert.Equal((Recipients, Recipients), ((int)done["pieces"]!, (int)done["waiting"]!));
        var trays = (await Get($"/api/drops/{drop}"))["trays"]!;
        Assert.Equal((Recipients, 0, Recipients), ((int)trays["produced"]!, (int)trays["ready"]!, (int)trays["onTheList"]!));

        using (var pdf = PdfDocument.Open(await http.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1")))
        {
            Assert.Equal(Recipients, pdf.NumberOfPages);
            foreach (var i in (int[])[1, 2, Recipients / 2, Recipients - 1, Recipients])
                Assert.Contains($"Dear Given{i} Family{i},", pdf.GetPage(i).Text);
        }
        using var connection = new SqliteConnection($"Data Source={Path.Combine(data, "bandeja.sqlite")};Mode=ReadOnly;Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT count(*), count(DISTINCT recipient_id) FROM drop_event WHERE kind = 'Produced'";
        using var reader = command.ExecuteReader();
        reader.Read();
        Assert.Equal((Recipients, Recipients), (reader.GetInt32(0), reader.GetInt32(1)));
        Assert.Equal(HttpStatusCode.Conflict, (await http.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "one" })).StatusCode);
    }

    [Fact]
    public async Task Work_during_which_the_server_ended_twice_waits_for_somebody_and_loses_nothing()
    {
        await Start();
        var drop = await Prepare();
        var run = await Post($"/api/drops/{drop}/runs", new { output = "one" });
        for (var kill = 0; kill < 2; kill++)
        {
            await Until($"/api/jobs/{run["jobId"]}", j => (long)j["done"]! > 0);
            server!.Kill();
            await server.WaitForExitAsync();
            await Start();
        }
        Assert.Equal("failed", (string)(await Get($"/api/jobs/{run["jobId"]}"))["state"]!);
        var waits = await Get($"/api/runs/{run["id"]}");
        Assert.Equal("paused", (string)waits["state"]!);
        Assert.Contains("stopped twice during this work", (string)waits["message"]!);
        await http.PostAsJsonAsync($"/api/runs/{run["id"]}/resume", new { });
        var done = await Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        Assert.Equal(Recipients, (int)done["waiting"]!);
        Assert.Equal((Recipients, Recipients), Events(drop));
    }

    [Fact]
    public async Task Killed_at_any_instant_of_any_kind_of_run_every_piece_comes_out_once_and_ledger_and_files_agree()
    {
        const int people = 240;
        await Start();
        var (list, design) = await PrepareList(people, "One line for {First}.");
        var printer = (long)(await Get("/api/printers")).AsArray().Single(p => (string)p!["kind"]! == "practice")!["id"]!;
        await http.PutAsJsonAsync($"/api/printers/{printer}/practice", new { sheetsAMinute = 30_000, jamsIn10000 = 0 });
        var random = new Random(20270312);
        var kinds = new[] { "one", "print", "each", "parts" };
        for (var round = 0; round < Kills; round++)
        {
            var output = kinds[round % kinds.Length];
            var drop = await Drop(list, design);
            await http.PutAsJsonAsync($"/api/printers/{printer}/practice/trays/1", new { sheets = 5000 });
            var run = await Post(
                $"/api/drops/{drop}/runs",
                output switch
                {
                    "print" => new
                    {
                        output,
                        printerId = printer,
                        batchOf = 90,
                    },
                    "parts" => new { output, partOf = 50 },
                    _ => (object)new { output },
                }
            );
            await Task.Delay(random.Next(0, output == "print" ? 700 : 120));
            server!.Kill();
            await server.WaitForExitAsync();
            await Start();
            var done = await Until($"/api/runs/{run["id"]}", r => (string)r["state"]! is "done" or "failed" or "cancelled" or "paused");
            var told = $"round {round}, {output}: {done["state"]} {done["message"]}";
            Assert.True((string)done["state"]! == "done", told);
            var trays = (await Get($"/api/drops/{drop}"))["trays"]!;
            Assert.True((people, people) == ((int)trays["produced"]!, (int)trays["onTheList"]!), told);
            Assert.True((people, people) == Events(drop), told);
            Assert.True(Enumerable.Range(1, people).SequenceEqual(await MadePieces(run, output, printer)), told);
        }
    }

    /// <summary>How many Produced events a drop has, and of how many recipients.</summary>
    (int Events, int Recipients) Events(long drop)
    {
        using var connection = new SqliteConnection($"Data Source={Path.Combine(data, "bandeja.sqlite")};Mode=ReadOnly;Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = $"SELECT count(*), count(DISTINCT recipient_id) FROM drop_event WHERE drop_id = {drop} AND kind = 'Produced'";
        using var reader = command.ExecuteReader();
        reader.Read();
        return (reader.GetInt32(0), reader.GetInt32(1));
    }

    /// <summary>The pieces that came out, in their order: of the files, or of the good sheets in the printer's stack.</summary>
    async Task<List<int>> MadePieces(JsonNode run, string output, long printer)
    {
        static int Piece(string text) =>
            int.Parse(text["Dear Given".Length..text.IndexOf(' ', 6)], System.Globalization.CultureInfo.InvariantCulture);
        static List<int> Of(byte[] pdf)
        {
            using var document = PdfDocument.Open(pdf);
            return [.. document.GetPages().Select(p => Piece(p.Text))];
        }
        if (output == "print")
        {
            var jobs = (await Get($"/api/printers/{printer}/practice"))["jobs"]!
                .AsArray()
                .Where(j => ((string)j!["key"]!).StartsWith($"run-{run["id"]}-", StringComparison.Ordinal))
                .OrderBy(j => (long)j!["id"]!)
                .ToList();
            var pieces = new List<int>();
            foreach (var job in jobs)
            {
                var pages = Of(await http.GetByteArrayAsync($"/api/practice-jobs/{job!["id"]}/file"));
                using var connection = new SqliteConnection(
                    $"Data Source={Path.Combine(data, "bandeja.sqlite")};Mode=ReadOnly;Pooling=False"
                );
                connection.Open();
                using var command = connection.CreateCommand();
                command.CommandText = $"SELECT sheet FROM practice_sheet WHERE job_id = {job["id"]} AND spoiled = 0 ORDER BY id";
                using var reader = command.ExecuteReader();
                while (reader.Read())
                    pieces.Add(pages[reader.GetInt32(0) - 1]);
            }
            return pieces;
        }
        var made = new List<int>();
        foreach (var file in (await Get($"/api/runs/{run["id"]}"))["files"]!.AsArray())
        {
            var bytes = await http.GetByteArrayAsync($"/api/runs/{run["id"]}/files/{file!["number"]}");
            Assert.Equal((string)file["sha256"]!, Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(bytes)));
            if (output != "each")
            {
                made.AddRange(Of(bytes));
                continue;
            }
            using var zip = new System.IO.Compression.ZipArchive(new MemoryStream(bytes));
            foreach (var entry in zip.Entries)
            {
                using var stream = entry.Open();
                using var copy = new MemoryStream();
                stream.CopyTo(copy);
                made.AddRange(Of(copy.ToArray()));
            }
        }
        return made;
    }
}
