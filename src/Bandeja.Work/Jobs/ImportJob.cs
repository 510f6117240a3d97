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

/// <summary>Brings a list in: reads the file row by row, brings values to their canonical form, and says what it found.</summary>
public sealed class ImportJob(
    Database database,
    ServerOptions server,
    FileReader files,
    OldUploads uploads,
    SettingStore settings,
    ListWork work,
    Announcements announcements,
    TimeProvider time
) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Import;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var order = JsonSerializer.Deserialize<ImportOrder>(job.PayloadJson)!;
        var file = files.List(Path.Combine(server.Folder("uploads"), order.UploadId), order.FileName, cancel);
        var home = Countries.Named(settings.Organization().Locale[3..])!;
        var listId = BringIn(database, file, order, home, Actor.Person(job.CreatedBy, time.GetUtcNow()), progress, cancel);
        announcements.Changed(Matter.List, listId);
        work.Check(listId);
        uploads.Used(order.UploadId);
        return JsonSerializer.Serialize(new { listId });
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }

    /// <summary>Reads a file into a new list.</summary>
    /// <returns>The list's id.</returns>
    /// <exception cref="ListFileException">The file is broken; nothing of it is kept.</exception>
    public static long BringIn(
        Database database,
        IListFile file,
        ImportOrder order,
        Country home,
        Actor actor,
        JobProgress progress,
        CancellationToken cancel
    )
    {
        // One pass after the other: each is a reading of its own, and no work holds one while it waits for a second.
        var occurring = TypedRows.Occurring(file, order, home, cancel);
        using var reader = file.Rows(order.Options);
        RowWriter? writer = null;
        var rows = new TypedRows(reader, order, home, column => writer!.Widen(column), occurring);
        writer = new RowWriter(database, order.ListName, order.FileName, order.UploadId, rows.Columns, actor);
        try
        {
            foreach (var row in rows.Read(progress, cancel))
                writer.Add(row);
            if (writer.Rows == 0)
                throw new ListFileException("The file has headings but no recipients.");
            writer.Finish(rows.Report, JsonSerializer.Serialize(order));
            return writer.ListId;
        }
        catch
        {
            writer.Abandon();
            throw;
        }
    }
}
