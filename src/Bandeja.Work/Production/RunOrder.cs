using Bandeja.Core.Drops;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;

namespace Bandeja.Work.Production;

/// <summary>Who is to be made, in which order, and as what. Of pieces, recipients and segment at most one is given; without any, everyone
/// who is Ready.</summary>
/// <param name="Pieces">Ranges such as <c>1-200, 350</c>.</param>
/// <param name="Recipients">The selected recipients.</param>
/// <param name="SegmentId">A segment of the drop's list.</param>
/// <param name="Reprints">True to make pieces again that were produced, under the same numbers.</param>
/// <param name="Expected">For beginning a run: how many pieces the plan said; another number is refused.</param>
/// <param name="Sheets">For label sheets: where on a partly used sheet each design begins.</param>
/// <param name="PrinterId">The printer whose feed and offsets hold, and that prints; null for none.</param>
/// <param name="Sort">piece, postal, or columns' ids divided by commas, each with a minus for descending; null for piece.</param>
/// <param name="Output">one, parts, each or print for what is on paper; email to send, eml or mbox for messages as files.</param>
/// <param name="PartOf">Pieces of each file.</param>
/// <param name="NameBy">For a file each: its name without the ending, in the field language.</param>
/// <param name="BatchOf">For print: pieces of each batch; 0 for all in one.</param>
/// <param name="Postage">The postage class for the organisation's own country.</param>
/// <param name="PostageAbroad">The one for other countries.</param>
/// <param name="AccountId">For email: the account that sends.</param>
/// <param name="NotBefore">For email: when it begins; null for at once.</param>
/// <param name="Corrected">For reprints: true for the values of now, false for those with which the pieces were produced; must be said
/// where they differ.</param>
/// <param name="Designs">For reprints: only these designs, as where an envelope alone was spoiled; null for all.</param>
public sealed record RunOrder(
    string? Pieces = null,
    IReadOnlyList<long>? Recipients = null,
    int? Expected = null,
    IReadOnlyList<SheetOrder>? Sheets = null,
    long? PrinterId = null,
    long? SegmentId = null,
    bool Reprints = false,
    string? Sort = null,
    RunOutput Output = RunOutput.One,
    int? PartOf = null,
    string? NameBy = null,
    PasswordOrder? Passwords = null,
    int BatchOf = 0,
    bool BreakSheets = false,
    bool Duplex = false,
    int Copies = 1,
    bool Collated = true,
    string? Postage = null,
    string? PostageAbroad = null,
    IReadOnlyList<long>? Designs = null,
    long? AccountId = null,
    DateTimeOffset? NotBefore = null,
    bool? Corrected = null
);
