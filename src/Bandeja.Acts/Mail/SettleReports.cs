using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>Which proposals of delivery reports to settle, and how.</summary>
/// <param name="Suppress">True to put the addresses on a suppression list; false to leave them.</param>
public sealed record SettledReports(long DropId, IReadOnlyList<long> Ids, bool Suppress);

/// <summary>Puts addresses that are gone for good on a suppression list, or leaves them.</summary>
[Act("mail.settle-reports", Permission.Suppressions, "Resolved delivery reports")]
public sealed class SettleReports(MailReports reports, Unsubscribing unsubscribing) : Act<SettledReports>
{
    /// <inheritdoc/>
    protected override void Carry(SettledReports order, Deed deed)
    {
        var chosen = reports.OfDrop(order.DropId).Where(r => order.Ids.Contains(r.Id) && r.Settled is null).ToList();
        if (chosen.Count == 0)
            throw new ConflictException("These addresses are already resolved.");
        deed.To(Work.Announcing.Matter.Drop, order.DropId);
        unsubscribing.Settle(order.DropId, chosen, order.Suppress, deed.Actor);
    }
}
