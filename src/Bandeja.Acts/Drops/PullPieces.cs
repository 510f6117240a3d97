using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>A drop whose pieces are pulled.</summary>
public sealed record PiecesToPull(long DropId);

/// <summary>Records that pieces were pulled from the trays: those that were produced before a rule would have held them. They are held, so
/// that they are not marked as mailed with the others.</summary>
[Act("drop.pull", Permission.Mail, "Pulled pieces")]
public sealed class PullPieces(BenchStore bench) : Act<PiecesToPull, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(PiecesToPull order, Deed deed)
    {
        deed.Changed(Matter.Drop, order.DropId);
        return bench.Pull(order.DropId, deed.Actor);
    }
}
