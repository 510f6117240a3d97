using Bandeja.Formats.Mail;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using MimeKit;

namespace Bandeja.Work.Mail;

/// <summary>Takes delivery reports in, wherever they come from, and tells who concerns whom.</summary>
public sealed class DeliveryReports(MailReports store, Announcements announcements, TimeProvider time)
{
    /// <summary>Takes a report in.</summary>
    /// <param name="returnAddress">Where bounces go, if messages have return addresses of their own; null otherwise.</param>
    /// <returns>What it says, and whether it was new; nothing where it is no report.</returns>
    public IReadOnlyList<(MailReportRow Row, bool IsNew)> Take(MimeMessage message, ReadOnlySpan<byte> raw, string? returnAddress = null)
    {
        var taken = new List<(MailReportRow, bool)>();
        foreach (var said in DeliveryReport.Read(message, raw, returnAddress))
        {
            var (row, isNew) = store.Take(
                new(said.MessageId, said.Address, said.Action, said.Status, said.Words, said.Mark, said.At, said.ReturnMark),
                DateOnly.FromDateTime(time.GetLocalNow().DateTime),
                new(ActorKind.Rule, "Mail server", time.GetUtcNow())
            );
            taken.Add((row, isNew));
            if (row.DropId is { } drop)
                announcements.Changed(Matter.Drop, drop);
        }
        return taken;
    }
}
