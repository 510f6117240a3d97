using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

public sealed class ListTests : ServerTests
{
    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "bandeja")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    async Task<long> BringFile(string path)
    {
        var upload = JsonNode.Parse(
            await (await api.Upload(Path.GetFileName(path), await File.ReadAllBytesAsync(path))).Content.ReadAsStringAsync()
        )!;
        return await api.BringInUpload((string)upload["id"]!, Path.GetFileName(path));
    }

    [Fact]
    public async Task The_demos_workbook_comes_in_with_its_zeros_dates_and_headings()
    {
        var list = await BringFile(Path.Combine(Root(), "demo", "files", "neighbors.xlsx"));
        var view = await api.Get($"/api/lists/{list}");
        Assert.Equal(148, (int)view["recipients"]!);
        Assert.Equal(
            ["Parcel", "Name", "Address", "City", "State", "Zip Code", "Built", "Tenant"],
            view["columns"]!.AsArray().Select(c => (string)c!["name"]!)
        );
        Assert.Equal(
            ["Text", "Text", "Text", "Text", "Text", "Text", "Date", "YesNo"],
            view["columns"]!.AsArray().Select(c => (string)c!["type"]!)
        );
        var page = await api.Get($"/api/lists/{list}/recipients?where={Uri.EscapeDataString("Zip Code starts with \"0\"")}");
        Assert.Equal(4, (int)page["total"]!);
        Assert.All(page["rows"]!.AsArray(), r => Assert.Equal("02139", (string)r!["values"]![5]!));
        Assert.Matches(@"^\d{4}-01-01$", (string)page["rows"]![0]!["values"]![6]!);
    }

    [Fact]
    public async Task The_demos_members_come_in_as_untidy_as_they_are()
    {
        var list = await BringFile(Path.Combine(Root(), "demo", "files", "members.csv"));
        var view = await api.Get($"/api/lists/{list}");
        Assert.Equal(1250, (int)view["recipients"]!);
        Assert.Equal("Number", (string)view["columns"]!.AsArray().First(c => (string)c!["name"]! == "Amount due")!["type"]!);
        Assert.Contains("Amount due", (string)view["report"]![0]!);
        Assert.Equal("ليلى", (string)(await api.Get($"/api/lists/{list}/recipients?search=F-00077"))["rows"]![0]!["values"]![2]!);
        Assert.Equal(1, (int)(await api.Get($"/api/lists/{list}/recipients?search=okafor 98412"))["total"]!);
        var facts = await api.Get($"/api/lists/{list}/columns/3/facts");
        Assert.True((long)facts["blank"]! > 5);
        Assert.Equal("Persephone Wilhelmina", (string)facts["longest"]!);
    }

    [Theory]
    [InlineData("utf-16")]
    [InlineData("windows-1252")]
    public async Task Names_arrive_whole_from_any_encoding(string encoding)
    {
        Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);
        var e = Encoding.GetEncoding(encoding);
        var upload = JsonNode.Parse(
            await (
                await api.Upload("a.csv", [.. e.GetPreamble(), .. e.GetBytes("Name;City\r\nJosé Muñoz;Zürich\r\nÅsa Öberg;Malmö\r\n")])
            ).Content.ReadAsStringAsync()
        )!;
        var list = await api.BringInUpload((string)upload["id"]!, "names");
        Assert.Equal(
            ["José Muñoz", "Zürich"],
            (await api.Get($"/api/lists/{list}/recipients?search=munoz"))["rows"]![0]!["values"]!.AsArray().Select(v => (string)v!)
        );
    }

    [Fact]
    public async Task Six_hundred_columns_are_brought_in_and_asked_for()
    {
        var list = await api.BringIn(
            "wide.csv",
            string.Join(',', Enumerable.Range(1, 600).Select(i => $"Heading {i}"))
                + "\r\n"
                + string.Join(',', Enumerable.Range(1, 600).Select(i => $"value {i}"))
                + "\r\n"
        );
        Assert.Equal(600, (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray().Count);
        Assert.Equal(
            "value 600",
            (string)
                (await api.Get($"/api/lists/{list}/recipients?where={Uri.EscapeDataString("Heading 600 = \"VALUE 600\"")}&sorts=600"))[
                    "rows"
                ]![0]!["values"]![599]!
        );
    }

    [Fact]
    public async Task Columns_can_be_left_out_renamed_and_typed_otherwise()
    {
        var upload = JsonNode.Parse(await (await api.Upload("a.csv", "A,B,C\r\n1,0002,x\r\n"u8.ToArray())).Content.ReadAsStringAsync())!;
        var begun = await api.Post(
            $"/api/uploads/{upload["id"]}/list",
            new
            {
                name = "Chosen",
                width = 3,
                options = new
                {
                    sheet = (string?)null,
                    headingRow = 0,
                    encoding = "utf-8",
                    delimiter = ",",
                },
                columns = new[]
                {
                    new
                    {
                        position = 2,
                        name = "Last",
                        type = "Text",
                        dateOrder = "YearMonthDay",
                        role = "FamilyName",
                    },
                    new
                    {
                        position = 1,
                        name = "Count",
                        type = "Number",
                        dateOrder = "YearMonthDay",
                        role = "None",
                    },
                },
            }
        );
        var job = await api.Ended((long)begun["jobId"]!);
        var list = (long)JsonNode.Parse((string)job["message"]!)!["listId"]!;
        Assert.Equal(["Last", "Count"], (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray().Select(c => (string)c!["name"]!));
        Assert.Equal(
            ["x", "2"],
            (await api.Get($"/api/lists/{list}/recipients"))["rows"]![0]!["values"]!.AsArray().Select(v => (string)v!)
        );
        // What the list was read from is gone; another file is refused for what is asked of it.
        var again = JsonNode.Parse(await (await api.Upload("a.csv", "A,B,C\r\n1,0002,x\r\n"u8.ToArray())).Content.ReadAsStringAsync())!;
        foreach (
            var columns in (object[][])
                [
                    [],
                    [
                        new
                        {
                            position = 9,
                            name = "A",
                            type = "Text",
                            dateOrder = "YearMonthDay",
                            role = "None",
                        },
                    ],
                    [
                        new
                        {
                            position = 0,
                            name = "{A}",
                            type = "Text",
                            dateOrder = "YearMonthDay",
                            role = "None",
                        },
                    ],
                ]
        )
            Assert.Equal(
                HttpStatusCode.BadRequest,
                (
                    await Api.Refusal(
                        api.Client.PostAsJsonAsync(
                            $"/api/uploads/{again["id"]}/list",
                            new
                            {
                                name = "x",
                                width = 3,
                                columns,
                                options = new
                                {
                                    sheet = (string?)null,
                                    headingRow = 0,
                                    encoding = "utf-8",
                                    delimiter = ",",
                                },
                            }
                        )
                    )
                ).Status
            );
    }

    [Fact]
    public async Task A_long_import_can_be_cancelled_and_leaves_nothing()
    {
        var upload = JsonNode.Parse(
            await (
                await api.Upload(
                    "long.csv",
                    Encoding.UTF8.GetBytes("First,A,B,C,D\r\n" + string.Concat(Enumerable.Repeat("Ana,1,2,3,4\r\n", 1_500_000)))
                )
            ).Content.ReadAsStringAsync()
        )!;
        var columns = new[]
        {
            new
            {
                position = 0,
                name = "First",
                type = "Text",
                dateOrder = "YearMonthDay",
                role = "None",
            },
        };
        var begun = await api.Post(
            $"/api/uploads/{upload["id"]}/list",
            new
            {
                name = "Long",
                width = 5,
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
        var cancelled = await api.Client.PostAsync($"/api/jobs/{begun["jobId"]}/cancel", null);
        Assert.True(cancelled.IsSuccessStatusCode, (await api.Get($"/api/jobs/{begun["jobId"]}")).ToJsonString());
        Assert.Equal("cancelled", (string)(await api.Ended((long)begun["jobId"]!))["state"]!);
        Assert.Empty((await api.Get("/api/lists")).AsArray());
        Assert.Equal(HttpStatusCode.Conflict, (await Api.Refusal(api.Client.PostAsync($"/api/jobs/{begun["jobId"]}/cancel", null))).Status);
    }

    [Fact]
    public async Task A_list_is_renamed_and_a_value_corrected_from_its_own_page()
    {
        var list = await api.BringIn("a.csv", "Name,Renewal date\r\nAna,2027-03-01\r\nPer,2027-04-01\r\n");
        await api.Client.PatchAsJsonAsync($"/api/lists/{list}", new { name = "Members" });
        Assert.Equal("Members", (string)(await api.Get($"/api/lists/{list}"))["name"]!);
        var id = (long)(await api.Get($"/api/lists/{list}/recipients"))["rows"]![0]!["id"]!;
        await api.Put($"/api/lists/{list}/recipients/{id}/values/2", new { value = " 3/31/2027 " });
        var detail = await api.Get($"/api/lists/{list}/recipients/{id}");
        Assert.Equal("2027-03-31", (string)detail["values"]![1]!);
        Assert.Equal("2027-03-01", (string)detail["changes"]![0]!["old"]!);
        Assert.Contains(
            "already have these values",
            (
                await Api.Refusal(api.Client.PutAsJsonAsync($"/api/lists/{list}/recipients/{id}/values/2", new { value = "2027-03-31" }))
            ).Detail
        );
        Assert.Contains(
            "takes a date",
            (await Api.Refusal(api.Client.PutAsJsonAsync($"/api/lists/{list}/recipients/{id}/values/2", new { value = "soon" }))).Detail
        );
    }

    [Fact]
    public async Task Browsers_are_told_what_changed()
    {
        using var stream = await api.Client.GetStreamAsync("/api/events");
        using var reader = new StreamReader(stream);
        Assert.Equal("event: here", await reader.ReadLineAsync());
        await api.BringIn("a.csv", "Name\r\nAna\r\n");
        var seen = new List<string>();
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        while (!(seen.Contains("event: list") && seen.Any(l => l.Contains("\"state\":\"done\""))))
            seen.Add(await reader.ReadLineAsync(limit.Token) ?? "");
        Assert.Contains("event: job", seen);
    }
}
