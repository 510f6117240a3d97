using Bandeja.Acts.Mail;
using Bandeja.Core.Mail;
using Bandeja.Formats.Mail;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Mail;
using Bandeja.Store.Runs;
using Bandeja.Work.Mail;
using Bandeja.Work.Production;
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
            mail.Text.Replace(ComposedMail.UnsubscribeLink, "(recipient’s unsubscribe link)", StringComparison.Ordinal),
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

/// <summary>An account to be tried out: from which address, and to which.</summary>
public sealed record AccountTrial(string From, string To);

/// <summary>A test of a recipient's message: the account, and the address it goes to.</summary>
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
        api.MapPost("/mail-accounts", (AccountOrder order, SaveAccount act, Caller caller) => caller.Does(act, Saved(null, order)))
            .WithSummary("Add an account; returns its ID");
        api.MapPut(
                "/mail-accounts/{id:long}",
                (long id, AccountOrder order, SaveAccount act, Caller caller) => caller.Does(act, Saved(id, order))
            )
            .WithSummary("Change an account")
            .OfRecord(Accounts);
        api.MapDelete("/mail-accounts/{id:long}", (long id, RemoveAccount act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove an account");
        api.MapGet(
                "/mail-accounts/{id:long}/mailbox",
                (long id, MailAccounts accounts, BounceMailboxes mailboxes) => mailboxes.Of(accounts.Get(id).Id)
            )
            .WithSummary("The mailbox in which an account's bounces arrive; null where it has none");
        api.MapPut(
                "/mail-accounts/{id:long}/mailbox",
                (long id, MailboxOrder order, SetBounceMailbox act, Caller caller) => caller.Does(act, new(id, order))
            )
            .WithSummary("Set the mailbox in which an account's bounces arrive");
        api.MapDelete("/mail-accounts/{id:long}/mailbox", (long id, RemoveBounceMailbox act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Stop reading an account's bounces");
        api.MapPost("/mail-accounts/{id:long}/mailbox/read", (long id, ReadBounces act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Read an account's bounces now");
        api.MapPost(
                "/mail-accounts/{id:long}/test",
                (long id, AccountTrial order, TestAccount act, Caller caller) => caller.Does(act, new(id, order.From, order.To))
            )
            .WithSummary("Test an account, step by step");

        api.MapGet(
                "/drops/{id:long}/recipients/{recipientId:long}/mail",
                (long id, long recipientId, Database database, DropMail drops, Messages messages, MailPlan plan, Reprints reprints) =>
                {
                    using var c = database.Open();
                    var (recipient, composed) = drops.Of(c, id, recipientId);
                    // What was sent is shown as it was sent, whatever was corrected since.
                    if (recipient.EmailRunId is not null)
                        composed = reprints.AsProduced(c, DropStore.Drop(c, id), recipient, composed);
                    var mail = composed.Mail ?? throw new NotFoundException("This recipient does not get an email in this drop.");
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
                            e is ConflictException ? e.Message : mail.Issues.Select(d => d.Message).FirstOrDefault() ?? e.Message
                        );
                    }
                }
            )
            .WithSummary("A recipient's message with its headers: as it was sent, or as it would go out");

        api.MapPost(
                "/drops/{id:long}/recipients/{recipientId:long}/test-mail",
                (long id, long recipientId, TestMail order, SendTestMessage act, Caller caller) =>
                    new TestMailed(caller.Does(act, new(id, recipientId, order.AccountId, order.To)))
            )
            .WithSummary("Send a recipient’s message to yourself as a test; not recorded in the ledger");

        api.MapGet("/mail-folders", (MailFiles files) => files.Folders()).WithSummary("The folders of files to attach");
        api.MapPost("/mail-folders", (NewFolder order, StartMailFolder act, Caller caller) => caller.Does(act, new(order.Name)))
            .WithSummary("Create a folder of files to attach; returns its ID");
        api.MapGet("/mail-folders/{id:long}/files", (long id, MailFiles files) => files.Files(id)).WithSummary("The files of a folder");
        api.MapPost(
                "/mail-folders/{id:long}/files",
                async (long id, string name, HttpContext context, AddMailFiles act, Caller caller) =>
                    caller.Does(act, new(id, name, await Body(context)))
            )
            .WithSummary("Bring a file into a folder, or all files of a ZIP archive; the bytes are the request's body")
            .WithBytesAsBody()
            .Produces<IReadOnlyList<BroughtFile>>();
        api.MapDelete(
                "/mail-folders/{id:long}/files",
                (long id, string name, RemoveMailFile act, Caller caller) => caller.Does(act, new(id, name))
            )
            .WithSummary("Take a file out of a folder");
        api.MapPost(
                "/mail-files",
                async (string name, HttpContext context, AddMailFiles act, Caller caller) =>
                    caller.Does(act, new(null, name, await Body(context)))[0]
            )
            .WithSummary("Add a file that is attached for every recipient; the request body is the file’s bytes")
            .WithBytesAsBody()
            .Produces<BroughtFile>();

        api.MapPost(
                "/mail-reports",
                async (HttpContext context, TakeReport act, Caller caller) =>
                {
                    var taken = caller.Does(act, new(await Body(context)));
                    return new ReportTaken(
                        [.. taken.Select(t => t.Row)],
                        string.Join(
                            " ",
                            taken.Select(t =>
                                !t.IsNew ? $"The report on {t.Row.Address} was already imported."
                                : t.Row.DropId is null ? $"The report on {t.Row.Address} does not match any message sent from here."
                                : $"{t.Row.Address}: {t.Row.Action}, {t.Row.Words}"
                            )
                        )
                    );
                }
            )
            .WithSummary("Import a delivery report (RFC 3464); the request body is the message")
            .WithBytesAsBody()
            .Produces<ReportTaken>();
        api.MapGet("/drops/{id:long}/mail-reports", (long id, MailReports reports) => reports.OfDrop(id))
            .WithSummary("The delivery reports on a drop's messages");
        api.MapPost(
                "/drops/{id:long}/mail-reports/settle",
                (long id, ReportSettling order, SettleReports act, Caller caller) => caller.Does(act, new(id, order.Ids, order.Suppress))
            )
            .WithSummary("Suppress or ignore permanently undeliverable addresses");
    }

    static SavedAccount Saved(long? id, AccountOrder o) =>
        new(id, o.Name, o.Host, o.Port, o.Tls, o.UserName, o.Password, o.PerMinute, o.PerDay, o.Connections, o.FirstWait);

    static async Task<byte[]> Body(HttpContext context)
    {
        using var data = new MemoryStream();
        await context.Request.Body.CopyToAsync(data, context.RequestAborted);
        return data.ToArray();
    }
}
