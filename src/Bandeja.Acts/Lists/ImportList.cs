using Bandeja.Formats.Lists;
using Bandeja.Store;
using Bandeja.Work.Announcing;
using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Lists;

/// <summary>A file to import as a list, and how it is read.</summary>
public sealed record ImportOfList(
    string UploadId,
    string Name,
    SourceOptions Options,
    int Width,
    IReadOnlyList<ImportColumn> Columns,
    IReadOnlyList<int>? LeaveOut = null
);

/// <summary>Imports a file as a list; answers the long work that does it.</summary>
[Act("list.import", Permission.Lists, "Imported a list")]
public sealed class ImportList(Uploads uploads, JobQueue queue) : Act<ImportOfList, long>
{
    /// <inheritdoc/>
    protected internal override long Do(ImportOfList order, Deed deed)
    {
        var upload = uploads.Get(order.UploadId);
        Uploads.Check(order.Width, order.Columns);
        if (string.IsNullOrWhiteSpace(order.Name))
            throw new BadInputException("Enter a name for the list.");
        var name = order.Name.Trim();
        deed.Says($"Imported {upload.Name} as the list “{name}”");
        return queue.Add(
            JobNames.Import,
            0,
            $"Importing {name}",
            new ImportOrder(upload.Id, upload.Name, name, order.Options, order.Width, order.Columns, order.LeaveOut),
            deed.Actor
        );
    }
}
