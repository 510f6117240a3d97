using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>Nobody twice, and every change reaches everything, as a script would try to break it.</summary>
public sealed class TrustTests : ServerTests
{
    MailWorld world = null!;

    public override async ValueTask InitializeAsync()
    {
        await api.InitializeAsync();
        world = new(api);
    }

    async Task<JsonNode> Made(long drop, object order)
    {
        var run = await api.Post($"/api/drops/{drop}/runs", order);
        var job = await api.Ended((long)run["jobId"]!);
        Assert.True((string)job["state"]! == "done", (string?)job["message"]);
        return await api.Get($"/api/runs/{run["id"]}");
    }

    Task<(HttpStatusCode Status, string Detail)> Refused(HttpMethod method, string path, object body, string? basis = null)
    {
        var request = new HttpRequestMessage(method, path) { Content = JsonContent.Create(body) };
        if (basis is not null)
            request.Headers.TryAddWithoutValidation("If-Match", basis);
        return Api.Refusal(api.Client.SendAsync(request));
    }

    async Task<Dictionary<string, string?[]>> Rows(long list) =>
        (await api.Get($"/api/lists/{list}/recipients?limit=100"))["rows"]!
            .AsArray()
            .ToDictionary(r => $"{r!["id"]}", r => r!["values"]!.AsArray().Select(v => (string?)v).ToArray());

    /// <summary>A message whose fate nobody knows: the server took it and the line broke before its answer.</summary>
    async Task<(long Drop, JsonNode Run, long Person)> InDoubt()
    {
        var drop = await world.Drop();
        await world.Tell("drop after", "ana@example.org", 1);
        var run = await world.Begin(drop);
        await world.Until(run, "paused", "done");
        var person = (await api.Recipients(drop)).First(r => r.Piece == 1).Id;
        return (drop, run, person);
    }

    [Fact]
    public async Task An_address_whose_message_is_in_doubt_counts_among_those_that_would_get_a_second_one()
    {
        var drop = await world.Drop();
        await world.Tell("drop after", "ana@example.org", 1);
        var run = await world.Begin(drop, new { pieces = "1" });
        await world.Until(run, "paused", "done");
        await api.Client.PostAsync($"/api/runs/{run["id"]}/cancel", null);
        await world.Until(run, "cancelled", "done");
        var column = (await api.Get($"/api/lists/{world.Members}"))["columns"]!.AsArray().Single(c => (string)c!["name"]! == "Email")!;
        var other = (await api.Recipients(drop)).First(r => r.Piece == 2).Id;
        await api.Put($"/api/drops/{drop}/recipients/{other}/values/{column["id"]}", new { value = "ana@example.org" });
        await api.Checked(drop);
        var plan = await api.Post($"/api/drops/{drop}/plan", new { output = "email", accountId = await world.Account() });
        var shared = Assert.Single(plan["mail"]!["shared"]!.AsArray())!;
        Assert.Equal(("ana@example.org", 1, 2), ((string)shared["address"]!, (int)shared["sent"]!, (int)shared["pieces"]![0]!["piece"]!));
    }

    [Fact]
    public async Task Whoever_is_in_doubt_is_in_no_other_run_and_cannot_be_switched_to_paper()
    {
        var (drop, run, person) = await InDoubt();
        await api.Client.PostAsync($"/api/runs/{run["id"]}/cancel", null);
        await world.Until(run, "cancelled", "done");
        Assert.Equal(1, Api.Count(await api.Get($"/api/drops/{drop}"), "inDoubt"));
        var plan = await api.Post($"/api/drops/{drop}/plan", new { output = "email", accountId = await world.Account() });
        Assert.Contains(
            plan["excluded"]!.AsArray(),
            l => ((string)l!["reason"]!).StartsWith("In doubt: may have been sent in run 1", StringComparison.Ordinal)
        );
        Assert.Equal(1, (int)plan["inDoubt"]!);
        Assert.Contains(
            "in doubt",
            (await Refused(HttpMethod.Post, $"/api/drops/{drop}/go-by", new { recipients = new[] { person }, channel = "Paper" })).Detail,
            StringComparison.OrdinalIgnoreCase
        );
        // Neither does a change of the list do by a side way what nobody may do by hand: without an address Ana would go on paper.
        var email = (await api.Get($"/api/lists/{world.Members}"))["columns"]!.AsArray().First(c => (string)c!["role"]! == "Email")!["id"];
        await api.Put($"/api/drops/{drop}/recipients/{person}/values/{email}", new { value = "" });
        await api.Checked(drop);
        var paper = await api.Post($"/api/drops/{drop}/plan", new { output = "one" });
        Assert.Equal((1, 3), ((int)paper["pieces"]!, (int)paper["firstPiece"]!));
        await api.Put($"/api/drops/{drop}/recipients/{person}/values/{email}", new { value = "ana@example.org" });
        await api.Checked(drop);

        // Settled as not sent, the next run takes them; the ledger keeps the doubt and how it ended.
        await api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/settle-mail", new { recipientId = person, sent = false });
        await api.Checked(drop);
        Assert.Equal(0, Api.Count(await api.Get($"/api/drops/{drop}"), "inDoubt"));
        Assert.Contains(person, (await api.Recipients(drop, "&tray=Ready")).Select(r => r.Id));
        var kinds = (await api.Get($"/api/drops/{drop}/events")).AsArray().Select(e => (string)e!["kind"]!).ToList();
        Assert.Contains("InDoubt", kinds);
        Assert.Contains("DoubtSettled", kinds);
        Assert.Equal(
            409,
            (int)(await Refused(HttpMethod.Post, $"/api/runs/{run["id"]}/settle-mail", new { recipientId = person, sent = true })).Status
        );
    }

    [Fact]
    public async Task Two_recipients_with_one_address_are_named_before_anything_is_sent()
    {
        var drop = await world.Drop(MailWorld.List.Replace("bea@example.org", "ANA@example.org"));
        var shared = (await api.Post($"/api/drops/{drop}/plan", new { output = "email", accountId = await world.Account() }))["mail"]![
            "shared"
        ]!.AsArray();
        var one = Assert.Single(shared)!;
        Assert.Equal([1, 2], one["pieces"]!.AsArray().Select(p => (int)p!["piece"]!));
        Assert.Equal(0, (int)one["sent"]!);
        Assert.Contains("SameEmail", (await api.Get($"/api/lists/{world.Members}/checks")).ToJsonString());
    }

    [Theory]
    [InlineData("remove")]
    [InlineData("type")]
    [InlineData("rename")]
    public async Task A_change_of_a_column_reaches_every_drop_that_prints_it(string what)
    {
        var list = await api.BringIn("m.csv", "First,Last,Gift\r\nAna,Okafor,fern\r\nBea,Marsh,ivy\r\n");
        var drop = await api.MakeDrop(list, "Dear {First},", "your {Gift}.");
        var gift = (long)(await api.Get($"/api/lists/{list}"))["columns"]![2]!["id"]!;
        var uses = await api.Get($"/api/lists/{list}/columns/{gift}/uses");
        Assert.Equal("Letter", (string)Assert.Single(uses["designs"]!.AsArray())!["name"]!);
        Assert.Single(uses["drops"]!.AsArray());
        if (what == "remove")
        {
            Assert.True((await api.Client.DeleteAsync($"/api/lists/{list}/columns/{gift}")).IsSuccessStatusCode);
            Assert.NotEmpty((await api.Checked(drop))["mistakes"]!.AsArray());
            Assert.Contains("has a mistake", (await Refused(HttpMethod.Post, $"/api/drops/{drop}/runs", new { output = "one" })).Detail);
            await api.Post($"/api/lists/{list}/undo", new { });
        }
        else
            await api.Client.PatchAsJsonAsync(
                $"/api/lists/{list}/columns/{gift}",
                what == "rename"
                    ? new
                    {
                        name = "Plant",
                        type = (string?)null,
                        role = (string?)null,
                        expression = (string?)null,
                    }
                    : new
                    {
                        name = (string?)null!,
                        type = (string?)"Number",
                        role = (string?)null,
                        expression = (string?)null,
                    }
            );
        Assert.Empty((await api.Checked(drop))["mistakes"]!.AsArray());
        if (what == "type")
        {
            // “fern” is no number: what was Ready until now needs a look, and nothing was produced with it meanwhile.
            Assert.Equal(2, Api.Count(await api.Get($"/api/drops/{drop}"), "needsReview"));
            await api.Post($"/api/lists/{list}/undo", new { });
            await api.Checked(drop);
        }
        var run = await Made(drop, new { output = "one" });
        using var pdf = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"));
        Assert.Contains("fern", pdf.GetPage(1).Text);
    }

    [Theory]
    [InlineData("one", 9)]
    [InlineData("parts", 9)]
    [InlineData("each", 5)]
    public async Task The_plan_says_the_pages_that_the_files_have(string output, int people)
    {
        var list = await api.BringIn("m.csv", "First\r\n" + string.Concat(Enumerable.Range(1, people).Select(i => $"Given{i}\r\n")));
        // Letters of one and of three pages: printed on both sides, each begins on a sheet of its own.
        var drop = await api.MakeDrop(
            list,
            "Dear {First},",
            "{when Piece number > 3}" + string.Concat(Enumerable.Repeat("The quay is open from ten to five. ", 260)) + "{end}"
        );
        foreach (var r in await api.Recipients(drop, "&tray=NeedsReview"))
        foreach (var f in (await api.Get($"/api/drops/{drop}/recipients/{r.Id}"))["issues"]!.AsArray())
            await api.Post($"/api/drops/{drop}/accept", new { alike = (string)f!["alike"]!, recipient = r.Id });
        object order = output switch
        {
            "parts" => new
            {
                output,
                partOf = 4,
                duplex = true,
            },
            "each" => new
            {
                output,
                nameBy = "{Piece number}",
                duplex = true,
            },
            _ => new { output, duplex = true },
        };
        var planned = (int)(await api.Post($"/api/drops/{drop}/plan", order))["pages"]!;
        var run = await Made(drop, order);
        var pages = 0;
        foreach (var f in run["files"]!.AsArray())
        {
            var bytes = await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/{f!["number"]}");
            if (output == "each")
            {
                using var zip = new System.IO.Compression.ZipArchive(new MemoryStream(bytes));
                foreach (var e in zip.Entries)
                {
                    using var entry = e.Open();
                    using var copy = new MemoryStream();
                    entry.CopyTo(copy);
                    using var one = PdfDocument.Open(copy.ToArray());
                    pages += one.NumberOfPages;
                }
                continue;
            }
            using var pdf = PdfDocument.Open(bytes);
            pages += pdf.NumberOfPages;
        }
        Assert.Equal(pages, planned);
        Assert.True(pages > people + 3);
    }

    [Fact]
    public async Task What_was_made_is_reported_and_not_held_when_a_rule_would_hold_it_now()
    {
        var list = await api.BringIn(
            "m.csv",
            "First,Last,Street,City,ZIP,Email\r\nAna,Okafor,1 Quay Road,Fernquay,97412,ana@example.org\r\nBea,Marsh,2 Quay "
                + "Road,Fernquay,97412,bea@example.org\r\n"
        );
        var drop = await api.MakeDrop(list, "Dear {First},");
        await Made(drop, new { output = "one", pieces = "1" });
        var suppressions = (long)await api.Post("/api/suppressions", new { name = "Do not mail" });
        foreach (var email in (string[])["ana@example.org", "bea@example.org"])
            await api.Post(
                $"/api/suppressions/{suppressions}/entries",
                new
                {
                    name = (string?)null,
                    street = (string?)null,
                    city = (string?)null,
                    postalCode = (string?)null,
                    email,
                    key = (string?)null,
                    reason = "asked",
                    until = (string?)null,
                }
            );
        await api.Checked(drop);
        Assert.Equal(["Produced", "Held"], (await api.Recipients(drop)).Select(r => r.Tray));
        Assert.Equal(1, Api.Count(await api.Get($"/api/drops/{drop}"), "noted"));
        var noted = Assert.Single(await api.Recipients(drop, "&noted=true"));
        Assert.Contains("Do not mail", (string)(await api.Get($"/api/drops/{drop}/recipients/{noted.Id}"))["ruleNote"]!);
    }

    [Fact]
    public async Task A_segment_is_written_over_only_on_purpose_and_a_script_is_told_what_is_not_known()
    {
        var list = await api.BringIn("m.csv", "First,City\r\nAna,Fernquay\r\nBea,Quill\r\nCem,Quill\r\n");
        var id = (long)
            await api.Post(
                $"/api/lists/{list}/segments",
                new
                {
                    name = "Local",
                    filter = "City = \"Fernquay\"",
                    sorts = "",
                }
            );
        var before = (await api.Get($"/api/lists/{list}/segments"))[0]!;
        Assert.Equal(
            409,
            (int)
                (
                    await Refused(
                        HttpMethod.Post,
                        $"/api/lists/{list}/segments",
                        new
                        {
                            name = " LOCAL",
                            filter = "City = \"Quill\"",
                            sorts = "",
                        }
                    )
                ).Status
        );
        Assert.Contains(
            "filterr",
            (
                await Refused(
                    HttpMethod.Post,
                    $"/api/lists/{list}/segments",
                    new
                    {
                        name = "Other",
                        filter = "City = \"Quill\"",
                        filterr = "x",
                        sorts = "",
                    }
                )
            ).Detail
        );
        var effect = await api.Post($"/api/segments/{id}/effect", new { text = "City = \"Quill\"", shape = (object?)null });
        Assert.Equal((1, 2, 1, 2), ((int)effect["before"]!, (int)effect["after"]!, (int)effect["leave"]!, (int)effect["join"]!));
        await api.Put(
            $"/api/segments/{id}",
            new
            {
                name = "Local",
                filter = "City = \"Quill\"",
                sorts = "",
                revision = (int)before["revision"]!,
            }
        );
        Assert.Equal(
            412,
            (int)
                (
                    await Refused(
                        HttpMethod.Put,
                        $"/api/segments/{id}",
                        new
                        {
                            name = "Local",
                            filter = "City = \"x\"",
                            sorts = "",
                            revision = (int)before["revision"]!,
                        }
                    )
                ).Status
        );
        Assert.Equal(2, (int)(await api.Get($"/api/lists/{list}/segments"))[0]!["recipients"]!);
    }

    [Fact]
    public async Task Of_two_people_who_save_the_same_thing_neither_is_lost()
    {
        var list = await api.BringIn("m.csv", "First,Last\r\nAna,Okafor\r\n");
        var (id, column) = (
            long.Parse((await Rows(list)).Keys.Single()),
            (long)(await api.Get($"/api/lists/{list}"))["columns"]![1]!["id"]!
        );
        object Cell(string value, string was) =>
            new
            {
                cells = new[]
                {
                    new
                    {
                        recipientId = id,
                        columnId = column,
                        value,
                        was = new { value = was },
                    },
                },
            };
        await api.Post($"/api/lists/{list}/cells", Cell("Marsh", "Okafor"));
        var (status, detail) = await Refused(HttpMethod.Post, $"/api/lists/{list}/cells", Cell("Quint", "Okafor"));
        Assert.Equal(412, (int)status);
        Assert.Contains("Marsh", detail);
        Assert.Equal("Marsh", (await Rows(list)).Values.Single()[1]);

        foreach (
            var (path, change) in ((string, Func<JsonNode, object>)[])
                [
                    ("/api/settings/organization", v => v["organization"]!),
                    ("/api/settings/prices", v => v),
                    (
                        "/api/settings/salutations",
                        v =>
                            v["ladders"]!
                                .AsArray()
                                .Select(l => new { language = (string)l!["language"]!, forms = l["forms"]!.DeepClone() })
                                .ToArray()
                    ),
                ]
        )
        {
            var read = await api.Client.GetAsync(path == "/api/settings/organization" ? "/api/settings" : path);
            var body = change(JsonNode.Parse(await read.Content.ReadAsStringAsync())!);
            var tag = read.Headers.GetValues("ETag").Single();
            Assert.Equal(412, (int)(await Refused(HttpMethod.Put, path, body, "\"another\"")).Status);
            var saved = await api.Client.SendAsync(
                new HttpRequestMessage(HttpMethod.Put, path) { Content = JsonContent.Create(body), Headers = { { "If-Match", tag } } }
            );
            Assert.True(saved.IsSuccessStatusCode, $"{path}: {await saved.Content.ReadAsStringAsync()}");
        }

        var design = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Letter",
                    ["listId"] = list,
                    ["document"] = Api.Letter("Dear {First},", "one", "between", "two"),
                }
            );
        var now = await api.Get($"/api/designs/{design}");
        object Save(params string[] text) =>
            new
            {
                basedOn = (long)now["version"]!,
                revision = (long)now["revision"]!,
                document = Api.Letter(text),
                beside = false,
            };
        await api.Put($"/api/designs/{design}/document", Save("Dear {First},", "one", "between", "two, by Bea"));
        Assert.Equal(
            412,
            (int)
                (
                    await Refused(HttpMethod.Put, $"/api/designs/{design}/document", Save("Dear {First},", "one, by Ana", "between", "two"))
                ).Status
        );
        var merged = (
            await api.Post(
                $"/api/designs/{design}/merge",
                new
                {
                    @base = Api.Letter("Dear {First},", "one", "between", "two"),
                    mine = Api.Letter("Dear {First},", "one, by Ana", "between", "two"),
                }
            )
        )["merged"]!.ToJsonString();
        Assert.Contains("one, by Ana", merged);
        Assert.Contains("two, by Bea", merged);
    }

    [Fact]
    public async Task A_letter_that_prints_nothing_is_found_or_excluded_as_it_says()
    {
        var list = await api.BringIn("m.csv", "First,Note\r\nAna,hello\r\nBea,\r\n");
        var document = new JsonObject { ["content"] = Api.Letter("{when Note is not blank}{Note}{end}")["content"]!.DeepClone() };
        var design = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Note",
                    ["listId"] = list,
                    ["document"] = document,
                }
            );
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Notes",
                    listId = list,
                    designIds = new[] { design },
                    campaignName = "Spring",
                }
            );
        await api.Checked(drop);
        var bea = (await api.Recipients(drop))[1];
        Assert.Contains("NothingPrinted", (await api.Get($"/api/drops/{drop}/recipients/{bea.Id}"))["issues"]!.ToJsonString());
        document["omitWhenEmpty"] = true;
        await api.Save(design, document);
        await api.Checked(drop);
        var person = await api.Get($"/api/drops/{drop}/recipients/{bea.Id}");
        Assert.DoesNotContain("NothingPrinted|letter", person["issues"]!.ToJsonString());
        Assert.Contains("NothingPrinted|package", person["issues"]!.ToJsonString());
        Assert.True((bool)person["pieces"]![0]!["omitted"]!);
    }

    [Fact]
    public async Task Nothing_comes_back_before_it_has_come_to_be()
    {
        var drop = await api.MakeDrop(await api.BringIn("m.csv", "First\r\nAna\r\n"), "Dear {First},");
        var run = await Made(drop, new { output = "one" });
        var today = (string)(await api.Get("/api/settings"))["today"]!;
        await api.Post(
            $"/api/runs/{run["id"]}/mailed",
            new
            {
                date = today,
                pieces = (string?)null,
                upTo = (int?)null,
                without = (string?)null,
            }
        );
        var id = (await api.Recipients(drop))[0].Id;
        Assert.Equal(
            400,
            (int)
                (
                    await Refused(
                        HttpMethod.Post,
                        $"/api/drops/{drop}/returned",
                        new
                        {
                            recipients = new[] { id },
                            reason = "moved",
                            date = DateOnly.Parse(today).AddDays(1).ToString("yyyy-MM-dd"),
                        }
                    )
                ).Status
        );
        await api.Post(
            $"/api/drops/{drop}/returned",
            new
            {
                recipients = new[] { id },
                reason = "moved",
                date = today,
            }
        );
        Assert.Equal("Returned", (await api.Recipients(drop))[0].Tray);
    }

    [Fact]
    public async Task A_household_is_addressed_anew_when_one_of_it_is_suppressed_and_says_when_nobody_is_left()
    {
        var list = await api.BringIn(
            "m.csv",
            "First,Last,Street,City,State,Zip,Email\r\nLuis,Ortega,2 Bell "
                + "Street,Fernquay,OR,97412,luis@example.org\r\nRosa,Ortega,2 Bell "
                + "Street,Fernquay,OR,97412,rosa@example.org\r\nIda,Ortega,2 Bell Street,Fernquay,OR,97412,ida@example.org\r\n"
        );
        await api.Post($"/api/lists/{list}/duplicates", new { });
        await api.Until($"/api/lists/{list}/duplicates", t => !(bool)t["stale"]!);
        await api.Post($"/api/lists/{list}/households", new { form = "GivenNames", households = (long[][]?)null });
        var drop = await api.MakeDrop(list, "{Salutation}", "{Delivery address}");
        async Task<string> Page(int piece)
        {
            await api.Checked(drop);
            var id = (await api.Recipients(drop)).First(r => r.Piece == piece).Id;
            using var pdf = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/drops/{drop}/recipients/{id}/proof.pdf"));
            return pdf.GetPage(1).Text;
        }
        Assert.Equal(["Ready", "Held", "Held"], (await api.Recipients(drop)).Select(r => r.Tray));
        Assert.Contains("Luis, Rosa", await Page(1));
        var suppressions = (long)await api.Post("/api/suppressions", new { name = "Asked" });
        async Task Suppress(string email)
        {
            await api.Post(
                $"/api/suppressions/{suppressions}/entries",
                new
                {
                    name = (string?)null,
                    street = (string?)null,
                    city = (string?)null,
                    postalCode = (string?)null,
                    email,
                    key = (string?)null,
                    reason = "asked",
                    until = (string?)null,
                }
            );
            await api.Checked(drop);
        }
        await Suppress("luis@example.org");
        Assert.Equal(["Held", "Ready", "Held"], (await api.Recipients(drop)).Select(r => r.Tray));
        var now = await Page(2);
        Assert.Contains("Rosa", now);
        Assert.DoesNotContain("Luis", now);
        Assert.Empty((await api.Get($"/api/drops/{drop}/households-without")).AsArray());
        await Suppress("rosa@example.org");
        await Suppress("ida@example.org");
        Assert.Single((await api.Get($"/api/drops/{drop}/households-without")).AsArray());
    }

    [Fact]
    public async Task A_value_in_a_link_cannot_make_another_link_of_it()
    {
        var drop = await world.Drop(
            MailWorld.List.Replace("Ana,Okafor", "\"A&x=1#/?\",Okafor"),
            new
            {
                content = new object[]
                {
                    new
                    {
                        type = "paragraph",
                        content = new object[]
                        {
                            new
                            {
                                type = "text",
                                text = "Renew here",
                                marks = new object[]
                                {
                                    new { type = "link", attrs = new { href = "https://garden.example/renew?who={First}" } },
                                },
                            },
                        },
                    },
                },
            }
        );
        var person = (await api.Recipients(drop)).First(r => r.Piece == 1).Id;
        var mail = await api.Get($"/api/drops/{drop}/recipients/{person}/mail");
        foreach (var part in (string[])["html", "text"])
            Assert.Contains("who=A%26x%3D1%23%2F%3F", mail[part]!.ToString());
    }
}
