using System.IO.Compression;
using System.Text;
using Bandeja.Core.Lists;

namespace Bandeja.Formats.Lists;

/// <summary>A file that a list is brought in from: told by its content, not by its name.</summary>
public sealed class SourceFile
{
    /// <summary>The most columns a list can have (SQLite's limit of 2000, less our own).</summary>
    public const int MaxColumns = 1900;
    const int SampleRows = 2000, ShownRows = 40, HeadBytes = 1 << 20;
    /// <summary>What a workbook may unpack to.</summary>
    public const long MaxUnpacked = 2L << 30;

    readonly string path;
    readonly bool workbook;
    readonly byte[] head;
    readonly bool headIsWhole;
    readonly List<string> openingNotes = [];

    SourceFile(string path, bool workbook, byte[] head, bool headIsWhole) => (this.path, this.workbook, this.head, this.headIsWhole) = (path, workbook, head, headIsWhole);

    /// <summary>Opens a file.</summary>
    /// <param name="path">Where it is.</param>
    /// <param name="name">What the user calls it, for the messages.</param>
    /// <exception cref="ListFileException">It is empty, damaged, or nothing that a list can be read from.</exception>
    public static SourceFile Open(string path, string name)
    {
        using var stream = File.OpenRead(path);
        if (stream.Length == 0) throw new ListFileException($"“{name}” is empty: it has no bytes at all.");
        var head = new byte[Math.Min(HeadBytes, stream.Length)];
        stream.ReadExactly(head);
        var whole = head.Length == stream.Length;
        var extension = Path.GetExtension(name).ToLowerInvariant();
        if (head is [0x50, 0x4B, ..])
        {
            CheckWorkbookArchive(path, name);
            return Noted(new(path, true, head, whole), extension is ".xlsx" or ".xlsm", $"“{name}” is a workbook, whatever its name says; it is read as one.");
        }
        if (head is [0xD0, 0xCF, 0x11, 0xE0, ..])
            return Noted(new(path, true, head, whole), extension == ".xls", $"“{name}” is a workbook of the older kind; it is read as one.");
        var isA = head switch
        {
            [0x25, 0x50, 0x44, 0x46, ..] => "a PDF",
            [0x89, 0x50, 0x4E, 0x47, ..] or [0xFF, 0xD8, 0xFF, ..] or [0x47, 0x49, 0x46, 0x38, ..] => "a picture",
            [0x53, 0x51, 0x4C, 0x69, 0x74, 0x65, ..] => "a database",
            [0x7B, 0x5C, 0x72, 0x74, 0x66, ..] => "a word processor document",
            _ => null,
        };
        if (isA is not null) throw new ListFileException($"“{name}” is {isA}, not a list. Bring in a CSV file or an XLSX workbook.");
        if (LooksBinary(head, whole)) throw new ListFileException($"“{name}” is neither text nor a workbook. Bring in a CSV file or an XLSX workbook.");
        return Noted(new(path, false, head, whole), extension is not (".xlsx" or ".xlsm" or ".xls"), $"“{name}” is plain text, whatever its name says; it is read as CSV.");
    }

    static SourceFile Noted(SourceFile file, bool asNamed, string note)
    {
        if (!asNamed) file.openingNotes.Add(note);
        return file;
    }

    static bool LooksBinary(byte[] head, bool whole)
    {
        if (Encodings.Recognise(head, whole).StartsWith("utf-16", StringComparison.Ordinal)) return false;
        var odd = head.Take(8192).Count(b => b < 0x20 && b is not (9 or 10 or 13 or 12 or 0x1a) && b != 0);
        var nul = head.Take(8192).Count(b => b == 0);
        return odd > Math.Min(head.Length, 8192) / 50 || nul > Math.Min(head.Length, 8192) / 10;
    }

    /// <summary>Looks into the archive and unpacks it once with a counter, so that a small file that unpacks to a huge one is stopped before it is read.</summary>
    static void CheckWorkbookArchive(string path, string name)
    {
        try
        {
            using var archive = ZipFile.OpenRead(path);
            if (archive.GetEntry("xl/workbook.xml") is null && archive.GetEntry("xl/workbook.bin") is null)
                throw new ListFileException($"“{name}” is a ZIP archive, not a workbook. Unpack it and bring in the CSV file or XLSX workbook inside.");
            var left = MaxUnpacked;
            var buffer = new byte[1 << 16];
            foreach (var entry in archive.Entries)
            {
                using var part = entry.Open();
                for (int read; (read = part.Read(buffer)) > 0;)
                    if ((left -= read) < 0) throw new ListFileException($"“{name}” unpacks to more than {MaxUnpacked >> 30} GB. That is not an honest list; it was not read.");
            }
        }
        catch (InvalidDataException)
        {
            throw new ListFileException($"“{name}” is damaged: its archive cannot be unpacked. Save it anew and bring that in.");
        }
    }

    /// <summary>Options with everything recognised that was left open.</summary>
    public SourceOptions Complete(SourceOptions options)
    {
        if (workbook)
        {
            if (options.Sheet is not null) return options;
            var sheets = WorkbookRowReader.Sheets(path);
            return options with { Sheet = (sheets.FirstOrDefault(s => !s.Hidden && HasRows(s.Name)) ?? sheets.FirstOrDefault(s => !s.Hidden) ?? sheets[0]).Name };
        }
        var encoding = options.Encoding ?? Encodings.Recognise(head, headIsWhole);
        var delimiter = options.Delimiter is { Length: 1 } d ? d : DelimiterGuess.Of(Encodings.Get(encoding).GetString(head.AsSpan(0, Math.Min(head.Length, 64 << 10)))).ToString();
        return options with { Encoding = encoding, Delimiter = delimiter };
    }

    bool HasRows(string sheet)
    {
        using var reader = new WorkbookRowReader(path, sheet);
        for (var i = 0; i < 20 && reader.Read(); i++) if (reader.Cells().Length > 0) return true;
        return false;
    }

    /// <summary>Opens the rows. The options must be complete.</summary>
    public IRowReader Rows(SourceOptions complete) =>
        workbook ? new WorkbookRowReader(path, complete.Sheet) : new CsvRowReader(path, Encodings.Get(complete.Encoding!), complete.Delimiter![0]);

    /// <summary>Looks at the first rows and recognises sheet, headings, types and roles.</summary>
    /// <exception cref="ListFileException">The first rows cannot be read.</exception>
    public SourceLook Look(SourceOptions options, DateOrder preferred)
    {
        options = Complete(options);
        var rows = new List<string?[]>();
        var numbers = new List<int>();
        SourceNotes readNotes;
        using (var reader = Rows(options))
        {
            while (rows.Count < SampleRows && reader.Read())
            {
                rows.Add(reader.Cells());
                numbers.Add(reader.RowNumber);
            }
            readNotes = reader.Notes;
        }
        var headingRow = options.HeadingRow is { } chosen ? Math.Clamp(chosen, -1, Math.Max(-1, rows.Count - 1)) : Headings.FindRow(rows.Take(ShownRows).ToList());
        var body = rows.Skip(headingRow + 1).Where(r => r.Any(c => c is not null)).ToList();
        var width = Math.Max(headingRow >= 0 ? rows[headingRow].Length : 0, body.Count == 0 ? 0 : body.Max(r => r.Length));
        var problem = width > MaxColumns ? $"The file has {width:N0} columns; a list can have {MaxColumns:N0}."
            : rows.Count == 0 || rows.All(r => r.All(c => c is null)) ? workbook ? $"The sheet “{options.Sheet}” is empty. Choose another sheet." : "The file has no rows."
            : body.Count == 0 ? $"There are headings in row {numbers[headingRow]}, but no recipients under them."
            : null;
        width = Math.Min(width, MaxColumns);
        var cleaned = Headings.Clean([.. Enumerable.Range(0, width).Select(c => headingRow >= 0 && c < rows[headingRow].Length ? rows[headingRow][c] : null)]);
        var roles = RoleRecognizer.FromHeadings(cleaned.Names);
        var columns = cleaned.Names.Select((name, c) =>
        {
            var guess = TypeGuesser.Guess(name, body.Select(r => c < r.Length ? r[c] : null), preferred);
            return new SourceColumn(name, guess.Type, guess.DateOrder, roles[c]);
        }).ToList();
        var notes = openingNotes.Concat(headingRow >= 0 ? cleaned.Notes : ["No row of headings was found; the columns are numbered. Click the row that holds them if there is one."]).Concat(readNotes.Sentences()).ToList();
        var sheets = workbook ? WorkbookRowReader.Sheets(path) : [];
        if (sheets.Any(s => s.Hidden)) notes.Add($"The workbook has hidden sheets: {string.Join(", ", sheets.Where(s => s.Hidden).Select(s => s.Name))}.");
        return new(workbook ? "workbook" : "csv", sheets, options.Sheet, options.Encoding, options.Delimiter, headingRow,
            [.. rows.Take(ShownRows)], [.. numbers.Take(ShownRows)], columns, notes, problem);
    }
}
