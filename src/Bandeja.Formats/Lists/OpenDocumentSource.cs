using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Xml;

namespace Bandeja.Formats.Lists;

/// <summary>A spreadsheet in the OpenDocument format (ISO/IEC 26300, OpenDocument 1.3 part 3, section 9).</summary>
sealed class OpenDocumentSource(string path) : PartedSource
{
    public override string Kind => "opendocument";

    public override IReadOnlyList<SheetInfo> Parts()
    {
        var sheets = new List<SheetInfo>();
        var hiddenStyles = new HashSet<string>();
        Reading(() =>
        {
            using var content = OpenDocumentRowReader.Open(path);
            string? style = null;
            while (content.Xml.Read())
            {
                if (content.Xml.NodeType != XmlNodeType.Element)
                    continue;
                if (content.Xml.LocalName == "style" && content.Xml.GetAttribute("family", OpenDocumentRowReader.Style) == "table")
                    style = content.Xml.GetAttribute("name", OpenDocumentRowReader.Style);
                else if (
                    content.Xml.LocalName == "table-properties"
                    && style is not null
                    && content.Xml.GetAttribute("display", OpenDocumentRowReader.Table) == "false"
                )
                    hiddenStyles.Add(style);
                else if (content.Xml.LocalName == "table" && content.Xml.NamespaceURI == OpenDocumentRowReader.Table)
                    sheets.Add(
                        new(
                            content.Xml.GetAttribute("name", OpenDocumentRowReader.Table) ?? $"Sheet {sheets.Count + 1}",
                            content.Xml.GetAttribute("style-name", OpenDocumentRowReader.Table) is { } s && hiddenStyles.Contains(s)
                        )
                    );
            }
            return true;
        });
        return sheets.Count > 0 ? sheets : throw new ListFileException("The document has no sheets. Import a spreadsheet.");
    }

    public override IRowReader Rows(SourceOptions complete) => new OpenDocumentRowReader(path, complete.Sheet);

    internal static T Reading<T>(Func<T> read)
    {
        try
        {
            return read();
        }
        catch (Exception e) when (e is XmlException or InvalidDataException or IOException)
        {
            throw new ListFileException(
                "The spreadsheet is damaged and cannot be read. Open it in the program that "
                    + "created it, save it again, and import the new file."
            );
        }
    }
}

/// <summary>Reads a sheet of an OpenDocument spreadsheet: formulas by their value, dates as dates, numbers that are codes as the sheet
/// shows them.</summary>
sealed class OpenDocumentRowReader : IRowReader
{
    internal const string Table = "urn:oasis:names:tc:opendocument:xmlns:table:1.0",
        Style = "urn:oasis:names:tc:opendocument:xmlns:style:1.0";
    const string Office = "urn:oasis:names:tc:opendocument:xmlns:office:1.0",
        Text = "urn:oasis:names:tc:opendocument:xmlns:text:1.0";

    readonly Content content;
    string?[] cells = [];
    long blank;
    int repeats;
    readonly CellCount count = new();

    internal sealed record Content(FileStream File, ZipArchive Archive, Stream Part, XmlReader Xml) : IDisposable
    {
        public void Dispose()
        {
            Xml.Dispose();
            Part.Dispose();
            Archive.Dispose();
            File.Dispose();
        }
    }

    internal static Content Open(string path)
    {
        var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read);
        try
        {
            var archive = new ZipArchive(file, ZipArchiveMode.Read);
            var part = archive.GetEntry("content.xml")?.Open() ?? throw new InvalidDataException();
            return new(
                file,
                archive,
                part,
                XmlReader.Create(part, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, IgnoreComments = true })
            );
        }
        catch
        {
            file.Dispose();
            throw;
        }
    }

    public OpenDocumentRowReader(string path, string? sheet)
    {
        content = OpenDocumentSource.Reading(() => Open(path));
        try
        {
            if (!OpenDocumentSource.Reading(() => FindSheet(sheet)))
                throw new ListFileException($"The spreadsheet has no sheet called “{sheet}”.");
        }
        catch
        {
            content.Dispose();
            throw;
        }
    }

    public SourceNotes Notes { get; } = new();
    public int RowNumber { get; private set; }
    public double Progress => content.File.Length == 0 ? 1 : Math.Min(1, (double)content.File.Position / content.File.Length);

    bool FindSheet(string? sheet)
    {
        while (content.Xml.Read())
            if (
                content.Xml.NodeType == XmlNodeType.Element
                && content.Xml.LocalName == "table"
                && content.Xml.NamespaceURI == Table
                && (sheet is null || content.Xml.GetAttribute("name", Table) == sheet)
            )
                return true;
        return false;
    }

    // What the sheet shows for the numbers of the row, by their cells.
    readonly Dictionary<int, string> shown = [];

    public string? Shown(int cell) => shown.GetValueOrDefault(cell);

    public bool Read() => OpenDocumentSource.Reading(ReadRow);

    bool ReadRow()
    {
        if (repeats > 0)
        {
            repeats--;
            RowNumber++;
            return true;
        }
        while (content.Xml.Read())
        {
            if (content.Xml.NodeType == XmlNodeType.EndElement && content.Xml.LocalName == "table" && content.Xml.NamespaceURI == Table)
                return false;
            if (content.Xml.NodeType != XmlNodeType.Element || content.Xml.LocalName != "table-row" || content.Xml.NamespaceURI != Table)
                continue;
            var times = Repeated(content.Xml, "number-rows-repeated");
            cells = ReadCells();
            if (cells.Length == 0)
            {
                // Blank rows are counted, so that row numbers stay those of the sheet, and passed over at once.
                if ((blank += times) > ListLimits.BlankRows)
                    throw new ListFileException($"The sheet has more than {ListLimits.BlankRows:N0} blank rows; it was not read.");
                RowNumber += times;
                return true;
            }
            // A few bytes can stand for any number of rows: what they stand for is counted, not what they take.
            count.Add((long)times * cells.Length, RowNumber + 1);
            repeats = times - 1;
            RowNumber++;
            return true;
        }
        return false;
    }

    static int Repeated(XmlReader xml, string attribute) =>
        int.TryParse(xml.GetAttribute(attribute, Table), NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n > 0 ? n : 1;

    string?[] ReadCells()
    {
        var row = new List<string?>();
        shown.Clear();
        if (content.Xml.IsEmptyElement)
            return [];
        var blank = 0L;
        using var xml = content.Xml.ReadSubtree();
        xml.Read();
        while (xml.Read())
        {
            if (
                xml.NodeType != XmlNodeType.Element
                || xml.NamespaceURI != Table
                || xml.LocalName is not ("table-cell" or "covered-table-cell")
            )
                continue;
            var times = Repeated(xml, "number-columns-repeated");
            if (Repeated(xml, "number-columns-spanned") > 1 && xml.LocalName == "table-cell")
                Notes.Add("Merged cells: only the first cell of each has the value", $"row {RowNumber + 1:N0}");
            var value = Value(xml, out var number);
            if (value is null)
            {
                blank += times;
                continue;
            }
            if (row.Count + blank + times > SourceFile.MaxColumns + 1)
                throw new ListFileException($"Row {RowNumber + 1:N0} has more than {SourceFile.MaxColumns:N0} cells.");
            for (; blank > 0; blank--)
                row.Add(null);
            if (number is not null)
                for (var i = 0; i < times; i++)
                    shown[row.Count + i] = number;
            for (; times > 0; times--)
                row.Add(value);
        }
        return [.. row];
    }

    /// <param name="number">How the sheet shows a number.</param>
    string? Value(XmlReader xml, out string? number)
    {
        number = null;
        var type = xml.GetAttribute("value-type", Office);
        var (value, date, time, boolean) = (
            xml.GetAttribute("value", Office),
            xml.GetAttribute("date-value", Office),
            xml.GetAttribute("time-value", Office),
            xml.GetAttribute("boolean-value", Office)
        );
        var shown = Shown(xml);
        switch (type)
        {
            case "date" when date is not null:
                return date.EndsWith("T00:00:00", StringComparison.Ordinal) ? date[..10] : date.Replace('T', ' ');
            case "boolean":
                return boolean == "true" ? "yes" : "no";
            case "time":
                return shown ?? time;
            case "float" or "currency" or "percentage" when value is not null:
                // What the sheet shows counts where digits are a code: 01234, 123-45; not where it only groups, rounds or names a currency.
                if (type == "float" && shown is not null && IsCode(shown))
                    return shown;
                number = shown;
                return decimal.TryParse(value, NumberStyles.Float, CultureInfo.InvariantCulture, out var read)
                    ? (read / 1.0000000000000000000000000000m).ToString(CultureInfo.InvariantCulture)
                    : value;
        }
        if (
            shown is not null
            && (shown.StartsWith("Err:", StringComparison.Ordinal) || shown is "#REF!" or "#N/A" or "#DIV/0!" or "#VALUE!" or "#NAME?")
        )
        {
            Notes.Add("Cells with a spreadsheet error were left blank", $"row {RowNumber + 1:N0} {shown}");
            return null;
        }
        return shown;
    }

    static bool IsCode(string shown) =>
        shown.Length > 1 && shown[0] == '0' && char.IsAsciiDigit(shown[1])
        || shown.Length > 4 && shown.AsSpan(1).Contains('-') && shown.All(c => char.IsAsciiDigit(c) || c is '-' or ' ' or '(' or ')');

    string? Shown(XmlReader xml)
    {
        if (xml.IsEmptyElement)
            return null;
        var text = new StringBuilder();
        var depth = xml.Depth;
        var skip = -1;
        while (xml.Read() && xml.Depth > depth)
        {
            if (skip >= 0)
            {
                if (xml.NodeType == XmlNodeType.EndElement && xml.Depth == skip)
                    skip = -1;
                continue;
            }
            if (xml.NodeType == XmlNodeType.Element && xml.LocalName == "annotation" && !xml.IsEmptyElement)
                skip = xml.Depth;
            else if (xml.NodeType == XmlNodeType.Element && xml is { LocalName: "p", NamespaceURI: Text } && text.Length > 0)
                text.Append('\n');
            else if (xml.NodeType == XmlNodeType.Element && xml is { LocalName: "s", NamespaceURI: Text })
                text.Append(' ', int.TryParse(xml.GetAttribute("c", Text), out var n) ? Math.Clamp(n, 1, 1000) : 1);
            else if (xml.NodeType == XmlNodeType.Element && xml is { LocalName: "tab", NamespaceURI: Text })
                text.Append('\t');
            else if (xml.NodeType == XmlNodeType.Element && xml is { LocalName: "line-break", NamespaceURI: Text })
                text.Append('\n');
            else if (xml.NodeType is XmlNodeType.Text or XmlNodeType.SignificantWhitespace or XmlNodeType.CDATA)
                text.Append(xml.Value);
            if (text.Length > ListLimits.CellLength)
                throw new ListFileException(
                    $"Row {RowNumber + 1:N0} has a cell of more than {ListLimits.CellLength:N0} characters, which is more than a "
                        + "cell can have."
                );
        }
        return string.IsNullOrWhiteSpace(text.ToString()) ? null : text.ToString();
    }

    public string?[] Cells() => [.. cells];

    public void Dispose() => content.Dispose();
}
