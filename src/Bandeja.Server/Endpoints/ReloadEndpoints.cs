using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Formats.Lists;
using Bandeja.Server.Events;
using Bandeja.Server.Hosting;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;
using Dapper;

namespace Bandeja.Server.Endpoints;

/// <summary>A newer file to look at.</summary>
public sealed record ReloadQuestion(string UploadId, SourceOptions Options);

/// <summary>A newer file as it would be read, and which of its columns is which of the list's.</summary>
/// <param name="ColumnIds">For each column of the file the list's column, or null.</param>
/// <param name="Missing">Columns of the list that came from a file and are not in this one.</param>
public sealed record ReloadLook(SourceLook Look, IReadOnlyList<int?> ColumnIds, IReadOnlyList<string> Missing);

/// <summary>A newer file to hold against a list.</summary>
/// <param name="ColumnIds">For each column of the file the list's column, or null for a new one.</param>
/// <param name="LeftOut">Positions of columns that are not looked at.</param>
public sealed record ReloadUpload(
    string UploadId,
    SourceOptions Options,
    IReadOnlyList<int?> ColumnIds,
    IReadOnlyList<int>? LeftOut = null
);

/// <summary>What a newer file has otherwise.</summary>
public sealed record ReloadView(
    long Id,
    string SourceName,
    string MatchedBy,
    long Unchanged,
    long Added,
    long Changed,
    long Gone,
    long InBoth,
    IReadOnlyList<string> Report,
    IReadOnlyList<Column> NewColumns
);

/// <summary>A version of a list.</summary>
public sealed record ListVersionView(
    long Number,
    string At,
    string By,
    string? SourceName,
    long Recipients,
    long Added,
    long Changed,
    long Gone
);

static class ReloadEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost(
                "/lists/{id:long}/reload/look",
                (long id, ReloadQuestion question, Database database, ServerOptions server, SettingStore settings, VersionStore versions) =>
                {
                    var look = ImportEndpoints.Look(server, settings, ImportEndpoints.Get(database, question.UploadId), question.Options);
                    var (ids, missing) = Matched(database, id, look, Divided(versions.OfList(id)));
                    return new ReloadLook(look, ids, missing);
                }
            )
            .WithSummary("See how a newer file of a list would be read");

        api.MapPost(
                "/lists/{id:long}/reload",
                (
                    long id,
                    ReloadUpload order,
                    Database database,
                    ServerOptions server,
                    SettingStore settings,
                    ListStore lists,
                    VersionStore versions,
                    JobStore jobs,
                    JobRunner runner,
                    HttpContext context
                ) =>
                {
                    var upload = ImportEndpoints.Get(database, order.UploadId);
                    var look = ImportEndpoints.Look(server, settings, upload, order.Options);
                    if (look.Problem is { } problem)
                        throw new BadInputException(problem);
                    if (order.ColumnIds.Count != look.Columns.Count)
                        throw new BadInputException("For each column of the file stands which column of the list it is.");
                    if (order.ColumnIds.OfType<int>().GroupBy(c => c).Any(g => g.Count() > 1))
                        throw new BadInputException("Two columns of the file cannot be the same column of the list.");
                    var known = lists.Columns(id).ToDictionary(c => c.Id);
                    var all = versions.OfList(id);
                    var divided = Divided(all);
                    var first = First(all);
                    var chosen = Enumerable.Range(0, look.Columns.Count).Where(i => order.LeftOut?.Contains(i) != true).ToList();
                    var columns = chosen
                        .Select(i =>
                        {
                            var (inFile, own) = (
                                look.Columns[i],
                                order.ColumnIds[i] is { } c
                                    ? known.GetValueOrDefault(c) ?? throw new NotFoundException("The list has no such column (any more).")
                                    : null
                            );
                            // Values are read by the type that the column has here, whatever these rows look like.
                            // What these values leave open is read as it was the first time.
                            var before = inFile.Ambiguous
                                ? first?.Columns.FirstOrDefault(x => x.Name.Equals(inFile.Name, StringComparison.OrdinalIgnoreCase))
                                : null;
                            return new ImportColumn(
                                i,
                                inFile.Name,
                                own?.Type ?? inFile.Type,
                                before?.DateOrder ?? inFile.DateOrder,
                                divided.GetValueOrDefault(inFile.Name, own?.Role ?? inFile.Role),
                                divided.ContainsKey(inFile.Name),
                                before?.NumberForm ?? inFile.NumberForm
                            );
                        })
                        .ToList();
                    var options = new SourceOptions(
                        look.Sheet,
                        look.HeadingRow,
                        look.Encoding,
                        look.Delimiter,
                        look.HeadingSpan,
                        look.Query
                    );
                    var payload = JsonSerializer.Serialize(
                        new ReloadOrder(
                            id,
                            new(order.UploadId, upload.Name, lists.Get(id).Name, options, look.Columns.Count, columns),
                            [.. chosen.Select(i => order.ColumnIds[i])],
                            first?.LeaveOut is { Count: > 0 }
                        )
                    );
                    var job = jobs.Add(ReloadJob.Name, id, $"Holding {upload.Name} against the list", payload, 0, context.Actor());
                    runner.Ring(ReloadJob.Name);
                    return new JobBegun(job);
                }
            )
            .WithSummary("Hold a newer file against a list");

        api.MapGet(
                "/reloads/{id:long}",
                (long id, ReloadStore reloads, ListStore lists) =>
                {
                    var r = reloads.Get(id);
                    return new ReloadView(
                        r.Id,
                        r.SourceName,
                        r.MatchedBy,
                        r.Unchanged,
                        r.Added,
                        r.Changed,
                        r.Gone,
                        r.InBoth,
                        JsonSerializer.Deserialize<string[]>(r.ReportJson)!,
                        NewColumns(r, lists)
                    );
                }
            )
            .WithSummary("What a newer file has otherwise");
        api.MapGet(
                "/reloads/{id:long}/{kind}",
                (long id, string kind, ReloadStore reloads, int offset = 0, int limit = 50) =>
                    kind is "added" or "changed" or "gone"
                        ? reloads.Items(id, kind, offset, Math.Clamp(limit, 1, 500))
                        : throw new BadInputException("There are added, changed and gone.")
            )
            .WithSummary("Who is added, changed or gone");
        api.MapPost(
                "/reloads/{id:long}/take",
                (
                    long id,
                    ReloadChoice choice,
                    ReloadStore reloads,
                    ListStore lists,
                    DoubtStore doubts,
                    ListWork work,
                    CheckRequests checks,
                    EventHub hub,
                    HttpContext context
                ) =>
                {
                    var reload = reloads.Get(id);
                    var outcome = reloads.Take(id, choice, NewColumns(reload, lists).ToDictionary(c => c.Id), context.Actor());
                    doubts.Outdated(reload.ListId);
                    work.Check(reload.ListId);
                    checks.All();
                    return ListEditEndpoints.Told(hub, reload.ListId, outcome);
                }
            )
            .WithSummary("Take over what was chosen; the list gets a new version");
        api.MapDelete(
                "/reloads/{id:long}",
                (long id, ReloadStore reloads, EventHub hub) =>
                {
                    var list = reloads.Get(id).ListId;
                    reloads.Leave(id);
                    hub.List(list);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Leave the newer file; the list stays as it is");

        api.MapGet(
                "/lists/{id:long}/versions",
                (long id, VersionStore versions) =>
                    versions
                        .OfList(id)
                        .Select(v => new ListVersionView(v.Number, v.At, v.By, v.SourceName, v.Recipients, v.Added, v.Changed, v.Gone))
                        .ToList()
            )
            .WithSummary("A list's versions: each load");
        api.MapGet(
                "/lists/{id:long}/versions/{number:long}",
                (long id, long number, VersionStore versions, int offset = 0, int limit = 100) =>
                {
                    var (rows, total) = versions.Rows(id, number, Math.Max(0, offset), Math.Clamp(limit, 1, 500));
                    return new RecipientPage(total, [.. rows.Select(r => new RecipientView(r.Id, r.Number, r.Values, null, [], null))]);
                }
            )
            .WithSummary("The recipients of a version with the values of that moment");
        api.MapPost(
                "/lists/{id:long}/versions/{number:long}/bring-back",
                (long id, long number, VersionStore versions, CheckRequests checks, EventHub hub, HttpContext context) =>
                {
                    var outcome = versions.BringBack(id, number, context.Actor());
                    checks.All();
                    return ListEditEndpoints.Told(hub, id, outcome);
                }
            )
            .WithSummary("Bring a version back");
    }

    static (IReadOnlyList<int?> Ids, IReadOnlyList<string> Missing) Matched(
        Database database,
        long id,
        SourceLook look,
        Dictionary<string, Role> divided
    )
    {
        // Parts of divided columns are made anew of the whole; no column of the file is theirs.
        var parts = divided.Values.SelectMany(CellParts.RolesOf).Select(CellParts.NameOf).ToHashSet();
        using var c = database.Open();
        var known = c.Query<(long Id, string Name, string Source)>(
                "SELECT id, name, source_name FROM list_column WHERE list_id = @id AND removed = 0 AND kind = 'Source' ORDER BY position",
                new { id }
            )
            .ToList();
        var byName = known
            .GroupBy(k => k.Source, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => (int)g.First().Id, StringComparer.OrdinalIgnoreCase);
        foreach (var k in known)
            byName.TryAdd(k.Name, (int)k.Id);
        var taken = new HashSet<int>();
        List<int?> ids = [.. look.Columns.Select(x => byName.TryGetValue(x.Name, out var at) && taken.Add(at) ? at : (int?)null)];
        return (ids, [.. known.Where(k => !taken.Contains((int)k.Id) && !parts.Contains(k.Source)).Select(k => k.Name)]);
    }

    /// <summary>The columns that were divided when the list was brought in; their parts are made anew of the newer file.</summary>
    static Dictionary<string, Role> Divided(IReadOnlyList<VersionRow> versions)
    {
        return First(versions)?.Columns.Where(c => c.Divide).ToDictionary(c => c.Name, c => c.Role, StringComparer.OrdinalIgnoreCase) ?? [];
    }

    static ImportOrder? First(IReadOnlyList<VersionRow> versions) =>
        versions[^1].OrderJson is { } json ? JsonSerializer.Deserialize<ImportOrder>(json) : null;

    static IReadOnlyList<Column> NewColumns(ReloadRow reload, ListStore lists)
    {
        var order = JsonSerializer.Deserialize<ReloadOrder>(reload.OrderJson)!;
        var taken = lists.Columns(reload.ListId).Select(c => c.Role).ToHashSet();
        return
        [
            .. order
                .Import.Columns.Select((c, i) => (c, i))
                .Where(x => order.ColumnIds[x.i] is null)
                .Select(x => new Column(-(x.i + 1), x.c.Name, x.c.Type, taken.Contains(x.c.Role) ? Role.None : x.c.Role)),
        ];
    }
}
