namespace Bandeja.Core.Composition;

/// <summary>A cell's edges within its row, points.</summary>
/// <param name="Lines">The cell's own; null where they are the table's.</param>
sealed record CellFrame(double X, double Y, double Width, double Height, string? Shade, CellLines? Lines);

/// <summary>A finished row, or rows that a merged cell holds together.</summary>
/// <param name="content">What stands in the cells, from the row's left top corner.</param>
sealed class LaidRow(double height, IReadOnlyList<CellFrame> frames, IReadOnlyList<PageItem> content)
{
    /// <summary>The footnotes that are referred to in its cells.</summary>
    public IReadOnlyList<LaidNote> Notes { get; init; } = [];

    public double Height => height;

    public void Emit(double x, double y, Table table, double tableWidth, bool first, bool last, List<PageItem> items)
    {
        foreach (var f in frames)
            if (f.Shade is not null)
                items.Add(new RectangleItem(x + f.X, y + f.Y, f.Width, f.Height, f.Shade));
        foreach (var f in frames)
            Edges(f, x, y, table, tableWidth, first, last, items);
        foreach (var item in content)
            items.Add(item with { X = item.X + x, Y = item.Y + y });
    }

    void Edges(CellFrame f, double x, double y, Table table, double tableWidth, bool first, bool last, List<PageItem> items)
    {
        const double thin = 0.5;
        void Across(double at) => items.Add(new RectangleItem(x + f.X, y + at - thin / 2, f.Width, thin, table.LineColor));
        void Down(double at) => items.Add(new RectangleItem(x + at - thin / 2, y + f.Y, thin, f.Height, table.LineColor));
        bool left = f.X < 0.01,
            right = f.X + f.Width > tableWidth - 0.01,
            top = first && f.Y < 0.01,
            bottom = f.Y + f.Height > height - 0.01;
        if (f.Lines is { } own)
        {
            void Line(CellLine? line, double fromX, double fromY, double wide, double tall)
            {
                if (line is not { } l)
                    return;
                // Lines that meet at a corner fill it.
                var half = l.Width / 2;
                items.Add(new RectangleItem(x + fromX - half, y + fromY - half, wide + l.Width, tall + l.Width, l.Color));
            }
            Line(own.Top, f.X, f.Y, f.Width, 0);
            Line(own.Bottom, f.X, f.Y + f.Height, f.Width, 0);
            Line(own.Left, f.X, f.Y, 0, f.Height);
            Line(own.Right, f.X + f.Width, f.Y, 0, f.Height);
            return;
        }
        // Beside a cell with lines of its own nobody else draws the line between the two.
        top |= table.HasOwnLines && table.Lines == TableLines.All;
        left |= table.HasOwnLines && table.Lines == TableLines.All;
        switch (table.Lines)
        {
            case TableLines.All:
                Across(f.Y + f.Height);
                if (top)
                    Across(f.Y);
                Down(f.X + f.Width);
                if (left)
                    Down(f.X);
                break;
            case TableLines.Rows:
                Across(f.Y + f.Height);
                if (table.HasOwnLines && !first)
                    Across(f.Y);
                break;
            case TableLines.Outside:
                if (top)
                    Across(0);
                if (bottom && last)
                    Across(f.Y + f.Height);
                if (left)
                    Down(0);
                if (right)
                    Down(tableWidth);
                break;
        }
    }

    /// <summary>Divides a row that is taller than a page after the lines that fit; null where not even one does.</summary>
    public (LaidRow Above, LaidRow Below)? Split(double room)
    {
        static double Bottom(PageItem item) =>
            item switch
            {
                LineItem l => l.Y - l.Line.Baseline + l.Line.Height,
                PictureItem p => p.Y + p.Height,
                RectangleItem r => r.Y + r.Height,
                _ => item.Y,
            };
        static double Top(PageItem item) => item is LineItem l ? l.Y - l.Line.Baseline : item.Y;
        var above = content.Where(i => Bottom(i) <= room - TableLayout.PaddingY).ToList();
        if (above.Count == 0 || above.Count == content.Count)
            return null;
        var below = content.Except(above, ReferenceEqualityComparer.Instance).Cast<PageItem>().ToList();
        var shift = below.Min(Top) - TableLayout.PaddingY;
        var rest = below.Max(Bottom) - shift + TableLayout.PaddingY;
        return (
            new(room, [.. frames.Select(f => f with { Y = 0, Height = room })], above),
            new(rest, [.. frames.Select(f => f with { Y = 0, Height = rest })], [.. below.Select(i => i with { Y = i.Y - shift })])
            {
                Notes = Notes,
            }
        );
    }
}

/// <summary>A finished table.</summary>
/// <param name="heads">How many rows at its beginning are headings, repeated on every page.</param>
sealed class TableFlow(Table table, double left, double width, IReadOnlyList<LaidRow> rows, int heads) : Flow
{
    public IReadOnlyList<LaidRow> Rows => rows;
    public int Heads => heads;
    public override IReadOnlyList<LaidNote> Notes => rows.Any(r => r.Notes.Count > 0) ? [.. rows.SelectMany(r => r.Notes)] : [];
    public override double Height { get; } = rows.Sum(r => r.Height);
    public override double Head => rows.Take(heads + 1).Sum(r => r.Height);
    public double HeadingHeight { get; } = rows.Take(heads).Sum(r => r.Height);

    public override void Emit(double x, double y, List<PageItem> items)
    {
        for (var i = 0; i < rows.Count; i++)
        {
            EmitRow(rows[i], x, y, i == 0, i == rows.Count - 1, items);
            y += rows[i].Height;
        }
    }

    public void EmitRow(LaidRow row, double x, double y, bool first, bool last, List<PageItem> items) =>
        row.Emit(x + left, y, table, width, first, last, items);
}

/// <summary>A cell's content before its row has a height.</summary>
sealed record DraftCell(TableCell Cell, IReadOnlyList<PageItem> Content, double Height, IReadOnlyList<LaidNote> Notes);

/// <summary>Sets cells into rows: column widths, merged cells, heights.</summary>
static class TableLayout
{
    /// <summary>Space between a cell's edge and its content, points.</summary>
    public const double PaddingX = 4,
        PaddingY = 2.5;
    const double LeastWidth = 18;

    /// <summary>The columns' widths within the room there is: given ones as they are, the others share the rest; narrowed where they do not
    /// fit.</summary>
    /// <param name="narrowed">True where they were, by more than a rounding.</param>
    public static double[] Widths(Table table, double room, out bool narrowed)
    {
        var widths = table.Columns.ToArray();
        var open = widths.Count(w => w == 0);
        var given = widths.Sum();
        if (open > 0)
        {
            var share = Math.Max(LeastWidth, (room - given) / open);
            for (var i = 0; i < widths.Length; i++)
                if (widths[i] == 0)
                    widths[i] = share;
        }
        var total = widths.Sum();
        narrowed = total > room * 1.02;
        if (total > room)
            for (var i = 0; i < widths.Length; i++)
                widths[i] *= room / total;
        return widths;
    }

    /// <summary>The columns that each cell of a row goes over, given which columns merged cells from above still hold.</summary>
    public static List<(int Column, int Span)> Places(IReadOnlyList<TableCell> cells, int[] held)
    {
        var places = new List<(int, int)>();
        var at = 0;
        foreach (var cell in cells)
        {
            while (at < held.Length - 1 && held[at] > 0)
                at++;
            at = Math.Min(at, held.Length - 1);
            var span = Math.Max(1, Math.Min(cell.ColumnSpan, held.Length - at));
            places.Add((at, span));
            at += span;
        }
        for (var i = 0; i < held.Length; i++)
            if (held[i] > 0)
                held[i]--;
        for (var i = 0; i < places.Count; i++)
        for (var k = 0; k < places[i].Item2; k++)
            held[places[i].Item1 + k] = Math.Max(held[places[i].Item1 + k], cells[i].RowSpan - 1);
        return places;
    }

    /// <summary>Sets drafted rows; rows that a merged cell goes over become one.</summary>
    public static List<LaidRow> Rows(IReadOnlyList<IReadOnlyList<(DraftCell Draft, int Column, int Span)>> drafts, double[] widths)
    {
        var heights = drafts
            .Select(r =>
                r.Where(c => c.Draft.Cell.RowSpan == 1).Select(c => c.Draft.Height + 2 * PaddingY).DefaultIfEmpty(2 * PaddingY).Max()
            )
            .ToArray();
        var glued = new bool[drafts.Count]; // to the row before
        for (var r = 0; r < drafts.Count; r++)
        {
            foreach (var (draft, _, _) in drafts[r].Where(c => c.Draft.Cell.RowSpan > 1))
            {
                var last = Math.Min(drafts.Count - 1, r + draft.Cell.RowSpan - 1);
                var lack = draft.Height + 2 * PaddingY - heights[r..(last + 1)].Sum();
                if (lack > 0)
                    heights[last] += lack;
                for (var k = r + 1; k <= last; k++)
                    glued[k] = true;
            }
        }
        var lefts = new double[widths.Length + 1];
        for (var i = 0; i < widths.Length; i++)
            lefts[i + 1] = lefts[i] + widths[i];
        var rows = new List<LaidRow>();
        var noted = drafts.Any(d => d.Any(c => c.Draft.Notes.Count > 0));
        for (var r = 0; r < drafts.Count; )
        {
            var end = r + 1;
            while (end < drafts.Count && glued[end])
                end++;
            var frames = new List<CellFrame>();
            var content = new List<PageItem>();
            double y = 0;
            for (var k = r; k < end; k++)
            {
                foreach (var (draft, column, span) in drafts[k])
                {
                    var height = heights[k..Math.Min(drafts.Count, k + draft.Cell.RowSpan)].Sum();
                    frames.Add(new(lefts[column], y, lefts[column + span] - lefts[column], height, draft.Cell.Shade, draft.Cell.Lines));
                    var free = height - 2 * PaddingY - draft.Height;
                    var down =
                        y
                        + PaddingY
                        + (
                            draft.Cell.Align switch
                            {
                                CellAlign.Middle => free / 2,
                                CellAlign.Bottom => free,
                                _ => 0,
                            }
                        );
                    foreach (var item in draft.Content)
                        content.Add(item with { X = item.X + lefts[column] + PaddingX, Y = item.Y + down });
                }
                y += heights[k];
            }
            rows.Add(
                new(y, frames, content)
                {
                    Notes = noted ? [.. drafts.Skip(r).Take(end - r).SelectMany(d => d.SelectMany(c => c.Draft.Notes))] : [],
                }
            );
            r = end;
        }
        return rows;
    }
}
