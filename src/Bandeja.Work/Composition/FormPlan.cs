using Bandeja.Core.Composition;

namespace Bandeja.Work.Composition;

/// <summary>Forms.</summary>
sealed class FormPlan : PagesPlan
{
    /// <inheritdoc/>
    public override PieceKind Kind => PieceKind.Form;
}
