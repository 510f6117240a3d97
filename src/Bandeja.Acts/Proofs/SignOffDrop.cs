using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Proofs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Proofs;

/// <summary>A drop to sign off.</summary>
public sealed record SignOffOrder(long DropId, string? Note = null);

/// <summary>Signs a drop off, exactly as it is now.</summary>
[Act("drop.sign-off", Permission.Proof, "Signed off")]
public sealed class SignOffDrop(
    Database database,
    ProofSets sets,
    ProofReview review,
    ProofStore proofs,
    Letters letters,
    CheckRequests checks
) : Act<SignOffOrder>
{
    /// <inheritdoc/>
    protected internal override void Before(SignOffOrder order)
    {
        checks.MustBeFresh(order.DropId, "the drop cannot be signed off");
        // Chosen here, so that it is only looked up while nobody else can write.
        sets.Of(order.DropId);
    }

    /// <inheritdoc/>
    protected override void Carry(SignOffOrder order, Deed deed)
    {
        if (deed.Actor is not { Kind: ActorKind.Person, Name: not Actor.Unnamed })
            throw new ConflictException("Enter your name first. A sign-off needs a name.");
        var set = review.Of(order.DropId);
        var wrong = set.Members.Count(m => m.Verdict == "wrong");
        var open = set.Members.Count(m => m.Verdict is null);
        if (set.Population == 0)
            throw new ConflictException("There is nothing to sign off because all recipients are held or already mailed.");
        if (wrong + open > 0)
            throw new ConflictException(
                (wrong > 0 ? $"{Pieces(wrong)} marked wrong. " : "")
                    + (open > 0 ? $"{Pieces(open)} not reviewed." : "")
                    + " Review the whole proof set before you sign off."
            );
        using var c = database.Open();
        var drop = DropStore.Drop(c, order.DropId);
        proofs.SignOff(
            order.DropId,
            ProofStore.Subject(c, drop, letters.Rules(c, drop)),
            [.. ProofStore.Looks(c, order.DropId).Values.Where(l => set.Members.Any(m => m.Id == l.RecipientId))],
            Given.Reason(order.Note, "note"),
            deed.Actor
        );
        deed.Changed(Matter.Drop, order.DropId);
    }

    static string Pieces(int n) => n == 1 ? "1 piece is" : $"{n} pieces are";
}
