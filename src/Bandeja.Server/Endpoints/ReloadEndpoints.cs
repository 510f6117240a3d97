using System.Text.Json;
using Bandeja.Acts.Lists;
using Bandeja.Core.Lists;
using Bandeja.Formats.Lists;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Jobs;

namespace Bandeja.Server.Endpoints;

/// <summary>A newer file to look at.</summary>
public sealed record ReloadQuestion(string UploadId, SourceOptions Options);

/// <summary>A newer file as it would be read, and which of its columns is which of the list's.</summary>
/// <param name="ColumnIds">For each column of the file the list's column, or null.</param>
/// <param name="Made">Columns of the list that are made of others, such as parts of names and times of day: no file has them.</param>
public sealed record ReloadLook(SourceLook Look, IReadOnlyList<int?> ColumnIds, IReadOnlyList<int> Made);

/// <summary>A newer file to hold against a list.</summary>
/// <param name="ColumnIds">For each column of the file the list's column, or null for a new one.</param>
/// <param name="Excluded">Positions of columns that are not looked at.</param>
/// <param name="KeepTimes">Positions of columns of dates whose times of day are kept in columns of their own; null for those that the look
/// proposes.</param>
public sealed record ReloadUpload(
    string UploadId,
    SourceOptions Options,
    IReadOnlyList<int?> ColumnIds,
    IReadOnlyList<int>? Excluded = null,
    IReadOnlyList<int>? KeepTimes = null
);

/// <summary>How a file differs from the list.</summary>
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
                (long id, ReloadQuestion question, Uploads uploads, NewerFiles newer, CancellationToken cancel) =>
                {
                    var look = uploads.Look(uploads.Get(question.UploadId), question.Options, cancel);
                    var origin = newer.Origin(id);
                    var ids = origin.Matched(look);
                    // Here the list says whether times are kept, and not the file alone.
                    var columns = look.Columns.Select((c, i) => c with { KeepTimes = origin.KeepsTimes(ids[i], c) });
                    return new ReloadLook(look with { Columns = [.. columns] }, ids, origin.Made);
                }
            )
            .WithSummary("See how a newer file of a list would be read");

        api.MapPost(
                "/lists/{id:long}/reload",
                (long id, ReloadUpload order, CompareFile act, Caller caller) =>
                    new JobBegun(caller.Does(act, new(id, order.UploadId, order.Options, order.ColumnIds, order.Excluded, order.KeepTimes)))
            )
            .WithSummary("Compare a file with a list");

        api.MapGet(
                "/reloads/{id:long}",
                (long id, ReloadStore reloads, NewerFiles newer) =>
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
                        newer.NewColumns(r)
                    );
                }
            )
            .WithSummary("How a file differs from the list");
        api.MapGet(
                "/reloads/{id:long}/{kind}",
                (long id, string kind, ReloadStore reloads, int offset = 0, int limit = 50) =>
                    kind is "added" or "changed" or "gone"
                        ? reloads.Items(id, kind, offset, Math.Clamp(limit, 1, 500))
                        : throw new BadInputException("The type must be added, changed, or gone.")
            )
            .WithSummary("Recipients that are added, changed, or missing from the file");
        api.MapPost(
                "/reloads/{id:long}/take",
                (long id, ReloadChoice choice, ApplyNewerFile act, Caller caller) => caller.Does(act, new(id, choice))
            )
            .WithSummary("Apply the chosen changes; creates a new version of the list");
        api.MapDelete("/reloads/{id:long}", (long id, DiscardNewerFile act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Discard the file; the list does not change");

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
                (long id, long number, RestoreListVersion act, Caller caller) => caller.Does(act, new(id, number))
            )
            .WithSummary("Restore a version");
    }
}
