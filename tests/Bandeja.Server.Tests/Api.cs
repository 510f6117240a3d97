using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Bandeja.TestServers;
using Bandeja.Work.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.Logging;

namespace Bandeja.Server.Tests;

/// <summary>A server of its own on a free port, with an empty data folder, and a client as a script would be one.</summary>
public sealed class Api : IAsyncLifetime
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-server").FullName;
    WebApplication app = null!;
    Events events = null!;
    readonly ServerLog log = new();

    /// <summary>The only name server that it asks, so that no test needs a network.</summary>
    public NameServer Names { get; } = new();

    public HttpClient Client { get; private set; } = null!;

    public ValueTask InitializeAsync() => new(Start());

    /// <summary>Stops the server and starts it again over the same data, as after an update.</summary>
    public async Task Restart()
    {
        await Stop();
        await Start();
    }

    async Task Start()
    {
        Store.Tests.FreshDatabase.In(folder);
        app = Application.Build(
            new ServerOptions(folder, Port: 0, NameServer: Names.Place) { PrivateMail = true },
            b => b.Logging.AddProvider(log)
        );
        await app.StartAsync();
        Client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) };
        Client.DefaultRequestHeaders.Add("X-Person", "Tom%C3%A1s%20Reyes");
        events = new(Client);
    }

    async Task Stop()
    {
        await events.DisposeAsync();
        Client.Dispose();
        await app.StopAsync();
        await app.DisposeAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await Stop();
        Names.Dispose();
        Directory.Delete(folder, true);
    }

    /// <summary>Ends with the next thing that open browsers are told.</summary>
    public Task NextEvent => events.Next;

    /// <summary>A folder of the server's data.</summary>
    public string Folder(string name) => Directory.CreateDirectory(Path.Combine(folder, name)).FullName;

    /// <summary>Where a file of a run lies.</summary>
    public string RunFile(long run, string name) => Path.Combine(folder, "runs", $"{run}", name);

    /// <summary>A part of the server, to bring about what cannot be asked for.</summary>
    public T Part<T>()
        where T : notnull => (T)app.Services.GetService(typeof(T))!;

    /// <summary>The database as it lies on the disk.</summary>
    public IEnumerable<byte[]> DatabaseFiles() =>
        Directory
            .GetFiles(folder, "bandeja.sqlite*")
            .Select(f =>
            {
                using var stream = new FileStream(f, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
                using var bytes = new MemoryStream();
                stream.CopyTo(bytes);
                return bytes.ToArray();
            });

    public async Task<JsonNode> Get(string path) => await Read(await Client.GetAsync(path));

    public async Task<JsonNode> Post(string path, object body) => await Read(await Client.PostAsJsonAsync(path, body));

    public async Task<JsonNode> Put(string path, object body) => await Read(await Client.PutAsJsonAsync(path, body));

    /// <summary>Saves a design's document on what is stored now, as an editor does that has just opened it.</summary>
    public async Task<JsonNode> Save(object design, object document) => await Read(await TrySave(design, document));

    /// <inheritdoc cref="Save"/>
    public async Task<HttpResponseMessage> TrySave(object design, object document)
    {
        var now = await Get($"/api/designs/{design}");
        return await Client.PutAsJsonAsync(
            $"/api/designs/{design}/document",
            new
            {
                basedOn = (long)now["version"]!,
                revision = (long)now["revision"]!,
                document,
            }
        );
    }

    public async Task<JsonNode> Read(HttpResponseMessage response)
    {
        var text = await response.Content.ReadAsStringAsync();
        Assert.True(
            response.IsSuccessStatusCode,
            $"{(int)response.StatusCode}: {text}{((int)response.StatusCode >= 500 ? $"\nThe server logged:\n{log.Text}" : "")}"
        );
        return text.Length == 0 ? new JsonObject() : JsonNode.Parse(text)!;
    }

    /// <summary>A refusal's status and its sentence for the user.</summary>
    public static async Task<(HttpStatusCode Status, string Detail)> Refusal(Task<HttpResponseMessage> asked)
    {
        var response = await asked;
        Assert.Equal("application/problem+json", response.Content.Headers.ContentType?.MediaType);
        return (response.StatusCode, (string)JsonNode.Parse(await response.Content.ReadAsStringAsync())!["detail"]!);
    }

    public Task<HttpResponseMessage> Upload(string name, byte[] bytes) =>
        Client.PostAsync($"/api/uploads?name={Uri.EscapeDataString(name)}", new ByteArrayContent(bytes));

    /// <summary>Brings a list in as the web application does; answers its id.</summary>
    /// <param name="change">What somebody says otherwise of each column.</param>
    public async Task<long> BringIn(string name, string text, Action<JsonObject>? change = null)
    {
        var upload = await Read(await Upload(name, Encoding.UTF8.GetBytes(text)));
        return await BringInUpload((string)upload["id"]!, name, change);
    }

    public async Task<long> BringInUpload(string uploadId, string listName, Action<JsonObject>? change = null)
    {
        var look = await Post(
            $"/api/uploads/{uploadId}/look",
            new
            {
                sheet = (string?)null,
                headingRow = (int?)null,
                encoding = (string?)null,
                delimiter = (string?)null,
            }
        );
        Assert.Null(look["problem"]);
        var columns = look["columns"]!
            .AsArray()
            .Select(
                (c, i) =>
                {
                    var o = c!.DeepClone().AsObject();
                    o["position"] = i;
                    change?.Invoke(o);
                    return o;
                }
            )
            .ToArray();
        var begun = await Post(
            $"/api/uploads/{uploadId}/list",
            new JsonObject
            {
                ["name"] = listName,
                ["width"] = columns.Length,
                ["columns"] = new JsonArray([.. columns]),
                ["options"] = new JsonObject
                {
                    ["sheet"] = look["sheet"]?.DeepClone(),
                    ["headingRow"] = (int)look["headingRow"]!,
                    ["encoding"] = look["encoding"]?.DeepClone(),
                    ["delimiter"] = look["delimiter"]?.DeepClone(),
                },
            }
        );
        var job = await Ended((long)begun["jobId"]!);
        Assert.True((string)job["state"]! == "done", (string?)job["message"]);
        return (long)JsonNode.Parse((string)job["message"]!)!["listId"]!;
    }

    /// <summary>Waits until long work has ended.</summary>
    public Task<JsonNode> Ended(long jobId) =>
        Until($"/api/jobs/{jobId}", job => (string)job["state"]! is "done" or "failed" or "cancelled");

    /// <summary>Waits until what is asked for is as it is to be: it is asked for again whenever the server tells that something
    /// changed.</summary>
    /// <exception cref="TimeoutException">Nothing came of it in five minutes.</exception>
    public Task<JsonNode> Until(string path, Func<JsonNode, bool> reached) => Until(() => Get(path), reached);

    /// <inheritdoc cref="Until(string, Func{JsonNode, bool})"/>
    public async Task<T> Until<T>(Func<Task<T>> ask, Func<T, bool> reached)
    {
        using var patience = new CancellationTokenSource(TimeSpan.FromMinutes(5));
        while (true)
        {
            var next = events.Next;
            var now = await ask();
            if (reached(now))
                return now;
            if (patience.IsCancellationRequested)
                throw new TimeoutException(now is JsonNode json ? json.ToJsonString() : $"{now}");
            // What changes without a word, such as a limit that is over, is seen by looking now and then.
            await Task.WhenAny(next, Task.Delay(TimeSpan.FromMilliseconds(250), CancellationToken.None));
        }
    }

    public static JsonObject Letter(params string[] paragraphs) =>
        new()
        {
            ["page"] = new JsonObject { ["sheet"] = "letter" },
            ["maxPages"] = 1,
            ["content"] = new JsonArray(
                [
                    .. paragraphs.Select(p => new JsonObject
                    {
                        ["type"] = "paragraph",
                        ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = p }),
                    }),
                ]
            ),
        };

    /// <summary>Makes a letter and a drop, and waits until it is checked.</summary>
    public async Task<long> MakeDrop(long list, params string[] paragraphs)
    {
        var design = (long)
            await Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Letter",
                    ["listId"] = list,
                    ["document"] = Letter(paragraphs),
                }
            );
        var drop = (long)
            await Post(
                "/api/drops",
                new
                {
                    name = "First notice",
                    listId = list,
                    designIds = new[] { design },
                    campaignName = "Renewal",
                }
            );
        await Checked(drop);
        return drop;
    }

    public Task<JsonNode> Checked(long drop) => Until($"/api/drops/{drop}", view => !(bool)view["checking"]!);

    public async Task<List<(long Id, int Piece, string Tray)>> Recipients(long drop, string query = "") =>
        [
            .. (await Get($"/api/drops/{drop}/recipients?limit=1000{query}"))["rows"]!
                .AsArray()
                .Select(r => ((long)r!["id"]!, (int)r["piece"]!, (string)r["tray"]!)),
        ];

    public static string Csv(int rows) =>
        "First,Last,City,ZIP,Amount due\r\n"
        + string.Concat(
            Enumerable.Range(1, rows).Select(i => $"{(i % 10 == 0 ? "" : $"Given{i}")},Family{i},Fernquay,0{2000 + i % 7000},{i}.50\r\n")
        );

    /// <summary>An order for a run; of what says nothing else, one file.</summary>
    public static JsonObject Order(object order)
    {
        var said = order as JsonObject ?? System.Text.Json.JsonSerializer.SerializeToNode(order)!.AsObject();
        if (!said.ContainsKey("output"))
            said["output"] = "one";
        return said;
    }

    public static int Count(JsonNode drop, string tray) => (int)drop["trays"]![tray]!;
}
