using Bandeja.Store.Returns;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Returns;

/// <summary>A return that was entered.</summary>
public sealed record EnteredReturn(long ReturnId);

/// <summary>Takes a return back, with all that followed from it.</summary>
[Act("return.undo", Permission.Mail, "Took a return back")]
public sealed class UndoReturn(ReturnStore returns) : Act<EnteredReturn, ReturnRow>
{
    /// <inheritdoc/>
    protected internal override ReturnRow Do(EnteredReturn order, Deed deed)
    {
        var outcome = returns.Undo(order.ReturnId, deed.Actor);
        deed.Says($"Took back the return of piece {outcome.Row.Piece:0000}");
        Announced.Of(outcome, deed);
        return outcome.Row;
    }
}
