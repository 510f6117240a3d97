using Bandeja.Formats.Mail;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;

namespace Bandeja.Work.Mail;

/// <summary>Takes delivery reports in, wherever they come from, and tells who concerns whom.</summary>
public sealed class DeliveryReports(MailReports store, Announcements announcements, TimeProvider time)
{
    /// <summary>Takes a report in.</summary>
    /// <returns>What it says, and whether it was new.</returns>
    public IReadOnlyList<(MailReportRow Row, bool IsNew)> Take(IReadOnlyList<ReportedDelivery> report)
    {
        var taken = new List<(MailReportRow, bool)>();
        foreach (var said in report)
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
