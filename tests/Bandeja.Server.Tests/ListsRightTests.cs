using System.IO.Compression;
using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>Lists come in as they are meant, and what is known of people reaches who gets what: surveys, marks, opt-outs, the
/// ledger.</summary>
public sealed class ListsRightTests : ServerTests
{
    async Task<(string Upload, JsonNode Look, JsonObject Body)> Looked(string name, byte[] bytes)
    {
        var upload = JsonNode.Parse(await (await api.Upload(name, bytes)).Content.ReadAsStringAsync())!;
        var look = await api.Post($"/api/uploads/{upload["id"]}/look", new { });
        var columns = look["columns"]!
            .AsArray()
            .Select(
                (c, i) =>
                {
                    var o = c!.DeepClone().AsObject();
                    o["position"] = i;
                    return (JsonNode)o;
                }
            )
            .ToArray();
        return (
            (string)upload["id"]!,
            look,
            new JsonObject
            {
                ["width"] = columns.Length,
                ["columns"] = new JsonArray(columns),
                ["options"] = new JsonObject
                {
                    ["sheet"] = look["sheet"]?.DeepClone(),
                    ["headingRow"] = (int)look["headingRow"]!,
                    ["encoding"] = look["encoding"]?.DeepClone(),
                    ["delimiter"] = look["delimiter"]?.DeepClone(),
                },
            }
        );
    }

    async Task<long> BroughtIn(string upload, JsonObject body, object? leaveOut = null)
    {
        var order = body.DeepClone().AsObject();
        order["name"] = "Members";
        if (leaveOut is not null)
            order["leaveOut"] = System.Text.Json.JsonSerializer.SerializeToNode(leaveOut);
        var job = await api.Ended((long)(await api.Post($"/api/uploads/{upload}/list", order))["jobId"]!);
        Assert.True((string)job["state"]! == "done", (string?)job["message"]);
        return (long)JsonNode.Parse((string)job["message"]!)!["listId"]!;
    }

    async Task<List<string?[]>> Values(long list) =>
        [
            .. (await api.Get($"/api/lists/{list}/recipients?limit=100"))["rows"]!
                .AsArray()
                .Select(r => r!["values"]!.AsArray().Select(v => (string?)v).ToArray()),
        ];

    [Fact]
    public async Task The_whole_file_is_surveyed_and_its_totals_stay_out()
    {
        var text =
            "No.;Name;City;Zip;Amount;Joined;Deceased\r\n"
            + string.Concat(
                Enumerable
                    .Range(1, 30)
                    .Select(i =>
                        $"M-{i};Given{i} Family{i};Salem;9730{i % 10};1.{i:000},50;{i % 28 + 1}.3.2026;{(i % 10 == 0 ? "Y" : "")}\r\n"
                    )
            )
            + "M-31;Ana Okafor;Bend;97701;waived;5.3.2026;\r\n\r\nTotal;;;;30.481,50;;3\r\n";
        var (upload, look, body) = await Looked("members.csv", Encoding.UTF8.GetBytes(text));
        var columns = look["columns"]!.AsArray();
        Assert.Equal(["Key", "FullName", "City", "PostalCode", "None", "None", "DoNotMail"], columns.Select(c => (string)c!["role"]!));
        Assert.Equal(
            ("Number", "Comma", false),
            ((string)columns[4]!["type"]!, (string)columns[4]!["numberForm"]!, (bool)columns[4]!["ambiguous"]!)
        );
        Assert.Equal("Date", (string)columns[5]!["type"]!);
        var survey = await api.Post($"/api/uploads/{upload}/survey", body);
        Assert.Equal((31, 3), ((int)survey["recipients"]!, (int)survey["doNotMail"]!));
        var misfit = Assert.Single(survey["misfits"]!.AsArray())!;
        Assert.Equal(
            ("Amount", 1, "waived", 32),
            (
                (string)misfit["name"]!,
                (int)misfit["count"]!,
                (string)misfit["examples"]![0]!["value"]!,
                (int)misfit["examples"]![0]!["row"]!
            )
        );
        var total = Assert.Single(survey["totals"]!.AsArray())!;
        Assert.Equal((34, "Total · 30.481,50 · 3"), ((int)total["row"]!, (string)total["value"]!));
        var list = await BroughtIn(upload, body, new[] { 34 });
        var rows = await Values(list);
        Assert.Equal(31, rows.Count);
        Assert.Equal<string?[]>(["1001.50", "2026-03-02"], rows[0][4..6]);
        Assert.DoesNotContain(rows, r => r[0] == "Total");
        // Whoever is marked is held in every drop, and says why.
        var drop = await api.MakeDrop(list, "Dear {Name},");
        var held = (await api.Get($"/api/drops/{drop}/recipients?tray=Held"))["rows"]!.AsArray();
        Assert.Equal(3, held.Count);
        Assert.All(held, r => Assert.Contains("Deceased", r!.ToJsonString()));
        // The same file again: its total stays out again, and nobody is new.
        var again = JsonNode.Parse(await (await api.Upload("newer.csv", Encoding.UTF8.GetBytes(text))).Content.ReadAsStringAsync())!;
        var reload = await api.Post($"/api/lists/{list}/reload/look", new { uploadId = (string)again["id"]!, options = new { } });
        var job = await api.Ended(
            (long)
                (
                    await api.Post(
                        $"/api/lists/{list}/reload",
                        new
                        {
                            uploadId = (string)again["id"]!,
                            options = new { },
                            columnIds = reload["columnIds"],
                        }
                    )
                )["jobId"]!
        );
        Assert.True((string)job["state"]! == "done", (string?)job["message"]);
        var outcome = await api.Get($"/api/reloads/{JsonNode.Parse((string)job["message"]!)!["reloadId"]}");
        Assert.Equal((31, 0, 0, 0), ((int)outcome["unchanged"]!, (int)outcome["added"]!, (int)outcome["changed"]!, (int)outcome["gone"]!));
    }

    [Fact]
    public async Task What_values_leave_open_is_said_and_a_choice_holds()
    {
        var (upload, look, body) = await Looked("dates.csv", "Name,Due,Price\nAna,3/4/2027,1.250\nLuis,5/6/2027,2.500\n"u8.ToArray());
        Assert.Equal([false, true, true], look["columns"]!.AsArray().Select(c => (bool)c!["ambiguous"]!));
        (body["columns"]![1]!["dateOrder"], body["columns"]![2]!["numberForm"]) = ("DayMonthYear", "Comma");
        Assert.Equal<string?[]>(["Ana", "2027-04-03", "1250"], (await Values(await BroughtIn(upload, body)))[0]);
    }

    [Fact]
    public async Task Names_of_companies_and_couples_come_apart()
    {
        var (upload, _, body) = await Looked(
            "names.csv",
            """
            Name,Street,City,State,Zip
            Mr. and Mrs. John Q. Public III,1237 NW Pine Ave,Salem,OR,97301
            "Acme Hardware, Inc.",20415 Harbor View Blvd,Bend,OR,97701
            "O'Neill, Dr. Siobhan",88 Broadway,Salem,OR,97301

            """u8.ToArray()
        );
        body["columns"]![0]!["divide"] = true;
        var list = await BroughtIn(upload, body);
        var columns = (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray().Select(c => (string)c!["role"]!).ToList();
        Assert.Contains("PartnerTitle", columns);
        Assert.DoesNotContain("PartnerGivenName", columns); // nobody has one
        Assert.Equal(["Street", "City", "Region", "PostalCode"], columns[1..5]);
        var drop = await api.MakeDrop(list, "{Delivery address}", "{Salutation}");
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        await api.Ended((long)run["jobId"]!);
        using var pdf = UglyToad.PdfPig.PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"));
        var pages = pdf.GetPages().Select(p => string.Join(' ', p.GetWords().Select(w => w.Text))).ToList();
        Assert.Equal("Mr. and Mrs. John Q. Public III 1237 NW Pine Ave Salem OR 97301 Dear Mr. Public and Mrs. Public,", pages[0]);
        Assert.Equal("Acme Hardware, Inc. 20415 Harbor View Blvd Bend OR 97701 Dear Acme Hardware, Inc.,", pages[1]);
        Assert.Equal("Dr. Siobhan O'Neill 88 Broadway Salem OR 97301 Dear Dr. O'Neill,", pages[2]);
    }

    [Fact]
    public async Task Who_opts_out_of_email_still_gets_the_letter_and_whoever_shares_the_address_still_gets_email()
    {
        var world = new MailWorld(api);
        var drop = await world.Drop(
            "First,Last,Street,City,ZIP,Email,Member no.\r\nAna,Okafor,1 Quay "
                + "Road,Fernquay,97412,home@example.org,F-1\r\nLuis,Okafor,1 Quay Road,Fernquay,97412,home@example.org,F-2\r\n"
        );
        await world.Until(await world.Begin(drop, new { pieces = "1" }), "done");
        var link = new Uri((await world.Inbox()).Single().Headers["List-Unsubscribe"]!.Trim('<', '>'));
        await api.Client.PostAsync(link.AbsolutePath, null);
        var second = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Second",
                    listId = world.Members,
                    designIds = new[] { world.Letter, world.Email },
                    campaignName = "Renewal",
                }
            );
        await api.Put($"/api/drops/{second}/channels", new { by = "Address" });
        await api.Checked(second);
        var rows = (await api.Get($"/api/drops/{second}/recipients"))["rows"]!.AsArray();
        Assert.Equal([("Ready", "Paper"), ("Ready", "Email")], rows.Select(r => ((string)r!["tray"]!, (string)r["channel"]!)));
        // A drop that is email alone has nothing else for her.
        var third = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Third",
                    listId = world.Members,
                    designIds = new[] { world.Email },
                    campaignName = "Renewal",
                }
            );
        await api.Checked(third);
        Assert.Equal(1, Api.Count(await api.Get($"/api/drops/{third}"), "held"));
    }

    [Fact]
    public async Task Copies_go_apart_and_are_counted_before()
    {
        var world = new MailWorld(api);
        var drop = await world.Drop(more: new { cc = "board@example.org", bcc = "archive@example.org" });
        var account = await world.Account();
        var plan = await api.Post($"/api/drops/{drop}/plan", new { output = "email", accountId = account });
        Assert.Equal(6, (int)plan["mail"]!["copies"]!);
        await world.Tell("refuse", "board@example.org");
        var done = await world.Until(await world.Begin(drop), "done");
        Assert.Equal((3, 0), ((int)done["mails"]!["sent"]!, (int)done["mails"]!["refused"]!));
        var log = (await api.Get($"/api/runs/{done["run"]!["id"]}/detail")).ToJsonString();
        Assert.Contains("board@example.org was not delivered", log);
    }

    [Fact]
    public async Task Barcodes_reasons_and_the_whole_history_stand_in_the_ledger()
    {
        var list = await api.BringIn(
            "members.csv",
            "No,First,Last,Street,City,State,Zip\nM-1,Ana,Okafor,14 Quay Road,Fernquay,OR,97412\nM-2,Luis,Ortega,9 Mill "
                + "Lane,Salem,OR,97301\n"
        );
        var envelope = JsonNode.Parse(
            """{"kind":"envelope","format":"no10","boxes":[{"id":"d","use":"delivery","x":110,"y":48,"width":100,"height":28,"content":[{"type":"paragraph","content":[{"type":"text","text":"{Delivery address}"}]}]},{"id":"b","use":"barcode","x":132,"y":91.5,"width":82,"height":6,"content":[{"type":"barcode","attrs":{"symbology":"imb","service":"040","mailer":"901234567"}}]}]}"""
        )!;
        var design = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Envelope",
                    ["listId"] = list,
                    ["document"] = envelope,
                }
            );
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Notice",
                    listId = list,
                    designIds = new[] { design },
                    campaignName = "Renewal",
                }
            );
        await api.Checked(drop);
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        await api.Ended((long)run["jobId"]!);
        var pieces = (await api.Get($"/api/runs/{run["id"]}/pieces"))["rows"]!.AsArray();
        var codes = pieces.Select(p => (string)p!["barcodes"]!).ToList();
        Assert.All(codes, c => Assert.Matches("^00040901234567[0-9]{6} 97(412|301)$", c));
        // A scan finds its piece.
        Assert.Equal(
            2,
            (int)(await api.Get($"/api/runs/{run["id"]}/pieces?code={codes[1].Replace(" ", "")}"))["rows"]!.AsArray().Single()!["piece"]!
        );
        await api.Post(
            $"/api/drops/{drop}/take-back",
            new { recipients = new[] { (await api.Recipients(drop))[0].Id }, reason = "smeared" }
        );
        var ledger = await api.Client.GetStringAsync($"/api/ledger.csv?dropId={drop}");
        Assert.Contains(codes[1], ledger);
        Assert.Contains("(smeared)", ledger);
        Assert.Contains("9 Mill Lane, Salem OR 97301", ledger);
        Assert.Contains("produced in run 1", ledger);
        // And as a workbook, whose numbers are numbers.
        var book = new ZipArchive(new MemoryStream(await api.Client.GetByteArrayAsync($"/api/ledger.xlsx?dropId={drop}")));
        using var sheet = new StreamReader(
            book.Entries.Single(e =>
                    e.FullName.EndsWith("sheet1.xml", StringComparison.Ordinal)
                    || e.FullName.Contains("worksheets/sheet", StringComparison.Ordinal)
                )
                .Open()
        );
        Assert.Contains("<x:v>1</x:v>", await sheet.ReadToEndAsync());
    }
}
