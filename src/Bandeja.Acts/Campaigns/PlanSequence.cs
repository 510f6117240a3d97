using Bandeja.Core.Campaigns;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>A campaign with steps to start, or how the steps of one are gone through.</summary>
/// <param name="CampaignId">The campaign; null to start one.</param>
/// <param name="Name">Its name, where it is started or renamed.</param>
/// <param name="PatternId">A pattern whose steps it gets.</param>
/// <param name="CopyOf">A campaign whose steps it gets.</param>
public sealed record SequenceOrder(
    long ListId,
    CampaignMode Mode,
    DateOnly StartsOn,
    long? CampaignId = null,
    string? Name = null,
    Entry Entry = Entry.ByHand,
    string EntryFilter = "",
    string StayFilter = "",
    int ResponseDays = 60,
    long? PatternId = null,
    long? CopyOf = null
);

/// <summary>Starts a campaign whose recipients go through steps, or changes how they do; answers its id.</summary>
[Act("campaign.plan", Permission.Drops, "Planned a campaign")]
public sealed class PlanSequence(CampaignStore campaigns, StepEdits edits, Patterns patterns, SequenceWork work) : Act<SequenceOrder, long>
{
    /// <inheritdoc/>
    protected internal override long Do(SequenceOrder order, Deed deed)
    {
        var id = order.CampaignId ?? campaigns.Create(Given.Name(order.Name, "campaign"), deed.Actor);
        if (order is { CampaignId: not null, Name: { } name })
            campaigns.Rename(id, Given.Name(name, "campaign"));
        edits.Plan(
            id,
            new(
                order.ListId,
                order.Mode,
                order.StartsOn,
                order.Entry,
                Given.Condition(order.EntryFilter),
                Given.Condition(order.StayFilter),
                order.ResponseDays
            ),
            deed.Actor
        );
        if (order.PatternId is { } pattern)
            patterns.Use(pattern, id, deed.Actor);
        else if (order.CopyOf is { } from)
            patterns.Copy(from, id, deed.Actor);
        deed.Says($"Planned the campaign “{campaigns.Get(id).Name}”");
        deed.Changed(Matter.Campaign, id);
        work.Follow(id);
        return id;
    }
}
