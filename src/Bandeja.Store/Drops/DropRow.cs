using Bandeja.Core.Composition;
using Bandeja.Core.Contact;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Mail;

namespace Bandeja.Store.Drops;

/// <summary>A drop with the names of what it sends and to whom.</summary>
public sealed record DropRow
{
    public long Id { get; init; }
    public long CampaignId { get; init; }
    public string CampaignName { get; init; } = "";
    public long Number { get; init; }
    public string Name { get; init; } = "";
    public long ListId { get; init; }
    public string ListName { get; init; } = "";

    /// <summary>The names of the package's designs, for people.</summary>
    public string DesignName { get; init; } = "";

    /// <summary>The package in its order.</summary>
    public IReadOnlyList<PackageDesign> Package { get; init; } = [];
    public DateOnly? MailDate { get; init; }
    public string? CheckedMark { get; init; }

    /// <summary>Why the last check failed, and the mark for which it did.</summary>
    public string? CheckError { get; init; }
    public string? CheckErrorMark { get; init; }

    /// <summary>How many times the values of many recipients changed at once.</summary>
    public long Changes { get; init; }
    public long? SegmentId { get; init; }
    public string? SegmentName { get; init; }
    public bool NeedsSignOff { get; init; }
    public string ChannelBy { get; init; } = "Package";
    public long? ChannelColumn { get; init; }

    /// <summary>Who gets their pieces in which way.</summary>
    public ChannelRule Channels => new(Enum.Parse<ChannelBy>(ChannelBy), (int?)ChannelColumn);

    /// <summary>The ways that the package has.</summary>
    public Channel Ways => (Package.Any(p => p.IsEmail) ? Channel.Email : 0) | (Package.Any(p => !p.IsEmail) ? Channel.Paper : 0);
    public string CreatedAt { get; init; } = "";

    /// <summary>The step of its campaign that it mails; null for a drop that was started by hand.</summary>
    public long? StepId { get; init; }

    /// <summary>One by one: the day for which it collects who is due; null where a step goes to everyone together.</summary>
    public DateOnly? CollectsOn { get; init; }
    public string Priority { get; init; } = nameof(MailPriority.Usual);

    /// <summary>Which goes where a contact limit lets only one of two drops go.</summary>
    public MailPriority Goes => Enum.Parse<MailPriority>(Priority);
}

/// <summary>A design of a drop's package.</summary>
/// <param name="Kind">letter, envelope, labels or email.</param>
public sealed record PackageDesign(long DesignId, string Name, PieceKind Kind)
{
    /// <summary>True for an email; all else is on paper.</summary>
    public bool IsEmail => !Kind.Rules().IsPaper;
}

/// <summary>How many recipients of a drop get their pieces in one way; who is held is not among them.</summary>
public sealed record ChannelCount
{
    public string Channel { get; init; } = "";
    public long Recipients { get; init; }
    public long Ready { get; init; }
    public long ByHand { get; init; }
}

/// <summary>How full a drop's trays are.</summary>
/// <param name="InDoubt">How many recipients may have been sent a piece already.</param>
/// <param name="Noted">How many pieces were produced before a rule would have held them.</param>
public sealed record TrayTally(IReadOnlyDictionary<Tray, int> Trays, int InDoubt, int Noted)
{
    /// <summary>A drop with nobody in it.</summary>
    public static readonly TrayTally Empty = new(new Dictionary<Tray, int>(), 0, 0);

    /// <summary>How many are in a tray.</summary>
    public int this[Tray tray] => Trays.GetValueOrDefault(tray);
}
