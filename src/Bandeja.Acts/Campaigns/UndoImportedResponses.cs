using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Campaigns;

/// <summary>What one import recorded.</summary>
public sealed record ImportedResponses(long Batch);

/// <summary>Undoes all responses that one import recorded; answers how many.</summary>
[Act("response.undo-import", Permission.Mail, "Undid an import of responses")]
public sealed class UndoImportedResponses(ResponseStore responses, SequenceWork work) : Act<ImportedResponses, int>
{
    /// <inheritdoc/>
    protected internal override int Do(ImportedResponses order, Deed deed)
    {
        var undone = responses.UndoBatch(order.Batch, deed.Actor);
        deed.Changed(Matter.Campaign);
        work.CheckAll();
        return undone;
    }
}
