using System.Globalization;
using Bandeja.Core.Composition;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Forms;

/// <summary>Sets the text of fields and boxes. Serves one thread.</summary>
sealed class FormTexts(FontLibrary fonts)
{
    const double Endless = 100_000;
    readonly ParagraphLayout layout = new(fonts);
    readonly List<Span> spans = [];
    static readonly Element Value = new(ElementKind.Paragraph, null);

    /// <summary>Which form of Han characters the recipient reads.</summary>
    public HanForm Form
    {
        set => layout.Form = value;
    }

    static TextStyle StyleOf(FormText text, double size) => new(text.Family, size, text.Bold, text.Italic, Color: text.Color);

    /// <summary>The lines of a text.</summary>
    /// <param name="width">Where they end; null for one line, however long.</param>
    public (List<TextLine> Lines, double Width, double Height) Lines(
        string value,
        FormText text,
        double size,
        double? width,
        LayoutNotes notes
    )
    {
        var style = StyleOf(text, size);
        // A field has no tab stops.
        value = value.Replace('\t', ' ');
        spans.Clear();
        if (width is null)
            spans.Add(new(value.ReplaceLineEndings(" "), style));
        else
            foreach (var (line, i) in value.ReplaceLineEndings("\n").Split('\n').Select((l, i) => (l, i)))
            {
                if (i > 0)
                    spans.Add(new("", style, EndsLine: true));
                spans.Add(new(line, style));
            }
        var align = width is null
            ? TextAlign.Left
            : text.Align switch
            {
                1 => TextAlign.Center,
                2 => TextAlign.Right,
                _ => TextAlign.Left,
            };
        var lines = layout.Set(spans, style, new(align, 1.15, 0), width ?? Endless, notes);
        return (lines, lines.Select(l => l.Runs.Sum(r => r.Width)).DefaultIfEmpty(0).Max(), lines.Sum(l => l.Height));
    }

    /// <summary>Puts lines into a place.</summary>
    public void Put(IReadOnlyList<TextLine> lines, FormText text, Area area, CellAlign vertical, double height, List<PageItem> items)
    {
        var y =
            area.Y
            + vertical switch
            {
                CellAlign.Middle => Math.Max(0, (area.Height - height) / 2),
                CellAlign.Bottom => Math.Max(0, area.Height - height),
                _ => 0,
            };
        // What is higher than its place stands in the middle of it.
        if (height > area.Height && lines.Count == 1)
            y = area.Y + (area.Height - height) / 2;
        foreach (var line in lines)
        {
            var x = area.X;
            if (lines.Count == 1 && line.Runs.Count > 0 && line.Runs[0].X == 0)
            {
                var room = area.Width - line.Runs.Sum(r => r.Width);
                x += text.Align switch
                {
                    1 => room / 2,
                    2 => room,
                    _ => 0,
                };
            }
            if (!line.IsEmpty)
                items.Add(new LineItem(x, y + line.Baseline, line) { Element = Value });
            y += line.Height;
        }
    }

    /// <summary>One character in the middle of each cell; what is more than there are cells is left out.</summary>
    public void Cells(string value, FormText text, Area area, int cells, List<PageItem> items, LayoutNotes notes)
    {
        var pitch = area.Width / cells;
        var size = text.Size > 0 ? text.Size : Math.Clamp(Math.Min(area.Height / 1.3, pitch * 1.4), 4, 14);
        var characters = StringInfo.GetTextElementEnumerator(value);
        for (
            var i = text.Align == 2 ? Math.Max(0, cells - new StringInfo(value).LengthInTextElements) : 0;
            i < cells && characters.MoveNext();
            i++
        )
        {
            var character = characters.GetTextElement();
            var (lines, width, height) = Lines(character, text with { Align = 0 }, size, null, notes);
            // A character wider than its cell would stand over its neighbor.
            if (width > pitch && lines.Count > 0)
                (lines, width, height) = Lines(character, text with { Align = 0 }, size * pitch / width, null, notes);
            if (lines.Count == 0 || lines[0].IsEmpty)
                continue;
            items.Add(
                new LineItem(area.X + i * pitch + (pitch - width) / 2, area.Y + (area.Height - height) / 2 + lines[0].Baseline, lines[0])
                {
                    Element = Value,
                }
            );
        }
    }
}
