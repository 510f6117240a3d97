using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Designs;

/// <summary>A name of a letter and the column that it stands for.</summary>
/// <param name="How">hand, role or renamed.</param>
public sealed record DesignMatch
{
    public string Name { get; init; } = "";
    public long ColumnId { get; init; }
    public string How { get; init; } = "";
}

/// <summary>Which columns a letter's names stand for in a list whose headings are others.</summary>
public static class DesignMatches
{
    /// <summary>What is remembered for a letter and a list.</summary>
    public static IReadOnlyList<DesignMatch> Of(SqliteConnection c, long designId, long listId) =>
        [
            .. c.Query<DesignMatch>(
                "SELECT name, column_id, how FROM design_match WHERE design_id = @designId AND list_id = @listId ORDER BY name",
                new { designId, listId }
            ),
        ];

    /// <summary>The same by the columns' positions; a match whose column is gone is left out.</summary>
    public static IReadOnlyDictionary<string, int> Positions(SqliteConnection c, long designId, long listId, IReadOnlyList<Column> columns)
    {
        var positions = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        foreach (var match in Of(c, designId, listId))
            for (var i = 0; i < columns.Count; i++)
                if (columns[i].Id == match.ColumnId)
                    positions[match.Name] = i;
        return positions;
    }

    /// <summary>Remembers that a name stands for a column, or, with null, that it does not.</summary>
    /// <exception cref="NotFoundException">This column is not in the list.</exception>
    public static void Set(SqliteConnection c, long designId, long listId, string name, long? columnId, string how)
    {
        if (columnId is null)
        {
            c.Execute(
                "DELETE FROM design_match WHERE design_id = @designId AND list_id = @listId AND name = @name",
                new
                {
                    designId,
                    listId,
                    name,
                }
            );
            return;
        }
        if (RowTable.Columns(c, listId).All(x => x.Id != columnId))
            throw new NotFoundException("This column is no longer in the list.");
        c.Execute(
            "INSERT INTO design_match (design_id, list_id, name, column_id, how) VALUES (@designId, @listId, @name, @columnId, "
                + "@how) ON CONFLICT (design_id, list_id, name) DO UPDATE SET column_id = excluded.column_id, how = excluded.how",
            new
            {
                designId,
                listId,
                name,
                columnId,
                how,
            }
        );
    }

    /// <summary>After a column was renamed: letters that are used with its list and have its former heading in them go on meaning it, also
    /// where another column is called so later.</summary>
    internal static void FollowName(SqliteConnection c, long listId, long columnId, string formerName)
    {
        var designs = c.Query<long>(
                """
                SELECT DISTINCT d.id FROM design d LEFT JOIN drop_design p ON p.design_id = d.id LEFT JOIN mail_drop m ON m.id = p.drop_id
                WHERE (d.list_id = @listId OR m.list_id = @listId) AND EXISTS (SELECT 1 FROM design_version v
                    WHERE v.design_id = d.id AND instr(lower(v.document_json), lower(@plain)) > 0)
                """,
                new { listId, plain = System.Text.Json.JsonSerializer.Serialize(formerName)[1..^1] }
            )
            .ToList();
        foreach (var design in designs)
            if (Of(c, design, listId).All(m => !m.Name.Equals(formerName, StringComparison.OrdinalIgnoreCase)))
                Set(c, design, listId, formerName, columnId, "renamed");
    }

    /// <summary>Names that stand for detail rows of a list, and for columns within them; what the list no longer has is left out.</summary>
    public static IReadOnlyList<RowsMatch> Rows(SqliteConnection c, long designId, long listId, IReadOnlyList<DetailSet> sets)
    {
        var all = c.Query<(string Name, string Field, string Target)>(
                "SELECT name, field, target FROM design_rows_match WHERE design_id = @designId AND list_id = @listId ORDER BY name, field",
                new { designId, listId }
            )
            .ToList();
        int SetOf(string target) => sets.ToList().FindIndex(s => s.Name.Equals(target, StringComparison.OrdinalIgnoreCase));
        return
        [
            .. all.Select(m => m.Name)
                .Distinct(StringComparer.OrdinalIgnoreCase)
                .Select(name =>
                {
                    // Where only fields are matched, the rows are called in the list as they are in the design.
                    var own = all.Where(m => m.Name.Equals(name, StringComparison.OrdinalIgnoreCase)).ToList();
                    var set = SetOf(own.Where(m => m.Field.Length == 0).Select(m => m.Target).FirstOrDefault() ?? name);
                    return set < 0
                        ? null
                        : new RowsMatch(
                            name,
                            set,
                            own.Where(m => m.Field.Length > 0)
                                .Select(m =>
                                    (
                                        m.Field,
                                        At: sets[set]
                                            .Columns.ToList()
                                            .FindIndex(x => x.Name.Equals(m.Target, StringComparison.OrdinalIgnoreCase))
                                    )
                                )
                                .Where(m => m.At >= 0)
                                .ToDictionary(m => m.Field, m => m.At, StringComparer.OrdinalIgnoreCase)
                        );
                })
                .OfType<RowsMatch>(),
        ];
    }

    /// <summary>Remembers that a name stands for detail rows of a list, or, with a field, for a column within them; with null it is
    /// forgotten.</summary>
    public static void SetRows(SqliteConnection c, long designId, long listId, string name, string? field, string? target)
    {
        if (target is null)
            c.Execute(
                "DELETE FROM design_rows_match WHERE design_id = @designId AND list_id = @listId AND name = @name AND (field = "
                    + "@field OR @field = '')",
                new
                {
                    designId,
                    listId,
                    name,
                    field = field ?? "",
                }
            );
        else
            c.Execute(
                "INSERT INTO design_rows_match (design_id, list_id, name, field, target) VALUES (@designId, @listId, @name, @field, "
                    + "@target) ON CONFLICT (design_id, list_id, name, field) DO UPDATE SET target = excluded.target",
                new
                {
                    designId,
                    listId,
                    name,
                    field = field ?? "",
                    target,
                }
            );
    }

    /// <summary>A mark that changes with what is remembered.</summary>
    public static string Mark(SqliteConnection c, long designId, long listId) =>
        string.Join(
            ',',
            Of(c, designId, listId)
                .Select(m => $"{m.Name}={m.ColumnId}")
                .Concat(
                    c.Query<string>(
                        "SELECT name || '.' || field || '=' || target FROM design_rows_match WHERE design_id = @designId AND "
                            + "list_id = @listId ORDER BY name, field",
                        new { designId, listId }
                    )
                )
        );
}
