using Bandeja.Core.Mail;
using Bandeja.Formats.Mail;
using Bandeja.Server.Composition;
using Bandeja.Server.Events;
using Bandeja.Server.Jobs;
using Bandeja.Server.Mail;
using Bandeja.Server.Production;
using Bandeja.Server.Web;
using Bandeja.Store;
using MimeKit;

namespace Bandeja.Server.Endpoints;

/// <summary>A recipient's message as it is looked at.</summary>
/// <param name="Html">With its pictures in it; null where the message is plain text alone.</param>
/// <param name="Size">Bytes, as the message goes out; 0 where that is not reckoned.</param>
/// <param name="Problem">Why it cannot be made; null where it can.</param>
public sealed record MailLook(
    string From,
    string To,
    IReadOnlyList<string> Cc,
    IReadOnlyList<string> Bcc,
    IReadOnlyList<string> ReplyTo,
    string Subject,
    string Preheader,
    string? Html,
    string Text,
    IReadOnlyList<MailFileView> Files,
    long Size,
    string? Problem
)
{
    internal static MailLook Of(ComposedMail mail, Messages messages, MimeMessage? made, string? problem = null) =>
        new(
            $"{mail.From}",
            $"{mail.To}",
            [.. mail.Cc.Select(p => $"{p}")],
            [.. mail.Bcc.Select(p => $"{p}")],
            [.. mail.ReplyTo.Select(p => $"{p}")],
            mail.Subject,
            mail.Preheader,
            messages.Shown(mail),
            mail.Text.Replace(ComposedMail.UnsubscribeLink, "(their own link)", StringComparison.Ordinal),
            made is null
                ? [.. mail.Attachments.Select(a => new MailFileView(a.FileName, a.Size, a.Password is not null))]
                : MailPlan.FilesOf(mail, made),
            made is null ? 0 : MessageMaker.Bytes(made).Length,
            problem
        );
}

/// <summary>An account to save.</summary>
/// <param name="Password">Null to leave it as it is.</param>
public sealed record AccountOrder(
    string Name,
    string Host,
    int Port,
    string Tls,
    string? UserName = null,
    string? Password = null,
    int PerMinute = 0,
    int PerDay = 0,
    int Connections = 2,
    int FirstWait = 60
);

/// <summary>The mailbox of an account in which bounces arrive.</summary>
/// <param name="Tls">tls or starttls; a password never goes over an open line.</param>
/// <param name="Password">Null to leave it as it is.</param>
/// <param name="EveryMinutes">How often it is read.</param>
/// <param name="ReturnAddress">Where bounces are sent; null for the sender of the message.</param>
/// <param name="OwnAddress">True to give each message a return address of its own, by which any kind of bounce is matched.</param>
public sealed record MailboxOrder(
    string Host,
    int Port,
    string Tls,
    string UserName,
    string? Password = null,
    string Folder = "INBOX",
    int EveryMinutes = 10,
    string? ReturnAddress = null,
    bool OwnAddress = false
);

/// <summary>An account to be tried out: from which address, and to which.</summary>
public sealed record AccountTrial(string From, string To);

/// <summary>A message to oneself.</summary>
public sealed record TestMail(long AccountId, string To);

/// <summary>What the server said to it.</summary>
public sealed record TestMailed(string Words);

/// <summary>A folder to begin.</summary>
public sealed record NewFolder(string Name);

/// <summary>What came of a delivery report that was dropped in.</summary>
/// <param name="Text">A sentence.</param>
public sealed record ReportTaken(IReadOnlyList<MailReportRow> Reports, string Text);

/// <summary>Which proposals to settle, and how.</summary>
public sealed record ReportSettling(IReadOnlyList<long> Ids, bool Suppress);

static class MailEndpoints
{
    static object Accounts(HttpContext context) => context.Part<MailAccounts>().All();

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/mail-accounts", (MailAccounts accounts) => accounts.All())
            .WithSummary("The accounts that email is sent with")
            .OfRecord(Accounts);
        api.MapPost(
                "/mail-accounts",
                (AccountOrder order, MailAccounts accounts, MailSecrets secrets, EventHub hub, HttpContext context) =>
                    Saved(0, order, accounts, secrets, hub, context)
            )
            .WithSummary("Add an account; answers its id");
        api.MapPut(
                "/mail-accounts/{id:long}",
                (long id, AccountOrder order, MailAccounts accounts, MailSecrets secrets, EventHub hub, HttpContext context) =>
                    Saved(id, order, accounts, secrets, hub, context)
            )
            .WithSummary("Change an account")
            .OfRecord(Accounts);
        api.MapDelete(
                "/mail-accounts/{id:long}",
                (long id, MailAccounts accounts, EventHub hub) =>
                {
                    accounts.Remove(id);
                    hub.Tell("accounts", new { Id = id });
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Remove an account");
        api.MapGet(
                "/mail-accounts/{id:long}/mailbox",
                (long id, MailAccounts accounts, BounceMailboxes mailboxes) => mailboxes.Of(accounts.Get(id).Id)
            )
            .WithSummary("The mailbox in which an account's bounces arrive; null where it has none");
        api.MapPut(
                "/mail-accounts/{id:long}/mailbox",
                (long id, MailboxOrder order, MailAccounts accounts, BounceMailboxes mailboxes, MailSecrets secrets, EventHub hub) =>
                {
                    mailboxes.Save(Mailbox(accounts.Get(id), order, secrets));
                    hub.Tell("accounts", new { Id = id });
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Set the mailbox in which an account's bounces arrive");
        api.MapDelete(
                "/mail-accounts/{id:long}/mailbox",
                (long id, BounceMailboxes mailboxes, EventHub hub) =>
                {
                    mailboxes.Remove(id);
                    hub.Tell("accounts", new { Id = id });
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Stop reading an account's bounces");
        api.MapPost(
                "/mail-accounts/{id:long}/mailbox/read",
                (long id, BounceReading reading, CancellationToken cancel) => reading.Read(id, cancel)
            )
            .WithSummary("Read an account's bounces now");
        api.MapPost(
                "/mail-accounts/{id:long}/test",
                (long id, AccountTrial order, MailAccounts accounts, AccountTest test, CancellationToken cancel) =>
                    test.Run(accounts.Get(id), Address(order.From, "sender"), Address(order.To, "recipient"), cancel)
            )
            .WithSummary("Try an account out, step by step");

        api.MapGet(
                "/drops/{id:long}/recipients/{recipientId:long}/mail",
                (long id, long recipientId, Database database, Letters letters, Messages messages, MailPlan plan, Reprints reprints) =>
                {
                    using var c = database.Open();
                    var (recipient, composed) = Composed(c, letters, id, recipientId);
                    // What was sent is shown as it was sent, whatever was corrected since.
                    if (recipient.EmailRunId is not null)
                        composed = reprints.AsProduced(c, DropStore.Drop(c, id), recipient, composed);
                    var mail = composed.Mail ?? throw new NotFoundException("This recipient gets no email.");
                    try
                    {
                        return MailLook.Of(mail, messages, plan.Trial(recipient, composed, null));
                    }
                    catch (Exception e) when (e is ConflictException or InvalidOperationException)
                    {
                        return MailLook.Of(
                            mail,
                            messages,
                            null,
                            e is ConflictException ? e.Message : mail.Doubts.Select(d => d.Message).FirstOrDefault() ?? e.Message
                        );
                    }
                }
            )
            .WithSummary("A recipient's message with its headers: as it was sent, or as it would go out");

        api.MapPost(
                "/drops/{id:long}/recipients/{recipientId:long}/test-mail",
                (
                    long id,
                    long recipientId,
                    TestMail order,
                    Database database,
                    Letters letters,
                    MailPlan plan,
                    MailAccounts accounts,
                    MailSecrets secrets,
                    PostOffice postOffice,
                    PublicAddress address
                ) =>
                {
                    var account = accounts.Get(order.AccountId);
                    var to = new MailParty("", Address(order.To, "recipient"));
                    using var c = database.Open();
                    var (recipient, composed) = Composed(c, letters, id, recipientId);
                    if (composed.Mail is { From: null } unsent)
                        throw new ConflictException(
                            unsent.Doubts.Select(d => d.Message).FirstOrDefault() ?? "The email has no sender's address yet."
                        );
                    var message = plan.Trial(recipient, composed, to);
                    using var link = new MailLink(account, secrets.Open(account), postOffice.Port, address.Greeting);
                    var result = link.Send(message, message.From.Mailboxes.First(), [new(null, to.Address)]);
                    if (result.Outcome != HandOver.Sent)
                        throw new ConflictException($"The test was not sent: {result.Words}");
                    return new TestMailed(result.Words);
                }
            )
            .WithSummary("Send oneself a recipient's message as a test; the ledger knows nothing of it");

        api.MapGet("/mail-folders", (MailFiles files) => files.Folders()).WithSummary("The folders of files to attach");
        api.MapPost(
                "/mail-folders",
                (NewFolder order, MailFiles files, HttpContext context) =>
                    string.IsNullOrWhiteSpace(order.Name)
                        ? throw new BadInputException("Give the folder a name.")
                        : files.Folder(order.Name.Trim()[..Math.Min(order.Name.Trim().Length, 120)], context.Actor())
            )
            .WithSummary("Begin a folder of files to attach; answers its id");
        api.MapGet("/mail-folders/{id:long}/files", (long id, MailFiles files) => files.Files(id)).WithSummary("The files of a folder");
        api.MapPost(
                "/mail-folders/{id:long}/files",
                async (long id, string name, HttpContext context, AttachmentFiles attachments, CheckRequests checks) =>
                {
                    var data = await Body(context);
                    IReadOnlyList<BroughtFile> brought =
                        data is [0x50, 0x4B, 0x03, 0x04, ..] && name.EndsWith(".zip", StringComparison.OrdinalIgnoreCase)
                            ? attachments.AddZip(id, new MemoryStream(data), context.Actor())
                            : [attachments.Add(id, name, data, context.Actor())];
                    checks.All();
                    return brought;
                }
            )
            .WithSummary("Bring a file into a folder, or all files of a ZIP archive; the bytes are the request's body")
            .WithBytesAsBody()
            .Produces<IReadOnlyList<BroughtFile>>();
        api.MapDelete(
                "/mail-folders/{id:long}/files",
                (long id, string name, MailFiles files, CheckRequests checks, HttpContext context) =>
                {
                    files.Remove(id, name, context.Actor());
                    checks.All();
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Take a file out of a folder");
        api.MapPost(
                "/mail-files",
                async (string name, HttpContext context, AttachmentFiles attachments) =>
                    attachments.Add(null, name, await Body(context), context.Actor())
            )
            .WithSummary("Bring in a file that is attached for everybody; the bytes are the request's body")
            .WithBytesAsBody()
            .Produces<BroughtFile>();

        api.MapPost(
                "/mail-reports",
                async (HttpContext context, DeliveryReports reports) =>
                {
                    var data = await Body(context);
                    MimeMessage message;
                    try
                    {
                        message = await MimeMessage.LoadAsync(new MemoryStream(data, writable: false), context.RequestAborted);
                    }
                    catch (FormatException)
                    {
                        throw new BadInputException("This is no message: save it from the mail program as .eml and bring it in again.");
                    }
                    if (!DeliveryReport.Is(message))
                        throw new BadInputException(
                            "This message is neither a delivery report nor a complaint. Take the one that the mail server sent back."
                        );
                    var taken = reports.Take(message, data);
                    if (taken.Count == 0)
                        throw new BadInputException("This delivery report says nothing of any recipient.");
                    return new ReportTaken(
                        [.. taken.Select(t => t.Row)],
                        string.Join(
                            " ",
                            taken.Select(t =>
                                !t.IsNew ? $"The report on {t.Row.Address} was taken in before."
                                : t.Row.DropId is null ? $"The report on {t.Row.Address} speaks of no message of ours."
                                : $"{t.Row.Address}: {t.Row.Action}, {t.Row.Words}"
                            )
                        )
                    );
                }
            )
            .WithSummary("Take in a delivery report (RFC 3464); the message is the request's body")
            .WithBytesAsBody()
            .Produces<ReportTaken>();
        api.MapGet("/drops/{id:long}/mail-reports", (long id, MailReports reports) => reports.OfDrop(id))
            .WithSummary("The delivery reports on a drop's messages");
        api.MapPost(
                "/drops/{id:long}/mail-reports/settle",
                (long id, ReportSettling order, MailReports reports, Unsubscribing unsubscribing, EventHub hub, HttpContext context) =>
                {
                    var chosen = reports.OfDrop(id).Where(r => order.Ids.Contains(r.Id) && r.Settled is null).ToList();
                    if (chosen.Count == 0)
                        throw new ConflictException("These proposals are settled already.");
                    unsubscribing.Settle(id, chosen, order.Suppress, context.Actor());
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Put addresses that are gone for good on a suppression list, or leave them");
    }

    static (DropRecipient Recipient, ComposedPackage Composed) Composed(
        Microsoft.Data.Sqlite.SqliteConnection c,
        Letters letters,
        long dropId,
        long recipientId
    )
    {
        var drop = DropStore.Drop(c, dropId);
        var recipient =
            DropStore.Recipients(c, drop, RowTable.Columns(c, drop.ListId), [recipientId]).FirstOrDefault() ?? throw new NotFoundException(
                "This recipient is not in the drop."
            );
        return (recipient, new PackageComposer(c, letters, drop).Compose(recipient));
    }

    static string Address(string text, string what) =>
        MailAddresses.One(text ?? "")?.Address ?? throw new BadInputException($"“{text}” is not an email address. Enter the {what}’s.");

    /// <summary>The mailbox that an order describes.</summary>
    /// <exception cref="BadInputException">Something in it cannot be; the sentence says what.</exception>
    static BounceMailboxRow Mailbox(MailAccountRow account, MailboxOrder order, MailSecrets secrets)
    {
        var practice = account.Kind == "practice";
        if (!practice && (string.IsNullOrWhiteSpace(order.Host) || Uri.CheckHostName(order.Host.Trim()) == UriHostNameType.Unknown))
            throw new BadInputException("Enter the name of the server that has the mailbox, for example imap.example.org.");
        if (!practice && order.Port is < 1 or > 65535)
            throw new BadInputException("A port is a number from 1 to 65535. The usual ones are 993 and 143.");
        if (!practice && order.Tls is not ("starttls" or "tls"))
            throw new BadInputException("A mailbox is read with TLS or STARTTLS, so that nobody on the way can read its password.");
        if (string.IsNullOrWhiteSpace(order.UserName) || order.UserName.Any(char.IsControl) || order.Password?.Any(char.IsControl) == true)
            throw new BadInputException("Enter the mailbox's user name, without line breaks.");
        if (string.IsNullOrWhiteSpace(order.Folder) || order.Folder.Length > 200 || order.Folder.Any(char.IsControl))
            throw new BadInputException("Enter the folder in which bounces arrive. It is usually INBOX.");
        if (order.EveryMinutes is < 1 or > 1440)
            throw new BadInputException("A mailbox is read every 1 to 1,440 minutes.");
        var back = string.IsNullOrWhiteSpace(order.ReturnAddress) ? null : Address(order.ReturnAddress.Trim(), "return address");
        if (order.OwnAddress && back is null)
            throw new BadInputException("Enter the return address that the addresses of single messages are made from.");
        if (order.OwnAddress && back!.LastIndexOf('@') > ReturnPath.MaxOwn)
            throw new BadInputException(
                $"The part before the @ of the return address can have {ReturnPath.MaxOwn} characters, so that each message's mark "
                    + "still fits."
            );
        return new()
        {
            AccountId = account.Id,
            Host = practice ? "127.0.0.1" : order.Host.Trim(),
            Port = practice ? 0 : order.Port,
            Tls = practice ? "none" : order.Tls,
            UserName = order.UserName.Trim(),
            Folder = order.Folder.Trim(),
            Secret = string.IsNullOrEmpty(order.Password) ? null : secrets.Seal(order.Password),
            EveryMinutes = order.EveryMinutes,
            ReturnAddress = back,
            OwnAddress = order.OwnAddress,
        };
    }

    static long Saved(long id, AccountOrder order, MailAccounts accounts, MailSecrets secrets, EventHub hub, HttpContext context)
    {
        var practice = id > 0 && accounts.Get(id).Kind == "practice";
        if (string.IsNullOrWhiteSpace(order.Name))
            throw new BadInputException("Give the account a name.");
        if (!practice && (string.IsNullOrWhiteSpace(order.Host) || Uri.CheckHostName(order.Host.Trim()) == UriHostNameType.Unknown))
            throw new BadInputException("Write the mail server's name, for instance smtp.example.org.");
        if (!practice && order.Port is < 1 or > 65535)
            throw new BadInputException("A port is a number from 1 to 65535; 587 and 465 are usual.");
        if (order.Tls is not ("none" or "starttls" or "tls"))
            throw new BadInputException("Encryption is none, starttls or tls.");
        if (order.PerMinute is < 0 or > 100_000 || order.PerDay is < 0 or > 10_000_000)
            throw new BadInputException("A limit is 0 for none, or a number of messages.");
        if (order.Connections is < 1 or > 20)
            throw new BadInputException("An account has 1 to 20 connections at once.");
        if (order.FirstWait is < 1 or > 86_400)
            throw new BadInputException("What is put off is tried again after 1 second to a day.");
        // A header or a command that a line end begins must not come from here either.
        if (order.UserName?.Any(char.IsControl) == true || order.Password?.Any(char.IsControl) == true)
            throw new BadInputException("User and password hold no line ends.");
        var saved = accounts.Save(
            new()
            {
                Id = id,
                Name = order.Name.Trim(),
                Kind = practice ? "practice" : "smtp",
                Host = practice ? "127.0.0.1" : order.Host.Trim(),
                Port = practice ? 0 : order.Port,
                Tls = practice ? "none" : order.Tls,
                UserName = string.IsNullOrWhiteSpace(order.UserName) ? null : order.UserName.Trim(),
                Secret = string.IsNullOrEmpty(order.Password) ? null : secrets.Seal(order.Password),
                PerMinute = order.PerMinute,
                PerDay = order.PerDay,
                Connections = order.Connections,
                FirstWait = order.FirstWait,
            },
            context.Actor()
        );
        hub.Tell("accounts", new { Id = saved });
        return saved;
    }

    static async Task<byte[]> Body(HttpContext context)
    {
        using var data = new MemoryStream();
        await context.Request.Body.CopyToAsync(data, context.RequestAborted);
        return data.ToArray();
    }
}
