using System.Xml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Bandeja.Formats.Lists;

/// <summary>Finds the cells of a sheet whose formula gave an error (#REF!, #N/A): the reader of the rows gives them as blank and says nothing.</summary>
static class CellErrors
{
    /// <summary>Notes each error cell of the sheet with its place. Workbooks of the older kind have none of this.</summary>
    public static void Note(string path, string sheetName, SourceNotes notes)
    {
        try
        {
            using var document = SpreadsheetDocument.Open(path, false);
            var sheet = document.WorkbookPart?.Workbook?.Descendants<Sheet>().FirstOrDefault(s => s.Name?.Value == sheetName);
            if (sheet?.Id?.Value is not { } id || document.WorkbookPart!.GetPartById(id) is not WorksheetPart part) return;
            using var xml = XmlReader.Create(part.GetStream());
            while (xml.Read())
            {
                if (xml.NodeType != XmlNodeType.Element || xml.LocalName != "c" || xml.GetAttribute("t") != "e") continue;
                var place = xml.GetAttribute("r") ?? "?";
                var error = xml.ReadSubtree() is var cell && cell.ReadToDescendant("v", xml.NamespaceURI) ? cell.ReadElementContentAsString() : "";
                notes.Add("Cells with a spreadsheet error were left blank", $"{place} {error}".Trim());
            }
        }
        catch (Exception e) when (e is OpenXmlPackageException or XmlException or InvalidDataException or FileFormatException or ArgumentOutOfRangeException)
        {
            // An older workbook, or one whose package the reader of rows copes with and this one does not: the cells stay blank.
        }
    }
}
