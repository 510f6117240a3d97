using System.Net;
using System.Text.Json.Nodes;
using Bandeja.Formats.Tests;
using Dapper;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>PDFs that become forms, through the API: what is stored, what is refused, and a package with one.</summary>
public sealed class FormTests : IAsyncLifetime
{
    readonly Api api = new();

    public ValueTask InitializeAsync() => api.InitializeAsync();

    public ValueTask DisposeAsync() => api.DisposeAsync();

    static byte[] Card(bool newer = false)
    {
        var made = new MadeForm()
            .Page(MadeForm.Text(50, 745, "The card") + MadeForm.Text(50, 723, "First") + MadeForm.Text(50, 683, "Town"))
            .Field("f1", "50 700 250 720", "/FT/Tx/Ff 2")
            .Field("f2", "50 660 250 680");
        return (newer ? made.Field("f3", "50 620 250 640", "/FT/Tx/TU(Last)") : made).Page(MadeForm.Text(50, 700, "Second page")).File();
    }

    Task<HttpResponseMessage> Send(string path, byte[] pdf) => api.Client.PostAsync(path, new ByteArrayContent(pdf));

    async Task<long> Start(long list, byte[] pdf) =>
        (long)await api.Read(await Send($"/api/designs/form?name=Card&file=card.pdf&listId={list}", pdf));

    /// <summary>A drop of a form and of a letter with one paragraph.</summary>
    async Task<long> DropWithLetter(long list, long form, string text)
    {
        var letter = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Letter",
                    ["listId"] = list,
                    ["document"] = Api.Letter(text),
                }
            );
        return (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Package",
                    listId = list,
                    designIds = new[] { form, letter },
                    campaignName = "Package",
                }
            );
    }

    [Fact]
    public async Task A_locked_pdf_is_asked_once_for_its_password_which_is_kept_encrypted()
    {
        var list = await api.BringIn("people.csv", "First,Last,City\r\nAna,Okafor,Salem\r\n");
        using var target = new MemoryStream();
        using (var document = PdfSharp.Pdf.IO.PdfReader.Open(new MemoryStream(Card()), PdfSharp.Pdf.IO.PdfDocumentOpenMode.Modify))
        {
            document.SecuritySettings.UserPassword = "moss & fern";
            document.SecuritySettings.OwnerPassword = "owner";
            document.Save(target, false);
        }
        var pdf = target.ToArray();
        Task<HttpResponseMessage> With(string password)
        {
            var request = new HttpRequestMessage(HttpMethod.Post, $"/api/designs/form?name=Card&file=card.pdf&listId={list}")
            {
                Content = new ByteArrayContent(pdf),
            };
            request.Headers.Add("Open-Password", Uri.EscapeDataString(password));
            return api.Client.SendAsync(request);
        }
        var locked = await Api.Refusal(Send($"/api/designs/form?name=Card&file=card.pdf&listId={list}", pdf));
        Assert.Equal(((HttpStatusCode)423, "This PDF opens only with a password."), locked);
        Assert.Contains("does not open", (await Api.Refusal(With("moss"))).Detail);
        Assert.Empty((await api.Get("/api/designs")).AsArray());

        var id = (long)await api.Read(await With("moss & fern"));
        var form = (await api.Get($"/api/designs/{id}"))["document"]!;
        Assert.Equal(pdf, await api.Client.GetByteArrayAsync($"/api/pictures/{form["asset"]}"));
        using (var c = api.Part<Store.Database>().Open())
        {
            var secret = c.QuerySingle<string>("SELECT secret FROM picture WHERE id = @id", new { id = (string)form["asset"]! });
            Assert.DoesNotContain("moss", secret);
        }
        // The same file again is not asked for it again.
        await Start(list, pdf);
        var preview = await api.Post(
            "/api/designs/preview",
            new JsonObject
            {
                ["listId"] = list,
                ["designId"] = id,
                ["document"] = form.DeepClone(),
            }
        );
        using var shown = PdfDocument.Open(Convert.FromBase64String((string)preview["pdf"]!));
        Assert.Contains("Ana", shown.GetPage(1).Text);
        Assert.Contains("The card", shown.GetPage(1).Text);
    }

    [Fact]
    public async Task A_pdf_becomes_a_form_is_kept_unchanged_and_a_newer_one_keeps_the_answers()
    {
        var list = await api.BringIn("people.csv", "First,Last,City\r\nAna,Okafor,Salem\r\nLuis,Ortega,Bend\r\n");
        var id = await Start(list, Card());
        var design = await api.Get($"/api/designs/{id}");
        var form = design["document"]!;
        Assert.Equal("form", (string)design["kind"]!);
        Assert.Equal("""{"f1":"{First}","f2":"{City}"}""", form["answers"]!.ToJsonString());
        Assert.Equal(Card(), await api.Client.GetByteArrayAsync($"/api/pictures/{form["asset"]}"));

        form["answers"]!["f2"] = "{City}, {Last}";
        form["boxes"] = new JsonArray(
            new JsonObject
            {
                ["page"] = 2,
                ["x"] = 20,
                ["y"] = 40,
                ["value"] = "{Piece number}",
            }
        );
        await api.Save(id, form);
        var stale = await Api.Refusal(Send($"/api/designs/{id}/form?basedOn=7&file=b.pdf", Card(true)));
        Assert.Equal(HttpStatusCode.PreconditionFailed, stale.Status);
        var newest = (long)(await api.Get($"/api/designs/{id}"))["version"]!;
        Assert.Equal(newest + 1, (long)await api.Read(await Send($"/api/designs/{id}/form?basedOn={newest}&file=b.pdf", Card(true))));
        var renewed = (await api.Get($"/api/designs/{id}"))["document"]!;
        Assert.Equal("""{"f1":"{First}","f2":"{City}, {Last}","f3":"{Last}"}""", renewed["answers"]!.ToJsonString());
        Assert.Single(renewed["boxes"]!.AsArray());
        Assert.Equal("b.pdf", (string)renewed["file"]!);
    }

    [Fact]
    public async Task What_cannot_be_used_is_refused_and_leaves_nothing_behind()
    {
        var list = await api.BringIn("people.csv", "First,City\r\nAna,Salem\r\n");
        foreach (
            var (file, because) in new (byte[], string)[]
            {
                ("GIF89a"u8.ToArray(), "not a PDF"),
                ("%PDF-1.7 and no more"u8.ToArray(), "damaged"),
                (
                    new MadeForm { AcroForm = "/XFA[(template)(x)]" }
                        .Page()
                        .File(),
                    "dynamic XFA"
                ),
            }
        )
        {
            var (status, detail) = await Api.Refusal(Send($"/api/designs/form?name=x&file=x.pdf&listId={list}", file));
            Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
            Assert.Contains(because, detail);
        }
        Assert.Empty((await api.Get("/api/designs")).AsArray());
        Assert.Empty((await api.Get("/api/pictures")).AsArray());
        var letter = (long)await api.Post("/api/designs", new JsonObject { ["name"] = "L", ["listId"] = list });
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await Api.Refusal(Send($"/api/designs/{letter}/form?basedOn=1&file=a.pdf", Card()))).Status
        );
        // A form stays a form, and has no word processor file.
        var id = await Start(list, Card());
        Assert.Equal(HttpStatusCode.BadRequest, (await api.TrySave(id, Api.Letter("x"))).StatusCode);
    }

    [Fact]
    public async Task In_a_package_a_form_lies_after_the_letter_in_the_same_order_and_counts_in_sheets_and_weight()
    {
        var list = await api.BringIn(
            "people.csv",
            "First,Last,City,ZIP\r\nAna,Okafor,Salem,97301\r\n,Ortega,Bend,97701\r\nMei,Lin,Bend,97702\r\n"
        );
        var form = await Start(list, Card());
        var drop = await DropWithLetter(list, form, "Dear {Last}");
        var view = await api.Checked(drop);
        Assert.Equal("letter,form", string.Join(',', view["package"]!.AsArray().Select(p => (string)p!["kind"]!)));
        Assert.Equal(["FormRequired First"], view["issues"]!.AsArray().Select(i => $"{i!["kind"]} {i["subject"]}"));
        Assert.Equal((1, 2), (Api.Count(view, "needsReview"), Api.Count(view, "ready")));
        var plan = await api.Post($"/api/drops/{drop}/plan", Api.Order(new { }));
        Assert.Equal([2, 4], plan["designs"]!.AsArray().Select(d => (int)d!["pages"]!));

        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(new { output = "each", nameBy = "{Last}" }));
        await api.Ended((long)run["jobId"]!);
        using var zip = new System.IO.Compression.ZipArchive(
            new MemoryStream(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"))
        );
        Assert.Equal(["Okafor.pdf", "Lin.pdf"], zip.Entries.Select(e => e.Name));
        using var stream = new MemoryStream();
        using (var entry = zip.Entries[1].Open())
            entry.CopyTo(stream);
        using var read = PdfDocument.Open(stream.ToArray());
        Assert.Equal(
            ["Dear Lin", "The card First Mei Town Bend", "Second page"],
            Enumerable.Range(1, 3).Select(n => string.Join(' ', read.GetPage(n).GetWords().Select(w => w.Text)))
        );
    }

    [Fact]
    public async Task An_enclosure_goes_along_unchanged_to_whom_its_condition_holds_for()
    {
        var list = await api.BringIn("people.csv", "First,City\r\nAna,Salem\r\nLuis,Bend\r\nMei,Bend\r\n");
        var rules = new MadeForm().Page(MadeForm.Text(50, 700, "The rules")).Page(MadeForm.Text(50, 700, "More rules")).File();
        var id = await Start(list, rules);
        var form = (await api.Get($"/api/designs/{id}"))["document"]!;
        form["when"] = "City = \"Bend\"";
        await api.Save(id, form);
        var drop = await DropWithLetter(list, id, "Dear {First}");
        Assert.Equal(3, Api.Count(await api.Checked(drop), "ready"));
        var plan = await api.Post($"/api/drops/{drop}/plan", Api.Order(new { }));
        Assert.Equal([3, 4], plan["designs"]!.AsArray().Select(d => (int)d!["pages"]!));
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(new { output = "each", nameBy = "{First}" }));
        await api.Ended((long)run["jobId"]!);
        using var zip = new System.IO.Compression.ZipArchive(
            new MemoryStream(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"))
        );
        Assert.Equal(
            ["Dear Ana", "Dear Luis|The rules|More rules", "Dear Mei|The rules|More rules"],
            zip.Entries.Select(e =>
            {
                using var stream = new MemoryStream();
                using (var entry = e.Open())
                    entry.CopyTo(stream);
                using var read = PdfDocument.Open(stream.ToArray());
                return string.Join('|', read.GetPages().Select(p => string.Join(' ', p.GetWords().Select(w => w.Text))));
            })
        );
    }
}
