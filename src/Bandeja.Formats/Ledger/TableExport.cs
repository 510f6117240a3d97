using System.Globalization;
using System.Text;
using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;
using CsvHelper;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Column = Bandeja.Core.Lists.Column;

namespace Bandeja.Formats.Ledger;

/// <summary>Writes a table row by row as CSV (RFC 4180, UTF-8 with byte order mark), XLSX (ECMA-376) or JSON (RFC 8259); CSV and XLSX are
/// safe to open in a spreadsheet.</summary>
public static class TableExport
{
    /// <summary>Writes CSV.</summary>
    public static void Csv(Stream target, IReadOnlyList<string> headings, IEnumerable<IReadOnlyList<string?>> rows)
    {
        using var writer = new StreamWriter(target, new UTF8Encoding(true), leaveOpen: true);
        using var csv = new CsvWriter(writer, CultureInfo.InvariantCulture, leaveOpen: true);
        foreach (var row in rows.Prepend(headings))
        {
            foreach (var cell in row)
                csv.WriteField(SafeCell.Of(cell));
            csv.NextRecord();
        }
    }

    /// <summary>
    /// Writes a workbook with one sheet. Numbers and dates are numbers and dates, yes and no are true and false; a value that is not of its
    /// column's type is text as it stands, and so are numbers of more digits than a spreadsheet keeps and days before its calendar.
    /// </summary>
    public static void Xlsx(Stream target, string sheetName, IReadOnlyList<Column> headings, IEnumerable<IReadOnlyList<string?>> rows)
    {
        using var document = SpreadsheetDocument.Create(target, SpreadsheetDocumentType.Workbook);
        var workbook = document.AddWorkbookPart();
        workbook.AddNewPart<WorkbookStylesPart>().Stylesheet = new Stylesheet(
            new Fonts(new Font(), new Font(new Bold())),
            new Fills(new Fill(), new Fill(new PatternFill { PatternType = PatternValues.Gray125 })),
            new Borders(new Border()),
            new CellStyleFormats(new CellFormat()),
            // ISO 8601 is read alike everywhere: number format 14 would follow the reader's country.
            new CellFormats(
                new CellFormat(),
                new CellFormat { NumberFormatId = DateFormat, ApplyNumberFormat = true },
                new CellFormat { FontId = 1, ApplyFont = true }
            )
        )
        {
            NumberingFormats = new(new NumberingFormat { NumberFormatId = DateFormat, FormatCode = "yyyy-mm-dd" }),
        };
        var sheet = workbook.AddNewPart<WorksheetPart>();
        using (var writer = OpenXmlWriter.Create(sheet))
        {
            writer.WriteStartElement(new Worksheet());
            writer.WriteElement(
                new SheetViews(
                    new SheetView(
                        new Pane
                        {
                            VerticalSplit = 1,
                            TopLeftCell = "A2",
                            ActivePane = PaneValues.BottomLeft,
                            State = PaneStateValues.Frozen,
                        }
                    )
                    {
                        WorkbookViewId = 0,
                    }
                )
            );
            writer.WriteStartElement(new SheetData());
            writer.WriteStartElement(new Row());
            foreach (var heading in headings)
                writer.WriteElement(Words(heading.Name, HeadingStyle));
            writer.WriteEndElement();
            foreach (var row in rows)
            {
                writer.WriteStartElement(new Row());
                for (var i = 0; i < headings.Count; i++)
                    writer.WriteElement(Typed(row[i], headings[i].Type));
                writer.WriteEndElement();
            }
            writer.WriteEndElement();
            writer.WriteEndElement();
        }
        workbook.Workbook = new Workbook(
            new Sheets(
                new Sheet
                {
                    Id = workbook.GetIdOfPart(sheet),
                    SheetId = 1,
                    Name = sheetName,
                }
            )
        );
    }

    const uint DateFormat = 164,
        DateStyle = 1,
        HeadingStyle = 2;

    // Day 1 of the calendar is 1900-01-01, and it has a February 29 in 1900 that never was (ECMA-376, part 1, 18.17.4.1).
    static readonly DateOnly FirstSureDay = new(1900, 3, 1);

    static Cell Typed(string? value, ColumnType type)
    {
        if (string.IsNullOrEmpty(value))
            return new Cell();
        switch (type)
        {
            case ColumnType.Number
                when decimal.TryParse(
                    value,
                    NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var number
                )
                    && value.Count(char.IsAsciiDigit) <= 15:
                return new Cell(new CellValue(number));
            case ColumnType.Date
                when DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
                    && day >= FirstSureDay:
                return new Cell(new CellValue((decimal)day.ToDateTime(TimeOnly.MinValue).ToOADate())) { StyleIndex = DateStyle };
            case ColumnType.YesNo when value is "yes" or "no":
                return new Cell(new CellValue(value == "yes" ? "1" : "0")) { DataType = CellValues.Boolean };
            default:
                return Words(value, 0);
        }
    }

    static Cell Words(string value, uint style) =>
        new(new InlineString(new Text(Printable(SafeCell.Of(value))) { Space = SpaceProcessingModeValues.Preserve }))
        {
            DataType = CellValues.InlineString,
            StyleIndex = style,
        };

    /// <summary>Writes an array of objects. Numbers are numbers, yes and no are true and false; a value that is not of its column's type is
    /// text as it stands, a blank is left out.</summary>
    public static void Json(Stream target, IReadOnlyList<Column> headings, IEnumerable<IReadOnlyList<string?>> rows)
    {
        using var json = new Utf8JsonWriter(
            target,
            new JsonWriterOptions { Indented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }
        );
        json.WriteStartArray();
        foreach (var row in rows)
        {
            json.WriteStartObject();
            for (var i = 0; i < headings.Count; i++)
            {
                if (row[i] is not { } value)
                    continue;
                json.WritePropertyName(headings[i].Name);
                if (headings[i].Type == ColumnType.YesNo && value is "yes" or "no")
                    json.WriteBooleanValue(value == "yes");
                else if (
                    headings[i].Type == ColumnType.Number
                    && decimal.TryParse(
                        value,
                        NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                        CultureInfo.InvariantCulture,
                        out var number
                    )
                    && number.ToString(CultureInfo.InvariantCulture) == value
                )
                    json.WriteRawValue(value);
                else
                    json.WriteStringValue(SoundText.Of(value));
            }
            json.WriteEndObject();
            if (json.BytesPending > 1 << 16)
                json.Flush();
        }
        json.WriteEndArray();
    }

    /// <summary>Characters that XML 1.0 has no place for are left out (section 2.2).</summary>
    static string Printable(string value) =>
        value.All(System.Xml.XmlConvert.IsXmlChar)
            ? value
            : string.Concat(
                value
                    .EnumerateRunes()
                    .Where(r => r.Value > 0xFFFF || System.Xml.XmlConvert.IsXmlChar((char)r.Value))
                    .Select(r => r.ToString())
            );
}
