namespace Bandeja.Core.Composition;

/// <summary>Words set one after another with one font, size and look.</summary>
/// <param name="X">Left edge, points from the left of the line's frame.</param>
/// <param name="Size">Size of the type, points; smaller than the style's for what is raised or lowered.</param>
/// <param name="Words">The shaped words and spaces.</param>
/// <param name="SpaceExtra">Points added to each space, for justified lines; may be negative.</param>
/// <param name="Rise">Points above the baseline.</param>
public sealed record WordRun(double X, PaperFont Font, double Size, TextStyle Style, ShapedWord[] Words, double SpaceExtra, double Rise = 0)
{
    /// <summary>Width in points.</summary>
    public double Width { get; } = WidthOf(Words, Size / Font.UnitsPerEm, SpaceExtra);

    // A loop, because every run of every page comes through here.
    static double WidthOf(ShapedWord[] words, double unit, double extra)
    {
        int advance = 0,
            spaces = 0;
        foreach (var word in words)
        {
            advance += word.Advance;
            if (extra != 0 && word.IsSpace)
                spaces += word.Text.Length;
        }
        return advance * unit + extra * spaces;
    }
}

/// <summary>A picture within a line; it stands on the baseline.</summary>
public sealed record LinePicture(double X, double Width, double Height, string Asset, Element Figure);

/// <summary>A line of text: its runs around one baseline.</summary>
/// <param name="Height">Distance to the next line's top, points.</param>
/// <param name="Baseline">Distance from the line's top to its baseline, points.</param>
public sealed record TextLine(double Height, double Baseline, IReadOnlyList<WordRun> Runs, IReadOnlyList<LinePicture>? Pictures = null)
{
    /// <summary>Where part of the line is read from right to left: run and word in the order in which they are read; null where that is the
    /// order in which they stand.</summary>
    public IReadOnlyList<(int Run, int Word)>? Reading { get; init; }

    /// <summary>How far the line begins to the right of its frame, and how much narrower it is, because something stands beside it;
    /// points.</summary>
    public (double Shift, double Cut) Beside { get; init; }

    /// <summary>True where the line shows nothing.</summary>
    public bool IsEmpty => Runs.Count == 0 && Pictures is null;
}

/// <summary>Something with a place on a page, points from the page's left and top edges.</summary>
public abstract record PageItem(double X, double Y)
{
    /// <summary>What it is a part of, for who cannot see the page; null for decoration.</summary>
    public Element? Element { get; init; }
}

/// <summary>A line; Y is its baseline.</summary>
public sealed record LineItem(double X, double Y, TextLine Line) : PageItem(X, Y);

/// <summary>A picture; X, Y its top left corner.</summary>
/// <param name="WithAll">For a page of a PDF: true where all its pages are in the piece, so that what they have in common, such as
/// typefaces, is written once.</param>
public sealed record PictureItem(double X, double Y, double Width, double Height, string Asset, bool WithAll = false) : PageItem(X, Y);

/// <summary>A filled rectangle: a rule, a border, a shade; X, Y its top left corner.</summary>
public sealed record RectangleItem(double X, double Y, double Width, double Height, string Color) : PageItem(X, Y);

/// <summary>The dark bars or modules of a barcode, in one color; X, Y the top left corner of the first.</summary>
/// <param name="Bars">Places relative to the item's, points.</param>
/// <param name="Width">Width of the whole, points.</param>
/// <param name="Height">Height of the whole, points.</param>
public sealed record BarsItem(
    double X,
    double Y,
    double Width,
    double Height,
    IReadOnlyList<(double X, double Y, double Width, double Height)> Bars,
    string Content = ""
) : PageItem(X, Y);

/// <summary>A drawn frame, its corners rounded where the radius is above 0; X, Y its top left corner. Thickness 0 draws no line.</summary>
public sealed record OutlineItem(
    double X,
    double Y,
    double Width,
    double Height,
    double Radius,
    double Thickness,
    string Color,
    string? Fill = null
) : PageItem(X, Y);

/// <summary>A mark in a box of a form; X, Y its top left corner.</summary>
public sealed record MarkItem(double X, double Y, double Width, double Height, MarkShape Shape, string Color) : PageItem(X, Y);

/// <summary>A watermark: a line turned around its middle, which stands at X, Y.</summary>
public sealed record WatermarkItem(double X, double Y, TextLine Line, double Angle, double Strength) : PageItem(X, Y);

/// <summary>A part that is the same for every recipient; X, Y its top left corner. The writer draws its content once and refers to
/// it.</summary>
public sealed record SharedItem(double X, double Y, SharedPart Part) : PageItem(X, Y);

/// <summary>Lines and pictures that do not depend on the recipient, with places relative to the part's top left corner.</summary>
public sealed record SharedPart(double Width, double Height, IReadOnlyList<PageItem> Items)
{
    /// <summary>True where a line of it is a link: then every page it stands on has the link.</summary>
    public bool HasLinks { get; } = Items.OfType<LineItem>().Any(l => l.Line.Runs.Any(r => r.Style.Link is not null));

    /// <summary>Two parts are the same only if they are one object: the writer keys on it.</summary>
    public bool Equals(SharedPart? other) => ReferenceEquals(this, other);

    /// <inheritdoc/>
    public override int GetHashCode() => System.Runtime.CompilerServices.RuntimeHelpers.GetHashCode(this);
}

/// <summary>What is turned within its place on the page: its items are laid out in a box of their own, as they are read, and the box is
/// then turned until it fills the place.</summary>
/// <param name="Width">Of the place as it is on the page, points.</param>
/// <param name="Turn">90, 180, or 270 degrees against the clock.</param>
public sealed record TurnedItem(double X, double Y, double Width, double Height, int Turn, IReadOnlyList<PageItem> Items) : PageItem(X, Y)
{
    /// <summary>The place on the page of an area of the box.</summary>
    public Area Seen(Area own) =>
        Turn switch
        {
            90 => new(X + own.Y, Y + Height - own.X - own.Width, own.Height, own.Width),
            180 => new(X + Width - own.X - own.Width, Y + Height - own.Y - own.Height, own.Width, own.Height),
            _ => new(X + Width - own.Y - own.Height, Y + own.X, own.Height, own.Width),
        };

    /// <summary>The box as its items are laid out in it.</summary>
    public static Area Box(double width, double height, int turn) =>
        turn is 90 or 270 ? new(0, 0, height, width) : new(0, 0, width, height);
}

/// <summary>How a page is put on the sheet that a printer takes: moved, then turned.</summary>
/// <param name="Turn">0, 90, 180 or 270 degrees with the clock.</param>
/// <param name="Right">How far it is moved to the right as it is read, points.</param>
/// <param name="Down">How far down.</param>
public readonly record struct Feed(int Turn, double Right, double Down);

/// <summary>A finished page.</summary>
public sealed record LaidOutPage(double Width, double Height, IReadOnlyList<PageItem> Items)
{
    /// <summary>How it goes into the printer.</summary>
    public Feed Feed { get; init; }

    /// <summary>The page's text, a line a line, as a reader sees it.</summary>
    public string Text() => string.Join('\n', Lines(Items).Select(l => string.Concat(l.Runs.SelectMany(r => r.Words).Select(w => w.Text))));

    internal static IEnumerable<TextLine> Lines(IEnumerable<PageItem> items) =>
        items.SelectMany(i =>
            i switch
            {
                LineItem l => [l.Line],
                WatermarkItem w => [w.Line],
                SharedItem s => Lines(s.Part.Items),
                TurnedItem t => Lines(t.Items),
                FieldItem f => Lines(f.Seen),
                _ => Enumerable.Empty<TextLine>(),
            }
        );
}
