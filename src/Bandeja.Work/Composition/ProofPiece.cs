using Bandeja.Core.Composition;
using Bandeja.Core.Designs;

namespace Bandeja.Work.Composition;

/// <summary>A piece of a recipient's package, as the pages of the proof have it.</summary>
/// <param name="Pages">How many pages of the proof are its.</param>
/// <param name="Window">For a letter behind a window: where the window stands on its first page.</param>
/// <param name="Alone">True where it was changed for this recipient alone.</param>
/// <param name="Omitted">True where it is left out for this recipient, because it would print nothing.</param>
/// <param name="Attached">True where it goes out attached to the email and not on paper.</param>
public sealed record ProofPiece(
    long DesignId,
    string Name,
    PieceKind Kind,
    int Pages,
    WindowArea? Window,
    bool Alone,
    bool Attached,
    bool Omitted
)
{
    internal static IReadOnlyList<ProofPiece> Of(ComposedPackage composed, Area? window) =>
        [
            .. composed.Bound.Select(
                (p, i) =>
                    new ProofPiece(
                        p.Design.DesignId,
                        p.Design.Name,
                        p.Design.Kind,
                        composed.Pieces[i].Pages.Count,
                        window is { } w && i == 0 && p.Bound is { Kind: var kind, Size: var (width, height) } && kind.Rules().HasPages
                            ? WindowArea.Of(w, width, height)
                            : null,
                        composed.Alone.Any(o => o.DesignId == p.Design.DesignId),
                        composed.IsAttachedOnly(p.Design),
                        composed.Pieces[i].Omitted
                    )
            ),
        ];
}

/// <summary>An envelope's window over a page; all measures in millimetres, the page's own with them.</summary>
public sealed record WindowArea(double X, double Y, double Width, double Height, double PageWidth, double PageHeight)
{
    internal static WindowArea Of(Area w, double pageWidth, double pageHeight)
    {
        const double unit = 25.4 / 72;
        return new(w.X * unit, w.Y * unit, w.Width * unit, w.Height * unit, pageWidth * unit, pageHeight * unit);
    }
}
