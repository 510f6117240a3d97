using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>The first hour through the API: the organization with its country and signer, designs to start from.</summary>
public sealed class SetupTests : IAsyncLifetime
{
    readonly Api api = new();

    public ValueTask InitializeAsync() => api.InitializeAsync();

    public ValueTask DisposeAsync() => api.DisposeAsync();

    const string Members =
        "No.,First name,Last name,Street,City,State,ZIP,Email\r\n"
        + "F-1,Ana,Okafor,1 Quay Road,Fernquay,OR,97412,ana@example.org\r\n"
        + "F-2,Per,Lindqvist,2 Quay Road,Fernquay,OR,97412,per@example.org\r\n";

    Task<JsonNode> Set(object more) => api.Put("/api/settings/organization", more);

    [Fact]
    public async Task Every_starter_composes_for_the_first_recipient_without_an_issue()
    {
        var list = await api.BringIn("members.csv", Members);
        await Set(
            new
            {
                name = "Fernquay Botanic Garden",
                locale = "en-US",
                currency = "USD",
                postalAddress = "14 Quay Road\nFernquay OR 97412",
                country = "US",
                signer = "Marisol Quint",
                signerTitle = "Keeper of Members",
                email = "office@example.org",
            }
        );
        var starters = (await api.Get("/api/starters")).AsArray();
        Assert.Equal(10, starters.Count);
        foreach (var s in starters)
        {
            var document = (await api.Get($"/api/starters/{s!["id"]}"))["document"]!.DeepClone();
            var design = (long)
                await api.Post(
                    "/api/designs",
                    new
                    {
                        name = (string)s["name"]!,
                        listId = list,
                        document,
                    }
                );
            var preview = await api.Post(
                "/api/designs/preview",
                new
                {
                    document = document.DeepClone(),
                    listId = list,
                    designId = design,
                }
            );
            Assert.True(preview["issues"]!.AsArray().Count == 0, $"{s["id"]}: {preview["issues"]!.ToJsonString()}");
            Assert.Equal("Okafor, Ana", (string)preview["recipient"]!);
            if ((string)s["kind"]! != "email")
                Assert.Equal(1, (int)preview["pages"]!);
        }
    }

    [Fact]
    public async Task The_sample_is_produced_mailed_and_removed_with_all_that_was_done()
    {
        var sample = await api.Post("/api/sample", new { });
        var (list, drop) = ((long)sample["listId"]!, (long)sample["dropId"]!);
        Assert.Equal(HttpStatusCode.Conflict, (await api.Client.PostAsJsonAsync("/api/sample", new { })).StatusCode);
        var view = await api.Checked(drop);
        Assert.Equal(40, (int)view["trays"]!["onTheList"]!);
        Assert.InRange(Api.Count(view, "needsReview"), 1, 5);
        var ready = Api.Count(view, "ready");
        Assert.InRange(ready, 35, 39);
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(new { output = "one" }));
        await api.Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = DateTime.Now.ToString("yyyy-MM-dd") });
        Assert.Equal(ready, Api.Count(await api.Get($"/api/drops/{drop}"), "mailed"));
        await api.Post($"/api/drops/{drop}/returned", new { recipients = new[] { (await api.Recipients(drop))[0].Id }, reason = "Moved" });
        Assert.Equal(HttpStatusCode.NoContent, (await api.Client.DeleteAsync("/api/sample")).StatusCode);
        foreach (var path in (string[])[$"/api/lists/{list}", $"/api/drops/{drop}", $"/api/designs/{sample["designIds"]![0]}"])
            Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync(path)).StatusCode);
        Assert.Null((await api.Get("/api/settings"))["sample"]);
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.DeleteAsync("/api/sample")).StatusCode);
        // It can come again, and its designs stay where a drop of somebody's own uses them.
        var again = await api.Post("/api/sample", new { });
        var own = await api.BringIn("members.csv", Members);
        var mine = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Mine",
                    listId = own,
                    designIds = new[] { (long)again["designIds"]![0]! },
                    campaignName = "Mine",
                }
            );
        Assert.Equal(HttpStatusCode.NoContent, (await api.Client.DeleteAsync("/api/sample")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await api.Client.GetAsync($"/api/designs/{again["designIds"]![0]}")).StatusCode);
        Assert.Equal(2, (int)(await api.Checked(mine))["trays"]!["onTheList"]!);
    }

    [Fact]
    public async Task What_is_set_comes_back_and_what_cannot_be_is_refused()
    {
        var countries = (await api.Get("/api/countries")).AsArray();
        var germany = countries.Single(c => (string)c!["code"]! == "DE")!;
        Assert.Equal(("de-DE", "EUR", "a4"), ((string)germany["locale"]!, (string)germany["currency"]!, (string)germany["sheet"]!));
        await Set(
            new
            {
                name = " Farnkai ",
                locale = "de-DE",
                currency = "EUR",
                country = "DE",
                signer = "Inge Moor ",
            }
        );
        var set = (await api.Get("/api/settings"))["organization"]!;
        Assert.Equal(("Farnkai", "DE", "Inge Moor"), ((string)set["name"]!, (string)set["country"]!, (string)set["signer"]!));
        Assert.Contains("\"a4\"", (await api.Get("/api/starters/letter-formal")).ToJsonString());
        foreach (
            var (more, why) in new (object, string)[]
            {
                (
                    new
                    {
                        name = "x",
                        locale = "de-DE",
                        currency = "EUR",
                        country = "Germany",
                    },
                    "country code"
                ),
                (
                    new
                    {
                        name = "x",
                        locale = "de-DE",
                        currency = "EUR",
                        email = "office at example",
                    },
                    "not an email address"
                ),
                (
                    new
                    {
                        name = "x",
                        locale = "de-DE",
                        currency = "EUR",
                        timeZone = "Moon/Tycho",
                    },
                    "not a known time zone"
                ),
            }
        )
        {
            var (status, detail) = await Api.Refusal(api.Client.PutAsJsonAsync("/api/settings/organization", more));
            Assert.Equal(HttpStatusCode.BadRequest, status);
            Assert.Contains(why, detail);
        }
        Assert.Equal("Farnkai", (string)(await api.Get("/api/settings"))["organization"]!["name"]!);
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync("/api/starters/none")).StatusCode);
    }

    [Theory]
    [InlineData("US", "ByCountry", true)]
    [InlineData("PR", "ByCountry", true)]
    [InlineData("DE", "ByCountry", false)]
    [InlineData("CA", "ByCountry", false)]
    [InlineData("DE", "Inches", true)]
    [InlineData("US", "Millimeters", false)]
    public async Task Units_follow_the_country_unless_they_are_chosen(string country, string units, bool inInches)
    {
        await Set(
            new
            {
                name = "x",
                locale = "en-US",
                currency = "USD",
                country,
                units,
            }
        );
        Assert.Equal(inInches, (bool)(await api.Get("/api/settings"))["inInches"]!);
    }

    [Theory]
    [InlineData("Pacific/Kiritimati")]
    [InlineData("Pacific/Pago_Pago")]
    public async Task Today_is_the_organizations_and_changes_with_its_time_zone(string zone)
    {
        await Set(
            new
            {
                name = "x",
                locale = "en-US",
                currency = "USD",
                timeZone = zone,
            }
        );
        var there = TimeZoneInfo.ConvertTime(DateTimeOffset.UtcNow, TimeZoneInfo.FindSystemTimeZoneById(zone)).Date;
        var settings = await api.Get("/api/settings");
        Assert.Equal(zone, (string)settings["timeZone"]!);
        // The day may end between the two looks.
        Assert.InRange(DateTime.Parse((string)settings["today"]!, CultureInfo.InvariantCulture), there, there.AddDays(1));
        await Set(
            new
            {
                name = "x",
                locale = "en-US",
                currency = "USD",
            }
        );
        Assert.Equal(TimeZoneInfo.Local.Id, (string)(await api.Get("/api/settings"))["timeZone"]!);
    }

    [Fact]
    public async Task A_form_is_not_begun_without_its_file()
    {
        var (status, detail) = await Api.Refusal(api.Client.PostAsJsonAsync("/api/designs", new { name = "Form", kind = "form" }));
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("Import the PDF", detail, StringComparison.Ordinal);
        Assert.Empty((await api.Get("/api/designs")).AsArray());
    }

    /// <summary>Also what is printed beside the designs: a letter to one alone, proofs with a message, a campaign's report.</summary>
    [Theory]
    [InlineData("DE", "de-DE", "a4", 595, 842)]
    [InlineData("US", "en-US", "letter", 612, 792)]
    public async Task Everything_is_on_the_paper_of_the_country(string country, string locale, string sheet, int width, int height)
    {
        var list = await api.BringIn("members.csv", Members);
        await Set(
            new
            {
                name = "Kiefernhof",
                locale,
                currency = "EUR",
                postalAddress = "Am Anger 3\n01067 Dresden",
                country,
                email = "office@example.org",
            }
        );
        async Task<JsonNode> Document(long design) => (await api.Get($"/api/designs/{design}"))["document"]!;
        void On(byte[] pdf)
        {
            using var document = UglyToad.PdfPig.PdfDocument.Open(pdf);
            Assert.All(document.GetPages(), p => Assert.Equal((width, height), ((int)Math.Round(p.Width), (int)Math.Round(p.Height))));
        }
        var single = await api.Post(
            $"/api/lists/{list}/recipients/1/write",
            new
            {
                listId = list,
                recipientId = 1,
                designIds = Array.Empty<long>(),
            }
        );
        Assert.Equal(sheet, (string?)(await Document((long)single["designId"]!))["page"]!["sheet"]);

        var email = (long)
            await api.Post(
                "/api/designs",
                new
                {
                    name = "Email",
                    listId = list,
                    kind = "email",
                }
            );
        var drop = await api.Post(
            "/api/drops",
            new
            {
                name = "Notice",
                listId = list,
                designIds = new[] { email },
                campaignName = "Spring",
            }
        );
        On(await api.Client.GetByteArrayAsync($"/api/drops/{drop}/proofs.pdf"));
        On(
            await api.Client.GetByteArrayAsync(
                $"/api/campaigns/{(await api.Get($"/api/drops/{drop}"))["campaignId"]}/report.pdf?by=Channel"
            )
        );
    }
}
