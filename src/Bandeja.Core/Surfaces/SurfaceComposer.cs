using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Surfaces;

/// <summary>Composes recipients' envelopes or labels, one after another. Serves one thread.</summary>
public sealed class SurfaceComposer : IPieceComposer
{
    /// <summary>More copies than this for one recipient are a mistake in the data.</summary>
    public const int MostCopies = 500;
    const double Slack = 0.5;
    readonly BoundSurface surface;
    readonly EvaluationContext context;
    readonly FlowMaker maker;
    readonly List<Flow> flows = [];
    readonly List<PageItem> inner = [];

    /// <summary>Begins composing.</summary>
    public SurfaceComposer(BoundSurface surface, DateOnly today)
    {
        this.surface = surface;
        context = surface.NewContext(today);
        maker = new(surface.Setting.Fonts, context, surface.Setting.Pictures, surface.Setting.Own);
    }

    /// <inheritdoc/>
    public ComposedPiece Compose(IRow row, int pieceNumber, Func<string, long>? serial = null)
    {
        context.For(row, pieceNumber, serial);
        var design = surface.Design;
        var notes = new LayoutNotes();
        var items = new List<PageItem>();
        Span<int> starts = surface.Boxes.Count <= 64 ? stackalloc int[surface.Boxes.Count + 1] : new int[surface.Boxes.Count + 1];
        for (var i = 0; i < surface.Boxes.Count; i++)
        {
            var box = surface.Boxes[i];
            var at = box.Box.Place;
            starts[i] = items.Count;
            if (box.Fixed is var (part, found))
            {
                notes.Add(found);
                if (part.Items.Count > 0)
                    items.Add(new SharedItem(at.X, at.Y, part));
                continue;
            }
            var from = items.Count;
            Set(box, at.X, at.Y, items, notes);
            if (box.IsLookedAt)
                Placed(box.Box, [.. Ink.Of(items.Skip(from))], notes);
        }
        starts[surface.Boxes.Count] = items.Count;
        Apart(items, starts, notes);
        if (surface.IsMailed)
            Postal(items, starts, notes);
        var copies = design.Labels is { } labels ? Copies(labels) : 1;
        var group = surface.GroupBy is null ? null : Evaluator.Evaluate(surface.GroupBy, context).Print(context.Locale);
        return new([new(design.Width, design.Height, items)], context.Problems.Count == 0 ? [] : [.. context.Problems.Distinct()], notes)
        {
            Copies = copies,
            Group = group,
        };
    }

    /// <summary>Boxes that print over each other, or into the clear zone of a barcode.</summary>
    void Apart(List<PageItem> items, ReadOnlySpan<int> starts, LayoutNotes notes)
    {
        foreach (var (i, j) in surface.Neighbors)
        {
            var (one, other) = (Printed(items, starts, i), Printed(items, starts, j));
            if (!one.Any(a => other.Any(b => a.Overlaps(b))))
                continue;
            var (a, b) = (surface.Boxes[i].Box, surface.Boxes[j].Box);
            // A barcode is what must stay readable, so it is named as what is covered.
            var (over, under) = HasBarcode(a) && !HasBarcode(b) ? (b, a) : (a, b);
            notes.Postal.Add(
                (
                    $"{over.Name} over {(HasBarcode(under) ? "a barcode" : under.Name)}",
                    HasBarcode(under)
                        ? $"{Upper(over.Name)} overlaps a barcode or its clear zone, so the barcode may not be read."
                        : $"{Upper(over.Name)} is printed over {under.Name}."
                )
            );
        }
    }

    static bool HasBarcode(SurfaceBox box) => box.Blocks.Any(x => x is Barcode);

    static string Upper(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    /// <summary>Where a box prints; around a barcode its clear zone, too.</summary>
    List<Area> Printed(List<PageItem> items, ReadOnlySpan<int> starts, int box)
    {
        var areas = new List<Area>();
        for (var k = starts[box]; k < starts[box + 1]; k++)
            foreach (var ink in Ink.Of([items[k]]))
                areas.Add(
                    ink.Text == "a barcode"
                        ? new(
                            ink.Place.X - Barcodes.IntelligentMail.ClearX,
                            ink.Place.Y - Barcodes.IntelligentMail.ClearY,
                            ink.Place.Width + 2 * Barcodes.IntelligentMail.ClearX,
                            ink.Place.Height + 2 * Barcodes.IntelligentMail.ClearY
                        )
                        : ink.Place
                );
        return areas;
    }

    /// <summary>What the post, or a printer, does not take of an envelope.</summary>
    void Postal(List<PageItem> items, ReadOnlySpan<int> starts, LayoutNotes notes)
    {
        var design = surface.Design;
        if (surface.SizeIssue is { } size)
            notes.Postal.Add(("size", size));
        var printable = new Area(0, 0, design.Width, design.Height).Grown(-PostalCheck.Edge);
        var addressed = design.Window is not null;
        // A country that is not known is not at home.
        var abroad = context.AddressCountry() != surface.Setting.Locale.Country;
        for (var i = 0; i < surface.Boxes.Count; i++)
        {
            var box = surface.Boxes[i].Box;
            var prints = starts[i] < starts[i + 1];
            // Whoever writes the address out of single fields writes it in the box for it.
            addressed |= prints && box.Use == BoxUse.Delivery;
            if (abroad && prints && box.Use == BoxUse.Indicia && Printed(items, starts, i).Count > 0)
                notes.Postal.Add(
                    (
                        "a domestic permit on international mail",
                        "The indicia is a domestic permit, and this piece is international, where the permit is not valid. Put "
                            + "“when” around it, or hold the piece for other postage."
                    )
                );
            if (!surface.HasEdge && design.Zones != "US" || !prints)
                continue;
            foreach (var ink in Ink.Of(items.GetRange(starts[i], starts[i + 1] - starts[i])))
            {
                addressed |= ink.IsAddress;
                if (surface.HasEdge && surface.Holds(ink.Place) && !printable.Holds(ink.Place))
                {
                    notes.Postal.Add(
                        (
                            $"{box.Name} at the edge",
                            $"{Upper(box.Name)} is less than {surface.Setting.Locale.Length(PostalCheck.Edge)} from the edge, where most "
                                + "printers cannot print."
                        )
                    );
                    break;
                }
            }
        }
        if (!addressed && !Ink.Of(items).Any(i => i.IsAddress))
            notes.Postal.Add(("no delivery address", "The envelope has neither a delivery address nor a window for one."));
        if (design.Zones != "US")
            return;
        foreach (var (bars, x, y) in Bars(items, 0, 0))
            if (
                PostalCheck.IsIntelligentMail(bars)
                && !PostalCheck.IsWellPlaced(new(x, y, bars.Width, bars.Height), design.Width, design.Height)
            )
                notes.Postal.Add(
                    (
                        "the barcode's place",
                        "The Intelligent Mail barcode is neither in the lower right corner (first bar 3½ to 4¼ inches from the "
                            + "right edge, bars 3/16 to ½ inch from the lower one) nor with the address (⅝ to 4 inches from the lower "
                            + "edge), so the postal service may not read it."
                    )
                );
    }

    static IEnumerable<(BarsItem Bars, double X, double Y)> Bars(IEnumerable<PageItem> items, double x, double y) =>
        items.SelectMany(i =>
            i switch
            {
                BarsItem b => [(b, x + b.X, y + b.Y)],
                SharedItem s => Bars(s.Part.Items, x + s.X, y + s.Y),
                _ => [],
            }
        );

    int Copies(LabelSetup labels)
    {
        if (surface.CopiesBy is null)
            return labels.Copies;
        context.Place = "the number of copies";
        var value = Evaluator.Evaluate(surface.CopiesBy, context);
        if (value.IsBlank)
            return labels.Copies;
        if (value.Kind == ValueKind.Text && WrittenValue.TryNumber(value.Text, out var read))
            value = Value.Of(read);
        if (value.Kind == ValueKind.Number && value.Number == Math.Truncate(value.Number) && value.Number is >= 0 and <= MostCopies)
            return (int)value.Number;
        context.Report(
            ProblemKind.OutOfRange,
            Evaluator.FieldName(surface.CopiesBy, context),
            value.ToString(),
            $"The number of copies is “{Evaluator.Short(value.ToString())}”; it must be a whole number from 0 to {MostCopies}."
        );
        return labels.Copies;
    }

    /// <summary>A box that is the same for everyone, laid out for good.</summary>
    internal (SharedPart, LayoutNotes) Settle(BoundBox box)
    {
        var notes = new LayoutNotes();
        var items = new List<PageItem>();
        Set(box, 0, 0, items, notes);
        var place = box.Box.Place;
        if (box.IsLookedAt)
            Placed(box.Box, [.. Ink.Of(items, place.X, place.Y)], notes);
        return (new(place.Width, place.Height, items), notes);
    }

    /// <summary>Lays a box out at the largest size at which its content fits.</summary>
    void Set(BoundBox box, double x, double y, List<PageItem> items, LayoutNotes notes)
    {
        var b = box.Box;
        if (b.Shade is not null || b.Frame is not null)
            items.Add(
                new OutlineItem(
                    x,
                    y,
                    b.Place.Width,
                    b.Place.Height,
                    b.Frame?.Radius ?? 0,
                    b.Frame?.Thickness ?? 0,
                    b.Frame?.Color ?? "000000",
                    b.Shade
                )
            );
        for (var size = 0; size < box.BySize.Count; size++)
        {
            var last = size == box.BySize.Count - 1;
            var found = new LayoutNotes();
            flows.Clear();
            // What a smaller size prints again must not be told twice.
            var problems = context.Problems.Count;
            flows.AddRange(maker.Apart(box.BySize[size], found));
            inner.Clear();
            var height = Stacked.Emit(flows, 0, 0, inner);
            var fits = height <= box.Height + Slack && !found.IsTooNarrow;
            if (!fits && !last)
            {
                if (context.Problems.Count > problems)
                    context.Problems.RemoveRange(problems, context.Problems.Count - problems);
                continue;
            }
            if (height > box.Height + Slack)
                found.Overfull.Add(b.Name);
            notes.Add(found);
            var down = b.Align switch
            {
                CellAlign.Middle => Math.Max(0, (box.Height - height) / 2),
                CellAlign.Bottom => Math.Max(0, box.Height - height),
                _ => 0,
            };
            foreach (var item in inner)
                items.Add(item with { X = item.X + x + b.Padding, Y = item.Y + y + b.Padding + down });
            return;
        }
    }

    /// <summary>Holds what is printed against the post's zones and the edge of the piece.</summary>
    void Placed(SurfaceBox box, List<Ink> ink, LayoutNotes notes)
    {
        foreach (var zone in surface.Zones)
        {
            if (zone.Allowed.Contains(box.Use))
                continue;
            if (ink.Any(i => zone.Place.Overlaps(i.Place)))
                notes.InZones.Add((box.Name, zone.Name));
        }
        if (ink.Any(i => !surface.Holds(i.Place)))
            notes.InZones.Add((box.Name, surface.IsMailed ? "the edge of the envelope" : "the edge of the label"));
    }
}
