using System.Net.Sockets;
using Bandeja.Store;
using Bandeja.Store.Mail;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;

namespace Bandeja.Work.Mail;

/// <summary>What became of handing a message over.</summary>
public enum HandOver
{
    /// <summary>The server took it (a reply of the 200s).</summary>
    Sent,

    /// <summary>The server put it off (a reply of the 400s), or the connection ended before the message was whole: the server has nothing
    /// of it.</summary>
    Later,

    /// <summary>The server refused it for good (a reply of the 500s).</summary>
    Refused,

    /// <summary>The connection ended after all was handed over and before the answer: nobody knows.</summary>
    Doubt,

    /// <summary>The server was not asked: it does not offer what such an address needs.</summary>
    NotPossible,

    /// <summary>The server could not be reached, or did not let us in or send as this sender: the message was not begun.</summary>
    NotBegun,
}

/// <summary>What the server said.</summary>
/// <param name="Address">The address that was refused, where it was one.</param>
public sealed record HandOverResult(HandOver Outcome, string Words, string? Address = null);

/// <summary>A connection of an account to its server; made when it is needed, and anew where it was lost. Serves one thread.</summary>
/// <param name="hosts">Where servers may be.</param>
/// <param name="name">By which we greet the server (RFC 5321, section 4.1.1.1).</param>
public sealed class MailLink(MailAccountRow account, string? password, int practicePort, string name, MailHosts hosts) : IDisposable
{
    readonly EndOfData watch = new();
    SmtpClient? open;
    SmtpClient Client => open ??= NewClient(name, watch);

    /// <summary>A client that waits no longer than two minutes for an answer (RFC 5321, section 4.5.3.2, allows ten for the last; nobody
    /// waits so long at a screen).</summary>
    /// <remarks>Certificates are checked in full but for their being called back: that asks a third party, which many mail servers'
    /// certificates name none for.</remarks>
    public static SmtpClient NewClient(string name, IProtocolLogger? logger = null) =>
        new(logger ?? new NullProtocolLogger())
        {
            Timeout = 120_000,
            CheckCertificateRevocation = false,
            LocalDomain = name,
        };

    /// <summary>Where the account's server is.</summary>
    public static (string Host, int Port) Place(MailAccountRow account, int practicePort) =>
        account.Kind == "practice" ? ("127.0.0.1", practicePort) : (account.Host, (int)account.Port);

    /// <summary>How the account's server speaks. TLS is never given up quietly: where it is wanted and cannot be had, nothing is
    /// sent.</summary>
    public static SecureSocketOptions Security(MailAccountRow account) =>
        account.Kind == "practice"
            ? SecureSocketOptions.None
            : account.Tls switch
            {
                "tls" => SecureSocketOptions.SslOnConnect,
                "starttls" => SecureSocketOptions.StartTls,
                _ => SecureSocketOptions.None,
            };

    /// <summary>Why nothing is sent where a password would go over an open line.</summary>
    public const string OpenLine =
        "The connection is not encrypted, and a password is never sent over such a connection. Choose STARTTLS or TLS for the account, "
        + "or remove its user and password.";

    /// <summary>True where a user and a password may be sent: the practice post office is this program itself.</summary>
    public static bool MayAuthenticate(MailAccountRow account, SmtpClient client) => account.Kind == "practice" || client.IsSecure;

    /// <summary>Hands a message over and waits for the answer.</summary>
    public HandOverResult Send(MimeMessage message, MailboxAddress sender, IReadOnlyList<MailboxAddress> recipients)
    {
        var client = Client;
        try
        {
            if (!client.IsConnected)
            {
                var (host, port) = Place(account, practicePort);
                // The client closes the socket with itself.
                var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
                try
                {
                    if (account.Kind == "practice")
                        socket.Connect(host, port);
                    else
                        socket.Connect(hosts.Of(host, CancellationToken.None).GetAwaiter().GetResult(), port);
                }
                catch (ConflictException e)
                {
                    socket.Dispose();
                    return new(HandOver.NotBegun, e.Message);
                }
                catch (SocketException)
                {
                    socket.Dispose();
                    throw;
                }
                client.Connect(socket, host, port, Security(account));
                // With DATA the end of a message can be told from its bytes, which with BDAT (RFC 3030) it cannot.
                client.Capabilities &= ~SmtpCapabilities.Chunking;
                if (account.UserName is { Length: > 0 } user)
                {
                    if (!MayAuthenticate(account, client))
                    {
                        Drop();
                        return new(HandOver.NotBegun, OpenLine);
                    }
                    client.Authenticate(user, password ?? "");
                }
            }
        }
        catch (Exception e) when (IsOfTheServer(e))
        {
            Drop();
            return new(HandOver.NotBegun, Words(e));
        }
        if (
            recipients.Append(sender).Any(r => !System.Text.Ascii.IsValid(r.Address)) && !client.Capabilities.HasFlag(SmtpCapabilities.UTF8)
        )
            return new(
                HandOver.NotPossible,
                "Not sent: this mail server takes only addresses of plain ASCII letters; it does not offer SMTPUTF8. Send this one "
                    + "through an account whose server does.",
                recipients.FirstOrDefault(r => !System.Text.Ascii.IsValid(r.Address))?.Address
            );
        watch.Begin();
        try
        {
            var words = client.Send(message, sender, recipients);
            return new(HandOver.Sent, words);
        }
        catch (SmtpCommandException e)
        {
            var code = (int)e.StatusCode;
            // 421 says that the server is closing: the link is of no more use (RFC 5321, section 3.8).
            if (code == 421 || !client.IsConnected)
                Drop();
            // That is about the account and not about the recipient: nobody's address is to blame for it.
            if (code >= 500 && e.ErrorCode == SmtpErrorCode.SenderNotAccepted)
                return new(HandOver.NotBegun, $"The server does not let this account send as {sender.Address}: {code} {e.Message.Trim()}");
            return new(code is >= 400 and < 500 ? HandOver.Later : HandOver.Refused, $"{code} {e.Message.Trim()}", e.Mailbox?.Address);
        }
        catch (ServiceNotAuthenticatedException)
        {
            Drop();
            return new(HandOver.NotBegun, "The server requires a user name and password.");
        }
        catch (Exception e) when (IsOfTheServer(e))
        {
            Drop();
            // A message without its end is none, and the server must drop it (RFC 5321, section 4.1.1.4). Only where all of it was handed
            // over can it have been taken.
            return watch.IsWhole
                ? new(HandOver.Doubt, $"The connection ended before the server responded. {Words(e)}")
                : new(HandOver.Later, $"The connection ended before the whole message was sent. {Words(e)}");
        }
    }

    void Drop()
    {
        open?.Dispose();
        open = null;
    }

    /// <summary>True for what a server, the way to it, or its certificate can bring about.</summary>
    public static bool IsOfTheServer(Exception e) =>
        e
            is IOException
                or SocketException
                or ProtocolException
                or CommandException
                or SslHandshakeException
                or AuthenticationException
                or ServiceNotConnectedException
                or ServiceNotAuthenticatedException
                or OperationCanceledException
                or TimeoutException
                or NotSupportedException
                or ObjectDisposedException;

    /// <summary>What went wrong, in a sentence.</summary>
    public static string Words(Exception e) =>
        e switch
        {
            SslHandshakeException ssl => $"The server's certificate is not trusted: {Certificate(ssl)}",
            AuthenticationException { Message: OpenLine } => OpenLine,
            AuthenticationException => $"The server did not accept the user and password: {e.Message.Trim()}",
            SmtpCommandException command => $"{(int)command.StatusCode} {command.Message.Trim()}",
            SocketException { SocketErrorCode: SocketError.HostNotFound or SocketError.NoData or SocketError.TryAgain } =>
                "The server name was not found.",
            SocketException { SocketErrorCode: SocketError.ConnectionRefused } => "The server is not responding on this port.",
            SocketException { SocketErrorCode: SocketError.TimedOut } or TimeoutException or OperationCanceledException =>
                "The server did not respond in time.",
            NotSupportedException => "The server does not offer STARTTLS.",
            ProtocolException or IOException => "The server closed the connection.",
            _ => e.Message.Trim(),
        };

    static string Certificate(SslHandshakeException e)
    {
        var of = e.ServerCertificate is System.Security.Cryptography.X509Certificates.X509Certificate2 c
            ? $"“{c.Subject}”, valid until {c.NotAfter:yyyy-MM-dd}"
            : "the server did not provide one";
        var why =
            e.Message.Contains("expired", StringComparison.OrdinalIgnoreCase)
            && e.ServerCertificate is System.Security.Cryptography.X509Certificates.X509Certificate2 old
            && old.NotAfter < DateTime.Now
                ? "it has expired"
            : e.Message.Contains("name", StringComparison.OrdinalIgnoreCase)
            && e.Message.Contains("match", StringComparison.OrdinalIgnoreCase)
                ? "it is for another name"
            : "it is not from a trusted authority";
        return $"{why} ({of}).";
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        try
        {
            if (open is { IsConnected: true })
                open.Disconnect(true);
        }
        catch (Exception e) when (IsOfTheServer(e)) { } // it is gone already
        open?.Dispose();
    }

    /// <summary>Sees whether the end of a message, a line of nothing but a full stop (RFC 5321, section 4.1.1.4), has gone out.</summary>
    sealed class EndOfData : IProtocolLogger
    {
        static ReadOnlySpan<byte> Command => "DATA\r\n"u8;
        static ReadOnlySpan<byte> End => "\r\n.\r\n"u8;
        readonly byte[] tail = new byte[5];
        bool inData;

        /// <summary>True where all of the message is out.</summary>
        public bool IsWhole => inData && tail.AsSpan().SequenceEqual(End);
        public IAuthenticationSecretDetector? AuthenticationSecretDetector { get; set; }

        public void Begin()
        {
            inData = false;
            tail.AsSpan().Clear();
        }

        public void LogClient(byte[] buffer, int offset, int count)
        {
            var bytes = buffer.AsSpan(offset, count);
            if (!inData)
            {
                inData = bytes.EndsWith(Command);
                return;
            }
            if (bytes.Length >= 5)
            {
                bytes[^5..].CopyTo(tail);
                return;
            }
            tail.AsSpan(bytes.Length).CopyTo(tail);
            bytes.CopyTo(tail.AsSpan(5 - bytes.Length));
        }

        public void LogConnect(Uri uri) { }

        public void LogServer(byte[] buffer, int offset, int count) { }

        public void Dispose() { }
    }
}
