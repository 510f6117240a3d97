using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>The server as a process of its own, killed in the middle of a run and started again.</summary>
public sealed class CrashTests : IDisposable
{
    const int Recipients = 12_000;
    readonly string data = Directory.CreateTempSubdirectory("bandeja-crash").FullName;
    Process? server;
    HttpClient http = null!;

    public void Dispose()
    {
        server?.Kill();
        server?.WaitForExit();
        http?.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(data, true);
    }

    async Task Start()
    {
        server = Process.Start(new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Bandeja.Server.dll"), "--data", data, "--port", "0"]) { RedirectStandardOutput = true })!;
        string? line;
        do line = await server.StandardOutput.ReadLineAsync();
        while (line is not null && !line.StartsWith("Bandeja is at ", StringComparison.Ordinal));
        http = new HttpClient { BaseAddress = new Uri(line!["Bandeja is at ".Length..]) };
    }

    async Task<JsonNode> Get(string path) => JsonNode.Parse(await http.GetStringAsync(path))!;
    async Task<JsonNode> Post(string path, object body) => JsonNode.Parse(await (await http.PostAsJsonAsync(path, body)).Content.ReadAsStringAsync())!;

    async Task<JsonNode> Until(string path, Func<JsonNode, bool> reached)
    {
        for (var i = 0; i < 4000; i++)
        {
            var node = await Get(path);
            if (reached(node)) return node;
            await Task.Delay(15);
        }
        throw new TimeoutException(path);
    }

    async Task<long> Prepare()
    {
        var upload = JsonNode.Parse(await (await http.PostAsync("/api/uploads?name=m.csv", new ByteArrayContent(Encoding.UTF8.GetBytes("First,Last\r\n" + string.Concat(Enumerable.Range(1, Recipients).Select(i => $"Given{i},Family{i}\r\n")))))).Content.ReadAsStringAsync())!;
        var columns = new[] { new { position = 0, name = "First", type = "Text", dateOrder = "YearMonthDay", role = "GivenName" }, new { position = 1, name = "Last", type = "Text", dateOrder = "YearMonthDay", role = "FamilyName" } };
        var job = await Post($"/api/uploads/{upload["id"]}/list", new { name = "Members", width = 2, columns, options = new { headingRow = 0, encoding = "utf-8", delimiter = ",", sheet = (string?)null } });
        await Until($"/api/jobs/{job["jobId"]}", j => (string)j["state"]! == "done");
        var list = (long)(await Get("/api/lists"))[0]!["id"]!;
        var design = (long)await Post("/api/designs", new { name = "Letter", listId = list, document = Api.Letter("Dear {First} {Last},", string.Concat(Enumerable.Repeat("{First} and {Last} walk the riverside path; ", 60))) });
        var drop = (long)await Post("/api/drops", new { name = "Notice", listId = list, designIds = new[] { design }, campaignName = "Renewal" });
        await Until($"/api/drops/{drop}", d => !(bool)d["checking"]!);
        return drop;
    }

    [Fact]
    public async Task Killed_during_a_run_nobody_is_lost_and_nobody_is_made_twice()
    {
        await Start();
        var drop = await Prepare();
        var run = await Post($"/api/drops/{drop}/runs", new { });
        await Until($"/api/jobs/{run["jobId"]}", j => (long)j["done"]! > 0);
        server!.Kill();
        await server.WaitForExitAsync();
        Assert.True(File.Exists(Path.Combine(data, "runs", $"run-{run["id"]}.pdf.part")), "it was killed in the middle");
        Assert.False(File.Exists(Path.Combine(data, "runs", $"run-{run["id"]}.pdf")));

        await Start();
        // While the run is taken up again its pieces are not offered to another.
        var plan = await Post($"/api/drops/{drop}/plan", new { });
        Assert.Equal(Recipients, (int)plan["onTheList"]!);
        Assert.Equal(0, (int)plan["pieces"]!);
        var done = await Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        Assert.Equal((Recipients, Recipients), ((int)done["pieces"]!, (int)done["waiting"]!));
        var trays = (await Get($"/api/drops/{drop}"))["trays"]!;
        Assert.Equal((Recipients, 0, Recipients), ((int)trays["produced"]!, (int)trays["ready"]!, (int)trays["onTheList"]!));

        using (var pdf = PdfDocument.Open(await http.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1")))
        {
            Assert.Equal(Recipients, pdf.NumberOfPages);
            foreach (var i in (int[])[1, 2, 6000, Recipients - 1, Recipients]) Assert.Contains($"Dear Given{i} Family{i},", pdf.GetPage(i).Text);
        }
        using var connection = new SqliteConnection($"Data Source={Path.Combine(data, "bandeja.sqlite")};Mode=ReadOnly");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT count(*), count(DISTINCT recipient_id) FROM drop_event WHERE kind = 'Produced'";
        using var reader = command.ExecuteReader();
        reader.Read();
        Assert.Equal((Recipients, Recipients), (reader.GetInt32(0), reader.GetInt32(1)));
        Assert.Equal(HttpStatusCode.Conflict, (await http.PostAsJsonAsync($"/api/drops/{drop}/runs", new { })).StatusCode);
    }
}
