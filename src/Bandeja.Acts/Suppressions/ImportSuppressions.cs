using Bandeja.Formats.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Suppressions;

/// <summary>A file of entries for a suppression list.</summary>
public sealed record ImportOfSuppressions(
    long SuppressionListId,
    string UploadId,
    string? Reason,
    DateOnly? Until,
    SourceOptions Options,
    int Width,
    IReadOnlyList<ImportColumn> Columns
);

/// <summary>Imports entries from a file, by roles; answers the long work that does it.</summary>
[Act("suppression.import", Permission.Suppressions, "Imported entries of a suppression list")]
public sealed class ImportSuppressions(Uploads uploads, JobQueue queue) : Act<ImportOfSuppressions, long>
{
    /// <inheritdoc/>
    protected internal override long Do(ImportOfSuppressions order, Deed deed)
    {
        var upload = uploads.Get(order.UploadId);
        Uploads.Check(order.Width, order.Columns);
        deed.Says($"Imported {upload.Name} into a suppression list");
        deed.To(Matter.Suppression, order.SuppressionListId);
        return queue.Add(
            JobNames.Suppress,
            order.SuppressionListId,
            $"Importing {upload.Name}",
            new SuppressionOrder(
                order.SuppressionListId,
                order.Reason,
                order.Until,
                new(upload.Id, upload.Name, "Entries", order.Options, order.Width, order.Columns)
            ),
            deed.Actor
        );
    }
}
