using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Runs;

/// <summary>When a run's pieces left the building, and which; without pieces all that are waiting.</summary>
/// <param name="Pieces">Only these, such as <c>1-300, 312</c>.</param>
/// <param name="UpTo">Only those up to and with this piece, in the order of the run.</param>
/// <param name="Without">All but these: they were pulled out.</param>
public sealed record MailedPieces(long RunId, DateOnly Date, string? Pieces = null, int? UpTo = null, string? Without = null);

/// <summary>Records that a run's pieces were mailed.</summary>
[Act("run.mailed", Permission.Mail, "Marked a run as mailed")]
public sealed class MarkMailed(BenchStore bench, RunStore runs, Letters letters) : Act<MailedPieces, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(MailedPieces order, Deed deed)
    {
        // Whoever brings the pieces to the post in the evening may record it with the post's date of the next morning.
        if (order.Date > letters.Today.AddDays(1))
            throw new BadInputException("The mail date is in the future. Enter the date the mail left the building.");
        deed.ChangedRun(runs, order.RunId);
        return bench.MarkMailed(order.RunId, order.Date, Given.Pieces(order.Pieces), deed.Actor, order.UpTo, Given.Pieces(order.Without));
    }
}
