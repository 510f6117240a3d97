using System.Globalization;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Bandeja.Server;
using Bandeja.Work.Hosting;
using Microsoft.Data.Sqlite;

namespace Bandeja.Bench;

/// <summary>One recipient's page as the bench asks for it.</summary>
static class ProofBench
{
    public static void Page() => Page("a page of the bench from the API", null);

    /// <summary>The same for a form.</summary>
    public static void Form() => Page("a page of a form on the bench from the API", FormBench.Pdf());

    static void Page(string name, byte[]? form)
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        var app = Application.Build(new ServerOptions(folder, Port: 0));
        app.StartAsync().Wait();
        using var client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) };
        var drop = Prepare(client, form).GetAwaiter().GetResult();
        var ids = client.GetFromJsonAsync<long[]>($"/api/drops/{drop}/recipient-ids").Result!;
        var n = 0;
        var (ours, bare) = Bench.InTurn(
            () => client.GetByteArrayAsync($"/api/drops/{drop}/recipients/{ids[n++ % ids.Length]}/proof.pdf").Wait(),
            () => client.GetByteArrayAsync("/api/settings").Wait(),
            40
        );
        Bench.Line(
            name,
            Bench.Time(ours),
            $"{Bench.Time(bare)} for an answer without a page",
            Bench.Ratio(ours / bare),
            "under 50 ms warm",
            ours < 0.05
        );
        app.StopAsync().Wait();
        ((IDisposable)app).Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, true);
    }

    static async Task<long> Prepare(HttpClient client, byte[]? form)
    {
        var csv =
            "First,Last,Street,City,Amount due,Renewal date\r\n"
            + string.Concat(Enumerable.Range(1, 2000).Select(i => $"Given{i},Family{i},{i} Lantern Row,Fernquay,{i}.50,2027-02-28\r\n"));
        async Task<JsonNode> Post(string path, object body) =>
            JsonNode.Parse(await (await client.PostAsJsonAsync(path, body)).EnsureSuccessStatusCode().Content.ReadAsStringAsync())!;
        var upload = JsonNode.Parse(
            await (
                await client.PostAsync("/api/uploads?name=m.csv", new ByteArrayContent(Encoding.UTF8.GetBytes(csv)))
            ).Content.ReadAsStringAsync()
        )!;
        string[] names = ["First", "Last", "Street", "City", "Amount due", "Renewal date"];
        var columns = names.Select(
            (name, position) =>
                new
                {
                    position,
                    name,
                    type = position == 4 ? "Number"
                    : position == 5 ? "Date"
                    : "Text",
                    dateOrder = "YearMonthDay",
                    role = "None",
                }
        );
        var begun = await Post(
            $"/api/uploads/{upload["id"]}/list",
            new
            {
                name = "Members",
                width = 6,
                columns,
                options = new
                {
                    sheet = (string?)null,
                    headingRow = 0,
                    encoding = "utf-8",
                    delimiter = ",",
                },
            }
        );
        while ((string)JsonNode.Parse(await client.GetStringAsync($"/api/jobs/{begun["jobId"]}"))!["state"]! != "done")
            await Task.Delay(20);
        var list = (long)JsonNode.Parse(await client.GetStringAsync("/api/lists"))![0]!["id"]!;
        Task<JsonNode> Letter()
        {
            var text = string.Concat(Enumerable.Repeat("The riverside path asks after you, {First}. ", 30));
            var document = new JsonObject
            {
                ["content"] = new JsonArray(
                    Paragraph("Dear {First} {Last},"),
                    Paragraph(text),
                    Paragraph("You owe {Amount due | money} by {Renewal date | date long}.")
                ),
            };
            return Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Letter",
                    ["listId"] = list,
                    ["document"] = document,
                }
            );
        }
        var design = form is null
            ? (long)await Letter()
            : long.Parse(
                await (await client.PostAsync($"/api/designs/form?name=Form&file=form.pdf&listId={list}", new ByteArrayContent(form)))
                    .EnsureSuccessStatusCode()
                    .Content.ReadAsStringAsync(),
                CultureInfo.InvariantCulture
            );
        var drop = (long)
            await Post(
                "/api/drops",
                new
                {
                    name = "Notice",
                    listId = list,
                    designIds = new[] { design },
                    campaignName = "Bench",
                }
            );
        while ((bool)JsonNode.Parse(await client.GetStringAsync($"/api/drops/{drop}"))!["checking"]!)
            await Task.Delay(20);
        return drop;
    }

    static JsonObject Paragraph(string text) =>
        new() { ["type"] = "paragraph", ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = text }) };
}
