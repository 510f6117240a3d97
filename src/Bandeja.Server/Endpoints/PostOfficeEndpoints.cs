using Bandeja.Formats.Mail;
using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Work.Announcing;
using Bandeja.Work.Mail;
using MimeKit;

namespace Bandeja.Server.Endpoints;

/// <summary>The practice post office.</summary>
public sealed record PostOfficeView(int Port, IReadOnlyList<BehaviorRow> Behaviors);

/// <summary>A part of its messages, the newest first.</summary>
public sealed record PostedPage(int Total, IReadOnlyList<PostedRow> Rows);

/// <summary>A file of a message.</summary>
public sealed record PostedFile(int Number, string Name, string MediaType, long Size);

/// <summary>A message to be read.</summary>
/// <param name="Html">Its pictures in it, to be shown only in a frame that runs and fetches nothing; null where it has none.</param>
public sealed record PostedView(
    PostedRow Row,
    string From,
    string To,
    string Cc,
    string ReplyTo,
    string Date,
    string? Html,
    string? Text,
    IReadOnlyList<PostedFile> Files,
    string Source
);

/// <summary>Something that the practice post office is to do.</summary>
/// <param name="Address">An address, @ and a domain, or * for all.</param>
/// <param name="Times">How often; null for ever.</param>
/// <param name="Words">What it says; blank for the usual.</param>
public sealed record BehaviorOrder(string Kind, string Address, int? Times = null, string? Words = null);

/// <summary>A delivery report that the practice post office is to send on a message.</summary>
/// <param name="Status">For instance 5.1.1 (RFC 3463).</param>
public sealed record ReportOrder(string Status, string? Words = null);

static class PostOfficeEndpoints
{
    const int LongestSource = 400_000;
    static readonly string[] Kinds = ["refuse", "later", "slow", "drop", "drop after", "report"];

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/post-office", (PostOffice office, PostOfficeStore store) => new PostOfficeView(office.Port, store.Behaviors()))
            .WithSummary("The practice post office: its address and behavior");
        api.MapGet(
                "/post-office/messages",
                (PostOfficeStore store, string? search = null, int offset = 0, int limit = 100) =>
                {
                    if (offset < 0 || limit is < 1 or > 1000)
                        throw new BadInputException("The offset must be 0 or more, and the limit 1 to 1,000.");
                    var (rows, total) = store.Page(search, offset, limit);
                    return new PostedPage(total, rows);
                }
            )
            .WithSummary("A part of the messages that it took, the newest first");
        api.MapGet("/post-office/messages/{id:long}", View).WithSummary("A message to be read");
        api.MapGet(
                "/post-office/messages/{id:long}/source.eml",
                (long id, PostOfficeStore store) => Results.File(store.Get(id).Raw, "message/rfc822", $"message-{id}.eml")
            )
            .WithSummary("A message as received")
            .Produces(200, contentType: "message/rfc822");
        api.MapGet(
                "/post-office/messages/{id:long}/files/{number:int}",
                (long id, int number, PostOfficeStore store) =>
                {
                    var part =
                        Loaded(store.Get(id).Raw)?.Attachments.OfType<MimePart>().ElementAtOrDefault(number - 1)
                        ?? throw new NotFoundException("This message does not have that attachment.");
                    using var data = new MemoryStream();
                    part.Content?.DecodeTo(data);
                    // Whatever it says it is: it is saved and never opened as a page of ours.
                    return Results.File(
                        data.ToArray(),
                        "application/octet-stream",
                        Core.Formulas.FileNames.Safe(part.FileName ?? "", $"file-{number}")
                    );
                }
            )
            .WithSummary("A file that is attached to a message")
            .Produces(200, contentType: "application/octet-stream");
        api.MapDelete(
                "/post-office/messages",
                (PostOfficeStore store, Announcements announcements) =>
                {
                    store.Remove(null);
                    announcements.Changed(Matter.PostOffice, 0);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Empty the practice post office's inbox");
        api.MapDelete(
                "/post-office/messages/{id:long}",
                (long id, PostOfficeStore store, Announcements announcements) =>
                {
                    store.Remove(id);
                    announcements.Changed(Matter.PostOffice, id);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Take a message out of its inbox");
        api.MapPost(
                "/post-office/messages/{id:long}/report",
                (long id, ReportOrder order, PostOffice office, PostOfficeStore store) =>
                {
                    if (order.Status is not { Length: > 4 } status || status[0] is not ('4' or '5'))
                        throw new BadInputException("The status must have three parts and start with 4 or 5, such as 5.1.1.");
                    var row = store.Get(id).Row;
                    office.Report(
                        id,
                        row.Recipients.Split(',')[0].Trim(),
                        status,
                        string.IsNullOrWhiteSpace(order.Words) ? "550 5.1.1 The mailbox no longer exists" : order.Words.Trim()
                    );
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Send a delivery report on a message to its sender");
        api.MapPost(
                "/post-office/behaviors",
                (BehaviorOrder order, PostOfficeStore store, Announcements announcements) =>
                {
                    if (!Kinds.Contains(order.Kind))
                        throw new BadInputException($"The behavior must be one of: {string.Join(", ", Kinds)}.");
                    if (string.IsNullOrWhiteSpace(order.Address))
                        throw new BadInputException("Enter an email address, @ and a domain, or * for all addresses.");
                    if (order.Times is < 1 or > 1_000_000)
                        throw new BadInputException("The number of times must be 1 or more.");
                    if (order.Words is { } words && (words.Length > 300 || words.Any(char.IsControl)))
                        throw new BadInputException("The reply text must be one line of up to 300 characters.");
                    var id = store.Tell(order.Kind, order.Address.Trim(), order.Times, order.Words?.Trim() ?? "");
                    announcements.Changed(Matter.PostOffice, 0);
                    return id;
                }
            )
            .WithSummary("Add a behavior: refuse, later, slow, drop, drop after, report");
        api.MapDelete(
                "/post-office/behaviors/{id:long}",
                (long id, PostOfficeStore store, Announcements announcements) =>
                {
                    store.Untell(id);
                    announcements.Changed(Matter.PostOffice, 0);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Remove a behavior");
    }

    static MimeMessage? Loaded(byte[] raw)
    {
        try
        {
            return MimeMessage.Load(new MemoryStream(raw, writable: false));
        }
        catch (FormatException)
        {
            return null;
        } // its source can still be read
    }

    static PostedView View(long id, PostOfficeStore store)
    {
        var (row, raw) = store.Get(id);
        var source =
            System.Text.Encoding.UTF8.GetString(raw, 0, Math.Min(raw.Length, LongestSource)) + (raw.Length > LongestSource ? "\n…" : "");
        if (Loaded(raw) is not { } message)
            return new(row, "", row.Recipients, "", "", "", null, null, [], source);
        var html = message.HtmlBody;
        if (html is not null)
            foreach (
                var part in message
                    .BodyParts.OfType<MimePart>()
                    .Where(p => p.ContentId is not null && p.ContentType.IsMimeType("image", "*"))
            )
            {
                using var data = new MemoryStream();
                part.Content?.DecodeTo(data);
                html = html.Replace(
                    $"cid:{part.ContentId}",
                    $"data:{part.ContentType.MimeType};base64,{Convert.ToBase64String(data.ToArray())}",
                    StringComparison.Ordinal
                );
            }
        var text = DeliveryReport.Is(message) ? Report(message) : message.TextBody;
        return new(
            row,
            message.From.ToString(),
            message.To.ToString(),
            message.Cc.ToString(),
            message.ReplyTo.ToString(),
            message.Headers[HeaderId.Date] ?? "",
            html,
            text,
            [
                .. message
                    .Attachments.OfType<MimePart>()
                    .Select((p, i) => new PostedFile(i + 1, p.FileName ?? $"file {i + 1}", p.ContentType.MimeType, SizeOf(p))),
            ],
            source
        );
    }

    static long SizeOf(MimePart part)
    {
        using var data = new MemoryStream();
        part.Content?.DecodeTo(data);
        return data.Length;
    }

    static string Report(MimeMessage message) =>
        string.Join(
            "\n",
            message
                .BodyParts.OfType<TextPart>()
                .Select(p => p.Text ?? "")
                .Concat(DeliveryReport.Read(message, []).Select(r => $"{r.Address}: {r.Action}, {r.Status}\n{r.Words}"))
        );
}
