using Bandeja.Core.Composition;
using Bandeja.Core.Drops;

namespace Bandeja.Work.Composition;

/// <summary>Letters and forms: sheets by their pages, and separator sheets.</summary>
abstract class PagesPlan : IKindPlan
{
    /// <inheritdoc/>
    public abstract PieceKind Kind { get; }

    /// <inheritdoc/>
    public (PlanDesign Design, DesignCost Cost) Of(DesignToPlan d)
    {
        var (separators, pages) = d.Layout.SeparatorsOf(d.Plan.Pieces.Count);
        var (width, height) = d.Bound.Size!.Value;
        var stock = d.Prices.Papers[0];
        var sheet = stock.GramsPerSquareMetre * (decimal)(width * height / 72 / 72 * 0.0254 * 0.0254);
        var (paper, i) = (separators, 0);
        foreach (var own in d.PageCounts())
        {
            pages += d.Layout.PagesOf(own);
            paper += d.Layout.SheetsOf(own);
            d.Grams[i++] += d.Layout.SheetsOf(own) * sheet;
        }
        return (
            new(d.Design.DesignId, d.Design.Name, Kind, pages, null, null),
            d.Cost(stock.Name, paper, paper * sheet, paper * stock.Price)
        );
    }
}
