using Bandeja.Store;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Campaigns;

/// <summary>Responses of a file, or of a column of the campaign's list.</summary>
/// <param name="DateColumnId">The column that holds when somebody responded; null for lines.</param>
public sealed record ResponsesToImport(
    IReadOnlyList<ResponseLine> Lines,
    long? CampaignId = null,
    int? DateColumnId = null,
    int? AmountColumnId = null
);

/// <summary>Records the responses of a file or a column; answers what became of them.</summary>
[Act("response.import", Permission.Mail, "Imported responses")]
public sealed class ImportResponses(ResponseStore responses, Surroundings surroundings, SequenceWork work)
    : Act<ResponsesToImport, ResponseImport>
{
    /// <inheritdoc/>
    protected internal override ResponseImport Do(ResponsesToImport order, Deed deed)
    {
        var today = surroundings.Now.Today;
        var came = order.DateColumnId is { } column
            ? responses.FromColumn(
                order.CampaignId ?? throw new BadInputException("Choose the campaign whose list has the column."),
                column,
                order.AmountColumnId,
                today,
                deed.Actor
            )
            : responses.Import(order.Lines, order.CampaignId, today, deed.Actor);
        deed.Says($"Imported {came.Recorded:N0} {(came.Recorded == 1 ? "response" : "responses")}");
        deed.Changed(Matter.Campaign);
        work.CheckAll();
        return came;
    }
}
