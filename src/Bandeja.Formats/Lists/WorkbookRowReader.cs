using System.Globalization;
using ExcelDataReader;
using ExcelDataReader.Exceptions;
using ExcelNumberFormat;

namespace Bandeja.Formats.Lists;

/// <summary>Reads a sheet of a workbook: formulas by their value, dates as dates, and numbers that are codes as the sheet shows
/// them.</summary>
sealed class WorkbookRowReader : IRowReader
{
    readonly FileStream file;
    readonly IExcelDataReader reader;
    readonly Dictionary<string, (NumberFormat Format, bool IsCode)> formats = [];
    readonly int rowCount;
    readonly Task<SourceNotes>? errors;

    // The reader of older workbooks asks for code pages that .NET has only on request.
    static WorkbookRowReader() => System.Text.Encoding.RegisterProvider(System.Text.CodePagesEncodingProvider.Instance);

    /// <param name="path">The file.</param>
    /// <param name="sheet">The sheet's name.</param>
    /// <param name="errorRows">In how many rows cells with errors are looked for. That is a pass of its own over the sheet, and goes on
    /// beside the reading.</param>
    public WorkbookRowReader(string path, string? sheet, int errorRows)
    {
        file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read);
        try
        {
            reader = Open(file);
            if (sheet is not null)
                for (var i = 0; WorkbookSheets.Named(reader.Name, i) != sheet; i++)
                    if (!reader.NextResult())
                        throw new ListFileException($"The workbook has no sheet called “{sheet}”.");
            rowCount = reader.RowCount;
            var name = reader.Name;
            if (errorRows > 0)
                errors = Task.Run(() => CellErrors.Of(path, name, errorRows));
            foreach (var merged in (reader.MergeCells ?? []).Take(1000))
                Notes.Add(
                    "Merged cells: only the first cell of each has the value",
                    $"{Name(merged.FromColumn)}{merged.FromRow + 1}:{Name(merged.ToColumn)}{merged.ToRow + 1}"
                );
        }
        catch (Exception e)
        {
            file.Dispose();
            if (e is ListFileException or OutOfMemoryException)
                throw;
            throw Damaged();
        }
    }

    public SourceNotes Notes { get; } = new();
    public int RowNumber { get; private set; }
    public double Progress => rowCount == 0 ? 1 : Math.Min(1, (double)RowNumber / rowCount);

    static IExcelDataReader Open(Stream stream)
    {
        try
        {
            return ExcelReaderFactory.CreateReader(stream, new ExcelReaderConfiguration { LeaveOpen = true });
        }
        catch (InvalidPasswordException)
        {
            throw new ListFileException("The workbook is password-protected. Save a copy without the password and import the copy.");
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            throw Damaged();
        }
    }

    static ListFileException Damaged() =>
        new("The workbook is damaged and cannot be read. Open it in the program that created it, save it again, and import the new file.");

    /// <summary>The workbook's sheets, the hidden ones marked.</summary>
    public static IReadOnlyList<SheetInfo> Sheets(string path)
    {
        using var file = File.OpenRead(path);
        // The reader looks through every sheet before it gives its name; a workbook of the newer kind says the names at once.
        if (file.ReadByte() == 0x50 && WorkbookSheets.Of(path) is { } named)
            return named;
        file.Position = 0;
        using var reader = Open(file);
        var sheets = new List<SheetInfo>();
        try
        {
            do sheets.Add(new(WorkbookSheets.Named(reader.Name, sheets.Count), reader.VisibleState != "visible"));
            while (reader.NextResult());
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            throw Damaged();
        }
        return sheets;
    }

    public bool Read()
    {
        try
        {
            if (!reader.Read())
            {
                TakeErrors();
                return false;
            }
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            throw Damaged();
        }
        RowNumber = reader.Depth + 1;
        return true;
    }

    void TakeErrors()
    {
        if (errors is not null && !taken)
            Notes.AddAll(errors.Result);
        taken = true;
    }

    bool taken;

    /// <summary>Takes up the errors found, for somebody who stops reading before the end.</summary>
    public void Stop() => TakeErrors();

    public string?[] Cells()
    {
        var cells = new string?[reader.FieldCount];
        var last = -1;
        for (var i = 0; i < cells.Length; i++)
        {
            cells[i] = Text(i);
            if (cells[i] is not null)
                last = i;
        }
        return last + 1 == cells.Length ? cells : cells[..(last + 1)];
    }

    string? Text(int column)
    {
        switch (reader.GetValue(column))
        {
            case null:
                return null;
            case string s:
                s = s.Replace("\0", "");
                return s.Length == 0 ? null : s;
            case bool b:
                return b ? "yes" : "no";
            case DateTime d:
                return d.ToString(d.TimeOfDay == TimeSpan.Zero ? "yyyy-MM-dd" : "yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture);
            case TimeSpan t:
                return t.ToString(@"h\:mm", CultureInfo.InvariantCulture);
            case double number:
                return Number(number, reader.GetNumberFormatString(column));
            case var other:
                return Convert.ToString(other, CultureInfo.InvariantCulture);
        }
    }

    /// <summary>The longest format code that spreadsheet programs write; a longer one is there to fill the memory.</summary>
    const int LongestPattern = 255;

    public string? Shown(int cell)
    {
        if (reader.GetValue(cell) is not double number || FormatOf(reader.GetNumberFormatString(cell)) is not { Format: var format })
            return null;
        try
        {
            return format.Format(number, CultureInfo.InvariantCulture);
        }
        catch (Exception e) when (e is OverflowException or ArgumentException or FormatException or InvalidCastException)
        {
            // A format of hours cannot show every number. The value is read all the same.
            return null;
        }
    }

    /// <summary>A cell's number format; null where it has none that can be read.</summary>
    (NumberFormat Format, bool IsCode)? FormatOf(string? pattern)
    {
        if (string.IsNullOrEmpty(pattern) || pattern == "General" || pattern.Length > LongestPattern)
            return null;
        if (!formats.TryGetValue(pattern, out var format))
            formats[pattern] = format = (new NumberFormat(pattern), IsCode(pattern));
        return format.Format.IsValid ? format : null;
    }

    string Number(double number, string? pattern)
    {
        if (FormatOf(pattern) is { IsCode: true } code)
            return code.Format.Format(number, CultureInfo.InvariantCulture);
        // A spreadsheet keeps 15 significant digits; what binary floating point has beyond them is noise.
        return decimal.TryParse(
            number.ToString("G15", CultureInfo.InvariantCulture),
            NumberStyles.Float,
            CultureInfo.InvariantCulture,
            out var value
        )
            ? value.ToString(CultureInfo.InvariantCulture)
            : number.ToString("R", CultureInfo.InvariantCulture);
    }

    /// <summary>True for formats that make digits a code: <c>00000</c>, <c>00000-0000</c>, <c>(000) 000-0000</c>. Money, percentages and
    /// decimals are quantities.</summary>
    static bool IsCode(string pattern)
    {
        var first = pattern.Split(';')[0];
        if (first.AsSpan().IndexOfAny("%.,$€£Ee") >= 0)
            return false;
        return first.Contains("00", StringComparison.Ordinal)
            || first.Contains('-') && first.Contains('#')
            || first.Contains('(') && first.Contains('#');
    }

    static string Name(int column)
    {
        var name = "";
        for (var n = column + 1; n > 0; n = (n - 1) / 26)
            name = (char)('A' + (n - 1) % 26) + name;
        return name;
    }

    public void Dispose()
    {
        reader.Dispose();
        file.Dispose();
    }
}
