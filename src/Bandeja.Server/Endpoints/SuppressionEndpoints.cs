using System.Text.Json;
using Bandeja.Formats.Lists;
using Bandeja.Server.Events;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;

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
        api.MapPost(
                "/suppressions",
                (Renaming order, SuppressionStore store, EventHub hub, HttpContext context) =>
                {
                    if (string.IsNullOrWhiteSpace(order.Name))
                        throw new BadInputException("Give the suppression list a name.");
                    var id = store.Create(order.Name.Trim(), context.Actor());
                    hub.Tell("suppression", new { Id = id });
                    return id;
                }
            )
            .WithSummary("Begin a suppression list; answers its id");
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
                (long id, NewSuppression entry, SuppressionStore store, CheckRequests checks, EventHub hub, HttpContext context) =>
                {
                    if (entry.Channel is not ("all" or "email"))
                        throw new BadInputException("An entry ends all mail or email: say “all” or “email”.");
                    if (store.Add(id, [entry], context.Actor()).Added == 0)
                        throw new BadInputException(
                            "Nobody can be matched by this: give a key, an email address, or a name with street and postal code."
                        );
                    Changed(id, checks, hub);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Add somebody who must not be mailed");
        api.MapDelete(
                "/suppressions/entries/{entryId:long}",
                (long entryId, SuppressionStore store, CheckRequests checks, EventHub hub, HttpContext context) =>
                {
                    store.Remove(entryId, context.Actor());
                    Changed(0, checks, hub);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Take an entry off a suppression list");
        api.MapPost(
                "/suppressions/entries/{entryId:long}/restore",
                (long entryId, SuppressionStore store, CheckRequests checks, EventHub hub) =>
                {
                    store.Restore(entryId);
                    Changed(0, checks, hub);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Put an entry back");
        api.MapPost(
                "/suppressions/{id:long}/bring-in",
                (long id, SuppressionUpload order, Database database, JobStore jobs, JobRunner runner, HttpContext context) =>
                {
                    var upload = ImportEndpoints.Get(database, order.UploadId);
                    ImportEndpoints.Check(new("Entries", order.Options, order.Width, order.Columns));
                    var payload = JsonSerializer.Serialize(
                        new SuppressionOrder(
                            id,
                            order.Reason,
                            order.Until,
                            new(order.UploadId, upload.Name, "Entries", order.Options, order.Width, order.Columns)
                        )
                    );
                    var job = jobs.Add(SuppressionJob.Name, id, $"Bringing in {upload.Name}", payload, 0, context.Actor());
                    runner.Ring(SuppressionJob.Name);
                    return new JobBegun(job);
                }
            )
            .WithSummary("Bring entries in from a file, by roles");
    }

    static void Changed(long id, CheckRequests checks, EventHub hub)
    {
        checks.All();
        hub.Tell("suppression", new { Id = id });
    }
}
