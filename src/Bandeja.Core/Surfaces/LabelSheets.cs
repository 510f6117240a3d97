using Bandeja.Core.Composition;

namespace Bandeja.Core.Surfaces;

/// <summary>Where on a partly used sheet labels begin, and which of its places are spoiled.</summary>
/// <param name="Start">The first place, from 1, row by row.</param>
/// <param name="Spoiled">Places of the first sheet that are passed over.</param>
public sealed record SheetStart(int Start = 1, IReadOnlyList<int>? Spoiled = null)
{
    /// <summary>How many labels the first sheet takes.</summary>
    public int FreeOn(LabelSetup setup)
    {
        var laid = new LabelSheets(setup, this);
        var count = 0;
        while (laid.Add(new([], [], new()), null)[0].Sheet == 1)
            count++;
        return count;
    }

    /// <summary>A sentence where the places cannot be on the stock, or null.</summary>
    public string? Objection(LabelStock stock)
    {
        if (Start < 1 || Start > stock.Count)
            return $"A sheet of {stock.Name} has positions 1 to {stock.Count}; there is no position {Start}.";
        if (Spoiled?.Where(p => p < 1 || p > stock.Count).Select(p => (int?)p).FirstOrDefault() is { } wrong)
            return $"A sheet of {stock.Name} has positions 1 to {stock.Count}; there is no position {wrong}.";
        return null;
    }
}

/// <summary>Which place of which sheet a label has got.</summary>
/// <param name="Sheet">From 1.</param>
/// <param name="Position">From 1, row by row.</param>
public readonly record struct SheetPlace(int Sheet, int Position);

/// <summary>Puts labels on sheets, one after another, in the order of the stock's places.</summary>
public sealed class LabelSheets
{
    readonly LabelStock stock;
    readonly int[] order;
    readonly HashSet<int> spoiled;
    readonly List<PageItem> items = [];
    int next,
        sheet = 1;
    bool begun;
    string? group;

    /// <summary>Begins the first sheet.</summary>
    public LabelSheets(LabelSetup setup, SheetStart? start = null)
    {
        stock = setup.Stock;
        order =
        [
            .. Enumerable
                .Range(1, stock.Count)
                .OrderBy(p => setup.ByColumns ? (p - 1) % stock.Columns * stock.Rows + (p - 1) / stock.Columns : p),
        ];
        start ??= new();
        spoiled = [.. start.Spoiled ?? []];
        next = Array.IndexOf(order, start.Start);
        if (next < 0)
            next = 0;
        SkipSpoiled();
    }

    /// <summary>How many sheets were begun.</summary>
    public int Sheets => begun ? sheet : 0;

    void SkipSpoiled()
    {
        while (sheet == 1 && next < order.Length && spoiled.Contains(order[next]))
            next++;
    }

    /// <summary>The next place, and the sheet that became full with the one before; null where none did.</summary>
    SheetPlace Take(List<LaidOutPage>? full)
    {
        while (next >= order.Length)
        {
            if (begun)
                full?.Add(Page());
            // A sheet without a free place is no sheet.
            if (begun)
                sheet++;
            else
                spoiled.Clear();
            items.Clear();
            next = 0;
        }
        begun = true;
        var place = new SheetPlace(sheet, order[next++]);
        SkipSpoiled();
        return place;
    }

    LaidOutPage Page()
    {
        const double unit = 72 / 25.4;
        return new(stock.SheetWidth * unit, stock.SheetHeight * unit, [.. items]);
    }

    /// <summary>Puts a piece's label, in all its copies, on the sheets; answers their places.</summary>
    /// <param name="full">Gets the sheets that became full.</param>
    public IReadOnlyList<SheetPlace> Add(ComposedPiece label, List<LaidOutPage>? full)
    {
        // One place stays blank between groups, but not at the top of a sheet.
        if (label.Group is not null && group is not null && label.Group != group && label.Copies > 0 && next > 0 && next < order.Length)
        {
            next++;
            SkipSpoiled();
        }
        if (label.Copies > 0)
            group = label.Group;
        var places = new SheetPlace[label.Copies];
        for (var i = 0; i < places.Length; i++)
        {
            places[i] = Take(full);
            if (full is null)
                continue;
            var at = stock.PlaceOf(places[i].Position);
            foreach (var item in label.Pages[0].Items)
                items.Add(item with { X = item.X + at.X, Y = item.Y + at.Y });
        }
        return places;
    }

    /// <summary>The last sheet; null where no label was put on it.</summary>
    public LaidOutPage? Finish() => begun ? Page() : null;

    /// <summary>A sheet of nothing but the labels' outlines, to be held against the light behind a real one.</summary>
    public static LaidOutPage Outline(LabelStock stock)
    {
        const double unit = 72 / 25.4;
        var items = new List<PageItem>();
        for (var position = 1; position <= stock.Count; position++)
        {
            var at = stock.PlaceOf(position);
            var radius = stock.Corner switch
            {
                LabelCorner.Round => Math.Min(at.Width, at.Height) / 2,
                LabelCorner.Rounded => stock.Radius * unit,
                _ => 0,
            };
            items.Add(new OutlineItem(at.X, at.Y, at.Width, at.Height, radius, 0.5, "000000"));
        }
        return new(stock.SheetWidth * unit, stock.SheetHeight * unit, items);
    }
}
