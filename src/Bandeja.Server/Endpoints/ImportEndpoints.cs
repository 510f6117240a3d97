using Bandeja.Acts.Lists;
using Bandeja.Formats.Lists;
using Bandeja.Server.Web;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;

namespace Bandeja.Server.Endpoints;

/// <summary>What to make of an upload.</summary>
/// <param name="LeaveOut">Numbers of rows that are none of the list: totals at its end.</param>
public sealed record ListOrder(
    string Name,
    SourceOptions Options,
    int Width,
    IReadOnlyList<ImportColumn> Columns,
    IReadOnlyList<int>? LeaveOut = null
);

/// <summary>How an upload would be read.</summary>
public sealed record SurveyQuestion(SourceOptions Options, int Width, IReadOnlyList<ImportColumn> Columns);

/// <summary>The id of the work that was begun.</summary>
public sealed record JobBegun(long JobId);

static class ImportEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/uploads", Upload)
            .WithSummary("Upload a file; the request body is the file’s bytes")
            .WithBytesAsBody()
            .Produces<UploadView>();

        api.MapPost(
                "/uploads/{id}/look",
                (string id, SourceOptions options, Uploads uploads, CancellationToken cancel) =>
                    uploads.Look(uploads.Get(id), options, cancel)
            )
            .WithSummary("See the first rows of a file as they would be read, before anything is stored");

        api.MapPost(
                "/uploads/{id}/survey",
                (string id, SurveyQuestion question, Uploads uploads, CancellationToken cancel) =>
                {
                    var upload = uploads.Get(id);
                    Uploads.Check(question.Width, question.Columns);
                    return ImportSurvey.Of(uploads.File(upload, cancel), question.Options, question.Columns, cancel);
                }
            )
            .WithSummary(
                "Check a whole file before it is imported: the number of recipients, values that do not match the type of their "
                    + "column, and totals rows"
            );

        api.MapPost(
                "/uploads/{id}/list",
                (string id, ListOrder order, ImportList act, Caller caller) =>
                    new JobBegun(caller.Does(act, new(id, order.Name, order.Options, order.Width, order.Columns, order.LeaveOut)))
            )
            .WithSummary("Import a file as a list");
    }

    static Task<UploadView> Upload(string name, HttpContext context, Uploads uploads, KeepUpload act, Caller caller) =>
        ArrivingFile.Take(context, uploads, name, file => caller.Does(act, file));
}
