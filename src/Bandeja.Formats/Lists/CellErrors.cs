using System.IO.Compression;
using System.Xml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Bandeja.Formats.Lists;

/// <summary>Finds the cells of a sheet whose formula gave an error (#REF!, #N/A): the reader of the rows gives them as blank and says
/// nothing.</summary>
static class CellErrors
{
    /// <summary>Notes each error cell of the first rows of a sheet with its place. Workbooks of the older kind have none of this.</summary>
    public static SourceNotes Of(string path, string sheetName, int rows)
    {
        var notes = new SourceNotes();
        try
        {
            if (!Any(path))
                return notes;
            using var document = SpreadsheetDocument.Open(path, false);
            var sheet = document.WorkbookPart?.Workbook?.Descendants<Sheet>().FirstOrDefault(s => s.Name?.Value == sheetName);
            if (sheet?.Id?.Value is not { } id || document.WorkbookPart!.GetPartById(id) is not WorksheetPart part)
                return notes;
            using var xml = XmlReader.Create(part.GetStream());
            while (xml.Read())
            {
                if (xml.NodeType != XmlNodeType.Element)
                    continue;
                if (xml.LocalName == "row" && --rows < 0)
                    break;
                if (xml.LocalName != "c" || xml.GetAttribute("t") != "e")
                    continue;
                var place = xml.GetAttribute("r") ?? "?";
                var error =
                    xml.ReadSubtree() is var cell && cell.ReadToDescendant("v", xml.NamespaceURI) ? cell.ReadElementContentAsString() : "";
                notes.Add("Cells with a spreadsheet error were left blank", $"{place} {error}".Trim());
            }
        }
        catch (Exception e)
            when (e is OpenXmlPackageException or XmlException or InvalidDataException or FileFormatException or ArgumentOutOfRangeException
            )
        {
            // An older workbook, or one whose package the reader of rows copes with and this one does not: the cells stay blank.
        }
        return notes;
    }

    /// <summary>True where any sheet has a cell of the type “error” (18.18.11): the bytes are looked through, which is many times faster
    /// than reading the sheet.</summary>
    static bool Any(string path)
    {
        using var archive = ZipFile.OpenRead(path);
        var buffer = new byte[1 << 16];
        foreach (var entry in archive.Entries.Where(e => e.FullName.StartsWith("xl/worksheets/", StringComparison.Ordinal)))
        {
            using var part = entry.Open();
            // The last bytes of a piece are looked at again with the next one.
            for (int kept = 0, read; (read = part.Read(buffer, kept, buffer.Length - kept)) > 0; )
            {
                var piece = buffer.AsSpan(0, kept + read);
                if (piece.IndexOf("t=\"e\""u8) >= 0 || piece.IndexOf("t='e'"u8) >= 0)
                    return true;
                kept = Math.Min(4, piece.Length);
                piece[^kept..].CopyTo(buffer);
            }
        }
        return false;
    }
}
