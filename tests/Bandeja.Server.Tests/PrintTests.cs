using System.Net.Http.Json;
using System.Text.Json.Nodes;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>Runs on the practice printer: what the run, the ledger and the stack of sheets say must be the same to the piece.</summary>
public sealed class PrintTests : ServerTests
{
    long printer;

    public override async ValueTask InitializeAsync()
    {
        await api.InitializeAsync();
        printer = (long)(await api.Get("/api/printers")).AsArray().Single(p => (string)p!["kind"]! == "practice")!["id"]!;
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 60_000, jamsIn10000 = 0 });
    }

    static readonly JsonObject Envelope = new()
    {
        ["kind"] = "envelope",
        ["format"] = "no10",
        ["boxes"] = new JsonArray(
            new JsonObject
            {
                ["id"] = "b1",
                ["use"] = "delivery",
                ["x"] = 100,
                ["y"] = 40,
                ["width"] = 100,
                ["height"] = 30,
                ["content"] = new JsonArray(
                    new JsonObject
                    {
                        ["type"] = "paragraph",
                        ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = "{First} {Last}" }),
                    }
                ),
            }
        ),
    };

    async Task<long> Drop(int people, bool envelope = false, params string[] text)
    {
        var list = await api.BringIn(
            "m.csv",
            "First,Last\r\n" + string.Concat(Enumerable.Range(1, people).Select(i => $"Given{i:000},Family{i:000}\r\n"))
        );
        if (!envelope)
            return await api.MakeDrop(list, text.Length > 0 ? text : ["Dear {First} {Last},"]);
        var letter = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Letter",
                    ["listId"] = list,
                    ["document"] = Api.Letter("Dear {First} {Last},"),
                }
            );
        var cover = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Envelope",
                    ["listId"] = list,
                    ["document"] = Envelope.DeepClone(),
                }
            );
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Notice",
                    listId = list,
                    designIds = new[] { letter, cover },
                    campaignName = "Renewal",
                }
            );
        await api.Checked(drop);
        return drop;
    }

    object Print(object? more = null)
    {
        var order = new JsonObject { ["output"] = "print", ["printerId"] = printer };
        foreach (var (key, value) in more is null ? [] : JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(more))!.AsObject())
            order[key] = value?.DeepClone();
        return order;
    }

    /// <summary>How many are printed, once nothing more is printed: no work on it goes on, and the printer has nothing in hand. Then the
    /// run, the ledger and the stack of sheets have to say the same.</summary>
    async Task<int> Agreed(JsonNode run, long drop)
    {
        await api.Until("/api/jobs", jobs => jobs.AsArray().All(j => (string)j!["kind"]! != "print" || (string)j["state"]! != "running"));
        await api.Until(
            $"/api/printers/{printer}/practice",
            stands => stands["jobs"]!.AsArray().All(j => (string)j!["state"]! is "held" or "cancelled" or "done")
        );
        var printed = (int)(await api.Get($"/api/runs/{run["id"]}"))["printed"]!;
        Assert.Equal(printed, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        Assert.Equal(printed, (await Sheets()).Count);
        return printed;
    }

    Task<JsonNode> Until(JsonNode run, Func<JsonNode, bool> reached) => api.Until($"/api/runs/{run["id"]}", reached);

    Task<JsonNode> Done(JsonNode run) => Until(run, r => (string)r["state"]! == "done");

    async Task<List<string>> Log(JsonNode run) =>
        [.. (await api.Get($"/api/runs/{run["id"]}/detail"))["log"]!.AsArray().Select(l => (string)l!["text"]!)];

    /// <summary>The texts of the good sheets in the order in which they came out.</summary>
    async Task<List<string>> Sheets(bool spoiled = false)
    {
        var stack = (await api.Get($"/api/printers/{printer}/practice/stack?limit=500"))["sheets"]!
            .AsArray()
            .Reverse()
            .Where(s => (bool)s!["spoiled"]! == spoiled)
            .ToList();
        var files = new Dictionary<long, List<string>>();
        foreach (var job in stack.Select(s => (long)s!["jobId"]!).Distinct())
        {
            using var pdf = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/practice-jobs/{job}/file"));
            files[job] = [.. pdf.GetPages().Select(p => p.Text)];
        }
        return
        [
            .. stack.Select(s =>
                files[(long)s!["jobId"]!][(int)s["firstPage"]! - 1]
                + (s["secondPage"] is { } back ? " / " + files[(long)s["jobId"]!][(int)back - 1] : "")
            ),
        ];
    }

    [Fact]
    public async Task Batches_with_break_sheets_come_out_in_order_and_in_step()
    {
        var drop = await Drop(7, envelope: true);
        var run = await Done(await api.Post($"/api/drops/{drop}/runs", Print(new { batchOf = 3, breakSheets = true })));
        Assert.Equal((7, 7), ((int)run["printed"]!, (int)run["waiting"]!));
        var sheets = await Sheets();
        Assert.Equal(3 + 7 + 7, sheets.Count);
        Assert.Contains("batch 1 of 6Pieces 0001 to 0003", sheets[0]);
        Assert.Equal(["Given001", "Given002", "Given003"], sheets.Skip(1).Take(3).Select(s => s[5..13]));
        Assert.Equal(["Given001 Family001", "Given002 Family002", "Given003 Family003"], sheets.Skip(4).Take(3));
        Assert.Contains("Pieces 0004 to 0006", sheets[7]);
        Assert.Equal(
            Enumerable.Range(1, 7).Select(i => $"Given{i:000} Family{i:000}"),
            sheets.Where(s => s.StartsWith("Given", StringComparison.Ordinal))
        );
        Assert.Contains("All 7 pieces are printed.", await Log(run));
        var printed = (await api.Get($"/api/printers/{printer}/practice"))["trays"]!.AsArray().Select(t => (int)t!["sheets"]!);
        Assert.Equal([5000 - 10, 2000 - 7, 500], printed);
    }

    [Fact]
    public async Task A_jam_is_told_by_the_piece_and_both_sheets_carry_its_number()
    {
        var drop = await Drop(6);
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 600, jamsIn10000 = 0 });
        var run = await api.Post($"/api/drops/{drop}/runs", Print());
        await api.Post($"/api/printers/{printer}/practice/jam", new { });
        var stuck = await Until(run, r => r["message"] is not null);
        Assert.Contains("jammed", (string)stuck["message"]!);
        Assert.Equal("running", (string)stuck["state"]!);
        var before = (int)(await api.Get($"/api/drops/{drop}"))["trays"]!["produced"]!;
        Assert.True(before < 6);
        await api.Client.DeleteAsync($"/api/printers/{printer}/practice/jam");
        Assert.Null((await Done(run))["message"]);
        var spoiled = Assert.Single(await Sheets(spoiled: true));
        var piece = spoiled[10..13];
        Assert.Contains(await Log(run), l => l.StartsWith($"Piece 0{piece} of Letter jammed", StringComparison.Ordinal));
        Assert.Equal(Enumerable.Range(1, 6).Select(i => $"Dear Given{i:000}"), (await Sheets()).Select(s => s[..13]));
        Assert.Equal(6, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_jam_is_told_once_when_the_server_starts_again_while_it_lasts_or_after(bool lasts)
    {
        var drop = await Drop(6);
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 200, jamsIn10000 = 0 });
        var run = await api.Post($"/api/drops/{drop}/runs", Print());
        await api.Post($"/api/printers/{printer}/practice/jam", new { });
        await Until(run, r => r["message"] is not null);
        if (lasts)
            await api.Restart();
        await api.Client.DeleteAsync($"/api/printers/{printer}/practice/jam");
        await Until(run, r => r["message"] is null);
        await api.Restart();
        await Done(run);
        var log = await Log(run);
        Assert.Single(log, l => l.EndsWith("Take the first out.", StringComparison.Ordinal));
        Assert.Single(log, l => l.StartsWith("A sheet jammed.", StringComparison.Ordinal));
        Assert.Equal(6, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
    }

    [Fact]
    public async Task Out_of_paper_waits_for_paper_and_random_jams_lose_nobody()
    {
        var drop = await Drop(60);
        await api.Put($"/api/printers/{printer}/practice/trays/1", new { sheets = 25 });
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 60_000, jamsIn10000 = 800 });
        var run = await api.Post($"/api/drops/{drop}/runs", Print(new { batchOf = 20 }));
        var emptied = false;
        while (true)
        {
            var now = await Until(
                run,
                r =>
                    (string)r["state"]! == "done"
                    || (string?)r["message"] is { } words && (words.Contains("jammed") || words.Contains("out of letter paper"))
            );
            if ((string)now["state"]! == "done")
                break;
            if (((string?)now["message"])?.Contains("jammed") == true)
                await api.Client.DeleteAsync($"/api/printers/{printer}/practice/jam");
            else
            {
                emptied = true;
                await api.Put($"/api/printers/{printer}/practice/trays/1", new { sheets = 5000 });
            }
        }
        Assert.True(emptied);
        Assert.Equal("done", (string)(await api.Get($"/api/runs/{run["id"]}"))["state"]!);
        Assert.Equal(Enumerable.Range(1, 60).Select(i => $"Dear Given{i:000}"), (await Sheets()).Select(s => s[..13]));
        Assert.Equal(60, (await api.Get($"/api/drops/{drop}/events")).AsArray().Count(e => (string)e!["kind"]! == "Produced"));
    }

    [Fact]
    public async Task Paused_it_goes_on_or_goes_back_to_a_piece_and_the_ledger_tells_what_was_printed_twice()
    {
        var drop = await Drop(40);
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 1500, jamsIn10000 = 0 });
        var run = await api.Post($"/api/drops/{drop}/runs", Print(new { batchOf = 10 }));
        await Until(run, r => (int)r["printed"]! > 14);
        await api.Post($"/api/runs/{run["id"]}/pause", new { });
        // The sheet that is on its way comes out; then nothing more is printed.
        var paused = await Until(run, r => (string)r["state"]! == "paused");
        var printed = await Agreed(run, drop);
        Assert.Equal("paused", (string)paused["state"]!);
        Assert.Contains(
            "not in this run",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/resume", new { from = 99 }))).Detail
        );

        await api.Post($"/api/runs/{run["id"]}/resume", new { from = 8 });
        await Done(run);
        Assert.Equal(40, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        var sheets = (await Sheets()).Select(s => s[10..13]).ToList();
        Assert.Equal(Enumerable.Range(1, printed).Concat(Enumerable.Range(8, 33)).Select(i => $"{i:000}"), sheets);
        var events = (await api.Get($"/api/drops/{drop}/events")).AsArray();
        Assert.Equal(40, events.Count(e => (string)e!["kind"]! == "Produced"));
        Assert.Equal(
            Enumerable.Range(8, printed - 7),
            events.Where(e => (string)e!["kind"]! == "Reprinted").Select(e => (int)e!["pieceNumber"]!).Order()
        );
    }

    [Fact]
    public async Task Cancelled_what_is_printed_stays_produced_and_the_rest_is_ready()
    {
        var drop = await Drop(30);
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 900, jamsIn10000 = 0 });
        var run = await api.Post($"/api/drops/{drop}/runs", Print());
        await Until(run, r => (int)r["printed"]! > 5);
        await api.Post($"/api/runs/{run["id"]}/cancel", new { });
        var ended = await Until(run, r => (string)r["state"]! == "cancelled");
        var sheets = await Agreed(run, drop);
        var view = await api.Get($"/api/drops/{drop}");
        Assert.Equal((sheets, 30 - sheets), (Api.Count(view, "produced"), Api.Count(view, "ready")));
        Assert.Equal(sheets, (int)(await api.Get($"/api/runs/{run["id"]}"))["printed"]!);
        // What is left is made by the next run, and nobody twice.
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 60_000, jamsIn10000 = 0 });
        await Done(await api.Post($"/api/drops/{drop}/runs", Print()));
        Assert.Equal(Enumerable.Range(1, 30).Select(i => $"{i:000}"), (await Sheets()).Select(s => s[10..13]));
        _ = ended;
    }

    [Fact]
    public async Task A_paused_run_can_be_cancelled_and_a_spoiled_piece_is_reprinted_by_its_number()
    {
        var drop = await Drop(20);
        var run = await Done(await api.Post($"/api/drops/{drop}/runs", Print(new { pieces = "1-10" })));
        var again = await Done(await api.Post($"/api/drops/{drop}/runs", Print(new { reprints = true, pieces = "4-6" })));
        Assert.Equal(["004", "005", "006"], (await Sheets()).TakeLast(3).Select(s => s[10..13]));
        Assert.Equal(10, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        Assert.Equal("reprinted", (string)(await api.Get($"/api/runs/{again["id"]}/pieces"))["rows"]![0]!["state"]!);
        Assert.Equal(
            [(long)again["number"]!],
            (await api.Get($"/api/runs/{run["id"]}/detail"))["reprints"]!.AsArray().Select(n => (long)n!)
        );
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 600, jamsIn10000 = 0 });
        var third = await api.Post($"/api/drops/{drop}/runs", Print());
        await Until(third, r => (int)r["printed"]! > 1);
        await api.Post($"/api/runs/{third["id"]}/pause", new { });
        await api.Post($"/api/runs/{third["id"]}/cancel", new { });
        Assert.Equal("cancelled", (string)(await api.Get($"/api/runs/{third["id"]}"))["state"]!);
        var view = await api.Get($"/api/drops/{drop}");
        Assert.Equal(20, Api.Count(view, "produced") + Api.Count(view, "ready"));
        Assert.Contains(
            "already ended",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/runs/{third["id"]}/cancel", new { }))).Detail
        );
    }

    [Fact]
    public async Task Only_the_envelopes_are_reprinted_where_only_they_were_spoiled()
    {
        var drop = await Drop(5, envelope: true);
        var run = await Done(await api.Post($"/api/drops/{drop}/runs", Print()));
        var envelope = (long)run["designs"]![1]!["designId"]!;
        var plan = await api.Post(
            $"/api/drops/{drop}/plan",
            Print(
                new
                {
                    reprints = true,
                    pieces = "2-3",
                    designs = new[] { envelope },
                }
            )
        );
        Assert.Equal("envelope", (string)Assert.Single(plan["designs"]!.AsArray())!["kind"]!);
        var again = await Done(
            await api.Post(
                $"/api/drops/{drop}/runs",
                Print(
                    new
                    {
                        reprints = true,
                        pieces = "2-3",
                        designs = new[] { envelope },
                    }
                )
            )
        );
        Assert.Equal(["Given002 Family002", "Given003 Family003"], (await Sheets()).TakeLast(2));
        Assert.Equal(2, (int)again["printed"]!);
        Assert.Equal(12, (await Sheets()).Count);
        Assert.Contains(
            "whole package",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", Print(new { designs = new[] { envelope } })))).Detail
        );
        Assert.Contains(
            "did not include these designs",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/drops/{drop}/runs",
                        Print(
                            new
                            {
                                reprints = true,
                                pieces = "1",
                                designs = new[] { 999 },
                            }
                        )
                    )
                )
            ).Detail
        );
    }

    [Fact]
    public async Task On_both_sides_each_piece_begins_on_a_sheet_of_its_own_and_copies_are_counted()
    {
        var drop = await Drop(
            3,
            false,
            "Dear {First},",
            string.Concat(
                Enumerable.Repeat("The glasshouse is quieter without you; in nine years you have walked the riverside path. ", 60)
            ),
            "End of {First}."
        );
        foreach (var alike in (await api.Get($"/api/drops/{drop}"))["issues"]!.AsArray().Select(f => (string)f!["alike"]!))
            await api.Post($"/api/drops/{drop}/accept", new { alike });
        var run = await Done(
            await api.Post(
                $"/api/drops/{drop}/runs",
                Print(
                    new
                    {
                        duplex = true,
                        copies = 2,
                        batchOf = 2,
                        breakSheets = true,
                    }
                )
            )
        );
        Assert.Equal(3, (int)run["printed"]!);
        var sheets = await Sheets();
        Assert.All(sheets.Where(s => s.StartsWith("Dear", StringComparison.Ordinal)), s => Assert.Contains("/", s));
        Assert.Equal(6, sheets.Count(s => s.StartsWith("Dear", StringComparison.Ordinal)));
        Assert.Equal(6, sheets.Count(s => s.Contains("End of", StringComparison.Ordinal)));
    }

    [Fact]
    public async Task What_cannot_be_printed_is_refused_with_a_sentence()
    {
        var drop = await Drop(2);
        async Task<string> Refused(object order) =>
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", order))).Detail;
        Assert.Contains("Choose the printer", await Refused(new { output = "print" }));
        var paper = (long)await api.Post("/api/printers", new { name = "Front office" });
        Assert.Contains("Produce files and print those instead", await Refused(new { output = "print", printerId = paper }));
        Assert.Contains("number of copies must be", await Refused(Print(new { copies = 0 })));
        Assert.Contains(
            "holds up to 5,000",
            (await Api.Refusal(api.Client.PutAsJsonAsync($"/api/printers/{printer}/practice/trays/1", new { sheets = 6000 }))).Detail
        );
        Assert.Contains(
            "does not have that tray",
            (await Api.Refusal(api.Client.PutAsJsonAsync($"/api/printers/{printer}/practice/trays/9", new { sheets = 1 }))).Detail
        );
        Assert.Contains(
            "sheets per minute",
            (
                await Api.Refusal(
                    api.Client.PutAsJsonAsync($"/api/printers/{printer}/practice", new { sheetsAMinute = 0, jamsIn10000 = 0 })
                )
            ).Detail
        );
        Assert.Contains("not a practice printer", (await Api.Refusal(api.Client.GetAsync($"/api/printers/{paper}/practice"))).Detail);
        Assert.Contains(
            "is not on this computer",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        "/api/printers",
                        new
                        {
                            name = "x",
                            kind = "queue",
                            queue = "nowhere",
                        }
                    )
                )
            ).Detail
        );
    }
}
