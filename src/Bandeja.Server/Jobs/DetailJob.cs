using System.Text.Json;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>Which file brings detail rows to which list.</summary>
/// <param name="Key">Which of the chosen columns names the recipient.</param>
public sealed record DetailOrder(long ListId, string Name, int Key, ImportOrder Import);

/// <summary>Brings detail rows in.</summary>
public sealed class DetailJob(DetailStore details, ListWork work, ServerOptions server, SettingStore settings, EventHub hub, TimeProvider time) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "details";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var order = JsonSerializer.Deserialize<DetailOrder>(job.PayloadJson)!;
        var file = SourceFile.Open(Path.Combine(server.Folder("uploads"), order.Import.UploadId), order.Import.FileName);
        using var reader = file.Rows(order.Import.Options);
        var rows = new TypedRows(reader, order.Import, Countries.Named(settings.Organisation().Locale[3..])!, null);
        var id = details.BringIn(order.ListId, order.Name, order.Import.FileName, rows.Columns, order.Key, rows.Read(progress, cancel), () => rows.Report, new(job.CreatedBy, time.GetUtcNow()));
        work.Compute(order.ListId);
        hub.Tell("list", new { Id = order.ListId });
        return JsonSerializer.Serialize(new { detailId = id, listId = order.ListId });
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message) { }
}
