using Bandeja.Formats.Mail;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Mail;
using MimeKit;

namespace Bandeja.Acts.Mail;

/// <summary>A message that a mail server sent back.</summary>
public sealed record ArrivedReport(byte[] Data);

/// <summary>What a delivery report said of somebody, and whether that was new.</summary>
public sealed record ReportedOn(MailReportRow Row, bool IsNew);

/// <summary>Takes in a delivery report (RFC 3464) or a complaint (RFC 5965).</summary>
[Act("mail.report", Permission.Mail, "Took in a delivery report")]
public sealed class TakeReport(DeliveryReports reports) : Act<ArrivedReport, IReadOnlyList<ReportedOn>>
{
    /// <inheritdoc/>
    protected internal override IReadOnlyList<ReportedOn> Do(ArrivedReport order, Deed deed)
    {
        MimeMessage message;
        try
        {
            message = MimeMessage.Load(new MemoryStream(order.Data, writable: false));
        }
        catch (FormatException)
        {
            throw new BadInputException("This is no message: save it from the mail program as .eml and bring it in again.");
        }
        if (!DeliveryReport.Is(message))
            throw new BadInputException(
                "This message is neither a delivery report nor a complaint. Take the one that the mail server sent back."
            );
        var taken = reports.Take(message, order.Data);
        return taken.Count == 0
            ? throw new BadInputException("This delivery report says nothing of any recipient.")
            : [.. taken.Select(t => new ReportedOn(t.Row, t.IsNew))];
    }
}
