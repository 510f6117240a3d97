using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Surfaces;
using Bandeja.Store;

namespace Bandeja.Work.Composition;

/// <summary>Labels: as many sheets as they fill, from where the first one is used.</summary>
sealed class LabelPlan : IKindPlan
{
    /// <inheritdoc/>
    public PieceKind Kind => PieceKind.Labels;

    /// <inheritdoc/>
    public (PlanDesign Design, DesignCost Cost) Of(DesignToPlan d)
    {
        var labels = d.Bound.Labels()!;
        var start = d.Sheets is null ? new SheetStart() : new SheetStart(d.Sheets.Start, d.Sheets.Spoiled);
        if (start.Objection(labels.Stock) is { } objection)
            throw new BadInputException(objection);
        var stock =
            d.Prices.Labels.FirstOrDefault(e => e.Format == labels.Stock.Id) ?? d.Prices.Labels.FirstOrDefault(e => e.Format.Length == 0)
            ?? new("", "Sheet of labels", 0, 0);
        var (sheets, count) = Count(
            Pieces(d, labels),
            labels,
            start,
            d.Layout,
            (i, label) => d.Grams[i] += stock.Grams * Math.Min(1, label.Copies)
        );
        return (
            new(
                d.Design.DesignId,
                d.Design.Name,
                Kind,
                sheets,
                count,
                d.Layout.Output.IsEach() ? null : StockView.Of(labels.Stock),
                labels.ByColumns
            ),
            d.Cost(labels.Stock.Name, sheets, count * stock.Grams, sheets * stock.Price)
        );
    }

    /// <summary>The labels as far as their number goes: they are composed only where that depends on the recipient.</summary>
    static IEnumerable<ComposedPiece> Pieces(DesignToPlan d, LabelSetup labels) =>
        labels.CopiesSource is null && labels.GroupSource is null
            ? Enumerable.Repeat(new ComposedPiece([], [], new()) { Copies = labels.Copies }, d.Plan.Pieces.Count)
            : d.Pieces();

    /// <summary>Pages of the labels, and how many labels there are: sheets in a file of many, label by label in a file for each
    /// recipient.</summary>
    static (int Pages, int Labels) Count(
        IEnumerable<ComposedPiece> labels,
        LabelSetup setup,
        SheetStart start,
        PlanLayout layout,
        Action<int, ComposedPiece> each
    )
    {
        var (pages, count, i) = (0, 0, 0);
        LabelSheets? laid = null;
        foreach (var label in labels)
        {
            // Each file begins a sheet; only the first of them lies on the one that is partly used.
            if (layout.Output == RunOutput.Parts && i % layout.PartOf == 0)
            {
                pages += laid?.Sheets ?? 0;
                laid = null;
            }
            laid ??= new(setup, i == 0 ? start : null);
            if (layout.Output.IsEach())
                pages += label.Copies;
            else
                laid.Add(label, null);
            count += label.Copies;
            each(i++, label);
        }
        return (layout.Output.IsEach() ? pages : pages + (laid?.Sheets ?? 0), count);
    }
}
