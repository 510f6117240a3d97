using System.IO.Compression;
using System.Text;

namespace Bandeja.Formats.Tests.Documents;

/// <summary>Makes documents tag by tag, so that a test says exactly what stands in the file.</summary>
sealed class MadeDocx
{
    public const string Transitional = "http://schemas.openxmlformats.org/wordprocessingml/2006/main";
    public const string Strict = "http://purl.oclc.org/ooxml/wordprocessingml/main";
    const string Relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
    readonly Dictionary<string, byte[]> parts = [];
    readonly List<string> relations = [];
    string body = "";

    public string Namespace { get; init; } = Transitional;

    public MadeDocx Body(string xml)
    {
        body += xml;
        return this;
    }

    /// <summary>A part of the document's folder, and how the document refers to it.</summary>
    public MadeDocx Part(string type, string name, string xml, string? id = null) =>
        Bytes(type, name, Encoding.UTF8.GetBytes(Root(xml)), id);

    public MadeDocx Bytes(string type, string name, byte[] data, string? id = null)
    {
        parts[$"word/{name}"] = data;
        return Relation(type, name, id);
    }

    public MadeDocx Relation(string type, string target, string? id = null, bool external = false)
    {
        relations.Add(
            $"<Relationship Id=\"{id ?? $"r{relations.Count + 1}"}\" Type=\"{Relations}/{type}\" "
                + $"Target=\"{target}\"{(external ? " TargetMode=\"External\"" : "")}/>"
        );
        return this;
    }

    public MadeDocx Other(string path, string xml)
    {
        parts[path] = Encoding.UTF8.GetBytes(xml);
        return this;
    }

    /// <summary>Declares the prefixes on the outermost element.</summary>
    string Root(string xml)
    {
        var end = xml.IndexOfAny([' ', '>', '/'], 1);
        return xml[..end]
            + $" xmlns:w=\"{Namespace}\" xmlns:r=\"{Relations}\" xmlns:a=\"http://schemas.openxmlformats.org/drawingml/2006/main\""
            + " xmlns:pic=\"http://schemas.openxmlformats.org/drawingml/2006/picture\" "
            + "xmlns:wp=\"http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing\""
            + " xmlns:v=\"urn:schemas-microsoft-com:vml\" xmlns:mc=\"http://schemas.openxmlformats.org/markup-compatibility/2006\" "
            + "xmlns:wps=\"http://schemas.microsoft.com/office/word/2010/wordprocessingShape\""
            + xml[end..];
    }

    public byte[] File()
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            void Add(string path, byte[] data)
            {
                using var stream = zip.CreateEntry(path).Open();
                stream.Write(data);
            }
            Add("[Content_Types].xml", "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"/>"u8.ToArray());
            Add(
                "_rels/.rels",
                Encoding.UTF8.GetBytes(
                    "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"d\" "
                        + $"Type=\"{Relations}/officeDocument\" Target=\"word/document.xml\"/></Relationships>"
                )
            );
            Add("word/document.xml", Encoding.UTF8.GetBytes(Root($"<w:document><w:body>{body}</w:body></w:document>")));
            Add(
                "word/_rels/document.xml.rels",
                Encoding.UTF8.GetBytes(
                    "<Relationships "
                        + "xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\">"
                        + $"{string.Concat(relations)}</Relationships>"
                )
            );
            foreach (var (path, data) in parts)
                Add(path, data);
        }
        return memory.ToArray();
    }

    /// <summary>A run of text.</summary>
    public static string R(string text, string properties = "") =>
        $"<w:r>{(properties.Length > 0 ? $"<w:rPr>{properties}</w:rPr>" : "")}<w:t "
        + $"xml:space=\"preserve\">{System.Security.SecurityElement.Escape(text)}</w:t></w:r>";

    /// <summary>A paragraph of runs.</summary>
    public static string P(string runs, string properties = "") =>
        $"<w:p>{(properties.Length > 0 ? $"<w:pPr>{properties}</w:pPr>" : "")}{runs}</w:p>";

    /// <summary>A field code with its result.</summary>
    public static string Code(string instruction, string result, string properties = "") =>
        Begin + Instruction(instruction, properties) + Middle + R(result, properties) + End;

    public const string Begin = "<w:r><w:fldChar w:fldCharType=\"begin\"/></w:r>";
    public const string Middle = "<w:r><w:fldChar w:fldCharType=\"separate\"/></w:r>";
    public const string End = "<w:r><w:fldChar w:fldCharType=\"end\"/></w:r>";

    public static string Instruction(string text, string properties = "") =>
        $"<w:r>{(properties.Length > 0 ? $"<w:rPr>{properties}</w:rPr>" : "")}<w:instrText "
        + $"xml:space=\"preserve\">{System.Security.SecurityElement.Escape(text)}</w:instrText></w:r>";
}
