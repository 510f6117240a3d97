using System.Text.Json;
using Bandeja.Acts.Lists;
using Bandeja.Core.Lists;
using Bandeja.Formats.Lists;
using Bandeja.Server.Web;
using Bandeja.Store.Lists;
using Bandeja.Work.Jobs;

namespace Bandeja.Server.Endpoints;

/// <summary>A set of detail rows.</summary>
/// <param name="Unmatched">Rows that belong to no recipient.</param>
/// <param name="Without">Recipients that have no row.</param>
public sealed record DetailView(
    long Id,
    string Name,
    string KeyColumn,
    string SourceName,
    string At,
    string By,
    long Rows,
    long Unmatched,
    long Without,
    IReadOnlyList<Column> Columns,
    IReadOnlyList<string> Report
);

/// <summary>A file that brings detail rows in.</summary>
/// <param name="Key">Which of the chosen columns names the recipient, by its place among them.</param>
public sealed record DetailUpload(
    string UploadId,
    string Name,
    int Key,
    SourceOptions Options,
    int Width,
    IReadOnlyList<ImportColumn> Columns
);

static class DetailEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/lists/{id:long}/details",
                (long id, DetailStore details) =>
                    details
                        .OfList(id)
                        .Select(d => new DetailView(
                            d.Row.Id,
                            d.Row.Name,
                            d.Row.KeyColumn,
                            d.Row.SourceName,
                            d.Row.At,
                            d.Row.By,
                            d.Row.RowCount,
                            d.Row.Unmatched,
                            d.Row.Without,
                            d.Set.Columns,
                            JsonSerializer.Deserialize<string[]>(d.Row.ReportJson)!
                        ))
                        .ToList()
            )
            .WithSummary("A list's sets of detail rows");
        api.MapPost(
                "/lists/{id:long}/details",
                (long id, DetailUpload order, ImportDetails act, Caller caller) =>
                    new JobBegun(
                        caller.Does(act, new(id, order.UploadId, order.Name, order.Key, order.Options, order.Width, order.Columns))
                    )
            )
            .WithSummary("Import detail rows from a file, matched by the list’s key");
        api.MapGet(
                "/details/{id:long}/rows",
                (long id, DetailStore details, long? recipientId = null, int limit = 100) =>
                    details.Rows(id, recipientId, Math.Clamp(limit, 1, 1000))
            )
            .WithSummary("A recipient’s detail rows, or rows without a matching recipient");
        api.MapDelete("/details/{id:long}", (long id, RemoveDetails act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove a set of detail rows");
    }
}
