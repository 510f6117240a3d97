using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>Letters through the API: composed with detail rows, matched to another list, compared, printed field by field, produced again
/// with the same bytes.</summary>
[TestClass(DisableParallelization = true)]
public sealed class LetterTests(Api api) : IClassFixture<Api>
{
    const string Members =
        "No.,First,Last,Amount due,Renewal date\r\nF-1,Ana,Okafor,64,2027-02-28\r\nF-2,,Lindqvist,1250.5,2027-03-31\r\nF-3,Beatriz "
        + "Concepción,de la Cruz y Villanueva,28,\r\n";

    static JsonObject Document(params JsonNode[] content) => new() { ["content"] = new JsonArray(content) };

    static JsonObject P(string text) =>
        new() { ["type"] = "paragraph", ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = text }) };

    static string Text(JsonNode preview)
    {
        using var pdf = PdfDocument.Open(Convert.FromBase64String((string)preview["pdf"]!));
        return string.Join(
            ' ',
            pdf.GetPages()
                .Select(p =>
                    string.Join(
                        ' ',
                        UglyToad
                            .PdfPig.DocumentLayoutAnalysis.TextExtractor.ContentOrderTextExtractor.GetText(p)
                            .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
                    )
                )
        );
    }

    async Task<long> WithGifts()
    {
        var list = await api.BringIn("members.csv", Members);
        await api.Put(
            "/api/settings/organization",
            new
            {
                name = "Fernquay Botanic Garden",
                locale = "en-US",
                currency = "USD",
            }
        );
        var upload = (string)
            (
                await (
                    await api.Upload("gifts.csv", Encoding.UTF8.GetBytes("No.,Plant,Gift\r\nF-1,Ginkgo,75\r\nF-1,Titan arum,50.5\r\n"))
                ).Content.ReadFromJsonAsync<JsonNode>()
            )!["id"]!;
        var look = await api.Post($"/api/uploads/{upload}/look", new { });
        var columns = look["columns"]!
            .AsArray()
            .Select(
                (c, i) =>
                {
                    var o = c!.DeepClone().AsObject();
                    o["position"] = i;
                    return o;
                }
            )
            .ToArray();
        var options = new
        {
            sheet = (string?)look["sheet"],
            headingRow = (int)look["headingRow"]!,
            encoding = (string?)look["encoding"],
            delimiter = (string?)look["delimiter"],
        };
        var begun = await api.Post(
            $"/api/lists/{list}/details",
            new
            {
                uploadId = upload,
                name = "Gifts",
                key = 0,
                options,
                width = 3,
                columns,
            }
        );
        Assert.Equal("done", (string)(await api.Ended((long)begun["jobId"]!))["state"]!);
        return list;
    }

    [Fact]
    public async Task Detail_rows_are_in_previews_proofs_and_runs()
    {
        var list = await WithGifts();
        var document = Document(
            P("Dear {First | else \"friend\"}, {count(Gifts) | words} gifts:"),
            P("{each Gifts}"),
            P("{Plant} {Gift | money}"),
            P("{end}"),
            P("{sum(Gifts.Gift) | money | else \"none\"}")
        );
        var preview = await api.Post(
            "/api/designs/preview",
            new
            {
                document,
                listId = list,
                offset = 0,
                designId = 0,
            }
        );
        Assert.Equal("Dear Ana, two gifts: Ginkgo $75.00 Titan arum $50.50 $125.50", Text(preview));
        Assert.Empty(preview["issues"]!.AsArray());
        Assert.Single(preview["pageMarks"]!.AsArray());
        var design = (long)
            await api.Post(
                "/api/designs",
                new
                {
                    name = "Gifts",
                    listId = list,
                    document,
                }
            );
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Gifts",
                    listId = list,
                    designIds = new[] { design },
                    campaignName = "Gifts",
                }
            );
        await api.Checked(drop);
        var people = await api.Recipients(drop);
        using var proof = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/drops/{drop}/recipients/{people[0].Id}/proof.pdf"));
        Assert.Contains("Titan arum $50.50", string.Join(' ', proof.GetPage(1).GetWords().Select(w => w.Text)));
    }

    [Fact]
    public async Task Fields_are_printed_for_a_recipient_also_within_each()
    {
        var list = await WithGifts();
        var printed = await api.Post(
            "/api/designs/print",
            new
            {
                listId = list,
                offset = 0,
                designId = 0,
                fields = new object[]
                {
                    new { source = "Amount due | money" },
                    new { source = "Gift | money 0", within = "Gifts" },
                    new { source = "Frist" },
                    new { source = "Sender" },
                    new { source = "First | words" },
                },
            }
        );
        Assert.Equal(["$64.00", "$75", "", "Fernquay Botanic Garden", ""], printed.AsArray().Select(p => (string)p!["text"]!));
        Assert.Contains("did you mean “First”", (string)printed[2]!["wrong"]!);
        Assert.Contains("not a number", (string)printed[4]!["wrong"]!);
    }

    [Fact]
    public async Task The_longest_and_one_with_blanks_are_found()
    {
        var list = await api.BringIn("members.csv", Members);
        var document = Document(P("{First} {Last} {Renewal date}"));
        var rows = (await api.Get($"/api/lists/{list}/recipients?limit=3"))["rows"]!.AsArray();
        async Task<long?> Find(string which) =>
            (long?)
                (
                    await api.Post(
                        "/api/designs/find",
                        new
                        {
                            document,
                            listId = list,
                            which,
                            designId = 0,
                        }
                    )
                )["recipientId"];
        Assert.Equal((long)rows[2]!["id"]!, await Find("longest"));
        Assert.Equal((long)rows[1]!["id"]!, await Find("blanks"));
        Assert.Null(
            (
                await api.Post(
                    "/api/designs/find",
                    new
                    {
                        document = Document(P("{Last}")),
                        listId = list,
                        which = "blanks",
                        designId = 0,
                    }
                )
            )["recipientId"]
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        "/api/designs/find",
                        new
                        {
                            document,
                            listId = list,
                            which = "shortest",
                            designId = 0,
                        }
                    )
                )
            ).Status
        );
        var shown = await api.Post(
            "/api/designs/preview",
            new
            {
                document,
                listId = list,
                offset = 0,
                designId = 0,
                recipientId = (long)rows[2]!["id"]!,
            }
        );
        Assert.Equal((2, 3), ((int)shown["offset"]!, (int)shown["recipients"]!));
    }

    [Fact]
    public async Task Another_list_is_matched_by_role_and_by_picking()
    {
        var (one, other) = (
            await api.BringIn("members.csv", Members),
            await api.BringIn("other.csv", "Given name,Surname,Balance\r\nMeera,Rao,12.5\r\n")
        );
        var design = (long)
            await api.Post(
                "/api/designs",
                new
                {
                    name = "Away",
                    listId = one,
                    document = Document(P("Dear {First}, {Amount due | money}")),
                }
            );
        using var changed = await api.Client.PatchAsJsonAsync($"/api/designs/{design}", new { listId = other });
        Assert.Equal(1, (int)(await changed.Content.ReadFromJsonAsync<JsonNode>())!["openNames"]!);
        var matches = (await api.Get($"/api/designs/{design}/matches?listId={other}")).AsArray();
        Assert.Equal([("Amount due", null), ("First", "role")], matches.Select(m => ((string)m!["name"]!, (string?)m["how"])).Order());
        var balance = (await api.Get($"/api/lists/{other}"))["columns"]!.AsArray().Single(c => (string)c!["name"]! == "Balance")!["id"]!;
        using var put = await api.Client.PutAsJsonAsync(
            $"/api/designs/{design}/matches",
            new
            {
                listId = other,
                name = "Amount due",
                columnId = (int)balance,
            }
        );
        Assert.True(put.IsSuccessStatusCode);
        var document = (await api.Get($"/api/designs/{design}"))["document"]!;
        Assert.Equal(
            "Dear Meera, $12.50",
            Text(
                await api.Post(
                    "/api/designs/preview",
                    new
                    {
                        document,
                        listId = other,
                        offset = 0,
                        designId = design,
                    }
                )
            )
        );
        Assert.Equal(
            "Dear Ana, $64.00",
            Text(
                await api.Post(
                    "/api/designs/preview",
                    new
                    {
                        document,
                        listId = one,
                        offset = 0,
                        designId = design,
                    }
                )
            )
        );
    }

    [Fact]
    public async Task Versions_are_compared_word_by_word()
    {
        var design = (long)
            await api.Post(
                "/api/designs",
                new { name = "Compared", document = Document(P("Dear {First}, thank you."), P("Same."), P("Gone.")) }
            );
        using var saved = await api.Client.SendAsync(
            new(HttpMethod.Put, $"/api/designs/{design}/document")
            {
                Content = JsonContent.Create(
                    new
                    {
                        basedOn = 1,
                        revision = 1,
                        document = Document(P("Dear {Last}, thank you."), P("Same."), new JsonObject { ["type"] = "pageBreak" }),
                    }
                ),
                Headers = { { "X-Person", "Somebody%20else" } },
            }
        );
        Assert.True(saved.IsSuccessStatusCode);
        var lines = (await api.Get($"/api/designs/{design}/compare?from=1&to=2")).AsArray();
        string Of(int i) => string.Concat(lines[i]!.AsArray().Select(d => $"[{((string)d!["kind"]!)[0]}:{(string)d["text"]!}]"));
        Assert.Contains("[R:", Of(0));
        Assert.Contains("Last", Of(0));
        Assert.Equal("[S:Same.]", Of(1));
        Assert.Contains("[page break]", string.Join(' ', Enumerable.Range(2, lines.Count - 2).Select(Of)));
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await Api.Refusal(api.Client.GetAsync($"/api/designs/{design}/compare?from=1&to=9"))).Status
        );
    }

    [Fact]
    public async Task A_column_chooses_a_picture_by_its_name_and_a_drawing_is_served_harmless()
    {
        var svg = await api.Client.PostAsync(
            "/api/pictures?name=Leaf.svg",
            new ByteArrayContent(
                Encoding.UTF8.GetBytes(
                    "<svg xmlns='http://www.w3.org/2000/svg' width='20' height='10' onload='x()'><script>x()</script><rect "
                        + "width='20' height='10'/></svg>"
                )
            )
        );
        var id = (string)(await svg.Content.ReadFromJsonAsync<JsonNode>())!["id"]!;
        using var served = await api.Client.GetAsync($"/api/pictures/{id}");
        Assert.Equal("image/svg+xml", served.Content.Headers.ContentType!.MediaType);
        Assert.Contains("sandbox", served.Headers.GetValues("Content-Security-Policy").Single());
        Assert.DoesNotContain("script", await served.Content.ReadAsStringAsync());
        var list = await api.BringIn("photos.csv", "First,Photo\r\nAna,leaf\r\nPer,nowhere.png\r\n");
        var document = Document(
            new JsonObject
            {
                ["type"] = "picture",
                ["attrs"] = new JsonObject
                {
                    ["asset"] = "",
                    ["source"] = "Photo",
                    ["width"] = 30,
                    ["aspect"] = 2,
                },
            }
        );
        Assert.Empty(
            (
                await api.Post(
                    "/api/designs/preview",
                    new
                    {
                        document,
                        listId = list,
                        offset = 0,
                        designId = 0,
                    }
                )
            )["issues"]!.AsArray()
        );
        var missing = (
            await api.Post(
                "/api/designs/preview",
                new
                {
                    document,
                    listId = list,
                    offset = 1,
                    designId = 0,
                }
            )
        )["issues"]!.AsArray();
        Assert.Contains(missing, m => ((string)m!).Contains("The picture “nowhere.png”"));
    }

    [Fact]
    public async Task Designs_have_descriptions_tags_an_archive_and_limits()
    {
        var design = (long)await api.Post("/api/designs", new { name = "Tagged", document = Document(P("x")) });
        using var changed = await api.Client.PatchAsJsonAsync(
            $"/api/designs/{design}",
            new
            {
                description = " For spring ",
                tags = new[] { "spring", " Spring", "" },
                archived = true,
            }
        );
        Assert.True(changed.IsSuccessStatusCode);
        var view = await api.Get($"/api/designs/{design}");
        Assert.Equal(
            ("For spring", "spring", true),
            ((string)view["description"]!, (string)view["tags"]!.AsArray().Single()!, (bool)view["archived"]!)
        );
        Assert.Contains(
            "20 tags",
            (
                await Api.Refusal(
                    api.Client.PatchAsJsonAsync($"/api/designs/{design}", new { tags = Enumerable.Range(0, 21).Select(i => $"t{i}") })
                )
            ).Detail
        );
        var copy = (long)await api.Post($"/api/designs/{design}/duplicate", new { name = "Copy" });
        Assert.Equal("Copy", (string)(await api.Get($"/api/designs/{copy}"))["name"]!);
        using var first = await api.Client.GetAsync($"/api/designs/{design}/first-page");
        using var pdf = PdfDocument.Open(await first.Content.ReadAsByteArrayAsync());
        Assert.Equal(1, pdf.NumberOfPages);
    }

    [Theory]
    [InlineData("""{"content":[{"type":"heading","attrs":{"level":9}}]}""", "level of a heading")]
    [InlineData("""{"page":{"sheet":"custom","width":5,"height":200},"content":[]}""", "width of the sheet")]
    [InlineData("""{"watermark":{"text":"x","strength":7},"content":[]}""", "strength of the watermark")]
    [InlineData(
        """{"content":[{"type":"table","content":[{"type":"tableRow","content":[{"type":"tableCell","attrs":{"colspan":90}}]}]}]}""",
        "width of a merged cell"
    )]
    [InlineData(
        """{"content":[{"type":"paragraph","content":[{"type":"text","text":"x","marks":[{"type":"textStyle","attrs":{"color":"blue;url(x)"}}]}]}]}""",
        "is not a color"
    )]
    [InlineData("""{"content":[{"type":"paragraph","attrs":{"tabs":[{"at":"x"}]}}]}""", "format is not valid")]
    [InlineData("""{"maxPages":0,"content":[]}""", "must be 1 to")]
    public async Task What_cannot_be_a_letter_is_refused_and_nothing_is_lost(string document, string why)
    {
        var design = (long)await api.Post("/api/designs", new { name = "Kept", document = Document(P("kept")) });
        var (status, detail) = await Api.Refusal(api.TrySave(design, JsonNode.Parse(document)!));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(why, detail);
        Assert.Contains("kept", (await api.Get($"/api/designs/{design}"))["document"]!.ToJsonString());
    }
}
