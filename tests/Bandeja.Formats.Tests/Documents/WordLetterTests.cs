using System.Text;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using static Bandeja.Formats.Tests.Documents.MadeDocx;

namespace Bandeja.Formats.Tests.Documents;

public class WordLetterTests
{
    const string Styles =
        "<w:styles><w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:asciiTheme=\"minorHAnsi\"/><w:sz w:val=\"22\"/></w:rPr></w:rPrDefault>"
        + "<w:pPrDefault><w:pPr><w:spacing w:after=\"160\" w:line=\"259\" w:lineRule=\"auto\"/></w:pPr></w:pPrDefault></w:docDefaults>"
        + "<w:style w:type=\"paragraph\" w:default=\"1\" w:styleId=\"N\"><w:name w:val=\"Normal\"/></w:style>"
        + "<w:style w:type=\"paragraph\" w:styleId=\"H\"><w:name w:val=\"heading 1\"/><w:basedOn "
        + "w:val=\"N\"/><w:pPr><w:keepNext/><w:outlineLvl w:val=\"0\"/></w:pPr><w:rPr><w:b/><w:color w:val=\"1E5B4A\"/><w:sz "
        + "w:val=\"32\"/></w:rPr></w:style>"
        + "<w:style w:type=\"paragraph\" w:styleId=\"Q\"><w:name w:val=\"Quote\"/><w:basedOn w:val=\"N\"/><w:pPr><w:ind "
        + "w:left=\"720\"/><w:jc w:val=\"both\"/></w:pPr><w:rPr><w:i/></w:rPr></w:style>"
        + "<w:style w:type=\"character\" w:styleId=\"Em\"><w:name w:val=\"Emphasis\"/><w:rPr><w:i/></w:rPr></w:style>"
        + "<w:style w:type=\"table\" w:styleId=\"Grid\"><w:name w:val=\"Grid\"/><w:tblPr><w:tblBorders><w:top "
        + "w:val=\"single\" w:color=\"445566\"/><w:left w:val=\"single\" w:color=\"445566\"/><w:bottom w:val=\"single\" "
        + "w:color=\"445566\"/><w:right w:val=\"single\" w:color=\"445566\"/><w:insideH "
        + "w:val=\"single\" w:color=\"445566\"/><w:insideV w:val=\"single\" w:color=\"445566\"/></w:tblBorders></w:tblPr>"
        + "<w:tblStylePr w:type=\"firstRow\"><w:rPr><w:b/></w:rPr><w:tcPr><w:shd w:val=\"clear\" "
        + "w:fill=\"DDEEDD\"/></w:tcPr></w:tblStylePr></w:style></w:styles>";

    const string Theme =
        "<a:theme><a:themeElements><a:fontScheme><a:majorFont><a:latin typeface=\"Cambria\"/></a:majorFont><a:minorFont><a:latin "
        + "typeface=\"Calibri\"/></a:minorFont></a:fontScheme></a:themeElements></a:theme>";

    static MadeDocx Styled() => new MadeDocx().Part("styles", "styles.xml", Styles).Part("theme", "theme/theme1.xml", Theme);

    static LetterDesign Letter(MadeDocx made) => LetterReader.Read(Placing.Of(Brought.Read(made.File()).Document, Brought.Members).Letter);

    [Theory]
    [InlineData(Transitional, "12240", "15840", "1440")]
    [InlineData(Strict, "8.5in", "11in", "1in")]
    public void The_sheet_and_its_margins_are_read_in_both_forms_of_the_standard(string form, string width, string height, string margin)
    {
        var letter = Letter(
            new MadeDocx { Namespace = form }
                .Body(P(R("Text")))
                .Body(
                    $"<w:sectPr><w:pgSz w:w=\"{width}\" w:h=\"{height}\"/><w:pgMar w:top=\"{margin}\" w:right=\"{margin}\" "
                        + $"w:bottom=\"{margin}\" w:left=\"{margin}\" w:header=\"720\" w:footer=\"720\"/></w:sectPr>"
                )
        );
        Assert.Equal((612, 792), (Math.Round(letter.Page.Width), Math.Round(letter.Page.Height)));
        Assert.Equal(72, letter.Page.Left, 0.1);
    }

    [Fact]
    public void Styles_inherit_and_direct_formatting_wins()
    {
        var letter = Letter(
            Styled()
                .Body(P(R("Title"), "<w:pStyle w:val=\"H\"/>"))
                .Body(P(R("Plain ") + R("bold", "<w:b/>") + R(" emphasized", "<w:rStyle w:val=\"Em\"/>")))
                .Body(
                    P(R("Quoted ") + R("upright", "<w:rStyle w:val=\"Em\"/>") + R(" off", "<w:i w:val=\"0\"/>"), "<w:pStyle w:val=\"Q\"/>")
                )
        );
        var (title, plain, quote) = ((Paragraph)letter.Blocks[0], (Paragraph)letter.Blocks[1], (Paragraph)letter.Blocks[2]);
        Assert.Equal((1, true), (title.Style.Heading, title.Style.KeepWithNext));
        Assert.Equal(
            ("Carlito", 16, true, "1e5b4a"),
            (title.Inlines[0].Style.Family, title.Inlines[0].Style.Size, title.Inlines[0].Style.Bold, title.Inlines[0].Style.Color)
        );
        Assert.Equal(("Carlito", 11), (plain.BaseStyle.Family, plain.BaseStyle.Size));
        Assert.Equal([(false, false), (true, false), (false, true)], plain.Inlines.Select(i => (i.Style.Bold, i.Style.Italic)));
        // Two styles that both switch italics on cancel out; direct formatting does not.
        Assert.Equal([true, false], quote.Inlines.Select(i => i.Style.Italic));
        Assert.Equal((TextAlign.Justify, 36.0), (quote.Style.Align, Math.Round(quote.Style.Indent)));
        Assert.Equal(8, plain.Style.SpaceAfter);
        Assert.Equal(259 / 240.0 * 1.2207, plain.Style.LineSpacing, 0.001);
    }

    [Fact]
    public void Lists_have_their_levels_and_numbers_as_they_print()
    {
        static string Level(int i, string format, string text, int left) =>
            $"<w:lvl w:ilvl=\"{i}\"><w:start w:val=\"1\"/><w:numFmt w:val=\"{format}\"/><w:lvlText w:val=\"{text}\"/><w:pPr><w:ind "
            + $"w:left=\"{left}\" w:hanging=\"360\"/></w:pPr></w:lvl>";
        var numbering =
            "<w:numbering><w:abstractNum "
            + $"w:abstractNumId=\"0\">{Level(0, "decimal", "%1.", 720)}{Level(1, "decimal", "%1.%2", 1440)}"
            + $"{Level(2, "lowerRoman", "(%3)", 2160)}</w:abstractNum>"
            + $"<w:abstractNum w:abstractNumId=\"1\">{Level(0, "bullet", "\uF0B7", 720)}</w:abstractNum>"
            + "<w:num w:numId=\"1\"><w:abstractNumId w:val=\"0\"/></w:num><w:num w:numId=\"2\"><w:abstractNumId "
            + "w:val=\"1\"/></w:num></w:numbering>";
        static string Item(string text, int id, int level) =>
            P(R(text), $"<w:numPr><w:ilvl w:val=\"{level}\"/><w:numId w:val=\"{id}\"/></w:numPr>");
        var made = new MadeDocx()
            .Part("numbering", "numbering.xml", numbering)
            .Body(Item("one", 1, 0) + Item("two", 1, 0) + Item("two one", 1, 1) + Item("deep", 1, 2) + Item("two two", 1, 1))
            .Body(P(R("between")))
            .Body(Item("three", 1, 0) + Item("dot", 2, 0));
        var letter = Letter(made);
        var page = new BoundLetter(letter, [], Core.Language.OrganizationLocale.UnitedStates, Made.Fonts)
            .Composer(new DateOnly(2027, 3, 12))
            .Compose(new Core.Lists.ArrayRow([]), 1)
            .Pages.Single();
        var labels = page.Flat()
            .OfType<LineItem>()
            .Select(l => string.Concat(l.Line.Runs.SelectMany(r => r.Words).Select(w => w.Text)))
            .ToList();
        Assert.Equal(
            ["1.", "one", "2.", "two", "2.1", "two one", "(i)", "deep", "2.2", "two two", "between", "3.", "three", "•", "dot"],
            labels
        );
        var x = page.Flat().OfType<LineItem>().First(l => l.Line.Runs[0].Words[0].Text == "one").X;
        Assert.Equal(letter.Page.Left + 36, x, 0.1);
    }

    [Fact]
    public void Tables_keep_widths_merged_cells_lines_and_repeated_headings()
    {
        static string Cell(string text, string properties = "") => $"<w:tc><w:tcPr>{properties}</w:tcPr>{P(R(text))}</w:tc>";
        var table =
            "<w:tbl><w:tblPr><w:tblStyle w:val=\"Grid\"/><w:tblLook w:firstRow=\"1\"/></w:tblPr><w:tblGrid><w:gridCol "
            + "w:w=\"2000\"/><w:gridCol w:w=\"3000\"/><w:gridCol w:w=\"1000\"/></w:tblGrid>"
            + $"<w:tr><w:trPr><w:tblHeader/></w:trPr>{Cell("A")}{Cell("B", "<w:gridSpan w:val=\"2\"/>")}</w:tr>"
            + $"<w:tr>{Cell("tall", "<w:vMerge w:val=\"restart\"/>")}"
            + $"{Cell("x", "<w:shd w:fill=\"FFEEDD\"/><w:vAlign w:val=\"center\"/>")}{Cell("y")}</w:tr>"
            + $"<w:tr>{Cell("", "<w:vMerge/>")}{Cell("z")}{Cell("w")}</w:tr></w:tbl>";
        var read = (Table)Letter(Styled().Body(table)).Blocks[0];
        Assert.Equal([100, 150, 50], read.Columns.Select(c => Math.Round(c)));
        Assert.Equal((TableLines.All, "445566"), (read.Lines, read.LineColor));
        Assert.True(read.Rows[0].IsHeading);
        Assert.Equal((2, "ddeedd"), (read.Rows[0].Cells[1].ColumnSpan, read.Rows[0].Cells[1].Shade));
        Assert.True(((Paragraph)read.Rows[0].Cells[0].Blocks[0]).Inlines[0].Style.Bold);
        Assert.Equal(2, read.Rows[1].Cells[0].RowSpan);
        Assert.Equal(("ffeedd", CellAlign.Middle), (read.Rows[1].Cells[1].Shade, read.Rows[1].Cells[1].Align));
        Assert.Equal(2, read.Rows[2].Cells.Count);
    }

    [Fact]
    public void Sections_keep_their_sheets_orientation_and_margins()
    {
        static string Section(int width, int height, int left, string type = "nextPage") =>
            $"<w:sectPr><w:type w:val=\"{type}\"/><w:pgSz w:w=\"{width}\" w:h=\"{height}\"/>"
            + $"<w:pgMar w:top=\"1440\" w:right=\"1440\" w:bottom=\"1440\" w:left=\"{left}\"/></w:sectPr>";
        static string Ends(string text, string section) => P(R(text), section);
        var made = Styled()
            .Body(Ends("upright", Section(12240, 15840, 1440)))
            .Body(Ends("across", Section(15840, 12240, 720)))
            .Body(Ends("upright again", Section(12240, 15840, 1440)))
            .Body(Ends("as before", Section(12240, 15840, 1440)))
            .Body(Ends("other margin, same page", Section(12240, 15840, 2880, "continuous")))
            .Body(P(R("another sheet")) + Section(11906, 16838, 1440, "continuous"));
        var letter = Letter(made);
        var turns = letter.Blocks.OfType<PageBreak>().ToList();
        Assert.Equal(
            [(792, 612, 36), (612, 792, 72), null, (595, 842, 72)],
            turns.Select(t =>
                t.Page is { } p ? ((double, double, double)?)(Math.Round(p.Width), Math.Round(p.Height), Math.Round(p.Left)) : null
            )
        );
        var pages = new BoundLetter(letter, [], Core.Language.OrganizationLocale.UnitedStates, Made.Fonts)
            .Composer(new DateOnly(2027, 3, 12))
            .Compose(new Core.Lists.ArrayRow([]), 1)
            .Pages;
        Assert.Equal(
            [
                (612, 792, "upright"),
                (792, 612, "across"),
                (612, 792, "upright again"),
                (612, 792, "as before\nother margin, same page"),
                (595, 842, "another sheet"),
            ],
            pages.Select(p => (Math.Round(p.Width), Math.Round(p.Height), p.Text()))
        );
        Assert.Contains(Brought.Read(made.File()).Document.Report, l => l.Text.Contains("margins change here in the middle of a page"));
    }

    [Fact]
    public void Cells_keep_lines_of_their_own()
    {
        static string Cell(string text, string borders = "") => $"<w:tc><w:tcPr>{borders}</w:tcPr>{P(R(text))}</w:tc>";
        const string line = "w:val=\"single\" w:sz=\"4\" w:color=\"000000\"";
        var all = string.Concat(((string[])["top", "left", "bottom", "right", "insideH", "insideV"]).Select(s => $"<w:{s} {line}/>"));
        const string heavy = "<w:tcBorders><w:top w:val=\"double\" w:sz=\"12\" w:color=\"AA0000\"/><w:left w:val=\"nil\"/></w:tcBorders>";
        var made = Styled()
            .Body(
                $"<w:tbl><w:tblPr><w:tblBorders>{all}</w:tblBorders></w:tblPr><w:tblGrid><w:gridCol w:w=\"2000\"/><w:gridCol w:w=\"2000\"/>"
                    + $"</w:tblGrid><w:tr>{Cell("a")}{Cell("b")}</w:tr><w:tr>{Cell("total", heavy)}{Cell("9")}</w:tr></w:tbl>"
            );
        var table = (Table)Letter(made).Blocks[0];
        Assert.Equal(TableLines.All, table.Lines);
        Assert.Null(table.Rows[0].Cells[1].Lines);
        var total = table.Rows[1].Cells[0].Lines!;
        Assert.Equal((new CellLine(1.5, "aa0000"), null), (total.Top, total.Left));
        Assert.Equal(new CellLine(0.5, "000000"), total.Bottom);
        Assert.Contains(Brought.Read(made.File()).Document.Report, l => l.Text.StartsWith("Double, dashed"));
    }

    [Fact]
    public void Headers_footers_page_numbers_and_the_first_page_come_over()
    {
        var made = new MadeDocx()
            .Part("header", "header1.xml", $"<w:hdr>{P(R("Usual"))}</w:hdr>", "h1")
            .Part("header", "header2.xml", $"<w:hdr>{P(R("First"))}</w:hdr>", "h2")
            .Part("footer", "footer1.xml", $"<w:ftr>{P(R("Page ") + Code("PAGE", "1") + R(" of ") + Code("NUMPAGES", "3"))}</w:ftr>", "f1")
            .Body(P(R("Text")))
            .Body(
                "<w:sectPr><w:headerReference w:type=\"default\" r:id=\"h1\"/><w:headerReference w:type=\"first\" "
                    + "r:id=\"h2\"/><w:footerReference w:type=\"default\" r:id=\"f1\"/><w:titlePg/></w:sectPr>"
            );
        Assert.Equal(["First", "Usual", "Text", "Page {Page number} of {Page count}"], LetterText.Lines(Letter(made)));
    }

    [Fact]
    public void Headers_of_even_pages_come_over_and_leave_again()
    {
        var letter = Letter(
            Styled()
                .Part("header", "h1.xml", $"<w:hdr>{P(R("Odd"))}</w:hdr>", "odd")
                .Part("header", "h2.xml", $"<w:hdr>{P(R("Even {{City}}"))}</w:hdr>", "even")
                .Part("settings", "settings.xml", "<w:settings><w:evenAndOddHeaders/></w:settings>")
                .Body(P(R("x")))
                .Body(
                    "<w:sectPr><w:headerReference w:type=\"default\" r:id=\"odd\"/><w:headerReference w:type=\"even\" "
                        + "r:id=\"even\"/></w:sectPr>"
                )
        );
        Assert.Equal("Odd", Assert.IsType<TextInline>(Assert.IsType<Paragraph>(letter.Head.Header[0]).Inlines[0]).Text);
        Assert.Equal("City", Assert.IsType<FieldInline>(Assert.IsType<Paragraph>(letter.Head.EvenHeader![0]).Inlines[1]).Source);
        Assert.Empty(letter.Head.EvenFooter!);
    }

    [Fact]
    public void Pictures_are_cut_turned_and_put_in_their_place()
    {
        var png = Made.Png(40, 20);
        const string place =
            "<wp:positionH relativeFrom=\"page\"><wp:posOffset>127000</wp:posOffset></wp:positionH>"
            + "<wp:positionV relativeFrom=\"margin\"><wp:posOffset>0</wp:posOffset></wp:positionV><wp:wrapNone/>";
        string Drawing(string frame, string inner, string crop = "", string turn = "") =>
            $"<w:drawing><wp:{frame}><wp:extent cx=\"1270000\" cy=\"635000\"/><wp:docPr id=\"1\" name=\"p\" "
            + $"descr=\"Emblem\"/>{inner}<a:graphic><a:graphicData><pic:pic><pic:blipFill><a:blip "
            + $"r:embed=\"img\"/>{crop}</pic:blipFill><pic:spPr><a:xfrm{turn}><a:ext cx=\"1270000\" "
            + $"cy=\"635000\"/></a:xfrm></pic:spPr></pic:pic></a:graphicData></a:graphic></wp:{frame}></w:drawing>";
        var made = new MadeDocx()
            .Bytes("image", "media/image1.png", png, "img")
            .Body(P($"<w:r>{Drawing("inline", "")}</w:r>", "<w:jc w:val=\"center\"/>"))
            .Body(P(R("In ") + $"<w:r>{Drawing("inline", "", "<a:srcRect l=\"50000\"/>", " rot=\"5400000\"")}</w:r>" + R(" line")))
            .Body(P(R("Behind") + $"<w:r>{Drawing("anchor", place).Replace("<wp:anchor>", "<wp:anchor behindDoc=\"1\">")}</w:r>"))
            .Body("<w:sectPr><w:pgMar w:top=\"1440\" w:left=\"1440\" w:right=\"1440\" w:bottom=\"1440\"/></w:sectPr>");
        var read = Brought.Read(made.File());
        Assert.Equal(2, read.Pictures.Count);
        var letter = LetterReader.Read(Placing.Of(read.Document, Brought.Members).Letter);
        var block = Assert.IsType<Picture>(letter.Blocks[0]);
        Assert.Equal((TextAlign.Center, 100, "Emblem"), (block.Align, Math.Round(block.Box.Width), block.Box.Alt));
        var inline = ((Paragraph)letter.Blocks[1]).Inlines.OfType<PictureInline>().Single();
        Assert.Equal(0.5, inline.Box.Width / inline.Box.Height, 0.01);
        var cut = SkiaSharp.SKBitmap.Decode(read.Pictures[1].Data);
        Assert.Equal((20, 20), (cut.Width, cut.Height));
        var placed = letter.Blocks.OfType<Picture>().Single(p => p.Place is not null);
        Assert.Equal((10, 72), (Math.Round(placed.Place!.Value.X), Math.Round(placed.Place.Value.Y)));
    }

    [Fact]
    public void What_looks_different_or_is_excluded_has_a_line_that_leads_to_its_place()
    {
        var made = Styled()
            .Part(
                "comments",
                "comments.xml",
                $"<w:comments><w:comment w:id=\"7\" w:author=\"Tomás\">{P(R("Check this"))}</w:comment></w:comments>"
            )
            .Part(
                "footnotes",
                "footnotes.xml",
                $"<w:footnotes><w:footnote w:id=\"2\">{P(R("The small print."))}</w:footnote></w:footnotes>"
            )
            .Relation("image", "https://example.org/x.png", "far", external: true)
            .Relation("hyperlink", "file:///etc/passwd", "bad", external: true)
            .Relation("hyperlink", "https://example.org/", "good", external: true)
            .Other("word/vbaProject.bin", "x")
            .Body(P(R("Zero")))
            .Body(P("<w:commentRangeStart w:id=\"7\"/>" + R("One") + "<w:r><w:footnoteReference w:id=\"2\"/></w:r>"))
            .Body(P("<w:ins>" + R("new") + "</w:ins><w:del><w:r><w:delText>old</w:delText></w:r></w:del>"))
            .Body(
                P(
                    "<w:r><w:drawing><wp:inline><wp:extent cx=\"1\" "
                        + "cy=\"1\"/><a:graphic><a:graphicData><pic:pic><pic:blipFill><a:blip "
                        + "r:link=\"far\"/></pic:blipFill></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>"
                )
            )
            .Body(
                P("<w:hyperlink r:id=\"bad\">" + R("here") + "</w:hyperlink> <w:hyperlink r:id=\"good\">" + R("there") + "</w:hyperlink>")
            )
            .Body(
                P(
                    "<w:r><mc:AlternateContent><mc:Choice><w:drawing><wp:anchor><a:graphic><a:graphicData><wps:wsp><wps:txbx>"
                        + "<w:txbxContent>"
                        + P(R("Boxed {{City}}"))
                        + "</w:txbxContent></wps:txbx></wps:wsp></a:graphicData></a:graphic></wp:anchor></w:drawing></mc:Choice>"
                        + "<mc:Fallback><w:pict><v:shape><v:textbox><w:txbxContent>"
                        + P(R("Boxed twice"))
                        + "</w:txbxContent></v:textbox></v:shape></w:pict></mc:Fallback></mc:AlternateContent></w:r>"
                )
            );
        var read = Brought.Read(made.File());
        var report = read.Document.Report;
        ReportLine Line(string part) => Assert.Single(report, l => l.Text.Contains(part));
        Assert.Equal((Carried.Left, 1), (Line("Check this").Carried, Line("Check this").Block));
        Assert.Contains("2 tracked changes", Line("tracked").Text);
        Assert.Equal(3, Line("linked picture").Block);
        Assert.Equal(4, Line("file:///etc/passwd").Block);
        Assert.Contains("1 text box, 1 footnote", Line("paragraphs").Text);
        Assert.Equal(Carried.Left, Line("macros").Carried);
        Assert.Contains("same widths", Line("Calibri").Text);
        var lines = LetterText.Lines(LetterReader.Read(Placing.Of(read.Document, Brought.Members).Letter));
        Assert.Equal(["Zero", "One[footnote: The small print.]", "new", "", "herethere", "[box]", "Boxed {City}", ""], lines);
        Assert.Contains("https://example.org/", read.Document.Letter);
        Assert.DoesNotContain("passwd", read.Document.Letter);
    }

    [Fact]
    public void Borders_shading_tabs_and_page_breaks_come_over()
    {
        var letter = Letter(
            new MadeDocx()
                .Body(
                    P(
                        R("Framed"),
                        "<w:pBdr><w:top w:val=\"single\" w:sz=\"8\" w:color=\"AA0000\"/><w:bottom w:val=\"single\" "
                            + "w:sz=\"8\"/></w:pBdr><w:shd w:fill=\"F0F0F0\"/>"
                    )
                )
                .Body(
                    P(
                        R("Sum") + "<w:r><w:tab/></w:r>" + R("12.50"),
                        "<w:tabs><w:tab w:val=\"decimal\" w:leader=\"dot\" w:pos=\"4320\"/></w:tabs>"
                    )
                )
                .Body(P(R("Before") + "<w:r><w:br w:type=\"page\"/></w:r>" + R("After")))
                .Body(P(R("Own page"), "<w:pageBreakBefore/>"))
        );
        var framed = ((Paragraph)letter.Blocks[0]).Style;
        Assert.Equal(
            ("f0f0f0", Sides.Top | Sides.Bottom, 1.0, "aa0000"),
            (framed.Shade, framed.Border!.Sides, framed.Border.Width, framed.Border.Color)
        );
        var tab = ((Paragraph)letter.Blocks[1]).Style.Tabs!.Single();
        Assert.Equal((216, TabKind.Decimal, TabLeader.Dots), (Math.Round(tab.At), tab.Kind, tab.Leader));
        Assert.Equal(
            [typeof(Paragraph), typeof(PageBreak), typeof(Paragraph), typeof(PageBreak), typeof(Paragraph)],
            letter.Blocks.Skip(2).Select(b => b.GetType())
        );
    }

    [Fact]
    public void A_watermark_of_a_header_becomes_the_letters()
    {
        var made = new MadeDocx()
            .Part(
                "header",
                "header1.xml",
                "<w:hdr>"
                    + P(
                        "<w:r><w:pict><v:shape style=\"rotation:315\" fillcolor=\"#C0C0C0\"><v:textpath "
                            + "string=\"DRAFT\"/></v:shape></w:pict></w:r>"
                    )
                    + "</w:hdr>",
                "h1"
            )
            .Body(P(R("Text")) + "<w:sectPr><w:headerReference w:type=\"default\" r:id=\"h1\"/></w:sectPr>");
        var mark = Letter(made).Head.Watermark!;
        Assert.Equal(("DRAFT", 45.0, "c0c0c0"), (mark.Text, mark.Angle, mark.Color));
    }

    [Fact]
    public void What_cannot_be_read_says_why_and_what_to_do()
    {
        static string Refusal(byte[] file, string name = "x.docx") =>
            Assert.Throws<DocumentException>(() => Brought.Read(file, name)).Message;
        var compound = new byte[2048];
        new byte[] { 0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1 }.CopyTo(compound, 0);
        Assert.Contains("old binary format", Refusal(compound));
        Encoding.Unicode.GetBytes("EncryptedPackage").CopyTo(compound, 1024);
        Assert.Contains("locked with a password", Refusal(compound));
        Assert.Contains("RTF", Refusal("{\\rtf1 x}"u8.ToArray()));
        Assert.Contains("is a PDF", Refusal("%PDF-1.7"u8.ToArray()));
        Assert.Contains("empty", Refusal([]));
        Assert.Contains("damaged", Refusal("PK\u0003\u0004 nothing"u8.ToArray()));
        Assert.Contains("damaged", Refusal(new MadeDocx().Body("<w:p>").File()));
        Assert.Contains(
            "nested more than",
            Refusal(
                new MadeDocx()
                    .Body(string.Concat(Enumerable.Repeat("<w:sdt>", 5000)) + string.Concat(Enumerable.Repeat("</w:sdt>", 5000)))
                    .File()
            )
        );
        Assert.Contains("elements", Refusal(new MadeDocx().Body(string.Concat(Enumerable.Repeat("<w:p/>", 400_001))).File()));
        var bomb = new MadeDocx().Body(P(R("x")));
        bomb.Other("word/styles.xml", "x").Bytes("styles", "styles.xml", new byte[300 << 20]);
        Assert.Contains("unpacks to more than", Refusal(bomb.File()));
        // An entity that would unfold is refused with its declaration.
        var entity = new MadeDocx()
            .Body(P(R("x")))
            .Bytes("styles", "styles.xml", "<!DOCTYPE x [<!ENTITY a \"aaaa\">]><x>&a;</x>"u8.ToArray());
        Assert.Contains("damaged", Refusal(entity.File()));
    }

    [Fact]
    public void Deep_tables_and_codes_are_cut_off_and_told()
    {
        var tables = P(R("inside"));
        for (var i = 0; i < 40; i++)
            tables = $"<w:tbl><w:tr><w:tc>{tables}{P("")}</w:tc></w:tr></w:tbl>";
        Assert.Contains(Brought.Read(tables).Document.Report, l => l.Text.Contains("nested more than"));
        var codes = string.Concat(Enumerable.Repeat(Begin + Instruction("IF "), 200)) + R("x");
        Assert.Contains(
            Brought.Read(P(codes) + P(R("after"))).Document.Report,
            l => l.Text.Contains("nested more than") || l.Text.Contains("without an end")
        );
    }
}
