using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Proofs;

namespace Bandeja.Work.Composition;

/// <summary>A recipient of the proof set.</summary>
/// <param name="Reasons">Why they were chosen, what is odd first; empty for who was only added by hand.</param>
/// <param name="Own">True where somebody added them.</param>
/// <param name="Verdict">right, wrong, or null where nobody has looked at these very pages.</param>
/// <param name="Outdated">True where somebody looked, but the pages are others now.</param>
public sealed record ProofMemberView(
    long Id,
    int Piece,
    string Name,
    string Place,
    string Tray,
    IReadOnlyList<string> Reasons,
    bool Own,
    string? Verdict,
    string? Note,
    string? By,
    string? At,
    bool Outdated,
    IReadOnlyList<ProofPiece> Pieces
);

/// <summary>A way in which the output can come out.</summary>
/// <param name="Recipients">In how many it does; 0 where nobody has it.</param>
/// <param name="SeenIn">The member in whom it is seen.</param>
public sealed record VariationView(string Kind, string Subject, string Case, string Text, int Recipients, long? SeenIn);

/// <summary>The proof set of a drop.</summary>
/// <param name="Population">How many recipients' pieces are still in the house.</param>
public sealed record ProofSetView(
    IReadOnlyList<ProofMemberView> Members,
    IReadOnlyList<VariationView> Variations,
    int Population,
    SignOffView SignOff,
    string Subject
);

/// <summary>The proof set with what was said of its members.</summary>
public sealed class ProofReview(Database database, ProofSets sets, Letters letters)
{
    /// <summary>A drop's proof set: who is in it and why, what was found, and what every variation is seen in.</summary>
    public ProofSetView Of(long id)
    {
        var chosen = sets.Of(id);
        using var c = database.Open();
        var drop = DropStore.Drop(c, id);
        var columns = RowTable.Columns(c, drop.ListId);
        var own = ProofStore.Own(c, id);
        var reasons = chosen.Set.Members.ToDictionary(m => m.RecipientId, m => m.Reasons);
        var ids = chosen.Set.Members.Select(m => m.RecipientId).Union(own).ToList();
        var people = DropStore.Recipients(c, drop, columns, ids).ToDictionary(r => r.Id);
        var marks = sets.Marks(c, drop, [.. people.Values]);
        var looks = ProofStore.Looks(c, id);
        var composer = new PackageComposer(c, letters, drop);
        var members = ids.Where(people.ContainsKey)
            .Select(i => people[i])
            .Select(r =>
            {
                var label = RecipientLabel.Of(columns, i => r.Values[i]);
                var look = looks.GetValueOrDefault(r.Id);
                var same = look?.PagesMark == marks[r.Id];
                var composed = composer.Compose(r);
                var pieces = ProofPiece.Of(composed, PackagePieces.WindowOnLetter(composed.Bound));
                return new ProofMemberView(
                    r.Id,
                    r.PieceNumber,
                    label.Name,
                    label.Place,
                    r.Tray.ToString(),
                    [.. (reasons.GetValueOrDefault(r.Id) ?? []).Select(v => v.Text)],
                    own.Contains(r.Id),
                    same ? look!.Verdict : null,
                    look?.Note,
                    look?.By,
                    look?.At,
                    look is not null && !same,
                    pieces
                );
            })
            .ToList();
        return new(
            members,
            [
                .. chosen.Set.Variations.Select(v => new VariationView(
                    v.Variation.Kind.ToString(),
                    v.Variation.Subject,
                    v.Variation.Case,
                    v.Variation.Text,
                    v.Recipients,
                    v.SeenIn
                )),
            ],
            chosen.Set.Population,
            SignOffView.Of(c, drop, letters.Rules(c, drop)),
            string.Join(", ", ProofStore.Subject(c, drop, "").Designs.Select(d => $"{d.Name} (version {d.Number})"))
        );
    }
}
