using Bandeja.Acts.Suppressions;
using Bandeja.Formats.Lists;
using Bandeja.Server.Web;
using Bandeja.Store.Lists;
using Bandeja.Work.Jobs;

namespace Bandeja.Server.Endpoints;

/// <summary>A part of the entries of a suppression list.</summary>
public sealed record SuppressionPage(int Total, IReadOnlyList<SuppressionRow> Rows);

/// <summary>A file that brings entries in.</summary>
public sealed record SuppressionUpload(
    string UploadId,
    SourceOptions Options,
    int Width,
    IReadOnlyList<ImportColumn> Columns,
    string? Reason = null,
    DateOnly? Until = null
);

static class SuppressionEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/suppressions", (SuppressionStore store) => store.All()).WithSummary("All suppression lists");
        api.MapPost("/suppressions", (Renaming order, StartSuppressionList act, Caller caller) => caller.Does(act, new(order.Name)))
            .WithSummary("Create a suppression list; returns its ID");
        api.MapGet(
                "/suppressions/{id:long}/entries",
                (long id, SuppressionStore store, string? search = null, int offset = 0, int limit = 100) =>
                {
                    var (rows, total) = store.Entries(id, search, Math.Max(0, offset), Math.Clamp(limit, 1, 500));
                    return new SuppressionPage(total, rows);
                }
            )
            .WithSummary("The people on a suppression list");
        api.MapPost(
                "/suppressions/{id:long}/entries",
                (long id, NewSuppression entry, Suppress act, Caller caller) => caller.Does(act, new(id, entry))
            )
            .WithSummary("Add an entry");
        api.MapDelete(
                "/suppressions/entries/{entryId:long}",
                (long entryId, RemoveSuppression act, Caller caller) => caller.Does(act, new(entryId))
            )
            .WithSummary("Remove an entry");
        api.MapPost(
                "/suppressions/entries/{entryId:long}/restore",
                (long entryId, RestoreSuppression act, Caller caller) => caller.Does(act, new(entryId))
            )
            .WithSummary("Restore an entry");
        api.MapPost(
                "/suppressions/{id:long}/bring-in",
                (long id, SuppressionUpload order, ImportSuppressions act, Caller caller) =>
                    new JobBegun(
                        caller.Does(act, new(id, order.UploadId, order.Reason, order.Until, order.Options, order.Width, order.Columns))
                    )
            )
            .WithSummary("Import entries from a file, by column roles");
    }
}
