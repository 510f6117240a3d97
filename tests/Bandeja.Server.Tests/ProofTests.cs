using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>The proof set, signing off, and letters changed for one, as a script would do it.</summary>
public sealed class ProofTests : ServerTests
{
    /// <summary>Twenty recipients: the twelfth has no first name, the seventh a name far longer, the third lives in Japan.</summary>
    static string List() =>
        "First,Last,Street,City,ZIP,Country,Amount due\r\n"
        + string.Concat(
            Enumerable
                .Range(1, 20)
                .Select(i =>
                    $"{(i == 12 ? "" : i == 7 ? "Bartholomew-Maximilian" : "Ana")},Family{i:00},{i} Quay "
                    + $"Road,Fernquay,97412,{(i == 3 ? "Japan" : "")},{(i == 9 ? "250" : "20")}\r\n"
                )
        );

    async Task<(long List, long Drop, long Design)> Make()
    {
        var list = await api.BringIn("members.csv", List());
        var drop = await api.MakeDrop(
            list,
            "Dear {First} {Last},",
            "{when Amount due > 100}Thank you for so large a sum.{end}",
            "{Delivery address}"
        );
        return (list, drop, (long)(await api.Get($"/api/drops/{drop}"))["package"]![0]!["designId"]!);
    }

    async Task<JsonNode> Set(long drop) => await api.Get($"/api/drops/{drop}/proof-set");

    static JsonNode Member(JsonNode set, int piece) => set["members"]!.AsArray().First(m => (int)m!["piece"]! == piece)!;

    static List<string> Reasons(JsonNode set, int piece) => [.. Member(set, piece)["reasons"]!.AsArray().Select(r => (string)r!)];

    async Task LookAtAll(long drop)
    {
        foreach (var m in (await Set(drop))["members"]!.AsArray())
            Assert.True(
                (await api.Client.PutAsJsonAsync($"/api/drops/{drop}/proof-set/{m!["id"]}", new { found = "right" })).IsSuccessStatusCode
            );
    }

    [Fact]
    public async Task The_set_shows_each_trap_with_its_reason()
    {
        var (_, drop, _) = await Make();
        var set = await Set(drop);
        Assert.Equal(20, (int)set["population"]!);
        Assert.InRange(set["members"]!.AsArray().Count, 4, 8);
        Assert.Contains("First is blank", Reasons(set, 12));
        Assert.Contains("longest First", Reasons(set, 7));
        Assert.Contains("Japan", Reasons(set, 3));
        Assert.Contains("“Amount due > 100” is met", Reasons(set, 9));
        var blank = set["variations"]!.AsArray().Single(v => (string)v!["text"]! == "no Last")!;
        Assert.Equal(0, (int)blank["recipients"]!);
        Assert.Null(blank["seenIn"]);
    }

    [Fact]
    public async Task A_sign_off_holds_for_exactly_what_was_looked_at_and_lapses_with_the_letter()
    {
        var (_, drop, design) = await Make();
        var refused = await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/sign-off", new { }));
        Assert.Equal(HttpStatusCode.Conflict, refused.Status);
        Assert.Contains("not reviewed", refused.Detail);
        await LookAtAll(drop);
        var first = (long)(await Set(drop))["members"]![0]!["id"]!;
        await api.Client.PutAsJsonAsync($"/api/drops/{drop}/proof-set/{first}", new { found = "wrong", note = "the salutation" });
        Assert.Contains("marked wrong", (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/sign-off", new { }))).Detail);
        await api.Client.PutAsJsonAsync($"/api/drops/{drop}/proof-set/{first}", new { found = "right" });
        Assert.Equal(
            HttpStatusCode.NoContent,
            (await api.Client.PostAsJsonAsync($"/api/drops/{drop}/sign-off", new { note = "good" })).StatusCode
        );
        var signed = (await api.Get($"/api/drops/{drop}"))["signOff"]!;
        Assert.Equal(("valid", "Tomás Reyes", "good"), ((string)signed["state"]!, (string)signed["by"]!, (string)signed["note"]!));

        // Units are how lengths are said, and no part of what was looked at.
        var organization = (await api.Get("/api/settings"))["organization"]!.AsObject();
        organization["units"] = "Millimeters";
        await api.Put("/api/settings/organization", organization);
        Assert.Equal("valid", (string)(await api.Checked(drop))["signOff"]!["state"]!);

        await api.Save(design, Api.Letter("Dear {First} {Last}!", "{Delivery address}"));
        var lapsed = (await api.Checked(drop))["signOff"]!;
        Assert.Equal("lapsed", (string)lapsed["state"]!);
        Assert.Equal("Letter is now version 2, but version 1 was signed off.", (string)lapsed["changes"]![0]!);
        // The pages are others now, so nobody has looked at them.
        Assert.All((await Set(drop))["members"]!.AsArray(), m => Assert.True(m!["verdict"] is null));
        Assert.Contains((await Set(drop))["members"]!.AsArray(), m => (bool)m!["outdated"]!);
    }

    [Fact]
    public async Task A_drop_can_want_a_sign_off_and_a_corrected_value_lapses_it()
    {
        var (_, drop, _) = await Make();
        await api.Client.PatchAsJsonAsync($"/api/drops/{drop}", new { needsSignOff = true });
        Assert.Contains(
            "Sign off this drop before you produce it",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "one" }))).Detail
        );
        await LookAtAll(drop);
        await api.Client.PostAsJsonAsync($"/api/drops/{drop}/sign-off", new { });
        var somebody = (await api.Recipients(drop))[0].Id;
        await api.Put($"/api/drops/{drop}/recipients/{somebody}/values/4", new { value = "Alder Point" });
        Assert.Contains(
            "The values of 1 recipient were changed.",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "one" }))).Detail
        );
        await LookAtAll(drop);
        await api.Client.PostAsJsonAsync($"/api/drops/{drop}/sign-off", new { });
        Assert.Equal("queued", (string)(await api.Post($"/api/drops/{drop}/runs", new { output = "one" }))["state"]!);
        await api.Client.DeleteAsync($"/api/drops/{drop}/sign-off");
        Assert.Equal("none", (string)(await api.Get($"/api/drops/{drop}"))["signOff"]!["state"]!);
    }

    [Fact]
    public async Task Who_is_nobody_cannot_sign()
    {
        var (_, drop, _) = await Make();
        await LookAtAll(drop);
        api.Client.DefaultRequestHeaders.Remove("X-Person");
        Assert.Contains(
            "Enter your name first",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/sign-off", new { }))).Detail
        );
    }

    [Fact]
    public async Task Own_members_are_added_and_the_proofs_come_as_a_marked_pdf()
    {
        var (_, drop, _) = await Make();
        var (id, piece, _) = (await api.Recipients(drop))[15];
        await api.Post($"/api/drops/{drop}/proof-set/own/{id}", new { });
        Assert.True((bool)Member(await Set(drop), piece)["own"]!);
        using (var pdf = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/drops/{drop}/proofs.pdf")))
        {
            Assert.Contains("Proof of Renewal, First notice", pdf.GetPage(1).Text);
            Assert.Contains("Reason chosen", pdf.GetPage(1).Text);
            var count = (await Set(drop))["members"]!.AsArray().Count;
            Assert.Equal(count + 2, pdf.NumberOfPages);
            Assert.All(Enumerable.Range(2, count + 1), n => Assert.Contains("PROOF", pdf.GetPage(n).Text));
            // The test piece has everything at its longest, though nobody has all of that.
            Assert.Contains("Bartholomew-Maximilian", pdf.GetPage(count + 2).Text);
        }
        await api.Client.DeleteAsync($"/api/drops/{drop}/proof-set/own/{id}");
        Assert.DoesNotContain((await Set(drop))["members"]!.AsArray(), m => (bool)m!["own"]!);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await api.Client.PostAsJsonAsync($"/api/drops/{drop}/proof-set/own/99999", new { })).StatusCode
        );
    }

    static string Letter(long drop, long recipient, long design) => $"/api/drops/{drop}/recipients/{recipient}/letters/{design}";

    async Task<string> Proof(long drop, long recipient)
    {
        using var pdf = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/drops/{drop}/recipients/{recipient}/proof.pdf"));
        return string.Concat(pdf.GetPages().Select(p => p.Text));
    }

    [Fact]
    public async Task A_letter_changed_for_one_is_theirs_alone_marked_everywhere_and_printed_so()
    {
        var (_, drop, design) = await Make();
        var (one, other) = ((await api.Recipients(drop))[1].Id, (await api.Recipients(drop))[4].Id);
        var own = Api.Letter(
            "Dear {First} {Last},",
            "Your fern has flowered!",
            "{when Amount due > 100}Thank you for so large a sum.{end}",
            "{Delivery address}"
        );
        await api.Put(Letter(drop, one, design), new JsonObject { ["document"] = own });
        Assert.Contains("Your fern has flowered!", await Proof(drop, one));
        Assert.DoesNotContain("flowered", await Proof(drop, other));
        Assert.True((bool)(await api.Get($"/api/drops/{drop}/recipients/{one}"))["pieces"]![0]!["alone"]!);
        Assert.Contains(Reasons(await Set(drop), 2), r => r == "Letter changed for this recipient only");
        Assert.Contains(
            (await api.Get($"/api/drops/{drop}/recipients/{one}"))["events"]!.AsArray(),
            e => (string)e!["kind"]! == "ChangedAlone"
        );

        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one", pieces = "1-5" });
        await api.Ended((long)run["jobId"]!);
        using var pdf = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"));
        Assert.Equal([false, true, false, false, false], pdf.GetPages().Select(p => p.Text.Contains("flowered")));
        // What is made cannot be changed behind its back.
        Assert.Contains(
            "already produced",
            (
                await Api.Refusal(api.Client.PutAsJsonAsync(Letter(drop, one, design), new JsonObject { ["document"] = own.DeepClone() }))
            ).Detail
        );
    }

    [Fact]
    public async Task A_newer_design_and_a_change_for_one_must_be_settled_and_nothing_is_dropped()
    {
        var (_, drop, design) = await Make();
        var one = (await api.Recipients(drop))[1].Id;
        await api.Put(
            Letter(drop, one, design),
            new JsonObject
            {
                ["document"] = Api.Letter(
                    "Dear {First} {Last},",
                    "Your fern has flowered!",
                    "{when Amount due > 100}Thank you for so large a sum.{end}",
                    "{Delivery address}"
                ),
            }
        );
        await api.Save(
            design,
            Api.Letter(
                "Dear {First} {Last},",
                "{when Amount due > 100}Thank you for so large a sum.{end}",
                "{Delivery address}",
                "P.S. The quay is open."
            )
        );
        await api.Checked(drop);
        Assert.Equal("NeedsReview", (await api.Recipients(drop))[1].Tray);
        Assert.Contains(
            "Choose which one to use",
            (string)
                (await api.Get($"/api/drops/{drop}/recipients/{one}"))["issues"]!.AsArray().Single(f => (string)f!["kind"]! == "OneOff")![
                    "message"
                ]!
        );
        Assert.Contains("flowered", await Proof(drop, one));
        var open = await api.Get(Letter(drop, one, design));
        Assert.True((bool)open["isOpen"]!);
        await api.Put(Letter(drop, one, design), new JsonObject { ["document"] = open["merged"]!.DeepClone() });
        Assert.Equal("Ready", (await api.Recipients(drop))[1].Tray);
        var text = await Proof(drop, one);
        Assert.Contains("flowered", text);
        Assert.Contains("The quay is open.", text);
        // Given back what everybody gets, they get that.
        Assert.True((await api.Client.DeleteAsync(Letter(drop, one, design))).IsSuccessStatusCode);
        Assert.DoesNotContain("flowered", await Proof(drop, one));
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.DeleteAsync(Letter(drop, one, design))).StatusCode);
        Assert.Contains(
            "No changes to save",
            (
                await Api.Refusal(
                    api.Client.PutAsJsonAsync(
                        Letter(drop, one, design),
                        new JsonObject { ["document"] = (await api.Get(Letter(drop, one, design)))["document"]!.DeepClone() }
                    )
                )
            ).Detail
        );
    }

    [Fact]
    public async Task Issues_are_named_and_mended_for_all_alike_and_taken_back_together()
    {
        var list = await api.BringIn("m.csv", Api.Csv(40));
        var drop = await api.MakeDrop(list, "Dear {First},");
        var group = (await api.Get($"/api/drops/{drop}"))["issues"]!.AsArray().Single()!;
        Assert.Equal(("First is blank", 4, 4), ((string)group["title"]!, (int)group["open"]!, (int)group["recipients"]!));
        var ids = (await api.Get($"/api/drops/{drop}/recipient-ids?alike={Uri.EscapeDataString((string)group["alike"]!)}&tray=NeedsReview"))
            .AsArray()
            .Select(i => (long)i!)
            .ToList();
        await api.Post(
            $"/api/lists/{list}/set",
            new
            {
                columnId = (int)group["columnId"]!,
                recipients = ids,
                value = "Friend",
                dropId = drop,
            }
        );
        Assert.Equal(40, Api.Count(await api.Get($"/api/drops/{drop}"), "ready"));
        await api.Post($"/api/drops/{drop}/undo", new { });
        Assert.Equal(4, Api.Count(await api.Get($"/api/drops/{drop}"), "needsReview"));
    }
}
