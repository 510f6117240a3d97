namespace Bandeja.Core.Composition;

/// <summary>Something laid out that still looks for its place on the pages. Measures in points.</summary>
abstract class Flow
{
    /// <summary>Space above; of the space after the one before and this, the larger holds (CSS 2.2, 8.3.1).</summary>
    public double Before { get; init; }

    /// <summary>Space below.</summary>
    public double After { get; init; }

    /// <summary>Never the last on a page while something follows.</summary>
    public bool Keep { get; init; }

    /// <summary>Height of the whole.</summary>
    public abstract double Height { get; }

    /// <summary>The least that must stand together at its beginning.</summary>
    public virtual double Head => Height;

    /// <summary>The footnotes that are referred to within.</summary>
    public virtual IReadOnlyList<LaidNote> Notes => [];

    /// <summary>Puts the whole at a place, x being the left edge of the text.</summary>
    public abstract void Emit(double x, double y, List<PageItem> items);
}

/// <summary>What a footnote says, laid out over the width of the text.</summary>
sealed record LaidNote(double Height, IReadOnlyList<PageItem> Items)
{
    /// <summary>The room that notes take at the foot of a page, without what divides them from the text.</summary>
    public static double Sum(IEnumerable<LaidNote> notes) => notes.Sum(n => n.Height + Between);

    /// <summary>Above each note, points.</summary>
    public const double Between = 2;
}

/// <summary>The lines of a paragraph.</summary>
/// <param name="left">From the left edge of the text.</param>
/// <param name="bars">Places of the bars beside a quote, from the left edge of the text.</param>
sealed class LinesFlow(IReadOnlyList<TextLine> lines, double left, Element? element, IReadOnlyList<double> bars) : Flow
{
    internal const string BarColor = "b9b3a4";
    public IReadOnlyList<TextLine> Lines => lines;
    public double Left => left;
    public Element? Element => element;
    public IReadOnlyList<double> Bars => bars;

    /// <summary>What is drawn behind and around the paragraph; null for nothing.</summary>
    public ParagraphGround? Ground { get; init; }

    /// <summary>The paragraph's footnotes, in order; the style of a number in a line says which one it is.</summary>
    public IReadOnlyList<LaidNote> OwnNotes { get; init; } = [];

    public override IReadOnlyList<LaidNote> Notes => OwnNotes;

    /// <summary>The footnotes whose numbers stand in a line.</summary>
    public IReadOnlyList<LaidNote> NotesOf(int index) =>
        OwnNotes.Count == 0 ? [] : [.. lines[index].Runs.Where(r => r.Style.Note > 0).Select(r => OwnNotes[r.Style.Note - 1])];

    /// <summary>A bullet or number beside the first line, with its place from the left edge of the text.</summary>
    public (TextLine Line, double X)? Label { get; set; }

    public override double Height { get; } = lines.Sum(l => l.Height);
    public override double Head => lines.Count <= 3 ? Height : lines[0].Height + lines[1].Height;

    public override void Emit(double x, double y, List<PageItem> items)
    {
        for (var i = 0; i < lines.Count; i++)
            y += EmitLine(i, x, y, items);
    }

    /// <summary>Puts one line at a place; answers its height.</summary>
    public double EmitLine(int index, double x, double y, List<PageItem> items)
    {
        var line = lines[index];
        foreach (var bar in bars)
            items.Add(new RectangleItem(x + bar + line.Beside.Shift, y, 1.5, line.Height, BarColor));
        Ground?.Emit(x + left + line.Beside.Shift, y, line, index == 0, index == lines.Count - 1, items);
        if (index == 0 && Label is { } label)
            items.Add(new LineItem(x + label.X + line.Beside.Shift, y + line.Baseline, label.Line) { Element = element });
        if (!line.IsEmpty)
            items.Add(new LineItem(x + left, y + line.Baseline, line) { Element = element });
        return line.Height;
    }
}

/// <summary>The color behind a paragraph and the lines around it, drawn line by line, so that they go with it over the pages.</summary>
sealed record ParagraphGround(string? Shade, ParagraphBorder? Border, double Width)
{
    /// <param name="x">The left edge of the paragraph's text.</param>
    public void Emit(double x, double y, TextLine line, bool first, bool last, List<PageItem> items)
    {
        const double gap = ParagraphBorder.Gap;
        var (width, height) = (Width - line.Beside.Cut, line.Height);
        if (Shade is not null)
            items.Add(new RectangleItem(x, y, width, height, Shade));
        if (Border is not { } b)
            return;
        if (b.Sides.HasFlag(Sides.Left))
            items.Add(new RectangleItem(x - gap - b.Width, y, b.Width, height, b.Color));
        if (b.Sides.HasFlag(Sides.Right))
            items.Add(new RectangleItem(x + width + gap, y, b.Width, height, b.Color));
        var (from, to) = (b.Sides.HasFlag(Sides.Left) ? gap + b.Width : 0, b.Sides.HasFlag(Sides.Right) ? gap + b.Width : 0);
        if (first && b.Sides.HasFlag(Sides.Top))
            items.Add(new RectangleItem(x - from, y - b.Width, width + from + to, b.Width, b.Color));
        if (last && b.Sides.HasFlag(Sides.Bottom))
            items.Add(new RectangleItem(x - from, y + height, width + from + to, b.Width, b.Color));
    }
}

/// <summary>Pictures, rules, and boxes, at places from the left edge of the text and the flow's top.</summary>
sealed class ItemFlow(double height, IReadOnlyList<PageItem> content) : Flow
{
    public override double Height => height;

    /// <summary>The footnotes of a box.</summary>
    public IReadOnlyList<LaidNote> OwnNotes { get; init; } = [];

    public override IReadOnlyList<LaidNote> Notes => OwnNotes;

    public override void Emit(double x, double y, List<PageItem> items)
    {
        foreach (var item in content)
            items.Add(item with { X = item.X + x, Y = item.Y + y });
    }
}

/// <summary>What follows begins a page.</summary>
/// <param name="page">The sheet from here on; null for that of the pages before.</param>
sealed class BreakFlow(PageSetup? page) : Flow
{
    public PageSetup? Page => page;
    public override double Height => 0;

    public override void Emit(double x, double y, List<PageItem> items) { }
}

/// <summary>Something at a place of the page on which it is met, from the corner of the sheet.</summary>
sealed class PlacedFlow(IReadOnlyList<PageItem> content) : Flow
{
    public IReadOnlyList<PageItem> Content => content;
    public override double Height => 0;

    public override void Emit(double x, double y, List<PageItem> items) => items.AddRange(content);
}

/// <summary>
/// Something at a side of the text that follows. It takes no room itself: the lines of what follows are narrower by it. What follows it on
/// the page is never less than it is high, so that the two stay together.
/// </summary>
/// <param name="takes">What it takes of the width with its gap, points.</param>
sealed class BesideFlow(Side side, double takes, double height, IReadOnlyList<PageItem> content) : Flow
{
    public Side Side => side;
    public double Takes => takes;

    /// <summary>Its own height with the gap below it.</summary>
    public double Tall => height;

    public override double Height => 0;
    public override double Head => height;

    public override void Emit(double x, double y, List<PageItem> items)
    {
        foreach (var item in content)
            items.Add(item with { X = item.X + x, Y = item.Y + y });
    }
}

/// <summary>Room that is kept below text, so that what follows begins below what stands beside it.</summary>
sealed class ClearFlow(double height) : Flow
{
    public override double Height => height;

    public override void Emit(double x, double y, List<PageItem> items) { }
}

/// <summary>Flows that are the same for everyone: one part where they fit together on a page, else one by one.</summary>
sealed class SharedFlow : Flow
{
    readonly Lazy<SharedPart> part;

    public SharedFlow(IReadOnlyList<Flow> inner, double width)
    {
        Inner = inner;
        this.width = width;
        (Before, After) = (inner[0].Before, inner[^1].After);
        for (var i = 0; i < inner.Count; i++)
            Height += (i == 0 ? 0 : Math.Max(inner[i - 1].After, inner[i].Before)) + inner[i].Height;
        // Of a long letter most slices are only on the way to shorter ones and are never drawn.
        part = new(() =>
        {
            var items = new List<PageItem>();
            return new(width, Stacked.Emit(inner, 0, 0, items), items);
        });
    }

    readonly double width;
    readonly System.Collections.Concurrent.ConcurrentDictionary<(int, int), SharedFlow> slices = [];

    public IReadOnlyList<Flow> Inner { get; }
    public SharedPart Part => part.Value;

    /// <summary>Some of the flows as a shared part of their own. Letters end their pages at few different places, so there are few of
    /// them.</summary>
    SharedFlow Slice(int from, int to) =>
        from == 0 && to == Inner.Count
            ? this
            : slices.GetOrAdd((from, to), k => new(Inner.Skip(k.Item1).Take(k.Item2 - k.Item1).ToList(), width));

    /// <summary>The flows divided for a page with some room left: what fits, what is in the way, and the rest.</summary>
    public IReadOnlyList<Flow> Divided(double room)
    {
        var fit = 0;
        double height = 0,
            after = 0;
        for (var i = 0; i < Inner.Count; i++)
        {
            height += (i == 0 ? 0 : Math.Max(after, Inner[i].Before)) + Inner[i].Height;
            if (height > room)
                break;
            after = Inner[i].After;
            if (!Inner[i].Keep)
                fit = i + 1;
        }
        if (fit == Inner.Count)
            return [this];
        var flows = new List<Flow>();
        if (fit > 0)
            flows.Add(Slice(0, fit));
        flows.Add(Inner[fit]);
        if (fit + 1 < Inner.Count)
            flows.Add(Slice(fit + 1, Inner.Count));
        return flows;
    }

    public override double Height { get; }
    public override double Head
    {
        get
        {
            double height = 0;
            foreach (var flow in Inner)
            {
                if (!flow.Keep)
                    return height + flow.Head;
                height += flow.Height + flow.After;
            }
            return height;
        }
    }

    public override void Emit(double x, double y, List<PageItem> items)
    {
        if (Part.Items.Count > 0)
            items.Add(new SharedItem(x, y, Part));
    }
}

/// <summary>Flows one below the other, where no page ends: in a cell, a header, a shared part.</summary>
static class Stacked
{
    /// <summary>Puts them at a place; answers the height they take, without the space after the last. What has a place of the page is left
    /// to who knows the page.</summary>
    public static double Emit(IReadOnlyList<Flow> flows, double x, double y, List<PageItem> items)
    {
        var start = y;
        double after = 0,
            floor = y;
        var first = true;
        foreach (var flow in flows)
        {
            if (flow is BreakFlow or PlacedFlow)
                continue;
            if (!first)
                y += Math.Max(after, flow.Before);
            flow.Emit(x, y, items);
            if (flow is BesideFlow beside)
                floor = Math.Max(floor, y + beside.Tall);
            y += flow.Height;
            (after, first) = (flow.After, first && flow is BesideFlow);
        }
        return Math.Max(y, floor) - start;
    }
}
