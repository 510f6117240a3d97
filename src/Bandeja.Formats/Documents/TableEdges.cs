using System.Text.Json.Nodes;
using Bandeja.Core.Composition;

namespace Bandeja.Formats.Documents;

/// <summary>A cell with the lines that a document gives it, with the table's where it gives none.</summary>
sealed record EdgedCell(int Row, int Column, int RowSpan, int ColumnSpan, CellLine? Top, CellLine? Right, CellLine? Bottom, CellLine? Left);

/// <summary>
/// The lines of a document's table as a letter has them: the pattern that fits most cells, and for the others lines of their own. Of two
/// cells that share a side, the wider line is drawn, as word processors do it (ECMA-376 part 1, section 17.4.66).
/// </summary>
sealed class TableEdges
{
    const double Usual = 0.5,
        Near = 0.3;
    static readonly string[] Patterns = ["all", "rows", "outside", "none"];
    readonly int rows;
    readonly int columns;
    readonly CellLine?[,] across;
    readonly CellLine?[,] down;

    public TableEdges(IReadOnlyList<EdgedCell> cells)
    {
        rows = cells.Select(c => c.Row + c.RowSpan).DefaultIfEmpty(1).Max();
        columns = cells.Select(c => c.Column + c.ColumnSpan).DefaultIfEmpty(1).Max();
        (across, down) = (new CellLine?[rows + 1, columns], new CellLine?[rows, columns + 1]);
        foreach (var c in cells)
        {
            for (var i = c.Column; i < c.Column + c.ColumnSpan; i++)
            {
                Wider(ref across[c.Row, i], c.Top);
                Wider(ref across[c.Row + c.RowSpan, i], c.Bottom);
            }
            for (var i = c.Row; i < c.Row + c.RowSpan; i++)
            {
                Wider(ref down[i, c.Column], c.Left);
                Wider(ref down[i, c.Column + c.ColumnSpan], c.Right);
            }
        }
        var drawn = cells.Select(Around).ToList();
        var lines = drawn.SelectMany(d => d.Where(l => l is not null)).Select(l => l!.Value).ToList();
        Color = lines.GroupBy(l => l.Color).OrderByDescending(g => g.Count()).Select(g => g.Key).FirstOrDefault() ?? "000000";
        var fits = Patterns.Select(p => cells.Zip(drawn).Count(c => Has(c.Second).SequenceEqual(Wanted(p, c.First)))).ToList();
        var best = Patterns[fits.IndexOf(fits.Max())];
        Pattern = best;
        own = cells
            .Zip(drawn)
            .Where(c => !Has(c.Second).SequenceEqual(Wanted(best, c.First)) || c.Second.Any(l => l is { } line && !Ordinary(line)))
            .ToDictionary(c => (c.First.Row, c.First.Column), c => Json(c.Second));
    }

    readonly Dictionary<(int, int), JsonObject> own;

    /// <summary>The table's lines, as a letter says it.</summary>
    public string Pattern { get; }

    /// <summary>The color of most lines, RRGGBB.</summary>
    public string Color { get; }

    /// <summary>The lines of the cell at a place where they are not the table's; else null.</summary>
    public JsonObject? Own(int row, int column) => own.GetValueOrDefault((row, column));

    static void Wider(ref CellLine? at, CellLine? line)
    {
        if (line is { } l && !(at?.Width >= l.Width))
            at = l;
    }

    bool Ordinary(CellLine line) => Math.Abs(line.Width - Usual) <= Near && line.Color == Color;

    /// <summary>What is drawn at the sides of a cell: from above with the clock. A line along a part of a side is the other
    /// cell's.</summary>
    CellLine?[] Around(EdgedCell c)
    {
        static CellLine? Whole(IEnumerable<CellLine?> parts, CellLine? otherwise)
        {
            var all = parts.ToList();
            return all.TrueForAll(p => p is not null) ? all.MaxBy(p => p!.Value.Width) : otherwise;
        }
        IEnumerable<CellLine?> Row(int at) => Enumerable.Range(c.Column, c.ColumnSpan).Select(i => across[at, i]);
        IEnumerable<CellLine?> Column(int at) => Enumerable.Range(c.Row, c.RowSpan).Select(i => down[i, at]);
        return
        [
            Whole(Row(c.Row), c.Top),
            Whole(Column(c.Column + c.ColumnSpan), c.Right),
            Whole(Row(c.Row + c.RowSpan), c.Bottom),
            Whole(Column(c.Column), c.Left),
        ];
    }

    static IEnumerable<bool> Has(CellLine?[] sides) => sides.Select(s => s is not null);

    bool[] Wanted(string pattern, EdgedCell c) =>
        pattern switch
        {
            "all" => [true, true, true, true],
            "rows" => [c.Row > 0, false, true, false],
            "outside" => [c.Row == 0, c.Column + c.ColumnSpan == columns, c.Row + c.RowSpan == rows, c.Column == 0],
            _ => [false, false, false, false],
        };

    static JsonObject Json(CellLine?[] sides)
    {
        var lines = new JsonObject();
        foreach (var (name, side) in ((string[])["top", "right", "bottom", "left"]).Zip(sides))
            if (side is { } line)
                lines[name] = new JsonObject { ["width"] = Math.Round(Math.Clamp(line.Width, 0.1, 12), 2), ["color"] = $"#{line.Color}" };
        return lines;
    }
}
