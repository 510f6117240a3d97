using Bandeja.Core.Composition;

namespace Bandeja.Work.Composition;

/// <summary>Where the labels of a design begin on a partly used sheet.</summary>
/// <param name="Start">The first place, from 1, row by row.</param>
/// <param name="Spoiled">Places of the first sheet that are passed over.</param>
public sealed record SheetOrder(long DesignId, int Start = 1, IReadOnlyList<int>? Spoiled = null);

/// <summary>What one design of the package comes to.</summary>
/// <param name="Pages">Pages, envelopes, or sheets of labels.</param>
/// <param name="Labels">How many labels, copies counted; null for what is no label sheet.</param>
public sealed record PlanDesign(
    long DesignId,
    string Name,
    PieceKind Kind,
    int Pages,
    int? Labels,
    StockView? Stock,
    bool ByColumns = false
);
