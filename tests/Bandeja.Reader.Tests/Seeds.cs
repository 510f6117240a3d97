using System.Text;
using Bandeja.Formats.Tests;
using Microsoft.Data.Sqlite;
using SkiaSharp;

namespace Bandeja.Reader.Tests;

/// <summary>What a changed file is: how it is put together again, and who reads it.</summary>
enum SeedKind
{
    List,
    Picture,
    Report,
    Document,
    Typeface,
    Form,
}

/// <summary>A valid file to begin from.</summary>
/// <param name="Parts">For an archive its parts, by name; else one part without a name.</param>
sealed record Seed(string Name, SeedKind Kind, IReadOnlyList<(string Name, byte[] Content)> Parts)
{
    public bool IsArchive => Parts[0].Name.Length > 0;

    /// <summary>One of every format that comes in.</summary>
    public static IReadOnlyList<Seed> All(Made files) =>
        [
            One(
                "members.csv",
                "First,Last,ZIP,Joined,Gift\nAna,Reyes,02139,2026-01-05,12.50\n\"Zoë, M\",Ünal,97412,05/06/2026,\"1,250\"\n"
            ),
            One(
                "members.json",
                """[{"First": "Ana", "ZIP": "02139", "tags": ["a", "b"], "address": {"city": "Bend", "n": 5}}, {"First": null, "x": 1.5e3}]"""
            ),
            One("export.json", """{"made": {"by": "x", "on": 1}, "people": [{"First": "Ana", "ZIP": "02139"}, {"First": "Per"}]}"""),
            One("members.jsonl", "{\"First\": \"Ana\", \"ZIP\": \"02139\"}\n{\"First\": \"Per\", \"n\": [1, 2]}\n"),
            One(
                "members.vcf",
                "BEGIN:VCARD\r\nVERSION:3.0\r\nN:Reyes;Ana;;Dr.;\r\nFN:Ana Reyes\r\nADR;TYPE=home,pref:;;1 Elm St;Bend;OR;97701;USA\r\n"
                    + "NOTE;ENCODING=QUOTED-PRINTABLE;CHARSET=UTF-8:Z=C3=AB=\r\n "
                    + "b\r\nEND:VCARD\r\nBEGIN:VCARD\r\nVERSION:4.0\r\nFN:Per\r\nBDAY:19800102\r\nEND:VCARD\r\n"
            ),
            Archive(
                "members.xlsx",
                Made.XlsxParts(
                    Made.Of(
                        Made.Row(1, "First", "ZIP", "Gift")
                            + Made.Row(2, "Ana", "02139", "5")
                            + "<row r=\"3\"><c r=\"A3\"><v>1.5</v></c><c r=\"B3\" t=\"b\"><v>1</v></c><c r=\"C3\" "
                            + "t=\"e\"><v>#REF!</v></c></row>"
                    )
                )
            ),
            Archive("members.docx", Made.DocxParts(Made.Of("<w:p/>" + Made.Table(["First", "ZIP"], ["Ana", "02139"], ["Per", "97701"])))),
            Archive(
                "members.ods",
                Made.OdsParts(
                    Made.Of(
                        "<t:table-row><t:table-cell><x:p>First</x:p></t:table-cell><t:table-cell "
                            + "t:number-columns-repeated=\"2\"><x:p>Gift</x:p></t:table-cell></t:table-row>"
                            + "<t:table-row t:number-rows-repeated=\"3\"><t:table-cell o:value-type=\"float\" "
                            + "o:value=\"12.5\"><x:p>12.50</x:p></t:table-cell><t:table-cell/></t:table-row>"
                    )
                )
            ),
            new("members.sqlite", SeedKind.List, [("", Database(files))]),
            new("page.pdf", SeedKind.Picture, [("", Page())]),
            new(
                "plain.pdf",
                SeedKind.Picture,
                [("", Made.OnePage(Made.Latin("<</Length 24>>\nstream\n0 0 m 100 50 l S q Q   \nendstream")))]
            ),
            One(
                "drawing.svg",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 100 50\" width=\"100\"><defs><linearGradient id=\"g\"><stop "
                    + "offset=\"0\" stop-color=\"#f00\"/><stop offset=\"100%\" stop-color=\"rgb(0,0,255)\"/></linearGradient></defs><g "
                    + "transform=\"rotate(10) scale(2)\"><path id=\"p\" d=\"M 0 0 L 10 10 C 1 2 3 4 5 6 Z\" fill=\"url(#g)\" "
                    + "stroke=\"black\" "
                    + "stroke-dasharray=\"1 2\"/><use href=\"#p\" x=\"5\"/><circle r=\"5\"/></g></svg>",
                SeedKind.Picture
            ),
            new("photo.png", SeedKind.Picture, [("", Photo(SKEncodedImageFormat.Png))]),
            new("photo.jpg", SeedKind.Picture, [("", Photo(SKEncodedImageFormat.Jpeg))]),
            One(
                "report.eml",
                "From: mailer-daemon@example.org\r\nTo: bounces@example.org\r\nSubject: Returned\r\nMIME-Version: 1.0\r\nContent-Type: "
                    + "multipart/report; report-type=delivery-status; boundary=\"b\"\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nIt came "
                    + "back.\r\n--b\r\nContent-Type: message/delivery-status\r\n\r\nReporting-MTA: dns; "
                    + "mx.example.org\r\n\r\nFinal-Recipient: "
                    + "rfc822; ana@example.org\r\nAction: failed\r\nStatus: 5.1.1\r\nDiagnostic-Code: smtp; 550 no such "
                    + "user\r\n\r\n--b\r\nContent-Type: message/rfc822\r\n\r\nMessage-ID: <a@example.org>\r\nTo: "
                    + "ana@example.org\r\n\r\nHello\r\n--b--\r\n",
                SeedKind.Report
            ),
            Letter(),
            Text(),
            new("blocks.ttf", SeedKind.Typeface, [("", MadeFont.File())]),
            new("blocks.otf", SeedKind.Typeface, [("", MadeFont.File(postScript: true))]),
            new("form.pdf", SeedKind.Form, [("", Form())]),
        ];

    /// <summary>A form with a field of each kind, on a page that is turned and cut, with a stamp on it.</summary>
    static byte[] Form()
    {
        var made = new MadeForm { AcroForm = "/NeedAppearances true" }.Page(
            MadeForm.Text(50, 706, "Family name:") + "50 650 m 250 650 l S\n",
            "/MediaBox[0 0 612 792]/CropBox[10 10 600 780]/Rotate 90"
        );
        var look = made.Stream("/Type/XObject/Subtype/Form/BBox[0 0 10 10]", "0 0 10 10 re f");
        made.Annotation($"<</Type/Annot/Subtype/Stamp/F 4/Rect[100 100 200 200]/AP<</N {look} 0 R>>>>");
        made.Field("name", "120 700 280 720", "/FT/Tx/Ff 2/MaxLen 20/Q 1/DA(/Helv 9 Tf 1 0 0 rg)/V(Ana)/TU(Your name)")
            .Field("agree", "60 600 72 612", $"/FT/Btn/AP<</N<</Sure {look} 0 R/Off {look} 0 R>>>>/MK<</BC[0 0 1]/BG[1]/CA(8)>>/BS<</W 2>>")
            .Field("by", "10 560 110 580", "/FT/Ch/Ff 131072/Opt[[(chk)(Check)](Cash)]/V(chk)")
            .Field("on", "10 520 110 540", "/FT/Tx/AA<</F<</S/JavaScript/JS(AFDate_FormatEx\\(\"mm/dd/yyyy\"\\);)>>>>");
        var kid = made.Annotation("<</Type/Annot/Subtype/Widget/F 4/T(zip)/FT/Tx/Ff 16777216/MaxLen 5/Rect[10 480 110 500]>>");
        made.Root(made.Object($"<</T(address)/Kids[{kid} 0 R]>>"));
        return made.File();
    }

    /// <summary>A text of the open standard: frames that float, a footnote, columns, a list, a table, fields.</summary>
    static Seed Text()
    {
        const string spaces =
            "xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" "
            + "xmlns:style=\"urn:oasis:names:tc:opendocument:xmlns:style:1.0\" "
            + "xmlns:text=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\" "
            + "xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\" "
            + "xmlns:draw=\"urn:oasis:names:tc:opendocument:xmlns:drawing:1.0\" "
            + "xmlns:fo=\"urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0\" "
            + "xmlns:svg=\"urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0\" xmlns:xlink=\"http://www.w3.org/1999/xlink\"";
        const string styles =
            "<style:style style:name=\"F\" style:family=\"graphic\"><style:graphic-properties style:wrap=\"parallel\" "
            + "style:horizontal-pos=\"from-left\" style:horizontal-rel=\"page\" fo:border=\"1pt solid #334455\" "
            + "fo:clip=\"rect(0cm, 1mm, 0cm, 1mm)\"/></style:style><style:style style:name=\"S\" style:family=\"section\">"
            + "<style:section-properties><style:columns fo:column-count=\"3\" fo:column-gap=\"1cm\"/></style:section-properties>"
            + "</style:style><style:style style:name=\"P\" style:family=\"paragraph\"><style:paragraph-properties fo:break-before=\"page\" "
            + "fo:margin-left=\"1cm\"/><style:text-properties fo:font-size=\"150%\"/></style:style>";
        const string body =
            "<text:h text:outline-level=\"1\">Dear {{First name}}</text:h><text:p text:style-name=\"P\">a<text:s text:c=\"3\"/>b<text:tab/>"
            + "<text:note text:note-class=\"footnote\"><text:note-body><text:p>by {{City}}</text:p></text:note-body></text:note>"
            + "<text:database-display text:column-name=\"City\">x</text:database-display>"
            + "<text:conditional-text text:condition=\"ooow:Level == &quot;P&quot;\" text:string-value-if-true=\"yes\" "
            + "text:string-value-if-false=\"no\">no</text:conditional-text></text:p>"
            + "<text:p><draw:frame draw:style-name=\"F\" text:anchor-type=\"paragraph\" svg:x=\"2cm\" svg:width=\"3cm\" svg:height=\"1cm\" "
            + "draw:transform=\"rotate (0.5) translate (1cm 1cm)\"><draw:image xlink:href=\"Pictures/i.png\"/></draw:frame>"
            + "<draw:frame draw:style-name=\"F\" text:anchor-type=\"page\" svg:x=\"1cm\" svg:y=\"1cm\" svg:width=\"3cm\"><draw:text-box "
            + "fo:min-height=\"1cm\"><text:p>Boxed</text:p></draw:text-box></draw:frame></text:p>"
            + "<text:section text:style-name=\"S\"><text:p>one</text:p><text:list><text:list-item><text:p>item</text:p></text:list-item>"
            + "</text:list></text:section><table:table><table:table-column table:number-columns-repeated=\"2\"/><table:table-row>"
            + "<table:table-cell table:number-columns-spanned=\"2\"><text:p>cell</text:p></table:table-cell><table:covered-table-cell/>"
            + "</table:table-row></table:table>";
        (string, string)[] parts =
        [
            ("mimetype", "application/vnd.oasis.opendocument.text"),
            ("META-INF/manifest.xml", "<manifest:manifest xmlns:manifest=\"urn:x\"/>"),
            (
                "styles.xml",
                $"<office:document-styles {spaces}><office:automatic-styles><style:page-layout "
                    + "style:name=\"m\"><style:page-layout-properties "
                    + "fo:page-width=\"21cm\" fo:page-height=\"29.7cm\" "
                    + "fo:margin-left=\"2cm\"/></style:page-layout></office:automatic-styles>"
                    + "<office:master-styles><style:master-page style:name=\"Standard\" style:page-layout-name=\"m\"><style:footer><text:p>"
                    + "<text:page-number>1</text:page-number></text:p></style:footer></style:master-page></office:master-styles>"
                    + "</office:document-styles>"
            ),
            (
                "content.xml",
                "<office:document-content "
                    + $"{spaces}><office:automatic-styles>{styles}</office:automatic-styles><office:body><office:text>{body}"
                    + "</office:text></office:body></office:document-content>"
            ),
        ];
        return new(
            "letter.odt",
            SeedKind.Document,
            [.. parts.Select(p => (p.Item1, Encoding.UTF8.GetBytes(p.Item2))), ("Pictures/i.png", Photo(SKEncodedImageFormat.Png))]
        );
    }

    /// <summary>A letter of a word processor with a bit of everything: styles, lists, a table, codes within one another, a control, a
    /// picture
    /// that is cut and turned, a header, typed placeholders.</summary>
    static Seed Letter()
    {
        const string word = "xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\"";
        const string rels = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
        static string Run(string text, string look = "") => $"<w:r><w:rPr>{look}</w:rPr><w:t xml:space=\"preserve\">{text}</w:t></w:r>";
        static string Char(string type) => $"<w:r><w:fldChar w:fldCharType=\"{type}\"/></w:r>";
        static string Code(string text) => $"<w:r><w:instrText>{text}</w:instrText></w:r>";
        var body =
            $"<w:p><w:pPr><w:pStyle w:val=\"H\"/></w:pPr>{Run("Dear {{First", "<w:b/>")}{Run(" name}},")}</w:p>"
            + $"<w:p>{Char("begin")}{Code(" IF ")}{Char("begin")}{Code("MERGEFIELD Level \\* Upper")}"
            + $"{Char("separate")}{Run("x")}{Char("end")}"
            + $"{Code(" = \"P\" \"yes\" \"no\"")}{Char("separate")}{Run("no")}{Char("end")}</w:p>"
            + $"<w:p><w:pPr><w:numPr><w:ilvl w:val=\"1\"/><w:numId w:val=\"1\"/></w:numPr></w:pPr>{Run("item")}</w:p>"
            + "<w:sdt><w:sdtPr><w:tag w:val=\"City\"/><w:text/></w:sdtPr><w:sdtContent>"
            + $"<w:p>{Run("Salem")}</w:p></w:sdtContent></w:sdt>"
            + "<w:tbl><w:tblPr><w:tblStyle w:val=\"T\"/></w:tblPr><w:tblGrid><w:gridCol w:w=\"2000\"/><w:gridCol w:w=\"900\"/></w:tblGrid>"
            + $"<w:tr><w:tc><w:tcPr><w:vMerge w:val=\"restart\"/></w:tcPr><w:p>{Run("{{#each rows}}{{a}}")}</w:p></w:tc>"
            + $"<w:tc><w:p>{Run("{{b|money}}{{/each}}")}</w:p></w:tc></w:tr>"
            + "<w:tr><w:tc><w:tcPr><w:gridSpan w:val=\"2\"/><w:vMerge/></w:tcPr><w:p/></w:tc></w:tr></w:tbl>"
            + "<w:p><w:r><w:drawing><wp:anchor behindDoc=\"1\"><wp:positionH relativeFrom=\"page\"><wp:posOffset>9000</wp:posOffset>"
            + "</wp:positionH><wp:positionV relativeFrom=\"page\"><wp:posOffset>9000</wp:posOffset></wp:positionV><wp:extent cx=\"90000\" "
            + "cy=\"80000\"/><wp:wrapNone/><a:blip r:embed=\"i\"/><a:srcRect l=\"10000\"/></wp:anchor></w:drawing></w:r></w:p>"
            + "<w:p><w:r><w:drawing><wp:anchor distL=\"9000\"><wp:positionH "
            + "relativeFrom=\"column\"><wp:align>right</wp:align></wp:positionH>"
            + "<wp:positionV relativeFrom=\"paragraph\"><wp:posOffset>0</wp:posOffset></wp:positionV><wp:extent cx=\"900000\" "
            + "cy=\"500000\"/>"
            + "<wp:wrapSquare/><a:graphic><wps:wsp><wps:spPr><a:prstGeom prst=\"rect\"/><a:solidFill><a:schemeClr "
            + "val=\"accent1\"><a:lumMod "
            + "val=\"50000\"/></a:schemeClr></a:solidFill><a:ln w=\"9525\"/></wps:spPr><wps:txbx><w:txbxContent><w:p>"
            + $"{Run("Boxed {{City}}")}</w:p></w:txbxContent></wps:txbx><wps:bodyPr lIns=\"9000\"/></wps:wsp></a:graphic></wp:anchor>"
            + $"</w:drawing></w:r>{Run("beside")}<w:r><w:footnoteReference w:id=\"2\"/></w:r></w:p>"
            + "<w:p><w:r><w:pict><v:rect style=\"position:absolute;margin-left:300pt;width:90pt;height:20pt\" "
            + "fillcolor=\"#eee\"><v:textbox>"
            + $"<w:txbxContent><w:p>{Run("old")}</w:p></w:txbxContent></v:textbox></v:rect></w:pict></w:r></w:p>"
            + "<w:p><w:pPr><w:framePr w:w=\"2000\" w:x=\"900\" w:y=\"400\" w:hAnchor=\"page\" "
            + $"w:vAnchor=\"page\"/></w:pPr>{Run("framed")}</w:p>"
            + "<w:p><w:pPr><w:sectPr><w:type w:val=\"continuous\"/><w:cols w:num=\"2\" "
            + $"w:space=\"400\"/></w:sectPr></w:pPr>{Run("columns")}</w:p>"
            + "<w:sectPr><w:headerReference w:type=\"default\" r:id=\"h\"/><w:pgSz w:w=\"12240\" w:h=\"15840\"/></w:sectPr>";
        var spaces =
            $"{word} xmlns:r=\"{rels}\" xmlns:wp=\"http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing\" "
            + "xmlns:a=\"http://schemas.openxmlformats.org/drawingml/2006/main\" xmlns:v=\"urn:schemas-microsoft-com:vml\" "
            + "xmlns:wps=\"http://schemas.microsoft.com/office/word/2010/wordprocessingShape\"";
        (string, string, string)[] links =
        [
            ("s", "styles", "styles.xml"),
            ("n", "numbering", "numbering.xml"),
            ("h", "header", "header1.xml"),
            ("i", "image", "i.png"),
            ("f", "footnotes", "footnotes.xml"),
        ];
        (string, string)[] parts =
        [
            ("word/document.xml", $"<w:document {spaces}><w:body>{body}</w:body></w:document>"),
            (
                "word/styles.xml",
                $"<w:styles {word}><w:style w:type=\"paragraph\" w:default=\"1\" w:styleId=\"N\"><w:rPr><w:sz "
                    + "w:val=\"22\"/></w:rPr></w:style>"
                    + "<w:style w:type=\"paragraph\" w:styleId=\"H\"><w:basedOn w:val=\"N\"/><w:pPr><w:outlineLvl "
                    + "w:val=\"0\"/></w:pPr></w:style>"
                    + "<w:style w:type=\"table\" w:styleId=\"T\"><w:tblPr><w:tblBorders><w:top w:val=\"single\"/></w:tblBorders></w:tblPr>"
                    + "</w:style></w:styles>"
            ),
            (
                "word/numbering.xml",
                $"<w:numbering {word}><w:abstractNum w:abstractNumId=\"0\"><w:lvl w:ilvl=\"1\"><w:numFmt w:val=\"lowerRoman\"/><w:lvlText "
                    + "w:val=\"%1.%2\"/></w:lvl></w:abstractNum><w:num w:numId=\"1\"><w:abstractNumId w:val=\"0\"/></w:num></w:numbering>"
            ),
            (
                "word/footnotes.xml",
                $"<w:footnotes {word}><w:footnote w:id=\"2\"><w:p><w:r><w:footnoteRef/></w:r>{Run(" By {{City}}.")}</w:p></w:footnote>"
                    + "</w:footnotes>"
            ),
            ("word/header1.xml", $"<w:hdr {word}><w:p>{Run("Page ")}<w:fldSimple w:instr=\"PAGE\">{Run("1")}</w:fldSimple></w:p></w:hdr>"),
            (
                "word/_rels/document.xml.rels",
                "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\">"
                    + string.Concat(links.Select(r => $"<Relationship Id=\"{r.Item1}\" Type=\"{rels}/{r.Item2}\" Target=\"{r.Item3}\"/>"))
                    + "</Relationships>"
            ),
        ];
        return new(
            "letter.docx",
            SeedKind.Document,
            [.. parts.Select(p => (p.Item1, Encoding.UTF8.GetBytes(p.Item2))), ("word/i.png", Photo(SKEncodedImageFormat.Png))]
        );
    }

    static Seed One(string name, string text, SeedKind kind = SeedKind.List) => new(name, kind, [("", Encoding.UTF8.GetBytes(text))]);

    static Seed Archive(string name, (string Part, Action<Stream> Write)[] parts) =>
        new(
            name,
            SeedKind.List,
            [
                .. parts.Select(p =>
                {
                    using var bytes = new MemoryStream();
                    p.Write(bytes);
                    return (p.Part, bytes.ToArray());
                }),
            ]
        );

    static byte[] Database(Made files)
    {
        var path = Path.Combine(files.Folder, "seed.sqlite");
        using (var connection = new SqliteConnection($"Data Source={path};Pooling=False"))
        {
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText =
                "PRAGMA page_size = 512; CREATE TABLE people (First TEXT, ZIP TEXT, Gift REAL, Photo BLOB); CREATE VIEW few AS "
                + "SELECT First, "
                + "upper(ZIP) FROM people; WITH RECURSIVE r(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM r LIMIT 60) INSERT INTO "
                + "people SELECT "
                + "'Ana ' || n, '02139', n * 1.5, x'0102' FROM r";
            command.ExecuteNonQuery();
        }
        return File.ReadAllBytes(path);
    }

    static byte[] Photo(SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(40, 30);
        for (var i = 0; i < 1200; i++)
            bitmap.SetPixel(i % 40, i / 40, new((byte)(i * 7), (byte)(i * 13), (byte)i));
        using var data = bitmap.Encode(format, 80);
        return data.ToArray();
    }

    /// <summary>A page as another program writes one: packed content, a typeface, a gradient, a picture.</summary>
    static byte[] Page()
    {
        using var target = new MemoryStream();
        using (var document = SKDocument.CreatePdf(target))
        {
            var canvas = document.BeginPage(200, 100);
            using var paint = new SKPaint { Color = SKColors.Teal };
            canvas.DrawRoundRect(10, 10, 80, 40, 5, 5, paint);
            using var image = SKImage.FromEncodedData(Photo(SKEncodedImageFormat.Png));
            canvas.DrawImage(image, 100, 10);
            document.EndPage();
            document.BeginPage(100, 200);
            document.EndPage();
            document.Close();
        }
        return target.ToArray();
    }
}
