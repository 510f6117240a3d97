namespace Bandeja.Core.Composition;

/// <summary>Text in columns: what stands in them, to be divided where the pages are known.</summary>
/// <param name="left">Of the first column, from the left edge of the text, points.</param>
/// <param name="width">Of one column, points.</param>
sealed class ColumnsFlow(IReadOnlyList<Flow> inner, int count, double left, double width, double gap, bool line) : Flow
{
    const string LineColor = "8a8577";
    const double Thin = 0.5,
        Precision = 0.5;

    /// <summary>What has a place of the page stands in no column.</summary>
    public IReadOnlyList<PlacedFlow> Placed { get; } = [.. inner.OfType<PlacedFlow>()];

    readonly IReadOnlyList<Flow> flows = [.. inner.Where(f => f is not PlacedFlow)];

    /// <summary>What stands in the columns of one page.</summary>
    internal sealed record Part(double Height, IReadOnlyList<List<PageItem>> Columns);

    IReadOnlyList<Part>? whole;

    IReadOnlyList<Part> Whole => whole ??= Divided(_ => 1_000_000);

    public override double Height => Whole.Sum(p => p.Height);
    public override double Head => flows.Count == 0 ? 0 : Math.Min(Height, flows[0].Head);

    public override void Emit(double x, double y, List<PageItem> items)
    {
        foreach (var part in Whole)
        {
            Emit(part, x, y, items);
            y += part.Height;
        }
    }

    /// <summary>Puts the columns of one page at a place, x being the left edge of the text.</summary>
    public void Emit(Part part, double x, double y, List<PageItem> items)
    {
        for (var i = 0; i < part.Columns.Count; i++)
        {
            var at = x + left + i * (width + gap);
            foreach (var item in part.Columns[i])
                items.Add(item with { X = item.X + at, Y = item.Y + y });
            if (line && i > 0)
                items.Add(new RectangleItem(at - gap / 2 - Thin / 2, y, Thin, part.Height, LineColor));
        }
    }

    /// <summary>The columns of each page. Those of the last page are as high as one another, as far as lines allow.</summary>
    /// <param name="room">The room for them on their first page, the next, and so on, points.</param>
    public IReadOnlyList<Part> Divided(Func<int, double> room)
    {
        var bodies = Filled(room);
        var last = (bodies.Count - 1) / count;
        var (least, most) = (0.0, Math.Min(room(last), bodies.Skip(last * count).Sum(b => b.Height) + 1));
        if (bodies.Count > 1 || flows.Count > 0)
        {
            while (most - least > Precision)
            {
                var height = (least + most) / 2;
                var tried = Filled(p => p == last ? height : room(p));
                // A line taller than its column stands over the edge: such a column is no solution.
                if (tried.Count <= (last + 1) * count && tried.Skip(last * count).All(b => b.Height <= height + 0.01))
                    (most, bodies) = (height, tried);
                else
                    least = height;
            }
        }
        return [.. bodies.Chunk(count).Select((page, i) => new Part(page.Max(b => b.Height), [.. page.Select(b => b.Items)]))];
    }

    IReadOnlyList<FilledPage> Filled(Func<int, double> room)
    {
        var filler = new PageFiller((column, _) => new(0, 0, Math.Max(1, room(column / count))));
        filler.Fill(flows);
        return filler.Finish();
    }
}
