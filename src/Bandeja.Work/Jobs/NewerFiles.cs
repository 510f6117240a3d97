using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Dapper;

namespace Bandeja.Work.Jobs;

/// <summary>What is known of a list when a newer file of it comes.</summary>
public sealed class NewerFiles(Database database, ListStore lists, VersionStore versions)
{
    /// <summary>How a list was read the first time, and what its columns were called in the file.</summary>
    public ListOrigin Origin(long listId)
    {
        var first = versions.OfList(listId)[^1].OrderJson is { } json ? JsonSerializer.Deserialize<ImportOrder>(json) : null;
        using var c = database.Open();
        return new(
            first,
            [
                .. c.Query<(long Id, string Name, string? Source, long Removed, string? Division)>(
                        "SELECT id, name, source_name, removed, division_json FROM list_column WHERE list_id = @listId AND kind = 'Source' "
                            + "ORDER BY position",
                        new { listId }
                    )
                    .Select(x => new OriginColumn(
                        (int)x.Id,
                        x.Name,
                        x.Source ?? x.Name,
                        x.Removed != 0,
                        x.Division is null ? null : JsonSerializer.Deserialize<Division>(x.Division)
                    )),
            ],
            lists.Columns(listId)
        );
    }

    /// <summary>The columns of a newer file that the list does not have; their ids are negative until they are made.</summary>
    public IReadOnlyList<Column> NewColumns(ReloadRow reload)
    {
        var order = JsonSerializer.Deserialize<ReloadOrder>(reload.OrderJson)!;
        // A comparison by a version of the application that did not note them: those of the file are known all the same.
        return order.NewColumns
            ??
            [
                .. Origin(reload.ListId)
                    .Matched(
                        [.. order.Import.Columns.Select(c => new Column(0, c.Name, c.Type, c.Role, Format: c.UsualFormat))],
                        [],
                        order.ColumnIds
                    )
                    .OfType<Column>()
                    .Where(c => c.Id < 0),
            ];
    }
}
