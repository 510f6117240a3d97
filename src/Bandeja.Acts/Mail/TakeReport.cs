using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Mail;
using Bandeja.Work.Reading;

namespace Bandeja.Acts.Mail;

/// <summary>A message that a mail server sent back.</summary>
public sealed record ArrivedReport(byte[] Data);

/// <summary>What a delivery report said of somebody, and whether that was new.</summary>
public sealed record ReportedOn(MailReportRow Row, bool IsNew);

/// <summary>Takes in a delivery report (RFC 3464) or a complaint (RFC 5965).</summary>
[Act("mail.report", Permission.Mail, "Took in a delivery report")]
public sealed class TakeReport(DeliveryReports reports, FileReader files) : Act<ArrivedReport, IReadOnlyList<ReportedOn>>
{
    /// <summary>A message is read, which may take a while; each report is written at once.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override IReadOnlyList<ReportedOn> Do(ArrivedReport order, Deed deed)
    {
        var read = files.Report(order.Data, null, deed.Cancel);
        if (!read.IsMessage)
            throw new BadInputException("This file is not an email message. Save it from your email program as .eml and import it again.");
        if (!read.IsReport)
            throw new BadInputException(
                "This message is neither a delivery report nor a complaint. Take the one that the mail server sent back."
            );
        var taken = reports.Take(read.Said);
        return taken.Count == 0
            ? throw new BadInputException("This delivery report names no recipient.")
            : [.. taken.Select(t => new ReportedOn(t.Row, t.IsNew))];
    }
}
