using System.Globalization;
using System.Text;
using System.Text.Json;
using Bandeja.Core.Lists;
using CsvHelper;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Column = Bandeja.Core.Lists.Column;

namespace Bandeja.Formats.Ledger;

/// <summary>Writes a table row by row as CSV (RFC 4180, UTF-8 with byte order mark), XLSX (ECMA-376) or JSON (RFC 8259); CSV and XLSX are safe to open in a spreadsheet.</summary>
public static class TableExport
{
    /// <summary>Writes CSV.</summary>
    public static void Csv(Stream target, IReadOnlyList<string> headings, IEnumerable<IReadOnlyList<string?>> rows)
    {
        using var writer = new StreamWriter(target, new UTF8Encoding(true), leaveOpen: true);
        using var csv = new CsvWriter(writer, CultureInfo.InvariantCulture, leaveOpen: true);
        foreach (var row in rows.Prepend(headings))
        {
            foreach (var cell in row) csv.WriteField(SafeCell.Of(cell));
            csv.NextRecord();
        }
    }

    /// <summary>Writes a workbook with one sheet; every cell is text.</summary>
    public static void Xlsx(Stream target, string sheetName, IReadOnlyList<string> headings, IEnumerable<IReadOnlyList<string?>> rows)
    {
        using var document = SpreadsheetDocument.Create(target, SpreadsheetDocumentType.Workbook);
        var workbook = document.AddWorkbookPart();
        var sheet = workbook.AddNewPart<WorksheetPart>();
        using (var writer = OpenXmlWriter.Create(sheet))
        {
            writer.WriteStartElement(new Worksheet());
            writer.WriteStartElement(new SheetData());
            foreach (var row in rows.Prepend(headings))
            {
                writer.WriteStartElement(new Row());
                foreach (var cell in row)
                    writer.WriteElement(new Cell(new InlineString(new Text(Printable(SafeCell.Of(cell))) { Space = SpaceProcessingModeValues.Preserve })) { DataType = CellValues.InlineString });
                writer.WriteEndElement();
            }
            writer.WriteEndElement();
            writer.WriteEndElement();
        }
        workbook.Workbook = new Workbook(new Sheets(new Sheet { Id = workbook.GetIdOfPart(sheet), SheetId = 1, Name = sheetName }));
    }

    /// <summary>Writes an array of objects. Numbers are numbers, yes and no are true and false; a value that is not of its column's type is text as it stands, a blank is left out.</summary>
    public static void Json(Stream target, IReadOnlyList<Column> headings, IEnumerable<IReadOnlyList<string?>> rows)
    {
        using var json = new Utf8JsonWriter(target, new JsonWriterOptions { Indented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping });
        json.WriteStartArray();
        foreach (var row in rows)
        {
            json.WriteStartObject();
            for (var i = 0; i < headings.Count; i++)
            {
                if (row[i] is not { } value) continue;
                json.WritePropertyName(headings[i].Name);
                if (headings[i].Type == ColumnType.YesNo && value is "yes" or "no") json.WriteBooleanValue(value == "yes");
                else if (headings[i].Type == ColumnType.Number && decimal.TryParse(value, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) && number.ToString(CultureInfo.InvariantCulture) == value) json.WriteRawValue(value);
                else json.WriteStringValue(SoundText.Of(value));
            }
            json.WriteEndObject();
            if (json.BytesPending > 1 << 16) json.Flush();
        }
        json.WriteEndArray();
    }

    /// <summary>Characters that XML 1.0 has no place for are left out (section 2.2).</summary>
    static string Printable(string value) => value.All(System.Xml.XmlConvert.IsXmlChar) ? value
        : string.Concat(value.EnumerateRunes().Where(r => r.Value > 0xFFFF || System.Xml.XmlConvert.IsXmlChar((char)r.Value)).Select(r => r.ToString()));
}
