using Bandeja.Core.Drops;
using Bandeja.Work.Composition;
using Bandeja.Work.Mail;

namespace Bandeja.Work.Production;

/// <summary>What a run weighs (grams) and costs.</summary>
public sealed record CostView(
    IReadOnlyList<DesignCost> Designs,
    IReadOnlyList<PostageCost> Postage,
    decimal Lightest,
    decimal Heaviest,
    decimal Total,
    string Currency
);

/// <summary>What would be made, and who is left out. Pieces and left out add up to the list.</summary>
/// <param name="Names">For a file each: what the first files will be called.</param>
/// <param name="Numbered">How many names are numbered because another file has the same.</param>
/// <param name="BlankPasswords">The pieces whose password comes out blank; no run begins with any.</param>
/// <param name="Remarks">What is to be known beside.</param>
/// <param name="Mail">For email: what the messages are like.</param>
/// <param name="Blocked">Why nothing can be produced now; null where it can.</param>
/// <param name="Corrected">For reprints: how many of the recipients were corrected since their pieces were produced.</param>
/// <param name="InDoubt">How many of the chosen recipients are left out because their piece may have gone out already.</param>
/// <param name="Duplicates">Who of the recipients may be one person; null for a reprint.</param>
public sealed record PlanView(
    int Pieces,
    int Pages,
    int? FirstPiece,
    int? LastPiece,
    IReadOnlyList<Excluded> Excluded,
    int OnTheList,
    IReadOnlyList<PlanDesign> Designs,
    CostView Cost,
    IReadOnlyList<string> Names,
    int Numbered,
    IReadOnlyList<int> BlankPasswords,
    IReadOnlyList<string> Remarks,
    MailPlanView? Mail = null,
    string? Blocked = null,
    int Corrected = 0,
    int InDoubt = 0,
    PossibleDuplicates? Duplicates = null
);
