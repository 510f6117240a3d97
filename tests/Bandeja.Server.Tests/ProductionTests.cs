using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>Plans and files, as a script would ask for them.</summary>
public sealed class ProductionTests : ServerTests
{
    // Two of a name; a blank code; codes in another order than the list; one abroad.
    const string List =
        "First,Last,Street,City,ZIP,Country,Code\r\nAna,Okafor,1 Quay Road,Fernquay,97499,,fern\r\nBea,Marsh,2 Quay "
        + "Road,Fernquay,97401,,ivy\r\nANA,OKAFOR,3 Quay Road,Alder Point,97403,,moss\r\nCem,a/b:c,4 Quay "
        + "Road,Fernquay,97402,,\r\nDot,Quint,5 Fern Street,Kyoto,100-0001,Japan,rose\r\n";

    async Task<long> Drop(string csv = List) =>
        await api.MakeDrop(
            await api.BringIn("members.csv", csv),
            csv == List ? ["Dear {First} {Last},", "{Delivery address}"] : ["Dear {First} {Last},"]
        );

    async Task<JsonNode> Made(long drop, object order)
    {
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(order));
        var job = await api.Ended((long)run["jobId"]!);
        Assert.True((string)job["state"]! == "done", (string?)job["message"]);
        return await api.Get($"/api/runs/{run["id"]}");
    }

    async Task<byte[]> File(JsonNode run, int number) => await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/{number}");

    static List<string> Texts(byte[] pdf, string? password = null)
    {
        using var document = password is null ? PdfDocument.Open(pdf) : PdfDocument.Open(pdf, new ParsingOptions { Password = password });
        return [.. document.GetPages().Select(p => p.Text)];
    }

    static List<(string Name, byte[] Bytes)> Entries(byte[] zip)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        return
        [
            .. archive.Entries.Select(e =>
            {
                using var s = e.Open();
                var m = new MemoryStream();
                s.CopyTo(m);
                return (e.FullName, m.ToArray());
            }),
        ];
    }

    [Fact]
    public async Task The_plan_says_who_what_weight_and_cost_and_adds_up()
    {
        var drop = await Drop();
        var plan = await api.Post(
            $"/api/drops/{drop}/plan",
            new
            {
                output = "one",
                postage = "Single letters",
                postageAbroad = "International letters",
            }
        );
        Assert.Equal((5, 5), ((int)plan["pieces"]!, (int)plan["onTheList"]!));
        var cost = plan["cost"]!;
        // A US Letter sheet of 90 g/m² weighs 5.43 g.
        Assert.Equal(5.43m, Math.Round((decimal)cost["heaviest"]!, 2));
        Assert.Equal(
            [("Single letters", 4, 2.92m), ("International letters", 1, 1.65m)],
            cost["postage"]!.AsArray().Select(p => ((string)p!["class"]!, (int)p["pieces"]!, (decimal)p["price"]!))
        );
        Assert.Equal(2.92m + 1.65m + 5 * 0.018m, (decimal)cost["total"]!);
        var held = (await api.Recipients(drop))[0].Id;
        await api.Post($"/api/drops/{drop}/hold", new { recipients = new[] { held }, reason = "asked to wait" });
        plan = await api.Post($"/api/drops/{drop}/plan", new { output = "one", pieces = "1-3" });
        Assert.Equal((2, 3), ((int)plan["pieces"]!, plan["excluded"]!.AsArray().Sum(l => (int)l!["count"]!)));

        var prices = await api.Get("/api/settings/prices");
        prices["postage"]!.AsArray()[1]!["steps"] = new JsonArray(new JsonObject { ["upToGrams"] = 5, ["price"] = 1 });
        await api.Put("/api/settings/prices", prices);
        var heavy = await api.Post($"/api/drops/{drop}/plan", new { output = "one", postage = "Single letters" });
        Assert.Contains("3 pieces are heavier", (string)heavy["remarks"]![0]!);
        Assert.Contains("1 piece is international", (string)heavy["remarks"]![1]!);
        Assert.Contains(
            "postage class “Pigeon” no longer exists",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/plan", new { output = "one", postage = "Pigeon" }))).Detail
        );
        prices["papers"] = new JsonArray();
        Assert.Contains("Add at least one paper", (await Api.Refusal(api.Client.PutAsJsonAsync("/api/settings/prices", prices))).Detail);
    }

    [Fact]
    public async Task The_order_holds_for_every_file_and_every_order_is_told()
    {
        var drop = await Drop();
        var byCode = await Made(drop, new { sort = "postal", pieces = "1-4" });
        Assert.Equal(
            ["Bea Marsh", "Cem a/b:c", "ANA OKAFOR", "Ana Okafor"],
            Texts(await File(byCode, 1)).Select(t => t[5..t.IndexOf(',')])
        );
        Assert.Equal([2, 4, 3, 1], (await api.Get($"/api/runs/{byCode["id"]}/pieces"))["rows"]!.AsArray().Select(p => (int)p!["piece"]!));
        Assert.Equal(
            ["country", "postal code"],
            (await api.Get($"/api/runs/{byCode["id"]}/detail"))["orderedBy"]!.AsArray().Select(x => (string)x!)
        );
        var other = await Drop();
        var byColumns = await Made(other, new { sort = "4,-1" });
        Assert.Equal(["ANA", "Cem", "Bea", "Ana", "Dot"], Texts(await File(byColumns, 1)).Select(t => t[5..t.IndexOf(' ', 6)]));
        Assert.Contains(
            "no longer in the list",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{other}/plan", new { output = "one", sort = "99" }))).Detail
        );
    }

    [Fact]
    public async Task A_segment_is_made_and_the_others_are_excluded_by_name()
    {
        var list = await api.BringIn("members.csv", List);
        var drop = await api.MakeDrop(list, "Dear {First},");
        var segment = (long)await api.Post($"/api/lists/{list}/segments", new { name = "Fernquay", filter = "City = \"Fernquay\"" });
        var plan = await api.Post($"/api/drops/{drop}/plan", new { output = "one", segmentId = segment });
        Assert.Equal(
            (3, "Not in “Fernquay”", 2),
            ((int)plan["pieces"]!, (string)plan["excluded"]![0]!["reason"]!, (int)plan["excluded"]![0]!["count"]!)
        );
        Assert.Equal("segment “Fernquay”", (string)(await Made(drop, new { segmentId = segment }))["chosen"]!);
        Assert.Contains(
            "choose only one",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/drops/{drop}/plan",
                        new
                        {
                            output = "one",
                            segmentId = segment,
                            pieces = "1",
                        }
                    )
                )
            ).Detail
        );
    }

    [Fact]
    public async Task A_pdf_each_comes_in_a_zip_with_safe_names_numbered_where_they_are_alike()
    {
        var drop = await Drop();
        var plan = await api.Post($"/api/drops/{drop}/plan", new { output = "each", nameBy = "{Last}" });
        Assert.Equal(
            ["Okafor.pdf", "Marsh.pdf", "OKAFOR (2).pdf", "a-b-c.pdf", "Quint.pdf"],
            plan["names"]!.AsArray().Select(n => (string)n!)
        );
        Assert.Equal(1, (int)plan["numbered"]!);
        var run = await Made(drop, new { output = "each", nameBy = "{Last}" });
        var entries = Entries(await File(run, 1));
        Assert.Equal(plan["names"]!.AsArray().Select(n => (string)n!), entries.Select(e => e.Name.Split('/')[1]));
        Assert.Matches(@"^renewal-first-notice-\d{4}-\d\d-\d\d-\d{4}$", entries[0].Name.Split('/')[0]);
        Assert.Equal(
            ["Dear Ana Okafor,", "Dear Bea Marsh,", "Dear ANA OKAFOR,", "Dear Cem a/b:c,", "Dear Dot Quint,"],
            entries.Select(e => Texts(e.Bytes)[0][..(Texts(e.Bytes)[0].IndexOf(',') + 1)])
        );
        Assert.Equal(5, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        Assert.Contains(
            "There is no column",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/drops/{drop}/plan",
                        new
                        {
                            output = "each",
                            nameBy = "{Lst}",
                            reprints = true,
                            pieces = "1",
                        }
                    )
                )
            ).Detail
        );
    }

    [Fact]
    public async Task Passwords_open_each_file_for_its_own_recipient_and_stand_nowhere_in_clear()
    {
        var drop = await Drop();
        var order = new
        {
            output = "each",
            nameBy = "{Last}",
            passwords = new
            {
                open = "{Code}",
                openBy = true,
                owner = "the gardener's own",
                copy = false,
            },
        };
        Assert.Equal([4], (await api.Post($"/api/drops/{drop}/plan", order))["blankPasswords"]!.AsArray().Select(p => (int)p!));
        Assert.Contains(
            "blank for 1 recipient: piece 0004",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", order))).Detail
        );
        // Of what is longer than the standard looks at, the rest would be dropped without a word.
        Assert.Contains(
            "limit of 127 bytes",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/drops/{drop}/plan",
                        new { output = "each", passwords = new { open = new string('é', 64) } }
                    )
                )
            ).Detail
        );
        await api.Post($"/api/drops/{drop}/hold", new { recipients = new[] { (await api.Recipients(drop))[3].Id }, reason = "no code" });
        var run = await Made(drop, order);
        Assert.True((bool)run["protected"]!);
        var entries = Entries(await File(run, 1));
        foreach (
            var (entry, password, name) in entries.Zip(
                ["fern", "ivy", "moss", "rose"],
                ["Ana Okafor", "Bea Marsh", "ANA OKAFOR", "Dot Quint"]
            )
        )
        {
            Assert.Contains(name, Texts(entry.Bytes, password)[0]);
            Assert.ThrowsAny<Exception>(() => Texts(entry.Bytes, password == "ivy" ? "fern" : "ivy"));
            Assert.Contains(name, Texts(entry.Bytes, "the gardener's own")[0]);
        }
        // Neither the database nor anything that is answered has a password in it.
        var answers = run.ToJsonString() + (await api.Get($"/api/runs/{run["id"]}/detail")).ToJsonString();
        var stored = string.Concat(api.DatabaseFiles().Select(f => System.Text.Encoding.Latin1.GetString(f)));
        Assert.DoesNotContain("the gardener's own", answers + stored);
        Assert.DoesNotContain("{Code}", stored); // an expression may hold a password, too

        foreach (
            var (passwords, message) in new (object, string)[]
            {
                (new { open = "x", owner = "x" }, "are the same"),
                (new { open = "" }, "turn off password protection"),
                (new { open = "{Code}", openBy = true }, "requires a PDF per recipient"),
            }
        )
            Assert.Contains(
                message,
                (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/plan", new { output = "one", passwords }))).Detail
            );
    }

    [Fact]
    public async Task Parts_hold_so_many_pieces_and_all_files_come_in_one_zip()
    {
        var drop = await Drop();
        var run = await Made(
            drop,
            new
            {
                output = "parts",
                partOf = 2,
                passwords = new { open = "quay" },
            }
        );
        Assert.Equal(
            [
                ("renewal-first-notice-run-1-0001-0002.pdf", 1, 2),
                ("renewal-first-notice-run-1-0003-0004.pdf", 3, 4),
                ("renewal-first-notice-run-1-0005-0005.pdf", 5, 5),
            ],
            run["files"]!.AsArray().Select(f => ((string)f!["name"]!, (int)f["firstPiece"]!, (int)f["lastPiece"]!))
        );
        var entries = Entries(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files.zip"));
        Assert.Equal([2, 2, 1], entries.Select(e => Texts(e.Bytes, "quay").Count));
        Assert.Equal(
            run["files"]!.AsArray().Select(f => (string)f!["sha256"]!),
            entries.Select(e => Convert.ToHexStringLower(SHA256.HashData(e.Bytes)))
        );
        Assert.Contains(
            "number of pieces per file",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/plan", new { output = "parts", partOf = 0 }))).Detail
        );
    }

    [Fact]
    public async Task Files_that_are_gone_are_made_again_with_the_same_bytes_whatever_changed_since()
    {
        var drop = await Drop();
        var run = await Made(drop, new { output = "each", passwords = new { open = "{Last}", openBy = true } });
        var before = await File(run, 1);
        var somebody = (await api.Recipients(drop))[0].Id;
        await api.Put($"/api/drops/{drop}/recipients/{somebody}/values/2", new { value = "Changed" });
        await api.Put(
            "/api/settings/organization",
            new
            {
                name = "Another garden",
                locale = "de-DE",
                currency = "EUR",
                countryLine = "Always",
            }
        );
        System.IO.File.Delete(api.RunFile((long)run["id"]!, "1.zip"));
        Assert.Contains("Re-create it", (await Api.Refusal(api.Client.GetAsync($"/api/runs/{run["id"]}/files/1"))).Detail);
        var job = await api.Post($"/api/runs/{run["id"]}/remake", new { });
        Assert.Contains("are identical", (string)(await api.Ended((long)job["jobId"]!))["message"]!);
        Assert.Equal(before, await File(run, 1));
    }

    [Fact]
    public async Task A_zip_can_be_read_while_it_is_made()
    {
        var drop = await Drop("First,Last\r\n" + string.Concat(Enumerable.Range(1, 3000).Select(i => $"Given{i},Family{i}\r\n")));
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "each" });
        var along = api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1");
        await api.Ended((long)run["jobId"]!);
        var bytes = await along;
        Assert.Equal(3000, Entries(bytes).Count);
        Assert.Equal(
            (string)(await api.Get($"/api/runs/{run["id"]}"))["files"]![0]!["sha256"]!,
            Convert.ToHexStringLower(SHA256.HashData(bytes))
        );
    }

    [Fact]
    public async Task A_run_is_paused_goes_on_and_makes_everybody_once()
    {
        var drop = await Drop("First,Last\r\n" + string.Concat(Enumerable.Range(1, 2500).Select(i => $"Given{i},Family{i}\r\n")));
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "each" });
        Assert.Equal("paused", (string)(await api.Post($"/api/runs/{run["id"]}/pause", new { }))["state"]!);
        Assert.Contains(
            "cannot be paused",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/pause", new { }))).Detail
        );
        // Its pieces stay with it: another run does not get them.
        Assert.Contains(
            "They are in run 1, started by Tomás Reyes",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "one" }))).Detail
        );
        Assert.Contains(
            "resume from a piece number",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/resume", new { from = 3 }))).Detail
        );
        await api.Post($"/api/runs/{run["id"]}/resume", new { });
        await api.Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        Assert.Equal(2500, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        Assert.Equal(2500, Entries(await File(run, 1)).Count);
    }

    [Fact]
    public async Task On_a_full_disk_the_run_waits_says_so_and_goes_on_by_itself()
    {
        var drop = await Drop();
        // What is written to /dev/full finds no room.
        Directory.CreateDirectory(Path.GetDirectoryName(api.RunFile(1, "1.part"))!);
        System.IO.File.CreateSymbolicLink(api.RunFile(1, "1.part"), "/dev/full");
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        var waits = await api.Until($"/api/runs/{run["id"]}", r => (string?)r["message"] is not null);
        Assert.Contains("the server's disk is full", (string)waits["message"]!);
        Assert.Equal("running", (string)waits["state"]!);
        Assert.Equal(0, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        // What was written of it makes room, the way to the full disk with it; so the next time there is some.
        await api.Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        Assert.Equal(5, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        Assert.StartsWith("%PDF", System.Text.Encoding.Latin1.GetString(await File(run, 1)));
    }

    [Fact]
    public async Task A_run_keeps_its_versions_whatever_changes_while_it_is_on()
    {
        var drop = await Drop();
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        await api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/pause", new { });
        if ((string)(await api.Get($"/api/runs/{run["id"]}"))["state"]! == "paused")
        {
            var design = (long)(await api.Get($"/api/drops/{drop}"))["package"]![0]!["designId"]!;
            var list = (long)(await api.Get($"/api/drops/{drop}"))["listId"]!;
            await api.Save(design, Api.Letter("Hello {First}"));
            await api.Put($"/api/drops/{drop}/recipients/{(await api.Recipients(drop))[0].Id}/values/1", new { value = "Anna" });
            await api.Client.DeleteAsync($"/api/lists/{list}/columns/2");
            await api.Post($"/api/runs/{run["id"]}/resume", new { });
        }
        await api.Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        Assert.Equal("Dear Ana Okafor,", Texts(await File(await api.Get($"/api/runs/{run["id"]}"), 1))[0][..16]);
    }

    [Fact]
    public async Task Two_who_begin_the_same_at_once_make_one_run()
    {
        var drop = await Drop();
        var both = await Task.WhenAll(
            Enumerable.Range(0, 6).Select(_ => api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "one" }))
        );
        Assert.Single(both, r => r.IsSuccessStatusCode);
        Assert.All(both.Where(r => !r.IsSuccessStatusCode), r => Assert.Equal(HttpStatusCode.Conflict, r.StatusCode));
        Assert.Single((await api.Get($"/api/drops/{drop}/runs")).AsArray());
    }

    [Fact]
    public async Task A_reprint_is_the_same_piece_under_the_same_number_and_the_ledger_says_so()
    {
        var drop = await Drop();
        var run = await Made(drop, new { });
        var somebody = (await api.Recipients(drop))[1].Id;
        await api.Put($"/api/drops/{drop}/recipients/{somebody}/values/1", new { value = "Corrected" });
        Assert.Contains(
            "the pieces to reprint",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/plan", new { output = "one", reprints = true }))).Detail
        );
        // A correction was made since: which of the two is meant is asked and not guessed.
        Assert.Equal(
            1,
            (int)
                (
                    await api.Post(
                        $"/api/drops/{drop}/plan",
                        new
                        {
                            output = "one",
                            reprints = true,
                            pieces = "2-3",
                        }
                    )
                )["corrected"]!
        );
        Assert.Contains(
            "as they were or with the corrections",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/drops/{drop}/runs",
                        new
                        {
                            output = "one",
                            reprints = true,
                            pieces = "2-3",
                        }
                    )
                )
            ).Detail
        );
        var again = await Made(
            drop,
            new
            {
                reprints = true,
                pieces = "2-3",
                corrected = false,
            }
        );
        Assert.Equal(((long)run["id"]!, 2), ((long)again["reprintOf"]!, (int)again["pieces"]!));
        // As the run made it, not as it would be made now.
        Assert.Equal(["Dear Bea Marsh,", "Dear ANA OKAFOR,"], Texts(await File(again, 1)).Select(t => t[..(t.IndexOf(',') + 1)]));
        Assert.Equal(5, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        var ledger = await api.Client.GetStringAsync($"/api/ledger.csv?dropId={drop}");
        Assert.Contains("Reprinted in run", ledger);
        Assert.Equal(
            2,
            ledger
                .Split("\r\n")
                .Count(l => l.Contains(",Produced,1,", StringComparison.Ordinal) && l.Contains("Z,2,", StringComparison.Ordinal))
        );
        Assert.Equal(5, (int)(await api.Get($"/api/runs/{run["id"]}"))["waiting"]!);
        // With corrections: the same number, the new value; and the ledger has the name that was printed last.
        var corrected = await Made(
            drop,
            new
            {
                reprints = true,
                pieces = "2-3",
                corrected = true,
            }
        );
        Assert.True((bool)corrected["corrected"]!);
        Assert.Contains(Texts(await File(corrected, 1)), t => t.Contains("Corrected", StringComparison.OrdinalIgnoreCase));
        await api.Put($"/api/drops/{drop}/recipients/{somebody}/values/1", new { value = "Later" });
        ledger = await api.Client.GetStringAsync($"/api/ledger.csv?dropId={drop}");
        Assert.Contains("Corrected", ledger);
        // In its own columns; what happened since stands in the history.
        Assert.All(ledger.Split("\r\n"), l => Assert.DoesNotContain("Later", l.Split(",Paper,")[0]));
    }

    [Fact]
    public async Task Mailed_up_to_a_piece_without_those_pulled_out_and_taken_back_with_a_reason()
    {
        var drop = await Drop();
        var run = await Made(drop, new { sort = "postal", pieces = "1-4" });
        var today = DateTime.Today.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        // In the order of the run: 2, 4, 3, 1.
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = today, upTo = 4 });
        Assert.Equal([2, 4], (await api.Recipients(drop, "&tray=Mailed")).Select(r => r.Piece));
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = today, without = "3" });
        Assert.Equal([1, 2, 4], (await api.Recipients(drop, "&tray=Mailed")).Select(r => r.Piece));
        Assert.Equal([3], (await api.Recipients(drop, "&tray=Held")).Select(r => r.Piece));
        Assert.Contains(
            "Enter a reason",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/mailed/undo", new { reason = " " }))).Detail
        );
        await api.Post($"/api/runs/{run["id"]}/mailed/undo", new { reason = "Mail is still here", pieces = "1" });
        Assert.Equal([2, 4], (await api.Recipients(drop, "&tray=Mailed")).Select(r => r.Piece));
        Assert.Contains(
            (await api.Get($"/api/drops/{drop}/events")).AsArray(),
            e => (string)e!["kind"]! == "MailUndone" && (string?)e["note"] == "Mail is still here"
        );
        Assert.Contains(
            "is not in this run",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/mailed", new { date = today, upTo = 77 }))).Detail
        );
        // One act, one undo: the piece that was pulled out with it comes back, too.
        await api.Post($"/api/drops/{drop}/undo", new { });
        await api.Post($"/api/drops/{drop}/undo", new { });
        Assert.Empty(await api.Recipients(drop, "&tray=Held"));
    }
}
