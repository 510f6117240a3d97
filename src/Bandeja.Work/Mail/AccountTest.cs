using System.Net;
using System.Net.Sockets;
using Bandeja.Store;
using Bandeja.Store.Mail;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;

namespace Bandeja.Work.Mail;

/// <summary>A step of the test of an account.</summary>
/// <param name="State">right, wrong, or not tried: an earlier one was wrong, or it cannot be told from here.</param>
/// <param name="Words">What was found.</param>
/// <param name="Help">What usually helps; null where nothing is to be helped.</param>
public sealed record TestStep(string Name, string State, string Words, string? Help)
{
    /// <summary>The state of a step that was not done, or whose answer cannot be told from here.</summary>
    public const string NotTried = "Not tested";
}

/// <summary>Tries an account out, step by step, so that what does not work is told at the step at which it does not.</summary>
public sealed class AccountTest(
    PostOffice postOffice,
    MailSecrets secrets,
    PublicAddress address,
    MailHosts hosts,
    DomainRecords domains,
    BounceMailboxes mailboxes,
    BounceReading bounces,
    TimeProvider time
)
{
    static readonly string[] Names = ["Name", "Connection", "Encryption", "Sign-in", "Sender accepted", "Test message"];
    static readonly TimeSpan Patience = TimeSpan.FromSeconds(15);

    /// <summary>Does the steps.</summary>
    /// <param name="sender">The address to send from.</param>
    /// <param name="to">Where the message to oneself goes.</param>
    public async Task<IReadOnlyList<TestStep>> Run(MailAccountRow account, string sender, string to, CancellationToken cancel)
    {
        var steps = new List<TestStep>();
        // The domain is checked even if the mail server cannot be reached, because the two are fixed in different places.
        var records =
            account.Kind == "practice"
                ? Task.FromResult(
                    DomainRecords.NotTried("The practice post office delivers nothing, so the sender's domain is not checked.")
                )
                : domains.Look(sender, cancel);
        var mailbox = mailboxes.Of(account.Id);
        // Bounces go to the envelope's sender, so that is the one the server has to take.
        var back = mailbox?.ReturnAddress ?? sender;
        var (host, port) = MailLink.Place(account, postOffice.Port);
        using var client = new Trying(address.Greeting);
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        using var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        async Task<bool> Step(string name, Func<Task<string>> act, Func<Exception, string> help)
        {
            patience.CancelAfter(Patience);
            try
            {
                steps.Add(new(name, "right", await act(), null));
                return true;
            }
            catch (Exception e) when (MailLink.IsOfTheServer(e) && !cancel.IsCancellationRequested)
            {
                steps.Add(new(name, "wrong", MailLink.Words(e), help(e)));
                return false;
            }
            catch (ConflictException e)
            {
                steps.Add(new(name, "wrong", e.Message, null));
                return false;
            }
        }
        IPAddress[] addresses = [];
        var going = await Step(
            "Name",
            async () =>
            {
                // The practice post office is this program itself.
                addresses =
                    account.Kind == "practice"
                        ? await Dns.GetHostAddressesAsync(host, patience.Token)
                        : await hosts.Of(host, patience.Token);
                return $"{host} is at {string.Join(", ", addresses.Take(3).Select(a => a.ToString()))}.";
            },
            _ =>
                "Check the spelling of the server name. Your provider lists it as “outgoing server” or “SMTP server.” Without a "
                + "network no name is found."
        );
        going =
            going
            && await Step(
                "Connection",
                async () =>
                {
                    await socket.ConnectAsync(addresses, port, patience.Token);
                    return $"Port {port} is responding.";
                },
                _ => "Check the port. Usual settings are 587 with STARTTLS or 465 with TLS. A firewall may block port 25."
            );
        going =
            going
            && await Step(
                "Encryption",
                async () =>
                {
                    await client.ConnectAsync(socket, host, port, MailLink.Security(account), patience.Token);
                    return client.IsSecure ? $"Encrypted with {client.SslProtocol}; the certificate is trusted."
                        : account.Kind == "practice" ? "Not encrypted, because the practice post office is on this computer."
                        : "Not encrypted (account setting). Others on the network can read passwords and messages.";
                },
                e =>
                    e is SslHandshakeException { ServerCertificate: not null }
                        ? "The certificate is not accepted, so nothing is sent. Use the very name that the certificate is for; "
                            + "if the server is your own, have its certificate signed by an authority this computer trusts."
                    : e is NotSupportedException ? "Choose TLS with port 465, or ask the provider."
                    : "The port and the encryption do not match: 465 needs TLS and 587 needs STARTTLS. Or "
                        + "the server on this port is not a mail server."
            );
        going =
            going
            && await Step(
                "Sign-in",
                async () =>
                {
                    if (account.UserName is not { Length: > 0 } user)
                        return "This account does not sign in.";
                    if (!MailLink.MayAuthenticate(account, client))
                        throw new AuthenticationException(MailLink.OpenLine);
                    await client.AuthenticateAsync(user, secrets.Open(account) ?? "", patience.Token);
                    return $"Signed in as {user}.";
                },
                _ =>
                    "Check the user name and password. Many providers require an app password, which differs from the one people "
                    + "sign in with."
            );
        going =
            going
            && await Step(
                "Sender accepted",
                async () => await client.Sender(back, patience.Token),
                _ =>
                    $"The server does not let this account send as {back}. Use an address that belongs to the account, or have the "
                    + "server's owner allow it."
            );
        if (going)
            await Step(
                "Test message",
                async () =>
                {
                    var message = new MimeMessage
                    {
                        Subject = "Test message",
                        Body = new TextPart("plain") { Text = $"The account “{account.Name}” works: this message went through it.\r\n" },
                        Date = time.GetLocalNow(),
                        MessageId = $"test.{Guid.NewGuid():N}@{sender[(sender.LastIndexOf('@') + 1)..]}",
                    };
                    message.From.Add(new MailboxAddress(null, sender));
                    message.To.Add(new MailboxAddress(null, to));
                    var words = await client.SendAsync(
                        message,
                        new MailboxAddress(null, back),
                        [new MailboxAddress(null, to)],
                        patience.Token
                    );
                    await client.DisconnectAsync(true, patience.Token);
                    return $"Sent to {to}. Server reply: {words}";
                },
                _ =>
                    "The server took the sender and not the message. Its words usually say why: a limit, a filter, an address it "
                    + "does not know."
            );
        steps.AddRange(Names.Skip(steps.Count).Select(n => new TestStep(n, TestStep.NotTried, "", null)));
        // The mailbox is another server: it is tried whatever became of the first.
        if (mailbox is not null)
            await Step(
                "Bounce mailbox",
                async () => $"Opened {mailbox.Folder}, which holds {await bounces.Count(mailbox, patience.Token):N0} messages.",
                _ =>
                    "Check the mailbox’s server, port, user, and password. Many providers require an app password, and "
                    + "some have IMAP turned off until you turn it on."
            );
        return [.. steps, .. await records];
    }

    /// <summary>A client that can ask for one sender alone.</summary>
    sealed class Trying : SmtpClient
    {
        public Trying(string name)
        {
            Timeout = 15_000;
            CheckCertificateRevocation = false;
            LocalDomain = name;
        }

        /// <summary>Asks whether the server takes a sender, and takes the question back.</summary>
        public async Task<string> Sender(string address, CancellationToken cancel)
        {
            var answer = await SendCommandAsync($"MAIL FROM:<{address}>", cancel);
            if ((int)answer.StatusCode >= 400)
                throw new SmtpCommandException(
                    SmtpErrorCode.SenderNotAccepted,
                    answer.StatusCode,
                    new MailboxAddress(null, address),
                    answer.Response
                );
            await SendCommandAsync("RSET", cancel);
            return $"The server accepts {address} as the sender.";
        }
    }
}
