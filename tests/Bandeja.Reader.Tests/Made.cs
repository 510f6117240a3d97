using System.IO.Compression;
using System.Text;

namespace Bandeja.Reader.Tests;

/// <summary>Files as small as they can be, made for one test in a folder of its own.</summary>
sealed class Made : IDisposable
{
    public string Folder { get; } = Directory.CreateTempSubdirectory("bandeja-reader").FullName;

    public void Dispose() => Directory.Delete(Folder, true);

    public string Bytes(string name, byte[] bytes)
    {
        var path = Path.Combine(Folder, name);
        File.WriteAllBytes(path, bytes);
        return path;
    }

    public string Text(string name, string text) => Bytes(name, Encoding.UTF8.GetBytes(text));

    /// <summary>An archive; what writes a part is called with its stream.</summary>
    public string Zip(string name, params (string Part, Action<Stream> Write)[] parts)
    {
        var path = Path.Combine(Folder, name);
        using var archive = ZipFile.Open(path, ZipArchiveMode.Create);
        foreach (var (part, write) in parts)
        {
            using var stream = archive.CreateEntry(part, CompressionLevel.Fastest).Open();
            write(stream);
        }
        return path;
    }

    public static Action<Stream> Of(string text) => s => s.Write(Encoding.UTF8.GetBytes(text));

    /// <summary>A piece of text many times, between others, without holding it all.</summary>
    public static Action<Stream> Many(string before, string piece, long times, string after) =>
        s =>
        {
            s.Write(Encoding.UTF8.GetBytes(before));
            var per = (int)Math.Clamp(65536 / piece.Length, 1, times);
            var chunk = Encoding.UTF8.GetBytes(string.Concat(Enumerable.Repeat(piece, per)));
            for (; times >= per; times -= per)
                s.Write(chunk);
            for (; times > 0; times--)
                s.Write(Encoding.UTF8.GetBytes(piece));
            s.Write(Encoding.UTF8.GetBytes(after));
        };

    const string Main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main",
        Relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships",
        Package = "http://schemas.openxmlformats.org/package/2006/relationships",
        Words = "http://schemas.openxmlformats.org/wordprocessingml/2006/main";

    /// <summary>A workbook of one sheet (ECMA-376 part 1, section 18).</summary>
    public string Xlsx(string name, Action<Stream> sheetData, string sheetName = "name=\"Members\"") =>
        Zip(name, XlsxParts(sheetData, sheetName));

    public static (string, Action<Stream>)[] XlsxParts(Action<Stream> sheetData, string sheetName = "name=\"Members\"") =>
        [
            (
                "[Content_Types].xml",
                Of(
                    "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"><Default Extension=\"rels\" "
                        + "ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Override "
                        + "PartName=\"/xl/workbook.xml\" "
                        + "ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml\"/><Override "
                        + "PartName=\"/xl/worksheets/sheet1.xml\" "
                        + "ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml\"/></Types>"
                )
            ),
            (
                "_rels/.rels",
                Of(
                    $"<Relationships xmlns=\"{Package}\"><Relationship Id=\"r1\" Type=\"{Relations}/officeDocument\" "
                        + "Target=\"xl/workbook.xml\"/></Relationships>"
                )
            ),
            (
                "xl/workbook.xml",
                Of(
                    $"<workbook xmlns=\"{Main}\" xmlns:r=\"{Relations}\"><sheets><sheet {sheetName} sheetId=\"1\" "
                        + "r:id=\"r1\"/></sheets></workbook>"
                )
            ),
            (
                "xl/_rels/workbook.xml.rels",
                Of(
                    $"<Relationships xmlns=\"{Package}\"><Relationship Id=\"r1\" Type=\"{Relations}/worksheet\" "
                        + "Target=\"worksheets/sheet1.xml\"/></Relationships>"
                )
            ),
            (
                "xl/worksheets/sheet1.xml",
                s =>
                {
                    Of($"<worksheet xmlns=\"{Main}\"><sheetData>")(s);
                    sheetData(s);
                    Of("</sheetData></worksheet>")(s);
                }
            ),
        ];

    public static string Row(int number, params string[] cells) =>
        $"<row r=\"{number}\">"
        + string.Concat(cells.Select((c, i) => $"<c r=\"{(char)('A' + i)}{number}\" t=\"inlineStr\"><is><t>{c}</t></is></c>"))
        + "</row>";

    /// <summary>A word processor document (ECMA-376 part 1, section 17).</summary>
    public string Docx(string name, Action<Stream> body) => Zip(name, DocxParts(body));

    public static (string, Action<Stream>)[] DocxParts(Action<Stream> body) =>
        [
            (
                "word/document.xml",
                s =>
                {
                    Of($"<w:document xmlns:w=\"{Words}\"><w:body>")(s);
                    body(s);
                    Of("</w:body></w:document>")(s);
                }
            ),
        ];

    public static string Table(params string[][] rows) =>
        "<w:tbl>"
        + string.Concat(
            rows.Select(r => "<w:tr>" + string.Concat(r.Select(c => $"<w:tc><w:p><w:r><w:t>{c}</w:t></w:r></w:p></w:tc>")) + "</w:tr>")
        )
        + "</w:tbl>";

    /// <summary>An OpenDocument spreadsheet (OpenDocument 1.3 part 3, section 9).</summary>
    public string Ods(string name, Action<Stream> table) => Zip(name, OdsParts(table));

    public static (string, Action<Stream>)[] OdsParts(Action<Stream> table) =>
        [
            (
                "content.xml",
                s =>
                {
                    Of(
                        "<o:document-content xmlns:o=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" "
                            + "xmlns:t=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\" "
                            + "xmlns:x=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\"><o:body><o:spreadsheet><t:table t:name=\"A\">"
                    )(s);
                    table(s);
                    Of("</t:table></o:spreadsheet></o:body></o:document-content>")(s);
                }
            ),
        ];

    /// <summary>A PDF of the objects given, numbered from 1; the first is the catalog (ISO 32000-2, 7.5).</summary>
    public static byte[] Pdf(params byte[][] objects)
    {
        using var file = new MemoryStream();
        void Write(string text) => file.Write(Encoding.Latin1.GetBytes(text));
        Write("%PDF-1.4\n");
        var places = new List<long>();
        for (var i = 0; i < objects.Length; i++)
        {
            places.Add(file.Position);
            Write($"{i + 1} 0 obj\n");
            file.Write(objects[i]);
            Write("\nendobj\n");
        }
        var table = file.Position;
        Write($"xref\n0 {objects.Length + 1}\n0000000000 65535 f \n");
        foreach (var place in places)
            Write($"{place:D10} 00000 n \n");
        Write($"trailer\n<</Size {objects.Length + 1}/Root 1 0 R>>\nstartxref\n{table}\n%%EOF\n");
        return file.ToArray();
    }

    public static byte[] Latin(string text) => Encoding.Latin1.GetBytes(text);

    /// <summary>A stream that unpacks to a number of bytes.</summary>
    public static byte[] Packed(string dictionary, Action<Stream> content)
    {
        using var packed = new MemoryStream();
        using (var deflate = new ZLibStream(packed, CompressionLevel.Fastest, leaveOpen: true))
            content(deflate);
        return
        [
            .. Latin($"<<{dictionary}/Filter/FlateDecode/Length {packed.Length}>>\nstream\n"),
            .. packed.ToArray(),
            .. Latin("\nendstream"),
        ];
    }

    /// <summary>A PDF of one page with that content.</summary>
    public static byte[] OnePage(byte[] content, string resources = "<<>>") =>
        Pdf(
            Latin("<</Type/Catalog/Pages 2 0 R>>"),
            Latin("<</Type/Pages/Kids[3 0 R]/Count 1>>"),
            Latin($"<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 100]/Resources {resources}/Contents 4 0 R>>"),
            content
        );
}
