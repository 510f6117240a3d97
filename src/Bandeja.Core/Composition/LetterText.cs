using System.Globalization;
using DiffPlex;
using DiffPlex.Chunkers;
using DiffPlex.DiffBuilder;
using DiffPlex.DiffBuilder.Model;

namespace Bandeja.Core.Composition;

/// <summary>Whether a stretch of text stands in both versions of a letter or in one.</summary>
public enum DifferenceKind
{
    Same,
    Added,
    Removed,
}

/// <summary>A stretch of text in a comparison.</summary>
public sealed record TextDifference(DifferenceKind Kind, string Text);

/// <summary>A letter's text without its looks: fields and brackets as they are typed.</summary>
public static class LetterText
{
    /// <summary>The text, a paragraph a line, from the header to the footer.</summary>
    public static IReadOnlyList<string> Lines(LetterDesign design)
    {
        var lines = new List<string>();
        var head = design.Head;
        foreach (
            var blocks in new[]
            {
                head.FirstHeader ?? [],
                head.EvenHeader ?? [],
                head.Header,
                design.Blocks,
                head.FirstFooter ?? [],
                head.EvenFooter ?? [],
                head.Footer,
            }
        )
            Write(blocks, lines);
        if (head.Watermark is { } mark)
            lines.Add($"[watermark] {mark.Text}");
        return lines;
    }

    /// <summary>A sheet in words: its measures in inches, and its margins from the top with the clock.</summary>
    static string Layout(PageSetup page)
    {
        static string Inches(double points) => (points / 72).ToString("0.#", CultureInfo.InvariantCulture);
        var margins = string.Join(", ", new[] { page.Top, page.Right, page.Bottom, page.Left }.Select(Inches));
        return $"{Inches(page.Width)} × {Inches(page.Height)} in, margins {margins} in";
    }

    static void Write(IReadOnlyList<Block> blocks, List<string> lines)
    {
        foreach (var block in blocks)
        {
            switch (block)
            {
                case Paragraph p:
                    lines.AddRange(Of(p).Split('\n'));
                    break;
                case Picture p:
                    lines.Add($"[picture{(p.Box.Alt.Length > 0 ? $": {p.Box.Alt}" : p.Box.Source is { } s ? $" {{{s}}}" : "")}]");
                    break;
                case PageBreak b:
                    lines.Add(b.Page is { } sheet ? $"[page break, {Layout(sheet)}]" : "[page break]");
                    break;
                case Rule:
                    lines.Add("[rule]");
                    break;
                case Quote q:
                    Write(q.Blocks, lines);
                    break;
                case Box x:
                    lines.Add("[box]");
                    Write(x.Blocks, lines);
                    break;
                case Columns c:
                    lines.Add("[columns]");
                    Write(c.Blocks, lines);
                    break;
                case ItemList l:
                    foreach (var item in l.Items)
                        Prefixed(item, l.Numbered ? "# " : "• ", lines);
                    break;
                case WhenBlock w:
                    for (var i = 0; i < w.Branches.Count; i++)
                    {
                        lines.Add(w.Branches[i].Test is { } test ? $"{{{(i > 0 ? "or " : "")}when {test}}}" : "{otherwise}");
                        Write(w.Branches[i].Blocks, lines);
                    }
                    lines.Add("{end}");
                    break;
                case EachBlock e:
                    lines.Add($"{{each {e.Rows}}}");
                    Write(e.Blocks, lines);
                    lines.Add("{end}");
                    break;
                case Table t:
                    foreach (var row in t.Rows)
                    {
                        var text = string.Join(
                            " | ",
                            row.Cells.Select(c =>
                            {
                                var inner = new List<string>();
                                Write(c.Blocks, inner);
                                return string.Join(" ", inner);
                            })
                        );
                        lines.Add(row.Bracket is null ? text : $"{{{row.Bracket}}} {text} {{end}}");
                    }
                    break;
            }
        }
    }

    static List<string> Lines(IReadOnlyList<Block> blocks)
    {
        var lines = new List<string>();
        Write(blocks, lines);
        return lines;
    }

    static void Prefixed(IReadOnlyList<Block> item, string prefix, List<string> lines)
    {
        var inner = new List<string>();
        Write(item, inner);
        lines.AddRange(inner.Select((l, i) => (i == 0 ? prefix : "  ") + l));
    }

    static string Of(Paragraph p) =>
        string.Concat(
            p.Inlines.Select(i =>
                i switch
                {
                    TextInline t => t.Text,
                    FieldInline f => $"{{{f.Source}}}",
                    LineBreakInline => "\n",
                    NoteInline n => $"[footnote: {string.Join(" ", Lines(n.Blocks))}]",
                    PictureInline x => $"[picture{(x.Box.Alt.Length > 0 ? $": {x.Box.Alt}" : "")}]",
                    _ => "",
                }
            )
        );

    /// <summary>Where two versions' texts differ, paragraph by paragraph, and within a changed paragraph word by word.</summary>
    public static IReadOnlyList<IReadOnlyList<TextDifference>> Compare(LetterDesign before, LetterDesign after)
    {
        var model = new SideBySideDiffBuilder(new Differ(), new LineChunker(), new WordChunker()).BuildDiffModel(
            string.Join('\n', Lines(before)),
            string.Join('\n', Lines(after))
        );
        var result = new List<IReadOnlyList<TextDifference>>();
        for (var i = 0; i < model.NewText.Lines.Count; i++)
        {
            var (old, now) = (model.OldText.Lines[i], model.NewText.Lines[i]);
            result.Add(
                (old.Type, now.Type) switch
                {
                    (ChangeType.Unchanged, _) => [new(DifferenceKind.Same, now.Text ?? "")],
                    (ChangeType.Modified, ChangeType.Modified) => Words(old, now),
                    _ =>
                    [
                        .. old.Text is { } gone && old.Type != ChangeType.Imaginary
                            ? [new TextDifference(DifferenceKind.Removed, gone)]
                            : Array.Empty<TextDifference>(),
                        .. now.Text is { } come && now.Type != ChangeType.Imaginary
                            ? [new TextDifference(DifferenceKind.Added, come)]
                            : Array.Empty<TextDifference>(),
                    ],
                }
            );
        }
        return result;
    }

    /// <summary>What was taken out stands before what was put in its place.</summary>
    static IReadOnlyList<TextDifference> Words(DiffPiece old, DiffPiece now)
    {
        var pieces = new List<TextDifference>();
        void Add(DifferenceKind kind, string? text)
        {
            if (string.IsNullOrEmpty(text))
                return;
            if (pieces.Count > 0 && pieces[^1].Kind == kind)
                pieces[^1] = new(kind, pieces[^1].Text + text);
            else
                pieces.Add(new(kind, text));
        }
        for (var i = 0; i < Math.Max(old.SubPieces.Count, now.SubPieces.Count); i++)
        {
            var (o, n) = (i < old.SubPieces.Count ? old.SubPieces[i] : null, i < now.SubPieces.Count ? now.SubPieces[i] : null);
            if (o?.Type == ChangeType.Unchanged)
            {
                Add(DifferenceKind.Same, o.Text);
                continue;
            }
            if (o is not null && o.Type != ChangeType.Imaginary)
                Add(DifferenceKind.Removed, o.Text);
            if (n is not null && n.Type != ChangeType.Imaginary)
                Add(DifferenceKind.Added, n.Text);
        }
        // Paragraphs with little in common are two paragraphs, not one with a jumble of words.
        var same = pieces.Where(p => p.Kind == DifferenceKind.Same).Sum(p => p.Text.Trim().Length);
        return same * 3 >= Math.Max(old.Text?.Length ?? 0, now.Text?.Length ?? 0)
            ? pieces
            : [new(DifferenceKind.Removed, old.Text ?? ""), new(DifferenceKind.Added, now.Text ?? "")];
    }
}
