using System.Security.Cryptography;
using System.Text.RegularExpressions;
using MimeKit;

namespace Bandeja.Formats.Mail;

/// <summary>What a delivery report says of one recipient (RFC 3464, section 2.3).</summary>
/// <param name="MessageId">Of the message that it is about, without brackets; null where the report does not say.</param>
/// <param name="Action">failed, delayed, delivered, relayed or expanded; complained where the recipient reported the message (RFC
/// 5965).</param>
/// <param name="Status">For instance 5.1.1 (RFC 3463).</param>
/// <param name="Words">The server's own words.</param>
/// <param name="Mark">The same for the same report.</param>
/// <param name="At">When the report was written.</param>
/// <param name="ReturnMark">What the address that it came back to says of the message; null where that says nothing. See <see
/// cref="Core.Mail.ReturnPath"/>.</param>
public sealed record ReportedDelivery(
    string? MessageId,
    string Address,
    string Action,
    string Status,
    string Words,
    string Mark,
    DateTimeOffset At = default,
    string? ReturnMark = null
);

/// <summary>Reads and writes delivery reports.</summary>
public static partial class DeliveryReport
{
    [GeneratedRegex(@"^\d\.\d{1,3}\.\d{1,3}$")]
    private static partial Regex StatusForm { get; }

    /// <summary>True where a message is a delivery report, a complaint about a message of ours, or a bounce in a form of its own.</summary>
    public static bool Is(MimeMessage message) =>
        Feedback(message) is not null
        || QmailText(message) is not null
        || message.Body is MultipartReport report && string.Equals(report.ReportType, "delivery-status", StringComparison.OrdinalIgnoreCase)
        || Parts(message).OfType<MessageDeliveryStatus>().Any();

    /// <summary>
    /// True where a message's headers look like those of a report or a bounce, so that it is worth fetching: from a mail server, to a
    /// return address of one message, or of the form of a report. Letters that people write are left alone.
    /// </summary>
    /// <param name="returnAddress">Where bounces go; null where that is not known.</param>
    public static bool MayBe(HeaderList headers, string? returnAddress) =>
        ContentType.TryParse(headers[HeaderId.ContentType] ?? "", out var type) && type.IsMimeType("multipart", "report")
        || IsOfServer(headers)
        || ReturnMark(headers, returnAddress) is not null;

    /// <summary>True where a mail server and no person is the sender: the return path is empty (RFC 5321, section 4.5.5), or the name is
    /// one that servers have.</summary>
    static bool IsOfServer(HeaderList headers)
    {
        if (headers[HeaderId.ReturnPath]?.Trim() == "<>")
            return true;
        var from = InternetAddressList.TryParse(headers[HeaderId.From] ?? "", out var list)
            ? list.Mailboxes.FirstOrDefault()?.Address ?? ""
            : "";
        return from.Split('@')[0].ToLowerInvariant() is "mailer-daemon" or "postmaster" or "mail-daemon";
    }

    /// <summary>True for an answer that a program gave for a person (RFC 3834, section 5), for instance that they are away: the message has
    /// arrived.</summary>
    static bool IsAnswer(HeaderList headers) =>
        (headers[HeaderId.AutoSubmitted] ?? "").TrimStart().StartsWith("auto-replied", StringComparison.OrdinalIgnoreCase)
        || headers["X-Autoreply"] is not null
        || headers["X-Autorespond"] is not null;

    /// <summary>The mark of the message in one of the addresses that something came to; null where none carries one.</summary>
    static string? ReturnMark(HeaderList headers, string? returnAddress) =>
        returnAddress is null
            ? null
            : headers
                .Where(h =>
                    h.Field is "To" or "Delivered-To" or "X-Original-To" or "Envelope-To"
                    || h.Field.Equals("X-Envelope-To", StringComparison.OrdinalIgnoreCase)
                )
                .SelectMany(h =>
                    InternetAddressList.TryParse(h.Value, out var list)
                        ? list.Mailboxes.Select(m => m.Address)
                        : [h.Value.Trim().Trim('<', '>')]
                )
                .Select(a => Core.Mail.ReturnPath.MarkIn(a, returnAddress))
                .FirstOrDefault(m => m is not null);

    /// <summary>
    /// What came back to a return address says: as <see cref="Read(MimeMessage, ReadOnlySpan{byte})"/>, with the message known by the
    /// address
    /// too. A bounce in a form that nobody can read still tells that this message came back; an answer from somebody who is away tells
    /// nothing.
    /// </summary>
    public static IReadOnlyList<ReportedDelivery> Read(MimeMessage message, ReadOnlySpan<byte> raw, string? returnAddress)
    {
        var mark = ReturnMark(message.Headers, returnAddress);
        var said = Read(message, raw);
        if (mark is null || said.Count > 0)
            return mark is null ? said : [.. said.Select(s => s with { ReturnMark = mark })];
        if (IsAnswer(message.Headers) || !IsOfServer(message.Headers) || Is(message))
            return [];
        var words = Core.Mail.HeaderText.Clean(message.Subject ?? "").Trim() is { Length: > 0 } subject
            ? subject
            : "returned, without a reason";
        return [new(null, "", "failed", "", words, $"{mark} returned", message.Date, mark)];
    }

    static IEnumerable<MimeEntity> Parts(MimeMessage message)
    {
        var open = new Stack<(MimeEntity Entity, int Depth)>();
        if (message.Body is not null)
            open.Push((message.Body, 0));
        while (open.TryPop(out var next))
        {
            yield return next.Entity;
            // A message within is what came back, and no report of its own; what is nested deeper than any report is not looked at.
            if (next.Entity is Multipart multipart && next.Depth < 20)
                foreach (var part in multipart)
                    open.Push((part, next.Depth + 1));
        }
    }

    /// <summary>What a report says, a line for each recipient; nothing where it is no report or says nothing that can be used.</summary>
    public static IReadOnlyList<ReportedDelivery> Read(MimeMessage message, ReadOnlySpan<byte> raw)
    {
        var parts = Parts(message).ToList();
        var id =
            parts.OfType<MessagePart>().Select(p => p.Message?.MessageId).FirstOrDefault(m => !string.IsNullOrEmpty(m)) ?? OfHeaders(parts);
        var digest = Convert.ToHexStringLower(SHA256.HashData(raw))[..32];
        var all = new List<ReportedDelivery>();
        if (Feedback(message) is { } feedback)
        {
            var of = feedback["Original-Rcpt-To"] ?? feedback["Removal-Recipient"];
            var to = Plain(of).Trim('<', '>') is { Length: > 0 } said
                ? said
                : parts
                    .OfType<MessagePart>()
                    .Select(p => p.Message?.To.Mailboxes.FirstOrDefault()?.Address)
                    .FirstOrDefault(a => a is not null)
                ?? "";
            var kind = Plain(feedback["Feedback-Type"]).ToLowerInvariant() is { Length: > 0 } type ? type : "abuse";
            if (to.Length > 0 && kind is "abuse" or "fraud" or "opt-out" or "not-spam" or "other")
                all.Add(
                    new(
                        id,
                        to,
                        "complained",
                        "5.7.1",
                        $"The recipient reported the message ({kind})",
                        id is null ? $"{digest} {all.Count}" : $"{id} {to.ToLowerInvariant()} complained",
                        message.Date
                    )
                );
            return all;
        }
        if (QmailText(message) is { } text)
        {
            foreach (var (address, words) in QmailParagraphs(text))
            {
                var code = StatusWithin.Match(words) is { Success: true } m ? m.Value : "5.0.0";
                var about =
                    id
                    ?? MessageIdWithin.Match(text[Math.Max(0, text.IndexOf("--- ", StringComparison.Ordinal))..]) switch
                    {
                        { Success: true } found => found.Groups[1].Value,
                        _ => null,
                    };
                all.Add(
                    new(
                        about,
                        address,
                        "failed",
                        code,
                        words,
                        about is null ? $"{digest} {all.Count}" : $"{about} {address.ToLowerInvariant()} failed {code}",
                        message.Date
                    )
                );
            }
            return all;
        }
        foreach (var status in parts.OfType<MessageDeliveryStatus>())
        {
            var groups = status.StatusGroups;
            var envelope = groups.Count > 0 ? Plain(groups[0]["Original-Envelope-Id"]) : "";
            // The first group speaks of the message, each further one of a recipient.
            foreach (var group in groups.Skip(1))
            {
                var address = Typed(group["Final-Recipient"]) is { Length: > 0 } final ? final : Typed(group["Original-Recipient"]);
                if (Typed(group["Original-Recipient"]) is { Length: > 0 } original)
                    address = original;
                var action = Plain(group["Action"]).ToLowerInvariant();
                var code = Plain(group["Status"]).Split(' ')[0];
                if (address.Length == 0 || action is not ("failed" or "delayed" or "delivered" or "relayed" or "expanded"))
                    continue;
                if (!StatusForm.IsMatch(code))
                    code = action == "failed" ? "5.0.0" : "4.0.0";
                var words = Typed(group["Diagnostic-Code"]) is { Length: > 0 } diagnostic ? diagnostic : $"{action}, {code}";
                var about = id ?? (envelope.Contains('@') ? envelope : null);
                // Mail programs save a message with other line ends than it came with: what a report says makes it the same one, not its
                // bytes.
                all.Add(
                    new(
                        about,
                        address,
                        action,
                        code,
                        Core.Mail.HeaderText.Clean(words),
                        about is null ? $"{digest} {all.Count}" : $"{about} {address.ToLowerInvariant()} {action} {code}",
                        message.Date
                    )
                );
            }
        }
        return all;
    }

    /// <summary>The fields of a complaint (RFC 5965, section 3.1); null where a message is none.</summary>
    static HeaderList? Feedback(MimeMessage message)
    {
        foreach (var part in Parts(message).OfType<MimePart>().Where(p => p.ContentType.IsMimeType("message", "feedback-report")))
        {
            if (part is MessageFeedbackReport report)
                return report.Fields;
            using var content = new MemoryStream();
            part.Content?.DecodeTo(content);
            content.Position = 0;
            try
            {
                return HeaderList.Load(content);
            }
            catch (FormatException)
            {
                return null;
            }
        }
        return null;
    }

    /// <summary>The text of a bounce in the form of QSBMF, which has no parts for programs; null where a message is none.</summary>
    static string? QmailText(MimeMessage message) =>
        message.Body is TextPart { Text: { } text }
        && text.Length < 1_000_000
        && text.TrimStart().StartsWith("Hi. This is the", StringComparison.Ordinal)
            ? text.ReplaceLineEndings("\n")
            : null;

    /// <summary>The paragraphs that speak of recipients: an address in brackets with a colon, then the reason; up to the line that begins
    /// the returned message.</summary>
    static IEnumerable<(string Address, string Words)> QmailParagraphs(string text)
    {
        foreach (var paragraph in text.Split("\n\n").Take(500))
        {
            var lines = paragraph.Trim('\n').Split('\n');
            if (lines[0].StartsWith("--- ", StringComparison.Ordinal))
                yield break;
            if (QmailRecipient.Match(lines[0]) is { Success: true } m)
                yield return (
                    m.Groups[1].Value,
                    Core.Mail.HeaderText.Clean(string.Join(' ', lines.Skip(1).Prepend(lines[0][m.Length..]))).Trim()
                        is { Length: > 0 } words
                        ? words
                        : "returned"
                );
        }
    }

    [GeneratedRegex(@"^<([^<>\s]+@[^<>\s]+)>:\s*")]
    private static partial Regex QmailRecipient { get; }

    [GeneratedRegex(@"\b[45]\.\d{1,3}\.\d{1,3}\b")]
    private static partial Regex StatusWithin { get; }

    [GeneratedRegex(@"^Message-ID:\s*<([^>]+)>", RegexOptions.IgnoreCase | RegexOptions.Multiline)]
    private static partial Regex MessageIdWithin { get; }

    /// <summary>The id out of a part that holds the returned message's headers alone (RFC 3462, section 3).</summary>
    static string? OfHeaders(List<MimeEntity> parts)
    {
        foreach (var part in parts.OfType<TextPart>().Where(p => p.ContentType.IsMimeType("text", "rfc822-headers")))
        foreach (var line in part.Text.Split('\n'))
            if (line.StartsWith("Message-ID:", StringComparison.OrdinalIgnoreCase))
                return line[11..].Trim().Trim('<', '>');
        return null;
    }

    /// <summary>A field of the form <c>type; value</c>.</summary>
    static string Typed(string? field) =>
        Plain(field) is var text && text.IndexOf(';') is >= 0 and var at ? text[(at + 1)..].Trim().Trim('<', '>') : Plain(field);

    static string Plain(string? field) => Core.Mail.HeaderText.Clean(field ?? "").Trim();

    /// <summary>Writes a report as a server would: that a message could not be delivered to an address.</summary>
    /// <param name="about">The message.</param>
    /// <param name="status">For instance 5.1.1.</param>
    public static MimeMessage Write(MimeMessage about, string address, string status, string words, string server, DateTimeOffset at)
    {
        var failed = status.StartsWith('5');
        var sender = about.From.Mailboxes.FirstOrDefault() ?? new MailboxAddress(null, "nobody@example.invalid");
        var said = new MessageDeliveryStatus();
        said.StatusGroups.Add(
            new HeaderList { { "Reporting-MTA", $"dns; {server}" }, { "Arrival-Date", MimeKit.Utils.DateUtils.FormatDate(at) } }
        );
        said.StatusGroups.Add(
            new HeaderList
            {
                { "Final-Recipient", $"rfc822; {address}" },
                { "Action", failed ? "failed" : "delayed" },
                { "Status", status },
                { "Diagnostic-Code", $"smtp; {words}" },
            }
        );
        var headers = new MimeMessage(
            about.Headers.Where(h => h.Id is HeaderId.MessageId or HeaderId.From or HeaderId.To or HeaderId.Subject or HeaderId.Date)
        )
        {
            Body = new TextPart("plain") { Text = "" },
        };
        var report = new MultipartReport("delivery-status")
        {
            new TextPart("plain") { Text = $"The message “{about.Subject}” could not be delivered to {address}.\r\n\r\n{words}\r\n" },
            said,
            new MessagePart { Message = headers },
        };
        var message = new MimeMessage
        {
            Subject = failed ? "Undelivered mail" : "Delayed mail",
            Date = at,
            Body = report,
        };
        message.From.Add(new MailboxAddress("Mail delivery", $"postmaster@{server}"));
        message.To.Add(sender);
        return message;
    }
}
