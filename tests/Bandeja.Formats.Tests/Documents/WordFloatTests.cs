using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using static Bandeja.Formats.Tests.Documents.MadeDocx;

namespace Bandeja.Formats.Tests.Documents;

/// <summary>What floats, stands in boxes and columns, or at the foot of the page, made tag by tag.</summary>
public sealed class WordFloatTests
{
    const double Millimetre = 72 / 25.4;
    const string Letter =
        "<w:pgSz w:w=\"12240\" w:h=\"15840\"/><w:pgMar w:top=\"1440\" w:right=\"1440\" w:bottom=\"1440\" w:left=\"1440\"/>";
    static readonly string Section = $"<w:sectPr>{Letter}</w:sectPr>";

    static long Emu(double points) => (long)(points * 12700);

    static string Anchor(string h, string v, string wrap, double width, double height, string graphic, string more = "") =>
        $"<w:r><w:drawing><wp:anchor distL=\"{Emu(10)}\" distR=\"{Emu(10)}\" {more}><wp:positionH {h}</wp:positionH><wp:positionV {v}"
        + $"</wp:positionV><wp:extent cx=\"{Emu(width)}\" cy=\"{Emu(height)}\"/>{wrap}<a:graphic><a:graphicData>{graphic}</a:graphicData>"
        + "</a:graphic></wp:anchor></w:drawing></w:r>";

    static string Offset(string from, double points) => $"relativeFrom=\"{from}\"><wp:posOffset>{Emu(points)}</wp:posOffset>";

    static string Align(string from, string to) => $"relativeFrom=\"{from}\"><wp:align>{to}</wp:align>";

    static string Shape(string look, string text = "", string preset = "rect", string body = "") =>
        $"<wps:wsp><wps:spPr><a:prstGeom prst=\"{preset}\"/>{look}</wps:spPr>"
        + (text.Length > 0 ? $"<wps:txbx><w:txbxContent>{P(R(text))}</w:txbxContent></wps:txbx>" : "")
        + $"<wps:bodyPr {body}/></wps:wsp>";

    const string Square = "<wp:wrapSquare wrapText=\"bothSides\"/>",
        Free = "<wp:wrapNone/>";
    const string Red = "<a:solidFill><a:srgbClr val=\"CC0000\"/></a:solidFill>";

    static (LetterDesign Design, IReadOnlyList<ReportLine> Report) Read(string body, MadeDocx? made = null)
    {
        var read = Brought.Read((made ?? new MadeDocx()).Body(body + (body.Contains("</w:body>") ? "" : Section)).File());
        var placed = Placing.Of(read.Document, Brought.Members);
        return (LetterReader.Read(placed.Letter), placed.Report);
    }

    static T One<T>(LetterDesign design)
        where T : Block => Assert.Single(design.Blocks.OfType<T>());

    [Theory]
    // At a side of the text: by alignment, or by the middle of the thing.
    [InlineData("column", "right", null, "paragraph", 0.0, true, "Right")]
    [InlineData("margin", "left", null, "paragraph", 4.0, true, "Left")]
    [InlineData("column", null, 300.0, "paragraph", 0.0, true, "Right")]
    [InlineData("column", null, 10.0, "line", 0.0, true, "Left")]
    // In the margin, or free on the page: a place of the page.
    [InlineData("page", null, 20.0, "page", 30.0, false, "20;30")]
    [InlineData("margin", null, 20.0, "margin", 30.0, false, "92;102")]
    [InlineData("page", "right", null, "page", 10.0, false, "512;10")]
    [InlineData("margin", "center", null, "bottomMargin", 0.0, false, "256;")]
    [InlineData("page", null, 5.0, "page", 10.0, true, "5;10")]
    // Over the text at a place nobody knows: beside it, so that nothing is covered.
    [InlineData("column", null, 330.0, "paragraph", 40.0, false, "Right")]
    public void What_floats_stands_at_a_side_or_at_its_place_of_the_page(
        string hFrom,
        string? hAlign,
        double? x,
        string vFrom,
        double y,
        bool wraps,
        string expected
    )
    {
        var h = hAlign is not null ? Align(hFrom, hAlign) : Offset(hFrom, x!.Value);
        var v = vFrom == "bottomMargin" ? Align(vFrom, "center") : Offset(vFrom, y);
        var (design, _) = Read(
            P(
                Anchor(h, v, wraps ? Square : Free, 100, 40, Shape("<a:ln w=\"12700\">" + Red + "</a:ln>", "Sender {{City}}"))
                    + R("The text")
            )
        );
        var box = One<Box>(design);
        Assert.Equal((100.0, 40.0), (Math.Round(box.Width), Math.Round(box.Height)));
        Assert.Equal("cc0000", box.Line!.Value.Color);
        Assert.Equal(
            expected,
            box.Beside?.ToString()
                ?? (
                    expected.EndsWith(';')
                        ? $"{Math.Round(box.Place!.Value.X)};"
                        : $"{Math.Round(box.Place!.Value.X)};{Math.Round(box.Place.Value.Y)}"
                )
        );
        // It is met before the text that runs around it.
        Assert.Equal(["[box]", "Sender {City}", "The text"], LetterText.Lines(design));
        if (box.Beside is not null)
            Assert.Equal(10, box.Gap, 0.1);
    }

    [Theory]
    [InlineData("<a:solidFill><a:schemeClr val=\"accent1\"/></a:solidFill>", "4472c4", null)]
    [InlineData(
        "<a:solidFill><a:schemeClr val=\"accent1\"><a:lumMod val=\"20000\"/><a:lumOff val=\"80000\"/></a:schemeClr></a:solidFill>",
        "dae3f3",
        null
    )]
    [InlineData("<a:noFill/><a:ln w=\"25400\">" + Red + "</a:ln>", null, "cc0000")]
    [InlineData(Red + "<a:ln><a:noFill/></a:ln>", "cc0000", null)]
    public void Shapes_without_text_are_boxes_of_their_color(string look, string? shade, string? line)
    {
        var made = new MadeDocx().Part(
            "theme",
            "theme/theme1.xml",
            "<a:theme><a:themeElements><a:clrScheme><a:accent1><a:srgbClr "
                + "val=\"4472C4\"/></a:accent1></a:clrScheme></a:themeElements></a:theme>"
        );
        var (design, _) = Read(P(Anchor(Offset("page", 10), Offset("page", 10), Free, 50, 20, Shape(look)) + R("Text")), made);
        var box = One<Box>(design);
        Assert.Equal((shade, line), (box.Shade, box.Line?.Color));
        Assert.Empty(box.Blocks);
    }

    [Fact]
    public void A_straight_line_is_a_thin_box_and_other_shapes_are_told()
    {
        var line = Shape("<a:ln w=\"12700\">" + Red + "</a:ln>", preset: "line");
        var (design, report) = Read(
            P(Anchor(Offset("page", 72), Offset("page", 300), Free, 400, 0, line) + R("Text"))
                + P(Anchor(Offset("page", 72), Offset("page", 300), Free, 90, 90, Shape(Red, preset: "sun")) + R("More"))
        );
        var box = One<Box>(design);
        Assert.Equal((400.0, 1.0, "cc0000"), (Math.Round(box.Width), Math.Round(box.Height), box.Shade));
        Assert.Contains(report, l => l is { Carried: Carried.Left, Block: not null } && l.Text == "A shape was not imported.");
    }

    [Fact]
    public void The_older_form_of_boxes_and_frames_of_paragraphs_are_boxes()
    {
        var (design, _) = Read(
            P(
                "<w:r><w:pict><v:shape style=\"position:absolute;margin-left:300pt;margin-top:0;width:120pt;height:50pt\" "
                    + "fillcolor=\"#eeeeee\" "
                    + "strokecolor=\"black\"><v:textbox "
                    + $"inset=\"4pt,2pt,4pt,2pt\"><w:txbxContent>{P(R("Old box"))}</w:txbxContent></v:textbox>"
                    + "<w10:wrap xmlns:w10=\"urn:schemas-microsoft-com:office:word\" type=\"square\"/></v:shape></w:pict></w:r>"
                    + R("Beside it")
            )
                + P(
                    R("Framed one"),
                    "<w:framePr w:w=\"2880\" w:hSpace=\"180\" w:wrap=\"around\" w:vAnchor=\"page\" w:hAnchor=\"page\" w:x=\"1000\" "
                        + "w:y=\"400\"/>"
                )
                + P(
                    R("Framed two"),
                    "<w:framePr w:w=\"2880\" w:hSpace=\"180\" w:wrap=\"around\" w:vAnchor=\"page\" w:hAnchor=\"page\" w:x=\"1000\" "
                        + "w:y=\"400\"/>"
                )
                + P(R("After"))
        );
        Assert.Equal(["[box]", "Old box", "Beside it", "[box]", "Framed one", "Framed two", "After"], LetterText.Lines(design));
        var boxes = design.Blocks.OfType<Box>().ToList();
        Assert.Equal(
            (Side.Right, "eeeeee", "000000", 4.0),
            (boxes[0].Beside, boxes[0].Shade, boxes[0].Line!.Value.Color, Math.Round(boxes[0].Padding))
        );
        Assert.Equal(
            (144.0, 50.0, 20.0),
            (Math.Round(boxes[1].Width), Math.Round(boxes[1].Place!.Value.X), Math.Round(boxes[1].Place!.Value.Y))
        );
    }

    [Fact]
    public void Sections_become_columns_and_page_breaks_and_the_report_finds_its_place()
    {
        var (design, report) = Read(
            P(R("Zero"), $"<w:sectPr>{Letter}</w:sectPr>")
                + P(R("One") + "<w:r><w:br w:type=\"column\"/></w:r>" + R("Two"))
                + P("<w:ins>" + R("Three") + "</w:ins><w:r><w:sym w:font=\"Unknown\" w:char=\"F0AA\"/></w:r>")
                + P(
                    R("Four"),
                    $"<w:sectPr><w:type w:val=\"continuous\"/>{Letter}<w:cols w:num=\"3\" w:space=\"400\" w:sep=\"1\"/></w:sectPr>"
                )
                + P(R("Five"))
                + $"<w:sectPr><w:type w:val=\"nextPage\"/>{Letter}</w:sectPr><!--</w:body>-->"
        );
        Assert.Equal(
            ["Zero", "[columns]", "One", "[page break]", "Two", "Three", "Four", "[page break]", "Five"],
            LetterText.Lines(design)
        );
        var columns = One<Columns>(design);
        Assert.Equal((3, 20.0, true), (columns.Count, Math.Round(columns.Gap), columns.Line));
        Assert.Equal(1, Assert.Single(report, l => l.Text.Contains("Unknown")).Block);
    }

    [Fact]
    public void Footnotes_have_their_placeholders_and_formatting()
    {
        var notes =
            $"<w:footnotes><w:footnote w:id=\"-1\" w:type=\"separator\">{P("")}</w:footnote><w:footnote w:id=\"3\">"
            + P("<w:r><w:footnoteRef/></w:r>" + R(" See ") + R("{{Ci", "<w:i/>") + R("ty}}", "<w:i/>") + Code("MERGEFIELD Level", "x"))
            + "</w:footnote></w:footnotes>";
        var (design, report) = Read(
            P(
                R("Noted")
                    + "<w:r><w:rPr><w:vertAlign w:val=\"superscript\"/></w:rPr><w:footnoteReference w:id=\"3\"/></w:r>"
                    + R("{{State}}")
            ),
            new MadeDocx().Part("footnotes", "footnotes.xml", notes)
        );
        Assert.Equal(["Noted[footnote: See {City}{Level}]{State}"], LetterText.Lines(design));
        var note = Assert.IsType<NoteInline>(One<Paragraph>(design).Inlines[1]);
        Assert.True(Assert.IsType<Paragraph>(note.Blocks[0]).Inlines.OfType<FieldInline>().First().Style.Italic);
        Assert.DoesNotContain(report, l => l.Carried == Carried.Different && l.Text.Contains("footnote"));
    }

    [Fact]
    public void Typed_placeholders_in_what_a_condition_prints_are_fields()
    {
        var placed = Brought.Place(
            P(
                Begin
                    + Instruction(" IF ")
                    + Code("MERGEFIELD Level", "x")
                    + Instruction(" = \"Patron\" \"Thank you, {{First name}}, of {{City}}\" \"Join us, {{Last name}}\" ")
                    + Middle
                    + R("Thank you")
                    + End
            )
        );
        Assert.Equal(
            ["{when Level = \"Patron\"}Thank you, {First name}, of {City}{otherwise}Join us, {Last name}{end}"],
            Brought.Lines(placed)
        );
        Assert.Contains(placed.Placeholders, p => p.Name == "Last name");
    }

    [Fact]
    public void A_box_in_a_cell_has_no_place_of_the_page_and_deep_boxes_end()
    {
        var cell =
            "<w:tbl><w:tr><w:tc>"
            + P(Anchor(Offset("page", 10), Offset("page", 10), Free, 50, 20, Shape(Red, "In a cell")) + R("Cell"))
            + "</w:tc></w:tr></w:tbl>";
        var (design, _) = Read(cell + P(R("End")));
        var box = Assert.Single(One<Table>(design).Rows[0].Cells[0].Blocks.OfType<Box>());
        Assert.Null(box.Place);
        var deep = P(R("bottom"));
        for (var i = 0; i < 30; i++)
            deep = P(
                "<w:r><w:pict><v:rect style=\"width:90pt;height:9pt\"><v:textbox>"
                    + $"<w:txbxContent>{deep}</w:txbxContent></v:textbox></v:rect></w:pict></w:r>"
            );
        var (_, report) = Read(deep);
        Assert.Contains(report, l => l.Carried == Carried.Left);
    }
}
