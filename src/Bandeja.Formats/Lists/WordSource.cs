using System.IO.Compression;
using System.Text;
using System.Xml;

namespace Bandeja.Formats.Lists;

/// <summary>A table in a word processor document (ECMA-376 part 1, section 17.4).</summary>
sealed class WordSource(string path, string name) : PartedSource
{
    public override string Kind => "document";

    public override IReadOnlyList<SheetInfo> Parts()
    {
        var tables = Reading(xml => WordTables.Names(xml).Select(n => new SheetInfo(n, false)).ToList());
        return tables.Count > 0
            ? tables
            : throw new ListFileException(
                $"“{name}” has no table. A list can only be read from a table. Put the recipients into one, or import a " + "spreadsheet."
            );
    }

    public override IRowReader Rows(SourceOptions complete)
    {
        var notes = new SourceNotes();
        var rows = Reading(xml => WordTables.Rows(xml, complete.Sheet, notes));
        return rows is null
            ? throw new ListFileException($"“{name}” has no table called “{complete.Sheet}”.")
            : new MemoryRowReader(rows, notes);
    }

    T Reading<T>(Func<XmlReader, T> read)
    {
        try
        {
            using var archive = ZipFile.OpenRead(path);
            using var part = archive.GetEntry("word/document.xml")?.Open() ?? throw new InvalidDataException();
            using var xml = XmlReader.Create(part, new() { DtdProcessing = DtdProcessing.Prohibit, IgnoreComments = true });
            return read(xml);
        }
        catch (Exception e) when (e is InvalidDataException or XmlException or IOException)
        {
            throw new ListFileException(
                $"“{name}” is damaged and cannot be read. Open it in the program that created it, save it again, and import the new file."
            );
        }
    }
}

/// <summary>
/// Goes through the main part of a word processor document once, tag by tag, and takes the tables out of it; a document of any length
/// takes no more memory than the table that is wanted.
/// </summary>
sealed class WordTables
{
    const int LongestSpan = 200,
        NamedCells = 3,
        LongestName = 50;

    /// <summary>A table that is open at this place; tables stand within cells of others.</summary>
    sealed class Open(int index)
    {
        public int Index => index;
        public List<string?>? Row { get; set; }
        public StringBuilder? Cell { get; set; }
        public int Paragraphs { get; set; }
        public int Span { get; set; }
        public bool Covered { get; set; }
        public int RowNumber { get; set; }
    }

    readonly XmlReader xml;
    readonly Stack<Open> open = [];
    readonly CellCount count = new();
    int tables;

    WordTables(XmlReader xml) => this.xml = xml;

    /// <summary>Table 1: First, Last …, for each table of the document.</summary>
    public static List<string> Names(XmlReader xml)
    {
        var names = new List<string>();
        new WordTables(xml).Walk(
            t => names.Add($"Table {t.Index + 1}"),
            (t, row) =>
            {
                if (t.RowNumber == 1)
                    names[t.Index] = Named(t.Index, row);
            },
            null
        );
        return names;
    }

    /// <summary>The rows of the table of that name, or of the first one; null where there is none.</summary>
    public static List<string?[]>? Rows(XmlReader xml, string? wanted, SourceNotes notes)
    {
        List<string?[]>? rows = null;
        var chosen = -1;
        var document = new WordTables(xml);
        document.Walk(
            t =>
            {
                if (chosen < 0 && wanted is null)
                    (chosen, rows) = (t.Index, []);
            },
            (t, row) =>
            {
                if (chosen < 0 && t.RowNumber == 1 && wanted == Named(t.Index, row))
                    (chosen, rows) = (t.Index, []);
                if (t.Index == chosen)
                    rows!.Add(row);
            },
            notes
        );
        // A table without rows has its number alone for a name.
        return rows ?? (Enumerable.Range(1, document.tables).Any(n => wanted == $"Table {n}") ? [] : null);
    }

    static string Named(int index, string?[] firstRow)
    {
        var first = string.Join(", ", firstRow.Where(t => t is not null).Take(NamedCells));
        if (first.Length > LongestName)
            first = first[..(LongestName - 1)] + "…";
        return $"Table {index + 1}{(first.Length == 0 ? "" : ": " + first)}";
    }

    void Walk(Action<Open> began, Action<Open, string?[]> row, SourceNotes? notes)
    {
        xml.MoveToContent();
        while (!xml.EOF)
        {
            if (xml.NodeType == XmlNodeType.Element)
            {
                // What an older program shows instead (ECMA-376 part 3, section 9.3) would be the same text a second time.
                if (xml.LocalName == "Fallback")
                {
                    xml.Skip();
                    continue;
                }
                if (xml.Depth > ListLimits.XmlDepth)
                    throw new ListFileException($"The document has parts nested more than {ListLimits.XmlDepth} deep; it was not read.");
                Begins(began);
                if (xml.IsEmptyElement)
                    Ends(row, notes);
            }
            else if (xml.NodeType == XmlNodeType.EndElement)
                Ends(row, notes);
            if (!xml.Read())
                break;
        }
    }

    void Begins(Action<Open> began)
    {
        var table = open.TryPeek(out var top) ? top : null;
        switch (xml.LocalName)
        {
            case "tbl":
                var next = new Open(tables++);
                open.Push(next);
                began(next);
                break;
            case "tr" when table is { Row: null }:
                table.Row = [];
                table.RowNumber++;
                break;
            case "tc" when table is { Row: not null, Cell: null }:
                (table.Cell, table.Paragraphs, table.Span, table.Covered) = (new(), 0, 1, false);
                break;
            case "gridSpan" when table?.Cell is not null:
                table.Span = int.TryParse(Value(), out var span) ? Math.Clamp(span, 1, LongestSpan) : 1;
                break;
            // A cell merged with the one above has no value of its own (17.4.84): only the first has it.
            case "vMerge" when table?.Cell is not null:
                table.Covered = Value() != "restart";
                break;
            case "p" when table?.Cell is { } cell && table.Paragraphs++ > 0:
                cell.Append('\n');
                break;
            case "t" when table?.Cell is { } cell && !xml.IsEmptyElement:
                while (
                    xml.Read()
                    && xml.NodeType is XmlNodeType.Text or XmlNodeType.Whitespace or XmlNodeType.SignificantWhitespace or XmlNodeType.CDATA
                )
                    if (cell.Length + xml.Value.Length > ListLimits.CellLength)
                        throw new ListFileException(
                            $"A cell in row {table.RowNumber:N0} of table {table.Index + 1:N0} has more than "
                                + $"{ListLimits.CellLength:N0} characters."
                        );
                    else
                        cell.Append(xml.Value);
                break;
            // The tab of a paragraph's own stops, within its properties, is no character.
            case "tab" when table?.Cell is { } cell && !xml.HasAttributes:
                cell.Append('\t');
                break;
            case "br" or "cr" when table?.Cell is { } cell:
                cell.Append('\n');
                break;
            case "noBreakHyphen" when table?.Cell is { } cell:
                cell.Append('-');
                break;
        }
    }

    string? Value() => xml.GetAttribute("val", xml.NamespaceURI);

    void Ends(Action<Open, string?[]> row, SourceNotes? notes)
    {
        if (!open.TryPeek(out var table))
            return;
        switch (xml.LocalName)
        {
            case "tbl":
                open.Pop();
                break;
            case "tc" when table is { Row: { } cells, Cell: { } cell }:
                if (table.Covered || table.Span > 1)
                    notes?.Add("Merged cells: only the first cell of each has the value", $"row {table.RowNumber:N0}");
                var text = cell.ToString().Trim();
                cells.Add(table.Covered || text.Length == 0 ? null : text);
                for (var i = 1; i < table.Span; i++)
                    cells.Add(null);
                if (cells.Count > SourceFile.MaxColumns)
                    throw new ListFileException(
                        $"Row {table.RowNumber:N0} has {cells.Count:N0} cells; a list can have {SourceFile.MaxColumns:N0} columns."
                    );
                table.Cell = null;
                break;
            case "tr" when table.Row is { } whole:
                string?[] made = [.. whole];
                count.Add(made, table.RowNumber);
                table.Row = null;
                row(table, made);
                break;
        }
    }
}
