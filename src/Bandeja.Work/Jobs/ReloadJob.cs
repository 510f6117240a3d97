using System.Text.Json;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Reading;

namespace Bandeja.Work.Jobs;

/// <summary>Which newer file is held against which list, and which of its columns is which of the list's.</summary>
/// <param name="ColumnIds">For each chosen column of the file the id of the list's column, or null for one that the list does not
/// have.</param>
/// <param name="LeaveTotals">True where rows with totals were left out when the list was brought in: so they are again.</param>
public sealed record ReloadOrder(long ListId, ImportOrder Import, IReadOnlyList<int?> ColumnIds, bool LeaveTotals = false);

/// <summary>Holds a newer file against a list.</summary>
public sealed class ReloadJob(
    ReloadStore reloads,
    ListStore lists,
    ServerOptions server,
    FileReader files,
    SettingStore settings,
    Announcements announcements,
    TimeProvider time
) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Reload;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var order = JsonSerializer.Deserialize<ReloadOrder>(job.PayloadJson)!;
        var file = files.List(Path.Combine(server.Folder("uploads"), order.Import.UploadId), order.Import.FileName, cancel);
        var totals = order.LeaveTotals ? ImportSurvey.Of(file, order.Import.Options, order.Import.Columns, cancel).Totals : [];
        var home = Countries.Named(settings.Organization().Locale[3..])!;
        var occurring = TypedRows.Occurring(file, order.Import, home, cancel);
        using var reader = file.Rows(order.Import.Options);
        var rows = new TypedRows(reader, order.Import with { LeaveOut = [.. totals.Select(t => t.Row)] }, home, null, occurring);
        var known = lists.Columns(order.ListId);
        var id = reloads.Compare(
            order.ListId,
            job.PayloadJson,
            order.Import.FileName,
            Headings(rows.Columns, order, known),
            rows.Read(progress, cancel),
            () => rows.Report,
            Actor.Person(job.CreatedBy, time.GetUtcNow()),
            cancel
        );
        announcements.Changed(Matter.List, order.ListId);
        return JsonSerializer.Serialize(new { reloadId = id, listId = order.ListId });
    }

    /// <summary>The file's columns by the ids of the list's; those that the list does not have get ids below zero. Parts of divided columns
    /// are found by their names.</summary>
    internal static IReadOnlyList<Column> Headings(IReadOnlyList<Column> ofFile, ReloadOrder order, IReadOnlyList<Column> ofList)
    {
        var taken = order.ColumnIds.OfType<int>().ToHashSet();
        return
        [
            .. ofFile.Select(
                (c, i) =>
                {
                    int? id =
                        i < order.ColumnIds.Count
                            ? order.ColumnIds[i]
                            : ofList
                                .FirstOrDefault(x => x.Name.Equals(c.Name, StringComparison.OrdinalIgnoreCase) && !taken.Contains(x.Id))
                                ?.Id;
                    return c with { Id = id ?? -(i + 1) };
                }
            ),
        ];
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
