using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>Word processor documents on their way to letters and back, through the API.</summary>
public sealed class DocumentTests : IAsyncLifetime
{
    readonly Api api = new();

    public ValueTask InitializeAsync() => api.InitializeAsync();

    public ValueTask DisposeAsync() => api.DisposeAsync();

    /// <summary>A document of paragraphs.</summary>
    static byte[] Docx(params string[] paragraphs)
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var stream = zip.CreateEntry("word/document.xml").Open();
            stream.Write(
                Encoding.UTF8.GetBytes(
                    "<w:document xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\"><w:body>"
                        + string.Concat(paragraphs.Select(p => $"<w:p><w:r><w:t xml:space=\"preserve\">{p}</w:t></w:r></w:p>"))
                        + "</w:body></w:document>"
                )
            );
        }
        return memory.ToArray();
    }

    async Task<JsonNode> Upload(byte[] file, string name = "letter.docx") =>
        await api.Read(await api.Client.PostAsync($"/api/documents?name={name}", new ByteArrayContent(file)));

    Task<JsonNode> Look(JsonNode upload, object question) => api.Post($"/api/documents/{upload["id"]}/look", question);

    [Fact]
    public async Task A_document_is_looked_at_without_being_stored_and_becomes_a_letter_with_its_file()
    {
        var list = await api.BringIn("people.csv", "First,Last,City\r\nAna,Okafor,Salem\r\nLuis,Ortega,");
        var file = Docx("Dear {{FName}},", "From {{Region Mgr}}, {{City}}");
        var upload = await Upload(file);
        var look = await Look(upload, new { listId = list });
        Assert.Equal("First", (string)look["placeholders"]![0]!["answer"]!["value"]!);
        Assert.Null(look["placeholders"]!.AsArray().Single(p => (string)p!["name"]! == "Region Mgr")!["answer"]);
        Assert.Empty((await api.Get("/api/designs")).AsArray());
        var answers = new Dictionary<string, object> { ["region mgr"] = new { kind = "Text", value = "Marisol" } };
        var id = (long)
            await api.Post(
                $"/api/documents/{upload["id"]}/letter",
                new
                {
                    name = "Renewal",
                    listId = list,
                    answers,
                }
            );
        var preview = await api.Post(
            "/api/designs/preview",
            new
            {
                document = (await api.Get($"/api/designs/{id}"))["document"],
                listId = list,
                designId = id,
            }
        );
        Assert.Empty(preview["mistakes"]!.AsArray());
        Assert.Equal("letter.docx", (string)(await api.Get($"/api/designs/{id}/file"))["name"]!);
        Assert.Equal(file, await api.Client.GetByteArrayAsync($"/api/designs/{id}/file/content"));
        // The upload was used.
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await api.Client.PostAsJsonAsync($"/api/documents/{upload["id"]}/look", new { })).StatusCode
        );

        // A newer file: the answers hold, the differences are shown, the version before stays.
        var newer = await Upload(Docx("Hello {{FName}},", "From {{Region Mgr}}, {{City}}"), "newer.docx");
        var again = await Look(newer, new { designId = id });
        Assert.All(again["placeholders"]!.AsArray(), p => Assert.NotNull(p!["answer"]));
        Assert.Contains("Hello", again["differences"]!.ToJsonString());
        var stale = await api.Client.PostAsJsonAsync($"/api/documents/{newer["id"]}/replace/{id}", new { basedOn = 7 });
        Assert.Equal(HttpStatusCode.PreconditionFailed, stale.StatusCode);
        var version = await api.Post(
            $"/api/documents/{newer["id"]}/replace/{id}",
            new { basedOn = again["version"], answers = again["answers"] }
        );
        Assert.Equal(2, (int)version);
        Assert.Equal(2, (await api.Get($"/api/designs/{id}/versions")).AsArray().Count);
        Assert.Equal("newer.docx", (string)(await api.Get($"/api/designs/{id}/file"))["name"]!);

        // Removed with the design, and not before.
        var kept = Directory.GetFiles(api.Folder("documents"));
        Assert.Equal(2, kept.Length);
        Assert.True((await api.Client.DeleteAsync($"/api/designs/{id}")).IsSuccessStatusCode);
        Assert.Empty(Directory.GetFiles(api.Folder("documents")));
    }

    [Fact]
    public async Task A_letter_leaves_with_its_fields_and_comes_back_the_same()
    {
        var list = await api.BringIn("people.csv", "First,Amount\r\nAna,12.5");
        var upload = await Upload(Docx("Dear {{First}},", "{{Amount | currency}} {as it is}"));
        var id = (long)await api.Post($"/api/documents/{upload["id"]}/letter", new { name = "Notice", listId = list });
        var exported = await api.Client.GetByteArrayAsync($"/api/designs/{id}/document.docx");
        var back = await Look(await Upload(exported, "back.docx"), new { designId = id });
        Assert.DoesNotContain("Added", back["differences"]!.ToJsonString());
        Assert.DoesNotContain("Removed", back["differences"]!.ToJsonString());
    }

    [Fact]
    public async Task A_run_makes_one_document_or_one_for_each_in_the_order_of_the_pieces()
    {
        var list = await api.BringIn("people.csv", "First,City\r\nAna,Salem\r\nLuis,\r\nPer,Astoria");
        var upload = await Upload(Docx("Dear {{First}},", "of {{City | default:\"somewhere\"}}"));
        var letter = (long)await api.Post($"/api/documents/{upload["id"]}/letter", new { name = "Notice", listId = list });
        var drop = await api.Post(
            "/api/drops",
            new
            {
                name = "D",
                listId = list,
                designIds = new[] { letter },
                campaignName = "C",
            }
        );
        await api.Until($"/api/drops/{drop}", d => !(bool)d["checking"]!);
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "docx" });
        await api.Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        var one = await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1");
        var text = Text(one);
        Assert.True(text.IndexOf("Ana", StringComparison.Ordinal) < text.IndexOf("Luis", StringComparison.Ordinal));
        Assert.Equal(3, text.Split("<w:sectPr>").Length - 1);
        Assert.Contains("of somewhere", text);
        Assert.Equal(3, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));

        var each = await api.Post(
            $"/api/drops/{drop}/runs",
            new
            {
                output = "docxeach",
                nameBy = "Letter to {First}",
                reprints = true,
                corrected = false,
                pieces = "1-3",
            }
        );
        await api.Until($"/api/runs/{each["id"]}", r => (string)r["state"]! == "done");
        using var zip = new ZipArchive(new MemoryStream(await api.Client.GetByteArrayAsync($"/api/runs/{each["id"]}/files/1")));
        Assert.Equal(["Letter to Ana.docx", "Letter to Luis.docx", "Letter to Per.docx"], zip.Entries.Select(e => e.Name));
        using var first = zip.Entries[0].Open();
        var memory = new MemoryStream();
        await first.CopyToAsync(memory);
        Assert.Contains("Salem", Text(memory.ToArray()));
    }

    static string Text(byte[] docx)
    {
        using var zip = new ZipArchive(new MemoryStream(docx));
        using var reader = new StreamReader(zip.GetEntry("word/document.xml")!.Open());
        return reader.ReadToEnd();
    }

    [Fact]
    public async Task What_is_no_document_is_refused_with_a_sentence_and_leaves_nothing()
    {
        foreach (
            var (file, part) in ((byte[], string)[])
                [
                    ("{\\rtf1}"u8.ToArray(), "RTF"),
                    ("plain text"u8.ToArray(), "not a word processor document"),
                    ("PK\u0003\u0004x"u8.ToArray(), "damaged"),
                ]
        )
        {
            var answer = await api.Client.PostAsync("/api/documents?name=x.docx", new ByteArrayContent(file));
            Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
            Assert.Contains(part, await answer.Content.ReadAsStringAsync());
        }
        Assert.Empty(Directory.GetFiles(api.Folder("uploads")));
        var deep = new MemoryStream();
        using (var zip = new ZipArchive(deep, ZipArchiveMode.Create, leaveOpen: true))
        using (var writer = new StreamWriter(zip.CreateEntry("word/document.xml").Open()))
            for (var i = 0; i < 200_000; i++)
                writer.Write("<w:sdt>");
        Assert.Contains(
            "nested more than",
            await (
                await api.Client.PostAsync("/api/documents?name=x.docx", new ByteArrayContent(deep.ToArray()))
            ).Content.ReadAsStringAsync()
        );
    }

    static string Words(byte[] docx)
    {
        using var zip = new ZipArchive(new MemoryStream(docx));
        using var reader = new StreamReader(zip.GetEntry("word/document.xml")!.Open());
        return System.Text.RegularExpressions.Regex.Replace(reader.ReadToEnd(), "<[^>]+>", "").Trim();
    }

    [Fact]
    public async Task A_recipients_letter_leaves_as_a_document_alone_and_attached_to_their_message()
    {
        var list = await api.BringIn("people.csv", "First,Email\r\nAna,ana@example.org\r\nLuis,luis@example.org");
        object Text(string text) => new { type = "paragraph", content = new[] { new { type = "text", text } } };
        var letter = (long)
            await api.Post(
                "/api/designs",
                new
                {
                    name = "Letter",
                    listId = list,
                    document = new { content = new[] { Text("Dear {First},") } },
                }
            );
        object Email(object attachment) =>
            new
            {
                kind = "email",
                fromName = "Garden",
                fromAddress = "office@example.org",
                subject = "A letter",
                unsubscribe = false,
                attachments = new[] { attachment },
                content = new[] { Text("See the letter.") },
            };
        var attached = new Dictionary<string, object>
        {
            ["kind"] = "design",
            ["designId"] = letter,
            ["name"] = "{First}",
            ["as"] = "docx",
        };
        var email = (long)
            await api.Post(
                "/api/designs",
                new
                {
                    name = "Note",
                    listId = list,
                    document = Email(attached),
                }
            );
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Notice",
                    listId = list,
                    designIds = new[] { letter, email },
                    campaignName = "Spring",
                }
            );
        await api.Checked(drop);
        var (ana, _, _) = (await api.Recipients(drop))[0];
        var mail = await api.Get($"/api/drops/{drop}/recipients/{ana}/mail");
        var file = Assert.Single(mail["files"]!.AsArray())!;
        Assert.Equal("Ana.docx", (string)file["name"]!);
        Assert.True((long)file["size"]! > 1000);

        // Changed for one recipient: the file has the change, the other's has not.
        var path = $"/api/drops/{drop}/recipients/{ana}/letters/{letter}";
        await api.Put(path, new { document = new { content = new[] { Text("Dearest {First},") } } });
        await api.Checked(drop);
        var response = await api.Client.GetAsync($"{path}/document.docx");
        Assert.EndsWith("Letter.docx\"", response.Content.Headers.ContentDisposition!.ToString().Split(';')[1]);
        Assert.Equal("Dearest Ana,", Words(await response.Content.ReadAsByteArrayAsync()));
        var (luis, _, _) = (await api.Recipients(drop))[1];
        Assert.Equal(
            "Dear Luis,",
            Words(await api.Client.GetByteArrayAsync($"/api/drops/{drop}/recipients/{luis}/letters/{letter}/document.docx"))
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await api.Client.GetAsync($"/api/drops/{drop}/recipients/{ana}/letters/{email}/document.docx")).StatusCode
        );
        attached["password"] = "{First}";
        var locked = await api.Client.PostAsJsonAsync("/api/designs/preview", new { document = Email(attached), listId = list });
        Assert.Contains("A DOCX has no password", await locked.Content.ReadAsStringAsync());
    }
}
