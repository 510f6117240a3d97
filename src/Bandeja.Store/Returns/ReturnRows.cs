using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Returns;
using Bandeja.Store.People;

namespace Bandeja.Store.Returns;

/// <summary>A part of a recipient's address, with the column that it stands in.</summary>
public sealed record AddressCell(int ColumnId, string Name, Role Role, string? Value);

/// <summary>A drop in which the recipient's piece has not left the building yet.</summary>
public sealed record OpenDrop(long DropId, string Campaign, string Name, Tray Tray);

/// <summary>The same person on another list.</summary>
/// <param name="SameAddress">True where their address there is the one that the piece's list has: a new one is corrected there, too,
/// unless it is said otherwise.</param>
/// <param name="Open">Drops of that list in which their piece has not left the building yet.</param>
public sealed record OtherAddress(PersonOnList Person, bool SameAddress, IReadOnlyList<OpenDrop> Open);

/// <summary>A piece that may be the one in hand.</summary>
/// <param name="Address">The address as the list has it now, column by column.</param>
/// <param name="AddressLines">The same as its country writes it, below the name; none where it has neither street nor place.</param>
/// <param name="Returned">Reason for return before; null where it did not.</param>
/// <param name="Objection">Why its return cannot be recorded; null where it can.</param>
/// <param name="OtherLists">The same person on other lists, where a new address may belong as well.</param>
/// <param name="Open">Where a corrected address, or a hold, counts.</param>
public sealed record FoundPiece(
    long DropId,
    string Campaign,
    string Drop,
    long ListId,
    string List,
    long RecipientId,
    long Piece,
    string Name,
    DateOnly? MailedOn,
    Tray Tray,
    string? Returned,
    string? Objection,
    IReadOnlyList<AddressCell> Address,
    IReadOnlyList<string> AddressLines,
    IReadOnlyList<OpenDrop> Open,
    IReadOnlyList<OtherAddress> OtherLists
);

/// <summary>A return that was entered.</summary>
public sealed record ReturnRow
{
    public long Id { get; init; }
    public long DropId { get; init; }
    public string Campaign { get; init; } = "";
    public string Drop { get; init; } = "";
    public long RecipientId { get; init; }
    public long Piece { get; init; }
    public string Name { get; init; } = "";
    public ReturnReason Reason { get; init; }
    public ReturnFollowUp FollowUp { get; init; }
    public long? RemailDropId { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
    public bool Undone { get; init; }

    /// <summary>Names of other lists on which the same person's address was corrected with it.</summary>
    public IReadOnlyList<string> AlsoOn { get; init; } = [];
}

/// <summary>What is to be recorded of a piece that came back.</summary>
/// <param name="Address">Corrected cells, by the column's id.</param>
/// <param name="Also">Recipients of other lists who are the same person and are corrected with it; null for those who had the same
/// address.</param>
public sealed record ReturnEntry(
    long DropId,
    long RecipientId,
    ReturnReason Reason,
    ReturnFollowUp FollowUp,
    DateOnly Date,
    IReadOnlyDictionary<int, string?> Address,
    IReadOnlyList<long>? Also = null
);

/// <summary>What came of it.</summary>
/// <param name="CorrectedLists">The lists whose cells changed: the piece's own, and those on which the same person is.</param>
/// <param name="NotCorrected">Of lists on which the same person has the old address and keeps it, a sentence each.</param>
public sealed record ReturnOutcome(
    ReturnRow Row,
    IReadOnlyList<long> CorrectedLists,
    long? SuppressionListId,
    IReadOnlyList<long> OpenDrops,
    IReadOnlyList<string> NotCorrected
);
