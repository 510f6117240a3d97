using System.IO.Compression;
using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Formats.Documents;

namespace Bandeja.Formats.Tests.Documents;

public class OdtLetterTests
{
    const string Spaces =
        "xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" xmlns:style=\"urn:oasis:names:tc:opendocument:xmlns:style:1.0\""
        + " xmlns:text=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\" xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\""
        + " xmlns:draw=\"urn:oasis:names:tc:opendocument:xmlns:drawing:1.0\" "
        + "xmlns:fo=\"urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0\""
        + " xmlns:svg=\"urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0\" xmlns:xlink=\"http://www.w3.org/1999/xlink\"";

    const string Sheet =
        "<office:styles><style:default-style style:family=\"paragraph\"><style:text-properties fo:font-family=\"Liberation Serif\""
        + " fo:font-size=\"12pt\"/></style:default-style><style:style style:name=\"Standard\" style:family=\"paragraph\">"
        + "<style:paragraph-properties fo:margin-bottom=\"0.2cm\"/></style:style>"
        + "<style:style style:name=\"Head\" style:family=\"paragraph\" style:parent-style-name=\"Standard\" "
        + "style:default-outline-level=\"1\">"
        + "<style:text-properties fo:font-size=\"150%\" fo:font-weight=\"bold\"/></style:style></office:styles>"
        + "<office:automatic-styles><style:page-layout style:name=\"pm\"><style:page-layout-properties fo:page-width=\"21cm\""
        + " fo:page-height=\"29.7cm\" fo:margin-top=\"2cm\" fo:margin-bottom=\"2cm\" fo:margin-left=\"2.5cm\" fo:margin-right=\"2.5cm\"/>"
        + "</style:page-layout></office:automatic-styles><office:master-styles><style:master-page style:name=\"Standard\""
        + " style:page-layout-name=\"pm\"><style:footer><text:p>Page <text:page-number>1</text:page-number></text:p></style:footer>"
        + "</style:master-page></office:master-styles>";

    static byte[] Odt(
        string body,
        string automatic = "",
        string manifest = "",
        string sheet = Sheet,
        params (string Path, byte[] Data)[] more
    )
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            void Add(string path, byte[] data)
            {
                using var stream = zip.CreateEntry(path).Open();
                stream.Write(data);
            }
            void Part(string path, string xml) => Add(path, Encoding.UTF8.GetBytes(xml));
            Part("mimetype", "application/vnd.oasis.opendocument.text");
            Part("META-INF/manifest.xml", $"<manifest:manifest xmlns:manifest=\"urn:x\">{manifest}</manifest:manifest>");
            Part("styles.xml", $"<office:document-styles {Spaces}>{sheet}</office:document-styles>");
            Part(
                "content.xml",
                "<office:document-content "
                    + $"{Spaces}><office:automatic-styles>{automatic}</office:automatic-styles><office:body><office:text>"
                    + $"{body}</office:text></office:body></office:document-content>"
            );
            foreach (var (path, data) in more)
                Add(path, data);
        }
        return memory.ToArray();
    }

    static (LetterDesign Letter, DocumentRead Read) Letter(byte[] file)
    {
        var read = Brought.Read(file, "letter.odt");
        return (LetterReader.Read(Placing.Of(read.Document, Brought.Members).Letter), read);
    }

    static IReadOnlyList<string> Lines(string body, string automatic = "") => LetterText.Lines(Letter(Odt(body, automatic)).Letter);

    [Fact]
    public void The_sheet_styles_and_headings_come_over()
    {
        var (letter, read) = Letter(
            Odt(
                "<text:h text:style-name=\"Head\" text:outline-level=\"1\">Title</text:h><text:p text:style-name=\"P1\">Plain <text:span"
                    + " text:style-name=\"T1\">bold</text:span><text:s text:c=\"3\"/>after<text:tab/>tab<text:line-break/>\n   "
                    + "line</text:p>",
                "<style:style style:name=\"P1\" style:family=\"paragraph\" style:parent-style-name=\"Standard\"><style:paragraph-properties"
                    + " fo:text-align=\"center\" fo:line-height=\"150%\"/></style:style><style:style style:name=\"T1\" "
                    + "style:family=\"text\">"
                    + "<style:text-properties fo:font-weight=\"bold\" fo:color=\"#aa0000\"/></style:style>"
            )
        );
        Assert.Equal(["Title", "Plain bold   after\ttab", "line", "Page {Page number}"], LetterText.Lines(letter));
        Assert.Equal((595, 842), (Math.Round(letter.Page.Width), Math.Round(letter.Page.Height)));
        var title = (Paragraph)letter.Blocks[0];
        Assert.Equal(
            (1, 18, true, "Tinos"),
            (title.Style.Heading, title.Inlines[0].Style.Size, title.Inlines[0].Style.Bold, title.Inlines[0].Style.Family)
        );
        var plain = (Paragraph)letter.Blocks[1];
        Assert.Equal(TextAlign.Center, plain.Style.Align);
        Assert.Equal(1.5 * 1.1499, plain.Style.LineSpacing, 0.001);
        Assert.Equal("aa0000", plain.Inlines[1].Style.Color);
        Assert.Contains(read.Document.Report, l => l.Text.Contains("Liberation Serif"));
    }

    [Fact]
    public void Database_fields_conditions_and_typed_placeholders_become_fields()
    {
        Assert.Equal(
            [
                "Dear {First name}, {when Level = \"Patron\"}thank you{otherwise}welcome{end}; {City} {Today | date long}",
                "Page {Page number}",
            ],
            Lines(
                "<text:p>Dear <text:database-display text:column-name=\"First_Name\">&lt;First&gt;</text:database-display>, "
                    + "<text:conditional-text text:condition=\"ooow:[db.members.Level] == &quot;Patron&quot;\" "
                    + "text:string-value-if-true=\"thank you\""
                    + " text:string-value-if-false=\"welcome\">welcome</text:conditional-text>; {{Ci<text:span>ty}}</text:span> "
                    + "<text:date>1/2/27</text:date></text:p>"
            )
        );
    }

    [Fact]
    public void Lists_tables_and_pictures_come_over()
    {
        var (letter, read) = Letter(
            Odt(
                "<text:list "
                    + "text:style-name=\"L\"><text:list-item><text:p>one</text:p><text:list><text:list-item>"
                    + "<text:p>inner</text:p></text:list-item>"
                    + "</text:list></text:list-item>"
                    + "<text:list-item><text:p>two</text:p></text:list-item></text:list>"
                    + "<table:table><table:table-column table:style-name=\"C\" "
                    + "table:number-columns-repeated=\"2\"/><table:table-header-rows><table:table-row>"
                    + "<table:table-cell "
                    + "table:number-columns-spanned=\"2\"><text:p>Visits</text:p></table:table-cell><table:covered-table-cell/>"
                    + "</table:table-row></table:table-header-rows>"
                    + "<table:table-row><table:table-cell><text:p>{{#each visits}}{{Visit "
                    + "date}}</text:p></table:table-cell><table:table-cell><text:p>{{Guests}}{{/each}}</text:p>"
                    + "</table:table-cell></table:table-row></table:table>"
                    + "<text:p><draw:frame svg:width=\"2cm\" svg:height=\"1cm\" text:anchor-type=\"as-char\"><draw:image "
                    + "xlink:href=\"Pictures/a.png\"/></draw:frame></text:p>"
                    + "<text:p><draw:frame svg:width=\"2cm\" svg:height=\"1cm\"><draw:image "
                    + "xlink:href=\"https://example.org/a.png\"/></draw:frame>x</text:p>",
                "<text:list-style style:name=\"L\"><text:list-level-style-number text:level=\"1\" style:num-format=\"1\" "
                    + "style:num-suffix=\".\"/>"
                    + "<text:list-level-style-number text:level=\"2\" style:num-format=\"a\" style:num-suffix=\")\"/></text:list-style>"
                    + "<style:style style:name=\"C\" style:family=\"table-column\"><style:table-column-properties "
                    + "style:column-width=\"4cm\"/></style:style>",
                more: ("Pictures/a.png", Made.Png(20, 10))
            )
        );
        var list = Assert.IsType<ItemList>(letter.Blocks[0]);
        Assert.Equal((true, 2), (list.Numbered, list.Items.Count));
        Assert.Equal(("lower-alpha", "%2)"), (((ItemList)list.Items[0][1]).Look.Style, ((ItemList)list.Items[0][1]).Look.Label));
        var table = Assert.IsType<Table>(letter.Blocks[1]);
        Assert.Equal((true, 2, "each Visits"), (table.Rows[0].IsHeading, table.Rows[0].Cells[0].ColumnSpan, table.Rows[1].Bracket));
        Assert.Equal(113, Math.Round(table.Columns[0]));
        Assert.Equal(57, Math.Round(Assert.IsType<Picture>(letter.Blocks[2]).Box.Width));
        Assert.Contains(read.Document.Report, l => l.Text.Contains("was not downloaded") && l.Block == 3);
    }

    static string Graphic(string properties) =>
        $"<style:style style:name=\"F\" style:family=\"graphic\"><style:graphic-properties {properties}/></style:style>";

    [Theory]
    [InlineData("style:wrap=\"parallel\" style:horizontal-pos=\"right\" style:horizontal-rel=\"paragraph\"", "paragraph", "", "Right")]
    [InlineData(
        "style:wrap=\"dynamic\" style:horizontal-pos=\"from-left\" style:horizontal-rel=\"paragraph\"",
        "paragraph",
        "svg:x=\"1cm\"",
        "Left"
    )]
    [InlineData(
        "style:wrap=\"run-through\" style:horizontal-pos=\"from-left\" style:horizontal-rel=\"page\" style:vertical-pos=\"from-top\" "
            + "style:vertical-rel=\"page\"",
        "page",
        "svg:x=\"1cm\" svg:y=\"2cm\"",
        "28;57"
    )]
    [InlineData("style:wrap=\"none\" style:horizontal-pos=\"center\" style:horizontal-rel=\"paragraph\"", "paragraph", "", "Center")]
    public void Frames_float_as_their_style_says(string style, string anchor, string at, string expected)
    {
        var (letter, _) = Letter(
            Odt(
                $"<text:p><draw:frame draw:style-name=\"F\" text:anchor-type=\"{anchor}\" {at} svg:width=\"4cm\"><draw:text-box "
                    + "fo:min-height=\"2cm\"><text:p>Sender {{City}}</text:p></draw:text-box></draw:frame>The text</text:p>",
                Graphic($"{style} fo:border=\"1pt solid #334455\" fo:background-color=\"#eeeeee\" fo:padding=\"0.2cm\"")
            )
        );
        var box = Assert.Single(letter.Blocks.OfType<Box>());
        Assert.Equal(("eeeeee", (1.0, "334455")), (box.Shade, box.Line));
        Assert.Equal((113, 57, 6), (Math.Round(box.Width), Math.Round(box.Height), Math.Round(box.Padding)));
        Assert.Equal(
            expected,
            box.Beside?.ToString() ?? (box.Place is { } p ? $"{Math.Round(p.X)};{Math.Round(p.Y)}" : box.Align.ToString())
        );
        Assert.Contains("Sender {City}", LetterText.Lines(letter));
    }

    [Fact]
    public void What_begins_on_another_page_layout_does_so_here()
    {
        const string layouts =
            "<style:page-layout style:name=\"wide\"><style:page-layout-properties fo:page-width=\"29.7cm\" fo:page-height=\"21cm\" "
            + "fo:margin-top=\"2cm\" fo:margin-bottom=\"2cm\" fo:margin-left=\"1cm\" fo:margin-right=\"1cm\"/></style:page-layout>";
        const string masters = "<style:master-page style:name=\"Wide\" style:page-layout-name=\"wide\"/>";
        var (letter, read) = Letter(
            Odt(
                "<text:p>One</text:p><text:p text:style-name=\"W\">Two</text:p><text:p text:style-name=\"S\">Three</text:p>",
                "<style:style style:name=\"W\" style:family=\"paragraph\" style:master-page-name=\"Wide\"/>"
                    + "<style:style style:name=\"S\" style:family=\"paragraph\" style:master-page-name=\"Standard\"/>",
                sheet: Sheet
                    .Replace("</office:automatic-styles>", $"{layouts}</office:automatic-styles>")
                    .Replace("</office:master-styles>", $"{masters}</office:master-styles>")
            )
        );
        Assert.Equal(
            ["Paragraph", "PageBreak 842", "Paragraph", "PageBreak 595", "Paragraph"],
            letter.Blocks.Select(b => b is PageBreak p ? $"PageBreak {Math.Round(p.Page!.Width)}" : b.GetType().Name)
        );
        Assert.Contains(read.Document.Report, l => l.Text.StartsWith("The headers or footers change here"));
    }

    [Fact]
    public void A_first_page_that_another_follows_has_its_own_headers()
    {
        const string masters =
            "<style:master-page style:name=\"Opening\" style:page-layout-name=\"pm\" style:next-style-name=\"Standard\">"
            + "<style:header><text:p>Letterhead</text:p></style:header></style:master-page>";
        var (letter, _) = Letter(
            Odt(
                "<text:p text:style-name=\"O\">One</text:p>",
                "<style:style style:name=\"O\" style:family=\"paragraph\" style:master-page-name=\"Opening\"/>",
                sheet: Sheet.Replace("</office:master-styles>", $"{masters}</office:master-styles>")
            )
        );
        Assert.Equal(["Letterhead", "One", "Page {Page number}"], LetterText.Lines(letter));
        Assert.Empty(letter.Head.FirstFooter!);
    }

    [Fact]
    public void Sections_with_columns_lines_of_tables_and_cut_pictures_come_over()
    {
        const string cell =
            "<table:table-row><table:table-cell table:style-name=\"C\"><text:p>x</text:p></table:table-cell></table:table-row>";
        var (letter, _) = Letter(
            Odt(
                "<text:section text:style-name=\"S\"><text:p>One</text:p><text:p>Two</text:p></text:section>"
                    + $"<table:table><table:table-column/>{cell}</table:table>"
                    + "<text:p><draw:frame draw:style-name=\"F\" text:anchor-type=\"as-char\" svg:width=\"2cm\" svg:height=\"1cm\">"
                    + "<draw:image xlink:href=\"Pictures/a.png\"/></draw:frame></text:p>",
                "<style:style style:name=\"S\" style:family=\"section\"><style:section-properties><style:columns fo:column-count=\"3\" "
                    + "fo:column-gap=\"1cm\"><style:column-sep/></style:columns></style:section-properties></style:style>"
                    + "<style:style style:name=\"C\" style:family=\"table-cell\"><style:table-cell-properties "
                    + "fo:border-bottom=\"0.5pt solid "
                    + "#000000\"/></style:style>"
                    + Graphic("fo:clip=\"rect(0cm, 1cm, 0cm, 1cm)\""),
                more: ("Pictures/a.png", Made.Png(80, 20))
            )
        );
        var columns = Assert.IsType<Columns>(letter.Blocks[0]);
        Assert.Equal((3, 28, true, 2), (columns.Count, Math.Round(columns.Gap), columns.Line, columns.Blocks.Count));
        Assert.Equal(TableLines.Rows, Assert.IsType<Table>(letter.Blocks[1]).Lines);
        Assert.Equal(2, Assert.IsType<Picture>(letter.Blocks[2]).Box.Width / Assert.IsType<Picture>(letter.Blocks[2]).Box.Height, 0.01);
    }

    [Fact]
    public void Notes_comments_and_text_boxes_are_reported_and_locked_files_refused()
    {
        var (letter, read) = Letter(
            Odt(
                "<text:p>Text<text:note><text:note-citation>1</text:note-citation><text:note-body><text:p>Small "
                    + "print</text:p></text:note-body></text:note>"
                    + "<office:annotation><text:p>Check this</text:p></office:annotation></text:p>"
                    + "<text:p><draw:frame><draw:text-box><text:p>Boxed</text:p></draw:text-box></draw:frame></text:p>"
            )
        );
        Assert.Equal(["Text[footnote: Small print]", "[box]", "Boxed", "Page {Page number}"], LetterText.Lines(letter));
        Assert.Contains(read.Document.Report, l => l.Text.Contains("Check this"));
        Assert.Contains(
            "locked with a password",
            Assert.Throws<DocumentException>(() => Letter(Odt("", "", "<manifest:encryption-data/>"))).Message
        );
    }
}
