using Bandeja.Acts.Campaigns;
using Bandeja.Formats.Ledger;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Sequences;
using Bandeja.Work.Campaigns;
using Bandeja.Work.Composition;

namespace Bandeja.Server.Endpoints;

static class ResponseEndpoints
{
    const int Shown = 30;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/responses", (ResponseStore responses) => responses.Last(Shown))
            .WithSummary("The responses recorded last, the newest first");
        api.MapGet(
                "/responses/find",
                (string code, ResponseStore responses, Surroundings surroundings, long? campaignId = null, DateOnly? on = null) =>
                    responses.Find(code, campaignId, on ?? surroundings.Now.Today)
            )
            .WithSummary("Who may be meant by a recipient's own number or a piece number");
        api.MapPost("/responses", (ReceivedResponse order, RecordResponse act, Caller caller) => caller.Does(act, order))
            .WithSummary("Record a response; returns its ID");
        api.MapPost("/responses/{id:long}/undo", (long id, UndoResponse act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Undo that a response was recorded");
        api.MapPost("/responses/import", (ResponsesToImport order, ImportResponses act, Caller caller) => caller.Does(act, order))
            .WithSummary("Record the responses of a file, or of a column of the campaign's list");
        api.MapPost(
                "/responses/imports/{batch:long}/undo",
                (long batch, UndoImportedResponses act, Caller caller) => caller.Does(act, new(batch))
            )
            .WithSummary("Undo all responses recorded by one import; returns how many");
        api.MapGet(
                "/lists/{id:long}/recipients/{recipientId:long}/responses",
                (long id, long recipientId, ResponseStore responses) => responses.OfRecipient(recipientId)
            )
            .WithSummary("A recipient's responses, the newest first");
        api.MapGet("/campaigns/{id:long}/report", (long id, CampaignReports reports) => reports.Of(id))
            .WithSummary("A campaign in numbers");
        api.MapGet(
                "/campaigns/{id:long}/report/by",
                (long id, ReportBy by, CampaignReports reports, int? columnId = null) => reports.By(id, by, columnId)
            )
            .WithSummary("How many of those who were mailed responded, divided by a column, segment, version, or channel");
        api.MapGet("/campaigns/{id:long}/report.csv", (long id, CampaignReports reports) => Export(reports.Of(id), false))
            .WithSummary("A campaign's numbers as CSV")
            .Produces(200, contentType: "text/csv");
        api.MapGet("/campaigns/{id:long}/report.xlsx", (long id, CampaignReports reports) => Export(reports.Of(id), true))
            .WithSummary("A campaign's numbers as a workbook")
            .Produces(200, contentType: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet");
        api.MapGet(
                "/campaigns/{id:long}/report.pdf",
                (long id, ReportPdf pdf, ReportBy by = ReportBy.Channel, int? columnId = null) =>
                    Results.File(pdf.Of(id, by, columnId), "application/pdf", $"report-{id}.pdf")
            )
            .WithSummary("A campaign's report on two pages")
            .Produces(200, contentType: "application/pdf");
    }

    static IResult Export(CampaignReport report, bool workbook)
    {
        using var target = new MemoryStream();
        var (columns, rows) = ReportTable.Of(report);
        if (workbook)
            TableExport.Xlsx(target, "Report", columns, rows);
        else
            TableExport.Csv(target, [.. columns.Select(x => x.Name)], rows);
        return Results.File(
            target.ToArray(),
            workbook ? "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet" : "text/csv",
            $"report-{report.Id}.{(workbook ? "xlsx" : "csv")}"
        );
    }
}
