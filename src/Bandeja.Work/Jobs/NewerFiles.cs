using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Formats.Lists;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Dapper;

namespace Bandeja.Work.Jobs;

/// <summary>What is known of a list when a newer file of it comes: how it was read the first time, and which column is which.</summary>
public sealed class NewerFiles(Database database, ListStore lists, VersionStore versions)
{
    /// <summary>How the list was imported the first time; null for one that was typed.</summary>
    public ImportOrder? FirstImport(long listId) =>
        versions.OfList(listId)[^1].OrderJson is { } json ? JsonSerializer.Deserialize<ImportOrder>(json) : null;

    /// <summary>The columns that were divided when the list was imported; their parts are made anew of the newer file.</summary>
    public IReadOnlyDictionary<string, Role> Divided(long listId) =>
        FirstImport(listId)?.Columns.Where(c => c.Divide).ToDictionary(c => c.Name, c => c.Role, StringComparer.OrdinalIgnoreCase) ?? [];

    /// <summary>The columns of dates whose times of day were kept when the list was imported.</summary>
    public IReadOnlySet<string> WithTimes(long listId) =>
        FirstImport(listId)?.Columns.Where(c => c.HasTimes).Select(c => c.Name).ToHashSet(StringComparer.OrdinalIgnoreCase) ?? [];

    /// <summary>Which column of the list each column of the file is, and the names of those that the file does not have.</summary>
    public (IReadOnlyList<int?> Ids, IReadOnlyList<string> Missing) Matched(long listId, SourceLook look)
    {
        // Parts of divided columns are made anew of the whole; no column of the file is theirs.
        var parts = Divided(listId).Values.SelectMany(CellParts.RolesOf).Select(CellParts.NameOf).ToHashSet();
        parts.UnionWith(WithTimes(listId).Select(TimesOfDay.NameOf));
        using var c = database.Open();
        var known = c.Query<(long Id, string Name, string Source)>(
                "SELECT id, name, source_name FROM list_column WHERE list_id = @listId AND removed = 0 AND kind = 'Source' ORDER BY "
                    + "position",
                new { listId }
            )
            .ToList();
        var byName = known
            .GroupBy(k => k.Source, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => (int)g.First().Id, StringComparer.OrdinalIgnoreCase);
        foreach (var k in known)
            byName.TryAdd(k.Name, (int)k.Id);
        var taken = new HashSet<int>();
        List<int?> ids = [.. look.Columns.Select(x => byName.TryGetValue(x.Name, out var at) && taken.Add(at) ? at : (int?)null)];
        return (ids, [.. known.Where(k => !taken.Contains((int)k.Id) && !parts.Contains(k.Source)).Select(k => k.Name)]);
    }

    /// <summary>The columns of a newer file that the list does not have; their ids are negative until they are made.</summary>
    public IReadOnlyList<Column> NewColumns(ReloadRow reload)
    {
        var order = JsonSerializer.Deserialize<ReloadOrder>(reload.OrderJson)!;
        var taken = lists.Columns(reload.ListId).Select(c => c.Role).ToHashSet();
        return
        [
            .. order
                .Import.Columns.Select((c, i) => (c, i))
                .Where(x => order.ColumnIds[x.i] is null)
                .Select(x => new Column(
                    -(x.i + 1),
                    x.c.Name,
                    x.c.Type,
                    taken.Contains(x.c.Role) ? Role.None : x.c.Role,
                    Format: x.c.UsualFormat
                )),
        ];
    }
}
