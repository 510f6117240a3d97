using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Composition;

/// <summary>One recipient's finished letter.</summary>
/// <param name="Pages">Its pages.</param>
/// <param name="Problems">What could not be computed.</param>
/// <param name="Notes">What did not fit, has no glyph, or lacks its picture.</param>
public sealed record ComposedLetter(IReadOnlyList<LaidOutPage> Pages, IReadOnlyList<Problem> Problems, LayoutNotes Notes);

/// <summary>Composes recipients' letters, one after another. Not safe to share between threads.</summary>
public sealed class LetterComposer
{
    readonly BoundLetter letter;
    readonly EvaluationContext context;
    readonly FlowMaker maker;
    readonly ParagraphLayout layout;
    readonly List<Flow> flows = [];
    readonly PageSetup page;

    /// <summary>Begins composing.</summary>
    /// <param name="today">The day of the run.</param>
    public LetterComposer(BoundLetter letter, DateOnly today)
    {
        this.letter = letter;
        page = letter.Design.Page;
        context = letter.NewContext(today);
        layout = new(letter.Setting.Fonts);
        maker = new(letter.Setting.Fonts, context, letter.Setting.Pictures);
    }

    Letterhead Head => letter.Design.Head;

    /// <summary>Composes one recipient's letter.</summary>
    public ComposedLetter Compose(IRow row, int pieceNumber)
    {
        context.For(row, pieceNumber);
        var notes = new LayoutNotes();
        notes.Add(letter.SharedNotes);
        flows.Clear();
        maker.Make(letter.Parts, flows, notes);

        var frames = Frames(notes);
        var filler = new PageFiller(page, n => n == 0 ? frames.First : frames.Later);
        filler.Fill(flows);
        var bodies = filler.Finish();
        var pages = new LaidOutPage[bodies.Count];
        for (var i = 0; i < pages.Length; i++) pages[i] = new(page.Width, page.Height, Furnished(bodies[i], i, pages.Length, notes));
        // Headers are set once to know their height and once on each page: what they lack is told once.
        return new(pages, [.. context.Problems.Distinct()], notes);
    }

    BoundLetter.Band HeaderOf(int pageNumber) => pageNumber == 0 ? letter.FirstHeader ?? letter.Header : letter.Header;
    BoundLetter.Band FooterOf(int pageNumber) => pageNumber == 0 ? letter.FirstFooter ?? letter.Footer : letter.Footer;

    /// <summary>The room for the text: a header or footer that needs more than the margin pushes it in.</summary>
    ((double Top, double Bottom) First, (double Top, double Bottom) Later) Frames(LayoutNotes notes)
    {
        context.Page = (1, 1);
        (double, double) Of(int n)
        {
            double Taken(BoundLetter.Band band, double margin)
            {
                var height = band.Parts.Count == 0 ? 0 : band.Fixed?.Height ?? Set(band, new()).Height;
                return height == 0 ? margin : Math.Max(margin, Head.EdgeDistance + height + BoundLetter.HeadGap);
            }
            var (top, low) = (Taken(HeaderOf(n), page.Top), Taken(FooterOf(n), page.Bottom));
            if (page.Height - top - low >= page.Height / 5) return (top, page.Height - low);
            notes.TooLarge.Add("The header and the footer leave less than a fifth of the page for the text.");
            return (page.Top, page.Height - page.Bottom);
        }
        var first = Of(0);
        return (first, letter.FirstHeader is null && letter.FirstFooter is null ? first : Of(1));
    }

    SharedPart Set(BoundLetter.Band band, LayoutNotes notes)
    {
        if (band.Fixed is not null)
        {
            if (band.Notes is not null) notes.Add(band.Notes);
            return band.Fixed;
        }
        var inner = new List<Flow>();
        maker.Make(band.Parts, inner, notes);
        var items = new List<PageItem>();
        return new(page.TextWidth, Stacked.Emit(inner, 0, 0, items), items);
    }

    List<PageItem> Furnished(List<PageItem> body, int number, int count, LayoutNotes notes)
    {
        if (Head is { Background: null, Watermark: null } && HeaderOf(number).Parts.Count == 0 && FooterOf(number).Parts.Count == 0) return body;
        context.Page = (number + 1, count);
        var own = number == 0 ? notes : new LayoutNotes();
        var items = new List<PageItem>();
        if (Head.Background is { } background && (number == 0 || !background.FirstPageOnly))
        {
            var facts = letter.Setting.Pictures?.Invoke(background.Asset);
            if (facts is not null || letter.Setting.Pictures is null) items.Add(new PictureItem(0, 0, page.Width, page.Height, facts?.Asset ?? background.Asset));
        }
        if (Head.Watermark is not null && WatermarkLine(own) is { } mark) items.Add(new WatermarkItem(page.Width / 2, page.Height / 2, mark, Head.Watermark.Angle, Head.Watermark.Strength));
        void Place(BoundLetter.Band band, bool atTop)
        {
            if (band.Parts.Count == 0) return;
            var part = Set(band, own);
            var y = atTop ? Head.EdgeDistance : page.Height - Head.EdgeDistance - part.Height;
            if (part.Items.Count == 0) return;
            if (band.Fixed is not null) items.Add(new SharedItem(page.Left, y, part));
            else foreach (var item in part.Items) items.Add(item with { X = item.X + page.Left, Y = item.Y + y });
        }
        Place(HeaderOf(number), true);
        items.AddRange(body);
        Place(FooterOf(number), false);
        return items;
    }

    TextLine? WatermarkLine(LayoutNotes notes)
    {
        var mark = Head.Watermark!;
        context.Place = notes.Place = "the watermark";
        var text = letter.Watermark!.Print(context);
        if (string.IsNullOrWhiteSpace(text)) return null;
        var style = new TextStyle(mark.Family, mark.Size, Bold: true, Color: mark.Color);
        return layout.Set([new(text, style)], style, new(TextAlign.Left, 1, 0), 100_000, notes).FirstOrDefault();
    }
}
