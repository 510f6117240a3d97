using Bandeja.Core.Composition;
using Bandeja.Store;
using Bandeja.Store.Proofs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>A letter as one recipient is to get it.</summary>
public sealed record OwnLetter(long DropId, long RecipientId, long DesignId, string Document);

/// <summary>Changes a letter for one recipient only; also settles it with the design's newest version.</summary>
[Act("drop.own-letter", Permission.Drops, "Changed a letter for one recipient")]
public sealed class ChangeForOne(OneOffs oneOffs) : Act<OwnLetter, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(OwnLetter order, Deed deed)
    {
        LetterReader.Read(order.Document);
        deed.Changed(Matter.Drop, order.DropId);
        return oneOffs.Save(order.DropId, order.RecipientId, order.DesignId, order.Document, deed.Actor);
    }
}
