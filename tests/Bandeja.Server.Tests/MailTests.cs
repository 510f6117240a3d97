using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using MimeKit;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokens;

namespace Bandeja.Server.Tests;

/// <summary>Email from the plan to the ledger, through the practice post office.</summary>
public sealed class MailTests : ServerTests
{
    MailWorld world = null!;

    public override ValueTask InitializeAsync()
    {
        world = new(api);
        return api.InitializeAsync();
    }

    [Fact]
    public async Task Who_has_an_address_gets_their_own_message_with_their_own_locked_letter_and_the_rest_paper()
    {
        var drop = await world.Drop();
        var plan = await api.Post($"/api/drops/{drop}/plan", new { output = "email", accountId = await world.Account() });
        Assert.Equal((3, 4), ((int)plan["pieces"]!, (int)plan["onTheList"]!));
        Assert.Equal([("Sent on paper", 1)], plan["excluded"]!.AsArray().Select(l => ((string)l!["reason"]!, (int)l["count"]!)));
        var samples = plan["mail"]!["samples"]!.AsArray();
        Assert.Equal(["Your letter, Ana", "Your letter, Bea", "Your letter, Dot"], samples.Select(s => (string)s!["subject"]!));
        Assert.All(samples, s => Assert.True((long)s!["files"]![0]!["size"]! > 1000 && (bool)s["files"]![0]!["protected"]!));
        var run = await world.Begin(drop, new { expected = 3 });
        var done = await world.Until(run, "done");
        Assert.Equal((3, 0, 0), ((int)done["mails"]!["sent"]!, (int)done["mails"]!["doubt"]!, (int)done["mails"]!["refused"]!));

        var inbox = await world.Inbox();
        Assert.Equal(["ana@example.org", "bea@example.org", "dot@example.net"], inbox.Select(m => m.To.Mailboxes.Single().Address).Order());
        foreach (var message in inbox)
        {
            var first = message.To.Mailboxes.Single().Name!.Split(' ')[0];
            Assert.Equal($"Your letter, {first}", message.Subject);
            Assert.Equal(
                ("office@example.org", "Fernquay Botanic Garden"),
                (message.From.Mailboxes.Single().Address, message.From.Mailboxes.Single().Name)
            );
            Assert.Contains($"Dear {first} ", message.TextBody);
            Assert.Contains($"Dear {first} ", message.HtmlBody);
            Assert.Equal("List-Unsubscribe=One-Click", message.Headers["List-Unsubscribe-Post"]);
            var attachment = Assert.IsType<MimePart>(message.Attachments.Single());
            var number = first switch
            {
                "Ana" => "F-1",
                "Bea" => "F-2",
                _ => "F-4",
            };
            Assert.EndsWith(" letter.pdf", attachment.FileName);
            var pdf = MailWorld.Bytes(attachment);
            using var opened = PdfDocument.Open(pdf, new ParsingOptions { Password = number });
            Assert.Contains($"Dear {first} ", opened.GetPage(1).Text);
            Assert.Contains($"your number is {number}.", opened.GetPage(1).Text);
            // It is read on a screen, so it says what is a paragraph and in which language it is.
            Assert.True(opened.Structure.Catalog.CatalogDictionary.ContainsKey(NameToken.Create("StructTreeRoot")));
            // Nothing of anybody else is in it, nor can anybody else open it.
            Assert.ThrowsAny<Exception>(() => PdfDocument.Open(pdf, new ParsingOptions { Password = "F-3" }));
        }
        Assert.Equal(3, inbox.Select(m => m.MessageId).Distinct().Count());

        var trays = await api.Get($"/api/drops/{drop}");
        Assert.Equal((3, 1), (Api.Count(trays, "mailed"), Api.Count(trays, "ready")));
        var paper = await api.Post($"/api/drops/{drop}/plan", new { output = "one" });
        Assert.Equal(
            [(1, "Sent by email", 3)],
            paper["excluded"]!.AsArray().Select(l => ((int)paper["pieces"]!, (string)l!["reason"]!, (int)l["count"]!))
        );
        var ledger = (await api.Client.GetStringAsync($"/api/ledger.csv?dropId={drop}")).Trim().Split("\r\n");
        Assert.Contains(
            ledger,
            l =>
                l.Contains("Email,ana@example.org,Letter + Email,1 + 1,", StringComparison.Ordinal)
                && l.Contains(",Mailed,1,", StringComparison.Ordinal)
        );
        Assert.Contains(
            ledger,
            l => l.Contains("\"Tan, Cem\",Paper,", StringComparison.Ordinal) && l.Contains(",Ready,", StringComparison.Ordinal)
        );
        Assert.Equal(5, ledger.Length);
        // Nobody twice: there is nothing left to send.
        Assert.Contains(
            "No chosen recipients are Ready",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "email", accountId = await world.Account() })
                )
            ).Detail
        );
        Assert.Contains(
            "cannot be undone",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/mailed/undo", new { reason = "mistake" }))).Detail
        );
    }

    [Fact]
    public async Task Refused_put_off_and_dropped_each_come_to_what_is_true()
    {
        var drop = await world.Drop(
            MailWorld.List
                + "Eva,Moss,5 Quay Road,Fernquay,97412,eva@example.org,F-5,\r\nFay,Reed,6 Quay Road,Fernquay,97412,fay@example.org,F-6,\r\n"
        );
        await world.Tell("refuse", "ana@example.org");
        await world.Tell("later", "bea@example.org", 2);
        await world.Tell("drop after", "@example.net", 1);
        await world.Tell("drop", "eva@example.org", 1);
        var run = await world.Begin(drop);
        var paused = await world.Until(run, "paused");
        Assert.Equal((2, 1, 2), ((int)paused["mails"]!["sent"]!, (int)paused["mails"]!["refused"]!, (int)paused["mails"]!["doubt"]!));
        Assert.Equal(
            [(1, "rejected"), (2, "sent"), (4, "in doubt"), (5, "in doubt"), (6, "sent")],
            (await world.Pieces(run)).OrderBy(p => p.Key).Select(p => (p.Key, p.Value))
        );
        Assert.Contains("in doubt", (string)paused["run"]!["message"]!);
        Assert.Contains(
            paused["log"]!.AsArray(),
            l => ((string)l!["text"]!).Contains("Piece 0002 was put off: 451", StringComparison.Ordinal)
        );
        // Of the two in doubt one arrived and one did not: nobody can tell from here, so somebody looks and says so.
        Assert.Equal(
            ["bea@example.org", "dot@example.net", "fay@example.org"],
            (await world.Inbox()).Select(m => m.To.Mailboxes.Single().Address).Order()
        );
        var ids = (await api.Recipients(drop)).ToDictionary(r => r.Piece, r => r.Id);
        await api.Post($"/api/runs/{run["id"]}/settle-mail", new { recipientId = ids[4], sent = true });
        await api.Post($"/api/runs/{run["id"]}/settle-mail", new { recipientId = ids[5], sent = false });
        Assert.Equal(
            HttpStatusCode.Conflict,
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/settle-mail", new { recipientId = ids[4], sent = true })
                )
            ).Status
        );
        await api.Post($"/api/runs/{run["id"]}/resume", new { });
        var done = await world.Until(run, "done");
        Assert.Equal((4, 1, 0), ((int)done["mails"]!["sent"]!, (int)done["mails"]!["refused"]!, (int)done["mails"]!["doubt"]!));
        Assert.Equal(
            ["bea@example.org", "dot@example.net", "eva@example.org", "fay@example.org"],
            (await world.Inbox()).Select(m => m.To.Mailboxes.Single().Address).Order()
        );
        // Who was refused needs a look, with the server's words; with another address they are Ready again.
        var person = await api.Get($"/api/drops/{drop}/recipients/{ids[1]}");
        Assert.Equal(("NeedsReview", "Refused"), ((string)person["tray"]!, (string)person["issues"]![0]!["kind"]!));
        Assert.Contains("550 5.1.1", (string)person["issues"]![0]!["message"]!);
        var column = (await api.Get($"/api/lists/{world.Members}"))["columns"]!.AsArray().First(c => (string)c!["name"]! == "Email")!["id"];
        await api.Put($"/api/drops/{drop}/recipients/{ids[1]}/values/{column}", new { value = "ana.okafor@example.org" });
        Assert.Equal("Ready", (string)(await api.Get($"/api/drops/{drop}/recipients/{ids[1]}"))["tray"]!);
        await world.Until(await world.Begin(drop), "done");
        Assert.Equal(5, (await world.Inbox()).Count);
    }

    [Fact]
    public async Task A_report_moves_to_returned_proposes_suppression_and_another_way_can_be_chosen()
    {
        var drop = await world.Drop();
        await world.Tell("report", "bea@example.org");
        await world.Until(await world.Begin(drop), "done");
        var report = (await api.Until($"/api/drops/{drop}/mail-reports", r => r.AsArray().Count > 0)).AsArray().Single()!;
        Assert.Equal(
            ("bea@example.org", "failed", "5.1.1", true, null),
            (
                (string)report["address"]!,
                (string)report["action"]!,
                (string)report["status"]!,
                (bool)report["hard"]!,
                (string?)report["settled"]
            )
        );
        var ids = (await api.Recipients(drop)).ToDictionary(r => r.Piece, r => r.Id);
        Assert.Equal("Returned", (string)(await api.Get($"/api/drops/{drop}/recipients/{ids[2]}"))["tray"]!);

        // The same report saved and brought in by hand counts once; one on a message of ours by its headers alone is matched, too.
        var raw = MessageBytes((await world.Inbox()).Single(m => m.Subject == "Undelivered mail"));
        Assert.Contains(
            "already imported",
            (string)
                JsonNode.Parse(
                    await (await api.Client.PostAsync("/api/mail-reports", new ByteArrayContent(raw))).Content.ReadAsStringAsync()
                )!["text"]!
        );
        var ana = (await world.Inbox()).Single(m => m.To.Mailboxes.SingleOrDefault()?.Address == "ana@example.org");
        var foreign =
            "From: postmaster@elsewhere.example\r\nTo: office@example.org\r\nSubject: failure\r\nMIME-Version: "
            + "1.0\r\nContent-Type: multipart/report; report-type=delivery-status; boundary=b\r\n\r\n--b\r\nContent-Type: "
            + "text/plain\r\n\r\nNo.\r\n--b\r\nContent-Type: message/delivery-status\r\n\r\nReporting-MTA: dns; "
            + "elsewhere.example\r\n\r\nFinal-Recipient: rfc822; ana@example.org\r\nAction: failed\r\nStatus: "
            + "4.4.7\r\nDiagnostic-Code: smtp; 421 gave up after five days\r\n--b\r\nContent-Type: "
            + $"text/rfc822-headers\r\n\r\nMessage-ID: <{ana.MessageId}>\r\nSubject: x\r\n--b--\r\n";
        var taken = JsonNode.Parse(
            await (
                await api.Client.PostAsync("/api/mail-reports", new ByteArrayContent(Encoding.ASCII.GetBytes(foreign)))
            ).Content.ReadAsStringAsync()
        )!;
        Assert.Equal((1, false), ((int)taken["reports"]![0]!["pieceNumber"]!, (bool)taken["reports"]![0]!["hard"]!));
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await Api.Refusal(api.Client.PostAsync("/api/mail-reports", new ByteArrayContent(MessageBytes(ana))))).Status
        );

        await api.Client.PostAsJsonAsync(
            $"/api/drops/{drop}/mail-reports/settle",
            new { ids = new[] { (long)report["id"]! }, suppress = true }
        );
        var list = (await api.Get("/api/suppressions")).AsArray().Single(l => (string)l!["name"]! == "Returned email")!;
        Assert.Equal(1, (int)list["entries"]!);
        // Who came back by email, and is wanted on paper, is Ready again; taken back, they are Returned again.
        await api.Post($"/api/drops/{drop}/go-by", new { recipients = new[] { ids[1] }, channel = "Paper" });
        Assert.Equal("Ready", (string)(await api.Get($"/api/drops/{drop}/recipients/{ids[1]}"))["tray"]!);
        await api.Post($"/api/drops/{drop}/undo", new { });
        Assert.Equal("Returned", (string)(await api.Get($"/api/drops/{drop}/recipients/{ids[1]}"))["tray"]!);
    }

    static byte[] MessageBytes(MimeMessage message)
    {
        using var target = new MemoryStream();
        message.WriteTo(target);
        return target.ToArray();
    }

    [Fact]
    public async Task The_link_ends_further_mail_at_once_also_in_a_run_that_is_on()
    {
        var drop = await world.Drop();
        await world.Until(await world.Begin(drop, new { pieces = "1" }), "done");
        var message = (await world.Inbox()).Single();
        var link = new Uri(message.Headers["List-Unsubscribe"]!.Trim('<', '>'));
        Assert.Contains(link.AbsoluteUri, message.TextBody);
        // Looking changes nothing: programs follow links.
        var page = await api.Client.GetStringAsync(link.AbsolutePath);
        Assert.Contains("Unsubscribe ana@example.org?", page);
        Assert.Contains("Fernquay OR 97412", page);
        Assert.Empty((await api.Get("/api/suppressions")).AsArray());
        // Another drop of the same list waits, scheduled, when the mail program posts its one click (RFC 8058).
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
        var waiting = await world.Begin(second, new { notBefore = DateTimeOffset.UtcNow.AddSeconds(2) });
        var click = await new HttpClient().PostAsync(
            new Uri(api.Client.BaseAddress!, link.AbsolutePath),
            new FormUrlEncodedContent([new("List-Unsubscribe", "One-Click")])
        );
        Assert.Equal(HttpStatusCode.OK, click.StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await api.Client.PostAsync(link.AbsolutePath, null)).StatusCode);
        Assert.Equal(1, (int)(await api.Get("/api/suppressions")).AsArray().Single()!["entries"]!);
        var done = await world.Until(waiting, "done");
        Assert.Equal((2, 1), ((int)done["mails"]!["sent"]!, (int)done["mails"]!["excluded"]!));
        Assert.DoesNotContain((await world.Inbox()).Skip(1), m => m.To.Mailboxes.Single().Address == "ana@example.org");
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync("/unsubscribe/nobody")).StatusCode);
        Assert.Contains("This was a test", await api.Client.GetStringAsync("/unsubscribe/test"));
    }

    [Fact]
    public async Task A_run_is_scheduled_paused_goes_on_and_what_is_left_can_be_cancelled()
    {
        var drop = await world.Drop(
            "First,Last,Email\r\n" + string.Concat(Enumerable.Range(1, 60).Select(i => $"Given{i},Family{i},member{i}@example.org\r\n")),
            new { attachments = Array.Empty<object>() }
        );
        var run = await world.Begin(drop, new { notBefore = DateTimeOffset.UtcNow.AddHours(2) });
        Assert.Equal("queued", (string)(await world.Until(run, "queued"))["run"]!["state"]!);
        await api.Post($"/api/runs/{run["id"]}/cancel", new { });
        Assert.Equal("cancelled", (string)(await world.Until(run, "cancelled"))["run"]!["state"]!);
        Assert.Equal(60, Api.Count(await api.Get($"/api/drops/{drop}"), "ready"));
        Assert.Contains(
            "in the past",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/drops/{drop}/runs",
                        new
                        {
                            output = "email",
                            accountId = await world.Account(),
                            notBefore = DateTimeOffset.UtcNow.AddHours(-2),
                        }
                    )
                )
            ).Detail
        );
        // One connection that is slow with everybody: there is time to pause it.
        await world.Tell("slow", "*", 3);
        await world.Account(new { connections = 1 });
        run = await api.Post(
            $"/api/drops/{drop}/runs",
            new { output = "email", accountId = (await api.Get("/api/mail-accounts"))[0]!["id"] }
        );
        await world.Until(run, "running");
        await api.Post($"/api/runs/{run["id"]}/pause", new { });
        await api.Ended((long)run["jobId"]!);
        var sent = (int)(await world.Until(run, "paused"))["mails"]!["sent"]!;
        Assert.InRange(sent, 0, 20);
        Assert.Equal(sent, (await world.Inbox()).Count);
        await api.Post($"/api/runs/{run["id"]}/resume", new { });
        await world.Until(run, "done");
        Assert.Equal(60, (await world.Inbox()).Select(m => m.To.Mailboxes.Single().Address).Distinct().Count());
        Assert.Equal(60, (await world.Inbox()).Count);
    }

    [Fact]
    public async Task The_accounts_limit_holds_over_runs()
    {
        var drop = await world.Drop(
            "First,Last,Email\r\n" + string.Concat(Enumerable.Range(1, 9).Select(i => $"Given{i},Family{i},member{i}@example.org\r\n")),
            new { attachments = Array.Empty<object>() }
        );
        var account = await world.Account(new { perDay = 4 });
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "email", accountId = account });
        var detail = await api.Until($"/api/runs/{run["id"]}/detail", d => d["run"]!["message"] is not null);
        Assert.Contains("4 a day", (string)detail["run"]!["message"]!);
        Assert.Equal((4, 5), ((int)detail["mails"]!["sent"]!, (int)detail["mails"]!["waiting"]!));
        await api.Post($"/api/runs/{run["id"]}/cancel", new { });
        await world.Until(run, "cancelled");
        Assert.Equal(
            (4, 5),
            (Api.Count(await api.Get($"/api/drops/{drop}"), "mailed"), Api.Count(await api.Get($"/api/drops/{drop}"), "ready"))
        );
        Assert.Equal(4, (await world.Inbox()).Count);
    }

    [Fact]
    public async Task Messages_come_as_files_too_with_the_same_bytes_when_made_again()
    {
        var drop = await world.Drop();
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "eml", nameBy = "../{Last}" });
        await api.Ended((long)run["jobId"]!);
        var zip = await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1");
        using (var archive = new ZipArchive(new MemoryStream(zip)))
        {
            Assert.Equal(["Marsh.eml", "Okafor.eml", "Quint.eml"], archive.Entries.Select(e => e.Name).Order());
            Assert.All(archive.Entries, e => Assert.DoesNotContain("..", e.FullName));
            Assert.Equal("Your letter, Bea", MimeMessage.Load(archive.Entries.Single(e => e.Name == "Marsh.eml").Open()).Subject);
        }
        // Not sent by us: somebody says when they went out.
        Assert.Equal(3, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        var again = await api.Post($"/api/runs/{run["id"]}/remake", new { });
        Assert.Contains("are identical", (string)(await api.Ended((long)again["jobId"]!))["message"]!);
        Assert.Equal(zip, await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"));
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = DateTime.Today.ToString("yyyy-MM-dd") });
        Assert.Equal(3, Api.Count(await api.Get($"/api/drops/{drop}"), "mailed"));
        await api.Post($"/api/runs/{run["id"]}/mailed/undo", new { reason = "the gateway was off" });
        await api.Post($"/api/runs/{run["id"]}/take-back", new { });
        var mbox = await api.Post($"/api/drops/{drop}/runs", new { output = "mbox" });
        await api.Ended((long)mbox["jobId"]!);
        var text = await api.Client.GetStringAsync($"/api/runs/{mbox["id"]}/files/1");
        Assert.Equal(3, System.Text.RegularExpressions.Regex.Count(text, "(?m)^From office@example.org "));
        var parser = new MimeParser(new MemoryStream(Encoding.Latin1.GetBytes(text)), MimeFormat.Mbox);
        var count = 0;
        for (; !parser.IsEndOfStream; count++)
            Assert.Single(parser.ParseMessage().Attachments);
        Assert.Equal(3, count);
        await api.Post($"/api/runs/{mbox["id"]}/take-back", new { });
        var sent = await world.Begin(drop);
        await world.Until(sent, "done");
        using var besides = new ZipArchive(new MemoryStream(await api.Client.GetByteArrayAsync($"/api/runs/{sent["id"]}/messages/eml")));
        var inbox = (await world.Inbox()).ToDictionary(m => m.MessageId!);
        foreach (var entry in besides.Entries)
        {
            var kept = MimeMessage.Load(entry.Open());
            Assert.Equal(MailWorld.Bytes(inbox[kept.MessageId!].Attachments.Single()), MailWorld.Bytes(kept.Attachments.Single()));
        }
    }

    [Fact]
    public async Task A_test_goes_to_oneself_and_the_ledger_knows_nothing_of_it()
    {
        var drop = await world.Drop(more: new { cc = "boss@example.org", attachments = Array.Empty<object>() });
        var ana = (await api.Recipients(drop))[0].Id;
        await api.Post($"/api/drops/{drop}/recipients/{ana}/test-mail", new { accountId = await world.Account(), to = "me@example.org" });
        var message = Assert.Single(await world.Inbox());
        Assert.Equal(("[Test] Your letter, Ana", "me@example.org"), (message.Subject, message.To.Mailboxes.Single().Address));
        Assert.Empty(message.Cc);
        Assert.Equal("me@example.org", (string)(await api.Get("/api/post-office/messages"))["rows"]![0]!["recipients"]!);
        Assert.Equal(
            (3 + 1, 0),
            (Api.Count(await api.Get($"/api/drops/{drop}"), "ready"), Api.Count(await api.Get($"/api/drops/{drop}"), "mailed"))
        );
        Assert.Contains(
            "not an email address",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/drops/{drop}/recipients/{ana}/test-mail",
                        new { accountId = await world.Account(), to = "me" }
                    )
                )
            ).Detail
        );
    }

    [Fact]
    public async Task A_document_kept_with_a_recipient_is_attached_and_who_has_none_needs_a_look()
    {
        var drop = await world.Drop();
        var rows = await api.Recipients(drop);
        var list = (long)(await api.Get($"/api/drops/{drop}"))["listId"]!;
        var signed = new Formats.Tests.MadeForm().Page(Formats.Tests.MadeForm.Text(50, 700, "Signed")).File();
        await api.Read(
            await api.Client.PostAsync($"/api/lists/{list}/recipients/{rows[0].Id}/documents?name=signed.pdf", new ByteArrayContent(signed))
        );
        await api.Save(
            world.Email,
            MailWorld.Design(
                new
                {
                    attachments = new object[]
                    {
                        new
                        {
                            kind = "folder",
                            folderId = -1,
                            source = "\"signed.pdf\"",
                            name = "",
                        },
                    },
                }
            )
        );
        await api.Checked(drop);
        var emails = (await api.Recipients(drop)).Where(r => r.Id == rows[0].Id || r.Tray == "NeedsReview").ToList();
        Assert.Equal("Ready", emails.Single(r => r.Id == rows[0].Id).Tray);
        Assert.True(emails.Count > 1);
        await world.Until(await world.Begin(drop), "done");
        var message = Assert.Single(await world.Inbox());
        var attached = Assert.IsType<MimePart>(Assert.Single(message.Attachments));
        Assert.Equal("signed.pdf", attached.FileName);
        Assert.Equal(signed, MailWorld.Bytes(attached));
    }

    [Fact]
    public async Task Everybodys_own_file_comes_from_a_folder_and_who_lacks_it_needs_a_look()
    {
        var drop = await world.Drop();
        var folder = (long)await api.Post("/api/mail-folders", new { name = "Certificates" });
        using var zip = new MemoryStream();
        using (var archive = new ZipArchive(zip, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var name in (string[])["../../ana.pdf", "sub/bea.pdf"])
            {
                using var entry = archive.CreateEntry(name).Open();
                entry.Write(Encoding.ASCII.GetBytes($"certificate of {Path.GetFileNameWithoutExtension(name)}"));
            }
        await api.Client.PostAsync($"/api/mail-folders/{folder}/files?name=all.zip", new ByteArrayContent(zip.ToArray()));
        Assert.Equal(
            ["ana.pdf", "bea.pdf"],
            (await api.Get($"/api/mail-folders/{folder}/files")).AsArray().Select(f => (string)f!["name"]!)
        );
        var terms = JsonNode.Parse(
            await (
                await api.Client.PostAsync("/api/mail-files?name=..%2Fterms.txt", new ByteArrayContent("The terms."u8.ToArray()))
            ).Content.ReadAsStringAsync()
        )!;
        await api.Save(
            world.Email,
            MailWorld.Design(
                new
                {
                    attachments = new object[]
                    {
                        new
                        {
                            kind = "folder",
                            folderId = folder,
                            source = "Certificate",
                            name = "",
                        },
                        new
                        {
                            kind = "file",
                            file = (string)terms["file"]!,
                            name = (string)terms["name"]!,
                            size = 10,
                        },
                    },
                }
            )
        );
        await api.Checked(drop);
        var rows = await api.Recipients(drop);
        Assert.Equal(["Ready", "Ready", "Ready", "NeedsReview"], rows.Select(r => r.Tray));
        await world.Until(await world.Begin(drop), "done");
        foreach (var message in await world.Inbox())
        {
            var first = message.To.Mailboxes.Single().Name!.Split(' ')[0].ToLowerInvariant();
            Assert.Equal([$"{first}.pdf", "terms.txt"], message.Attachments.Cast<MimePart>().Select(a => a.FileName));
            Assert.Equal($"certificate of {first}", Encoding.ASCII.GetString(MailWorld.Bytes(message.Attachments.First())));
        }
        Assert.Equal(2, (await world.Inbox()).Count);
        await api.Client.DeleteAsync($"/api/mail-folders/{folder}/files?name=ana.pdf");
        Assert.Equal(["bea.pdf"], (await api.Get($"/api/mail-folders/{folder}/files")).AsArray().Select(f => (string)f!["name"]!));
    }

    [Fact]
    public async Task Nothing_goes_out_without_an_address_of_the_sender_or_with_a_mistake()
    {
        var drop = await world.Drop();
        await api.Client.PutAsJsonAsync(
            "/api/settings/organization",
            new
            {
                name = "Garden",
                locale = "en-US",
                currency = "USD",
                countryLine = "Abroad",
                postalAddress = "",
                publicAddress = "",
            }
        );
        await api.Checked(drop);
        async Task<string> Refused() =>
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync($"/api/drops/{drop}/runs", new { output = "email", accountId = await world.Account() })
                )
            ).Detail;
        Assert.Contains("needs your postal address", await Refused());
        await api.Save(world.Email, MailWorld.Design(new { subject = "", unsubscribe = false }));
        await api.Checked(drop);
        Assert.Contains("no subject yet", await Refused());
        await api.Save(
            world.Email,
            MailWorld.Design(
                new
                {
                    unsubscribe = false,
                    attachments = new object[]
                    {
                        new
                        {
                            kind = "design",
                            designId = 999,
                            name = "",
                        },
                    },
                }
            )
        );
        await api.Checked(drop);
        Assert.Equal(3, Api.Count(await api.Get($"/api/drops/{drop}"), "needsReview"));
        Assert.Contains(
            "one email",
            (
                await Api.Refusal(
                    api.Client.PutAsJsonAsync(
                        $"/api/drops/{drop}/package",
                        new
                        {
                            designIds = new[]
                            {
                                world.Email,
                                (long)await api.Post($"/api/designs/{world.Email}/duplicate", new { name = "Another" }),
                            },
                        }
                    )
                )
            ).Detail
        );
    }

    [Fact]
    public async Task Both_ways_are_two_pieces_and_one_person()
    {
        var drop = await world.Drop(by: "Package");
        Assert.Equal("Both", (string)(await api.Get($"/api/drops/{drop}/recipients"))["rows"]![0]!["channel"]!);
        // Who has no address cannot get both.
        Assert.Equal(
            (3, 1),
            (Api.Count(await api.Get($"/api/drops/{drop}"), "ready"), Api.Count(await api.Get($"/api/drops/{drop}"), "needsReview"))
        );
        await world.Until(await world.Begin(drop), "done");
        Assert.Equal(3, Api.Count(await api.Get($"/api/drops/{drop}"), "ready"));
        var paper = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        await api.Ended((long)paper["jobId"]!);
        Assert.Equal(3, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
        await api.Post($"/api/runs/{paper["id"]}/mailed", new { date = DateTime.Today.ToString("yyyy-MM-dd") });
        Assert.Equal(3, Api.Count(await api.Get($"/api/drops/{drop}"), "mailed"));
        var ledger = (await api.Client.GetStringAsync($"/api/ledger.csv?dropId={drop}")).Trim().Split("\r\n").Skip(1).ToList();
        Assert.Equal(
            (4, 4),
            (
                ledger.Count(l => l.Contains(",Paper,", StringComparison.Ordinal)),
                ledger.Count(l => l.Contains(",Email,", StringComparison.Ordinal))
            )
        );
    }

    [Fact]
    public async Task What_the_inbox_shows_is_kept_from_running_and_its_files_are_saved_and_not_opened()
    {
        var drop = await world.Drop(more: new { attachments = Array.Empty<object>() });
        await world.Until(await world.Begin(drop, new { pieces = "1" }), "done");
        var row = (await api.Get("/api/post-office/messages?search=okaf"))["rows"]!.AsArray();
        Assert.Single(row); // words are found by their beginnings, in the body as in the address and the subject
        Assert.Single((await api.Get("/api/post-office/messages?search=ana%40example.org%20letter"))["rows"]!.AsArray());
        Assert.Single((await api.Get("/api/post-office/messages?search=Okafor"))["rows"]!.AsArray());
        var id = (long)(await api.Get("/api/post-office/messages"))["rows"]![0]!["id"]!;
        var view = await api.Get($"/api/post-office/messages/{id}");
        Assert.Contains("Dear Ana Okafor", (string)view["html"]!);
        Assert.Contains("Subject: Your letter, Ana", (string)view["source"]!);
        Assert.Equal(
            "message/rfc822",
            (await api.Client.GetAsync($"/api/post-office/messages/{id}/source.eml")).Content.Headers.ContentType!.MediaType
        );
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync($"/api/post-office/messages/{id}/files/1")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await api.Client.DeleteAsync("/api/post-office/messages")).StatusCode);
        Assert.Equal(0, (int)(await api.Get("/api/post-office/messages"))["total"]!);
        Assert.Contains(
            "The behavior must be one of",
            (await Api.Refusal(api.Client.PostAsJsonAsync("/api/post-office/behaviors", new { kind = "burn", address = "*" }))).Detail
        );
    }
}
