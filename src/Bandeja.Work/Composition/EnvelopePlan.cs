using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Surfaces;

namespace Bandeja.Work.Composition;

/// <summary>Envelopes: one for each piece.</summary>
sealed class EnvelopePlan : IKindPlan
{
    /// <inheritdoc/>
    public PieceKind Kind => PieceKind.Envelope;

    /// <inheritdoc/>
    public (PlanDesign Design, DesignCost Cost) Of(DesignToPlan d)
    {
        var (width, height) = d.Bound.Size!.Value;
        var format = EnvelopeFormat.All.FirstOrDefault(f =>
            Math.Abs(f.Width * 72 / 25.4 - width) < 1 && Math.Abs(f.Height * 72 / 25.4 - height) < 1
        );
        var stock =
            d.Prices.Envelopes.FirstOrDefault(e => e.Format == format?.Id) ?? d.Prices.Envelopes.FirstOrDefault(e => e.Format.Length == 0)
            ?? new("", "Envelope", 0, 0);
        for (var i = 0; i < d.Grams.Length; i++)
            d.Grams[i] += stock.Grams;
        var count = d.Plan.Pieces.Count;
        return (
            new(d.Design.DesignId, d.Design.Name, Kind, count, null, null),
            d.Cost(format?.Name ?? stock.Name, count, count * stock.Grams, count * stock.Price)
        );
    }
}
