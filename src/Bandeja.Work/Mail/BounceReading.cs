using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using Bandeja.Formats.Lists;
using Bandeja.Formats.Mail;
using Bandeja.Store;
using Bandeja.Store.Mail;
using Bandeja.Work.Announcing;
using Bandeja.Work.Reading;
using MailKit;
using MailKit.Net.Imap;
using MailKit.Search;
using MailKit.Security;
using MimeKit;

namespace Bandeja.Work.Mail;

/// <summary>What reading a mailbox came to.</summary>
/// <param name="Messages">How many messages were new in it.</param>
/// <param name="Reports">How many new reports they held.</param>
/// <param name="Problem">Why it could not be read; null where it was.</param>
public sealed record MailboxRead(int Messages, int Reports, string? Problem);

/// <summary>
/// Reads the mailboxes in which bounces arrive (IMAP4rev1, RFC 3501): each when its time has come, and at once when somebody asks. Nothing
/// in a mailbox is changed or marked, and letters that people wrote are not fetched.
/// </summary>
public sealed class BounceReading(
    BounceMailboxes mailboxes,
    MailSecrets secrets,
    DeliveryReports reports,
    FileReader files,
    MailHosts hosts,
    PracticeMailbox practice,
    Announcements announcements,
    TimeProvider time,
    ILogger<BounceReading> log
) : BackgroundService
{
    /// <summary>The largest message that is fetched, bytes: a report with the whole message in it is as large as that.</summary>
    const int Largest = 30_000_000;

    /// <summary>How far back a mailbox is read the first time: servers give up after five days (RFC 5321, section 4.5.4.1).</summary>
    const int FirstDays = 30;
    static readonly TimeSpan Glance = TimeSpan.FromSeconds(20),
        Patience = TimeSpan.FromMinutes(2);
    readonly ConcurrentDictionary<long, SemaphoreSlim> turns = [];
    readonly SemaphoreSlim bell = new(0, 1);

    /// <summary>Something has come into the practice post office's mailbox: it is read at once.</summary>
    public void Ring()
    {
        try
        {
            bell.Release();
        }
        catch (SemaphoreFullException) { } // it rings already
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            while (true)
            {
                using var pause = CancellationTokenSource.CreateLinkedTokenSource(stoppingToken);
                var rung = bell.WaitAsync(pause.Token);
                var rang = await Task.WhenAny(rung, Task.Delay(Glance, time, pause.Token)) == rung;
                await pause.CancelAsync();
                stoppingToken.ThrowIfCancellationRequested();
                foreach (var mailbox in mailboxes.All().Where(m => rang && IsPractice(m) || IsDue(m)))
                {
                    try
                    {
                        await Read(mailbox.AccountId, stoppingToken);
                    }
                    catch (Exception e) when (e is not OperationCanceledException)
                    {
                        log.LogError(e, "The mailbox of account {Account} could not be read", mailbox.AccountId);
                    }
                }
            }
        }
        catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested) { } // the server stops
    }

    static bool IsPractice(BounceMailboxRow m) => m.Port == 0;

    bool IsDue(BounceMailboxRow m) =>
        m.ReadAt is null
        || DateTimeOffset.Parse(m.ReadAt, System.Globalization.CultureInfo.InvariantCulture).AddMinutes(m.EveryMinutes) <= time.GetUtcNow();

    /// <summary>Reads an account's mailbox from where it was read last.</summary>
    /// <exception cref="ConflictException">The account has none.</exception>
    public async Task<MailboxRead> Read(long accountId, CancellationToken cancel)
    {
        var turn = turns.GetOrAdd(accountId, _ => new(1, 1));
        await turn.WaitAsync(cancel);
        try
        {
            var mailbox =
                mailboxes.Of(accountId) ?? throw new ConflictException("This account has no mailbox for bounces yet. Set one up first.");
            var read = await New(mailbox, cancel);
            mailboxes.Done(accountId, read.Problem, time.GetUtcNow());
            if (read.Problem is not null || read.Messages > 0 || mailbox.Problem is not null)
                announcements.Changed(Matter.Account, accountId);
            return read;
        }
        finally
        {
            turn.Release();
        }
    }

    async Task<MailboxRead> New(BounceMailboxRow mailbox, CancellationToken cancel)
    {
        var (messages, found) = (0, 0);
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(Patience);
        using var client = new ImapClient { Timeout = (int)Patience.TotalMilliseconds, CheckCertificateRevocation = false };
        try
        {
            var folder = await Open(client, mailbox, patience.Token);
            var same = folder.UidValidity == mailbox.UidValidity;
            var last = same ? (uint)mailbox.LastUid : 0;
            IList<UniqueId> uids =
                last == 0
                    ? await folder.SearchAsync(SearchQuery.DeliveredAfter(time.GetLocalNow().Date.AddDays(-FirstDays)), patience.Token)
                    // A range up to * always holds the last message, even if it was read before.
                    :
                    [
                        .. (
                            await folder.SearchAsync(
                                SearchQuery.Uids(new UniqueIdRange(new UniqueId(folder.UidValidity, last + 1), UniqueId.MaxValue)),
                                patience.Token
                            )
                        ).Where(u => u.Id > last),
                    ];
            foreach (var uid in uids.OrderBy(u => u.Id))
            {
                patience.CancelAfter(Patience); // each message has its own time
                var taken = await One(folder, uid, mailbox, patience.Token);
                mailboxes.Advance(mailbox, folder.UidValidity, uid.Id, 1, taken);
                (messages, found) = (messages + 1, found + taken);
            }
            await client.DisconnectAsync(true, patience.Token);
            return new(messages, found, null);
        }
        catch (ConflictException e)
        {
            return new(messages, found, e.Message);
        } // the password cannot be read
        catch (Exception e) when (MailLink.IsOfTheServer(e) && !cancel.IsCancellationRequested)
        {
            return new(messages, found, MailLink.Words(e));
        }
    }

    /// <summary>Opens a mailbox and says how many messages it holds.</summary>
    public async Task<int> Count(BounceMailboxRow mailbox, CancellationToken cancel)
    {
        using var client = new ImapClient { CheckCertificateRevocation = false };
        var folder = await Open(client, mailbox, cancel);
        await client.DisconnectAsync(true, cancel);
        return folder.Count;
    }

    /// <summary>Connects, signs in and opens the folder for reading.</summary>
    async Task<IMailFolder> Open(ImapClient client, BounceMailboxRow mailbox, CancellationToken cancel)
    {
        var port = IsPractice(mailbox) ? practice.Port : (int)mailbox.Port;
        // The client closes the socket with itself.
        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            var addresses = IsPractice(mailbox)
                ? await Dns.GetHostAddressesAsync(mailbox.Host, cancel)
                : await hosts.Of(mailbox.Host, cancel);
            await socket.ConnectAsync(addresses, port, cancel);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
        await client.ConnectAsync(
            socket,
            mailbox.Host,
            port,
            mailbox.Tls switch
            {
                "tls" => SecureSocketOptions.SslOnConnect,
                "starttls" => SecureSocketOptions.StartTls,
                _ => SecureSocketOptions.None,
            },
            cancel
        );
        await client.AuthenticateAsync(mailbox.UserName, secrets.Open(mailbox) ?? "", cancel);
        IMailFolder folder;
        try
        {
            folder = mailbox.Folder.Equals("INBOX", StringComparison.OrdinalIgnoreCase)
                ? client.Inbox!
                : await client.GetFolderAsync(mailbox.Folder, cancel);
        }
        catch (FolderNotFoundException)
        {
            throw new ConflictException($"The mailbox has no folder “{mailbox.Folder}”.");
        }
        await folder.OpenAsync(FolderAccess.ReadOnly, cancel);
        return folder;
    }

    /// <summary>Takes one message in, if it is a report; answers how many new reports it held.</summary>
    async Task<int> One(IMailFolder folder, UniqueId uid, BounceMailboxRow mailbox, CancellationToken cancel)
    {
        var own = mailbox.OwnAddress ? mailbox.ReturnAddress : null;
        try
        {
            if (!DeliveryReport.MayBe(await folder.GetHeadersAsync(uid, cancel), own))
                return 0;
            using var raw = new MemoryStream();
            await using (var stream = await folder.GetStreamAsync(uid, cancel))
            {
                var buffer = new byte[81_920];
                for (int n; (n = await stream.ReadAsync(buffer, cancel)) > 0; )
                {
                    if (raw.Length + n > Largest)
                        return 0;
                    raw.Write(buffer, 0, n);
                }
            }
            return reports.Take(files.Report(raw.ToArray(), own, cancel).Said).Count(t => t.IsNew);
        }
        catch (MessageNotFoundException)
        {
            return 0; // gone meanwhile
        }
        catch (ListFileException e)
        {
            // One message that cannot be read keeps nobody from the others.
            log.LogWarning("A message in the mailbox cannot be read: {Reason}", e.Message);
            return 0;
        }
    }
}
