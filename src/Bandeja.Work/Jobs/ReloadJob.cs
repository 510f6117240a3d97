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
/// <param name="NewColumns">Once the file was read: its columns that the list does not have, with ids below zero until they are
/// made.</param>
public sealed record ReloadOrder(
    long ListId,
    ImportOrder Import,
    IReadOnlyList<int?> ColumnIds,
    bool LeaveTotals = false,
    IReadOnlyList<Column>? NewColumns = null
);

/// <summary>Holds a newer file against a list.</summary>
public sealed class ReloadJob(
    ReloadStore reloads,
    NewerFiles newer,
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
        var matched = newer.Origin(order.ListId).Matched(rows.Columns, rows.Made, order.ColumnIds);
        // A part that was removed from the list is not brought back.
        int[] kept = [.. Enumerable.Range(0, matched.Count).Where(i => matched[i] is not null)];
        List<Column> headings = [.. kept.Select(i => matched[i]!)];
        var id = reloads.Compare(
            order.ListId,
            JsonSerializer.Serialize(order with { NewColumns = [.. headings.Where(c => c.Id < 0)] }),
            order.Import.FileName,
            headings,
            rows.Read(progress, cancel).Select(row => Array.ConvertAll(kept, i => row[i])),
            () => rows.Report,
            Actor.Person(job.CreatedBy, time.GetUtcNow()),
            cancel
        );
        announcements.Changed(Matter.List, order.ListId);
        return JsonSerializer.Serialize(new { reloadId = id, listId = order.ListId });
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
