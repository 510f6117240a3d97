using Bandeja.Core.Composition;
using Bandeja.Core.Emails;
using Bandeja.Core.Forms;
using Bandeja.Core.Surfaces;

namespace Bandeja.Core.Designs;

/// <summary>The kinds of designs that there are.</summary>
public static class DesignKinds
{
    /// <summary>All of them, in the order in which they lie in a package.</summary>
    public static IReadOnlyList<DesignKind> All { get; } =
    [new LetterKind(), new FormKind(), new EnvelopeKind(), new LabelKind(), new EmailKind()];

    /// <summary>What there is to know of a kind.</summary>
    public static DesignKind Rules(this PieceKind kind) => All[(int)kind];
}
