using System.Text.Json;
using Bandeja.Core.Drops;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Reading;

namespace Bandeja.Work.Jobs;

/// <summary>Which file brings detail rows to which list.</summary>
/// <param name="Key">Which of the chosen columns names the recipient.</param>
public sealed record DetailOrder(long ListId, string Name, int Key, ImportOrder Import);

/// <summary>Brings detail rows in.</summary>
public sealed class DetailJob(
    DetailStore details,
    ListWork work,
    ServerOptions server,
    FileReader files,
    OldUploads uploads,
    SettingStore settings,
    Announcements announcements,
    TimeProvider time
) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Details;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var order = JsonSerializer.Deserialize<DetailOrder>(job.PayloadJson)!;
        var file = files.List(Path.Combine(server.Folder("uploads"), order.Import.UploadId), order.Import.FileName, cancel);
        var id = BringIn(
            details,
            file,
            order,
            Countries.Named(settings.Organization().Locale[3..])!,
            Actor.Person(job.CreatedBy, time.GetUtcNow()),
            progress,
            cancel
        );
        work.Compute(order.ListId);
        announcements.Changed(Matter.List, order.ListId);
        uploads.Used(order.Import.UploadId);
        return JsonSerializer.Serialize(new { detailId = id, listId = order.ListId });
    }

    /// <summary>Reads a file into a set of detail rows.</summary>
    /// <returns>The set's id.</returns>
    public static long BringIn(
        DetailStore details,
        IListFile file,
        DetailOrder order,
        Country home,
        Actor actor,
        JobProgress progress,
        CancellationToken cancel
    )
    {
        using var reader = file.Rows(order.Import.Options);
        var rows = new TypedRows(reader, order.Import, home, null);
        return details.BringIn(
            order.ListId,
            order.Name,
            order.Import.FileName,
            rows.Columns,
            order.Key,
            rows.Read(progress, cancel),
            () => rows.Report,
            actor
        );
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
