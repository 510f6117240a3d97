using System.Runtime.CompilerServices;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Composition;

/// <summary>One recipient's finished piece: the pages of a letter, the one page of an envelope or a label.</summary>
/// <param name="Pages">Its pages.</param>
/// <param name="Problems">What could not be computed.</param>
/// <param name="Notes">What did not fit, has no glyph, or lacks its picture.</param>
public sealed record ComposedPiece(IReadOnlyList<LaidOutPage> Pages, IReadOnlyList<Problem> Problems, LayoutNotes Notes)
{
    /// <summary>True where the piece is left out of the package for this recipient, because it would print nothing.</summary>
    public bool Omitted { get; init; }

    /// <summary>What the piece's own barcodes say, in the order of the pages; a code that is the same on every piece is none of its
    /// own.</summary>
    public IReadOnlyList<string> Barcodes =>
        [.. Pages.SelectMany(p => p.Items).OfType<BarsItem>().Select(b => b.Content).Where(c => c.Length > 0).Distinct()];

    /// <summary>For a label: how many of it are wanted.</summary>
    public int Copies { get; init; } = 1;

    /// <summary>For a label: what it has in common with its neighbors; where it changes, a place stays blank. Null where none is
    /// to.</summary>
    public string? Group { get; init; }

    /// <summary>For a letter: what it holds, to be edited elsewhere, made where it is asked for. Null for what becomes no
    /// document.</summary>
    public Func<LetterContent>? Content { get; init; }

    /// <summary>For an email: the message. Null for what is printed.</summary>
    public Mail.ComposedMail? Mail { get; init; }
}

/// <summary>A condition of a design.</summary>
/// <param name="Holds">Whether what it comes to says that it is met.</param>
public sealed record DesignTest(Expression When, Func<Value, bool> Holds);

/// <summary>A design bound to a list: letter, envelope, label or email.</summary>
public interface IBoundDesign
{
    /// <summary>What it is.</summary>
    PieceKind Kind { get; }

    /// <summary>Width and height of its first page, in points; null where it has no paper.</summary>
    (double Width, double Height)? Size { get; }

    /// <summary>What it is bound to.</summary>
    LetterSetting Setting { get; }

    /// <summary>True where its pages tell their structure to a screen reader, which must stay in a file of one recipient.</summary>
    bool KeepsTags => false;

    /// <summary>Mistakes in the fields.</summary>
    IReadOnlyList<DesignError> Errors { get; }

    /// <summary>Positions of the columns that the design reads.</summary>
    IReadOnlyList<int> UsedColumns { get; }

    /// <summary>The number of pages it must keep to; null for any number.</summary>
    int? MaxPages { get; }

    /// <summary>The mailer identifiers of its Intelligent Mail barcodes.</summary>
    IReadOnlyList<string> Mailers { get; }

    /// <summary>All parts of the design: its text, headers, boxes.</summary>
    IEnumerable<TemplatePart> Parts { get; }

    /// <summary>Expressions of the design that print nothing, such as a label's number of copies.</summary>
    IEnumerable<Expression> Unprinted { get; }

    /// <summary>What decides beside the text whether something is there, such as a mark on a form.</summary>
    IEnumerable<DesignTest> Tests => [];

    /// <summary>A context in which the design's expressions can be evaluated; it serves one thread.</summary>
    EvaluationContext NewContext(DateOnly today);

    /// <summary>Fills the design without laying it out, for files that are edited elsewhere; null where it becomes no such file. It serves
    /// one thread.</summary>
    /// <param name="today">The day of the run.</param>
    LetterSpeller? Speller(DateOnly today) => null;

    /// <summary>Begins composing; the composer serves one thread.</summary>
    /// <param name="today">The day of the run.</param>
    IPieceComposer Composer(DateOnly today);
}

/// <summary>Composes recipients' pieces, one after another.</summary>
public interface IPieceComposer
{
    /// <summary>Composes one recipient's piece.</summary>
    /// <param name="serial">The piece's serial number for a mailer identifier; null where none was given out, as on a proof: then the piece
    /// number stands for it.</param>
    ComposedPiece Compose(IRow row, int pieceNumber, Func<string, long>? serial = null);
}

/// <summary>Composes recipients' letters, one after another. Not safe to share between threads.</summary>
public sealed class LetterComposer : IPieceComposer
{
    readonly BoundLetter letter;
    readonly EvaluationContext context;
    readonly FlowMaker maker;
    readonly ParagraphLayout layout;
    readonly List<Flow> flows = [];
    readonly PageSetup page;
    readonly DateOnly today;
    LetterSpeller? speller;

    /// <summary>Begins composing.</summary>
    /// <param name="today">The day of the run.</param>
    public LetterComposer(BoundLetter letter, DateOnly today)
    {
        (this.letter, this.today) = (letter, today);
        page = letter.Design.Page;
        context = letter.NewContext(today);
        layout = new(letter.Setting.Fonts);
        maker = new(letter.Setting.Fonts, context, letter.Setting.Pictures, letter.Setting.Own);
    }

    Letterhead Head => letter.Design.Head;

    /// <inheritdoc/>
    public ComposedPiece Compose(IRow row, int pieceNumber, Func<string, long>? serial = null)
    {
        context.For(row, pieceNumber, serial);
        var notes = new LayoutNotes();
        notes.Add(letter.SharedNotes);
        flows.Clear();
        maker.Begin(footnotes: true);
        maker.Make(letter.Body, flows, notes);

        var filler = new PageFiller(Frames(notes));
        filler.Fill(flows);
        var bodies = filler.Finish();
        maker.Begin(footnotes: false);
        // A letter whose conditions are all false, or whose fields are all blank, prints a blank sheet: it is left out where its writer
        // said so, and an issue where not.
        if (letter.Varies && bodies.All(b => !Composition.Ink.Of(b.Items, onlyContent: false).Any()))
        {
            if (letter.Design.OmitWhenEmpty)
                return new([], context.Problems.Count == 0 ? [] : [.. context.Problems.Distinct()], new()) { Omitted = true };
            notes.NothingPrinted = true;
        }
        var pages = new LaidOutPage[bodies.Count];
        for (var i = 0; i < pages.Length; i++)
        {
            var sheet = bodies[i].Setup ?? page;
            pages[i] = new(sheet.Width, sheet.Height, Furnished(bodies[i].Items, i, pages.Length, sheet, notes));
        }
        if (letter.HasBoxes)
            foreach (var p in pages)
                Beyond(p, p.Items, 0, 0, notes);
        // Headers are set once to know their height and once on each page: what they lack is told once.
        return new(pages, context.Problems.Count == 0 ? [] : [.. context.Problems.Distinct()], notes)
        {
            Content = () => (speller ??= letter.Speller(today)).Spell(row, pieceNumber),
        };
    }

    /// <summary>Text that a box carries over the edge of the sheet is not printed: that is told.</summary>
    static void Beyond(LaidOutPage page, IReadOnlyList<PageItem> items, double x, double y, LayoutNotes notes)
    {
        foreach (var item in items)
            switch (item)
            {
                case SharedItem shared:
                    Beyond(page, shared.Part.Items, x + shared.X, y + shared.Y, notes);
                    break;
                case LineItem line
                    when !line.Line.IsEmpty
                        && (y + line.Y > page.Height || y + line.Y < 0 || x + line.X > page.Width || x + line.X < -page.Width):
                    var text = Evaluator.Short(string.Concat(line.Line.Runs.SelectMany(r => r.Words).Select(w => w.Text)));
                    notes.TooLarge.Add(
                        $"“{text}” in a text box is over the edge of the page and is not printed. Move the box or shorten its text."
                    );
                    return;
            }
    }

    /// <summary>The room for the text: a header or footer that needs more than the margin pushes it in.</summary>
    Func<int, PageSetup?, PageFrame> Frames(LayoutNotes notes)
    {
        context.Page = (1, 1);
        PageFrame Of(BoundLetter.Band header, BoundLetter.Band footer, PageSetup sheet)
        {
            double Taken(BoundLetter.Band band, double margin)
            {
                var height = band.Parts.Count == 0 ? 0 : band.Fixed?.Height ?? Set(band, sheet, new()).Part.Height;
                return height == 0 ? margin : Math.Max(margin, Head.EdgeDistance + height + BoundLetter.HeadGap);
            }
            var (top, low) = (Taken(header, sheet.Top), Taken(footer, sheet.Bottom));
            if (sheet.Height - top - low >= sheet.Height / 5)
                return new(sheet.Left, top, sheet.Height - low);
            notes.TooLarge.Add("The header and footer leave less than one-fifth of the page for text.");
            return new(sheet.Left, sheet.Top, sheet.Height - sheet.Bottom);
        }
        // Which headers a page has is one of three cases; each is measured once.
        var known = new Dictionary<(BoundLetter.Band, BoundLetter.Band, PageSetup), PageFrame>(
            EqualityComparer<(BoundLetter.Band Header, BoundLetter.Band Footer, PageSetup Sheet)>.Create(
                (a, b) => ReferenceEquals(a.Header, b.Header) && ReferenceEquals(a.Footer, b.Footer) && a.Sheet == b.Sheet,
                k => HashCode.Combine(RuntimeHelpers.GetHashCode(k.Header), RuntimeHelpers.GetHashCode(k.Footer), k.Sheet)
            )
        );
        return (n, setup) =>
        {
            var sheet = setup ?? page;
            var heads = letter.HeadsOver(sheet.TextWidth);
            var key = (heads.HeaderOf(n), heads.FooterOf(n), sheet);
            if (!known.TryGetValue(key, out var frame))
                known[key] = frame = Of(key.Item1, key.Item2, sheet);
            return frame;
        };
    }

    /// <summary>What of flows has a place of the page.</summary>
    internal static IReadOnlyList<PageItem> Placed(IEnumerable<Flow> flows) => [.. flows.OfType<PlacedFlow>().SelectMany(f => f.Content)];

    (SharedPart Part, IReadOnlyList<PageItem> Placed) Set(BoundLetter.Band band, PageSetup sheet, LayoutNotes notes)
    {
        if (band.Fixed is not null)
        {
            if (band.Notes is not null)
                notes.Add(band.Notes);
            return (band.Fixed, band.Placed);
        }
        var inner = maker.Apart(band.Parts, notes);
        var items = new List<PageItem>();
        return (new(sheet.TextWidth, Stacked.Emit(inner, 0, 0, items), items), Placed(inner));
    }

    List<PageItem> Furnished(List<PageItem> body, int number, int count, PageSetup sheet, LayoutNotes notes)
    {
        var heads = letter.HeadsOver(sheet.TextWidth);
        var (header, footer) = (heads.HeaderOf(number), heads.FooterOf(number));
        if (Head is { Background: null, Watermark: null } && header.Parts.Count == 0 && footer.Parts.Count == 0)
            return body;
        context.Page = (number + 1, count);
        var own = number == 0 ? notes : new LayoutNotes();
        var items = new List<PageItem>();
        // A letterhead for an upright sheet is none for one that lies.
        var alike = Math.Abs(sheet.Width / sheet.Height - page.Width / page.Height) < 0.02;
        if (Head.Background is { } background && (number == 0 || !background.FirstPageOnly) && alike)
        {
            var facts = letter.Setting.Pictures?.Invoke(background.Asset);
            if (facts is not null || letter.Setting.Pictures is null)
                items.Add(
                    new PictureItem(
                        0,
                        0,
                        sheet.Width,
                        sheet.Height,
                        (facts?.Asset ?? background.Asset) + (background.Follows && number > 0 && facts is { Pages: > 1 } ? "#2" : "")
                    )
                );
            if (number == 0 && facts is { Written: > FlowMaker.HeavyPicture })
                own.Pictures.Add(new(PictureIssue.Heavy, "background", $"{facts.Written / 1_048_576.0:0.0}", "the background"));
        }
        if (Head.Watermark is not null && WatermarkLine(sheet, own) is { } mark)
            items.Add(new WatermarkItem(sheet.Width / 2, sheet.Height / 2, mark, Head.Watermark.Angle, Head.Watermark.Strength));
        void Place(BoundLetter.Band band, bool atTop)
        {
            if (band.Parts.Count == 0)
                return;
            var (part, placed) = Set(band, sheet, own);
            items.AddRange(placed);
            var y = atTop ? Head.EdgeDistance : sheet.Height - Head.EdgeDistance - part.Height;
            if (part.Items.Count == 0)
                return;
            if (band.Fixed is not null)
                items.Add(new SharedItem(sheet.Left, y, part));
            else
                foreach (var item in part.Items)
                    items.Add(item with { X = item.X + sheet.Left, Y = item.Y + y });
        }
        Place(header, true);
        items.AddRange(body);
        Place(footer, false);
        return items;
    }

    TextLine? WatermarkLine(PageSetup sheet, LayoutNotes notes)
    {
        var mark = Head.Watermark!;
        context.Place = notes.Place = "the watermark";
        var text = letter.Watermark!.Print(context);
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var style = new TextStyle(mark.Family, mark.Size, Bold: true, Color: mark.Color);
        var line = layout.Set([new(text, style)], style, new(TextAlign.Left, 1, 0), 100_000, notes).FirstOrDefault();
        if (line is null)
            return null;
        // What a turned line takes of the page, its letters' height with it: a third of the size above and below its middle.
        var (angle, width, height) = (mark.Angle * Math.PI / 180, line.Runs.Sum(r => r.Width), mark.Size * 0.7);
        var (w, h) = (
            Math.Abs(width * Math.Cos(angle)) + Math.Abs(height * Math.Sin(angle)),
            Math.Abs(width * Math.Sin(angle)) + Math.Abs(height * Math.Cos(angle))
        );
        if (w > sheet.Width || h > sheet.Height)
            notes.TooLarge.Add(
                $"The watermark “{Evaluator.Short(text)}” is larger than the page and is cut off. Make it smaller, or change its angle."
            );
        return line;
    }
}
