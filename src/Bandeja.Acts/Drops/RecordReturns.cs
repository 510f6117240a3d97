using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Drops;

/// <summary>Pieces that the post brought back.</summary>
/// <param name="Date">When they arrived; today where nothing is said.</param>
public sealed record Returns(long DropId, IReadOnlyList<long> Recipients, string? Reason = null, DateOnly? Date = null);

/// <summary>Records that the post brought pieces back.</summary>
[Act("drop.returned", Permission.Mail, "Recorded returns")]
public sealed class RecordReturns(BenchStore bench, Letters letters) : Act<Returns, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(Returns order, Deed deed)
    {
        if (order.Date > letters.Today)
            throw new BadInputException("The date of the return is in the future. Record a return on the day it arrived.");
        var reason = Given.Reason(order.Reason) ?? "by hand";
        deed.Says($"Recorded return of {Given.Recipients(order.Recipients.Count)}: {reason}");
        deed.Changed(Matter.Drop, order.DropId);
        return bench.Act(
            order.DropId,
            order.Recipients,
            DropEventKind.Returned,
            reason,
            order.Date ?? letters.Today,
            "Recorded return of",
            deed.Actor
        );
    }
}
