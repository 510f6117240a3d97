using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Proofs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Proofs;

/// <summary>How somebody's pages were found.</summary>
/// <param name="Found">right or wrong; null to take that back.</param>
public sealed record ProofMark(long DropId, long RecipientId, string? Found, string? Note = null);

/// <summary>Says how the pages of a member of the proof set were found.</summary>
[Act("proof.mark", Permission.Proof, "Reviewed a piece")]
public sealed class MarkProof(Database database, ProofSets sets, ProofStore proofs) : Act<ProofMark>
{
    /// <inheritdoc/>
    protected override void Carry(ProofMark order, Deed deed)
    {
        if (order.Found is not (null or "right" or "wrong"))
            throw new BadInputException("A proof must be marked right or wrong.");
        var note = Given.Reason(order.Note, "note");
        using var c = database.Open();
        var drop = DropStore.Drop(c, order.DropId);
        var recipient =
            DropStore.Recipients(c, drop, RowTable.Columns(c, drop.ListId), [order.RecipientId]).FirstOrDefault()
            ?? throw new NotFoundException("This recipient is not in the drop.");
        var mark = sets.Marks(c, drop, [recipient])[order.RecipientId];
        proofs.Look(order.DropId, order.RecipientId, order.Found, note, mark, deed.Actor);
        deed.Changed(Matter.Drop, order.DropId);
    }
}
