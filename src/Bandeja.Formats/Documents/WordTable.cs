using System.Xml.Linq;
using Bandeja.Core.Composition;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>What a table's style says of its lines and of the text in its rows (ECMA-376 part 1, sections 17.4.62 and 17.7.6).</summary>
sealed class WordTableLook
{
    readonly XElement? properties;
    readonly List<XElement> chain;
    readonly WordStyles styles;
    readonly bool firstRow;
    readonly bool firstColumn;
    readonly bool lastRow;
    readonly bool bands;

    public WordTableLook(WordStyles styles, XElement table)
    {
        this.styles = styles;
        properties = table.Child("tblPr");
        chain = [.. styles.Table(properties.Child("tblStyle").Value())];
        var look = properties.Child("tblLook");
        var bits = int.TryParse(look.Value(), System.Globalization.NumberStyles.HexNumber, null, out var b) ? b : 0;
        bool On(string name, int bit) => look.Value(name) is { } v ? v is "1" or "true" or "on" : (bits & bit) != 0;
        (firstRow, lastRow, firstColumn) = (On("firstRow", 0x20), On("lastRow", 0x40), On("firstColumn", 0x80));
        bands = look is not null && !On("noHBand", 0x200);
    }

    XElement? Borders =>
        properties.Child("tblBorders") is { HasElements: true } own
            ? own
            : chain.Select(s => s.Child("tblPr").Child("tblBorders")).FirstOrDefault(x => x is { HasElements: true });

    /// <summary>A line at a side of a cell, from what says it nearest: the cell, the style for its row or column, the table.</summary>
    /// <param name="inner">True where the side is within the table.</param>
    public CellLine? Line(XElement? cell, string side, string other, bool inner, int row, int rows, int column)
    {
        XElement? Of(XElement? borders) => borders.Child(side) ?? borders.Child(other);
        var across = side is "top" or "bottom";
        var said =
            Of(cell.Child("tcPr").Child("tcBorders"))
            ?? Parts(row, rows, column)
                .Select(p => Of(p.Child("tcPr").Child("tcBorders")) ?? (inner ? null : Of(p.Child("tblPr").Child("tblBorders"))))
                .FirstOrDefault(e => e is not null)
            ?? (inner ? Borders.Child(across ? "insideH" : "insideV") : Of(Borders));
        return WordStyles.IsLine(said)
            ? new(Math.Clamp((double)(Whole(said.Value("sz")) ?? 4) / 8, 0.1, 12), WordXml.Color(said.Value("color")) ?? "000000")
            : null;
    }

    /// <summary>True where lines are not plain.</summary>
    public bool HasFancyLines(XElement table) =>
        Borders
            ?.Elements()
            .Concat(table.Below("tcBorders").SelectMany(b => b.Elements()))
            .Any(e => WordStyles.IsLine(e) && e.Value() is not ("single" or "thick")) == true;

    IEnumerable<string> Conditions(int row, int rows, int column)
    {
        if (firstRow && row == 0)
            yield return "firstRow";
        if (lastRow && row == rows - 1 && row > 0)
            yield return "lastRow";
        if (firstColumn && column == 0)
            yield return "firstCol";
        if (bands && !(firstRow && row == 0) && (row - (firstRow ? 1 : 0)) % 2 == 0)
            yield return "band1Horz";
        else if (bands && !(firstRow && row == 0))
            yield return "band2Horz";
    }

    IEnumerable<XElement> Parts(int row, int rows, int column) =>
        Conditions(row, rows, column)
            .SelectMany(c => chain.Select(s => s.Children("tblStylePr").FirstOrDefault(p => p.Value("type") == c)).OfType<XElement>());

    /// <summary>What the style says of text in a cell.</summary>
    public RunLook Run(int row, int rows, int column) =>
        Parts(row, rows, column).Concat(chain).Aggregate(RunLook.None, (own, p) => own.Over(styles.Run(p.Child("rPr"))));

    /// <summary>What the style says of paragraphs in a cell.</summary>
    public ParagraphLook Paragraph(int row, int rows, int column) =>
        Parts(row, rows, column).Concat(chain).Aggregate(ParagraphLook.None, (own, p) => own.Over(WordStyles.Paragraph(p.Child("pPr"))));

    /// <summary>What the style says of a cell's ground.</summary>
    public string? Shade(int row, int rows, int column) =>
        Parts(row, rows, column).Select(p => WordXml.Color(p.Child("tcPr").Child("shd").Value("fill"))).FirstOrDefault(c => c is not null);
}

/// <summary>A cell of a table, merged ones as one.</summary>
/// <param name="Widths">Points, one for each column; none where the file does not say.</param>
sealed record WordCell(
    XElement? Element,
    (int Row, int Column) Place,
    int ColumnSpan,
    int RowSpan,
    IReadOnlyList<double> Widths,
    string? Shade,
    string? VerticalAlign,
    RunLook Run,
    ParagraphLook Paragraph
);

/// <summary>A row of a table.</summary>
sealed record WordRow(IReadOnlyList<WordCell> Cells, bool IsHeading, bool Tracked);

/// <summary>The rows and cells of a table, with what is merged (ECMA-376 part 1, section 17.4).</summary>
sealed class WordTable
{
    const int MostColumns = 40,
        MostRows = 2_000;

    sealed record Cell(XElement? Element, int Column, int Span, bool Continues, bool Starts);

    readonly WordTableLook look;
    readonly List<(XElement Row, List<Cell> Cells)> rows = [];
    readonly List<double> grid;

    public WordTable(XElement table, WordTableLook look)
    {
        this.look = look;
        grid = [.. table.Child("tblGrid").Children("gridCol").Select(c => Points(c.Value("w")) ?? 0).Take(MostColumns)];
        IsFloating = table.Child("tblPr").Child("tblpPr") is not null;
        foreach (var row in Rows(table).Take(MostRows))
        {
            var cells = new List<Cell>();
            var at = Math.Clamp(Whole(row.Child("trPr").Child("gridBefore").Value()) ?? 0, 0, MostColumns - 1);
            if (at > 0)
                cells.Add(new(null, 0, at, false, false));
            foreach (var cell in Cells(row))
            {
                if (at >= MostColumns)
                    break;
                var p = cell.Child("tcPr");
                var span = Math.Clamp(Whole(p.Child("gridSpan").Value()) ?? 1, 1, MostColumns - at);
                var vertical = p.Child("vMerge");
                cells.Add(new(cell, at, span, vertical is not null && vertical.Value() is not "restart", vertical.Value() is "restart"));
                at += span;
            }
            rows.Add((row, cells));
        }
    }

    /// <summary>True for a table that text runs around.</summary>
    public bool IsFloating { get; }

    /// <summary>The lines of its cells, as <see cref="Rows()"/> has them.</summary>
    public TableEdges Edges()
    {
        var edged = new List<EdgedCell>();
        var columns = rows.SelectMany(r => r.Cells).Select(c => c.Column + c.Span).DefaultIfEmpty(1).Max();
        for (var r = 0; r < rows.Count; r++)
            foreach (var cell in rows[r].Cells)
            {
                if (cell.Continues && Above(r, cell))
                    continue;
                var last = r + Tall(r, cell) - 1;
                CellLine? Line(string side, string other, bool inner, int row) =>
                    look.Line(
                        row == r ? cell.Element : rows[row].Cells.Find(c => c.Column == cell.Column)?.Element,
                        side,
                        other,
                        inner,
                        row,
                        rows.Count,
                        cell.Column
                    );
                edged.Add(
                    new(
                        r,
                        cell.Column,
                        last - r + 1,
                        cell.Span,
                        Line("top", "top", r > 0, r),
                        Line("right", "end", cell.Column + cell.Span < columns, r),
                        Line("bottom", "bottom", last < rows.Count - 1, last),
                        Line("left", "start", cell.Column > 0, r)
                    )
                );
            }
        return new(edged);
    }

    /// <summary>How many rows a cell goes over.</summary>
    int Tall(int row, Cell cell)
    {
        var tall = 1;
        while (
            row + tall < rows.Count
            && rows[row + tall].Cells.Exists(c => c.Continues && c.Column == cell.Column && c.Span == cell.Span)
            && (cell.Starts || cell.Continues)
        )
            tall++;
        return tall;
    }

    static IEnumerable<XElement> Rows(XElement table) =>
        table
            .Elements()
            .SelectMany(e =>
                e.Name.LocalName switch
                {
                    "tr" => [e],
                    "sdt" => e.Child("sdtContent").Children("tr"),
                    "customXml" or "ins" => e.Children("tr"),
                    _ => [],
                }
            );

    static IEnumerable<XElement> Cells(XElement row) =>
        row.Elements()
            .SelectMany(e =>
                e.Name.LocalName switch
                {
                    "tc" => [e],
                    "sdt" => e.Child("sdtContent").Children("tc"),
                    "customXml" => e.Children("tc"),
                    _ => [],
                }
            );

    /// <summary>The rows with their cells; cells that are covered by another are left out.</summary>
    public IEnumerable<WordRow> Rows()
    {
        for (var r = 0; r < rows.Count; r++)
        {
            var (row, cells) = rows[r];
            var p = row.Child("trPr");
            // A row that was deleted with changes tracked is not in the final text.
            if (p.Child("del") is not null)
            {
                yield return new([], false, true);
                continue;
            }
            var made = new List<WordCell>();
            foreach (var cell in cells)
            {
                if (cell.Continues && Above(r, cell))
                    continue;
                var t = cell.Element.Child("tcPr");
                made.Add(
                    new(
                        cell.Element,
                        (r, cell.Column),
                        cell.Span,
                        Tall(r, cell),
                        Widths(cell),
                        Fill(t.Child("shd"), look.Shade(r, rows.Count, cell.Column)),
                        t.Child("vAlign").Value() switch
                        {
                            "center" => "middle",
                            "bottom" => "bottom",
                            _ => null,
                        },
                        look.Run(r, rows.Count, cell.Column),
                        look.Paragraph(r, rows.Count, cell.Column)
                    )
                );
            }
            yield return new(made, p.On("tblHeader") == true, p.Child("ins") is not null);
        }
    }

    /// <summary>True where the cell above begins or continues what this one continues.</summary>
    bool Above(int row, Cell cell) =>
        row > 0 && rows[row - 1].Cells.Exists(c => c.Column == cell.Column && c.Span == cell.Span && (c.Starts || c.Continues));

    static string? Fill(XElement? shade, string? otherwise) =>
        shade is null
            ? otherwise is "ffffff"
                ? null
                : otherwise
            : Color(shade.Value("fill")) is { } own
                ? own == "ffffff"
                    ? null
                    : own
                : null;

    IReadOnlyList<double> Widths(Cell cell)
    {
        var widths = grid.Skip(cell.Column).Take(cell.Span).ToList();
        if (widths.Count == cell.Span && widths.TrueForAll(w => w > 1))
            return widths;
        var own = cell.Element.Child("tcPr").Child("tcW");
        return own.Value("type") is "dxa" or null && Points(own.Value("w")) is > 1 and var w
            ? [.. Enumerable.Repeat(w / cell.Span, cell.Span)]
            : [];
    }
}
