using System.Buffers;
using System.Net;
using System.Net.Sockets;
using Bandeja.Formats.Mail;
using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;
using MimeKit;
using SmtpServer;
using SmtpServer.Mail;
using SmtpServer.Protocol;
using SmtpServer.Storage;
using IMailbox = SmtpServer.Mail.IMailbox;

namespace Bandeja.Work.Mail;

/// <summary>
/// The practice post office: a mail server on the loopback that keeps what it takes and delivers nothing. It can be told to behave as
/// real ones do on a bad day. What it answers with 250 is in its database, for good.
/// </summary>
public sealed class PostOffice(
    ServerOptions options,
    PostOfficeStore store,
    BounceReading reading,
    Announcements announcements,
    TimeProvider time,
    ILogger<PostOffice> log
) : IHostedService, IMessageStore, IMailboxFilter, IDisposable
{
    /// <summary>What it is called in the protocol.</summary>
    public const string Name = "practice.post.office";

    /// <summary>The largest message it takes, bytes.</summary>
    public const int Largest = 60_000_000;

    /// <summary>How long it waits where it is told to be slow.</summary>
    public static readonly TimeSpan Slowness = TimeSpan.FromSeconds(3);
    readonly CancellationTokenSource stop = new();
    Task running = Task.CompletedTask;

    /// <summary>Its port on the loopback; 0 while it is not open.</summary>
    public int Port { get; private set; }

    /// <inheritdoc/>
    public Task StartAsync(CancellationToken cancellationToken)
    {
        var listener = new TcpListener(IPAddress.Loopback, options.SmtpPort);
        // An answer is a few bytes, and the next command waits for it: gathered into larger packets it would come 40 ms late.
        listener.Server.NoDelay = true;
        try
        {
            listener.Start();
        }
        catch (SocketException e)
        {
            log.LogError(e, "The practice post office could not be opened at port {Port}; email cannot be tested", options.SmtpPort);
            return Task.CompletedTask;
        }
        Port = ((IPEndPoint)listener.LocalEndpoint).Port;
        var services = new global::SmtpServer.ComponentModel.ServiceProvider();
        services.Add((IMessageStore)this);
        services.Add((IMailboxFilter)this);
        services.Add(new PostOfficeDoor(listener));
        var server = new global::SmtpServer.SmtpServer(
            new SmtpServerOptionsBuilder()
                .ServerName(Name)
                .MaxMessageSize(Largest)
                .Endpoint(e => e.Endpoint(new IPEndPoint(IPAddress.Loopback, Port)).AllowUnsecureAuthentication())
                .Build(),
            services
        );
        running = server.StartAsync(stop.Token);
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public async Task StopAsync(CancellationToken cancellationToken)
    {
        try
        {
            await stop.CancelAsync();
        }
        catch (ObjectDisposedException)
        {
            return;
        } // closed before
        try
        {
            await running.WaitAsync(TimeSpan.FromSeconds(2), cancellationToken);
        }
        catch (Exception e) when (e is OperationCanceledException or TimeoutException or SocketException) { } // it is closed all the same
    }

    /// <inheritdoc/>
    public void Dispose() => stop.Dispose();

    /// <inheritdoc/>
    public Task<bool> CanAcceptFromAsync(ISessionContext context, IMailbox from, int size, CancellationToken cancellationToken) =>
        Task.FromResult(true);

    /// <inheritdoc/>
    public async Task<bool> CanDeliverToAsync(ISessionContext context, IMailbox to, IMailbox from, CancellationToken cancellationToken)
    {
        var address = to.AsAddress();
        if (store.Take(address, "slow") is not null)
            await Task.Delay(Slowness, cancellationToken);
        if (store.Take(address, "refuse") is { } refuse)
            throw new SmtpResponseException(
                new SmtpResponse(SmtpReplyCode.MailboxUnavailable, Or(refuse.Words, "5.1.1 No such mailbox here"))
            );
        if (store.Take(address, "later") is { } later)
            throw new SmtpResponseException(new SmtpResponse(SmtpReplyCode.Aborted, Or(later.Words, "4.2.1 Try again later")));
        return true;
    }

    static string Or(string words, string otherwise) => words.Length > 0 ? words : otherwise;

    /// <inheritdoc/>
    public Task<SmtpResponse> SaveAsync(
        ISessionContext context,
        IMessageTransaction transaction,
        ReadOnlySequence<byte> buffer,
        CancellationToken cancellationToken
    )
    {
        var to = transaction.To.Select(t => t.AsAddress()).ToList();
        if (to.Any(t => store.Take(t, "drop") is not null))
            return Gone(context);
        var raw = buffer.ToArray();
        var id = Keep(transaction.From?.AsAddress() ?? "", to, raw);
        if (to.Any(t => store.Take(t, "drop after") is not null))
            return Gone(context);
        foreach (var address in to)
            if (store.Take(address, "report") is { } report)
                Report(id, address, "5.1.1", Or(report.Words, "550 5.1.1 The mailbox was closed"));
        return Task.FromResult(new SmtpResponse(SmtpReplyCode.Ok, $"2.0.0 Kept as {id}"));
    }

    /// <summary>Ends the connection without an answer.</summary>
    static Task<SmtpResponse> Gone(ISessionContext context)
    {
        (context.Pipe as IDisposable)?.Dispose();
        throw new OperationCanceledException();
    }

    long Keep(string sender, IReadOnlyList<string> to, byte[] raw)
    {
        MimeMessage? message = null;
        try
        {
            message = MimeMessage.Load(new MemoryStream(raw, writable: false));
        }
        catch (FormatException) { } // unchanged; a server does not judge what it is given
        // What comes back to somebody who sends through here lies in their mailbox, as it would anywhere.
        var returned = sender.Length == 0 || to.Any(store.HasSender);
        var id = store.Add(
            new(
                sender,
                string.Join(", ", to),
                message?.From.ToString() ?? "",
                message?.Subject ?? "(no subject)",
                message?.MessageId ?? "",
                message?.Attachments.Count() ?? 0,
                Words(message),
                raw,
                returned
            ),
            time.GetUtcNow()
        );
        announcements.Changed(Matter.PostOffice, id);
        if (returned)
            reading.Ring();
        return id;
    }

    static string Words(MimeMessage? message)
    {
        try
        {
            return message?.TextBody is { } text ? text[..Math.Min(text.Length, 4000)] : "";
        }
        catch (Exception e) when (e is FormatException or NotSupportedException or ArgumentException)
        {
            return "";
        } // a charset that nobody knows
    }

    /// <summary>Sends a delivery report on a message back to its sender.</summary>
    /// <exception cref="ConflictException">The message cannot be read.</exception>
    public void Report(long id, string address, string status, string words)
    {
        var (row, raw) = store.Get(id);
        MimeMessage about;
        try
        {
            about = MimeMessage.Load(new MemoryStream(raw, writable: false));
        }
        catch (FormatException)
        {
            throw new ConflictException("This message cannot be read, so there is nothing to report on.");
        }
        var report = DeliveryReport.Write(about, address, status, words, Name, time.GetLocalNow());
        Keep("", [row.Sender.Length > 0 ? row.Sender : report.To.Mailboxes.First().Address], MessageMaker.Bytes(report));
    }
}
