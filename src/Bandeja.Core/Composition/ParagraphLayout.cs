using System.Text;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Composition;

/// <summary>A stretch of text with one style, its fields already filled in.</summary>
/// <param name="Text">What prints.</param>
/// <param name="Style">How it looks.</param>
/// <param name="FromField">True where the text is a field's value, or what a bracket came to.</param>
/// <param name="EndsLine">True for a line break; then the text is empty.</param>
/// <param name="Picture">A picture in the line; then the text is empty.</param>
public readonly record struct Span(
    string Text,
    TextStyle Style,
    bool FromField = false,
    bool EndsLine = false,
    LinePicture? Picture = null
);

/// <summary>What stands beside the first lines of a paragraph: lines that begin less than its height below the paragraph's top begin
/// further
/// to the right, and are narrower. Points.</summary>
public readonly record struct Obstacle(double Shift, double Cut, double Height);

/// <summary>
/// Sets a paragraph: shapes its words, breaks it into lines and aligns them. Line boxes follow the rules of CSS 2.2
/// section 10.8 (half the leading above and below each run), so that the editor's page and the output agree.
/// One instance serves one thread.
/// </summary>
public sealed class ParagraphLayout(FontLibrary fonts)
{
    /// <summary>Which form of Han characters the recipient reads; what a text itself shows goes before it.</summary>
    public HanForm Form { get; set; }
    HanForm form;
    Obstacle beside;

    const char PictureSign = '\uFFFC';
    readonly StringBuilder text = new();
    readonly List<(int Start, TextStyle Style, PaperFont Font)> styles = [];
    readonly List<LinePicture> pictures = [];
    readonly List<ShapedWord> shaped = [];
    readonly LineFiller filler = new();
    bool[] breaks = new bool[1024];

    HanForm FormOf(ReadOnlySpan<char> all) =>
        !HanForms.IsNeeded(all) ? HanForm.None
        : HanForms.OfText(all) is var shown and not HanForm.None ? shown
        : Form;

    /// <summary>Width of a text on one line, points.</summary>
    public double Width(string value, PaperFont font, double size)
    {
        double width = 0;
        var text = value.AsSpan();
        // Word by word, as it will be set: words come again, lines do not.
        while (text.Length > 0)
        {
            var end = text.IndexOf(' ');
            if (end == 0)
            {
                end = text.IndexOfAnyExcept(' ');
                if (end < 0)
                    end = text.Length;
            }
            else if (end < 0)
                end = text.Length;
            shaped.Clear();
            fonts.Shape(font, text[..end], shaped, null, form: FormOf(value));
            foreach (var word in shaped)
                width += word.Advance * size / word.Font.UnitsPerEm;
            text = text[end..];
        }
        return width;
    }

    /// <summary>
    /// Sets the spans within a width. A line of nothing but fields that all came out blank is left out, so that it leaves no gap;
    /// a paragraph of only such lines gives no lines at all.
    /// </summary>
    /// <param name="beside">What stands beside the first lines.</param>
    public List<TextLine> Set(
        IReadOnlyList<Span> spans,
        TextStyle baseStyle,
        ParagraphStyle style,
        double width,
        LayoutNotes notes,
        Obstacle beside = default
    )
    {
        this.beside = beside;
        var lines = new List<TextLine>();
        var start = 0;
        for (var i = 0; i <= spans.Count; i++)
        {
            if (i < spans.Count && !spans[i].EndsLine)
                continue;
            var empty =
                i > start ? spans[start].Style
                : i < spans.Count ? spans[i].Style
                : baseStyle;
            SetHardLine(spans, start, i, empty, style, width, notes, lines);
            start = i + 1;
        }
        return lines;
    }

    void SetHardLine(
        IReadOnlyList<Span> spans,
        int from,
        int to,
        TextStyle emptyStyle,
        ParagraphStyle style,
        double width,
        LayoutNotes notes,
        List<TextLine> lines
    )
    {
        if (to == from + 1 && beside.Height == 0 && SetPlain(spans[from], style, width, lines, notes))
            return;
        text.Clear();
        styles.Clear();
        pictures.Clear();
        bool hasField = false,
            blank = false;
        for (var i = from; i < to; i++)
        {
            var span = spans[i];
            var value = span.Text;
            hasField |= span.FromField;
            blank |= span.FromField && value.Length == 0;
            if (span.Picture is not null)
            {
                pictures.Add(span.Picture);
                value = PictureSign.ToString();
            }
            if (value.Length == 0)
                continue;
            if (blank)
                value = ClosedUp(value, text);
            blank = false;
            styles.Add((text.Length, span.Style, fonts.Find(span.Style.Family, span.Style.Bold, span.Style.Italic)));
            AppendPrintable(value, span.FromField);
        }
        var all = text.ToString();
        if (hasField && string.IsNullOrWhiteSpace(all))
            return;
        if (all.Length == 0)
        {
            var height = emptyStyle.Size * style.LineSpacing;
            lines.Add(new(height, height * 0.75, []));
            return;
        }
        if (breaks.Length < all.Length)
            breaks = new bool[all.Length * 2];
        LineBreaker.FindInLetter(all, breaks);
        form = FormOf(all);
        var levels = Bidi.IsNeeded(all) ? Bidi.Levels(all) : null;
        filler.Begin(style, lines.Count == 0 ? style.FirstLine : 0, width, styles[0].Style, beside, lines);
        for (var i = 0; i < all.Length; )
        {
            var end = i + 1;
            while (end < all.Length && !breaks[end] && all[end - 1] != '\t' && all[end] != '\t')
                end++;
            AddUnit(all, i, end, levels, notes);
            i = end;
        }
        filler.Fill(lines);
    }

    // Letters, digits, spaces, and signs within which no line may end: all else takes the long way.
    static readonly System.Buffers.SearchValues<char> Plain = System.Buffers.SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789 .,"
    );
    readonly List<ShapedWord> plain = [];

    /// <summary>
    /// The short way for most lines of an address: one style, plain letters, and room enough. It gives what the long way gives, without
    /// looking for line ends that are not needed; false where it does not apply.
    /// </summary>
    bool SetPlain(Span span, ParagraphStyle style, double width, List<TextLine> lines, LayoutNotes notes)
    {
        var all = span.Text.AsSpan();
        if (
            all.Length == 0
            || span.Picture is not null
            || span.Style.Script != Script.Normal
            || style.FirstLine != 0
            || all[0] == ' '
            || all.IndexOfAnyExcept(Plain) >= 0
        )
            return false;
        var font = fonts.Find(span.Style.Family, span.Style.Bold, span.Style.Italic);
        if (font.RoughAdvance(all) * span.Style.Size / font.UnitsPerEm > width * 1.1)
            return false;
        all = all.TrimEnd(' ');
        plain.Clear();
        while (all.Length > 0)
        {
            var end = all[0] == ' ' ? all.IndexOfAnyExcept(' ') : all.IndexOf(' ');
            if (end < 0)
                end = all.Length;
            fonts.Shape(font, all[..end], plain, notes);
            all = all[end..];
        }
        double content = 0;
        foreach (var word in plain)
        {
            if (word.Font != font)
                return false;
            content += word.Advance * span.Style.Size / font.UnitsPerEm;
        }
        if (content > width)
            return false;
        var x = style.Align switch
        {
            TextAlign.Center => (width - content) / 2,
            TextAlign.Right => width - content,
            _ => 0,
        };
        lines.Add(LineFiller.Box([new WordRun(x, font, span.Style.Size, span.Style, [.. plain], 0)], null, span.Style, style.LineSpacing));
        return true;
    }

    /// <summary>
    /// What follows a blank field, without the gap that the field would leave: of the spaces on both sides of it one stays, none at
    /// the start of a line, and none before a comma or full stop.
    /// </summary>
    /// <param name="text">What stands before it.</param>
    /// <param name="also">The same before it in another form, which loses the same space.</param>
    internal static string ClosedUp(string value, StringBuilder text, StringBuilder? also = null)
    {
        var spaceBefore = text.Length > 0 && text[^1] == ' ';
        if ((spaceBefore || text.Length == 0) && value[0] == ' ')
            return value[1..];
        if (!spaceBefore || !",.;:!?".Contains(value[0]))
            return value;
        text.Length--;
        if (also is { Length: > 0 } && also[^1] == ' ')
            also.Length--;
        return value;
    }

    /// <summary>Composed characters (NFC), and no control characters: a tab or line end inside a value prints as a space; a typed tab is
    /// one.</summary>
    void AppendPrintable(string value, bool fromField)
    {
        if (!Ascii.IsValid(value))
            value = SoundText.Of(value).Normalize();
        foreach (var c in value)
            text.Append(
                c is '\u00AD' ? '\u200B'
                : c == '\t' && !fromField ? c
                : char.IsControl(c) ? ' '
                : c == PictureSign && pictures.Count == 0 ? '\uFFFD'
                : c
            );
    }

    /// <summary>Adds the text between two places where a break is allowed: a word with the spaces after it.</summary>
    void AddUnit(string all, int start, int end, byte[]? levels, LayoutNotes notes)
    {
        if (all[start] == '\t')
        {
            filler.AddTab(StyleAt(start, end).Style);
            return;
        }
        var solidEnd = end;
        while (solidEnd > start && all[solidEnd - 1] == ' ')
            solidEnd--;
        filler.BeginUnit();
        ShapeInto(all, start, solidEnd, levels, notes);
        if (filler.UnitIsTooWide)
        {
            // A word wider than the line is cut between characters, and noted: it may look wrong, but nothing is lost.
            notes.TooWide.Add((all[start..solidEnd], notes.Place));
            filler.DropUnit();
            for (var i = start; i < solidEnd; )
            {
                var next = i + System.Globalization.StringInfo.GetNextTextElementLength(all.AsSpan(i, solidEnd - i));
                filler.BeginUnit();
                ShapeInto(all, i, next, levels, notes);
                if (next == solidEnd)
                    break;
                filler.EndSolid();
                filler.EndUnit();
                i = next;
            }
        }
        filler.EndSolid();
        ShapeInto(all, solidEnd, end, levels, notes);
        filler.EndUnit();
    }

    void ShapeInto(string all, int start, int end, byte[]? levels, LayoutNotes notes)
    {
        for (var i = start; i < end; )
        {
            var (style, font, stop) = StyleAt(i, end);
            byte level = 0;
            if (levels is not null)
            {
                level = levels[i];
                var run = i + 1;
                while (run < stop && levels[run] == level)
                    run++;
                stop = run;
            }
            if (all[i] == PictureSign && pictures.Count > 0)
            {
                // Pictures stand in the text in the order in which they were added.
                var number = 0;
                for (var k = 0; k < i; k++)
                    if (all[k] == PictureSign)
                        number++;
                filler.Add(pictures[Math.Min(number, pictures.Count - 1)], style, level);
                i++;
                continue;
            }
            for (var k = i + 1; k < stop; k++)
            {
                if (all[k] != PictureSign)
                    continue;
                stop = k;
                break;
            }
            shaped.Clear();
            fonts.Shape(font, all.AsSpan(i, stop - i), shaped, notes, (level & 1) == 1, form);
            foreach (var word in shaped)
                filler.Add(word, style, level);
            i = stop;
        }
    }

    (TextStyle Style, PaperFont Font, int End) StyleAt(int position, int limit)
    {
        for (var i = styles.Count - 1; ; i--)
            if (styles[i].Start <= position)
                return (styles[i].Style, styles[i].Font, Math.Min(limit, i + 1 < styles.Count ? styles[i + 1].Start : limit));
    }
}
