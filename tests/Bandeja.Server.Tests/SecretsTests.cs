using System.Net;
using System.Net.Http.Json;
using Bandeja.Work.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;

namespace Bandeja.Server.Tests;

/// <summary>Passwords go where they were meant to go, files are their owner's, and the server is reached by whom it may be
/// reached.</summary>
[System.Runtime.Versioning.SupportedOSPlatform("linux")]
public sealed class SecretsTests : ServerTests
{
    static object Account(
        string host = "smtp.example.org",
        int port = 587,
        string tls = "starttls",
        string? userName = "garden",
        string? password = null,
        string name = "Garden"
    ) =>
        new
        {
            name,
            host,
            port,
            tls,
            userName,
            password,
            perMinute = 0,
            perDay = 0,
            connections = 1,
            firstWait = 60,
        };

    async Task<bool> HasPassword(long id) =>
        (bool)(await api.Get("/api/mail-accounts")).AsArray().Single(a => (long)a!["id"]! == id)!["hasPassword"]!;

    [Theory]
    [InlineData("evil.example.net", 587, "starttls", "garden", false)]
    [InlineData("smtp.example.org", 2525, "starttls", "garden", false)]
    [InlineData("smtp.example.org", 587, "starttls", "other", false)]
    [InlineData("smtp.example.org", 587, "tls", "garden", true)]
    [InlineData("SMTP.example.org", 587, "starttls", "garden", true)]
    public async Task A_password_is_dropped_when_it_would_go_to_another_server(string host, int port, string tls, string user, bool stays)
    {
        var id = (long)await api.Post("/api/mail-accounts", Account(password: "fern-9"));
        Assert.True(await HasPassword(id));
        await api.Put($"/api/mail-accounts/{id}", Account(host, port, tls, user));
        Assert.Equal(stays, await HasPassword(id));
    }

    [Fact]
    public async Task A_password_is_dropped_where_the_encryption_becomes_weaker_and_none_is_taken_for_an_open_line()
    {
        var id = (long)await api.Post("/api/mail-accounts", Account(tls: "tls", port: 465, password: "fern-9"));
        await api.Put($"/api/mail-accounts/{id}", Account(tls: "starttls", port: 465));
        Assert.False(await HasPassword(id));
        var (status, detail) = await Api.Refusal(
            api.Client.PutAsJsonAsync($"/api/mail-accounts/{id}", Account(tls: "none", password: "x"))
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("never sent without encryption", detail);
        await api.Put($"/api/mail-accounts/{id}", Account(tls: "none", userName: null));
    }

    [Fact]
    public void The_data_folder_is_its_owners_and_so_is_what_is_written_later()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-modes").FullName;
        try
        {
            var old = Path.Combine(Directory.CreateDirectory(Path.Combine(folder, "runs")).FullName, "1.pdf");
            File.WriteAllText(old, "x");
            const UnixFileMode open =
                UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute | UnixFileMode.GroupRead | UnixFileMode.OtherRead;
            File.SetUnixFileMode(old, open);
            File.SetUnixFileMode(folder, open);
            PrivateFolder.Make(folder);
            var late = Path.Combine(folder, "late");
            File.WriteAllText(late, "x");
            Directory.CreateDirectory(Path.Combine(folder, "later"));
            const UnixFileMode file = UnixFileMode.UserRead | UnixFileMode.UserWrite;
            Assert.Equal([file, file], [File.GetUnixFileMode(old), File.GetUnixFileMode(late)]);
            Assert.All(
                [folder, Path.Combine(folder, "runs"), Path.Combine(folder, "later")],
                f => Assert.Equal(file | UnixFileMode.UserExecute, File.GetUnixFileMode(f))
            );
        }
        finally
        {
            Directory.Delete(folder, true);
        }
    }

    [Theory]
    [InlineData("127.0.0.1", null)]
    [InlineData("::1", null)]
    [InlineData("0.0.0.0", "Until Bandeja has user accounts")]
    [InlineData("192.0.2.7", "Until Bandeja has user accounts")]
    [InlineData("::", "Until Bandeja has user accounts")]
    [InlineData("everywhere", "must be an IP address")]
    public void Only_this_machine_is_listened_on(string listen, string? why)
    {
        if (why is null)
            Assert.Null(ServerOptions.Objection(listen));
        else
            Assert.Contains(why, ServerOptions.Objection(listen));
    }

    [Theory]
    [InlineData("Bandeja")]
    [InlineData("bandeja")]
    [InlineData("%20Bandeja%20")]
    [InlineData("Ban%E2%80%8Bdeja")] // with a space of no width
    [InlineData("%EF%BC%A2andeja")] // with a full-width B
    public async Task No_person_signs_as_the_program(string name)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/campaigns") { Content = JsonContent.Create(new { name = "x" }) };
        request.Headers.Add("X-Person", name);
        api.Client.DefaultRequestHeaders.Remove("X-Person");
        var (status, detail) = await Api.Refusal(api.Client.SendAsync(request));
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("Enter another name", detail);
    }

    [Theory]
    [InlineData("/api/lists")]
    [InlineData("/api/suppressions")]
    [InlineData("/api/ledger.csv")]
    [InlineData("/api/jobs")]
    [InlineData("/unsubscribe/x")]
    public async Task What_is_about_people_stays_in_no_cache(string path)
    {
        var answer = await api.Client.GetAsync(path);
        Assert.True(answer.Headers.CacheControl?.NoStore, $"{path}: {answer.Headers.CacheControl}");
    }

    static async Task Served(ServerOptions options, Func<HttpClient, Task> asked)
    {
        await using var app = Application.Build(options);
        await app.StartAsync();
        using (var client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) })
            await asked(client);
        await app.StopAsync();
    }

    [Fact]
    public async Task The_server_stops_while_a_browser_listens()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-stop").FullName;
        await using (var app = Application.Build(new(folder, Port: 0)))
        {
            await app.StartAsync();
            using var client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) };
            using var events = new StreamReader(await client.GetStreamAsync("/api/events"));
            Assert.StartsWith("event: here", await events.ReadLineAsync());
            var stopped = app.StopAsync();
            // The stream comes to its end. One that the server waits for, and breaks off after half a minute, would fail here.
            while (await events.ReadLineAsync() is not null) { }
            await stopped;
        }
        Directory.Delete(folder, true);
    }

    [Theory]
    [InlineData("10.1.2.3", true)]
    [InlineData("172.16.0.1", true)]
    [InlineData("172.32.0.1", false)]
    [InlineData("192.168.7.7", true)]
    [InlineData("100.64.0.1", true)]
    [InlineData("127.0.0.1", true)]
    [InlineData("127.255.0.9", true)]
    [InlineData("169.254.169.254", true)]
    [InlineData("0.0.0.0", true)]
    [InlineData("224.0.0.1", true)]
    [InlineData("198.51.100.7", false)]
    [InlineData("::1", true)]
    [InlineData("fd12::1", true)]
    [InlineData("fe80::1", true)]
    [InlineData("::ffff:10.1.2.3", true)]
    [InlineData("2001:db8::1", false)]
    public void What_lies_behind_the_server_is_known_by_its_address(string address, bool behind) =>
        Assert.Equal(behind, Bandeja.Work.Mail.MailHosts.IsBehind(IPAddress.Parse(address)));

    [Fact]
    public async Task The_test_of_an_account_tells_nothing_of_the_network_behind_unless_that_is_allowed()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-behind").FullName;
        using var open = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0);
        open.Start();
        var port = ((IPEndPoint)open.LocalEndpoint).Port;
        await Served(
            new(folder, Port: 0),
            async client =>
            {
                foreach (var host in new[] { "127.0.0.1", "localhost", "[::1]", "::ffff:127.0.0.1" })
                {
                    using var saved = await client.PostAsJsonAsync("/api/mail-accounts", Account(host, port, "none", null, name: host));
                    if (!saved.IsSuccessStatusCode)
                        continue;
                    var id = await saved.Content.ReadFromJsonAsync<long>();
                    using var tried = await client.PostAsJsonAsync(
                        $"/api/mail-accounts/{id}/test",
                        new { from = "office@example.org", to = "me@example.org" }
                    );
                    var steps = await tried.Content.ReadAsStringAsync();
                    Assert.DoesNotContain("Something answers", steps);
                    Assert.DoesNotContain("Nothing answers", steps);
                    if (host is "127.0.0.1" or "localhost")
                        Assert.Contains("is on this server's private network", steps);
                }
                Assert.False(open.Pending());
            }
        );
        Directory.Delete(folder, true);
    }

    [Fact]
    public async Task What_a_proxy_says_counts_only_where_it_was_named()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-proxy").FullName;
        foreach (var named in new[] { true, false })
        {
            await using var app = Application.Build(new(folder, Port: 0) { Proxies = named ? [IPAddress.Loopback] : [] });
            app.MapGet("/test/connection", (HttpContext c) => $"{c.Request.Scheme} {c.Connection.RemoteIpAddress}");
            await app.StartAsync(TestContext.Current.CancellationToken);
            using var client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) };
            using var asked = new HttpRequestMessage(HttpMethod.Get, "/test/connection");
            asked.Headers.Add("X-Forwarded-For", "203.0.113.9");
            asked.Headers.Add("X-Forwarded-Proto", "https");
            using var answer = await client.SendAsync(asked, TestContext.Current.CancellationToken);
            Assert.Equal(
                named ? "https 203.0.113.9" : "http 127.0.0.1",
                await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)
            );
            await app.StopAsync(TestContext.Current.CancellationToken);
        }
        Directory.Delete(folder, true);
    }

    [Fact]
    public async Task It_answers_under_the_names_it_was_given_and_speaks_tls_with_a_certificate_of_its_own()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-names").FullName;
        await Served(
            new(folder, Port: 0) { Names = ["mail.garden.example.org"], Proxies = [IPAddress.Loopback] },
            async client =>
            {
                async Task<HttpStatusCode> Under(string host)
                {
                    using var asked = new HttpRequestMessage(HttpMethod.Get, "/api/campaigns") { Headers = { Host = host } };
                    return (await client.SendAsync(asked)).StatusCode;
                }
                Assert.Equal(HttpStatusCode.OK, await Under("mail.garden.example.org"));
                Assert.Equal(HttpStatusCode.Forbidden, await Under("garden.example.org"));
            }
        );
        await Served(
            new(folder, Port: 0) { Certificate = TrustedCertificate.Own },
            async client =>
            {
                Assert.Equal("https", client.BaseAddress!.Scheme);
                Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/campaigns")).StatusCode);
            }
        );
        Directory.Delete(folder, true);
    }
}
