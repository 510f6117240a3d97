using System.Text;
using Bandeja.Core.Documents;

namespace Bandeja.Formats.Documents;

/// <summary>A picture of a document, as it lies in the file or as it was cut and turned there.</summary>
/// <param name="Key">What stands for it in the letter.</param>
public sealed record DocumentPicture(string Key, string Name, byte[] Data);

/// <summary>A document that was read.</summary>
public sealed record DocumentRead(BroughtDocument Document, IReadOnlyList<DocumentPicture> Pictures);

/// <summary>Reads word processor documents: DOCX (ECMA-376, ISO/IEC 29500) and ODT (OASIS OpenDocument 1.2 and later).</summary>
public static class DocumentFile
{
    static readonly byte[] Compound = [0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1];

    /// <summary>Reads a document.</summary>
    /// <param name="name">What the file is called, for messages.</param>
    /// <param name="faces">Which faces print those that it names; null for what ships.</param>
    /// <exception cref="DocumentException">It cannot be read; the sentence says why, and what to do.</exception>
    public static DocumentRead Read(string path, string name, FaceBook? faces = null)
    {
        faces ??= FaceBook.Shipped;
        var length = new FileInfo(path).Length;
        if (length == 0)
            throw new DocumentException($"“{name}” is empty.");
        if (length > DocumentLimits.FileSize)
            throw new DocumentException($"“{name}” has {length >> 20} MB; a document can have {DocumentLimits.FileSize >> 20} MB.");
        var head = new byte[Math.Min(length, 4096)];
        using (var file = File.OpenRead(path))
            file.ReadExactly(head);
        if (head.AsSpan().StartsWith(Compound))
            throw OldOrLocked(path, name);
        if (head.AsSpan().StartsWith("{\\rtf"u8))
            throw new DocumentException($"“{name}” is in the format RTF. Save it as DOCX or ODT and import that file.");
        if (head.AsSpan().StartsWith("%PDF"u8))
            throw new DocumentException(
                $"“{name}” is a PDF, which cannot be edited. Import the document it was created from, or add the PDF to a letter as its "
                    + "background."
            );
        if (!head.AsSpan().StartsWith("PK"u8))
            throw new DocumentException($"“{name}” is not a word processor document. Import a DOCX or ODT file.");
        using var archive = new OfficeArchive(path, name);
        if (archive.Has("content.xml") && archive.Has("mimetype"))
            return new OdtLetter(archive, name, faces).Read();
        if (archive.Has("EncryptedPackage"))
            throw Locked(name);
        var main = archive.Relationships("").Values.FirstOrDefault(r => r.Type == "officeDocument" && !r.External)?.Target;
        if (main is null || !archive.Has(main))
            main = archive.Has("word/document.xml") ? "word/document.xml" : null;
        if (main is null || archive.Xml(main) is not { } root || root.Name.LocalName != "document")
            throw new DocumentException(
                archive.Paths.Any(p => p.StartsWith("xl/", StringComparison.OrdinalIgnoreCase))
                    ? $"“{name}” is a spreadsheet. Import it as a list."
                    : $"“{name}” holds no word processor document. Import a DOCX or ODT file."
            );
        return new WordLetter(archive, main, root, faces).Read();
    }

    internal static DocumentException Locked(string name) =>
        new($"“{name}” is locked with a password. Open it, save it without one, and import that file.");

    /// <summary>A compound file is an old binary document, or a locked one of today's (MS-OFFCRYPTO names its stream).</summary>
    static DocumentException OldOrLocked(string path, string name)
    {
        var bytes = File.ReadAllBytes(path);
        var stream = Encoding.Unicode.GetBytes("EncryptedPackage");
        return bytes.AsSpan().IndexOf(stream) >= 0
            ? Locked(name)
            : new($"“{name}” is in an old binary format, whatever its name says. Save it as DOCX and import that file.");
    }
}
