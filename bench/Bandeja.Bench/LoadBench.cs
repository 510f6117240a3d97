using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Bench;

/// <summary>
/// Many people at once at a server of its own, over HTTP as browsers are: four of five requests read (lists, the bench, a search, a
/// recipient), one writes (a value is corrected, somebody is held and let go). The baseline is one person alone at the same server.
/// </summary>
static class LoadBench
{
    const int People = 10_000,
        Clients = 50;

    /// <summary>As fast as the server answers: fifty clients against one.</summary>
    public static void Crowd()
    {
        using var world = new World();
        world.Fill().GetAwaiter().GetResult();
        Run(world, 1, TimeSpan.FromSeconds(5), TimeSpan.Zero);
        var one = Run(world, 1, TimeSpan.FromSeconds(10), TimeSpan.Zero);
        var crowd = Run(world, Clients, TimeSpan.FromSeconds(30), TimeSpan.Zero);
        var (alone, at95, slowest) = (Part(one, 0.95), Part(crowd, 0.95), crowd[^1]);
        var failed = world.Failed;
        Bench.Line(
            $"load: {Clients} clients, 20 % writes, 95th percentile of {crowd.Count:N0} answers, {failed} refused",
            Bench.Time(at95),
            $"one client {Bench.Time(alone)}",
            Bench.Ratio(at95 / alone),
            "300 ms",
            at95 < 0.3 && failed == 0
        );
        Bench.Line(
            "load: slowest answer",
            Bench.Time(slowest),
            $"median {Bench.Time(Part(crowd, 0.5))}",
            Bench.Ratio(slowest / at95),
            "1.5 s",
            slowest < 1.5
        );
    }

    /// <summary>A list of half a million rows comes in while somebody corrects values one after another; then it is canceled.</summary>
    public static void Import()
    {
        using var world = new World();
        world.Fill().GetAwaiter().GetResult();
        var alone = Edits(world, () => Task.Delay(TimeSpan.FromSeconds(5)));
        var job = 0L;
        var beside = Edits(
            world,
            async () =>
            {
                job = await world.Bring(500_000);
                // Long enough to have some hundred thousand rows written, and not all.
                await Task.Delay(TimeSpan.FromSeconds(6));
            }
        );
        var watch = Stopwatch.StartNew();
        var removing = Edits(world, () => world.Cancel(job));
        var after = watch.Elapsed.TotalSeconds;
        Bench.Line(
            $"importing: slowest of {beside.Count} edits while 500,000 rows come in",
            Bench.Time(beside[^1]),
            $"alone {Bench.Time(alone[^1])}",
            Bench.Ratio(beside[^1] / alone[^1]),
            "500 ms",
            beside[^1] < 0.5
        );
        Bench.Line(
            "importing: canceled and removed after",
            Bench.Time(after),
            $"slowest edit meanwhile {Bench.Time(removing[^1])}",
            Bench.Ratio(removing[^1] / alone[^1]),
            "1 s",
            after < 1 && removing[^1] < 0.5
        );
    }

    /// <summary>Seconds of edits that somebody makes until something else has been done, sorted.</summary>
    static List<double> Edits(World world, Func<Task> until)
    {
        var done = Task.Run(until);
        var seconds = new List<double>();
        var random = new Random(1);
        do
        {
            var began = Stopwatch.GetTimestamp();
            world.Edit(random).GetAwaiter().GetResult();
            seconds.Add(Stopwatch.GetElapsedTime(began).TotalSeconds);
        } while (!done.IsCompleted);
        done.GetAwaiter().GetResult();
        return [.. seconds.Order()];
    }

    /// <summary>An office: eight people, each with a request every other second; memory, minute by minute.</summary>
    public static void Office(int minutes)
    {
        using var world = new World();
        world.Fill().GetAwaiter().GetResult();
        var memory = new List<long>();
        var all = 0;
        for (var minute = 1; minute <= minutes; minute++)
        {
            var answers = Run(world, 8, TimeSpan.FromMinutes(1), TimeSpan.FromSeconds(2));
            all += answers.Count;
            memory.Add(world.Memory);
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"minute {minute}: {memory[^1] >> 20} MB, {answers.Count} answers, 95th percentile "
                        + $"{Bench.Time(Part(answers, 0.95))}, slowest {Bench.Time(answers[^1])}"
                )
            );
        }
        // The first minutes fill caches and have code compiled; what grows after that grows for ever.
        var (early, late) = (
            memory.Skip(minutes / 4).Take(Math.Max(1, minutes / 4)).Average(),
            memory.TakeLast(Math.Max(1, minutes / 4)).Average()
        );
        Bench.Line(
            $"office: memory of the last quarter of {minutes} minutes, {all:N0} answers, {world.Failed} refused",
            $"{(long)late >> 20} MB",
            $"second quarter {(long)early >> 20} MB",
            Bench.Ratio(late / early),
            "1.10×",
            late / early < 1.1 && world.Failed == 0
        );
    }

    static double Part(List<double> sorted, double part) => sorted[Math.Min(sorted.Count - 1, (int)(sorted.Count * part))];

    /// <summary>Seconds of every answer, sorted.</summary>
    static List<double> Run(World world, int clients, TimeSpan time, TimeSpan between)
    {
        var seconds = new ConcurrentBag<double>();
        var watch = Stopwatch.StartNew();
        Task.WaitAll(
            [
                .. Enumerable
                    .Range(0, clients)
                    .Select(async client =>
                    {
                        var random = new Random(client);
                        while (watch.Elapsed < time)
                        {
                            if (between > TimeSpan.Zero)
                                await Task.Delay(between * (0.5 + random.NextDouble()));
                            var began = Stopwatch.GetTimestamp();
                            await world.One(random);
                            seconds.Add(Stopwatch.GetElapsedTime(began).TotalSeconds);
                        }
                    }),
            ]
        );
        return [.. seconds.Order()];
    }

    /// <summary>A server with a list and a drop.</summary>
    sealed class World : IDisposable
    {
        readonly string data = Directory.CreateTempSubdirectory("bandeja-load").FullName;
        readonly Process server;
        readonly HttpClient http;
        long list,
            drop;
        int failed;

        public World()
        {
            server = Process.Start(
                new ProcessStartInfo(
                    "dotnet",
                    [Path.Combine(AppContext.BaseDirectory, "Bandeja.Server.dll"), "--data", data, "--port", "0"]
                )
                {
                    RedirectStandardOutput = true,
                }
            )!;
            var at = server.StandardOutput.ReadLine()!["Bandeja is at ".Length..];
            http = new(new SocketsHttpHandler { MaxConnectionsPerServer = 200 }) { BaseAddress = new(at) };
            http.DefaultRequestHeaders.Add("X-Person", "Bench");
        }

        public int Failed => failed;

        public long Memory
        {
            get
            {
                server.Refresh();
                return server.WorkingSet64;
            }
        }

        public void Dispose()
        {
            server.Kill();
            server.WaitForExit();
            http.Dispose();
            Directory.Delete(data, true);
        }

        async Task<JsonNode> Post(string path, object body)
        {
            using var answer = await http.PostAsJsonAsync(path, body);
            return answer.IsSuccessStatusCode
                ? JsonNode.Parse(await answer.Content.ReadAsStringAsync())!
                : throw new InvalidOperationException($"{path}: {await answer.Content.ReadAsStringAsync()}");
        }

        public async Task Edit(Random random)
        {
            using var answer = await http.PutAsJsonAsync(
                $"/api/drops/{drop}/recipients/{1 + random.Next(People)}/values/1",
                new { value = $"Given{Stopwatch.GetTimestamp()}" }
            );
            if (!answer.IsSuccessStatusCode)
                throw new InvalidOperationException(await answer.Content.ReadAsStringAsync());
        }

        public async Task Cancel(long job)
        {
            using var answer = await http.PostAsJsonAsync($"/api/jobs/{job}/cancel", new { });
            await Until($"/api/jobs/{job}", j => (string)j["state"]! is "cancelled" or "done");
        }

        public async Task Fill()
        {
            var job = await Bring(People);
            await Until($"/api/jobs/{job}", j => (string)j["state"]! == "done");
            await Plan();
        }

        /// <summary>Brings a list in; answers the work that does it.</summary>
        public async Task<long> Bring(int people)
        {
            var csv =
                "First,Last,Street,City,State,ZIP\r\n"
                + string.Concat(
                    Enumerable
                        .Range(1, people)
                        .Select(i => $"Given{i % 977},Family{i % 7919},{i % 2400} Lantern Row,Fernquay,OR,0{1000 + i % 9000}\r\n")
                );
            using var uploaded = await http.PostAsync("/api/uploads?name=m.csv", new ByteArrayContent(Encoding.UTF8.GetBytes(csv)));
            var id = (string)JsonNode.Parse(await uploaded.Content.ReadAsStringAsync())!["id"]!;
            var look = await Post($"/api/uploads/{id}/look", new { });
            var columns = look["columns"]!
                .AsArray()
                .Select(
                    (c, i) =>
                        new
                        {
                            position = i,
                            name = (string)c!["name"]!,
                            type = (string)c["type"]!,
                            dateOrder = (string)c["dateOrder"]!,
                            role = (string)c["role"]!,
                        }
                )
                .ToList();
            var job = await Post(
                $"/api/uploads/{id}/list",
                new
                {
                    name = "Members",
                    width = columns.Count,
                    columns,
                    options = new
                    {
                        headingRow = 0,
                        encoding = "utf-8",
                        delimiter = ",",
                    },
                }
            );
            return (long)job["jobId"]!;
        }

        async Task Plan()
        {
            list = (long)JsonNode.Parse(await http.GetStringAsync("/api/lists"))![0]!["id"]!;
            var design = (long)
                await Post(
                    "/api/designs",
                    new
                    {
                        name = "Letter",
                        listId = list,
                        document = JsonNode.Parse(
                            """
                            {"page": {"sheet": "letter"}, "maxPages": 1, "content": [{"type": "paragraph", "content": [
                            {"type": "text", "text": "Dear {First}, the garden opens its gates in March, and you are warmly invited."}]}]}
                            """
                        ),
                    }
                );
            drop = (long)
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
        }

        async Task Until(string path, Func<JsonNode, bool> reached)
        {
            while (!reached(JsonNode.Parse(await http.GetStringAsync(path))!))
                await Task.Delay(50);
        }

        /// <summary>One request as somebody at the bench or the desk makes it.</summary>
        public async Task One(Random random)
        {
            var recipient = 1 + random.Next(People);
            using var answer = random.Next(10) switch
            {
                0 => await http.GetAsync("/api/campaigns"),
                1 => await http.GetAsync($"/api/lists/{list}"),
                2 => await http.GetAsync($"/api/lists/{list}/recipients?offset={random.Next(People)}&limit=100"),
                3 => await http.GetAsync($"/api/lists/{list}/recipients?search=given{random.Next(977)}&limit=100"),
                4 => await http.GetAsync($"/api/drops/{drop}"),
                5 => await http.GetAsync($"/api/drops/{drop}/recipients?offset={random.Next(People)}&limit=100"),
                6 => await http.GetAsync($"/api/drops/{drop}/recipients/{recipient}"),
                7 => await http.GetAsync("/api/jobs"),
                8 => await http.PutAsJsonAsync(
                    $"/api/drops/{drop}/recipients/{recipient}/values/1",
                    new { value = $"Given{random.Next(977)}" }
                ),
                _ => await http.PostAsJsonAsync(
                    $"/api/drops/{drop}/{(random.Next(2) == 0 ? "hold" : "release")}",
                    new { recipients = new[] { recipient }, reason = "Asked" }
                ),
            };
            await answer.Content.ReadAsByteArrayAsync();
            // Somebody else may have done the same meanwhile: that is an answer, too.
            if (!answer.IsSuccessStatusCode && (int)answer.StatusCode is not (409 or 412))
                Interlocked.Increment(ref failed);
        }
    }
}
