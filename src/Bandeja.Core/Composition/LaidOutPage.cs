namespace Bandeja.Core.Composition;

/// <summary>Words set one after another with one font, size and colour.</summary>
/// <param name="X">Left edge, points from the left of the line's frame.</param>
/// <param name="Words">The shaped words and spaces.</param>
/// <param name="SpaceExtra">Points added to each space, for justified lines.</param>
public sealed record WordRun(double X, PaperFont Font, double Size, string Color, bool Underline, ShapedWord[] Words, double SpaceExtra)
{
    /// <summary>Width in points.</summary>
    public double Width { get; } = Words.Sum(w => w.Advance) * Size / Font.UnitsPerEm + SpaceExtra * Words.Sum(w => w.IsSpace ? w.Text.Length : 0);
}

/// <summary>A line of text: its runs around one baseline.</summary>
/// <param name="Height">Distance to the next line's top, points.</param>
/// <param name="Baseline">Distance from the line's top to its baseline, points.</param>
public sealed record TextLine(double Height, double Baseline, IReadOnlyList<WordRun> Runs);

/// <summary>Something with a place on a page, points from the page's left and top edges.</summary>
public abstract record PageItem(double X, double Y);
/// <summary>A line; Y is its baseline.</summary>
public sealed record LineItem(double X, double Y, TextLine Line) : PageItem(X, Y);
/// <summary>A picture; X, Y its top left corner.</summary>
public sealed record PictureItem(double X, double Y, double Width, double Height, string Asset) : PageItem(X, Y);
/// <summary>A part that is the same for every recipient; X, Y its top left corner. The writer draws its content once and refers to it.</summary>
public sealed record SharedItem(double X, double Y, SharedPart Part) : PageItem(X, Y);

/// <summary>Lines and pictures that do not depend on the recipient, with places relative to the part's top left corner.</summary>
public sealed record SharedPart(double Width, double Height, IReadOnlyList<PageItem> Items)
{
    /// <summary>Two parts are the same only if they are one object: the writer keys on it.</summary>
    public bool Equals(SharedPart? other) => ReferenceEquals(this, other);
    /// <inheritdoc/>
    public override int GetHashCode() => System.Runtime.CompilerServices.RuntimeHelpers.GetHashCode(this);
}

/// <summary>A finished page.</summary>
public sealed record LaidOutPage(double Width, double Height, IReadOnlyList<PageItem> Items)
{
    /// <summary>The page's text, a line a line, as a reader sees it.</summary>
    public string Text() => string.Join('\n', Lines(Items).Select(l => string.Concat(l.Runs.SelectMany(r => r.Words).Select(w => w.Text))));

    static IEnumerable<TextLine> Lines(IEnumerable<PageItem> items) => items.SelectMany(i => i switch
    {
        LineItem l => [l.Line],
        SharedItem s => Lines(s.Part.Items),
        _ => Enumerable.Empty<TextLine>(),
    });
}
