using System.Net;
using System.Net.Http.Json;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

public sealed class StoryTests : ServerTests
{
    [Fact]
    public async Task From_a_file_to_mailed_pieces_by_the_api_alone()
    {
        var list = await api.BringIn("members.csv", Api.Csv(30));
        var drop = await api.MakeDrop(list, "Dear {First},", "{City} {ZIP}: {Amount due | money}");
        var view = await api.Get($"/api/drops/{drop}");
        Assert.Equal((3, 27, 30), (Api.Count(view, "needsReview"), Api.Count(view, "ready"), Api.Count(view, "onTheList")));

        var wrong = (await api.Recipients(drop, "&tray=NeedsReview"))[0];
        var columnId = (int)(await api.Get($"/api/lists/{list}"))["columns"]![0]!["id"]!;
        await api.Put($"/api/drops/{drop}/recipients/{wrong.Id}/values/{columnId}", new { value = "Beatriz" });
        await api.Post(
            $"/api/drops/{drop}/hold",
            new { recipients = new[] { (await api.Recipients(drop))[0].Id }, reason = "asked to wait" }
        );
        await api.Post($"/api/drops/{drop}/accept", new { alike = "Blank|First" });

        var plan = await api.Post($"/api/drops/{drop}/plan", new { output = "one" });
        Assert.Equal(
            (29, 30, "Held: asked to wait"),
            ((int)plan["pieces"]!, (int)plan["onTheList"]!, (string)plan["excluded"]![0]!["reason"]!)
        );
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one", expected = 29 });
        Assert.Equal("done", (string)(await api.Ended((long)run["jobId"]!))["state"]!);
        var id = (long)run["id"]!;
        using (var pdf = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/runs/{id}/files/1")))
        {
            Assert.Equal(29, pdf.NumberOfPages);
            Assert.Contains("Beatriz", pdf.GetPage(wrong.Piece - 1).Text);
            Assert.Contains("02002: $2.50", pdf.GetPage(1).Text);
            Assert.DoesNotContain("Given1,", string.Concat(pdf.GetPages().Select(p => p.Text)));
        }

        Assert.Equal(0, Api.Count(await api.Get($"/api/drops/{drop}"), "mailed"));
        await api.Post($"/api/runs/{id}/mailed", new { date = DateTime.Now.ToString("yyyy-MM-dd"), pieces = "2-11" });
        await api.Post($"/api/runs/{id}/mailed", new { date = DateTime.Now.ToString("yyyy-MM-dd") });
        view = await api.Get($"/api/drops/{drop}");
        Assert.Equal((29, 1, 0), (Api.Count(view, "mailed"), Api.Count(view, "held"), Api.Count(view, "ready")));
        Assert.Equal(0, (int)(await api.Post($"/api/drops/{drop}/plan", new { output = "one" }))["pieces"]!);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "one" }))).Status
        );

        var person = await api.Get($"/api/lists/{list}/recipients/{wrong.Id}");
        Assert.Equal(
            ("Renewal", "Mailed", "Tomás Reyes"),
            ((string)person["mail"]![0]!["campaignName"]!, (string)person["mail"]![0]!["tray"]!, (string)person["changes"]![0]!["by"]!)
        );
        var row = (await api.Get($"/api/lists/{list}/recipients?search=beatriz"))["rows"]![0]!;
        Assert.Equal("First notice, Renewal", (string)row["lastMailed"]!["with"]!);
        Assert.Contains("Beatriz", await api.Client.GetStringAsync("/api/ledger.csv"));
        Assert.Equal((byte)'P', (await api.Client.GetByteArrayAsync($"/api/ledger.xlsx?dropId={drop}"))[0]);
    }

    [Fact]
    public async Task A_letter_that_changes_is_checked_again_and_an_unknown_field_puts_everybody_under_review()
    {
        var list = await api.BringIn("members.csv", Api.Csv(20));
        var drop = await api.MakeDrop(list, "Dear {Last},");
        var design = (long)(await api.Get($"/api/drops/{drop}"))["package"]![0]!["designId"]!;
        Assert.Equal(20, Api.Count(await api.Get($"/api/drops/{drop}"), "ready"));
        await api.Save(design, Api.Letter("Dear {Lats},"));
        var view = await api.Checked(drop);
        Assert.Equal(20, Api.Count(view, "needsReview"));
        Assert.Equal("Design", (string)view["issues"]![0]!["kind"]!);
        Assert.Contains("did you mean “Last”?", (string)view["mistakes"]![0]!["message"]!);
        // Accepted it cannot be, and nothing is produced while it is there.
        Assert.Contains(
            "cannot be accepted",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync($"/api/drops/{drop}/accept", new { alike = (string)view["issues"]![0]!["alike"]! })
                )
            ).Detail
        );
        Assert.Contains("has a mistake", (string)(await api.Post($"/api/drops/{drop}/plan", new { output = "one" }))["blocked"]!);
        Assert.Contains(
            "has a mistake",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "one" }))).Detail
        );
        var preview = await api.Post(
            "/api/designs/preview",
            new
            {
                document = Api.Letter("Dear {Lats},"),
                listId = list,
                offset = 0,
            }
        );
        Assert.Equal(
            ("Last", 6, 4),
            (
                (string)preview["mistakes"]![0]!["suggestion"]!,
                (int)preview["mistakes"]![0]!["position"]!,
                (int)preview["mistakes"]![0]!["length"]!
            )
        );
    }

    [Fact]
    public async Task The_proof_is_the_page_that_prints()
    {
        var list = await api.BringIn("members.csv", Api.Csv(3));
        var drop = await api.MakeDrop(list, "Dear {First}, {Amount due | money}");
        var id = (await api.Recipients(drop))[1].Id;
        var response = await api.Client.GetAsync($"/api/drops/{drop}/recipients/{id}/proof.pdf");
        Assert.Equal("application/pdf", response.Content.Headers.ContentType!.MediaType);
        using var pdf = PdfDocument.Open(await response.Content.ReadAsByteArrayAsync());
        Assert.Contains("Dear Given2, $2.50", pdf.GetPage(1).Text);
    }

    [Fact]
    public async Task A_run_can_be_cancelled_and_then_everybody_is_where_they_were()
    {
        var list = await api.BringIn("members.csv", Api.Csv(800));
        var drop = await api.MakeDrop(
            list,
            "Dear {Last}, " + string.Concat(Enumerable.Repeat("{City} {ZIP} {Amount due | money} and so on; ", 40))
        );
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        var jobId = (long)run["jobId"]!;
        await api.Post($"/api/jobs/{jobId}/cancel", new { });
        Assert.Equal("cancelled", (string)(await api.Ended(jobId))["state"]!);
        Assert.Equal("cancelled", (string)(await api.Get($"/api/runs/{run["id"]}"))["state"]!);
        Assert.Equal(800, Api.Count(await api.Get($"/api/drops/{drop}"), "ready"));
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.GetAsync($"/api/runs/{run["id"]}/files/1"))).Status);
        Assert.Equal(800, (int)(await api.Post($"/api/drops/{drop}/plan", new { output = "one" }))["pieces"]!);
    }

    [Fact]
    public async Task The_organizations_locale_changes_what_prints()
    {
        var list = await api.BringIn("members.csv", Api.Csv(2));
        await api.Put(
            "/api/settings/organization",
            new
            {
                name = "Garten",
                locale = "de-DE",
                currency = "EUR",
            }
        );
        var preview = await api.Post(
            "/api/designs/preview",
            new
            {
                document = Api.Letter("{Amount due | money}"),
                listId = list,
                offset = 0,
            }
        );
        using var pdf = PdfDocument.Open(Convert.FromBase64String((string)preview["pdf"]!));
        Assert.Contains("1,50", pdf.GetPage(1).Text);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await Api.Refusal(
                    api.Client.PutAsJsonAsync(
                        "/api/settings/organization",
                        new
                        {
                            name = "x",
                            locale = "xx",
                            currency = "EUR",
                        }
                    )
                )
            ).Status
        );
    }

    [Theory]
    [InlineData("en-US", "MMM d, yyyy")]
    [InlineData("en-GB", "d MMM yyyy")]
    [InlineData("de-CH", "d MMM yyyy")]
    public async Task Days_are_said_in_the_order_of_the_organizations_country(string locale, string pattern)
    {
        await api.Put(
            "/api/settings/organization",
            new
            {
                name = "Garden",
                locale,
                currency = "USD",
            }
        );
        var drop = await api.MakeDrop(await api.BringIn("members.csv", Api.Csv(3)), "Dear {Last},");
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        await api.Ended((long)run["jobId"]!);
        var day = DateOnly.FromDateTime(DateTime.Now);
        var said = day.ToString(pattern, System.Globalization.CultureInfo.InvariantCulture);
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = day.ToString("yyyy-MM-dd") });
        var row = (await api.Get($"/api/drops/{drop}/recipients"))["rows"]![0]!;
        Assert.Equal($"Mailed {said}", (string)row["why"]!);
        var piece = (await api.Get($"/api/runs/{run["id"]}/pieces"))["rows"]![0]!;
        Assert.Equal($"mailed {said}", (string)piece["state"]!);
        var refused = await Api.Refusal(
            api.Client.PostAsJsonAsync(
                "/api/returns",
                new
                {
                    dropId = drop,
                    recipientId = row["id"],
                    reason = "moved",
                    followUp = "record",
                    date = day.AddDays(-1).ToString("yyyy-MM-dd"),
                }
            )
        );
        Assert.Contains(said[..said.LastIndexOf(' ')].TrimEnd(','), refused.Detail);
    }
}
