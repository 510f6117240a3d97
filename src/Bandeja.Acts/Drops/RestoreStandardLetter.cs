using Bandeja.Store;
using Bandeja.Store.Proofs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>Whose own letter to give up.</summary>
public sealed record OwnLetterOf(long DropId, long RecipientId, long DesignId);

/// <summary>Gives a recipient the standard letter again.</summary>
[Act("drop.standard-letter", Permission.Drops, "Gave a recipient the standard letter again")]
public sealed class RestoreStandardLetter(OneOffs oneOffs) : Act<OwnLetterOf, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(OwnLetterOf order, Deed deed)
    {
        deed.Changed(Matter.Drop, order.DropId);
        return oneOffs.Remove(order.DropId, order.RecipientId, order.DesignId, deed.Actor);
    }
}
