using Bandeja.Store.Proofs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Proofs;

/// <summary>Whether a recipient is in the proof set by choice.</summary>
public sealed record ProofSetChoice(long DropId, long RecipientId, bool IsIn);

/// <summary>Adds a recipient to the proof set, or takes one that was added out of it.</summary>
[Act("proof.choose", Permission.Proof, "Changed who is in the proof set")]
public sealed class ChooseForProofSet(ProofStore proofs) : Act<ProofSetChoice>
{
    /// <inheritdoc/>
    protected override void Carry(ProofSetChoice order, Deed deed)
    {
        proofs.SetOwn(order.DropId, [order.RecipientId], order.IsIn, deed.Actor);
        deed.Changed(Matter.Drop, order.DropId);
    }
}
