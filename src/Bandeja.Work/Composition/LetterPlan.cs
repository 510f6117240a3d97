using Bandeja.Core.Composition;

namespace Bandeja.Work.Composition;

/// <summary>Letters.</summary>
sealed class LetterPlan : PagesPlan
{
    /// <inheritdoc/>
    public override PieceKind Kind => PieceKind.Letter;
}
