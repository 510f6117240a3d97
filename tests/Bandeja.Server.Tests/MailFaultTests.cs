using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using System.Text.Json.Nodes;
using Bandeja.Server.Mail;
using Bandeja.Store;
using Microsoft.Data.Sqlite;
using MimeKit;
using SmtpServer;
using SmtpServer.Authentication;

namespace Bandeja.Server.Tests;

/// <summary>Servers that refuse, lie, close early, or show a certificate that nobody signed: told, and never accepted silently.</summary>
public sealed class MailFaultTests : IAsyncLifetime
{
    readonly Api api = new();
    MailWorld world = null!;
    public Task InitializeAsync()
    {
        world = new(api);
        return api.InitializeAsync();
    }
    public Task DisposeAsync() => api.DisposeAsync();

    async Task<long> Account(int port, string tls, string? user = null, string? password = null, string host = "127.0.0.1") => (long)await api.Post("/api/mail-accounts", new { name = $"Account {Guid.NewGuid():N}", host, port, tls, userName = user, password, connections = 1, firstWait = 1 });

    async Task<Dictionary<string, (string State, string Words, string? Help)>> Test(long account) =>
        (await api.Post($"/api/mail-accounts/{account}/test", new { from = "office@example.org", to = "me@example.org" })).AsArray().ToDictionary(s => (string)s!["name"]!, s => ((string)s!["state"]!, (string)s["words"]!, (string?)s["help"]));

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
                try { client = await listener.AcceptTcpClientAsync(); }
                catch (Exception e) when (e is ObjectDisposedException or SocketException) { return; }
                using (client)
                {
                    var stream = client.GetStream();
                    using var reader = new StreamReader(stream, Encoding.ASCII);
                    using var writer = new StreamWriter(stream, Encoding.ASCII) { AutoFlush = true, NewLine = "\r\n" };
                    try { speak(reader, writer); }
                    catch (IOException) { } // the client went away
                }
            }
        });
        return (((IPEndPoint)listener.LocalEndpoint).Port, listener);
    }

    static (SmtpServer.SmtpServer Server, int Port, CancellationTokenSource Stop) Secured(bool implicitTls)
    {
        using var key = RSA.Create(2048);
        var request = new CertificateRequest("CN=mail.example.org", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        var certificate = X509CertificateLoader.LoadPkcs12(request.CreateSelfSigned(DateTimeOffset.Now.AddDays(-1), DateTimeOffset.Now.AddDays(30)).Export(X509ContentType.Pfx), null);
        var probe = new TcpListener(IPAddress.Loopback, 0);
        probe.Start();
        var port = ((IPEndPoint)probe.LocalEndpoint).Port;
        probe.Stop();
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add((IUserAuthenticator)new DelegatingUserAuthenticator((user, password) => user == "office" && password == "fern"));
        var server = new SmtpServer.SmtpServer(new SmtpServerOptionsBuilder().ServerName("mail.example.org").Endpoint(e => e.Endpoint(new IPEndPoint(IPAddress.Loopback, port)).IsSecure(implicitTls).Certificate(certificate).AllowUnsecureAuthentication()).Build(), services);
        var stop = new CancellationTokenSource();
        _ = server.StartAsync(stop.Token);
        return (server, port, stop);
    }

    [Fact]
    public async Task The_test_of_an_account_tells_the_step_that_does_not_work()
    {
        var practice = await Test(await world.Account());
        Assert.All(practice.Values, s => Assert.Equal("right", s.State));
        Assert.Equal("A message to oneself", Assert.Single(await world.Inbox()).Subject);

        var nobody = await Test(await Account(587, "none", host: "mail.bandeja.invalid"));
        Assert.Equal(("wrong", "not tried"), (nobody["Name"].State, nobody["Connection"].State));
        Assert.Contains("spelling", nobody["Name"].Help);

        var closed = await Test(await Account(1, "none"));
        Assert.Equal(("right", "wrong", "Nothing answers at this port."), (closed["Name"].State, closed["Connection"].State, closed["Connection"].Words));

        var (talking, stop) = Speaking((_, writer) => writer.WriteLine("220 hello"));
        using (stop) Assert.Equal("wrong", (await Test(await Account(talking, "none")))["Encryption"].State);
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
            Assert.Equal(("right", "wrong", "not tried"), (steps["Connection"].State, steps["Encryption"].State, steps["Sign-in"].State));
            Assert.Contains("CN=mail.example.org", steps["Encryption"].Words);
            Assert.Contains("not trusted", steps["Encryption"].Words);
            var drop = await world.Drop();
            var run = await api.Post($"/api/drops/{drop}/runs", new { output = "email", accountId = await Account(port, tls, "office", "fern") });
            var paused = await world.Until(run, "paused");
            Assert.Contains("certificate is not trusted", (string)paused["run"]!["message"]!);
            Assert.Equal((0, 0, 3), ((int)paused["mails"]!["sent"]!, (int)paused["mails"]!["doubt"]!, (int)paused["mails"]!["waiting"]! + (int)paused["mails"]!["later"]!));
            await stop.CancelAsync();
        }
    }

    [Fact]
    public async Task A_wrong_password_is_told_and_no_password_is_ever_kept_in_clear_or_shown()
    {
        var (_, port, stop) = Secured(false);
        using (stop)
        {
            var wrong = await Test(await Account(port, "none", "office", "a-secret-that-is-wrong"));
            Assert.Equal(("right", "wrong"), (wrong["Encryption"].State, wrong["Sign-in"].State));
            Assert.DoesNotContain("a-secret-that-is-wrong", wrong["Sign-in"].Words + wrong["Sign-in"].Help);
            var right = await Test(await Account(port, "none", "office", "fern"));
            Assert.Equal("right", right["Sign-in"].State);
            await stop.CancelAsync();
        }
        Assert.DoesNotContain("a-secret-that-is-wrong", (await api.Get("/api/mail-accounts")).ToJsonString());
        Assert.All(api.DatabaseFiles(), bytes => Assert.True(bytes.AsSpan().IndexOf("a-secret-that-is-wrong"u8) < 0));
        var (drop, account) = (await world.Drop(), (await api.Get("/api/mail-accounts")).AsArray().First(a => (bool)a!["hasPassword"]!)!);
        // Who changes the user must write the password anew: it is never handed to another server's user.
        await api.Put($"/api/mail-accounts/{account["id"]}", new { name = (string)account["name"]!, host = "127.0.0.1", port = 25, tls = "none", userName = "other" });
        Assert.False((bool)(await api.Get("/api/mail-accounts")).AsArray().Single(a => (long)a!["id"]! == (long)account["id"]!)!["hasPassword"]!);
        Assert.True(drop > 0);
    }

    [Fact]
    public async Task A_server_that_closes_early_has_nothing_and_one_that_closes_after_the_end_leaves_a_doubt()
    {
        var attempts = 0;
        var (port, stop) = Speaking((reader, writer) =>
        {
            writer.WriteLine("220 odd.example ESMTP");
            while (reader.ReadLine() is { } line)
            {
                if (line.StartsWith("EHLO", StringComparison.Ordinal)) { writer.WriteLine("250-odd.example"); writer.WriteLine("250 8BITMIME"); }
                else if (line == "DATA")
                {
                    writer.WriteLine("354 go on");
                    // The first time it closes after ten lines, the second time after the end of the message, then it takes it.
                    var lines = 0;
                    while (reader.ReadLine() is { } body && body != ".") if (++lines == 10 && attempts == 0) { attempts++; return; }
                    if (attempts++ < 2) return;
                    writer.WriteLine("250 2.0.0 taken");
                }
                else if (line == "QUIT") return;
                else writer.WriteLine("250 fine");
            }
        });
        using (stop)
        {
            // Larger than what lies on the way: the server is gone while most of it is still here.
            var file = JsonNode.Parse(await (await api.Client.PostAsync("/api/mail-files?name=photo.jpg", new ByteArrayContent(RandomNumberGenerator.GetBytes(6_500_000)))).Content.ReadAsStringAsync())!;
            var drop = await world.Drop(more: new { attachments = new object[] { new { kind = "file", file = (string)file["file"]!, name = "photo.jpg", size = 6_500_000 } } });
            var run = await api.Post($"/api/drops/{drop}/runs", new { output = "email", pieces = "1", accountId = await Account(port, "none") });
            var paused = await world.Until(run, "paused");
            Assert.Contains(paused["log"]!.AsArray(), l => ((string)l!["text"]!).Contains("before the message was whole", StringComparison.Ordinal));
            Assert.Equal(1, (int)paused["mails"]!["doubt"]!);
            await api.Post($"/api/runs/{run["id"]}/settle-mail", new { recipientId = (await api.Recipients(drop))[0].Id, sent = false });
            await api.Post($"/api/runs/{run["id"]}/resume", new { });
            Assert.Equal(1, (int)(await world.Until(run, "done"))["mails"]!["sent"]!);
            Assert.Equal(3, attempts);
        }
    }

    [Fact]
    public async Task Letters_beyond_ascii_need_a_server_that_takes_them_and_hostile_values_stay_values()
    {
        var drop = await world.Drop("First,Last,Email\r\n\"Ana\r\nBcc: all@example.org\",\"O'Neill \"\"Bo\"\"\",\"o'neill+fern@example.org\"\r\nJörg,Groß,jörg@gärtnerei.example\r\n<script>alert(1)</script>,Tan,tan@example.org\r\n", new { subject = "For {First} {Last}", attachments = Array.Empty<object>() });
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
        var (port, stop) = Speaking((reader, writer) =>
        {
            writer.WriteLine("220 plain.example ESMTP");
            while (reader.ReadLine() is { } line && line != "QUIT") writer.WriteLine(line.StartsWith("EHLO", StringComparison.Ordinal) ? "250 plain.example" : line == "DATA" ? "354 go on" : "250 fine");
        });
        using (stop)
        {
            var other = await world.Drop("First,Last,Email\r\nJörg,Groß,jörg@example.org\r\n", new { attachments = Array.Empty<object>() });
            var done = await world.Until(await api.Post($"/api/drops/{other}/runs", new { output = "email", accountId = await Account(port, "none") }), "done");
            Assert.Equal(1, (int)done["mails"]!["refused"]!);
            Assert.Contains("SMTPUTF8", (string)(await api.Get($"/api/runs/{done["run"]!["id"]}/pieces"))["rows"]![0]!["words"]!);
        }
    }
}

/// <summary>The server as a process of its own, killed while it sends.</summary>
public sealed class MailCrashTests : IDisposable
{
    const int People = 400;
    readonly string data = Directory.CreateTempSubdirectory("bandeja-mail-crash").FullName;
    Process? server;
    HttpClient http = null!;

    public void Dispose()
    {
        server?.Kill();
        server?.WaitForExit();
        http?.Dispose();
        Directory.Delete(data, true);
    }

    async Task Start()
    {
        server = Process.Start(new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Bandeja.Server.dll"), "--data", data, "--port", "0"]) { RedirectStandardOutput = true })!;
        string? line;
        do line = await server.StandardOutput.ReadLineAsync();
        while (line is not null && !line.StartsWith("Bandeja is at ", StringComparison.Ordinal));
        http = new HttpClient { BaseAddress = new Uri(line!["Bandeja is at ".Length..]) };
    }

    async Task<JsonNode> Get(string path) => JsonNode.Parse(await http.GetStringAsync(path))!;
    async Task<JsonNode> Post(string path, object body) => JsonNode.Parse(await (await http.PostAsJsonAsync(path, body)).Content.ReadAsStringAsync())!;

    static readonly int Kills = int.TryParse(Environment.GetEnvironmentVariable("BANDEJA_KILLS"), out var n) ? n : 6;

    [Fact]
    public async Task Killed_at_any_instant_nobody_gets_it_twice_and_only_what_was_in_the_air_is_in_doubt()
    {
        await Start();
        await http.PutAsJsonAsync("/api/settings/organisation", new { name = "Garden", locale = "en-US", currency = "USD", countryLine = "Abroad", postalAddress = "18 Quay Road", publicAddress = "" });
        var upload = JsonNode.Parse(await (await http.PostAsync("/api/uploads?name=m.csv", new ByteArrayContent(Encoding.UTF8.GetBytes("First,Email\r\n" + string.Concat(Enumerable.Range(1, People).Select(i => $"Given{i},member{i}@example.org\r\n")))))).Content.ReadAsStringAsync())!;
        var columns = new[] { new { position = 0, name = "First", type = "Text", dateOrder = "YearMonthDay", role = "GivenName" }, new { position = 1, name = "Email", type = "Text", dateOrder = "YearMonthDay", role = "Email" } };
        var job = await Post($"/api/uploads/{upload["id"]}/list", new { name = "Members", width = 2, columns, options = new { headingRow = 0, encoding = "utf-8", delimiter = ",", sheet = (string?)null } });
        JsonNode brought;
        do brought = await Get($"/api/jobs/{job["jobId"]}");
        while ((string)brought["state"]! is "queued" or "running");
        var list = (long)JsonNode.Parse((string)brought["message"]!)!["listId"]!;
        var email = (long)await Post("/api/designs", new JsonObject { ["name"] = "Email", ["listId"] = list, ["document"] = MailWorld.Design(null, "Dear {First},") });
        var drop = (long)await Post("/api/drops", new { name = "Notice", listId = list, designIds = new[] { email }, campaignName = "Renewal" });
        while ((bool)(await Get($"/api/drops/{drop}"))["checking"]!) await Task.Delay(20);
        var account = (long)(await Get("/api/mail-accounts"))[0]!["id"]!;
        var run = (long)(await Post($"/api/drops/{drop}/runs", new { output = "email", accountId = account }))["id"]!;
        var random = new Random(20270301);
        for (var kill = 0; kill < Kills; kill++)
        {
            await Task.Delay(random.Next(5, 120));
            server!.Kill();
            await server.WaitForExitAsync();
            await Start();
            var state = (string)(await Get($"/api/runs/{run}"))["state"]!;
            if (state is "done") break;
            if (state is "paused") await Settle(run);
        }
        for (var i = 0; i < 2000; i++)
        {
            var state = (string)(await Get($"/api/runs/{run}"))["state"]!;
            if (state == "done") break;
            if (state == "paused") await Settle(run);
            await Task.Delay(20);
        }
        Assert.Equal("done", (string)(await Get($"/api/runs/{run}"))["state"]!);
        Assert.Equal(People, (int)(await Get($"/api/drops/{drop}"))["trays"]!["mailed"]!);
        // The post office's own record: everybody once.
        using var connection = new SqliteConnection($"Data Source={Path.Combine(data, "post-office.sqlite")};Mode=ReadOnly;Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT recipients, count(*) FROM message GROUP BY recipients";
        var got = new Dictionary<string, long>();
        using (var reader = command.ExecuteReader()) while (reader.Read()) got[reader.GetString(0)] = reader.GetInt64(1);
        Assert.Equal(People, got.Count);
        Assert.All(got.Values, n => Assert.Equal(1, n));
        Assert.Equal(People, (await http.GetStringAsync($"/api/ledger.csv?dropId={drop}")).Split(",Mailed,1,").Length - 1);
    }

    /// <summary>Somebody looks in the inbox for each that is in doubt, and says what they see.</summary>
    async Task Settle(long run)
    {
        foreach (var piece in (await Get($"/api/runs/{run}/pieces?mail=doubt&limit=1000"))["rows"]!.AsArray())
        {
            var found = (await Get($"/api/post-office/messages?search={Uri.EscapeDataString((string)piece!["address"]!)}&limit=1000"))["rows"]!.AsArray();
            await http.PostAsJsonAsync($"/api/runs/{run}/settle-mail", new { recipientId = (long)piece["recipientId"]!, sent = found.Any(m => (string)m!["recipients"]! == (string)piece["address"]!) });
        }
        await http.PostAsJsonAsync($"/api/runs/{run}/resume", new { });
    }
}
