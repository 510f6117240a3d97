using System.IO.Compression;
using System.Xml;

namespace Bandeja.Formats.Lists;

/// <summary>The names of a workbook's sheets from its index alone (ECMA-376 part 1, section 18.2.19).</summary>
static class WorkbookSheets
{
    /// <summary>A sheet's name; a sheet without one is called by its place among the sheets.</summary>
    public static string Named(string? name, int index) => string.IsNullOrEmpty(name) ? $"Sheet {index + 1}" : name;

    /// <summary>The sheets, or null where the index cannot be read.</summary>
    public static IReadOnlyList<SheetInfo>? Of(string path)
    {
        try
        {
            using var archive = ZipFile.OpenRead(path);
            if (archive.GetEntry("xl/workbook.xml") is not { } entry)
                return null;
            using var part = entry.Open();
            using var xml = XmlReader.Create(part, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit });
            var sheets = new List<SheetInfo>();
            while (xml.Read())
                if (xml.NodeType == XmlNodeType.Element && xml.LocalName == "sheet")
                    sheets.Add(new(Named(xml.GetAttribute("name"), sheets.Count), xml.GetAttribute("state") is "hidden" or "veryHidden"));
            return sheets.Count > 0 ? sheets : null;
        }
        catch (Exception e) when (e is InvalidDataException or XmlException or IOException)
        {
            return null;
        }
    }
}
