using System.Globalization;
using System.IO.Compression;
using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;

namespace Bandeja.Formats.Documents;

/// <summary>A picture's bytes, as word processors show them.</summary>
public sealed record DocxPicture(byte[] Data, string MediaType);

/// <summary>
/// Writes letters as a DOCX (ECMA-376 part 1, transitional), forward only: the text as it comes, then the parts that it refers to. Each
/// letter
/// begins on a new page, and its pages are counted from one. Paragraphs, lists, tables, headers, footers, pictures, and links are what they
/// are called, so that the letters can be edited.
/// </summary>
public sealed class DocxWriter : IDisposable
{
    const string Word = "http://schemas.openxmlformats.org/wordprocessingml/2006/main";
    const string Relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
    const string Spaces =
        $"xmlns:w=\"{Word}\" xmlns:r=\"{Relations}\" xmlns:wp=\"http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing\""
        + " xmlns:a=\"http://schemas.openxmlformats.org/drawingml/2006/main\" "
        + "xmlns:pic=\"http://schemas.openxmlformats.org/drawingml/2006/picture\""
        + " xmlns:mc=\"http://schemas.openxmlformats.org/markup-compatibility/2006\" "
        + "xmlns:wps=\"http://schemas.microsoft.com/office/word/2010/wordprocessingShape\""
        + " xmlns:v=\"urn:schemas-microsoft-com:vml\" xmlns:o=\"urn:schemas-microsoft-com:office:office\"";
    const string Head = "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n";
    readonly ZipArchive zip;
    readonly DateTimeOffset created;
    readonly DocxParts parts;
    readonly LetterDesign design;
    readonly DocxText text;
    readonly string title;
    readonly bool asTyped;
    readonly bool many;
    StreamWriter? body;
    string? section;
    bool finished;

    /// <summary>Begins a file.</summary>
    /// <param name="pictures">Gives a picture, or a barcode, at a size in points; null where it cannot be shown.</param>
    /// <param name="many">True for a file of several letters.</param>
    /// <param name="faces">How high the lines of faces are; null for those that ship.</param>
    /// <param name="asTyped">True where fields are written as they are typed, so that the file can be brought back.</param>
    public DocxWriter(
        Stream target,
        LetterDesign design,
        string title,
        DateTimeOffset created,
        Func<ContentPicture, DocxPicture?> pictures,
        bool many = false,
        bool asTyped = false,
        FaceBook? faces = null
    )
    {
        (this.design, this.title, this.created, this.many, this.asTyped) = (design, title, created, many, asTyped);
        zip = new(target, ZipArchiveMode.Create, leaveOpen: true);
        parts = new(pictures);
        text = new(parts, design, many, faces ?? FaceBook.Shipped);
    }

    /// <summary>How many letters were written.</summary>
    public int Letters { get; private set; }

    /// <summary>Writes a letter.</summary>
    public void Add(LetterContent letter)
    {
        if (body is null)
        {
            // Larger buffers are objects of the large heap, which a file for each of thousands would fill again and again.
            body = new(Entry("word/document.xml"), new UTF8Encoding(false), many ? 1 << 16 : 1 << 12);
            body.Write(Head);
            body.Write($"<w:document {Spaces}><w:body>");
        }
        else
            // The section of a letter ends in the last paragraph of its own; the file's last section is the body's.
            body.Write(DocxText.Thin(section!));
        var sections = new DocxSections(
            References(letter),
            design.Page,
            design.Head.EdgeDistance,
            many,
            letter.FirstHeader is not null || letter.FirstFooter is not null
        );
        text.Begin(parts.Document, sections);
        text.Blocks(letter.Body);
        // Word processors want a paragraph after a table at the end.
        if (letter.Body is [] or [.., ContentTable])
            text.Empty();
        body.Write(text.Take());
        section = sections.End(null);
        Letters++;
    }

    string References(LetterContent letter)
    {
        var s = new StringBuilder();
        void Reference(string kind, string type, IReadOnlyList<ContentBlock> blocks, string? mark)
        {
            if (Band(kind == "headerReference" ? "hdr" : "ftr", blocks, mark) is { } id)
                s.Append(CultureInfo.InvariantCulture, $"<w:{kind} w:type=\"{type}\" r:id=\"{id}\"/>");
        }
        Reference("headerReference", "default", letter.Header, letter.Watermark);
        Reference("footerReference", "default", letter.Footer, null);
        if (letter.FirstHeader is not null || letter.FirstFooter is not null)
        {
            Reference("headerReference", "first", letter.FirstHeader ?? letter.Header, letter.Watermark);
            Reference("footerReference", "first", letter.FirstFooter ?? letter.Footer, null);
        }
        if (letter.EvenHeader is not null || letter.EvenFooter is not null)
        {
            Reference("headerReference", "even", letter.EvenHeader ?? letter.Header, letter.Watermark);
            Reference("footerReference", "even", letter.EvenFooter ?? letter.Footer, null);
        }
        return s.ToString();
    }

    /// <summary>A header or footer as a part of its own; the same one is written once.</summary>
    string? Band(string element, IReadOnlyList<ContentBlock> blocks, string? mark)
    {
        if (blocks.Count == 0 && mark is null)
            return null;
        var band = parts.NewBand(element);
        text.Begin(band.Relations);
        text.Blocks(blocks);
        if (blocks is [] or [.., ContentTable])
            text.Empty();
        var xml = text.Take();
        if (mark is not null && design.Head.Watermark is { } w)
            xml = DocxText.WithWatermark(xml, mark, w);
        return parts.Keep(band, $"{Head}<w:{element} {Spaces}>{xml}</w:{element}>");
    }

    internal static int Twips(double points) => (int)Math.Round(points * 20);

    /// <summary>Parts shorter than this are stored as they are: beginning to compress costs more time than the few bytes are worth, and
    /// each of thousands of documents has half a dozen of them.</summary>
    const int Small = 4096;

    Stream Entry(string path, bool small = false)
    {
        var entry = zip.CreateEntry(path, small ? CompressionLevel.NoCompression : CompressionLevel.Fastest);
        entry.LastWriteTime = created;
        return entry.Open();
    }

    void Part(string path, string xml)
    {
        using var stream = Entry(path, xml.Length < Small);
        stream.Write(Encoding.UTF8.GetBytes(xml));
    }

    /// <summary>Ends the file.</summary>
    public void Finish()
    {
        if (finished)
            return;
        finished = true;
        if (body is null)
            Add(new(design, [], [], [], null, null, null));
        body!.Write($"{section}</w:body></w:document>");
        body.Dispose();
        parts.Write(Part, Bytes, design, $"{Head}<w:footnotes {Spaces}>");
        var properties = asTyped
            ? "<property fmtid=\"{D5CDD505-2E9C-101B-9397-08002B2CF9AE}\" pid=\"2\" "
                + $"name=\"{DocumentMark.Name}\"><vt:i4>1</vt:i4></property>"
            : "";
        if (asTyped)
            Part(
                "docProps/custom.xml",
                $"{Head}<Properties xmlns=\"http://schemas.openxmlformats.org/officeDocument/2006/custom-properties\" "
                    + $"xmlns:vt=\"http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes\">{properties}</Properties>"
            );
        var at = created.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture);
        Part(
            "docProps/core.xml",
            $"{Head}<cp:coreProperties xmlns:cp=\"http://schemas.openxmlformats.org/package/2006/metadata/core-properties\" "
                + "xmlns:dc=\"http://purl.org/dc/elements/1.1/\" xmlns:dcterms=\"http://purl.org/dc/terms/\" "
                + "xmlns:xsi=\"http://www.w3.org/2001/XMLSchema-instance\">"
                + $"<dc:title>{DocxText.Escape(title)}</dc:title>"
                + $"<dcterms:created xsi:type=\"dcterms:W3CDTF\">{at}</dcterms:created></cp:coreProperties>"
        );
        Part(
            "_rels/.rels",
            $"{Head}<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"rId1\" "
                + $"Type=\"{Relations}/officeDocument\" Target=\"word/document.xml\"/><Relationship Id=\"rId2\" "
                + "Type=\"http://schemas.openxmlformats.org/package/2006/relationships/metadata/core-properties\" "
                + "Target=\"docProps/core.xml\"/>"
                + (asTyped ? $"<Relationship Id=\"rId3\" Type=\"{Relations}/custom-properties\" Target=\"docProps/custom.xml\"/>" : "")
                + "</Relationships>"
        );
        Part("[Content_Types].xml", Head + parts.ContentTypes(asTyped));
        zip.Dispose();
    }

    void Bytes(string path, byte[] data)
    {
        var entry = zip.CreateEntry(path, CompressionLevel.NoCompression);
        entry.LastWriteTime = created;
        using var stream = entry.Open();
        stream.Write(data);
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        if (!finished)
            body?.Dispose();
        zip.Dispose();
    }
}
