using System.Text;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Bandeja.Formats.Tests;

/// <summary>Files made for a test, gone when it ends.</summary>
sealed class Files : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-formats").FullName;

    public string Folder => folder;

    public string Bytes(string name, byte[] data)
    {
        var path = Path.Combine(folder, name);
        File.WriteAllBytes(path, data);
        return path;
    }

    public string Text(string name, string text, Encoding? encoding = null) =>
        Bytes(name, [.. (encoding ?? new UTF8Encoding(false)).GetPreamble(), .. (encoding ?? new UTF8Encoding(false)).GetBytes(text)]);

    /// <summary>A workbook; a cell is text, or a number with a format after a bar ("1234|00000"), or "=formula|value", or
    /// "#error".</summary>
    public string Workbook(string name, params (string Name, bool Hidden, string?[][] Rows)[] sheets)
    {
        var path = Path.Combine(folder, name);
        using var document = SpreadsheetDocument.Create(path, SpreadsheetDocumentType.Workbook);
        var workbook = document.AddWorkbookPart();
        var formats = sheets
            .SelectMany(s => s.Rows)
            .SelectMany(r => r)
            .OfType<string>()
            .Where(c => c.Contains('|') && c[0] != '=')
            .Select(c => c.Split('|')[1])
            .Distinct()
            .ToList();
        workbook.AddNewPart<WorkbookStylesPart>().Stylesheet = new Stylesheet(
            new NumberingFormats(formats.Select((f, i) => new NumberingFormat { NumberFormatId = (uint)(164 + i), FormatCode = f })),
            new Fonts(new Font()),
            new Fills(new Fill()),
            new Borders(new Border()),
            new CellStyleFormats(new CellFormat()),
            new CellFormats(
                [
                    new CellFormat(),
                    .. formats.Select((_, i) => new CellFormat { NumberFormatId = (uint)(164 + i), ApplyNumberFormat = true }),
                ]
            )
        );
        var list = new Sheets();
        foreach (var (sheet, i) in sheets.Select((s, i) => (s, i)))
        {
            var part = workbook.AddNewPart<WorksheetPart>();
            part.Worksheet = new Worksheet(
                new SheetData(
                    sheet.Rows.Select(
                        (cells, r) =>
                            new Row(cells.Select((c, k) => Cell(c, formats, $"{(char)('A' + k)}{r + 1}")).OfType<Cell>())
                            {
                                RowIndex = (uint)(r + 1),
                            }
                    )
                )
            );
            list.Append(
                new Sheet
                {
                    Id = workbook.GetIdOfPart(part),
                    SheetId = (uint)(i + 1),
                    Name = sheet.Name,
                    State = sheet.Hidden ? SheetStateValues.Hidden : SheetStateValues.Visible,
                }
            );
        }
        workbook.Workbook = new Workbook(list);
        return path;
    }

    static Cell? Cell(string? text, List<string> formats, string place)
    {
        if (text is null)
            return null;
        if (text.StartsWith('='))
            return new Cell
            {
                CellReference = place,
                CellFormula = new CellFormula(text.Split('|')[0][1..]),
                CellValue = new CellValue(text.Split('|')[1]),
            };
        if (text.StartsWith('#'))
            return new Cell
            {
                CellReference = place,
                DataType = CellValues.Error,
                CellValue = new CellValue(text),
            };
        if (text.Split('|') is [var number, var format])
            return new Cell
            {
                CellReference = place,
                CellValue = new CellValue(number),
                StyleIndex = (uint)(1 + formats.IndexOf(format)),
            };
        return new Cell(new InlineString(new Text(text))) { CellReference = place, DataType = CellValues.InlineString };
    }

    public void Dispose() => Directory.Delete(folder, true);
}
