using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>Letter, envelope and labels as one package, through the API: in step, refused where they cannot be, told where they are
/// wrong.</summary>
[TestClass(DisableParallelization = true)]
public sealed class PackageTests : IClassFixture<Api>
{
    readonly Api api;

    public PackageTests(Api api) => this.api = api;

    const string Members = """
        No,Title,First,Last,Organization,Street,Apt,City,State,Zip,Country,Language,Copies
        1,Dr.,Ana,Okafor,,14 Quay Road,Apt 3,Fernquay,OR,97412,,,1
        2,,Luis,Ortega,,9 Tide Street,,Fernquay,OR,97412-1234,,es,2
        3,,Inès,Moreau,,22 rue des Tanneurs,,Lyon,,69002,France,fr,1
        4,,,,Okafor Ceramics,5 Kiln Lane,,Fernquay,OR,97412,,,1
        5,,Meera,Nair,,,,Fernquay,OR,97412,,,1
        6,,Jonas,Adler,,Lindenstraße 12,,Köln,,50667,Atlantis,,1
        """;

    static JsonObject P(string text) =>
        new() { ["type"] = "paragraph", ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = text }) };

    static JsonObject Box(string use, double x, double y, double width, double height, params JsonNode[] content) =>
        new()
        {
            ["id"] = use,
            ["use"] = use,
            ["x"] = x,
            ["y"] = y,
            ["width"] = width,
            ["height"] = height,
            ["content"] = new JsonArray(content),
        };

    static JsonObject Envelope(params JsonNode[] more) =>
        new()
        {
            ["kind"] = "envelope",
            ["format"] = "no10",
            ["boxes"] = new JsonArray(
                [Box("delivery", 110, 48, 100, 30, P("{Delivery address}")), Box("number", 10, 96, 20, 5, P("{Piece number}")), .. more]
            ),
        };

    static JsonObject Labels() =>
        new()
        {
            ["kind"] = "labels",
            ["stock"] = "letter-3x10",
            ["boxes"] = new JsonArray(Box("delivery", 2, 2, 62, 21, P("{Delivery address}"), P("{Piece number}"))),
        };

    async Task<long> Design(long list, string name, JsonNode document) =>
        (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = name,
                    ["listId"] = list,
                    ["document"] = document.DeepClone(),
                }
            );

    async Task<(long List, long Drop, long[] Designs)> Make(params JsonObject[] documents)
    {
        var list = await api.BringIn("members.csv", Members);
        var designs = new List<long>();
        foreach (var document in documents)
            designs.Add(await Design(list, $"Design {designs.Count + 1}", document));
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Invitation",
                    listId = list,
                    designIds = designs,
                    campaignName = "Fair",
                }
            );
        await api.Checked(drop);
        return (list, drop, [.. designs]);
    }

    async Task<JsonNode> Run(long drop, object order)
    {
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(order));
        await api.Ended((long)run["jobId"]!);
        return await api.Get($"/api/runs/{run["id"]}");
    }

    async Task<PdfDocument> File(JsonNode run, int position) =>
        PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/{position}"));

    static string Text(UglyToad.PdfPig.Content.Page page) => string.Join(' ', page.GetWords().Select(w => w.Text));

    [Fact]
    public async Task Three_designs_come_out_in_the_same_order_with_the_same_piece_numbers()
    {
        var (_, drop, designs) = await Make(Api.Letter("{Salutation}", "{Piece number}"), Envelope(), Labels());
        var view = await api.Get($"/api/drops/{drop}");
        Assert.Equal("letter,envelope,labels", string.Join(',', view["package"]!.AsArray().Select(p => (string)p!["kind"]!)));
        // No street, and a country that nobody knows: told, and out of all three.
        var groups = view["issues"]!.AsArray().Select(f => $"{f!["kind"]} {f["subject"]}").Order().ToList();
        Assert.Equal(["Address Country", "Address Street"], groups);
        var order = new
        {
            pieces = (string?)null,
            recipients = (long[]?)null,
            expected = (int?)null,
            sheets = new[]
            {
                new
                {
                    designId = designs[2],
                    start = 8,
                    spoiled = new[] { 9 },
                },
            },
            printerId = (long?)null,
        };
        var plan = await api.Post($"/api/drops/{drop}/plan", Api.Order(order));
        Assert.Equal("4 4 1", string.Join(' ', plan["designs"]!.AsArray().Select(d => (int)d!["pages"]!)));
        Assert.Equal(4, (int)plan["designs"]![2]!["labels"]!);
        var run = await Run(drop, order);
        Assert.Equal("done", (string)run["state"]!);
        using var letters = await File(run, 1);
        using var envelopes = await File(run, 2);
        using var labels = await File(run, 3);
        string[] numbers = ["0001", "0002", "0003", "0004"];
        Assert.Equal(numbers, letters.GetPages().Select(p => Text(p).Split(' ')[^1]));
        Assert.Equal(
            ["Dear Dr. Okafor,", "Hola, Luis:", "Bonjour Inès,", "Dear Okafor Ceramics,"],
            letters.GetPages().Select(p => Text(p)[..^5])
        );
        Assert.Equal(
            [
                "Ana Okafor 14 Quay Road Apt 3 Fernquay OR 97412",
                "Luis Ortega 9 Tide Street Fernquay OR 97412-1234",
                "Inès Moreau 22 rue des Tanneurs 69002 LYON FRANCE",
                "Okafor Ceramics 5 Kiln Lane Fernquay OR 97412",
            ],
            envelopes.GetPages().Select(p => Text(p)[..^5].Replace("Dr. ", ""))
        );
        Assert.Equal(numbers, envelopes.GetPages().Select(p => Text(p)[^4..]));
        // Begun at place 8, place 9 passed over: 8, 10, 11, 12.
        Assert.Equal(1, labels.NumberOfPages);
        var words = labels.GetPage(1).GetWords().Where(w => numbers.Contains(w.Text)).ToDictionary(w => w.Text, w => w.BoundingBox);
        int Place(string n) => (int)((792 - words[n].Centroid.Y - 36) / 72) * 3 + (int)((words[n].Left - 13.5) / 198) + 1;
        Assert.Equal([8, 10, 11, 12], numbers.Select(Place));
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.GetAsync($"/api/runs/{run["id"]}/files/4"))).Status);
        // The whole package of one person, as the bench shows it.
        var person = await api.Get($"/api/drops/{drop}/recipients/{(await api.Get($"/api/drops/{drop}/recipient-ids"))[0]}");
        Assert.Equal("1 1 1", string.Join(' ', person["pieces"]!.AsArray().Select(p => (int)p!["pages"]!)));
    }

    [Theory]
    [InlineData(0, "no position 0")]
    [InlineData(31, "no position 31")]
    public async Task A_start_that_the_stock_does_not_have_is_refused(int start, string message)
    {
        var (_, drop, designs) = await Make(Api.Letter("Dear {First}"), Labels());
        object Order(long design) =>
            new
            {
                sheets = new[]
                {
                    new
                    {
                        designId = design,
                        start,
                        spoiled = (int[]?)null,
                    },
                },
            };
        Assert.Contains(
            message,
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/plan", Api.Order(Order(designs[1]))))).Detail
        );
        Assert.Contains(
            "not a label sheet",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", Api.Order(Order(designs[0]))))).Detail
        );
    }

    [Fact]
    public async Task A_printers_feed_turns_envelopes_and_its_offset_is_frozen_with_the_run()
    {
        var (_, drop, _) = await Make(Envelope());
        var printer = (long)
            await api.Post(
                "/api/printers",
                new
                {
                    name = "Front office",
                    envelopeEdge = "short",
                    envelopeDown = -2,
                }
            );
        var run = await Run(drop, new { pieces = "1", printerId = printer });
        using var turned = await File(run, 1);
        Assert.Equal((297, 684), (Math.Round(turned.GetPage(1).Width), Math.Round(turned.GetPage(1).Height)));
        using var plain = await File(await Run(drop, new { pieces = "2" }), 1);
        Assert.Equal(684, Math.Round(plain.GetPage(1).Width));
        await api.Put($"/api/printers/{printer}", new { name = "Front office", envelopeEdge = "long" });
        using var same = await File(run, 1);
        Assert.Equal(297, Math.Round(same.GetPage(1).Width));
        foreach (
            var (body, message) in new (object, string)[]
            {
                (new { name = "" }, "name"),
                (new { name = "x", envelopeEdge = "wide" }, "short or long"),
                (new { name = "x", envelopeTurn = 45 }, "0 or 180"),
                (new { name = "x", sheetDown = 80 }, "50 mm"),
                (new { name = "x", envelopeFace = "left" }, "up or down"),
            }
        )
            Assert.Contains(message, (await Api.Refusal(api.Client.PostAsJsonAsync("/api/printers", body))).Detail);
        using var trial = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/printers/{printer}/trial.pdf?format=no10"));
        Assert.Contains("Measure from the left edge", Text(trial.GetPage(1)));
        Assert.Contains(
            "not a known envelope size",
            (await Api.Refusal(api.Client.GetAsync($"/api/printers/{printer}/trial.pdf?format=x"))).Detail
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "one", printerId = 99 }))).Status
        );
        await api.Client.DeleteAsync($"/api/printers/{printer}");
        Assert.DoesNotContain(printer, (await api.Get("/api/printers")).AsArray().Select(p => (long)p!["id"]!));
    }

    [Fact]
    public async Task A_letter_is_held_against_the_window_of_its_envelope()
    {
        var envelope = Envelope();
        envelope["window"] = new JsonObject
        {
            ["x"] = 22.2,
            ["y"] = 63.5,
            ["width"] = 114.3,
            ["height"] = 28.6,
            ["fold"] = "thirds",
            ["shift"] = 3,
        };
        var letter = new JsonObject
        {
            ["page"] = new JsonObject
            {
                ["sheet"] = "letter",
                ["margins"] = new JsonObject
                {
                    ["top"] = 62,
                    ["left"] = 14,
                    ["right"] = 20,
                    ["bottom"] = 20,
                },
            },
            ["type"] = new JsonObject
            {
                ["size"] = 10,
                ["lineSpacing"] = 1.2,
                ["spaceAfter"] = 30,
            },
            ["content"] = new JsonArray(P("{Delivery address}"), P("Dear {First | else \"friend\"},")),
        };
        var (_, drop, designs) = await Make(letter, envelope);
        // The greeting stands below the window for three lines, and in it for four.
        var page = await api.Get($"/api/drops/{drop}/recipients?alike=Window|window");
        var person = await api.Get($"/api/drops/{drop}/recipients/{(await api.Get($"/api/drops/{drop}/recipient-ids"))[0]}");
        var window = person["pieces"]![0]!["window"]!;
        Assert.Equal((9.5, 57.679), (Math.Round((double)window["x"]!, 1), Math.Round((double)window["y"]!, 3)));
        Assert.True((int)page["total"]! < 6);
        // While the letter is written, the window stands over it and what is wrong is told, too.
        var preview = await api.Post(
            "/api/designs/preview",
            new
            {
                document = letter,
                listId = (long)(await api.Get($"/api/drops/{drop}"))["listId"]!,
                designId = designs[0],
            }
        );
        Assert.Equal((double)window["x"]!, (double)preview["window"]!["x"]!);
        Assert.Null((await api.Post("/api/designs/preview", new { document = letter }))["window"]);
        // Moved up by 40 mm nobody's address is seen.
        letter["page"]!["margins"]!["top"] = 22;
        await api.Save(designs[0], letter);
        await api.Checked(drop);
        Assert.Equal(6, (int)(await api.Get($"/api/drops/{drop}/recipients?alike=Window|window"))["total"]!);
        Assert.Contains(
            "not behind the window",
            (await api.Get($"/api/drops/{drop}/recipients?alike=Window|window"))["rows"]![0]!["why"]!.ToString()
        );
    }

    [Fact]
    public async Task Serial_numbers_of_mail_barcodes_differ_from_piece_to_piece_and_run_to_run()
    {
        var (_, drop, _) = await Make(
            Envelope(
                Box(
                    "barcode",
                    132,
                    91.5,
                    82,
                    6,
                    new JsonObject
                    {
                        ["type"] = "barcode",
                        ["attrs"] = new JsonObject
                        {
                            ["symbology"] = "imb",
                            ["service"] = "040",
                            ["mailer"] = "901234567",
                        },
                    }
                )
            )
        );
        async Task<List<string>> Bars(string pieces)
        {
            using var pdf = await File(await Run(drop, new { pieces }), 1);
            return
            [
                .. pdf.GetPages()
                    .Select(p =>
                        string.Join(
                            ' ',
                            p.Paths.SelectMany(x => x)
                                .Select(x => x.GetBoundingRectangle()!.Value)
                                .Select(r => $"{r.Bottom:0.0} {r.Height:0.0}")
                        )
                    ),
            ];
        }
        var first = await Bars("1-2");
        Assert.Equal(2, first.Distinct().Count());
        var run = (await api.Get($"/api/drops/{drop}/runs"))[0]!;
        await api.Post($"/api/runs/{run["id"]}/take-back", new { });
        Assert.Empty(first.Intersect(await Bars("1-2")));
    }

    [Fact]
    public async Task A_whole_sheet_is_shown_with_whose_label_stands_where()
    {
        var list = await api.BringIn(
            "many.csv",
            "First,Last,Street,City,Zip,Copies\n"
                + string.Join('\n', Enumerable.Range(1, 70).Select(i => $"G{i:000},Family,{i} Quay Road,Fernquay,97412,{i % 3}"))
        );
        var document = Labels();
        async Task<JsonNode> Sheet(int sheet, int start = 1) =>
            await api.Post(
                "/api/designs/sheet",
                new
                {
                    document,
                    listId = list,
                    designId = 0,
                    sheet,
                    start,
                    spoiled = (int[]?)null,
                }
            );
        var first = await Sheet(1);
        Assert.Equal((3, 30), ((int)first["sheets"]!, first["labels"]!.AsArray().Count));
        var third = await Sheet(3);
        Assert.Equal("1:61 2:62", string.Join(' ', third["labels"]!.AsArray().Take(2).Select(l => $"{l!["position"]}:{l["number"]}")));
        using (var pdf = PdfDocument.Open(Convert.FromBase64String((string)third["pdf"]!)))
        {
            Assert.Contains("G061", Text(pdf.GetPage(1)));
            Assert.DoesNotContain("G060", Text(pdf.GetPage(1)));
        }
        Assert.Equal(
            "8:1",
            string.Join(' ', (await Sheet(1, 8))["labels"]!.AsArray().Take(1).Select(l => $"{l!["position"]}:{l["number"]}"))
        );
        Assert.Equal(
            "1:24",
            string.Join(' ', (await Sheet(2, 8))["labels"]!.AsArray().Take(1).Select(l => $"{l!["position"]}:{l["number"]}"))
        );
        document["copies"] = 4;
        Assert.Equal(
            "1:8 2:8 3:9",
            string.Join(' ', (await Sheet(2))["labels"]!.AsArray().Take(3).Select(l => $"{l!["position"]}:{l["number"]}"))
        );
        document["copiesBy"] = "Copies";
        var byColumn = await Sheet(2);
        Assert.Equal((3, 30), ((int)byColumn["sheets"]!, byColumn["labels"]!.AsArray().Count));
        Assert.Empty((await Sheet(9))["labels"]!.AsArray());
        Assert.Contains(
            "1 or more",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        "/api/designs/sheet",
                        new
                        {
                            document,
                            listId = list,
                            sheet = 0,
                        }
                    )
                )
            ).Detail
        );
    }

    [Fact]
    public async Task Outlines_and_sheets_of_one_text_are_made_without_a_list()
    {
        var list = await api.BringIn("members.csv", Members);
        var with = await Design(list, "Labels", Labels());
        using (var outline = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/designs/{with}/outline.pdf")))
            Assert.Equal(30, outline.GetPage(1).Paths.Count);
        Assert.Contains("have fields", (await Api.Refusal(api.Client.GetAsync($"/api/designs/{with}/sheets.pdf"))).Detail);
        var one = await Design(
            list,
            "Return labels",
            new JsonObject
            {
                ["kind"] = "labels",
                ["stock"] = "letter-4x20",
                ["boxes"] = new JsonArray(Box("text", 1, 1, 40, 10, P("Fernquay Botanic Garden"))),
            }
        );
        using var sheets = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/designs/{one}/sheets.pdf?sheets=2"));
        Assert.Equal(2, sheets.NumberOfPages);
        Assert.All(sheets.GetPages(), p => Assert.Equal(80, p.GetWords().Count(w => w.Text == "Fernquay")));
        using var begun = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/designs/{one}/sheets.pdf?start=61"));
        Assert.Equal(20, begun.GetPage(1).GetWords().Count(w => w.Text == "Fernquay"));
        Assert.Contains("1 to 200", (await Api.Refusal(api.Client.GetAsync($"/api/designs/{one}/sheets.pdf?sheets=0"))).Detail);
        var letter = await Design(list, "Letter", Api.Letter("x"));
        Assert.Contains("not a label sheet", (await Api.Refusal(api.Client.GetAsync($"/api/designs/{letter}/outline.pdf"))).Detail);
    }

    [Fact]
    public async Task A_design_stays_what_it_is_and_its_texts_can_be_compared()
    {
        var list = await api.BringIn("members.csv", Members);
        var id = await Design(list, "Envelope", Envelope(Box("teaser", 10, 60, 60, 8, P("Inside: seeds"))));
        Assert.Contains("stays what it is", (await Api.Refusal(api.TrySave(id, Labels()))).Detail);
        var wrong = Envelope();
        wrong["format"] = "none";
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await Api.Refusal(api.TrySave(id, wrong))).Status);
        api.Client.DefaultRequestHeaders.Remove("X-Person");
        api.Client.DefaultRequestHeaders.Add("X-Person", "Another");
        await api.Save(id, Envelope(Box("teaser", 10, 60, 60, 8, P("Inside: bulbs"))));
        var lines = (await api.Get($"/api/designs/{id}/compare?from=1&to=2")).ToJsonString();
        Assert.Contains("seeds", lines);
        Assert.Contains("bulbs", lines);
        var first = await api.Client.GetAsync($"/api/designs/{id}/first-page");
        using var pdf = PdfDocument.Open(await first.Content.ReadAsByteArrayAsync());
        Assert.Equal(684, Math.Round(pdf.GetPage(1).Width));
    }

    [Fact]
    public async Task The_ladder_says_how_many_take_each_rung_and_who()
    {
        var list = await api.BringIn("members.csv", Members);
        var rungs = (await api.Post($"/api/lists/{list}/salutations", new { })).AsArray();
        string Rung(string language, int rung) =>
            rungs
                .Where(r => (string)r!["language"]! == language && (int)r["rung"]! == rung)
                .Select(r => $"{r!["recipients"]} {r["first"]!.AsArray().Select(x => (string)x!["text"]!).FirstOrDefault()}")
                .Single();
        Assert.Equal("1 Dear Dr. Okafor,", Rung("en", 2));
        Assert.Equal("2 Dear Meera,", Rung("en", 3));
        Assert.Equal("1 Dear Okafor Ceramics,", Rung("en", 6));
        Assert.Equal("1 Hola, Luis:", Rung("es", 3));
        Assert.Equal("1 Bonjour Inès,", Rung("fr", 3));
        Assert.Equal(6, rungs.Sum(r => (int)r!["recipients"]!));
        // Tried before it is set; and a wrong form is told.
        var own = new[] { new { language = "en", forms = new[] { "Dear {Given name} of {City}", "Dear friend of the garden" } } };
        Assert.Contains(
            (await api.Post($"/api/lists/{list}/salutations", new { ladders = own })).AsArray(),
            r => (int)r!["recipients"]! == 1 && (string)r["first"]![0]!["text"]! == "Dear friend of the garden,"
        );
        foreach (
            var (forms, message) in new (string[], string)[] { (["Dear {Frist name}"], "rule 1"), ([], "at least one"), ([" "], "empty") }
        )
            Assert.Contains(
                message,
                (
                    await Api.Refusal(api.Client.PutAsJsonAsync("/api/settings/salutations", new[] { new { language = "en", forms } }))
                ).Detail,
                StringComparison.OrdinalIgnoreCase
            );
        await api.Put("/api/settings/salutations", own);
        Assert.Equal(
            "Dear {Given name} of {City}",
            (string)
                (await api.Get("/api/settings/salutations"))["ladders"]!.AsArray().Single(l => (string)l!["language"]! == "en")!["forms"]![
                    0
                ]!
        );
        await api.Put("/api/settings/salutations", Array.Empty<object>());
    }

    [Fact]
    public async Task Own_stocks_are_named_and_judged()
    {
        Assert.True((await api.Get("/api/stocks")).AsArray().Count >= 24);
        Assert.True((await api.Get("/api/envelopes")).AsArray().Count >= 11);
        JsonObject Own(double width) =>
            new()
            {
                ["sheetWidth"] = 210,
                ["sheetHeight"] = 297,
                ["columns"] = 2,
                ["rows"] = 4,
                ["labelWidth"] = width,
                ["labelHeight"] = 60,
                ["left"] = 5,
                ["top"] = 5,
                ["pitchX"] = 100,
                ["pitchY"] = 70,
                ["corner"] = "square",
            };
        Assert.Equal("2 × 4 · 95 × 60 mm", (string)(await api.Post("/api/stocks/check", new { stock = Own(95) }))["name"]!);
        Assert.Contains("overlap", (string)(await api.Post("/api/stocks/check", new { stock = Own(105) }))["mistakes"]![0]!);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await Api.Refusal(api.Client.PostAsJsonAsync("/api/stocks/check", new { stock = "none" }))).Status
        );
    }
}
