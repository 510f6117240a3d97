using System.IO.Compression;
using System.Xml;
using System.Xml.Linq;
using Bandeja.Core.Documents;
using Bandeja.Formats.Lists;

namespace Bandeja.Formats.Documents;

/// <summary>A relationship of a part (ECMA-376 part 2, section 9.3).</summary>
/// <param name="Target">The path of the part it leads to, or, where <paramref name="External"/>, an address.</param>
sealed record Relationship(string Id, string Type, string Target, bool External);

/// <summary>The parts of a document that is a ZIP archive, each read within limits. Nothing outside of the archive is ever
/// opened.</summary>
sealed class OfficeArchive : IDisposable
{
    readonly ZipArchive archive;
    readonly string name;
    readonly Dictionary<string, ZipArchiveEntry> entries = new(StringComparer.OrdinalIgnoreCase);
    long left = DocumentLimits.Unpacked;

    public OfficeArchive(string path, string name)
    {
        this.name = name;
        try
        {
            archive = ZipFile.OpenRead(path);
            if (archive.Entries.Count > DocumentLimits.Parts)
                throw new DocumentException($"“{name}” holds more than {DocumentLimits.Parts:N0} parts. It was not read.");
            foreach (var entry in archive.Entries)
                entries.TryAdd(entry.FullName.Replace('\\', '/').TrimStart('/'), entry);
        }
        catch (InvalidDataException)
        {
            throw Damaged();
        }
    }

    /// <summary>The paths of all parts.</summary>
    public IEnumerable<string> Paths => entries.Keys;

    public bool Has(string path) => entries.ContainsKey(path);

    DocumentException Damaged() =>
        new($"“{name}” is damaged and cannot be read. Open it in the program that created it, save it again, and import that file.");

    /// <summary>A part's bytes; null where there is none, or where it has more than the limit.</summary>
    public byte[]? Bytes(string path, int limit)
    {
        if (!entries.TryGetValue(path, out var entry))
            return null;
        try
        {
            using var stream = entry.Open();
            using var memory = new MemoryStream();
            var buffer = new byte[1 << 16];
            for (int read; (read = stream.Read(buffer)) > 0; )
            {
                if ((left -= read) < 0)
                    throw new DocumentException(
                        $"“{name}” unpacks to more than {DocumentLimits.Unpacked >> 20} MB. That is not an honest document; it was "
                            + "not read."
                    );
                if (memory.Length + read > limit)
                    return null;
                memory.Write(buffer, 0, read);
            }
            return memory.ToArray();
        }
        catch (InvalidDataException)
        {
            throw Damaged();
        }
    }

    /// <summary>An XML part; null where there is none.</summary>
    /// <exception cref="DocumentException">It is damaged, nested too deep, or too long.</exception>
    public XElement? Xml(string path)
    {
        if (!entries.ContainsKey(path))
            return null;
        var bytes = Bytes(path, (int)DocumentLimits.Unpacked) ?? throw Damaged();
        if (new XmlBounds().Add(bytes) is { } objection)
            throw new DocumentException($"“{name}” has {objection} in its part {path}. It was not read.");
        try
        {
            using var reader = XmlReader.Create(
                new MemoryStream(bytes),
                new()
                {
                    DtdProcessing = DtdProcessing.Prohibit,
                    XmlResolver = null,
                    IgnoreComments = true,
                    IgnoreProcessingInstructions = true,
                }
            );
            return Load(reader, path);
        }
        catch (XmlException)
        {
            throw Damaged();
        }
    }

    /// <summary>Builds the tree element by element, so that it is counted while it grows.</summary>
    XElement Load(XmlReader reader, string path)
    {
        XElement? root = null;
        XElement? at = null;
        var count = 0;
        while (reader.Read())
        {
            switch (reader.NodeType)
            {
                case XmlNodeType.Element:
                    if (++count > DocumentLimits.Elements)
                        throw new DocumentException(
                            $"“{name}” has more than {DocumentLimits.Elements:N0} elements in its part {path}. It is too long for a letter."
                        );
                    if (reader.Depth > DocumentLimits.Depth)
                        throw new DocumentException($"“{name}” has parts nested more than {DocumentLimits.Depth} deep. It was not read.");
                    var element = new XElement(XName.Get(reader.LocalName, reader.NamespaceURI));
                    var isEmpty = reader.IsEmptyElement;
                    while (reader.MoveToNextAttribute())
                        if (reader.Prefix != "xmlns" && reader.Name != "xmlns")
                            element.SetAttributeValue(XName.Get(reader.LocalName, reader.NamespaceURI), reader.Value);
                    reader.MoveToElement();
                    if (at is null)
                        root = element;
                    else
                        at.Add(element);
                    if (!isEmpty)
                        at = element;
                    break;
                case XmlNodeType.EndElement:
                    at = at?.Parent;
                    break;
                case XmlNodeType.Text or XmlNodeType.CDATA or XmlNodeType.SignificantWhitespace or XmlNodeType.Whitespace:
                    at?.Add(new XText(reader.Value));
                    break;
            }
        }
        return root ?? throw Damaged();
    }

    /// <summary>The relationships of a part, by their ids.</summary>
    public IReadOnlyDictionary<string, Relationship> Relationships(string path)
    {
        var slash = path.LastIndexOf('/');
        var folder = slash < 0 ? "" : path[..(slash + 1)];
        var rels = Xml($"{folder}_rels/{path[(slash + 1)..]}.rels");
        var result = new Dictionary<string, Relationship>();
        foreach (var r in rels?.Elements().Where(e => e.Name.LocalName == "Relationship") ?? [])
        {
            var target = (string?)r.Attribute("Target") ?? "";
            var external = (string?)r.Attribute("TargetMode") == "External";
            var type = (string?)r.Attribute("Type") ?? "";
            result[(string?)r.Attribute("Id") ?? ""] = new(
                (string?)r.Attribute("Id") ?? "",
                type[(type.LastIndexOf('/') + 1)..],
                external ? target : Resolved(folder, target),
                external
            );
        }
        return result;
    }

    static string Resolved(string folder, string target)
    {
        var parts = new List<string>();
        foreach (var part in (target.StartsWith('/') ? target : folder + target).Split('/', StringSplitOptions.RemoveEmptyEntries))
        {
            if (part == ".." && parts.Count > 0)
                parts.RemoveAt(parts.Count - 1);
            else if (part is not ("." or ".."))
                parts.Add(part);
        }
        return string.Join('/', parts);
    }

    public void Dispose() => archive.Dispose();
}
