using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Store.Drops;

namespace Bandeja.Work.Composition;

/// <summary>A design of a package, as a run's plan looks at it.</summary>
/// <param name="Grams">What each piece of the plan weighs; whoever plans a design adds to it.</param>
/// <param name="Sheets">From where the first sheet is used; null for a whole one.</param>
/// <param name="PageCounts">The pages of each piece, in the plan's order.</param>
/// <param name="Pieces">Each piece, composed, in the plan's order: only where its pages do not tell enough.</param>
sealed record DesignToPlan(
    PackageDesign Design,
    IBoundDesign Bound,
    RunPlan Plan,
    PlanLayout Layout,
    PriceTable Prices,
    decimal[] Grams,
    SheetOrder? Sheets,
    Func<IEnumerable<int>> PageCounts,
    Func<IEnumerable<ComposedPiece>> Pieces
)
{
    /// <summary>What a design takes, with every copy.</summary>
    /// <param name="on">The paper, or whatever it is printed on.</param>
    public DesignCost Cost(string on, int sheets, decimal grams, decimal price) =>
        new(Design.Name, on, sheets * Layout.Copies, grams * Layout.Copies, price * Layout.Copies);
}

/// <summary>What the designs of one kind come to in a planned run: sheets, weight, and price.</summary>
interface IKindPlan
{
    /// <summary>The kind.</summary>
    PieceKind Kind { get; }

    /// <summary>Counts a design of it.</summary>
    /// <exception cref="Bandeja.Store.BadInputException">The first sheet cannot begin where it is to.</exception>
    (PlanDesign Design, DesignCost Cost) Of(DesignToPlan design);
}
