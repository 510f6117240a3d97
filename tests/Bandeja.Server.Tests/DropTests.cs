using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Bandeja.Store;
using Bandeja.Work.Composition;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

public sealed class DropTests : ServerTests
{
    async Task<(JsonNode Run, PdfDocument Pdf)> Produce(long drop, object order)
    {
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(order));
        Assert.Equal("done", (string)(await api.Ended((long)run["jobId"]!))["state"]!);
        return (
            await api.Get($"/api/runs/{run["id"]}"),
            PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"))
        );
    }

    [Fact]
    public async Task A_range_and_the_selected_are_made_and_the_rest_is_accounted_for()
    {
        var list = await api.BringIn("members.csv", Api.Csv(9));
        var drop = await api.MakeDrop(list, "Dear {Last}, piece {Piece number}");
        var ids = (await api.Recipients(drop)).Select(r => r.Id).ToList();
        var (run, pdf) = await Produce(drop, new { pieces = "2-3, 8" });
        using (pdf)
            Assert.Equal(["0002", "0003", "0008"], pdf.GetPages().Select(p => p.Text[^4..]));
        Assert.Equal("pieces 2-3, 8", (string)run["chosen"]!);
        var plan = await api.Post($"/api/drops/{drop}/plan", new { output = "one", recipients = new[] { ids[0], ids[1], ids[8] } });
        Assert.Equal((2, 9), ((int)plan["pieces"]!, (int)plan["onTheList"]!));
        Assert.Equal(
            [("Already produced", 1), ("Not selected", 6)],
            plan["excluded"]!.AsArray().Select(l => ((string)l!["reason"]!, (int)l["count"]!))
        );
        (_, pdf) = await Produce(drop, new { recipients = new[] { ids[8], ids[0] } });
        using (pdf)
            Assert.Equal(["0001", "0009"], pdf.GetPages().Select(p => p.Text[^4..]));
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/drops/{drop}/plan",
                        new
                        {
                            output = "one",
                            pieces = "1",
                            recipients = ids,
                        }
                    )
                )
            ).Status
        );
    }

    [Fact]
    public async Task Whoever_is_told_that_pieces_are_still_being_checked_has_asked_for_that()
    {
        var drop = await api.MakeDrop(await api.BringIn("members.csv", Api.Csv(2)), "Dear {Last}");
        foreach (var path in (string[])["runs", "sign-off"])
        {
            // Not checked, and nobody has opened it since.
            api.Part<Database>().Write(c => Dapper.SqlMapper.Execute(c, "UPDATE mail_drop SET checked_mark = NULL"));
            Assert.Contains(
                "still being checked",
                (
                    await Api.Refusal(
                        api.Client.PostAsJsonAsync($"/api/drops/{drop}/{path}", path == "runs" ? Api.Order(new { }) : (object)new { })
                    )
                ).Detail
            );
            await api.Until(
                () => Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/sign-off", new { })),
                r => !r.Detail.Contains("still being checked", StringComparison.Ordinal)
            );
            Assert.True(api.Part<DropChecker>().Freshness(drop).Fresh);
        }
    }

    [Fact]
    public async Task A_hold_that_comes_while_the_run_is_made_keeps_the_piece_from_being_mailed()
    {
        var list = await api.BringIn("members.csv", Api.Csv(4));
        var drop = await api.MakeDrop(list, "Dear {Last}");
        var (run, pdf) = await Produce(drop, new { });
        pdf.Dispose();
        var first = (await api.Recipients(drop))[0].Id;
        await api.Post($"/api/drops/{drop}/hold", new { recipients = new[] { first }, reason = "moved" });
        var outcome = await api.Post($"/api/runs/{run["id"]}/mailed", new { date = DateTime.Now.ToString("yyyy-MM-dd") });
        Assert.Equal((3, "1 recipient is held."), ((int)outcome["changed"]!, (string)outcome["skipped"]![0]!));
        await api.Post($"/api/drops/{drop}/release", new { recipients = new[] { first } });
        Assert.Equal(1, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        Assert.Contains(
            "in the future",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/mailed", new { date = "2999-01-01" }))).Detail
        );
    }

    [Fact]
    public async Task A_return_is_recorded_and_taken_back_by_undo()
    {
        var list = await api.BringIn("members.csv", Api.Csv(3));
        var drop = await api.MakeDrop(list, "Dear {Last}");
        var (run, pdf) = await Produce(drop, new { });
        pdf.Dispose();
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = DateTime.Now.ToString("yyyy-MM-dd") });
        var id = (await api.Recipients(drop))[1].Id;
        await api.Post($"/api/drops/{drop}/returned", new { recipients = new[] { id }, reason = "no such number" });
        var person = await api.Get($"/api/drops/{drop}/recipients/{id}");
        Assert.Equal(("Returned", "no such number"), ((string)person["tray"]!, (string)person["returnReason"]!));
        Assert.StartsWith("Recorded return", (string)(await api.Get($"/api/drops/{drop}"))["undo"]!);
        await api.Post($"/api/drops/{drop}/undo", new { });
        Assert.Equal(3, Api.Count(await api.Get($"/api/drops/{drop}"), "mailed"));
        Assert.Equal("ReturnUndone", (string)(await api.Get($"/api/drops/{drop}/events"))[0]!["kind"]!);
    }

    [Fact]
    public async Task A_correction_is_seen_by_every_drop_of_the_list()
    {
        var list = await api.BringIn("members.csv", Api.Csv(10));
        var (a, b) = (await api.MakeDrop(list, "Dear {First}"), await api.MakeDrop(list, "Hello {First}"));
        Assert.Equal(
            (1, 1),
            (Api.Count(await api.Get($"/api/drops/{a}"), "needsReview"), Api.Count(await api.Get($"/api/drops/{b}"), "needsReview"))
        );
        var id = (await api.Recipients(a, "&tray=NeedsReview")).Single().Id;
        await api.Put($"/api/drops/{a}/recipients/{id}/values/1", new { value = "Beatriz" });
        Assert.Equal(
            (0, 0),
            (Api.Count(await api.Get($"/api/drops/{a}"), "needsReview"), Api.Count(await api.Get($"/api/drops/{b}"), "needsReview"))
        );
        await api.Post($"/api/drops/{a}/undo", new { });
        Assert.Equal(
            (1, 1),
            (Api.Count(await api.Get($"/api/drops/{a}"), "needsReview"), Api.Count(await api.Get($"/api/drops/{b}"), "needsReview"))
        );
    }

    [Fact]
    public async Task A_piece_corrected_after_it_was_made_says_so()
    {
        var list = await api.BringIn("members.csv", Api.Csv(2));
        var drop = await api.MakeDrop(list, "Dear {First}");
        var (run, pdf) = await Produce(drop, new { });
        pdf.Dispose();
        var id = (await api.Recipients(drop))[0].Id;
        await api.Put($"/api/drops/{drop}/recipients/{id}/values/1", new { value = "Anna" });
        Assert.Equal(
            ["First"],
            (await api.Get($"/api/drops/{drop}/recipients/{id}"))["changedSince"]!.AsArray().Select(v => (string)v!["name"]!)
        );
        // What is shown is the page that was produced, and the bench says which run that was.
        Assert.Equal(1, (int)(await api.Get($"/api/drops/{drop}/recipients/{id}"))["shownAsOfRun"]!);
        using (var proof = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/drops/{drop}/recipients/{id}/proof.pdf")))
            Assert.Contains("Dear Given1", proof.GetPage(1).Text);
        Assert.Equal(1, (int)(await api.Get($"/api/runs/{run["id"]}"))["correctedSince"]!);
        await api.Post($"/api/drops/{drop}/take-back", new { recipients = new[] { id } });
        (_, pdf) = await Produce(drop, new { });
        using (pdf)
            Assert.Contains("Dear Anna", pdf.GetPage(1).Text);
    }

    [Fact]
    public async Task A_produced_version_stays_and_writing_on_begins_a_new_one()
    {
        var list = await api.BringIn("members.csv", Api.Csv(2));
        var drop = await api.MakeDrop(list, "Dear {Last}");
        var design = (long)(await api.Get($"/api/drops/{drop}"))["package"]![0]!["designId"]!;
        var (_, pdf) = await Produce(drop, new { });
        pdf.Dispose();
        Assert.True((bool)(await api.Get($"/api/designs/{design}"))["produced"]!);
        await api.Save(design, Api.Letter("Changed"));
        var versions = (await api.Get($"/api/designs/{design}/versions")).AsArray();
        Assert.Equal([(2, false), (1, true)], versions.Select(v => ((int)v!["number"]!, (bool)v["produced"]!)));
        Assert.Contains("Dear {Last}", (await api.Get($"/api/designs/{design}/versions/1")).ToJsonString());
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.GetAsync($"/api/designs/{design}/versions/9"))).Status);
    }

    [Fact]
    public async Task Campaigns_hold_drops_and_a_drop_can_be_renamed_and_dated()
    {
        var list = await api.BringIn("members.csv", Api.Csv(2));
        var drop = await api.MakeDrop(list, "Dear {Last}");
        var campaign = (await api.Get("/api/campaigns"))[0]!;
        var design = (long)(await api.Get($"/api/drops/{drop}"))["package"]![0]!["designId"]!;
        await api.Post(
            "/api/drops",
            new
            {
                name = "Second",
                listId = list,
                designIds = new[] { design },
                campaignId = (long)campaign["id"]!,
            }
        );
        await api.Client.PatchAsJsonAsync($"/api/drops/{drop}", new { name = "First", mailDate = "2027-03-12" });
        campaign = (await api.Get("/api/campaigns"))[0]!;
        Assert.Equal(
            [(1, "First", "2027-03-12"), (2, "Second", null)],
            campaign["drops"]!.AsArray().Select(d => ((int)d!["number"]!, (string)d["name"]!, (string?)d["mailDate"]))
        );
        Assert.Contains(
            "name",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        "/api/drops",
                        new
                        {
                            name = "",
                            listId = list,
                            designIds = new[] { design },
                            campaignName = "x",
                        }
                    )
                )
            ).Detail
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        "/api/drops",
                        new
                        {
                            name = "x",
                            listId = 99,
                            designIds = new[] { design },
                            campaignName = "x",
                        }
                    )
                )
            ).Status
        );
    }

    [Fact]
    public async Task A_picture_is_kept_by_its_content_and_prints()
    {
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "bandeja")))
            root = Path.GetDirectoryName(root)!;
        var bytes = await File.ReadAllBytesAsync(Path.Combine(root, "demo", "files", "emblem.png"));
        async Task<JsonNode> Add() =>
            JsonNode.Parse(
                await (await api.Client.PostAsync("/api/pictures?name=emblem.png", new ByteArrayContent(bytes))).Content.ReadAsStringAsync()
            )!;
        var picture = await Add();
        Assert.Equal((string)picture["id"]!, (string)(await Add())["id"]!);
        Assert.Equal(bytes, await api.Client.GetByteArrayAsync($"/api/pictures/{picture["id"]}"));
        foreach (var bad in (string[])["nothing", "..%2F..%2Fbandeja.sqlite"])
            Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync($"/api/pictures/{bad}")).StatusCode);
        var document = new JsonObject
        {
            ["content"] = new JsonArray(
                new JsonObject
                {
                    ["type"] = "picture",
                    ["attrs"] = new JsonObject
                    {
                        ["asset"] = (string)picture["id"]!,
                        ["width"] = 20,
                        ["aspect"] = 1,
                    },
                }
            ),
        };
        var preview = await api.Post("/api/designs/preview", new JsonObject { ["document"] = document });
        using var pdf = PdfDocument.Open(Convert.FromBase64String((string)preview["pdf"]!));
        Assert.Single(pdf.GetPage(1).GetImages());
    }

    [Fact]
    public async Task Settings_tell_the_choices_and_the_limits()
    {
        var settings = await api.Get("/api/settings");
        Assert.Equal(10, settings["families"]!.AsArray().Count);
        Assert.Equal(100 << 20, (long)settings["maxUpload"]!);
        Assert.Contains("a4", settings["sheets"]!.AsArray().Select(s => (string)s!));
        Assert.Equal("en-US", (string)settings["organization"]!["locale"]!);
    }

    [Fact]
    public async Task Text_that_looks_like_a_field_holds_every_piece_until_it_is_one_or_is_accepted()
    {
        var list = await api.BringIn("members.csv", Api.Csv(3));
        var drop = await api.MakeDrop(list, "Dear [First Name], of <<Town>> {Last}", "See [1] and [insert date].");
        async Task<JsonNode> Now() => await api.Get($"/api/drops/{drop}");
        string[] Issues(JsonNode view) => [.. view["issues"]!.AsArray().Select(i => (string)i!["title"]!).Order(StringComparer.Ordinal)];
        var view = await Now();
        Assert.Equal(3, Api.Count(view, "needsReview"));
        Assert.Equal(
            ["Not a field: “<<Town>>”", "Not a field: “[First Name]”", "Not a field: “[insert date]”"],
            Issues(view).Where(i => i.StartsWith("Not a field", StringComparison.Ordinal))
        );
        Assert.Contains(
            "Letter prints “[First Name]” as it is, for every recipient. Make it the field {First}.",
            view["issues"]!.AsArray().Select(i => (string)i!["message"]!)
        );

        var design = (long)view["package"]!.AsArray().Single()!["designId"]!;
        await api.Save(design, Api.Letter("Dear {First | else \"friend\"}, of <<Town>> {Last}"));
        view = await api.Checked(drop);
        Assert.Equal(["Not a field: “<<Town>>”"], Issues(view));
        await api.Post($"/api/drops/{drop}/accept", new { alike = (string)view["issues"]!.AsArray().Single()!["alike"]! });
        view = await api.Checked(drop);
        Assert.Equal((0, 3), (Api.Count(view, "needsReview"), Api.Count(view, "ready")));
    }
}
