using Bandeja.Formats.Lists;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Lists;

/// <summary>A newer file of a list.</summary>
/// <param name="ColumnIds">For each column of the file the column of the list that it is; null for a new one.</param>
/// <param name="Excluded">The file's columns that are not taken.</param>
/// <param name="KeepTimes">The file's columns of dates whose times of day are kept in columns of their own; null for those for which it is
/// proposed.</param>
public sealed record NewerFile(
    long ListId,
    string UploadId,
    SourceOptions Options,
    IReadOnlyList<int?> ColumnIds,
    IReadOnlyList<int>? Excluded = null,
    IReadOnlyList<int>? KeepTimes = null
);

/// <summary>Compares a newer file with the list; answers the long work that does it.</summary>
[Act("list.compare", Permission.Lists, "Compared a newer file with the list")]
public sealed class CompareFile(Uploads uploads, ListStore lists, NewerFiles newer, JobQueue queue) : Act<NewerFile, long>
{
    /// <summary>A file is read, which may take a while; all that is written is the work in the queue.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override long Do(NewerFile order, Deed deed)
    {
        var upload = uploads.Get(order.UploadId);
        var look = uploads.Look(upload, order.Options, deed.Cancel);
        if (look.Problem is { } problem)
            throw new BadInputException(problem);
        if (order.ColumnIds.Count != look.Columns.Count)
            throw new BadInputException("Match each column in the file to a column in the list.");
        if (order.ColumnIds.OfType<int>().GroupBy(c => c).Any(g => g.Count() > 1))
            throw new BadInputException("Two columns in the file cannot match the same column in the list.");
        var known = lists.Columns(order.ListId).ToDictionary(c => c.Id);
        var origin = newer.Origin(order.ListId);
        var chosen = Enumerable.Range(0, look.Columns.Count).Where(i => order.Excluded?.Contains(i) != true).ToList();
        var columns = chosen
            .Select(i =>
            {
                var inFile = look.Columns[i];
                var own = order.ColumnIds[i] is { } c
                    ? known.GetValueOrDefault(c) ?? throw new NotFoundException("This column is no longer in the list.")
                    : null;
                // Values are read by the type that the column has here, whatever these rows look like.
                // What these values leave open, or do not tell because they look otherwise, is read as it was the first time.
                var (type, imported, division) = (own?.Type ?? inFile.Type, origin.Imported(own?.Id), origin.DividedAs(own?.Id));
                var before = (inFile.Ambiguous || inFile.Type != type) && imported?.Type == type ? imported : null;
                return new ImportColumn(
                    i,
                    inFile.Name,
                    type,
                    before?.DateOrder ?? inFile.DateOrder,
                    division?.Whole ?? own?.Role ?? inFile.Role,
                    division is not null,
                    before?.NumberForm ?? inFile.NumberForm,
                    Format: inFile.Format,
                    FamilyFirst: division?.FamilyFirst ?? false,
                    KeepTimes: order.KeepTimes?.Contains(i) ?? origin.KeepsTimes(own?.Id, inFile)
                );
            })
            .ToList();
        var options = new SourceOptions(look.Sheet, look.HeadingRow, look.Encoding, look.Delimiter, look.HeadingSpan, look.Query);
        var name = lists.Get(order.ListId).Name;
        deed.Says($"Compared {upload.Name} with the list “{name}”");
        deed.To(Matter.List, order.ListId);
        return queue.Add(
            JobNames.Reload,
            order.ListId,
            $"Comparing {upload.Name} with the list",
            new ReloadOrder(
                order.ListId,
                new(upload.Id, upload.Name, name, options, look.Columns.Count, columns),
                [.. chosen.Select(i => order.ColumnIds[i])],
                origin.LeavesTotals
            ),
            deed.Actor
        );
    }
}
