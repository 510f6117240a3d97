using System.Globalization;
using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;

namespace Bandeja.Formats.Documents;

/// <summary>Writes blocks as WordprocessingML. Elements stand in the order that the schema wants (ECMA-376 part 1, annex A).</summary>
sealed class DocxText(DocxParts parts, LetterDesign design, bool many, FaceBook faces)
{
    StringBuilder xml = new();
    DocxRelations relations = parts.Document;
    double width = design.Page.TextWidth;
    readonly TextStyle ordinary = DocxStyles.Base(design);

    /// <summary>The list around what is written, with its level; null outside of lists.</summary>
    (int Number, int Level, double Indent)? item;

    DocxSections? sections;

    /// <summary>Begins the text of a part.</summary>
    /// <param name="sections">Ends sections of the text; null where there are none.</param>
    public void Begin(DocxRelations of, DocxSections? sections = null)
    {
        xml.Clear();
        (relations, this.sections) = (of, sections);
        (width, item) = (design.Page.TextWidth, null);
    }

    /// <summary>What was written.</summary>
    public string Take() => xml.ToString();

    /// <summary>A paragraph with nothing in it.</summary>
    public void Empty() => xml.Append(Thin(""));

    /// <summary>Text as XML has it; what XML cannot hold is left out.</summary>
    public static string Escape(string text)
    {
        if (text.AsSpan().IndexOfAny("&<>\"") < 0 && !text.Any(Forbidden))
            return text;
        var safe = new StringBuilder(text.Length + 16);
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            switch (c)
            {
                case '&':
                    safe.Append("&amp;");
                    break;
                case '<':
                    safe.Append("&lt;");
                    break;
                case '>':
                    safe.Append("&gt;");
                    break;
                case '"':
                    safe.Append("&quot;");
                    break;
                default:
                    if (char.IsHighSurrogate(c) && i + 1 < text.Length && char.IsLowSurrogate(text[i + 1]))
                        safe.Append(c).Append(text[++i]);
                    else if (!Forbidden(c))
                        safe.Append(c);
                    break;
            }
        }
        return safe.ToString();
    }

    static bool Forbidden(char c) => c < ' ' && c is not ('\t' or '\n' or '\r') || c is '\uFFFE' or '\uFFFF' || char.IsSurrogate(c);

    static int Twips(double points) => DocxWriter.Twips(points);

    static long Emu(double points) => (long)Math.Round(points * WordXml.EmuPerPoint);

    /// <summary>Writes blocks.</summary>
    public void Blocks(IReadOnlyList<ContentBlock> blocks)
    {
        foreach (var block in blocks)
            Block(block);
    }

    void Block(ContentBlock block)
    {
        switch (block)
        {
            case ContentParagraph p:
                Paragraph(p);
                break;
            case ContentPictureBlock { Picture: { Place: not null } or { Beside: not null } } p:
                xml.Append(ThinOpen).Append("</w:pPr>");
                Picture(p.Picture);
                xml.Append("</w:p>");
                break;
            case ContentPictureBlock p:
                Open(new ParagraphStyle(p.Picture.Align, 1, p.Picture.SpaceAfter), null);
                Picture(p.Picture);
                xml.Append("</w:p>");
                break;
            case ContentRule r:
                xml.Append(
                    "<w:p><w:pPr><w:pBdr><w:bottom w:val=\"single\" "
                        + $"w:sz=\"{Math.Clamp((int)Math.Round(r.Rule.Thickness * 8), 2, 96)}\" w:space=\"1\" "
                        + $"w:color=\"{r.Rule.Color}\"/></w:pBdr><w:spacing w:before=\"0\" w:after=\"{Twips(r.Rule.SpaceAfter)}\" "
                        + "w:line=\"20\" w:lineRule=\"exact\"/></w:pPr></w:p>"
                );
                break;
            case ContentBreak { Page: { } page } when sections is not null && !inColumns:
                xml.Append(Thin(sections.End(null)));
                sections.Turn(page);
                width = page.TextWidth;
                break;
            case ContentBreak:
                xml.Append(Thin("", $"<w:r><w:br w:type=\"{(inColumns ? "column" : "page")}\"/></w:r>"));
                break;
            case ContentQuote q:
                foreach (var inner in q.Blocks)
                    Block(
                        inner is ContentParagraph p
                            ? p with
                            {
                                Style = p.Style with
                                {
                                    Indent = p.Style.Indent + 20,
                                    IndentRight = p.Style.IndentRight + 20,
                                    Border = new(Sides.Left, 1.5, "b9b3a4"),
                                },
                            }
                            : inner
                    );
                break;
            case ContentBox b:
                Box(b);
                break;
            case ContentColumns c:
                if (sections is not null)
                    xml.Append(Thin(sections.End(null)));
                var (across, of) = (width, c.Columns);
                width = Math.Max(20, (across - (of.Count - 1) * of.Gap) / of.Count);
                inColumns = true;
                Blocks(c.Blocks);
                (width, inColumns) = (across, false);
                if (sections is not null)
                    xml.Append(Thin(sections.End(of)));
                break;
            case ContentList l:
                List(l);
                break;
            case ContentTable t:
                Table(t);
                break;
        }
    }

    bool inColumns;

    /// <summary>A paragraph that takes no room to speak of.</summary>
    public static string Thin(string more, string content = "") => $"{ThinOpen}{more}</w:pPr>{content}</w:p>";

    const string ThinOpen = "<w:p><w:pPr><w:spacing w:before=\"0\" w:after=\"0\" w:line=\"20\" w:lineRule=\"exact\"/>";

    /// <summary>A box as a shape with text (the shape of Office 2010, which the schema's choice names).</summary>
    void Box(ContentBox content)
    {
        var box = content.Box;
        var around = (xml, width, item);
        (xml, width, item) = (new StringBuilder(), Math.Max(10, box.Width - 2 * box.Padding), null);
        Blocks(content.Blocks);
        if (content.Blocks is [.., ContentTable])
            Empty();
        var inner = xml.ToString();
        (xml, width, item) = around;
        var number = parts.NextDrawing();
        var (w, h) = (Emu(box.Width), Emu(Math.Max(box.Height, 12)));
        var fill = box.Shade is { } shade ? $"<a:solidFill><a:srgbClr val=\"{shade}\"/></a:solidFill>" : "<a:noFill/>";
        var line = box.Line is { } drawn
            ? $"<a:ln w=\"{Emu(drawn.Width)}\"><a:solidFill><a:srgbClr val=\"{drawn.Color}\"/></a:solidFill></a:ln>"
            : "<a:ln><a:noFill/></a:ln>";
        var inset = Emu(box.Padding);
        var text = inner.Length == 0 ? "" : $"<wps:txbx><w:txbxContent>{inner}</w:txbxContent></wps:txbx>";
        var shape =
            "<a:graphic><a:graphicData uri=\"http://schemas.microsoft.com/office/word/2010/wordprocessingShape\"><wps:wsp>"
            + $"<wps:cNvSpPr{(inner.Length == 0 ? "" : " txBox=\"1\"")}/><wps:spPr><a:xfrm><a:off x=\"0\" y=\"0\"/><a:ext cx=\"{w}\" "
            + $"cy=\"{h}\"/></a:xfrm><a:prstGeom prst=\"rect\"><a:avLst/></a:prstGeom>{fill}{line}</wps:spPr>{text}<wps:bodyPr "
            + $"wrap=\"square\" lIns=\"{inset}\" tIns=\"{inset}\" rIns=\"{inset}\" bIns=\"{inset}\">"
            + $"{(inner.Length == 0 ? "" : "<a:spAutoFit/>")}</wps:bodyPr></wps:wsp></a:graphicData></a:graphic>";
        var name = $"<wp:docPr id=\"{number}\" name=\"Box {number}\"/><wp:cNvGraphicFramePr/>";
        var drawing =
            box.Place is null && box.Beside is null
                ? $"<wp:inline distT=\"0\" distB=\"0\" distL=\"0\" distR=\"0\"><wp:extent cx=\"{w}\" cy=\"{h}\"/>{name}{shape}</wp:inline>"
                : Anchor(box.Place, box.Beside, box.Gap, behind: false, number, w, h, name + shape);
        var run =
            "<w:r><mc:AlternateContent><mc:Choice Requires=\"wps\"><w:drawing>"
            + $"{drawing}</w:drawing></mc:Choice></mc:AlternateContent></w:r>";
        if (box.Place is null && box.Beside is null)
        {
            Open(new ParagraphStyle(box.Align, 1, box.SpaceAfter), null);
            xml.Append(run).Append("</w:p>");
        }
        else
            xml.Append(Thin("", run));
    }

    /// <summary>A drawing that floats: at a place of the page, or at a side of the text.</summary>
    static string Anchor(
        (double X, double Y)? place,
        Side? beside,
        double gap,
        bool behind,
        int number,
        long width,
        long height,
        string content
    )
    {
        var (x, y) = place is { } at
            ? ($"\"page\"><wp:posOffset>{Emu(at.X)}</wp:posOffset>", $"\"page\"><wp:posOffset>{Emu(at.Y)}</wp:posOffset>")
            : (
                $"\"column\"><wp:align>{(beside == Side.Left ? "left" : "right")}</wp:align>",
                "\"paragraph\"><wp:posOffset>0</wp:posOffset>"
            );
        var wrap = place is null ? "<wp:wrapSquare wrapText=\"bothSides\"/>" : "<wp:wrapNone/>";
        var far = place is null ? Emu(gap) : 0;
        return $"<wp:anchor distT=\"0\" distB=\"{far / 2}\" distL=\"{far}\" distR=\"{far}\" simplePos=\"0\" relativeHeight=\"{number}\" "
            + $"behindDoc=\"{(behind ? 1 : 0)}\" locked=\"0\" layoutInCell=\"1\" allowOverlap=\"1\"><wp:simplePos x=\"0\" y=\"0\"/>"
            + $"<wp:positionH relativeFrom={x}</wp:positionH><wp:positionV relativeFrom={y}</wp:positionV>"
            + $"<wp:extent cx=\"{width}\" cy=\"{height}\"/>{wrap}{content}</wp:anchor>";
    }

    void Note(ContentInline inline)
    {
        var number = parts.NextNote();
        var look = Written(inline.Style with { Link = null, Script = Script.Superscript });
        xml.Append($"<w:r>{look}<w:footnoteReference w:id=\"{number}\"/></w:r>");
        var around = (xml, relations, width, item);
        (xml, relations, width, item) = (new StringBuilder(), parts.NoteRelations, sections?.Page.TextWidth ?? design.Page.TextWidth, null);
        var mark = $"<w:r>{look}<w:footnoteRef/></w:r><w:r><w:t xml:space=\"preserve\"> </w:t></w:r>";
        notePrefix = mark;
        Blocks(inline.Note ?? []);
        if (notePrefix is not null)
            xml.Insert(0, $"<w:p>{mark}</w:p>");
        notePrefix = null;
        parts.KeepNote(number, xml.ToString());
        (xml, relations, width, item) = around;
    }

    /// <summary>What the next paragraph begins with, because it is the first of a footnote.</summary>
    string? notePrefix;

    void List(ContentList list)
    {
        var around = item;
        var level = around is { } outer ? Math.Min(outer.Level + 1, 8) : 0;
        var indent = (around?.Indent ?? 0) + list.List.Look.Indent;
        var number = parts.List(list.List with { Look = list.List.Look with { Indent = indent } }, level);
        foreach (var blocks in list.Items)
        {
            // The first paragraph has the label; what follows it is set in as far.
            var first = true;
            foreach (var block in blocks)
            {
                item = (first && block is ContentParagraph ? number : 0, level, indent);
                if (block is ContentParagraph)
                    first = false;
                Block(block);
            }
        }
        item = around;
    }

    void Open(ParagraphStyle style, TextStyle? text)
    {
        xml.Append("<w:p><w:pPr>");
        if (style.Heading is >= 1 and <= 3)
            xml.Append($"<w:pStyle w:val=\"Heading{style.Heading}\"/>");
        // A paragraph whose style came with the document has that style, and beside it only what differs; in lists the list sets it in.
        var kept = style is { Heading: 0, Named: { } name } ? parts.Style(name, item is null ? Properties(style, text, null) : null) : null;
        if (kept is not null)
            xml.Append($"<w:pStyle w:val=\"{kept.Id}\"/>");
        if (kept is null || item is not null || Properties(style, text, null) != kept.Properties)
            xml.Append(Properties(style, text, kept));
        xml.Append("</w:pPr>");
    }

    // The same paragraphs come in letter after letter.
    const int MostKnown = 2_000;
    readonly Dictionary<ParagraphStyle, (string? Family, string Properties)> known = new(ReferenceEqualityComparer.Instance);

    /// <summary>The properties of a paragraph.</summary>
    /// <param name="over">The style that they hold against; null where nothing needs to be taken back.</param>
    string Properties(ParagraphStyle style, TextStyle? text, KeptStyle? over)
    {
        if (item is not null || over is not null)
            return Written(style, text, over);
        if (known.TryGetValue(style, out var before) && before.Family == text?.Family)
            return before.Properties;
        if (known.Count >= MostKnown)
            known.Clear();
        var properties = Written(style, text, null);
        known[style] = (text?.Family, properties);
        return properties;
    }

    string Written(ParagraphStyle style, TextStyle? text, KeptStyle? over)
    {
        var p = new StringBuilder();
        bool Undo(string element) => over?.Properties?.Contains($"<w:{element}", StringComparison.Ordinal) == true;
        if (style.KeepWithNext)
            p.Append("<w:keepNext/>");
        else if (Undo("keepNext"))
            p.Append("<w:keepNext w:val=\"0\"/>");
        if (item is { Number: > 0 } own)
            p.Append($"<w:numPr><w:ilvl w:val=\"{own.Level}\"/><w:numId w:val=\"{own.Number}\"/></w:numPr>");
        if (style.Border is not null || Undo("pBdr"))
        {
            p.Append("<w:pBdr>");
            foreach (
                var (side, name) in (ReadOnlySpan<(Sides, string)>)
                    [(Sides.Top, "top"), (Sides.Left, "left"), (Sides.Bottom, "bottom"), (Sides.Right, "right")]
            )
                if (style.Border is { } border && border.Sides.HasFlag(side))
                    p.Append(
                        $"<w:{name} w:val=\"single\" w:sz=\"{Math.Clamp((int)Math.Round(border.Width * 8), 2, 96)}\" w:space=\"3\" "
                            + $"w:color=\"{border.Color}\"/>"
                    );
                else if (over is not null)
                    p.Append($"<w:{name} w:val=\"nil\"/>");
            p.Append("</w:pBdr>");
        }
        if (style.Shade is { } shade)
            p.Append($"<w:shd w:val=\"clear\" w:color=\"auto\" w:fill=\"{shade}\"/>");
        else if (Undo("shd"))
            p.Append("<w:shd w:val=\"clear\" w:color=\"auto\" w:fill=\"auto\"/>");
        // Two stops at one place are one.
        var tabs = (style.Tabs ?? []).GroupBy(t => Twips(t.At)).ToDictionary(g => g.Key, g => g.Last());
        var gone = (over?.Tabs ?? []).Where(t => !tabs.ContainsKey(t)).ToList();
        if (tabs.Count + gone.Count > 0)
        {
            p.Append("<w:tabs>");
            foreach (var at in tabs.Keys.Concat(gone).Order())
            {
                if (!tabs.TryGetValue(at, out var tab))
                {
                    p.Append($"<w:tab w:val=\"clear\" w:pos=\"{at}\"/>");
                    continue;
                }
                var leader = tab.Leader switch
                {
                    TabLeader.Dots => " w:leader=\"dot\"",
                    TabLeader.Dashes => " w:leader=\"hyphen\"",
                    TabLeader.Line => " w:leader=\"underscore\"",
                    _ => "",
                };
                p.Append($"<w:tab w:val=\"{tab.Kind.ToString().ToLowerInvariant()}\"{leader} w:pos=\"{at}\"/>");
            }
            p.Append("</w:tabs>");
        }
        p.Append($"<w:spacing w:before=\"{Twips(style.SpaceBefore)}\" w:after=\"{Twips(style.SpaceAfter)}\"");
        // A multiple of the type size here is a multiple of the face's own line there.
        if (text is not null)
            p.Append($" w:line=\"{(int)Math.Round(style.LineSpacing / faces.LineHeight(text.Family) * 240)}\" w:lineRule=\"auto\"");
        p.Append("/>");
        var left = style.Indent + (item is { Number: 0 } after ? after.Indent : 0);
        if (item is not { Number: > 0 } && (left != 0 || style.IndentRight != 0 || style.FirstLine != 0 || Undo("ind")))
        {
            p.Append($"<w:ind w:left=\"{Twips(left)}\" w:right=\"{Twips(style.IndentRight)}\"");
            p.Append(style.FirstLine < 0 ? $" w:hanging=\"{Twips(-style.FirstLine)}\"" : $" w:firstLine=\"{Twips(style.FirstLine)}\"");
            p.Append("/>");
        }
        if (style.Align != TextAlign.Left || Undo("jc"))
            p.Append(
                $"<w:jc w:val=\"{style.Align switch
                {
                    TextAlign.Center => "center",
                    TextAlign.Right => "right",
                    TextAlign.Justify => "both",
                    _ => "left",
                }}\"/>"
            );
        return p.ToString();
    }

    void Paragraph(ContentParagraph p)
    {
        Open(p.Style, p.BaseStyle);
        xml.Append(notePrefix);
        notePrefix = null;
        string? link = null;
        foreach (var inline in p.Inlines)
        {
            if (inline.Style.Link != link)
            {
                if (link is not null)
                    xml.Append("</w:hyperlink>");
                link = inline.Style.Link;
                if (link is not null)
                    xml.Append($"<w:hyperlink r:id=\"{relations.Id("hyperlink", link, external: true)}\">");
            }
            Inline(inline);
        }
        if (link is not null)
            xml.Append("</w:hyperlink>");
        xml.Append("</w:p>");
    }

    void Inline(ContentInline inline)
    {
        switch (inline.Kind)
        {
            case ContentKind.LineBreak:
                xml.Append("<w:r>");
                Look(inline.Style);
                xml.Append("<w:br/></w:r>");
                break;
            case ContentKind.Picture:
                Picture(inline.Picture!);
                break;
            case ContentKind.Note:
                Note(inline);
                break;
            case ContentKind.PageNumber or ContentKind.PageCount:
                // In a file of several letters the pages of each are counted, not those of the file.
                var code =
                    inline.Kind == ContentKind.PageNumber ? "PAGE"
                    : many ? "SECTIONPAGES"
                    : "NUMPAGES";
                foreach (
                    var part in (string[])
                        [
                            "<w:fldChar w:fldCharType=\"begin\"/>",
                            $"<w:instrText xml:space=\"preserve\"> {code} </w:instrText>",
                            "<w:fldChar w:fldCharType=\"separate\"/>",
                            "<w:t>1</w:t>",
                            "<w:fldChar w:fldCharType=\"end\"/>",
                        ]
                )
                {
                    xml.Append("<w:r>");
                    Look(inline.Style);
                    xml.Append(part).Append("</w:r>");
                }
                break;
            default:
                var lines = inline.Text.Split('\t');
                for (var i = 0; i < lines.Length; i++)
                {
                    if (i > 0)
                        Run(inline.Style, "<w:tab/>");
                    if (lines[i].Length > 0)
                        Run(inline.Style, $"<w:t xml:space=\"preserve\">{Escape(lines[i])}</w:t>");
                }
                break;
        }
    }

    void Run(TextStyle style, string content)
    {
        xml.Append("<w:r>");
        Look(style);
        xml.Append(content).Append("</w:r>");
    }

    readonly Dictionary<TextStyle, string> looks = [];

    void Look(TextStyle style)
    {
        var own = style with { Link = null };
        if (!looks.TryGetValue(own, out var look))
            looks[own] = look = Written(own);
        xml.Append(look);
    }

    /// <summary>What differs from ordinary text.</summary>
    string Written(TextStyle style)
    {
        var look = new StringBuilder();
        if (style.Family != ordinary.Family)
        {
            var face = Escape(FaceTable.Elsewhere(style.Family));
            look.Append($"<w:rFonts w:ascii=\"{face}\" w:hAnsi=\"{face}\" w:cs=\"{face}\"/>");
        }
        if (style.Bold)
            look.Append("<w:b/>");
        if (style.Italic)
            look.Append("<w:i/>");
        if (style.Strike)
            look.Append("<w:strike/>");
        if (style.Color != "000000")
            look.Append($"<w:color w:val=\"{style.Color}\"/>");
        if (style.Size != ordinary.Size)
        {
            var size = (int)Math.Round(style.Size * 2);
            look.Append($"<w:sz w:val=\"{size}\"/><w:szCs w:val=\"{size}\"/>");
        }
        if (style.Underline)
            look.Append("<w:u w:val=\"single\"/>");
        if (style.Script != Script.Normal)
            look.Append($"<w:vertAlign w:val=\"{(style.Script == Script.Superscript ? "superscript" : "subscript")}\"/>");
        return look.Length == 0 ? "" : $"<w:rPr>{look}</w:rPr>";
    }

    void Picture(ContentPicture picture)
    {
        if (parts.Media(picture) is not { } file)
        {
            if (picture.Alt.Length > 0)
                xml.Append($"<w:r><w:t>[{Escape(picture.Alt)}]</w:t></w:r>");
            return;
        }
        var id = relations.Id("image", file);
        var number = parts.NextDrawing();
        var (w, h) = (Emu(picture.Width), Emu(picture.Height));
        var name = $"<wp:docPr id=\"{number}\" name=\"Picture {number}\" descr=\"{Escape(picture.Alt)}\"/>";
        var graphic =
            "<a:graphic><a:graphicData "
            + $"uri=\"http://schemas.openxmlformats.org/drawingml/2006/picture\"><pic:pic><pic:nvPicPr><pic:cNvPr id=\"{number}\" "
            + $"name=\"Picture {number}\"/><pic:cNvPicPr/></pic:nvPicPr><pic:blipFill><a:blip "
            + $"r:embed=\"{id}\"/><a:stretch><a:fillRect/></a:stretch></pic:blipFill><pic:spPr><a:xfrm><a:off x=\"0\" "
            + $"y=\"0\"/><a:ext cx=\"{w}\" cy=\"{h}\"/></a:xfrm><a:prstGeom "
            + "prst=\"rect\"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData></a:graphic>";
        xml.Append("<w:r><w:drawing>");
        if (picture.Place is not null || picture.Beside is not null)
            xml.Append(
                Anchor(
                    picture.Place,
                    picture.Beside,
                    picture.Gap,
                    behind: picture.Place is not null,
                    number,
                    w,
                    h,
                    $"{name}<wp:cNvGraphicFramePr/>{graphic}"
                )
            );
        else
            xml.Append(
                $"<wp:inline distT=\"0\" distB=\"0\" distL=\"0\" distR=\"0\"><wp:extent cx=\"{w}\" "
                    + $"cy=\"{h}\"/>{name}<wp:cNvGraphicFramePr/>{graphic}</wp:inline>"
            );
        xml.Append("</w:drawing></w:r>");
    }

    void Table(ContentTable table)
    {
        var (lines, color) = (table.Table.Lines, table.Table.LineColor);
        xml.Append($"<w:tbl><w:tblPr><w:tblW w:w=\"{Twips(table.Widths.Sum())}\" w:type=\"dxa\"/>");
        if (lines != TableLines.None)
        {
            xml.Append("<w:tblBorders>");
            void Line(string side, bool drawn)
            {
                if (drawn)
                    xml.Append($"<w:{side} w:val=\"single\" w:sz=\"4\" w:space=\"0\" w:color=\"{color}\"/>");
            }
            Line("top", lines is TableLines.All or TableLines.Outside);
            Line("left", lines is TableLines.All or TableLines.Outside);
            Line("bottom", true);
            Line("right", lines is TableLines.All or TableLines.Outside);
            Line("insideH", lines is TableLines.All or TableLines.Rows);
            Line("insideV", lines is TableLines.All);
            xml.Append("</w:tblBorders>");
        }
        xml.Append(
            "<w:tblLayout w:type=\"fixed\"/><w:tblCellMar><w:top w:w=\"50\" w:type=\"dxa\"/><w:left w:w=\"80\" "
                + "w:type=\"dxa\"/><w:bottom w:w=\"50\" w:type=\"dxa\"/><w:right w:w=\"80\" "
                + "w:type=\"dxa\"/></w:tblCellMar></w:tblPr><w:tblGrid>"
        );
        foreach (var column in table.Widths)
            xml.Append($"<w:gridCol w:w=\"{Twips(column)}\"/>");
        xml.Append("</w:tblGrid>");
        var (around, outerItem) = (width, item);
        // What reaches down from rows above: how many rows more, and how many columns wide.
        var down = new (int Rows, int Span, TableCell? Cell)[table.Widths.Count];
        foreach (var row in table.Rows)
        {
            xml.Append("<w:tr><w:trPr><w:cantSplit/>");
            if (row.IsHeading)
                xml.Append("<w:tblHeader/>");
            xml.Append("</w:trPr>");
            var next = 0;
            for (var column = 0; column < table.Widths.Count; )
            {
                if (down[column].Rows > 0)
                {
                    var span = Math.Max(1, down[column].Span);
                    Cell(table, column, span, "<w:vMerge/>", down[column].Cell, null);
                    down[column].Rows--;
                    column += span;
                    continue;
                }
                if (next >= row.Cells.Count)
                {
                    Cell(table, column, 1, "", null, null);
                    column++;
                    continue;
                }
                var (cell, blocks) = row.Cells[next++];
                var wide = Math.Clamp(cell.ColumnSpan, 1, table.Widths.Count - column);
                Cell(table, column, wide, cell.RowSpan > 1 ? "<w:vMerge w:val=\"restart\"/>" : "", cell, blocks);
                if (cell.RowSpan > 1)
                    down[column] = (cell.RowSpan - 1, wide, cell);
                column += wide;
            }
            xml.Append("</w:tr>");
        }
        xml.Append("</w:tbl>");
        (width, item) = (around, outerItem);
        // Tables have no space after them; a paragraph of that height stands there.
        xml.Append(
            $"<w:p><w:pPr><w:spacing w:before=\"0\" w:after=\"0\" w:line=\"{Math.Max(20, Twips(table.Table.SpaceAfter))}\" "
                + "w:lineRule=\"exact\"/></w:pPr></w:p>"
        );
    }

    void Cell(ContentTable table, int column, int span, string merge, TableCell? cell, IReadOnlyList<ContentBlock>? blocks)
    {
        width = table.Widths.Skip(column).Take(span).Sum();
        item = null;
        xml.Append($"<w:tc><w:tcPr><w:tcW w:w=\"{Twips(width)}\" w:type=\"dxa\"/>");
        if (span > 1)
            xml.Append($"<w:gridSpan w:val=\"{span}\"/>");
        xml.Append(merge);
        if (cell?.Lines is { } own)
        {
            xml.Append("<w:tcBorders>");
            foreach (
                var (side, line) in (ReadOnlySpan<(string, CellLine?)>)
                    [("top", own.Top), ("left", own.Left), ("bottom", own.Bottom), ("right", own.Right)]
            )
                xml.Append(
                    line is { } drawn
                        ? $"<w:{side} w:val=\"single\" w:sz=\"{Math.Clamp((int)Math.Round(drawn.Width * 8), 2, 96)}\" w:space=\"0\" "
                            + $"w:color=\"{drawn.Color}\"/>"
                        : $"<w:{side} w:val=\"nil\"/>"
                );
            xml.Append("</w:tcBorders>");
        }
        if (cell?.Shade is { } shade)
            xml.Append($"<w:shd w:val=\"clear\" w:color=\"auto\" w:fill=\"{shade}\"/>");
        if (cell?.Align is CellAlign.Middle or CellAlign.Bottom)
            xml.Append($"<w:vAlign w:val=\"{(cell.Align == CellAlign.Middle ? "center" : "bottom")}\"/>");
        xml.Append("</w:tcPr>");
        if (blocks is { Count: > 0 })
            Blocks(blocks);
        if (blocks is null or [] or [.., ContentTable])
            Empty();
        xml.Append("</w:tc>");
    }

    /// <summary>A header with a text across the page behind everything (a shape of VML, which all word processors draw).</summary>
    public static string WithWatermark(string header, string text, Watermark mark)
    {
        var (across, tall) = ((int)Math.Min(500, text.Length * mark.Size * 0.55), (int)mark.Size);
        var shape =
            "<w:p><w:pPr><w:spacing w:before=\"0\" w:after=\"0\" w:line=\"20\" w:lineRule=\"exact\"/></w:pPr><w:r><w:pict><v:shape "
            + "id=\"Watermark1\" type=\"#_x0000_t136\""
            + $" style=\"position:absolute;margin-left:0;margin-top:0;width:{across}pt;height:{tall}pt;"
            + $"rotation:{(int)((360 - mark.Angle) % 360)};z-index:-251658752;mso-position-horizontal:center;"
            + "mso-position-horizontal-relative:margin;mso-position-vertical:center;mso-position-vertical-relative:margin\""
            + $" fillcolor=\"#{mark.Color}\" stroked=\"f\"><v:fill "
            + $"opacity=\"{mark.Strength.ToString("0.##", CultureInfo.InvariantCulture)}\"/><v:textpath "
            + $"style=\"font-family:&quot;{Escape(FaceTable.Elsewhere(mark.Family))}&quot;;font-size:1pt\" "
            + $"string=\"{Escape(text)}\"/></v:shape></w:pict></w:r></w:p>";
        return shape + header;
    }
}
