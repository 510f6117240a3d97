using Bandeja.Core.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

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
        [.. c.Query<DesignMatch>("SELECT name, column_id, how FROM design_match WHERE design_id = @designId AND list_id = @listId ORDER BY name", new { designId, listId })];

    /// <summary>The same by the columns' positions; a match whose column is gone is left out.</summary>
    public static IReadOnlyDictionary<string, int> Positions(SqliteConnection c, long designId, long listId, IReadOnlyList<Column> columns)
    {
        var positions = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        foreach (var match in Of(c, designId, listId))
            for (var i = 0; i < columns.Count; i++)
                if (columns[i].Id == match.ColumnId) positions[match.Name] = i;
        return positions;
    }

    /// <summary>Remembers that a name stands for a column, or, with null, that it does not.</summary>
    /// <exception cref="NotFoundException">The list has no such column.</exception>
    public static void Set(SqliteConnection c, long designId, long listId, string name, long? columnId, string how)
    {
        if (columnId is null)
        {
            c.Execute("DELETE FROM design_match WHERE design_id = @designId AND list_id = @listId AND name = @name", new { designId, listId, name });
            return;
        }
        if (RowTable.Columns(c, listId).All(x => x.Id != columnId)) throw new NotFoundException("The list has no such column (any more).");
        c.Execute("INSERT INTO design_match (design_id, list_id, name, column_id, how) VALUES (@designId, @listId, @name, @columnId, @how) ON CONFLICT (design_id, list_id, name) DO UPDATE SET column_id = excluded.column_id, how = excluded.how",
            new { designId, listId, name, columnId, how });
    }

    /// <summary>After a column was renamed: letters that are used with its list and have its former heading in them go on meaning it, also where another column is called so later.</summary>
    internal static void FollowName(SqliteConnection c, long listId, long columnId, string formerName)
    {
        var designs = c.Query<long>("""
            SELECT DISTINCT d.id FROM design d LEFT JOIN drop_design p ON p.design_id = d.id LEFT JOIN mail_drop m ON m.id = p.drop_id
            WHERE (d.list_id = @listId OR m.list_id = @listId) AND EXISTS (SELECT 1 FROM design_version v WHERE v.design_id = d.id AND instr(lower(v.document_json), lower(@plain)) > 0)
            """, new { listId, plain = System.Text.Json.JsonSerializer.Serialize(formerName)[1..^1] }).ToList();
        foreach (var design in designs)
            if (Of(c, design, listId).All(m => !m.Name.Equals(formerName, StringComparison.OrdinalIgnoreCase))) Set(c, design, listId, formerName, columnId, "renamed");
    }

    /// <summary>A mark that changes with what is remembered.</summary>
    public static string Mark(SqliteConnection c, long designId, long listId) =>
        string.Join(',', Of(c, designId, listId).Select(m => $"{m.Name}={m.ColumnId}"));
}
