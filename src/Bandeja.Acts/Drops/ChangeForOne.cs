using Bandeja.Acts.Designs;
using Bandeja.Core.Designs;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Proofs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Drops;

/// <summary>A letter, or a form, as one recipient is to get it.</summary>
public sealed record OwnLetter(long DropId, long RecipientId, long DesignId, string Document);

/// <summary>Changes a letter or a form for one recipient only; also settles it with the design's newest version.</summary>
[Act("drop.own-letter", Permission.Drops, "Changed a letter for one recipient")]
public sealed class ChangeForOne(OneOffs oneOffs, DesignStore designs) : Act<OwnLetter, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(OwnLetter order, Deed deed)
    {
        var kind = DesignGiven.Kind(order.Document);
        if (kind != designs.Get(order.DesignId).Kind || !kind.Rules().ChangesForOne)
            throw new BadInputException("A letter or a form can be changed for one recipient, and stays what it is.");
        deed.Changed(Matter.Drop, order.DropId);
        return oneOffs.Save(order.DropId, order.RecipientId, order.DesignId, order.Document, deed.Actor);
    }
}
