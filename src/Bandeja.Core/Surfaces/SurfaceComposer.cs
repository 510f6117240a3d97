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
        maker = new(surface.Setting.Fonts, context, surface.Setting.Pictures);
    }

    /// <inheritdoc/>
    public ComposedPiece Compose(IRow row, int pieceNumber, Func<string, long>? serial = null)
    {
        context.For(row, pieceNumber, serial);
        var design = surface.Design;
        var notes = new LayoutNotes();
        var items = new List<PageItem>();
        foreach (var box in surface.Boxes)
        {
            var at = box.Box.Place;
            if (box.Fixed is var (part, found))
            {
                notes.Add(found);
                if (part.Items.Count > 0) items.Add(new SharedItem(at.X, at.Y, part));
                continue;
            }
            var from = items.Count;
            Set(box, at.X, at.Y, items, notes);
            if (box.IsLookedAt) Placed(box.Box, [.. Ink.Of(items.Skip(from))], notes);
        }
        var copies = design.Labels is { } labels ? Copies(labels) : 1;
        var group = surface.GroupBy is null ? null : Evaluator.Evaluate(surface.GroupBy, context).Print(context.Locale);
        return new([new(design.Width, design.Height, items)], context.Problems.Count == 0 ? [] : [.. context.Problems.Distinct()], notes) { Copies = copies, Group = group };
    }

    int Copies(LabelSetup labels)
    {
        if (surface.CopiesBy is null) return labels.Copies;
        context.Place = "the number of copies";
        var value = Evaluator.Evaluate(surface.CopiesBy, context);
        if (value.IsBlank) return labels.Copies;
        if (value.Kind == ValueKind.Text && TypeGuesser.TryNumber(value.Text, out var read)) value = Value.Of(read);
        if (value.Kind == ValueKind.Number && value.Number == Math.Truncate(value.Number) && value.Number is >= 0 and <= MostCopies) return (int)value.Number;
        context.Report(ProblemKind.OutOfRange, Evaluator.FieldName(surface.CopiesBy, context), value.ToString(), $"The number of copies is “{Evaluator.Short(value.ToString())}”; it is a whole number from 0 to {MostCopies}.");
        return labels.Copies;
    }

    /// <summary>A box that is the same for everyone, laid out for good.</summary>
    internal (SharedPart, LayoutNotes) Settle(BoundBox box)
    {
        var notes = new LayoutNotes();
        var items = new List<PageItem>();
        Set(box, 0, 0, items, notes);
        var place = box.Box.Place;
        if (box.IsLookedAt) Placed(box.Box, [.. Ink.Of(items, place.X, place.Y)], notes);
        return (new(place.Width, place.Height, items), notes);
    }

    /// <summary>Lays a box out at the largest size at which its content fits.</summary>
    void Set(BoundBox box, double x, double y, List<PageItem> items, LayoutNotes notes)
    {
        var b = box.Box;
        if (b.Shade is not null || b.Frame is not null) items.Add(new OutlineItem(x, y, b.Place.Width, b.Place.Height, b.Frame?.Radius ?? 0, b.Frame?.Thickness ?? 0, b.Frame?.Color ?? "000000", b.Shade));
        for (var size = 0; size < box.BySize.Count; size++)
        {
            var last = size == box.BySize.Count - 1;
            var found = new LayoutNotes();
            flows.Clear();
            // What a smaller size prints again must not be told twice.
            var problems = context.Problems.Count;
            maker.Make(box.BySize[size], flows, found);
            inner.Clear();
            var height = Stacked.Emit(flows, 0, 0, inner);
            var fits = height <= box.Height + Slack && !found.IsTooNarrow;
            if (!fits && !last)
            {
                if (context.Problems.Count > problems) context.Problems.RemoveRange(problems, context.Problems.Count - problems);
                continue;
            }
            if (height > box.Height + Slack) found.Overfull.Add(b.Name);
            notes.Add(found);
            var down = b.Align switch { CellAlign.Middle => Math.Max(0, (box.Height - height) / 2), CellAlign.Bottom => Math.Max(0, box.Height - height), _ => 0 };
            foreach (var item in inner) items.Add(item with { X = item.X + x + b.Padding, Y = item.Y + y + b.Padding + down });
            return;
        }
    }

    /// <summary>Holds what is printed against the post's zones and the edge of the piece.</summary>
    void Placed(SurfaceBox box, List<Ink> ink, LayoutNotes notes)
    {
        foreach (var zone in surface.Zones)
        {
            if (zone.Allowed.Contains(box.Use)) continue;
            if (ink.Any(i => zone.Place.Overlaps(i.Place))) notes.InZones.Add((box.Name, zone.Name));
        }
        if (ink.Any(i => !surface.Holds(i.Place))) notes.InZones.Add((box.Name, surface.Kind == PieceKind.Labels ? "the edge of the label" : "the edge of the envelope"));
    }
}
