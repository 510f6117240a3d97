using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>The list desk through the API: what the jobs bring in, what is refused, what goes out.</summary>
public sealed class DeskTests : ServerTests
{
    async Task<List<string?[]>> Rows(long list, string query = "") =>
        [
            .. (await api.Get($"/api/lists/{list}/recipients?limit=500{query}"))["rows"]!
                .AsArray()
                .Select(r => r!["values"]!.AsArray().Select(v => (string?)v).ToArray()),
        ];

    async Task<string> Upload(string name, string text) =>
        (string)JsonNode.Parse(await (await api.Upload(name, Encoding.UTF8.GetBytes(text))).Content.ReadAsStringAsync())!["id"]!;

    /// <summary>The upload as it is recognized, ready to be ordered.</summary>
    async Task<JsonObject> Order(string upload, Action<JsonObject>? change = null)
    {
        var look = await api.Post($"/api/uploads/{upload}/look", new { });
        Assert.Null(look["problem"]);
        var columns = new JsonArray(
            [
                .. look["columns"]!
                    .AsArray()
                    .Select(
                        (c, i) =>
                        {
                            var o = c!.DeepClone().AsObject();
                            o["position"] = i;
                            change?.Invoke(o);
                            return o;
                        }
                    ),
            ]
        );
        return new()
        {
            ["width"] = columns.Count,
            ["columns"] = columns,
            ["options"] = new JsonObject
            {
                ["sheet"] = look["sheet"]?.DeepClone(),
                ["headingRow"] = (int)look["headingRow"]!,
                ["encoding"] = look["encoding"]?.DeepClone(),
                ["delimiter"] = look["delimiter"]?.DeepClone(),
                ["query"] = look["query"]?.DeepClone(),
            },
        };
    }

    async Task<JsonNode> Done(JsonNode begun)
    {
        var job = await api.Ended((long)begun["jobId"]!);
        Assert.True((string)job["state"]! == "done", (string?)job["message"]);
        return JsonNode.Parse((string)job["message"]!)!;
    }

    const string Members =
        "No,Name,Email,Amount due\r\nM-1,Ana Okafor,ana@example.org,64\r\nM-2,Dr. Per van der "
        + "Berg,per@example.org,12.50\r\nM-3,\"Sousa, Inês\",=1+1,20\r\n";

    [Fact]
    public async Task A_whole_name_is_divided_on_the_way_in_and_again_when_a_newer_file_comes()
    {
        var order = await Order(await Upload("m.csv", Members), c => c["divide"] = (string)c["role"]! == "FullName");
        order["name"] = "Members";
        var upload = await Upload("m.csv", Members);
        var list = (long)(await Done(await api.Post($"/api/uploads/{upload}/list", order)))["listId"]!;
        Assert.Equal(
            ["No", "Name", "Email", "Amount due", "Title", "Given name", "Family name"],
            (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray().Select(c => (string)c!["name"]!)
        );
        Assert.Equal<string?[]>(["Dr.", "Per", "van der Berg"], (await Rows(list))[1][4..]);
        var newer = await Upload("newer.csv", Members.Replace("Ana Okafor", "Anna Okafor"));
        var look = await api.Post($"/api/lists/{list}/reload/look", new { uploadId = newer, options = new { } });
        Assert.Equal(3, look["made"]!.AsArray().Count);
        var reload = (long)
            (
                await Done(
                    await api.Post(
                        $"/api/lists/{list}/reload",
                        new
                        {
                            uploadId = newer,
                            options = new { },
                            columnIds = look["columnIds"],
                        }
                    )
                )
            )["reloadId"]!;
        Assert.Equal(
            (0, 1, 0),
            (
                (int)(await api.Get($"/api/reloads/{reload}"))["added"]!,
                (int)(await api.Get($"/api/reloads/{reload}"))["changed"]!,
                (int)(await api.Get($"/api/reloads/{reload}"))["gone"]!
            )
        );
        await api.Post(
            $"/api/reloads/{reload}/take",
            new
            {
                added = true,
                changed = true,
                gone = true,
                keepHere = false,
            }
        );
        Assert.Equal("Anna", (await Rows(list))[0][5]);
        Assert.Equal(2, (await api.Get($"/api/lists/{list}/versions")).AsArray().Count);
        Assert.Equal("Ana", (string)(await api.Get($"/api/lists/{list}/versions/1"))["rows"]![0]!["values"]![5]!);
    }

    [Fact]
    public async Task Pasted_cells_that_do_not_fit_are_kept_and_told_a_single_one_is_refused()
    {
        var list = await api.BringIn("m.csv", Members);
        var ids = (await api.Get($"/api/lists/{list}/recipient-ids")).AsArray().Select(i => (long)i!).ToList();
        var outcome = await api.Post(
            $"/api/lists/{list}/cells",
            new
            {
                cells = new[]
                {
                    new
                    {
                        recipientId = ids[0],
                        columnId = 4,
                        value = "soon",
                    },
                    new
                    {
                        recipientId = ids[1],
                        columnId = 4,
                        value = "$1,250.00",
                    },
                },
            }
        );
        Assert.Contains("does not match its column type", (string)outcome["skipped"]![0]!);
        Assert.Equal<string?[]>(["soon", "1250.00"], [.. (await Rows(list)).Take(2).Select(r => r[3])]);
        Assert.Contains(
            "takes a number",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/lists/{list}/cells",
                        new
                        {
                            cells = new[]
                            {
                                new
                                {
                                    recipientId = ids[0],
                                    columnId = 4,
                                    value = "later",
                                },
                            },
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
                        $"/api/lists/{list}/cells",
                        new
                        {
                            cells = new[]
                            {
                                new
                                {
                                    recipientId = 999L,
                                    columnId = 4,
                                    value = "1",
                                },
                            },
                        }
                    )
                )
            ).Status
        );
        await api.Post($"/api/lists/{list}/undo", new { });
        Assert.Equal("64", (await Rows(list))[0][3]);
        await api.Post($"/api/lists/{list}/redo", new { });
        Assert.Equal("soon", (await Rows(list))[0][3]);
        var acts = (await api.Get($"/api/lists/{list}/log"))["acts"]!.AsArray();
        Assert.Equal(
            ("Pasted 2 cells", "Tomás Reyes", false),
            ((string)acts[^1]!["label"]!, (string)acts[^1]!["by"]!, (bool)acts[^1]!["undone"]!)
        );
        Assert.Contains("nothing to redo", (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/lists/{list}/redo", new { }))).Detail);
    }

    [Fact]
    public async Task An_expression_is_tried_before_a_column_is_made_of_it()
    {
        var list = await api.BringIn("m.csv", Members);
        var answer = await api.Post($"/api/lists/{list}/expression", new { expression = "round(`Amount due` * 1.1, 1)" });
        Assert.Equal(("Number", "70.4"), ((string)answer["type"]!, (string)answer["samples"]![0]!["value"]!));
        Assert.Equal(
            "upper",
            (string)(await api.Post($"/api/lists/{list}/expression", new { expression = "uper(Name)" }))["errors"]![0]!["suggestion"]!
        );
        var (status, detail) = await Api.Refusal(
            api.Client.PostAsJsonAsync($"/api/lists/{list}/columns", new { name = "Loop", expression = "Loop & 1" })
        );
        Assert.Equal((HttpStatusCode.UnprocessableEntity, "Loop would be computed from itself."), (status, detail));
        await api.Post(
            $"/api/lists/{list}/columns",
            new
            {
                name = "Ask",
                type = "Number",
                expression = "`Amount due` * 2",
            }
        );
        Assert.Equal<string?[]>(["128", "25.00", "40"], [.. (await Rows(list)).Select(r => r[4])]);
    }

    [Fact]
    public async Task Detail_rows_and_suppressions_come_in_from_files()
    {
        var list = await api.BringIn("m.csv", Members);
        const string given =
            "No,Gift,Pickup\r\nM-1,$10.00,1/14/2027 9:30 AM\r\nm-1,$15.00,1/15/2027 2:00 PM\r\nM-9,$1.00,1/16/2027 3:15 PM\r\n";
        var gifts = await Order(await Upload("gifts.csv", given));
        gifts["uploadId"] = await Upload("gifts.csv", given);
        gifts["name"] = "Gifts";
        gifts["key"] = 0;
        await Done(await api.Post($"/api/lists/{list}/details", gifts));
        var set = (await api.Get($"/api/lists/{list}/details"))[0]!;
        Assert.Equal((3, 1, 2), ((int)set["rows"]!, (int)set["unmatched"]!, (int)set["without"]!));
        Assert.Equal(["No", "Gift", "Pickup", "Pickup time"], set["columns"]!.AsArray().Select(c => (string)c!["name"]!));
        Assert.Equal("money", (string?)set["columns"]![1]!["format"]);
        var where = Uri.EscapeDataString("sum(Gifts.Gift) = 25 and last(Gifts.`Pickup time`) = \"2:00 PM\"");
        Assert.Single(await Rows(list, $"&where={where}"));

        var suppression = (long)
            JsonNode.Parse(
                await (await api.Client.PostAsJsonAsync("/api/suppressions", new { name = "Do not mail" })).Content.ReadAsStringAsync()
            )!;
        const string text = "Email,Reason,Until\r\nPER@example.org,moved,2099-01-01\r\nnobody,,\r\n";
        var order = await Order(await Upload("s.csv", text));
        order["uploadId"] = await Upload("s.csv", text);
        order["reason"] = "asked";
        var come = await Done(await api.Post($"/api/suppressions/{suppression}/bring-in", order));
        Assert.Equal(2, (int)come["added"]!);
        var entries = (await api.Get($"/api/suppressions/{suppression}/entries"))["rows"]!.AsArray();
        Assert.Equal(["asked", "moved"], entries.Select(e => (string)e!["reason"]!));
        Assert.Contains(
            "This entry cannot be matched",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/suppressions/{suppression}/entries", new { name = "Somebody" }))).Detail
        );
    }

    [Fact]
    public async Task A_filter_has_two_forms_and_a_segment_keeps_it()
    {
        var list = await api.BringIn("m.csv", Members);
        var shape = new
        {
            all = false,
            items = new object[]
            {
                new
                {
                    column = "Amount due",
                    comparison = "AtLeast",
                    values = new[] { "64" },
                },
                new
                {
                    all = true,
                    items = new object[]
                    {
                        new
                        {
                            column = "Name",
                            comparison = "Contains",
                            values = new[] { "ber" },
                        },
                        new { column = "Email", comparison = "NotBlank" },
                    },
                },
            },
        };
        var answer = await api.Post($"/api/lists/{list}/filter", new { shape });
        Assert.Equal("`Amount due` >= 64 or `Name` contains \"ber\" and `Email` is not blank", (string)answer["text"]!);
        Assert.Equal(2, (int)answer["count"]!);
        Assert.NotNull((await api.Post($"/api/lists/{list}/filter", new { text = (string)answer["text"]! }))["shape"]);
        Assert.Null((await api.Post($"/api/lists/{list}/filter", new { text = "upper(Name) = \"X\"" }))["shape"]);
        Assert.Single((await api.Post($"/api/lists/{list}/filter", new { text = "Amont due > 1" }))["errors"]!.AsArray());
        await api.Client.PostAsJsonAsync(
            $"/api/lists/{list}/segments",
            new
            {
                name = "Two",
                filter = (string)answer["text"]!,
                sorts = "-4",
            }
        );
        Assert.Equal(["M-1", "M-2"], (await Rows(list, "&segment=1")).Select(r => r[0]));
        Assert.Contains(
            "did you mean",
            (
                await Api.Refusal(api.Client.PostAsJsonAsync($"/api/lists/{list}/segments", new { name = "Bad", filter = "Amont due > 1" }))
            ).Detail
        );
    }

    [Fact]
    public async Task What_goes_out_comes_in_again_as_it_was()
    {
        var list = await api.BringIn("m.csv", Members);
        var csv = await api.Client.GetStringAsync($"/api/lists/{list}/export.csv?ledger=true");
        Assert.Contains("'=1+1", csv);
        Assert.Contains("Last mailed", csv);
        var again = await api.BringIn("again.csv", await api.Client.GetStringAsync($"/api/lists/{list}/export.csv"));
        Assert.Equal((await Rows(list)).Select(r => string.Join('|', r)), (await Rows(again)).Select(r => string.Join('|', r)));
        var json = JsonNode
            .Parse(
                await api.Client.GetStringAsync(
                    $"/api/lists/{list}/export.json?columns=1,4&where={Uri.EscapeDataString("Amount due > 15")}&sorts=4"
                )
            )!
            .AsArray();
        Assert.Equal("""[{"No":"M-3","Amount due":20},{"No":"M-1","Amount due":64}]""", json.ToJsonString());
        var fromJson = await api.BringIn("again.json", await api.Client.GetStringAsync($"/api/lists/{list}/export.json"));
        Assert.Equal((await Rows(list)).Select(r => string.Join('|', r)), (await Rows(fromJson)).Select(r => string.Join('|', r)));
    }

    [Fact]
    public async Task A_list_can_be_typed_and_what_makes_no_sense_is_told()
    {
        var list = (long)
            JsonNode.Parse(
                await (
                    await api.Client.PostAsJsonAsync(
                        "/api/lists",
                        new
                        {
                            name = "Seeds",
                            columns = new[] { new { name = "First", role = "GivenName" }, new { name = "Last", role = "FamilyName" } },
                        }
                    )
                ).Content.ReadAsStringAsync()
            )!;
        await api.Client.PostAsJsonAsync(
            $"/api/lists/{list}/recipients",
            new { rows = new[] { new[] { new { columnId = 1, value = "Ana" }, new { columnId = 2, value = "OKAFOR" } } } }
        );
        Assert.Equal<string?[]>(["Ana", "OKAFOR"], Assert.Single(await Rows(list)));
        // The list is checked by a job of its own.
        await api.Until($"/api/lists/{list}/checks", c => c.AsArray().Count > 0);
        Assert.Equal("Capitals", (string)(await api.Get($"/api/lists/{list}/checks"))[0]!["kind"]!);
        await api.Post($"/api/lists/{list}/checks/Capitals/fix", new { });
        Assert.Equal("Okafor", (await Rows(list))[0][1]);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/lists/{list}/checks/Capitals/fix", new { }))).Status
        );
        Assert.Contains(
            "a list",
            (
                await Api.Refusal(api.Client.PostAsJsonAsync("/api/lists", new { name = "Empty", columns = Array.Empty<object>() }))
            ).Detail.ToLowerInvariant()
        );
        Assert.Contains(
            "Enter the text to find",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/lists/{list}/replace/preview", new { find = "", with = "x" }))).Detail
        );
        Assert.Contains(
            "no key column",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/lists/{list}/details", await WithUpload()))).Detail
        );
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.GetAsync("/api/reloads/9"))).Status);
    }

    async Task<JsonObject> WithUpload()
    {
        var order = await Order(await Upload("g.csv", "No,Gift\r\nM-1,10\r\n"));
        order["uploadId"] = await Upload("g.csv", "No,Gift\r\nM-1,10\r\n");
        order["name"] = "Gifts";
        order["key"] = 0;
        return order;
    }
}
