using Bandeja.Core.Campaigns;
using Bandeja.Store;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Campaigns;

/// <summary>A response that came in.</summary>
/// <param name="On">When; null for today.</param>
/// <param name="Kind">What it is; null for a payment where there is an amount.</param>
public sealed record ReceivedResponse(
    long ListId,
    long RecipientId,
    DateOnly? On = null,
    ResponseKind? Kind = null,
    decimal? Amount = null,
    string? Note = null,
    long? CampaignId = null
);

/// <summary>Records a response; answers its id.</summary>
[Act("response.record", Permission.Mail, "Recorded a response")]
public sealed class RecordResponse(ResponseStore responses, Surroundings surroundings, SequenceWork work) : Act<ReceivedResponse, long>
{
    /// <inheritdoc/>
    protected internal override long Do(ReceivedResponse order, Deed deed)
    {
        var today = surroundings.Now.Today;
        if (order.On > today)
            throw new BadInputException("The date of the response is in the future. Record a response on the day it arrived.");
        var (id, campaign) = responses.Record(
            new(
                order.ListId,
                order.RecipientId,
                order.On ?? today,
                order.Kind ?? (order.Amount > 0 ? ResponseKind.Paid : ResponseKind.Responded),
                order.Amount,
                Given.Reason(order.Note, "note"),
                "typed",
                order.CampaignId
            ),
            deed.Actor
        );
        deed.To(Matter.List, order.ListId);
        if (campaign is { } of)
        {
            deed.Changed(Matter.Campaign, of);
            work.Check(of);
        }
        return id;
    }
}
