using System.Text;
using Microsoft.Data.Sqlite;
using SkiaSharp;

namespace Bandeja.Reader.Tests;

/// <summary>What a changed file is: how it is put together again, and who reads it.</summary>
enum SeedKind
{
    List,
    Picture,
    Report,
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
        ];

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
