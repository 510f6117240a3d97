using Bandeja.Core.Returns;
using Bandeja.Store;
using Bandeja.Store.Returns;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Returns;

/// <summary>A piece that came back.</summary>
/// <param name="FollowUp">What follows from it; null for what the rule of the reason says.</param>
/// <param name="Date">When it arrived; today where nothing is said.</param>
/// <param name="Address">Corrected cells of the recipient, by the column's id.</param>
/// <param name="Also">The same person on other lists, by their recipient there: the address is corrected for them as well. Null for
/// those whose address was the same.</param>
public sealed record ReturnedPiece(
    long DropId,
    long RecipientId,
    ReturnReason Reason,
    ReturnFollowUp? FollowUp = null,
    DateOnly? Date = null,
    IReadOnlyDictionary<int, string?>? Address = null,
    IReadOnlyList<long>? Also = null
);

/// <summary>Records a piece that came back and does what follows: holds, suppresses, corrects the address, mails again.</summary>
[Act("return.record", Permission.Mail, "Recorded a return")]
public sealed class RecordReturn(ReturnStore returns, SettingStore settings, Surroundings surroundings) : Act<ReturnedPiece, ReturnRow>
{
    const int LongestValue = 500;

    /// <inheritdoc/>
    protected internal override ReturnRow Do(ReturnedPiece order, Deed deed)
    {
        var today = surroundings.Now.Today;
        if (order.Date > today)
            throw new BadInputException("The date of the return is in the future. Record a return on the day it arrived.");
        var address = order.Address ?? new Dictionary<int, string?>();
        if (address.Values.Any(v => v?.Length > LongestValue))
            throw new BadInputException($"A part of an address can have {LongestValue} characters.");
        var follow = order.FollowUp ?? settings.ReturnRules()[order.Reason];
        var outcome = returns.Record(
            new(order.DropId, order.RecipientId, order.Reason, follow, order.Date ?? today, address, order.Also),
            deed.Actor
        );
        deed.Says($"Recorded return of piece {outcome.Row.Piece:0000}: {order.Reason.Words()}");
        Announced.Of(outcome, deed);
        return outcome.Row;
    }
}
