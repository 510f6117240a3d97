namespace Bandeja.Core.Composition;

/// <summary>What is printed on a page, and where.</summary>
/// <param name="Place">Its bounds, points.</param>
/// <param name="IsAddress">True for a line of the delivery address.</param>
/// <param name="Text">What it says; for a picture or barcode what it is.</param>
public readonly record struct Ink(Area Place, bool IsAddress, string Text)
{
    /// <summary>The ink of items, what is shared taken apart. Watermarks and rules are left out where <paramref name="onlyContent"/> is
    /// set.</summary>
    public static IEnumerable<Ink> Of(IEnumerable<PageItem> items, double x = 0, double y = 0, bool onlyContent = true)
    {
        foreach (var item in items)
        {
            switch (item)
            {
                case SharedItem s:
                    foreach (var inner in Of(s.Part.Items, x + s.X, y + s.Y, onlyContent))
                        yield return inner;
                    break;
                case TurnedItem t:
                    foreach (var inner in Of(t.Items, 0, 0, onlyContent))
                        yield return inner with
                        {
                            Place = (t with { X = x + t.X, Y = y + t.Y }).Seen(inner.Place),
                        };
                    break;
                case FieldItem f:
                    foreach (var inner in Of(f.Seen, x + f.X, y + f.Y, onlyContent))
                        yield return inner;
                    break;
                case LineItem l:
                    foreach (var run in l.Line.Runs)
                    {
                        var text = string.Concat(run.Words.Select(w => w.Text));
                        if (string.IsNullOrWhiteSpace(text))
                            continue;
                        var unit = run.Size / run.Font.UnitsPerEm;
                        // Capitals and descenders: what of a line's height holds ink.
                        yield return new(
                            new(
                                x + l.X + run.X,
                                y + l.Y - run.Rise - run.Font.CapHeight * unit,
                                run.Width,
                                (run.Font.CapHeight + run.Font.Descender * 0.9) * unit
                            ),
                            run.Style.IsAddress,
                            text
                        );
                    }
                    foreach (var p in l.Line.Pictures ?? [])
                        yield return new(new(x + l.X + p.X, y + l.Y - p.Height, p.Width, p.Height), false, "a picture");
                    break;
                case PictureItem p:
                    yield return new(new(x + p.X, y + p.Y, p.Width, p.Height), false, "a picture");
                    break;
                case MarkItem m:
                    yield return new(new(x + m.X, y + m.Y, m.Width, m.Height), false, "a mark");
                    break;
                case BarsItem b:
                    yield return new(new(x + b.X, y + b.Y, b.Width, b.Height), false, "a barcode");
                    break;
                case RectangleItem r when !onlyContent:
                    yield return new(new(x + r.X, y + r.Y, r.Width, r.Height), false, "a line or shade");
                    break;
                case OutlineItem o when !onlyContent:
                    yield return new(new(x + o.X, y + o.Y, o.Width, o.Height), false, "a frame");
                    break;
            }
        }
    }
}
