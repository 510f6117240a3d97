using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Formats.Lists;

/// <summary>A file that cannot be read as a list. The message says what and where, for the user.</summary>
public sealed class ListFileException(string message) : Exception(message);

/// <summary>How a file is to be read; what is null is recognized.</summary>
/// <param name="Sheet">The sheet, table or view, where a file has several.</param>
/// <param name="HeadingRow">Zero-based row of the headings, -1 for no headings.</param>
/// <param name="Encoding">A name from <see cref="Encodings.Known"/>, for CSV.</param>
/// <param name="Delimiter">One character, for CSV.</param>
/// <param name="HeadingSpan">2 where the headings take two rows, the chosen one and the one above it; else 1.</param>
/// <param name="Query">A SELECT, for a database; null for the whole of <paramref name="Sheet"/>.</param>
public sealed record SourceOptions(
    string? Sheet = null,
    int? HeadingRow = null,
    string? Encoding = null,
    string? Delimiter = null,
    int? HeadingSpan = null,
    string? Query = null
);

/// <summary>A sheet of a workbook, a table of a document, a table or view of a database.</summary>
public sealed record SheetInfo(string Name, bool Hidden);

/// <summary>A column as it was recognized.</summary>
/// <param name="Confidence">How sure its role is, in percent; 0 without one.</param>
/// <param name="Why">What the role was taken from.</param>
/// <param name="NumberForm">For numbers: their decimal sign.</param>
/// <param name="Ambiguous">True where the values leave the order of day and month, or the decimal sign, open: somebody has to say.</param>
/// <param name="Format">For numbers: how they are written in the file and print where a field names no format, see <see
/// cref="UsualFormat"/>.</param>
/// <param name="Time">For dates, and for text that may be dates: a time of day that stands with one of them, as it would be kept, see <see
/// cref="TimesOfDay"/>; null where none does.</param>
/// <param name="KeepTimes">True where it is proposed to keep the times of day in a column of their own.</param>
/// <param name="FamilyFirst">For whole names: true where they stand with the family name first and no comma.</param>
/// <param name="PartsTurned">For whole names: as <paramref name="Parts"/>, if they stood in the other order.</param>
/// <param name="Split">For a whole name or a whole address: true where it is proposed to split it.</param>
/// <param name="Parts">For a whole name or a whole address: how the first values would be divided, the headings of the parts first.</param>
public sealed record SourceColumn(
    string Name,
    ColumnType Type,
    DateOrder DateOrder,
    Role Role,
    int Confidence,
    string Why,
    IReadOnlyList<string?[]> Parts,
    NumberForm NumberForm = NumberForm.Point,
    bool Ambiguous = false,
    string? Format = null,
    string? Time = null,
    bool KeepTimes = false,
    bool FamilyFirst = false,
    IReadOnlyList<string?[]>? PartsTurned = null,
    bool Split = false
);

/// <summary>What an organization is used to, for what a file leaves open.</summary>
/// <param name="Dates">The order of day and month where a date does not tell.</param>
/// <param name="Home">Its country.</param>
/// <param name="Currency">ISO 4217.</param>
public sealed record ListCustoms(DateOrder Dates, Country Home, string Currency)
{
    /// <summary>Those of the United States.</summary>
    public static readonly ListCustoms UnitedStates = new(DateOrder.MonthDayYear, Countries.Named("US")!, "USD");
}

/// <summary>What a file looks like before anything is stored.</summary>
/// <param name="Kind">Its format, see <see cref="ListFormats"/>.</param>
/// <param name="FirstRows">The first rows as they were read, headings and what stands above them included.</param>
/// <param name="FirstRowNumbers">Their one-based row numbers in the file.</param>
/// <param name="HeadingRow">Zero-based index into <paramref name="FirstRows"/>, -1 for no headings.</param>
/// <param name="HeadingSpan">How many rows the headings take, 1 or 2.</param>
/// <param name="Query">The SELECT, for a database.</param>
/// <param name="Notes">What was found and what was done about it.</param>
/// <param name="Readings">How the text reads in several encodings, where its own cannot be told; empty else.</param>
/// <param name="Problem">Why it cannot be brought in as it is read now; null where it can.</param>
/// <param name="NamesItsColumns">True where the format names its columns, so that there is no row of headings to choose.</param>
public sealed record SourceLook(
    string Kind,
    IReadOnlyList<SheetInfo> Sheets,
    string? Sheet,
    string? Encoding,
    string? Delimiter,
    int HeadingRow,
    int HeadingSpan,
    string? Query,
    IReadOnlyList<string?[]> FirstRows,
    IReadOnlyList<int> FirstRowNumbers,
    IReadOnlyList<SourceColumn> Columns,
    IReadOnlyList<string> Notes,
    IReadOnlyList<EncodingReading> Readings,
    string? Problem,
    bool NamesItsColumns = false
);

/// <summary>One kind of remark: what was found, how often, and the first places.</summary>
public sealed record SourceNote(string What, int Count, IReadOnlyList<string> Places);

/// <summary>Rows of a file, one after another.</summary>
public interface IRowReader : IDisposable
{
    /// <summary>Moves to the next row.</summary>
    /// <exception cref="ListFileException">The file is broken here.</exception>
    bool Read();

    /// <summary>One-based row (for CSV: line) number in the file.</summary>
    int RowNumber { get; }

    /// <summary>The row's cells; the array is the caller's to keep. Blank is null.</summary>
    string?[] Cells();

    /// <summary>How the file shows the number in a cell of the row; null where it shows the value.</summary>
    string? Shown(int cell) => null;

    /// <summary>What was found on the way.</summary>
    SourceNotes Notes { get; }

    /// <summary>How far the reader is, 0 to 1.</summary>
    double Progress { get; }

    /// <summary>Ends the reading before the last row: what was found beside it is taken up into the notes.</summary>
    void Stop() { }
}

/// <summary>A file that rows can be read from.</summary>
public interface IListFile
{
    /// <summary>Opens the rows. The options must be complete.</summary>
    /// <exception cref="ListFileException">They cannot be read as the options say.</exception>
    IRowReader Rows(SourceOptions complete);
}

/// <summary>Collects remarks of one kind, with the first few places, instead of one sentence for each of thousands of rows.</summary>
public sealed class SourceNotes
{
    readonly Dictionary<string, (int Count, List<string> Places)> byKind = [];

    /// <summary>Notes that something was found at a place.</summary>
    public void Add(string what, string place)
    {
        if (!byKind.TryGetValue(what, out var known))
            known = (0, []);
        if (known.Places.Count < 3)
            known.Places.Add(place);
        byKind[what] = (known.Count + 1, known.Places);
    }

    /// <summary>What was noted, to be carried to another process.</summary>
    public IReadOnlyList<SourceNote> All => [.. byKind.Select(k => new SourceNote(k.Key, k.Value.Count, k.Value.Places))];

    /// <summary>Takes up what was carried over.</summary>
    public void AddAll(IEnumerable<SourceNote> notes)
    {
        var other = new SourceNotes();
        foreach (var note in notes)
            other.byKind[note.What] = (note.Count, [.. note.Places]);
        AddAll(other);
    }

    /// <summary>Takes up what was noted elsewhere.</summary>
    public void AddAll(SourceNotes other)
    {
        foreach (var (what, noted) in other.byKind)
            byKind[what] = byKind.TryGetValue(what, out var known)
                ? (known.Count + noted.Count, [.. known.Places.Concat(noted.Places).Take(3)])
                : noted;
    }

    /// <summary>A sentence for each kind.</summary>
    public IReadOnlyList<string> Sentences() =>
        [
            .. byKind.Select(k =>
                $"{k.Key} ({k.Value.Count:N0}: {string.Join(", ", k.Value.Places)}{(k.Value.Count > k.Value.Places.Count ? " …" : "")})."
            ),
        ];
}
