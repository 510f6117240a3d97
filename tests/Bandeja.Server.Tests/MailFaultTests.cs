using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using System.Text.Json.Nodes;
using MimeKit;
using SmtpServer;
using SmtpServer.Authentication;

namespace Bandeja.Server.Tests;

/// <summary>Servers that refuse, lie, close early, or show a certificate that nobody signed: told, and never accepted silently.</summary>
public sealed class MailFaultTests : ServerTests
{
    MailWorld world = null!;

    public override ValueTask InitializeAsync()
    {
        world = new(api);
        return api.InitializeAsync();
    }

    async Task<long> Account(int port, string tls, string? user = null, string? password = null, string host = "127.0.0.1") =>
        (long)
            await api.Post(
                "/api/mail-accounts",
                new
                {
                    name = $"Account {Guid.NewGuid():N}",
                    host,
                    port,
                    tls,
                    userName = user,
                    password,
                    connections = 1,
                    firstWait = 1,
                }
            );

    async Task<Dictionary<string, (string State, string Words, string? Help)>> Test(long account) =>
        (await api.Post($"/api/mail-accounts/{account}/test", new { from = "office@example.org", to = "me@example.org" }))
            .AsArray()
            .ToDictionary(s => (string)s!["name"]!, s => ((string)s!["state"]!, (string)s["words"]!, (string?)s["help"]));

    /// <summary>A server that speaks as it is told, line by line.</summary>
    static (int Port, IDisposable Stop) Speaking(Action<StreamReader, StreamWriter> speak)
    {
        var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        _ = Task.Run(async () =>
        {
            while (true)
            {
                TcpClient client;
                try
                {
                    client = await listener.AcceptTcpClientAsync();
                }
                catch (Exception e) when (e is ObjectDisposedException or SocketException)
                {
                    return;
                }
                using (client)
                {
                    var stream = client.GetStream();
                    using var reader = new StreamReader(stream, Encoding.ASCII);
                    using var writer = new StreamWriter(stream, Encoding.ASCII) { AutoFlush = true, NewLine = "\r\n" };
                    try
                    {
                        speak(reader, writer);
                    }
                    catch (IOException) { } // the client went away
                }
            }
        });
        return (((IPEndPoint)listener.LocalEndpoint).Port, listener);
    }

    static (SmtpServer.SmtpServer Server, int Port, CancellationTokenSource Stop) Secured(bool implicitTls, bool trusted = false)
    {
        var certificate = trusted ? TrustedCertificate.Own : TrustedCertificate.Create("CN=mail.example.org");
        var probe = new TcpListener(IPAddress.Loopback, 0);
        probe.Start();
        var port = ((IPEndPoint)probe.LocalEndpoint).Port;
        probe.Stop();
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add((IUserAuthenticator)new DelegatingUserAuthenticator((user, password) => user == "office" && password == "fern"));
        var server = new SmtpServer.SmtpServer(
            new SmtpServerOptionsBuilder()
                .ServerName("mail.example.org")
                .Endpoint(e =>
                    e.Endpoint(new IPEndPoint(IPAddress.Loopback, port))
                        .IsSecure(implicitTls)
                        .Certificate(certificate)
                        .AllowUnsecureAuthentication()
                )
                .Build(),
            services
        );
        var stop = new CancellationTokenSource();
        _ = server.StartAsync(stop.Token);
        return (server, port, stop);
    }

    [Fact]
    public async Task The_test_of_an_account_tells_the_step_that_does_not_work()
    {
        var practice = await Test(await world.Account());
        Assert.All(practice, s => Assert.Equal(s.Key is "SPF" or "DKIM" or "DMARC" ? "Not tested" : "right", s.Value.State));
        Assert.Equal("Test message", Assert.Single(await world.Inbox()).Subject);

        var nobody = await Test(await Account(587, "none", host: "mail.bandeja.invalid"));
        Assert.Equal(("wrong", "Not tested"), (nobody["Name"].State, nobody["Connection"].State));
        Assert.Contains("spelling", nobody["Name"].Help);

        var closed = await Test(await Account(1, "none"));
        Assert.Equal(
            ("right", "wrong", "The server is not responding on this port."),
            (closed["Name"].State, closed["Connection"].State, closed["Connection"].Words)
        );

        var (talking, stop) = Speaking((_, writer) => writer.WriteLine("220 hello"));
        using (stop)
            Assert.Equal("wrong", (await Test(await Account(talking, "none")))["Encryption"].State);
    }

    [Fact]
    public async Task The_test_tells_what_the_senders_domain_says_of_who_may_send_for_it()
    {
        // It is told even where the mail server does not answer.
        var account = await Account(1, "none");
        async Task<string[]> Asked(string from) =>
            [
                .. (await api.Post($"/api/mail-accounts/{account}/test", new { from, to = "me@example.org" }))
                    .AsArray()
                    .TakeLast(3)
                    .Select(s => $"{s!["name"]} {s["state"]}: {s["words"]}"),
            ];
        lock (api.Names.Texts)
        {
            api.Names.Texts["garden.example"] =
            [
                "site-check=4711",
                $"v=spf1 {string.Concat(Enumerable.Range(1, 9).Select(i => $"ip4:192.0.2.{i} "))}include:mail.example -all",
            ];
            api.Names.Texts["key1._domainkey.garden.example"] = ["v=DKIM1; p=MIGf"];
            api.Names.Texts["_dmarc.garden.example"] = ["v=DMARC1; p=reject; sp=quarantine"];
            api.Names.Texts["open.example"] = ["v=spf1 +all"];
        }
        var good = await Asked("Office@Garden.Example");
        Assert.Equal(
            [
                "SPF right: garden.example says which servers may send its email, and that no others may.",
                "DMARC right: garden.example asks receivers to refuse messages that fail its checks.",
            ],
            [good[0], good[2]]
        );
        Assert.StartsWith("DKIM Not tested: garden.example can hold DKIM keys.", good[1]);
        Assert.Equal(
            [
                "SPF wrong: news.garden.example does not say which servers may send its email.",
                "DKIM wrong: news.garden.example publishes no DKIM keys, so no message can be signed for it.",
                "DMARC right: garden.example, which news.garden.example belongs to, asks receivers to treat messages that fail its "
                    + "checks as spam.",
            ],
            await Asked("office@news.garden.example")
        );
        var open = await Asked("a@open.example");
        Assert.Equal("SPF wrong: The SPF record of open.example lets every server in the world send its email.", open[0]);
        Assert.StartsWith("DMARC wrong: open.example has no DMARC record.", open[2]);
        // A name server that fails says nothing, and nothing is made of it.
        api.Names.Fails = true;
        var failed = await Asked("office@garden.example");
        Assert.Contains("The DNS cannot be reached", failed[0]);
        Assert.All(failed, s => Assert.Contains(" Not tested: ", s));
        api.Names.Dispose();
        Assert.Equal(failed, await Asked("office@garden.example"));
    }

    [Theory]
    [InlineData("tls")]
    [InlineData("starttls")]
    public async Task A_certificate_that_nobody_signed_is_told_and_nothing_is_sent(string tls)
    {
        var (_, port, stop) = Secured(tls == "tls");
        using (stop)
        {
            var steps = await Test(await Account(port, tls, "office", "fern"));
            Assert.Equal(("right", "wrong", "Not tested"), (steps["Connection"].State, steps["Encryption"].State, steps["Sign-in"].State));
            Assert.Contains("CN=mail.example.org", steps["Encryption"].Words);
            Assert.Contains("not trusted", steps["Encryption"].Words);
            var drop = await world.Drop();
            var run = await api.Post(
                $"/api/drops/{drop}/runs",
                new { output = "email", accountId = await Account(port, tls, "office", "fern") }
            );
            var paused = await world.Until(run, "paused");
            Assert.Contains("certificate is not trusted", (string)paused["run"]!["message"]!);
            Assert.Equal(
                (0, 0, 3),
                (
                    (int)paused["mails"]!["sent"]!,
                    (int)paused["mails"]!["doubt"]!,
                    (int)paused["mails"]!["waiting"]! + (int)paused["mails"]!["later"]!
                )
            );
            await stop.CancelAsync();
        }
    }

    [Fact]
    public async Task A_wrong_password_is_told_and_no_password_is_ever_kept_in_clear_or_shown()
    {
        var (_, port, stop) = Secured(false, trusted: true);
        using (stop)
        {
            var wrong = await Test(await Account(port, "starttls", "office", "a-secret-that-is-wrong"));
            Assert.Equal(("right", "wrong"), (wrong["Encryption"].State, wrong["Sign-in"].State));
            Assert.DoesNotContain("a-secret-that-is-wrong", wrong["Sign-in"].Words + wrong["Sign-in"].Help);
            var right = await Test(await Account(port, "starttls", "office", "fern"));
            Assert.Equal("right", right["Sign-in"].State);
            await stop.CancelAsync();
        }
        Assert.DoesNotContain("a-secret-that-is-wrong", (await api.Get("/api/mail-accounts")).ToJsonString());
        Assert.All(api.DatabaseFiles(), bytes => Assert.True(bytes.AsSpan().IndexOf("a-secret-that-is-wrong"u8) < 0));
        var (drop, account) = (await world.Drop(), (await api.Get("/api/mail-accounts")).AsArray().First(a => (bool)a!["hasPassword"]!)!);
        // Who changes the user must write the password anew: it is never handed to another server's user.
        await api.Put(
            $"/api/mail-accounts/{account["id"]}",
            new
            {
                name = (string)account["name"]!,
                host = "127.0.0.1",
                port = (int)account["port"]!,
                tls = "starttls",
                userName = "other",
            }
        );
        Assert.False(
            (bool)(await api.Get("/api/mail-accounts")).AsArray().Single(a => (long)a!["id"]! == (long)account["id"]!)!["hasPassword"]!
        );
        Assert.True(drop > 0);
    }

    [Fact]
    public void An_account_of_before_that_has_a_password_and_no_encryption_sends_nothing()
    {
        var heard = new List<string>();
        var (port, stop) = Speaking(
            (reader, writer) =>
            {
                writer.WriteLine("220 open.example ESMTP");
                while (reader.ReadLine() is { } line)
                {
                    lock (heard)
                        heard.Add(line);
                    writer.WriteLine(
                        line.StartsWith("EHLO", StringComparison.Ordinal) ? "250-open.example\r\n250 AUTH PLAIN LOGIN" : "250 ok"
                    );
                }
            }
        );
        using (stop)
        {
            var row = new Bandeja.Store.Mail.MailAccountRow
            {
                Name = "Old",
                Host = "127.0.0.1",
                Port = port,
                Tls = "none",
                UserName = "office",
            };
            using var link = new Bandeja.Work.Mail.MailLink(
                row,
                "fern-9",
                0,
                "garden.example.org",
                new(new("unused") { PrivateMail = true })
            );
            var to = new MailboxAddress(null, "ana@example.org");
            using var message = new MimeMessage { Body = new TextPart("plain") { Text = "Hello" } };
            var result = link.Send(message, to, [to]);
            Assert.Equal((Bandeja.Work.Mail.HandOver.NotBegun, Bandeja.Work.Mail.MailLink.OpenLine), (result.Outcome, result.Words));
            lock (heard)
                Assert.DoesNotContain(heard, line => line.StartsWith("AUTH", StringComparison.OrdinalIgnoreCase));
        }
    }

    [Fact]
    public async Task A_server_that_closes_early_has_nothing_and_one_that_closes_after_the_end_leaves_a_doubt()
    {
        var attempts = 0;
        var (port, stop) = Speaking(
            (reader, writer) =>
            {
                writer.WriteLine("220 odd.example ESMTP");
                while (reader.ReadLine() is { } line)
                {
                    if (line.StartsWith("EHLO", StringComparison.Ordinal))
                    {
                        writer.WriteLine("250-odd.example");
                        writer.WriteLine("250 8BITMIME");
                    }
                    else if (line == "DATA")
                    {
                        writer.WriteLine("354 go on");
                        // The first time it closes after ten lines, the second time after the end of the message, then it takes it.
                        var lines = 0;
                        while (reader.ReadLine() is { } body && body != ".")
                            if (++lines == 10 && attempts == 0)
                            {
                                attempts++;
                                return;
                            }
                        if (attempts++ < 2)
                            return;
                        writer.WriteLine("250 2.0.0 taken");
                    }
                    else if (line == "QUIT")
                        return;
                    else
                        writer.WriteLine("250 fine");
                }
            }
        );
        using (stop)
        {
            // Larger than what lies on the way: the server is gone while most of it is still here.
            var file = JsonNode.Parse(
                await (
                    await api.Client.PostAsync(
                        "/api/mail-files?name=photo.jpg",
                        new ByteArrayContent(RandomNumberGenerator.GetBytes(6_500_000))
                    )
                ).Content.ReadAsStringAsync()
            )!;
            var drop = await world.Drop(
                more: new
                {
                    attachments = new object[]
                    {
                        new
                        {
                            kind = "file",
                            file = (string)file["file"]!,
                            name = "photo.jpg",
                            size = 6_500_000,
                        },
                    },
                }
            );
            var run = await api.Post(
                $"/api/drops/{drop}/runs",
                new
                {
                    output = "email",
                    pieces = "1",
                    accountId = await Account(port, "none"),
                }
            );
            var paused = await world.Until(run, "paused");
            Assert.Contains(
                paused["log"]!.AsArray(),
                l => ((string)l!["text"]!).Contains("before the whole message was sent", StringComparison.Ordinal)
            );
            Assert.Equal(1, (int)paused["mails"]!["doubt"]!);
            await api.Post($"/api/runs/{run["id"]}/settle-mail", new { recipientId = (await api.Recipients(drop))[0].Id, sent = false });
            await api.Post($"/api/runs/{run["id"]}/resume", new { });
            Assert.Equal(1, (int)(await world.Until(run, "done"))["mails"]!["sent"]!);
            Assert.Equal(3, attempts);
        }
    }

    [Theory]
    [InlineData("MAIL", "550 5.7.1 this account is blocked", "does not let this account send as", 0)]
    [InlineData("MAIL", "530 5.7.0 authentication required", "requires a user name and password", 0)]
    [InlineData("RCPT", "554 5.7.1 too many complaints", "rejected 10 messages in a row", 10)]
    public async Task An_account_that_is_blocked_stops_the_run_and_not_all_addresses_are_to_blame(
        string command,
        string answer,
        string told,
        int refused
    )
    {
        var blocked = true;
        var (port, stop) = Speaking(
            (reader, writer) =>
            {
                writer.WriteLine("220 strict.example ESMTP");
                while (reader.ReadLine() is { } line && line != "QUIT")
                {
                    writer.WriteLine(
                        blocked && line.StartsWith(command, StringComparison.Ordinal) ? answer
                        : line.StartsWith("EHLO", StringComparison.Ordinal) ? "250 strict.example"
                        : line == "DATA" ? "354 go on"
                        : "250 fine"
                    );
                    if (line == "DATA")
                    {
                        while (reader.ReadLine() is { } body && body != ".") { }
                        writer.WriteLine("250 taken");
                    }
                }
            }
        );
        using (stop)
        {
            var drop = await world.Drop(
                "First,Last,Email\r\n"
                    + string.Concat(Enumerable.Range(1, 25).Select(i => $"Given{i},Family{i},member{i}@example.org\r\n")),
                new { attachments = Array.Empty<object>() }
            );
            var run = await api.Post($"/api/drops/{drop}/runs", new { output = "email", accountId = await Account(port, "none") });
            var paused = await world.Until(run, "paused");
            Assert.Contains(told, (string)paused["run"]!["message"]!);
            Assert.Equal(
                (refused, refused),
                ((int)paused["mails"]!["refused"]!, (int)(await api.Get($"/api/drops/{drop}"))["trays"]!["needsReview"]!)
            );
            blocked = false;
            await api.Post($"/api/runs/{run["id"]}/resume", new { });
            Assert.Equal(25 - refused, (int)(await world.Until(run, "done"))["mails"]!["sent"]!);
        }
    }

    [Fact]
    public async Task Letters_beyond_ascii_need_a_server_that_takes_them_and_hostile_values_stay_values()
    {
        var drop = await world.Drop(
            "First,Last,Email\r\n\"Ana\r\nBcc: all@example.org\",\"O'Neill \"\"Bo\"\"\",\"o'neill+fern@example.org\"\r\n"
                + "Jörg,Groß,jörg@gärtnerei.example\r\n<script>alert(1)</script>,Tan,tan@example.org\r\n",
            new { subject = "For {First} {Last}", attachments = Array.Empty<object>() }
        );
        await world.Until(await world.Begin(drop), "done");
        var inbox = (await world.Inbox()).ToDictionary(m => m.To.Mailboxes.Single().Address);
        Assert.Equal(3, inbox.Count);
        var first = inbox["o'neill+fern@example.org"];
        Assert.Equal("For Ana Bcc: all@example.org O'Neill \"Bo\"", first.Subject);
        Assert.Empty(first.Bcc);
        // With SMTPUTF8 the domain's letters travel as they are (RFC 6531, section 3.2).
        Assert.Equal("jörg@gärtnerei.example", inbox.Keys.Single(k => k.StartsWith('j')));
        Assert.Contains("&lt;script&gt;", inbox["tan@example.org"].HtmlBody);
        Assert.DoesNotContain("<script>", inbox["tan@example.org"].HtmlBody);
        // Without SMTPUTF8 such an address is refused here, with words, and never bent.
        var (port, stop) = Speaking(
            (reader, writer) =>
            {
                writer.WriteLine("220 plain.example ESMTP");
                while (reader.ReadLine() is { } line && line != "QUIT")
                    writer.WriteLine(
                        line.StartsWith("EHLO", StringComparison.Ordinal) ? "250 plain.example"
                        : line == "DATA" ? "354 go on"
                        : "250 fine"
                    );
            }
        );
        using (stop)
        {
            var other = await world.Drop("First,Last,Email\r\nJörg,Groß,jörg@example.org\r\n", new { attachments = Array.Empty<object>() });
            var done = await world.Until(
                await api.Post($"/api/drops/{other}/runs", new { output = "email", accountId = await Account(port, "none") }),
                "done"
            );
            // No server was asked, so none refused it: it is left out, and the recipient is Ready for another account.
            Assert.Equal((0, 1), ((int)done["mails"]!["refused"]!, (int)done["mails"]!["excluded"]!));
            Assert.Equal(1, Api.Count(await api.Get($"/api/drops/{other}"), "ready"));
            Assert.Contains("SMTPUTF8", (string)(await api.Get($"/api/runs/{done["run"]!["id"]}/pieces"))["rows"]![0]!["words"]!);
        }
    }
}
