using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using MailKit.Net.Smtp;
using MimeKit;

namespace Bandeja.Server.Tests;

/// <summary>Bounces are fetched from a mailbox by IMAP, matched with what they are about, and nothing else in the mailbox counts.</summary>
public sealed class BounceTests : ServerTests
{
    MailWorld world = null!;

    public override async ValueTask InitializeAsync()
    {
        await api.InitializeAsync();
        world = new(api);
    }

    async Task Arrives(string to, string from, string subject, string text, params (string Name, string Value)[] headers)
    {
        var message = new MimeMessage
        {
            Subject = subject,
            Body = new TextPart("plain") { Text = text },
        };
        message.From.Add(MailboxAddress.Parse(from));
        message.To.Add(MailboxAddress.Parse(to));
        foreach (var (name, value) in headers)
            message.Headers.Add(name, value);
        using var client = new SmtpClient();
        await client.ConnectAsync(
            "127.0.0.1",
            (int)(await api.Get("/api/post-office"))["port"]!,
            MailKit.Security.SecureSocketOptions.None
        );
        await client.SendAsync(message, MailboxAddress.Parse(from), [MailboxAddress.Parse(to)]);
        await client.DisconnectAsync(true);
    }

    static object Mailbox(object? more = null)
    {
        var order = new JsonObject
        {
            ["host"] = "imap.example.org",
            ["port"] = 993,
            ["tls"] = "tls",
            ["userName"] = "bounces",
        };
        foreach (var p in System.Text.Json.JsonSerializer.SerializeToNode(more ?? new { })!.AsObject())
            order[p.Key] = p.Value?.DeepClone();
        return order;
    }

    Task<JsonNode> Read(long account) => api.Post($"/api/mail-accounts/{account}/mailbox/read", new { });

    /// <summary>Reads until the mailbox has nothing new; answers how many new reports there were.</summary>
    async Task<int> Reports(long account)
    {
        await Read(account);
        return (int)(await api.Get($"/api/mail-accounts/{account}/mailbox"))["reports"]!;
    }

    [Fact]
    public async Task Each_message_has_a_return_address_by_which_a_bounce_in_any_form_is_matched()
    {
        var drop = await world.Drop();
        var account = await world.Account();
        await api.Put($"/api/mail-accounts/{account}/mailbox", Mailbox(new { returnAddress = "bounces@example.org", ownAddress = true }));
        await world.Until(await world.Begin(drop), "done");
        var sent = (await api.Get("/api/post-office/messages?limit=100"))["rows"]!
            .AsArray()
            .ToDictionary(m => (string)m!["recipients"]!, m => (string)m!["sender"]!);
        Assert.Equal(3, sent.Values.Distinct().Count());
        Assert.All(sent.Values, s => Assert.Matches(@"^bounces\+[0-9a-z.]+@example\.org$", s));

        // Not one of them is about a message that failed: an answer from somebody who is away, and a letter that a person wrote.
        await Arrives(sent["ana@example.org"], "ana@example.org", "Away until Monday", "I am away.", ("Auto-Submitted", "auto-replied"));
        await Arrives(
            sent["ana@example.org"],
            "postmaster@example.org",
            "Away until Monday",
            "Ana is away.",
            ("Auto-Submitted", "auto-replied (vacation)")
        );
        await Arrives("bounces@example.org", "dot@example.net", "A question", "<dot@example.net>: is that right?");
        Assert.Equal(0, await Reports(account));
        Assert.Equal(0, Api.Count(await api.Get($"/api/drops/{drop}"), "returned"));

        // A form that nobody knows, which names neither message nor address: the return address alone tells whose it was.
        await Arrives(
            sent["bea@example.org"],
            "mailer-daemon@elsewhere.example",
            "Zustellung fehlgeschlagen",
            "Das Postfach gibt es nicht."
        );
        Assert.Equal(1, await Reports(account));
        var report = Assert.Single((await api.Get($"/api/drops/{drop}/mail-reports")).AsArray())!;
        Assert.Equal(
            ("bea@example.org", "failed", "Zustellung fehlgeschlagen", 2, false),
            (
                (string)report["address"]!,
                (string)report["action"]!,
                (string)report["words"]!,
                (int)report["pieceNumber"]!,
                (bool)report["hard"]!
            )
        );
        Assert.Equal(1, Api.Count(await api.Get($"/api/drops/{drop}"), "returned"));
        // Read again, nothing is new; and the same bounce twice is one report.
        Assert.Equal(0, (int)(await Read(account))["messages"]!);
        await Arrives(
            sent["bea@example.org"],
            "mailer-daemon@elsewhere.example",
            "Zustellung fehlgeschlagen",
            "Das Postfach gibt es nicht."
        );
        Assert.Equal(1, await Reports(account));
    }

    [Fact]
    public async Task A_mailbox_that_cannot_be_read_says_why_and_is_read_from_where_it_was_once_it_can()
    {
        var drop = await world.Drop();
        var account = await world.Account();
        await world.Tell("report", "bea@example.org");
        await api.Put($"/api/mail-accounts/{account}/mailbox", Mailbox(new { folder = "Returned mail" }));
        await world.Until(await world.Begin(drop), "done");
        Assert.Contains("no folder “Returned mail”", (string)(await Read(account))["problem"]!);
        Assert.Contains("no folder “Returned mail”", (string)(await api.Get($"/api/mail-accounts/{account}/mailbox"))["problem"]!);
        Assert.Empty((await api.Get($"/api/drops/{drop}/mail-reports")).AsArray());
        var tried = (
            await api.Post($"/api/mail-accounts/{account}/test", new { from = "office@example.org", to = "me@example.org" })
        ).AsArray();
        Assert.Equal("wrong", (string)tried.Single(s => (string)s!["name"]! == "Bounce mailbox")!["state"]!);

        await api.Put($"/api/mail-accounts/{account}/mailbox", Mailbox());
        Assert.Equal(1, await Reports(account));
        var now = await api.Get($"/api/mail-accounts/{account}/mailbox");
        Assert.Null(now["problem"]);
        Assert.Single((await api.Get($"/api/drops/{drop}/mail-reports")).AsArray());
        tried = (
            await api.Post($"/api/mail-accounts/{account}/test", new { from = "office@example.org", to = "me@example.org" })
        ).AsArray();
        Assert.Equal("right", (string)tried.Single(s => (string)s!["name"]! == "Bounce mailbox")!["state"]!);
    }

    [Theory]
    [InlineData("none", null, false, "TLS or STARTTLS")]
    [InlineData("tls", null, true, "Enter the return address")]
    [InlineData("tls", "nobody", false, "not an email address")]
    [InlineData("tls", "a-rather-long-name-for-returns@example.org", true, "24 characters")]
    public async Task What_cannot_be_is_refused(string tls, string? returnAddress, bool ownAddress, string why)
    {
        var account = (long)
            await api.Post(
                "/api/mail-accounts",
                new
                {
                    name = "Garden office",
                    host = "127.0.0.1",
                    port = 587,
                    tls = "tls",
                }
            );
        var (status, detail) = await Api.Refusal(
            api.Client.PutAsJsonAsync(
                $"/api/mail-accounts/{account}/mailbox",
                Mailbox(
                    new
                    {
                        tls,
                        returnAddress,
                        ownAddress,
                    }
                )
            )
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains(why, detail);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/mail-accounts/{account}/mailbox/read", new { }))).Status
        );
    }

    [Fact]
    public async Task The_password_is_kept_encrypted_and_forgotten_with_the_server()
    {
        var account = (long)
            await api.Post(
                "/api/mail-accounts",
                new
                {
                    name = "Garden office",
                    host = "127.0.0.1",
                    port = 587,
                    tls = "tls",
                }
            );
        await api.Put(
            $"/api/mail-accounts/{account}/mailbox",
            Mailbox(
                new
                {
                    host = "127.0.0.1",
                    port = 9,
                    password = "s3cret-of-the-garden",
                }
            )
        );
        var shown = await api.Get($"/api/mail-accounts/{account}/mailbox");
        Assert.True((bool)shown["hasPassword"]!);
        Assert.DoesNotContain("s3cret", shown.ToJsonString());
        Assert.DoesNotContain(api.DatabaseFiles(), f => f.AsSpan().IndexOf("s3cret-of-the-garden"u8) >= 0);
        Assert.NotNull((string?)(await Read(account))["problem"]);
        await api.Put(
            $"/api/mail-accounts/{account}/mailbox",
            Mailbox(
                new
                {
                    host = "127.0.0.1",
                    port = 9,
                    everyMinutes = 5,
                }
            )
        );
        Assert.True((bool)(await api.Get($"/api/mail-accounts/{account}/mailbox"))["hasPassword"]!);
        // Another server is another mailbox: it must not be handed the password of the first.
        await api.Put($"/api/mail-accounts/{account}/mailbox", Mailbox(new { host = "127.0.0.2", port = 9 }));
        Assert.False((bool)(await api.Get($"/api/mail-accounts/{account}/mailbox"))["hasPassword"]!);
    }
}
