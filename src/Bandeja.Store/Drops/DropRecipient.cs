using Bandeja.Core.Drops;
using Bandeja.Core.Mail;

namespace Bandeja.Store.Drops;

/// <summary>A recipient as the bench lists them.</summary>
public sealed record DropRecipient(
    long Id,
    int PieceNumber,
    Tray Tray,
    int Pages,
    string? HoldReason,
    long? RunId,
    DateOnly? MailedOn,
    string? ReturnReason,
    string?[] Values
)
{
    /// <summary>How their pieces go out.</summary>
    public Channel Channel { get; init; } = Channel.Paper;

    /// <summary>True where a person chose that.</summary>
    public bool ChannelByHand { get; init; }

    /// <summary>The run that made or sent the email.</summary>
    public long? EmailRunId { get; init; }

    /// <summary>When the mail server took it.</summary>
    public DateOnly? EmailedOn { get; init; }

    /// <summary>Pieces of theirs that may have gone out, and nobody knows.</summary>
    public IReadOnlyList<PieceDoubt> InDoubt { get; init; } = [];

    /// <summary>What the rules would hold them for, where their piece was produced before that.</summary>
    public string? RuleNote { get; init; }

    /// <summary>True where anything of theirs was produced, or may have been.</summary>
    public bool IsBegun => RunId is not null || EmailRunId is not null || InDoubt.Count > 0;
}
