using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;

namespace Bandeja.Formats.Lists;

/// <summary>A table in a word processor document (ECMA-376 part 1, section 17.4).</summary>
sealed class WordSource(string path, string name) : PartedSource
{
    public override string Kind => "document";

    public override IReadOnlyList<SheetInfo> Parts()
    {
        var tables = Reading(body => body.Descendants<Table>().Select((t, i) => new SheetInfo(Called(t, i), false)).ToList());
        return tables.Count > 0
            ? tables
            : throw new ListFileException(
                $"“{name}” has no table in it. A list can only be read from a table; put the recipients into one, or bring in a "
                    + "spreadsheet."
            );
    }

    /// <summary>Table 1: First, Last …</summary>
    static string Called(Table table, int index)
    {
        var cells =
            table.Elements<TableRow>().FirstOrDefault()?.Elements<TableCell>().Select(TextOf).Where(t => t is not null).Take(3).ToList() ??
            [];
        var first = string.Join(", ", cells);
        return $"Table {index + 1}{(first.Length == 0 ? "" : ": " + (first.Length > 50 ? first[..49] + "…" : first))}";
    }

    public override IRowReader Rows(SourceOptions complete)
    {
        var notes = new SourceNotes();
        var rows = Reading(body =>
        {
            var table =
                body.Descendants<Table>()
                    .Select((t, i) => (t, Name: Called(t, i)))
                    .FirstOrDefault(t => complete.Sheet is null || t.Name == complete.Sheet)
                    .t
                ?? throw new ListFileException($"“{name}” has no table called “{complete.Sheet}”.");
            return table.Elements<TableRow>().Select((row, i) => Cells(row, i, notes)).ToList();
        });
        return new MemoryRowReader(rows, notes);
    }

    static string?[] Cells(TableRow row, int index, SourceNotes notes)
    {
        var cells = new List<string?>();
        foreach (var cell in row.Elements<TableCell>())
        {
            var properties = cell.TableCellProperties;
            // A cell merged with the one above has no value of its own (17.4.84): only the first has it.
            var covered = properties?.VerticalMerge is { } merge && merge.Val?.Value != MergedCellValues.Restart;
            var span = Math.Clamp(properties?.GridSpan?.Val?.Value ?? 1, 1, 200);
            if (covered || span > 1)
                notes.Add("Merged cells: only the first cell of each has the value", $"row {index + 1:N0}");
            cells.Add(covered ? null : TextOf(cell));
            for (; span > 1; span--)
                cells.Add(null);
        }
        if (cells.Count > SourceFile.MaxColumns)
            throw new ListFileException(
                $"Row {index + 1:N0} has {cells.Count:N0} cells; a list can have {SourceFile.MaxColumns:N0} columns."
            );
        return [.. cells];
    }

    static string? TextOf(TableCell cell)
    {
        var text = string.Join(
                '\n',
                cell.Elements<Paragraph>()
                    .Select(p =>
                        string.Concat(
                            p.Descendants<OpenXmlLeafElement>()
                                .Select(e =>
                                    e switch
                                    {
                                        Text t => t.Text,
                                        TabChar => "\t",
                                        Break or CarriageReturn => "\n",
                                        NoBreakHyphen => "-",
                                        _ => "",
                                    }
                                )
                        ) + string.Concat(p.Descendants<Text>().Where(t => t is not OpenXmlLeafElement).Select(t => t.Text))
                    )
            )
            .Trim();
        return text.Length == 0 ? null : text;
    }

    T Reading<T>(Func<Body, T> read)
    {
        try
        {
            using var document = WordprocessingDocument.Open(path, false);
            return read(document.MainDocumentPart?.Document?.Body ?? throw Damaged());
        }
        catch (Exception e)
            when (e is OpenXmlPackageException or InvalidDataException or FileFormatException or System.Xml.XmlException or IOException)
        {
            throw Damaged();
        }
    }

    ListFileException Damaged() =>
        new($"“{name}” is damaged and cannot be read. Open it in the program that made it, save it anew, and bring that in.");
}
