using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>A response that was recorded.</summary>
public sealed record RecordedResponse(long ResponseId);

/// <summary>Undoes that a response was recorded.</summary>
[Act("response.undo", Permission.Mail, "Undid a response")]
public sealed class UndoResponse(ResponseStore responses, SequenceWork work) : Act<RecordedResponse>
{
    /// <inheritdoc/>
    protected override void Carry(RecordedResponse order, Deed deed)
    {
        if (responses.Undo(order.ResponseId, deed.Actor) is { } campaign)
        {
            deed.Changed(Matter.Campaign, campaign);
            work.Check(campaign);
        }
    }
}
