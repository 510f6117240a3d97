using System.Text.Json;
using Bandeja.Core.Campaigns;

namespace Bandeja.Store.Campaigns;

/// <summary>Who enters a campaign whose recipients go through it one by one. The names are stored; never rename one.</summary>
public enum Entry
{
    /// <summary>Everyone on the list as it begins, and who is added later.</summary>
    Everyone,

    /// <summary>Who is added to the list after it began.</summary>
    Added,

    /// <summary>Who meets a condition, from the day on which they do.</summary>
    Condition,

    /// <summary>Whom somebody puts in.</summary>
    ByHand,
}

/// <summary>To whom of a campaign a step goes. The names are stored; never rename one.</summary>
public enum StepWho
{
    Everyone,
    Segment,
    Condition,
}

/// <summary>A campaign.</summary>
public sealed record CampaignRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public string CreatedAt { get; init; } = "";

    /// <summary>As it is stored; <see cref="Goes"/> says it.</summary>
    public string Mode { get; init; } = nameof(CampaignMode.Drops);

    /// <summary>How its recipients go through its steps.</summary>
    public CampaignMode Goes => Enum.Parse<CampaignMode>(Mode);

    /// <summary>The list whose recipients go through its steps; null without steps.</summary>
    public long? ListId { get; init; }
    public string? ListName { get; init; }

    /// <summary>The day on which it begins; null without steps.</summary>
    public DateOnly? StartsOn { get; init; }
    public string Entry { get; init; } = nameof(Campaigns.Entry.ByHand);
    public string EntryFilter { get; init; } = "";
    public long EntryAfter { get; init; }

    /// <summary>Who does not meet this condition any more leaves; empty for none.</summary>
    public string StayFilter { get; init; } = "";

    /// <summary>For how many days after its mailing a piece is credited with a response.</summary>
    public long ResponseDays { get; init; }

    /// <summary>Goes up with every change of its steps, of who left, and of responses.</summary>
    public long Revision { get; init; }
}

/// <summary>A step of a campaign.</summary>
public sealed record StepRow
{
    public long Id { get; init; }
    public long CampaignId { get; init; }

    /// <summary>Its place among the campaign's steps, from 1.</summary>
    public long Position { get; init; }
    public string Name { get; init; } = "";
    public string Who { get; init; } = nameof(StepWho.Everyone);
    public long? SegmentId { get; init; }
    public string Condition { get; init; } = "";
    public DateOnly? OnDate { get; init; }
    public long After { get; init; }
    public string Unit { get; init; } = nameof(StepUnit.Days);
    public long ReadyDays { get; init; }
    public long? Weekday { get; init; }
    public bool Skipped { get; init; }

    /// <summary>As it is stored; <see cref="DesignIds"/> says it.</summary>
    public string Designs { get; init; } = "[]";

    /// <summary>The package's designs.</summary>
    public IReadOnlyList<long> DesignIds => JsonSerializer.Deserialize<long[]>(Designs)!;

    /// <summary>When it is mailed.</summary>
    public StepTiming Timing => new(OnDate, (int)After, Enum.Parse<StepUnit>(Unit), (int)ReadyDays, (DayOfWeek?)Weekday);

    /// <summary>As its clock sees it.</summary>
    public ClockStep Clock => new(Id, Timing, Skipped);
}
