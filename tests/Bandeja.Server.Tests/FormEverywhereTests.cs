using System.IO.Compression;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Bandeja.Formats.Pdf;
using Bandeja.Formats.Tests;
using MimeKit;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>A form wherever other designs can be: in parts, printed, attached to a message, in the proof set, changed for one, with another
/// list.</summary>
public sealed class FormEverywhereTests : IAsyncLifetime
{
    readonly Api api = new();
    long list,
        form;

    public async ValueTask InitializeAsync()
    {
        await api.InitializeAsync();
        list = await api.BringIn(
            "people.csv",
            "First,Town,Email\r\nAna,Salem,ana@example.org\r\nLuis,Bend,luis@example.org\r\nMaximiliana,Bend,max@example.org\r\n"
                + "Per,Salem,per@example.org\r\nMei,Salem,mei@example.org\r\n"
        );
        var card = new MadeForm()
            .Page(MadeForm.Text(50, 745, "The card"))
            .Field("f1", "50 700 250 720", "/FT/Tx/TU(First)")
            .Field("f2", "50 660 250 680", "/FT/Tx/TU(Town)")
            .File();
        form = (long)
            await api.Read(
                await api.Client.PostAsync($"/api/designs/form?name=Card&file=card.pdf&listId={list}", new ByteArrayContent(card))
            );
    }

    public ValueTask DisposeAsync() => api.DisposeAsync();

    async Task<JsonObject> Document() => (await api.Get($"/api/designs/{form}"))["document"]!.DeepClone().AsObject();

    async Task<long> Drop(params long[] designs)
    {
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Cards",
                    listId = list,
                    designIds = designs,
                    campaignName = "Cards",
                }
            );
        await api.Checked(drop);
        return drop;
    }

    async Task<JsonNode> Made(long drop, object order)
    {
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(order));
        await api.Ended((long)run["jobId"]!);
        return await api.Get($"/api/runs/{run["id"]}");
    }

    static List<string> Pages(byte[] pdf)
    {
        using var read = PdfDocument.Open(pdf);
        return [.. read.GetPages().Select(p => string.Join(' ', p.GetWords().Select(w => w.Text)))];
    }

    [Fact]
    public async Task In_parts_each_file_has_its_pieces()
    {
        var run = await Made(await Drop(form), new { output = "parts", partOf = 2 });
        var files = run["files"]!.AsArray().Select(f => (int)f!["number"]!).ToList();
        Assert.Equal(3, files.Count);
        var pages = new List<string>();
        foreach (var file in files)
            pages.Add(string.Join('|', Pages(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/{file}"))));
        Assert.Equal(
            ["The card Ana Salem|The card Luis Bend", "The card Maximiliana Bend|The card Per Salem", "The card Mei Salem"],
            pages
        );
    }

    [Fact]
    public async Task The_practice_printer_prints_it_in_the_order_of_the_pieces()
    {
        var printer = (long)(await api.Get("/api/printers")).AsArray().Single(p => (string)p!["kind"]! == "practice")!["id"]!;
        await api.Put($"/api/printers/{printer}/practice", new { sheetsAMinute = 60_000, jamsIn10000 = 0 });
        var drop = await Drop(form);
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "print", printerId = printer });
        await api.Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        var stack = (await api.Get($"/api/printers/{printer}/practice/stack?limit=50"))["sheets"]!.AsArray().Reverse().ToList();
        var pages = Pages(await api.Client.GetByteArrayAsync($"/api/practice-jobs/{stack[0]!["jobId"]}/file"));
        Assert.Equal(
            ["The card Ana Salem", "The card Luis Bend", "The card Maximiliana Bend", "The card Per Salem", "The card Mei Salem"],
            stack.Select(s => pages[(int)s!["firstPage"]! - 1])
        );
        Assert.Equal(5, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
    }

    [Fact]
    public async Task Attached_to_a_message_its_fields_stay_and_a_password_locks_it()
    {
        var document = await Document();
        document["output"] = "fillable";
        await api.Save(form, document);
        var attached = new
        {
            kind = "design",
            designId = form,
            name = "{First}",
            password = "{Town}",
        };
        var email = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Note",
                    ["listId"] = list,
                    ["document"] = MailWorld.Design(new { unsubscribe = false, attachments = new[] { attached } }, "See the card."),
                }
            );
        var run = await Made(await Drop(form, email), new { output = "eml", nameBy = "{First}" });
        using var zip = new ZipArchive(new MemoryStream(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1")));
        Assert.Equal(5, zip.Entries.Count);
        foreach (var (name, town) in new[] { ("Ana", "Salem"), ("Luis", "Bend") })
        {
            using var stream = new MemoryStream();
            using (var entry = zip.Entries.Single(e => e.Name == $"{name}.eml").Open())
                await entry.CopyToAsync(stream, TestContext.Current.CancellationToken);
            stream.Position = 0;
            var file = Assert.IsType<MimePart>(Assert.Single((await MimeMessage.LoadAsync(stream)).Attachments));
            Assert.Equal($"{name}.pdf", file.FileName);
            using var pdf = new MemoryStream();
            await file.Content!.DecodeToAsync(pdf);
            Assert.Throws<LockedPdfException>(() => FormReading.Of(pdf.ToArray()));
            Assert.Equal([name, town], FormReading.Of(pdf.ToArray(), town).Fields.Select(f => f.Initial));
        }
    }

    [Fact]
    public async Task The_proof_set_has_its_branches_and_its_longest_values()
    {
        var document = await Document();
        document["boxes"] = new JsonArray(
            new JsonObject
            {
                ["use"] = "mark",
                ["page"] = 1,
                ["x"] = 20,
                ["y"] = 100,
                ["width"] = 5,
                ["height"] = 5,
                ["value"] = "Town = \"Bend\"",
            }
        );
        await api.Save(form, document);
        var set = await api.Get($"/api/drops/{await Drop(form)}/proof-set");
        var reasons = set["members"]!
            .AsArray()
            .SelectMany(m => m!["reasons"]!.AsArray().Select(r => ((int)m["piece"]!, (string)r!)))
            .ToList();
        Assert.Contains((3, "longest First"), reasons);
        Assert.Contains(reasons, r => r.Item2.Contains("Town = \"Bend\"") && r.Item2.Contains("is met"));
        Assert.Contains(reasons, r => r.Item2.Contains("Town = \"Bend\"") && r.Item2.Contains("not met"));
    }

    [Fact]
    public async Task Changed_for_one_it_is_made_so_for_them_alone_and_settled_with_a_newer_version()
    {
        var drop = await Drop(form);
        var (luis, _, _) = (await api.Recipients(drop))[1];
        var path = $"/api/drops/{drop}/recipients/{luis}/letters/{form}";
        var own = (await api.Get(path))["document"]!.DeepClone().AsObject();
        own["answers"]!["f2"] = "care of the office, {Town}";
        Assert.Contains(
            "stays what it is",
            (await Api.Refusal(api.Client.PutAsJsonAsync(path, new { document = Api.Letter("No form") }))).Detail
        );
        await api.Put(path, new { document = own });
        // The other answer is changed for everybody: both hold.
        var document = await Document();
        document["answers"]!["f1"] = "{First} of {Town}";
        await api.Save(form, document);
        await api.Checked(drop);
        var open = await api.Get(path);
        Assert.True((bool)open["isOpen"]!);
        Assert.Equal("{First} of {Town}", (string)open["merged"]!["answers"]!["f1"]!);
        Assert.Equal("care of the office, {Town}", (string)open["merged"]!["answers"]!["f2"]!);
        await api.Put(path, new { document = open["merged"] });
        await api.Checked(drop);
        var run = await Made(drop, new { output = "one" });
        Assert.Equal(
            ["The card Ana of Salem Salem", "The card Luis of Bend care of the office, Bend", "The card Maximiliana of Bend Bend"],
            Pages(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1")).Take(3)
        );
    }

    [Fact]
    public async Task With_another_list_what_is_open_is_matched_once()
    {
        var other = await api.BringIn("others.csv", "Given name,Bed 4\r\nIda,Cork\r\n");
        var changed = await api.Read(await api.Client.PatchAsJsonAsync($"/api/designs/{form}", new { listId = other }));
        // First is known by its role; Town is picked.
        Assert.Equal(1, (int)changed["openNames"]!);
        var columns = (await api.Get($"/api/lists/{other}"))["columns"]!.AsArray();
        var place = (long)columns[1]!["id"]!;
        await api.Put(
            $"/api/designs/{form}/matches",
            new
            {
                listId = other,
                name = "Town",
                columnId = place,
            }
        );
        var shown = await api.Post(
            "/api/designs/preview",
            new JsonObject
            {
                ["document"] = await Document(),
                ["listId"] = other,
                ["designId"] = form,
            }
        );
        Assert.Equal(["The card Ida Cork"], Pages(Convert.FromBase64String((string)shown["pdf"]!)));
    }
}
