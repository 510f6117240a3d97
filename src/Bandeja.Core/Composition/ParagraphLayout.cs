using System.Text;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Composition;

/// <summary>A stretch of text with one style, its fields already filled in.</summary>
/// <param name="Text">What prints.</param>
/// <param name="Style">How it looks.</param>
/// <param name="FromField">True where the text is a field's value.</param>
/// <param name="EndsLine">True for a line break; then the text is empty.</param>
public readonly record struct Span(string Text, TextStyle Style, bool FromField, bool EndsLine);

/// <summary>What laying out found wrong.</summary>
public sealed class LayoutNotes
{
    /// <summary>Characters that no shipped font has.</summary>
    public List<Rune> MissingGlyphs { get; } = [];
    /// <summary>Words that are wider than a line and had to be cut.</summary>
    public List<string> TooWide { get; } = [];
}

/// <summary>
/// Sets a paragraph: shapes its words, breaks it into lines and aligns them. Line boxes follow the rules of CSS 2.2
/// section 10.8 (half the leading above and below each run), so that the editor's page and the output agree.
/// One instance serves one thread.
/// </summary>
public sealed class ParagraphLayout(FontLibrary fonts)
{
    readonly StringBuilder text = new();
    readonly List<(int Start, TextStyle Style, PaperFont Font)> styles = [];
    readonly List<ShapedWord> shaped = [];
    bool[] breaks = new bool[1024];

    /// <summary>
    /// Sets the spans within a width. A line of nothing but fields that all came out blank is left out, so that it leaves no gap;
    /// a paragraph of only such lines gives no lines at all.
    /// </summary>
    public List<TextLine> Set(IReadOnlyList<Span> spans, TextStyle baseStyle, double lineSpacing, double width, TextAlign align, LayoutNotes notes)
    {
        var lines = new List<TextLine>();
        var start = 0;
        for (var i = 0; i <= spans.Count; i++)
        {
            if (i < spans.Count && !spans[i].EndsLine) continue;
            var style = i > start ? spans[start].Style : i < spans.Count ? spans[i].Style : baseStyle;
            SetHardLine(spans, start, i, style, lineSpacing, width, align, notes, lines);
            start = i + 1;
        }
        return lines;
    }

    void SetHardLine(IReadOnlyList<Span> spans, int from, int to, TextStyle emptyStyle, double spacing, double width, TextAlign align, LayoutNotes notes, List<TextLine> lines)
    {
        text.Clear();
        styles.Clear();
        bool hasField = false, blank = false;
        for (var i = from; i < to; i++)
        {
            var value = spans[i].Text;
            hasField |= spans[i].FromField;
            blank |= spans[i].FromField && value.Length == 0;
            if (value.Length == 0) continue;
            if (blank) value = ClosedUp(value);
            blank = false;
            styles.Add((text.Length, spans[i].Style, fonts.Find(spans[i].Style.Family, spans[i].Style.Bold, spans[i].Style.Italic)));
            AppendPrintable(value);
        }
        var all = text.ToString();
        if (hasField && string.IsNullOrWhiteSpace(all)) return;
        if (all.Length == 0)
        {
            lines.Add(Box([], emptyStyle, spacing));
            return;
        }
        if (breaks.Length < all.Length) breaks = new bool[all.Length * 2];
        LineBreaker.Find(all, breaks);

        var line = new LineBuilder(this, spacing, width, align, notes);
        for (var i = 0; i < all.Length;)
        {
            var end = i + 1;
            while (end < all.Length && !breaks[end]) end++;
            line.Add(all, i, end);
            i = end;
        }
        line.Finish();
        lines.AddRange(line.Lines);
    }

    /// <summary>
    /// What follows a blank field, without the gap that the field would leave: of the spaces on both sides of it one stays, none at
    /// the start of a line, and none before a comma or full stop.
    /// </summary>
    string ClosedUp(string value)
    {
        var spaceBefore = text.Length > 0 && text[^1] == ' ';
        if ((spaceBefore || text.Length == 0) && value[0] == ' ') return value[1..];
        if (spaceBefore && ",.;:!?".Contains(value[0])) text.Length--;
        return value;
    }

    /// <summary>Composed characters (NFC), and no control characters: a tab or line end inside a value prints as a space.</summary>
    void AppendPrintable(string value)
    {
        if (!Ascii.IsValid(value)) value = SoundText.Of(value).Normalize();
        foreach (var c in value) text.Append(c is '\u00AD' ? '\u200B' : char.IsControl(c) ? ' ' : c);
    }

    (TextStyle Style, PaperFont Font, int End) StyleAt(int position, int limit)
    {
        for (var i = styles.Count - 1; ; i--)
            if (styles[i].Start <= position) return (styles[i].Style, styles[i].Font, Math.Min(limit, i + 1 < styles.Count ? styles[i + 1].Start : limit));
    }

    static TextLine Box(IReadOnlyList<WordRun> runs, TextStyle style, double spacing)
    {
        if (runs.Count == 0)
        {
            var height = style.Size * spacing;
            return new(height, height * 0.75, runs);
        }
        double above = 0, below = 0;
        foreach (var run in runs)
        {
            var unit = run.Size / run.Font.UnitsPerEm;
            double ascent = run.Font.Ascender * unit, descent = run.Font.Descender * unit;
            var half = (run.Size * spacing - ascent - descent) / 2;
            above = Math.Max(above, ascent + half);
            below = Math.Max(below, descent + half);
        }
        return new(above + below, above, runs);
    }

    /// <summary>A shaped word in the line being filled.</summary>
    readonly record struct Placed(ShapedWord Word, TextStyle Style)
    {
        public double Width => Word.Advance * Style.Size / Word.Font.UnitsPerEm;
    }

    /// <summary>Fills lines greedily.</summary>
    sealed class LineBuilder(ParagraphLayout owner, double spacing, double width, TextAlign align, LayoutNotes notes)
    {
        readonly List<Placed> line = [];
        readonly List<Placed> unit = [];
        double used;

        public List<TextLine> Lines { get; } = [];

        /// <summary>Adds the text between two places where a break is allowed: a word with the spaces after it.</summary>
        public void Add(string all, int start, int end)
        {
            unit.Clear();
            var solidEnd = end;
            while (solidEnd > start && all[solidEnd - 1] == ' ') solidEnd--;
            ShapeInto(all, start, solidEnd);
            var solid = unit.Sum(p => p.Width);
            if (used + solid > width + 0.01 && line.Count > 0) Break();
            if (solid > width + 0.01)
            {
                AddTooWide(all, start, solidEnd);
                unit.Clear();
            }
            else used += solid;
            var words = unit.Count;
            ShapeInto(all, solidEnd, end);
            for (var i = words; i < unit.Count; i++) used += unit[i].Width;
            line.AddRange(unit);
        }

        /// <summary>A word wider than the line is cut between characters, and noted: it may look wrong, but nothing is lost.</summary>
        void AddTooWide(string all, int start, int end)
        {
            notes.TooWide.Add(all[start..end]);
            for (var i = start; i < end;)
            {
                var next = i + System.Globalization.StringInfo.GetNextTextElementLength(all.AsSpan(i, end - i));
                unit.Clear();
                ShapeInto(all, i, next);
                var w = unit.Sum(p => p.Width);
                if (used + w > width && line.Count > 0) Break();
                used += w;
                line.AddRange(unit);
                i = next;
            }
        }

        void ShapeInto(string all, int start, int end)
        {
            for (var i = start; i < end;)
            {
                var (style, font, stop) = owner.StyleAt(i, end);
                owner.shaped.Clear();
                owner.Fonts.Shape(font, all.AsSpan(i, stop - i), owner.shaped, notes.MissingGlyphs);
                foreach (var word in owner.shaped) unit.Add(new(word, style));
                i = stop;
            }
        }

        void Break() => Close(last: false);

        public void Finish()
        {
            if (line.Count > 0 || Lines.Count == 0) Close(last: true);
        }

        void Close(bool last)
        {
            // Spaces at the end of a line take no room, and at its start there are none: they end the line before.
            var count = line.Count;
            while (count > 0 && line[count - 1].Word.IsSpace) count--;
            double content = 0;
            var gaps = 0;
            for (var i = 0; i < count; i++)
            {
                content += line[i].Width;
                if (line[i].Word.IsSpace) gaps += line[i].Word.Text.Length;
            }
            var free = width - content;
            var extra = align == TextAlign.Justify && !last && gaps > 0 && free > 0 ? free / gaps : 0;
            var x = align switch { TextAlign.Center => free / 2, TextAlign.Right => free, _ => 0 };
            var runs = new List<WordRun>();
            for (var i = 0; i < count;)
            {
                var first = line[i];
                var j = i + 1;
                while (j < count && line[j].Style.Equals(first.Style) && line[j].Word.Font == first.Word.Font) j++;
                var words = new ShapedWord[j - i];
                for (var k = i; k < j; k++) words[k - i] = line[k].Word;
                var run = new WordRun(x, first.Word.Font, first.Style.Size, first.Style.Color, first.Style.Underline, words, extra);
                runs.Add(run);
                x += run.Width;
                i = j;
            }
            Lines.Add(Box(runs, line.Count > 0 ? line[0].Style : owner.styles[0].Style, spacing));
            line.Clear();
            used = 0;
        }
    }

    FontLibrary Fonts => fonts;
}
