using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace Bandeja.Formats.Lists;

/// <summary>Reads delimited text (RFC 4180, with any delimiter and any line ends).</summary>
sealed class CsvRowReader : IRowReader
{
    const int LongestCell = 1_000_000;
    readonly FileStream file;
    readonly CsvParser parser;
    int start,
        expected;
    bool strayQuote;

    public CsvRowReader(string path, Encoding encoding, char delimiter)
    {
        file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16, FileOptions.SequentialScan);
        var reader = new StreamReader(file, encoding, detectEncodingFromByteOrderMarks: true, 1 << 16);
        parser = new CsvParser(
            reader,
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                Delimiter = delimiter.ToString(),
                BadDataFound = _ => strayQuote = true,
                MaxFieldSize = LongestCell,
                // Blank lines are passed over here, so that every row has the number of its line.
                IgnoreBlankLines = false,
                BufferSize = 1 << 16,
                ProcessFieldBufferSize = 4096,
            }
        );
    }

    public SourceNotes Notes { get; } = new();
    public int RowNumber { get; private set; }
    public double Progress => file.Length == 0 ? 1 : (double)file.Position / file.Length;

    public bool Read()
    {
        while (ReadRecord())
            if (parser.Count > 1 || parser.Count == 1 && parser[0].Length > 0)
                return true;
        return false;
    }

    bool ReadRecord()
    {
        start = parser.RawRow + 1;
        strayQuote = false;
        try
        {
            if (!parser.Read())
                return false;
        }
        catch (MaxFieldSizeException)
        {
            throw Unclosed(start);
        }
        var lines = parser.RawRow - start;
        RowNumber = start;
        if (expected == 0 && (parser.Count > 1 || parser.Count == 1 && parser[0].Length > 0))
            expected = parser.Count;
        // A cell that was opened with a quote and never closed swallows the lines after it: it shows as a record over several lines, as a
        // short one, or as the last.
        var atEnd = file.Position >= file.Length;
        if (
            (lines > 0 || atEnd || parser.Count < expected)
            && parser.RawRecord is { } raw
            && raw.Contains('"')
            && raw.Count(c => c == '"') % 2 == 1
        )
            throw Unclosed(start);
        return true;
    }

    static ListFileException Unclosed(int row) =>
        new(
            $"Row {row:N0}: a cell starts with a quotation mark that is never closed, so the end of the cell is unknown. Fix "
                + "the quotation mark in that row and import the file again."
        );

    public string?[] Cells()
    {
        var cells = new string?[parser.Count];
        for (var i = 0; i < cells.Length; i++)
        {
            var value = parser[i];
            if (value.Length == 0)
                continue;
            if (value.Contains('\0'))
            {
                Notes.Add("Null characters were removed", $"row {RowNumber:N0}");
                value = value.Replace("\0", "");
            }
            if (value.Contains('\uFFFD'))
                Notes.Add("Characters do not match the chosen encoding", $"row {RowNumber:N0}");
            // Our own files write '=, '+ and the like, so that a spreadsheet starts no formula; here the apostrophe goes again.
            if (value.Length > 1 && value[0] == '\'' && value[1] is '=' or '+' or '-' or '@')
                value = value[1..];
            cells[i] = value.Length == 0 ? null : value;
        }
        if (strayQuote)
            Notes.Add("Stray quotation marks were kept as is", $"row {RowNumber:N0}");
        return cells;
    }

    public void Dispose()
    {
        parser.Dispose();
        file.Dispose();
    }
}
