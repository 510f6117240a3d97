using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>Campaigns over the API: planning, what a change would come to, leaving, the calendar's feed, and single letters.</summary>
public sealed class CampaignTests : IAsyncLifetime
{
    readonly Api api = new();
    long list,
        design;

    public async ValueTask InitializeAsync()
    {
        await api.InitializeAsync();
        list = await api.BringIn(
            "members.csv",
            "Number,Name,Street,City,State,ZIP,Paid on,Amount\r\n"
                + "F-1,Ana Okafor,1 Quay Road,Fernquay,OR,97412,,\r\nF-2,Bo Lind,2 Quay Road,Fernquay,OR,97412,,\r\n"
                + "F-3,Cem Tan,3 Quay Road,Fernquay,OR,97412,,\r\n"
        );
        design = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Notice",
                    ["listId"] = list,
                    ["document"] = Api.Letter("Dear {Name},", "{Delivery address}"),
                }
            );
    }

    public ValueTask DisposeAsync() => api.DisposeAsync();

    static string Day(int fromToday) => DateTime.Today.AddDays(fromToday).ToString("yyyy-MM-dd");

    async Task<long> Plan(string mode = "Together", string name = "Renewal") =>
        (long)
            await api.Post(
                "/api/campaigns/plan",
                new
                {
                    name,
                    listId = list,
                    mode,
                    startsOn = Day(0),
                }
            );

    object Step(string name, int after = 0, string who = "Everyone", string condition = "") =>
        new
        {
            name,
            designIds = new[] { design },
            timing = new { after },
            who,
            condition,
        };

    async Task<long> Add(long campaign, object step) =>
        (long)await api.Post($"/api/campaigns/{campaign}/steps", new { campaignId = campaign, step });

    [Fact]
    public async Task Steps_are_planned_looked_at_moved_and_refused_with_a_reason()
    {
        var campaign = await Plan();
        await Add(campaign, Step("First"));
        var second = await Add(campaign, Step("Second", 20));
        var view = await api.Get($"/api/campaigns/{campaign}");
        Assert.Equal(["First", "Second"], view["steps"]!.AsArray().Select(s => (string)s!["name"]!));
        var drop = (long)view["steps"]![1]!["dropIds"]![0]!;
        Assert.Equal(3, (int)(await api.Checked(drop))["trays"]!["ready"]!);
        var look = await api.Post(
            $"/api/campaigns/{campaign}/steps/look",
            new
            {
                skip = new
                {
                    campaignId = campaign,
                    stepId = second,
                    skipped = true,
                },
            }
        );
        Assert.Equal("3 recipients do not get “Second”.", (string)look["sentences"]![0]!);
        Assert.False((bool)(await api.Get($"/api/campaigns/{campaign}"))["steps"]![1]!["skipped"]!);
        await api.Post(
            $"/api/campaigns/{campaign}/steps/{second}/move",
            new
            {
                campaignId = campaign,
                stepId = second,
                mailOn = Day(60),
            }
        );
        Assert.True(string.CompareOrdinal((string)(await api.Get($"/api/drops/{drop}"))["mailDate"]!, Day(59)) > 0);
        var (status, detail) = await Api.Refusal(
            api.Client.PostAsJsonAsync($"/api/campaigns/{campaign}/steps", new { campaignId = campaign, step = Step("second") })
        );
        Assert.Equal((HttpStatusCode.Conflict, "The campaign has another step “second”. Choose another name."), (status, detail));
        (status, detail) = await Api.Refusal(api.Client.DeleteAsync($"/api/drops/{drop}"));
        Assert.Contains("is a step of Renewal", detail, StringComparison.Ordinal);
        var wrong = await api.Post($"/api/campaigns/{campaign}/condition", new { condition = "Days since Second > 3", position = 2 });
        Assert.NotNull((string?)wrong["error"]);
    }

    [Fact]
    public async Task Who_left_is_held_and_undoing_it_lets_them_go_on()
    {
        var campaign = await Plan();
        await Add(campaign, Step("First"));
        var drop = (long)(await api.Get($"/api/campaigns/{campaign}"))["steps"]![0]!["dropIds"]![0]!;
        await api.Checked(drop);
        var ana = (await api.Get($"/api/campaigns/{campaign}/people?search=Okafor"))["rows"]![0]!;
        await api.Post(
            $"/api/campaigns/{campaign}/leave",
            new
            {
                campaignId = campaign,
                recipients = new[] { (long)ana["recipientId"]! },
                reason = "ByHand",
                note = "asked on the phone",
            }
        );
        Assert.Equal((2, 1), (Api.Count(await api.Checked(drop), "ready"), Api.Count(await api.Checked(drop), "held")));
        Assert.Equal(
            "asked on the phone",
            (string)(await api.Get($"/api/campaigns/{campaign}/people?which=Left"))["rows"]![0]!["leftFor"]!
        );
        await api.Post(
            $"/api/campaigns/{campaign}/return",
            new { campaignId = campaign, recipients = new[] { (long)ana["recipientId"]! } }
        );
        Assert.Equal(3, Api.Count(await api.Checked(drop), "ready"));
        var (status, _) = await Api.Refusal(
            api.Client.PostAsJsonAsync(
                $"/api/campaigns/{campaign}/leave",
                new
                {
                    campaignId = campaign,
                    recipients = new[] { 999_999L },
                    reason = "ByHand",
                }
            )
        );
        Assert.Equal(HttpStatusCode.NotFound, status);
    }

    [Fact]
    public async Task Responses_come_from_a_column_once_and_the_report_leaves_as_pdf_workbook_and_csv()
    {
        var campaign = await Plan();
        await Add(campaign, Step("First"));
        var drop = (long)(await api.Get($"/api/campaigns/{campaign}"))["steps"]![0]!["dropIds"]![0]!;
        await api.Checked(drop);
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(new { output = "one" }));
        await api.Ended((long)run["jobId"]!);
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = Day(0) });
        var columns = (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray();
        var people = (await api.Get($"/api/campaigns/{campaign}/people"))["rows"]!.AsArray();
        int Column(string name) => (int)columns.Single(c => (string)c!["name"]! == name)!["id"]!;
        foreach (var (column, value) in ((string, string)[])[("Paid on", Day(0)), ("Amount", "64")])
            await api.Put($"/api/lists/{list}/recipients/{people[0]!["recipientId"]}/values/{Column(column)}", new { value });
        object order = new
        {
            lines = Array.Empty<object>(),
            campaignId = campaign,
            dateColumnId = Column("Paid on"),
            amountColumnId = Column("Amount"),
        };
        Assert.Equal(1, (int)(await api.Post("/api/responses/import", order))["recorded"]!);
        Assert.Equal(1, (int)(await api.Post("/api/responses/import", order))["known"]!);
        var report = await api.Get($"/api/campaigns/{campaign}/report");
        Assert.Equal((3, 1, 6400), ((int)report["whole"]!["mailed"]!, (int)report["responded"]!, (int)report["whole"]!["received"]!));
        var by = await api.Get($"/api/campaigns/{campaign}/report/by?by=Column&columnId={Column("City")}");
        Assert.Equal(("Fernquay", 3, 1), ((string)by[0]!["name"]!, (int)by[0]!["mailed"]!, (int)by[0]!["responded"]!));
        using var pdf = UglyToad.PdfPig.PdfDocument.Open(
            await api.Client.GetByteArrayAsync($"/api/campaigns/{campaign}/report.pdf?by=Channel")
        );
        Assert.Equal(2, pdf.NumberOfPages);
        Assert.Contains(
            "1 of 3 recipients who were mailed responded",
            string.Join(' ', pdf.GetPage(1).GetWords()),
            StringComparison.Ordinal
        );
        var csv = await api.Client.GetStringAsync($"/api/campaigns/{campaign}/report.csv");
        Assert.Contains("First,", csv, StringComparison.Ordinal);
        Assert.Equal((byte)'P', (await api.Client.GetByteArrayAsync($"/api/campaigns/{campaign}/report.xlsx"))[0]);
    }

    [Fact]
    public async Task The_calendar_is_read_at_its_secret_address_alone()
    {
        var campaign = await Plan(name: "Renewal, spring; with a comma");
        await Add(campaign, Step("First"));
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync("/calendar/.ics")).StatusCode);
        var secret = (string)(await api.Post("/api/calendar/address", new { }))["secret"]!;
        var feed = await api.Client.GetAsync($"/calendar/{secret}.ics");
        Assert.Equal("text/calendar", feed.Content.Headers.ContentType!.MediaType);
        var text = (await feed.Content.ReadAsStringAsync()).Replace("\r\n ", "", StringComparison.Ordinal);
        Assert.StartsWith("BEGIN:VCALENDAR", text, StringComparison.Ordinal);
        Assert.Contains("SUMMARY:Renewal\\, spring\\; with a comma: First", text, StringComparison.Ordinal);
        Assert.Contains("DTSTART;VALUE=DATE:", text, StringComparison.Ordinal);
        await api.Post("/api/calendar/address", new { });
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync($"/calendar/{secret}.ics")).StatusCode);
    }

    [Fact]
    public async Task Work_is_assigned_postponed_with_a_reason_and_done_until_there_is_more()
    {
        var campaign = await Plan();
        await Add(campaign, Step("First"));
        var drop = (long)(await api.Get($"/api/campaigns/{campaign}"))["steps"]![0]!["dropIds"]![0]!;
        await api.Checked(drop);
        async Task<JsonNode?> Line() =>
            (await api.Get("/api/work"))["rows"]!.AsArray().FirstOrDefault(w => (string)w!["key"]! == $"Produce:{drop}");
        await api.Post(
            "/api/work/mark",
            new
            {
                key = $"Produce:{drop}",
                assign = true,
                to = "Tomás Reyes",
            }
        );
        Assert.Equal("Tomás Reyes", (string)(await Line())!["assignedTo"]!);
        var (_, detail) = await Api.Refusal(
            api.Client.PostAsJsonAsync(
                "/api/work/mark",
                new
                {
                    key = $"Produce:{drop}",
                    postpone = true,
                    until = Day(3),
                }
            )
        );
        Assert.Equal("Enter why it is postponed.", detail);
        await api.Post(
            "/api/work/mark",
            new
            {
                key = $"Produce:{drop}",
                postpone = true,
                until = Day(3),
                reason = "no envelopes",
            }
        );
        Assert.Null(await Line());
        Assert.Equal("no envelopes", (string)(await api.Get("/api/work"))["postponed"]![0]!["reason"]!);
        await api.Post("/api/work/mark", new { key = $"Produce:{drop}", postpone = true });
        await api.Post(
            "/api/work/mark",
            new
            {
                key = $"Produce:{drop}",
                done = true,
                @as = (string)(await Line())!["as"]!,
            }
        );
        Assert.Null(await Line());
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await Api.Refusal(api.Client.PostAsJsonAsync("/api/work/mark", new { key = "nonsense", assign = true }))).Status
        );
    }

    [Fact]
    public async Task A_single_letter_has_one_recipient_and_no_other_ever_joins_it()
    {
        var people = await api.Get($"/api/lists/{list}/recipients?limit=1");
        var id = (long)people["rows"]![0]!["id"]!;
        var single = await api.Post(
            $"/api/lists/{list}/recipients/{id}/write",
            new
            {
                listId = list,
                recipientId = id,
                designIds = Array.Empty<long>(),
            }
        );
        var again = await api.Post(
            $"/api/lists/{list}/recipients/{id}/write",
            new
            {
                listId = list,
                recipientId = id,
                designIds = new[] { design },
            }
        );
        Assert.NotNull((long?)single["designId"]);
        var view = await api.Checked((long)single["dropId"]!);
        Assert.Equal(("Single letters", 1), ((string)view["campaignName"]!, Api.Count(view, "onTheList")));
        Assert.Equal((string)view["campaignName"]!, (string)(await api.Checked((long)again["dropId"]!))["campaignName"]!);
        var columns = (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray();
        await api.Post(
            $"/api/lists/{list}/recipients",
            new { rows = new[] { new[] { new { columnId = (int)columns[1]!["id"]!, value = "Dot Quint" } } } }
        );
        Assert.Equal(1, Api.Count(await api.Checked((long)single["dropId"]!), "onTheList"));
        Assert.Equal(
            HttpStatusCode.NotFound,
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/lists/{list}/recipients/999999/write",
                        new
                        {
                            listId = list,
                            recipientId = 999_999,
                            designIds = new[] { design },
                        }
                    )
                )
            ).Status
        );
    }
}
