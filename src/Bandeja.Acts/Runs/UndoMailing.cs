using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Runs;

namespace Bandeja.Acts.Runs;

/// <summary>Why a recorded mailing is undone, and for which pieces; without pieces for all of the run.</summary>
public sealed record MailingUndone(long RunId, string Reason, string? Pieces = null);

/// <summary>Undoes that pieces were mailed, with a reason.</summary>
[Act("run.undo-mailing", Permission.Mail, "Undid a mailing")]
public sealed class UndoMailing(BenchStore bench, RunStore runs) : Act<MailingUndone, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(MailingUndone order, Deed deed)
    {
        if (string.IsNullOrWhiteSpace(order.Reason))
            throw new BadInputException("Enter a reason for undoing the mailing.");
        deed.Says($"Undid a mailing: {order.Reason.Trim()}");
        deed.ChangedRun(runs, order.RunId);
        return bench.UnmarkMailed(order.RunId, order.Reason.Trim(), Given.Pieces(order.Pieces), deed.Actor);
    }
}
