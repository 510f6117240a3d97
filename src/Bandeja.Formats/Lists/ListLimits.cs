namespace Bandeja.Formats.Lists;

/// <summary>
/// What a file may hold. The limits are far above any list that is mailed to, and low enough that no file, whatever its format, can fill
/// the memory or keep a reader busy without end. <see cref="BoundedRows"/> holds every format to them.
/// </summary>
public static class ListLimits
{
    /// <summary>Characters in one cell. A spreadsheet's own limit is 32,767; text columns of databases hold more.</summary>
    public const int CellLength = 1_000_000;

    /// <summary>Cells of all rows together, blank ones between filled ones included: a million rows of a hundred columns.</summary>
    public const long Cells = 100_000_000;

    /// <summary>Characters of all cells together.</summary>
    public const long Characters = 2_000_000_000;

    /// <summary>Blank rows of the whole file, those that are only passed over included: twice the rows of the largest
    /// spreadsheet.</summary>
    public const long BlankRows = 2_100_000;

    /// <summary>How deep the elements of an XML part may be nested. A table within a table takes eight levels.</summary>
    public const int XmlDepth = 256;

    /// <summary>Bytes of one tag, or of the text between two tags, of an XML part: a cell of the longest text, in the longest
    /// encoding.</summary>
    public const int XmlPiece = 4 * CellLength + 4096;
}

/// <summary>Counts cells and characters while they are read, so that what is kept in memory is refused before it is too much.</summary>
sealed class CellCount
{
    long cells,
        characters;

    /// <summary>Counts one row.</summary>
    /// <param name="row">Its number, for the message.</param>
    /// <exception cref="ListFileException">A cell is too long, or there are too many.</exception>
    public void Add(string?[] row, int number)
    {
        Add(row.Length, number);
        foreach (var cell in row)
        {
            if (cell is null)
                continue;
            if (cell.Length > ListLimits.CellLength)
                throw new ListFileException(
                    $"Row {number:N0} has a cell of {cell.Length:N0} characters; a cell can have {ListLimits.CellLength:N0}."
                );
            if ((characters += cell.Length) > ListLimits.Characters)
                throw new ListFileException($"The file has more than {ListLimits.Characters:N0} characters. Split it into several files.");
        }
    }

    /// <summary>Counts cells that a file stands for without holding each of them.</summary>
    /// <exception cref="ListFileException">There are too many.</exception>
    public void Add(long more, int number)
    {
        if ((cells += more) > ListLimits.Cells)
            throw new ListFileException(
                $"At row {number:N0} the file has more than {ListLimits.Cells:N0} cells, which is more than a list can have. Divide "
                    + "it into "
                    + "several files, or remove the columns you do not need."
            );
    }
}

/// <summary>Holds any format to the limits of <see cref="ListLimits"/>, row by row.</summary>
sealed class BoundedRows(IRowReader inner) : IRowReader
{
    readonly CellCount count = new();
    long blank;
    string?[] cells = [];

    public bool Read()
    {
        if (!inner.Read())
            return false;
        cells = inner.Cells();
        if (cells.Length == 0 || Array.TrueForAll(cells, string.IsNullOrEmpty))
            blank++;
        if (blank > ListLimits.BlankRows)
            throw new ListFileException(
                $"The file has more than {ListLimits.BlankRows:N0} blank rows. Something is far below the list. Delete the rows below it "
                    + "out, and save the file anew."
            );
        count.Add(cells, inner.RowNumber);
        return true;
    }

    public int RowNumber => inner.RowNumber;

    public string?[] Cells() => cells;

    public string? Shown(int cell) => inner.Shown(cell);

    public SourceNotes Notes => inner.Notes;
    public double Progress => inner.Progress;

    public void Stop() => inner.Stop();

    public void Dispose() => inner.Dispose();
}
