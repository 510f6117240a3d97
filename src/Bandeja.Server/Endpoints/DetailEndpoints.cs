using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Formats.Lists;
using Bandeja.Server.Events;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;

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
                (long id, DetailUpload order, Database database, ListStore lists, JobStore jobs, JobRunner runner, HttpContext context) =>
                {
                    var upload = ImportEndpoints.Get(database, order.UploadId);
                    var name = order.Name.Trim();
                    if (name.Length is 0 or > Headings.MaxLength || name.IndexOfAny(['{', '}', '`', '.']) >= 0)
                        throw new BadInputException("Give the rows a short name without full stops, for instance Gifts.");
                    ImportEndpoints.Check(new(name, order.Options, order.Width, order.Columns));
                    if (order.Key < 0 || order.Key >= order.Columns.Count)
                        throw new BadInputException("Choose the column that says whose row it is.");
                    if (lists.Columns(id).All(c => c.Role != Role.Key))
                        throw new BadInputException(
                            "The list has no key column, so nothing says which recipient a row belongs to. Give a column the role "
                                + "“key” first."
                        );
                    var payload = JsonSerializer.Serialize(
                        new DetailOrder(
                            id,
                            name,
                            order.Key,
                            new(order.UploadId, upload.Name, name, order.Options, order.Width, order.Columns)
                        )
                    );
                    var job = jobs.Add(DetailJob.Name, id, $"Bringing in {name}", payload, 0, context.Actor());
                    runner.Ring(DetailJob.Name);
                    return new JobBegun(job);
                }
            )
            .WithSummary("Bring detail rows in: another file, tied by the list's key");
        api.MapGet(
                "/details/{id:long}/rows",
                (long id, DetailStore details, long? recipientId = null, int limit = 100) =>
                    details.Rows(id, recipientId, Math.Clamp(limit, 1, 1000))
            )
            .WithSummary("A recipient's detail rows, or those that belong to nobody");
        api.MapDelete(
                "/details/{id:long}",
                (long id, DetailStore details, EventHub hub) =>
                {
                    hub.List(details.Remove(id));
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Remove a set of detail rows");
    }
}
