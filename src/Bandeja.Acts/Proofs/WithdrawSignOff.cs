using Bandeja.Store.Proofs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Proofs;

/// <summary>A drop whose sign-off is to be withdrawn.</summary>
public sealed record Withdrawal(long DropId);

/// <summary>Withdraws a sign-off.</summary>
[Act("drop.withdraw", Permission.Proof, "Withdrew the sign-off")]
public sealed class WithdrawSignOff(ProofStore proofs) : Act<Withdrawal>
{
    /// <inheritdoc/>
    protected override void Carry(Withdrawal order, Deed deed)
    {
        proofs.Withdraw(order.DropId, deed.Actor);
        deed.Changed(Matter.Drop, order.DropId);
    }
}
