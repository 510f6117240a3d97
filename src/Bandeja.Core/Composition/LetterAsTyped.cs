namespace Bandeja.Core.Composition;

/// <summary>A letter with its fields and brackets as they are typed, for files that are edited elsewhere and brought back.</summary>
public static class LetterAsTyped
{
    /// <summary>The letter.</summary>
    public static LetterContent Of(LetterDesign design)
    {
        var head = design.Head;
        return new(
            design,
            Blocks(design.Blocks, design.Page.TextWidth),
            Blocks(head.Header, design.Page.TextWidth),
            Blocks(head.Footer, design.Page.TextWidth),
            head.FirstHeader is null ? null : Blocks(head.FirstHeader, design.Page.TextWidth),
            head.FirstFooter is null ? null : Blocks(head.FirstFooter, design.Page.TextWidth),
            head.Watermark?.Text
        )
        {
            EvenHeader = head.EvenHeader is null ? null : Blocks(head.EvenHeader, design.Page.TextWidth),
            EvenFooter = head.EvenFooter is null ? null : Blocks(head.EvenFooter, design.Page.TextWidth),
        };
    }

    static List<ContentBlock> Blocks(IReadOnlyList<Block> blocks, double width)
    {
        var result = new List<ContentBlock>();
        foreach (var block in blocks)
        {
            Block(block, width, result);
            if (block is PageBreak { Page: { } page })
                width = page.TextWidth;
        }
        return result;
    }

    static void Block(Block block, double width, List<ContentBlock> target)
    {
        switch (block)
        {
            case Paragraph p:
                target.Add(new ContentParagraph(p.Style, p.BaseStyle, [.. p.Inlines.Select(i => Inline(i, width))]));
                break;
            case Picture p:
                target.Add(
                    new ContentPictureBlock(
                        Box(p.Box) with
                        {
                            Align = p.Align,
                            SpaceAfter = p.SpaceAfter,
                            Place = p.Place,
                            Beside = p.Beside,
                            Gap = p.Gap,
                        }
                    )
                );
                break;
            case Rule r:
                target.Add(new ContentRule(r));
                break;
            case PageBreak b:
                target.Add(new ContentBreak(b.Page));
                break;
            case Quote q:
                target.Add(new ContentQuote(Blocks(q.Blocks, width)));
                break;
            case Box x:
                target.Add(new ContentBox(x, Blocks(x.Blocks, Math.Max(10, x.Width - 2 * x.Padding))));
                break;
            case Columns c:
                target.Add(new ContentColumns(c, Blocks(c.Blocks, Math.Max(20, (width - (c.Count - 1) * c.Gap) / c.Count))));
                break;
            case ItemList l:
                target.Add(new ContentList(l, [.. l.Items.Select(i => (IReadOnlyList<ContentBlock>)Blocks(i, width))]));
                break;
            case WhenBlock w:
                for (var i = 0; i < w.Branches.Count; i++)
                {
                    target.Add(Marker(w.Branches[i].Test is { } test ? $"{(i > 0 ? "or when" : "when")} {test}" : "otherwise"));
                    foreach (var inner in w.Branches[i].Blocks)
                        Block(inner, width, target);
                }
                target.Add(Marker("end"));
                break;
            case EachBlock e:
                target.Add(Marker($"each {e.Rows}"));
                foreach (var inner in e.Blocks)
                    Block(inner, width, target);
                target.Add(Marker("end"));
                break;
            case Table t:
                target.Add(
                    new ContentTable(
                        t,
                        TableLayout.Widths(t, width, out _),
                        [
                            .. t.Rows.Select(r => new ContentRow(
                                r.IsHeading,
                                [.. r.Cells.Select((c, i) => (c, Bracketed(Blocks(c.Blocks, width), r, i)))]
                            )),
                        ]
                    )
                );
                break;
        }
    }

    /// <summary>A row's bracket stands at the start of its first cell and at the end of its last.</summary>
    static IReadOnlyList<ContentBlock> Bracketed(List<ContentBlock> blocks, TableRow row, int index)
    {
        if (row.Bracket is null)
            return blocks;
        if (index == 0)
            Put(blocks, 0, $"{{{row.Bracket}}}", atStart: true);
        if (index == row.Cells.Count - 1)
            Put(blocks, blocks.Count - 1, "{end}", atStart: false);
        return blocks;
    }

    static void Put(List<ContentBlock> blocks, int at, string text, bool atStart)
    {
        if (at >= 0 && at < blocks.Count && blocks[at] is ContentParagraph p)
        {
            var inline = new ContentInline(ContentKind.Text, text, p.BaseStyle);
            blocks[at] = p with { Inlines = atStart ? [inline, .. p.Inlines] : [.. p.Inlines, inline] };
        }
        else
            blocks.Insert(atStart ? 0 : blocks.Count, Plain(text));
    }

    static ContentParagraph Marker(string source) => Plain($"{{{source}}}");

    static ContentParagraph Plain(string text)
    {
        var style = new TextStyle("Source Sans 3", 9, Color: "8a4b1f");
        return new(new(TextAlign.Left, 1.2, 2), style, [new(ContentKind.Text, text, style)]);
    }

    static ContentInline Inline(Inline inline, double width) =>
        inline switch
        {
            // What is written with braces is read back with them.
            TextInline t => new(ContentKind.Text, t.Text, t.Style),
            FieldInline f when f.Source.Trim().Equals("Page number", StringComparison.OrdinalIgnoreCase) => new(
                ContentKind.PageNumber,
                "1",
                f.Style
            ),
            FieldInline f when f.Source.Trim().Equals("Page count", StringComparison.OrdinalIgnoreCase) => new(
                ContentKind.PageCount,
                "1",
                f.Style
            ),
            FieldInline f => new(ContentKind.Text, $"{{{f.Source}}}", f.Style),
            NoteInline n => new(ContentKind.Note, "1", n.Style, Note: Blocks(n.Blocks, width)),
            PictureInline p => new(ContentKind.Picture, "", p.Style, Box(p.Box)),
            _ => new(ContentKind.LineBreak, "", inline.Style),
        };

    static ContentPicture Box(PictureBox box) => new(box.Asset, null, box.Width, box.Height, box.Alt);
}
