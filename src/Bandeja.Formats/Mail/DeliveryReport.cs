using System.Security.Cryptography;
using System.Text.RegularExpressions;
using MimeKit;

namespace Bandeja.Formats.Mail;

/// <summary>What a delivery report says of one recipient (RFC 3464, section 2.3).</summary>
/// <param name="MessageId">Of the message that it is about, without brackets; null where the report does not say.</param>
/// <param name="Action">failed, delayed, delivered, relayed or expanded.</param>
/// <param name="Status">For instance 5.1.1 (RFC 3463).</param>
/// <param name="Words">The server's own words.</param>
/// <param name="Mark">The same for the same report.</param>
public sealed record ReportedDelivery(string? MessageId, string Address, string Action, string Status, string Words, string Mark);

/// <summary>Reads and writes delivery reports.</summary>
public static partial class DeliveryReport
{
    [GeneratedRegex(@"^\d\.\d{1,3}\.\d{1,3}$")]
    private static partial Regex StatusForm { get; }

    /// <summary>True where a message is a delivery report.</summary>
    public static bool Is(MimeMessage message) => message.Body is MultipartReport report && string.Equals(report.ReportType, "delivery-status", StringComparison.OrdinalIgnoreCase) || Parts(message).OfType<MessageDeliveryStatus>().Any();

    static IEnumerable<MimeEntity> Parts(MimeMessage message)
    {
        var open = new Stack<(MimeEntity Entity, int Depth)>();
        if (message.Body is not null) open.Push((message.Body, 0));
        while (open.TryPop(out var next))
        {
            yield return next.Entity;
            // A message within is what came back, and no report of its own; what is nested deeper than any report is not looked at.
            if (next.Entity is Multipart multipart && next.Depth < 20) foreach (var part in multipart) open.Push((part, next.Depth + 1));
        }
    }

    /// <summary>What a report says, a line for each recipient; nothing where it is no report or says nothing that can be used.</summary>
    public static IReadOnlyList<ReportedDelivery> Read(MimeMessage message, ReadOnlySpan<byte> raw)
    {
        var parts = Parts(message).ToList();
        var id = parts.OfType<MessagePart>().Select(p => p.Message?.MessageId).FirstOrDefault(m => !string.IsNullOrEmpty(m)) ?? OfHeaders(parts);
        var digest = Convert.ToHexStringLower(SHA256.HashData(raw))[..32];
        var all = new List<ReportedDelivery>();
        foreach (var status in parts.OfType<MessageDeliveryStatus>())
        {
            var groups = status.StatusGroups;
            var envelope = groups.Count > 0 ? Plain(groups[0]["Original-Envelope-Id"]) : "";
            // The first group speaks of the message, each further one of a recipient.
            foreach (var group in groups.Skip(1))
            {
                var address = Typed(group["Final-Recipient"]) is { Length: > 0 } final ? final : Typed(group["Original-Recipient"]);
                if (Typed(group["Original-Recipient"]) is { Length: > 0 } original) address = original;
                var action = Plain(group["Action"]).ToLowerInvariant();
                var code = Plain(group["Status"]).Split(' ')[0];
                if (address.Length == 0 || action is not ("failed" or "delayed" or "delivered" or "relayed" or "expanded")) continue;
                if (!StatusForm.IsMatch(code)) code = action == "failed" ? "5.0.0" : "4.0.0";
                var words = Typed(group["Diagnostic-Code"]) is { Length: > 0 } diagnostic ? diagnostic : $"{action}, {code}";
                var about = id ?? (envelope.Contains('@') ? envelope : null);
                // Mail programs save a message with other line ends than it came with: what a report says makes it the same one, not its bytes.
                all.Add(new(about, address, action, code, Core.Mail.HeaderText.Clean(words), about is null ? $"{digest} {all.Count}" : $"{about} {address.ToLowerInvariant()} {action} {code}"));
            }
        }
        return all;
    }

    /// <summary>The id out of a part that holds the returned message's headers alone (RFC 3462, section 3).</summary>
    static string? OfHeaders(List<MimeEntity> parts)
    {
        foreach (var part in parts.OfType<TextPart>().Where(p => p.ContentType.IsMimeType("text", "rfc822-headers")))
            foreach (var line in part.Text.Split('\n'))
                if (line.StartsWith("Message-ID:", StringComparison.OrdinalIgnoreCase)) return line[11..].Trim().Trim('<', '>');
        return null;
    }

    /// <summary>A field of the form <c>type; value</c>.</summary>
    static string Typed(string? field) => Plain(field) is var text && text.IndexOf(';') is >= 0 and var at ? text[(at + 1)..].Trim().Trim('<', '>') : Plain(field);

    static string Plain(string? field) => Core.Mail.HeaderText.Clean(field ?? "").Trim();

    /// <summary>Writes a report as a server would: that a message could not be delivered to an address.</summary>
    /// <param name="about">The message.</param>
    /// <param name="status">For instance 5.1.1.</param>
    public static MimeMessage Write(MimeMessage about, string address, string status, string words, string server, DateTimeOffset at)
    {
        var failed = status.StartsWith('5');
        var sender = about.From.Mailboxes.FirstOrDefault() ?? new MailboxAddress(null, "nobody@example.invalid");
        var said = new MessageDeliveryStatus();
        said.StatusGroups.Add(new HeaderList { { "Reporting-MTA", $"dns; {server}" }, { "Arrival-Date", MimeKit.Utils.DateUtils.FormatDate(at) } });
        said.StatusGroups.Add(new HeaderList { { "Final-Recipient", $"rfc822; {address}" }, { "Action", failed ? "failed" : "delayed" }, { "Status", status }, { "Diagnostic-Code", $"smtp; {words}" } });
        var headers = new MimeMessage(about.Headers.Where(h => h.Id is HeaderId.MessageId or HeaderId.From or HeaderId.To or HeaderId.Subject or HeaderId.Date)) { Body = new TextPart("plain") { Text = "" } };
        var report = new MultipartReport("delivery-status")
        {
            new TextPart("plain") { Text = $"The message “{about.Subject}” could not be delivered to {address}.\r\n\r\n{words}\r\n" },
            said,
            new MessagePart { Message = headers },
        };
        var message = new MimeMessage { Subject = failed ? "Undelivered mail" : "Delayed mail", Date = at, Body = report };
        message.From.Add(new MailboxAddress("Mail delivery", $"postmaster@{server}"));
        message.To.Add(sender);
        return message;
    }
}
