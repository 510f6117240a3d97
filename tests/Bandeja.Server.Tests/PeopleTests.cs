using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Bandeja.Formats.Tests;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>People over several lists, how much mail they get, and the documents that are kept with them, through the API.</summary>
public sealed class PeopleTests : IAsyncLifetime
{
    readonly Api api = new();

    public ValueTask InitializeAsync() => api.InitializeAsync();

    public ValueTask DisposeAsync() => api.DisposeAsync();

    async Task<(long List, long[] Ids)> Bring(string name, params string[] rows)
    {
        var list = await api.BringIn(
            $"{name}.csv",
            "Number,Name,Street,City,State,ZIP,Photo\r\n" + string.Concat(rows.Select(r => r + "\r\n"))
        );
        var ids = (await api.Get($"/api/lists/{list}/recipients?limit=100"))["rows"]!.AsArray().Select(r => (long)r!["id"]!).ToArray();
        return (list, ids);
    }

    Task<JsonNode> Person(long list, long id) => api.Get($"/api/lists/{list}/recipients/{id}/person");

    async Task<long> Drop(long list, string name, DateTime date, params long[] designs)
    {
        if (designs.Length == 0)
            designs = [await Design(list, name, Api.Letter("Dear {Name},"))];
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name,
                    listId = list,
                    designIds = designs,
                    campaignName = name,
                    mailDate = date.ToString("yyyy-MM-dd"),
                }
            );
        await api.Checked(drop);
        return drop;
    }

    async Task<long> Design(long list, string name, JsonObject document) =>
        (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = name,
                    ["listId"] = list,
                    ["document"] = document,
                }
            );

    async Task<string?> Why(long drop, long recipient) =>
        (string?)
            (await api.Get($"/api/drops/{drop}/recipients?limit=100"))["rows"]!.AsArray().Single(r => (long)r!["id"]! == recipient)!["why"];

    [Fact]
    public async Task Somebody_on_two_lists_gets_one_letter_in_thirty_days_and_the_hold_names_the_other()
    {
        var (members, m) = await Bring(
            "members",
            "F-1,Ana Okafor,12 Quay Road,Fernquay,OR,97412,",
            "F-2,Bo Lind,2 Elm Street,Fernquay,OR,97412,"
        );
        var (donors, d) = await Bring(
            "donors",
            "D-9,\"Okafor, Ana\",12 Quay Rd,Fernquay,OR,97412,",
            "D-8,Cem Tan,7 Elm Street,Fernquay,OR,97412,"
        );
        var known = await api.Until(() => Person(members, m[0]), p => p["others"]!.AsArray().Count == 1);
        Assert.Equal("Same name and address", (string)known["others"]![0]!["why"]!);
        await api.Put(
            "/api/settings/contact-limits",
            new
            {
                limits = new[]
                {
                    new
                    {
                        channel = "Paper",
                        pieces = 1,
                        days = 30,
                        per = "Person",
                    },
                },
            }
        );
        var soon = DateTime.Today.AddDays(3);
        var renewal = await Drop(members, "Renewal", soon);
        var appeal = await Drop(donors, "Appeal", soon.AddDays(2));
        await api.Until(() => Why(appeal, d[0]), w => w is not null);
        Assert.Contains("Renewal · Renewal, planned for", await Why(appeal, d[0]));
        Assert.Null(await Why(appeal, d[1]));

        // Held in the first: the second may go, and is looked at by itself.
        await api.Post($"/api/drops/{renewal}/hold", new { recipients = new[] { m[0] }, reason = "asked us" });
        await api.Until(() => Why(appeal, d[0]), w => w is null);
        await api.Post($"/api/drops/{renewal}/release", new { recipients = new[] { m[0] } });
        await api.Until(() => Why(appeal, d[0]), w => w is not null);

        // Two people after all.
        await api.Client.PostAsync($"/api/lists/{members}/recipients/{m[0]}/person/{d[0]}/separate", null);
        await api.Until(() => Why(appeal, d[0]), w => w is null);
        await api.Client.PostAsync($"/api/lists/{members}/recipients/{m[0]}/person/{d[0]}/join", null);
        await api.Until(() => Why(appeal, d[0]), w => w is not null);
        await api.Put($"/api/drops/{appeal}/priority", new { priority = "Always" });
        await api.Until(() => Why(appeal, d[0]), w => w is null);
        // The person's page has the mail of both lists.
        var mail = (await api.Get($"/api/lists/{members}/recipients/{m[0]}"))["mail"]!.AsArray();
        Assert.Equal(["Appeal", "Renewal"], mail.Select(x => (string)x!["dropName"]!).Order());

        var bad = await Api.Refusal(
            api.Client.PutAsJsonAsync(
                "/api/settings/contact-limits",
                new
                {
                    limits = new[]
                    {
                        new
                        {
                            channel = "Paper",
                            pieces = 0,
                            days = 30,
                            per = "Person",
                        },
                    },
                }
            )
        );
        Assert.Equal(HttpStatusCode.BadRequest, bad.Status);
    }

    static byte[] Emblem()
    {
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "bandeja")))
            root = Path.GetDirectoryName(root)!;
        return File.ReadAllBytes(Path.Combine(root, "demo", "files", "emblem.png"));
    }

    Task<HttpResponseMessage> Keep(long list, long id, string name, byte[] data) =>
        api.Client.PostAsync($"/api/lists/{list}/recipients/{id}/documents?name={Uri.EscapeDataString(name)}", new ByteArrayContent(data));

    [Fact]
    public async Task Documents_of_a_recipient_are_kept_used_by_name_and_go_with_them()
    {
        var (list, ids) = await Bring(
            "members",
            "F-1,Ana Okafor,12 Quay Road,Fernquay,OR,97412,ana.png",
            "F-2,Bo Lind,2 Elm Street,Fernquay,OR,97412,ana.png"
        );
        var signed = new MadeForm().Page(MadeForm.Text(50, 700, "Signed by Ana")).Page(MadeForm.Text(50, 700, "Second page of it")).File();
        var photo = (long)await api.Read(await Keep(list, ids[0], "../ana.png", Emblem()));
        await api.Read(await Keep(list, ids[0], "signed.pdf", signed));
        var kept = (await api.Get($"/api/lists/{list}/recipients/{ids[0]}/documents")).AsArray();
        Assert.Equal(["signed.pdf", "ana.png"], kept.Select(k => (string)k!["name"]!));
        Assert.Equal(2, (int)kept[0]!["pages"]!);
        Assert.Equal(signed, await api.Client.GetByteArrayAsync($"/api/documents-of-people/{kept[0]!["id"]}/file"));
        // Found by its name.
        Assert.Equal(ids[0], (long)(await api.Get("/api/people?text=signed.pdf")).AsArray().Single()!["recipientId"]!);

        // What is no document is refused, and nothing is kept of it.
        foreach (var bad in (byte[][])[Encoding.UTF8.GetBytes("MZ this is a program"), [], Encoding.UTF8.GetBytes("%PDF-1.7 broken")])
            Assert.Contains(
                (await Api.Refusal(Keep(list, ids[0], "x.pdf", bad))).Status,
                (HttpStatusCode[])[HttpStatusCode.BadRequest, HttpStatusCode.UnprocessableEntity]
            );
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(Keep(list, 999_999, "x.png", Emblem()))).Status);

        // A picture chosen by a column: the one who has none by that name needs a look.
        var letter = Api.Letter("Dear {Name},");
        letter["content"]!
            .AsArray()
            .Add(
                new JsonObject
                {
                    ["type"] = "picture",
                    ["attrs"] = new JsonObject
                    {
                        ["source"] = "Photo",
                        ["width"] = 20,
                        ["aspect"] = 1,
                    },
                }
            );
        // Their own document as an enclosure.
        var form = (long)
            await api.Read(
                await api.Client.PostAsync(
                    $"/api/designs/form?name=Enclosure&file=sample.pdf&listId={list}",
                    new ByteArrayContent(new MadeForm().Page(MadeForm.Text(50, 700, "Sample")).File())
                )
            );
        var document = (await api.Get($"/api/designs/{form}"))["document"]!;
        document["own"] = "signed.pdf";
        await api.Save(form, document);
        var drop = await Drop(list, "Photos", DateTime.Today.AddDays(1), await Design(list, "Photo", letter), form);
        Assert.Null(await Why(drop, ids[0]));
        Assert.NotNull(await Why(drop, ids[1]));
        using (var pdf = PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/drops/{drop}/recipients/{ids[0]}/proof.pdf")))
        {
            Assert.Equal(3, pdf.NumberOfPages);
            Assert.Single(pdf.GetPage(1).GetImages());
            Assert.Contains("Signed by Ana", pdf.GetPage(2).Text);
            Assert.Contains("Second page of it", pdf.GetPage(3).Text);
        }
        // Given to the other as well, the pieces are looked at again.
        await api.Read(await Keep(list, ids[1], "ana.png", Emblem()));
        await api.Read(await Keep(list, ids[1], "SIGNED.pdf", signed));
        await api.Until(() => Why(drop, ids[1]), w => w is null);

        await api.Client.DeleteAsync($"/api/documents-of-people/{photo}");
        await api.Until(() => Why(drop, ids[0]), w => w is not null);
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync($"/api/documents-of-people/{photo}/file")).StatusCode);
        // Erased people leave no document behind.
        var folder = api.Folder("people");
        Assert.NotEmpty(Directory.GetFiles(folder));
        await api.Post($"/api/lists/{list}/erase", new { name = "members.csv" });
        Assert.Empty(Directory.GetFiles(folder));
    }

    [Fact]
    public async Task Notes_are_read_on_every_list_of_a_person_can_be_put_back_and_go_with_them()
    {
        var (members, m) = await Bring(
            "members",
            "F-1,Ana Okafor,12 Quay Road,Fernquay,OR,97412,",
            "F-2,Bo Lind,5 Elm Street,Fernquay,OR,97412,"
        );
        var (donors, d) = await Bring("donors", "D-1,Ana Okafor,12 Quay Rd,Fernquay,OR,97412,");
        await api.Until(() => Person(members, m[0]), p => p["others"]!.AsArray().Count == 1);
        async Task<List<string>> Notes(long list, long id) =>
            [.. (await api.Get($"/api/lists/{list}/recipients/{id}/notes")).AsArray().Select(n => (string)n!["text"]!)];
        Task<HttpResponseMessage> Note(long list, long id, string text) =>
            api.Client.PostAsJsonAsync($"/api/lists/{list}/recipients/{id}/notes", new { text });

        var first = (long)await api.Read(await Note(members, m[0], "  Called: prefers email\nfrom now on "));
        await api.Read(await Note(donors, d[0], "Gave at the gate <b>"));
        Assert.Equal(["Gave at the gate <b>", "Called: prefers email\nfrom now on"], await Notes(members, m[0]));
        Assert.Equal(await Notes(members, m[0]), await Notes(donors, d[0]));
        Assert.Empty(await Notes(members, m[1]));

        foreach (var wrong in (string[])["", " \n", new('x', 4001)])
            Assert.Equal(HttpStatusCode.BadRequest, (await Api.Refusal(Note(members, m[0], wrong))).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(Note(members, d[0], "on no such list"))).Status);

        (await api.Client.DeleteAsync($"/api/notes/{first}")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.DeleteAsync($"/api/notes/{first}"))).Status);
        Assert.Equal(["Gave at the gate <b>"], await Notes(members, m[0]));
        (await api.Client.PostAsync($"/api/notes/{first}/restore", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.PostAsync($"/api/notes/{first}/restore", null))).Status);
        Assert.Equal(2, (await Notes(donors, d[0])).Count);

        await api.Post($"/api/lists/{members}/erase", new { name = "members.csv" });
        Assert.Equal(["Gave at the gate <b>"], await Notes(donors, d[0]));
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.DeleteAsync($"/api/notes/{first}"))).Status);
    }

    [Fact]
    public async Task A_file_that_repeats_the_old_addresses_corrects_none_and_suppresses_who_has_died()
    {
        var (list, ids) = await Bring(
            "members",
            [.. Enumerable.Range(1, 4).Select(i => $"F-{i},Person Number{i},{i} Quay Road,Fernquay,OR,97412,")]
        );
        var drop = await Drop(list, "Notice", DateTime.Today);
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(new { output = "one" }));
        await api.Ended((long)run["jobId"]!);
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = DateTime.Today.AddDays(-3).ToString("yyyy-MM-dd") });
        object Line(int i, string reason, string street) =>
            new
            {
                code = $"F-{i}",
                reason,
                street,
                city = "Fernquay",
                region = "OR",
                postalCode = "97412",
            };
        var came = await api.Post(
            "/api/returns/import",
            new
            {
                dropId = drop,
                lines = new[]
                {
                    Line(1, "deceased", "1 Quay Road"),
                    Line(2, "deceased", "9 Other Street"),
                    Line(3, "vacant", "3 Quay Road"),
                    Line(4, "vacant", "9 Other Street"),
                },
            }
        );
        Assert.Empty(came["wrong"]!.AsArray());
        Assert.Equal((4, 1), ((int)came["returned"]!, (int)came["corrected"]!));
        var follow = (await api.Get("/api/returns"))["rows"]!
            .AsArray()
            .ToDictionary(r => (long)r!["recipientId"]!, r => (string)r!["followUp"]!);
        Assert.Equal(["suppress", "suppress", "hold", "correct"], ids.Select(id => follow[id]));
        Assert.Equal("2 Quay Road", (string)(await api.Get($"/api/lists/{list}/recipients/{ids[1]}"))["values"]![2]!);
    }

    [Fact]
    public async Task A_file_of_returns_is_recorded_line_by_line_and_taken_back_as_a_whole()
    {
        var (list, ids) = await Bring(
            "members",
            [.. Enumerable.Range(1, 6).Select(i => $"F-{i},Person Number{i},{i} Quay Road,Fernquay,OR,97412,")]
        );
        var drop = await Drop(list, "Notice", DateTime.Today);
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(new { output = "one" }));
        await api.Ended((long)run["jobId"]!);
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = DateTime.Today.AddDays(-3).ToString("yyyy-MM-dd") });
        var came = await api.Post(
            "/api/returns/import",
            new
            {
                dropId = drop,
                lines = new object[]
                {
                    new { code = "0001", reason = "MOVED, LEFT NO ADDRESS" },
                    new
                    {
                        code = "F-2",
                        reason = "new address",
                        street = "99 Hill Avenue",
                        city = "Alder Point",
                        region = "OR",
                        postalCode = "97413",
                    },
                    new { code = "F-3", street = "5 New Street" },
                    new { code = "4", reason = "insufficient address" },
                    new { code = "F-77", reason = "vacant" },
                    new { code = "5", reason = "eaten by a dog" },
                    new { code = "1", reason = "vacant" },
                    new { code = "6" },
                },
            }
        );
        Assert.Equal((3, 2, 1), ((int)came["returned"]!, (int)came["corrected"]!, (int)came["withoutAddress"]!));
        Assert.Equal(["Row 5, F-77", "Row 6, 5", "Row 7, 1", "Row 8, 6"], came["wrong"]!.AsArray().Select(w => ((string)w!).Split(':')[0]));
        var trays = (await api.Get($"/api/drops/{drop}"))["trays"]!;
        Assert.Equal((3, 3), ((int)trays["returned"]!, (int)trays["mailed"]!));
        async Task<string?> Street(long id) => (string?)(await api.Get($"/api/lists/{list}/recipients/{id}"))["values"]![2];
        Assert.Equal("99 Hill Avenue", await Street(ids[1]));
        Assert.Equal("5 New Street", await Street(ids[2]));
        Assert.Equal("5 Quay Road", await Street(ids[4]));
        var undone = await api.Post($"/api/returns/imports/{came["batch"]}/undo", new { });
        Assert.Equal(3, (int)undone["undone"]!);
        Assert.Equal("2 Quay Road", await Street(ids[1]));
        Assert.Equal(6, (int)(await api.Get($"/api/drops/{drop}"))["trays"]!["mailed"]!);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/returns/imports/{came["batch"]}/undo", new { }))).Status
        );
    }
}
