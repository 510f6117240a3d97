using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Formats.Lists;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Lists;

/// <summary>A file with detail rows to import.</summary>
/// <param name="Key">Which of the chosen columns names the recipient, by its position among them.</param>
public sealed record ImportOfDetails(
    long ListId,
    string UploadId,
    string Name,
    int Key,
    SourceOptions Options,
    int Width,
    IReadOnlyList<ImportColumn> Columns
);

/// <summary>Imports detail rows: another file, tied to the list by its key; answers the long work that does it.</summary>
[Act("list.import-details", Permission.Lists, "Imported detail rows")]
public sealed class ImportDetails(Uploads uploads, ListStore lists, JobQueue queue) : Act<ImportOfDetails, long>
{
    /// <inheritdoc/>
    protected internal override long Do(ImportOfDetails order, Deed deed)
    {
        var upload = uploads.Get(order.UploadId);
        var name = order.Name.Trim();
        if (name.Length is 0 or > Headings.MaxLength || name.IndexOfAny(['{', '}', '`', '.']) >= 0)
            throw new BadInputException("Enter a short name without periods, such as Gifts.");
        Uploads.Check(order.Width, order.Columns);
        if (order.Key < 0 || order.Key >= order.Columns.Count)
            throw new BadInputException("Choose the column that matches rows to recipients.");
        if (lists.Columns(order.ListId).All(c => c.Role != Role.Key))
            throw new BadInputException("The list has no key column to match rows to recipients. Give a column the role “key” first.");
        deed.Says($"Imported {upload.Name} as the detail rows “{name}”");
        deed.To(Matter.List, order.ListId);
        return queue.Add(
            JobNames.Details,
            order.ListId,
            $"Importing {name}",
            new DetailOrder(order.ListId, name, order.Key, new(upload.Id, upload.Name, name, order.Options, order.Width, order.Columns)),
            deed.Actor
        );
    }
}
