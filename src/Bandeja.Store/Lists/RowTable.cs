using System.Text;
using Bandeja.Core.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>
/// The table that holds a list's recipients: <c>rows_LIST(id, n, find, gone, hand, c1, c2 …)</c>, one column of text for each
/// column of the list. Who is removed from the list stays in the table with <c>gone</c> set, because drops and the ledger speak of them.
/// </summary>
public static class RowTable
{
    /// <summary>Its name.</summary>
    public static string Name(long listId) => $"rows_{listId}";

    /// <summary>SQL for the country in a column of the table <c>r</c>, one name for all its spellings; blank at home.</summary>
    public static string CountryKey(int id) =>
        $"country_of(r.{Cell(id)}, coalesce((SELECT substr(value, 4) FROM setting WHERE key = 'locale'), 'US'))";

    /// <summary>The column for a column of the list.</summary>
    public static string Cell(int columnId) => $"c{columnId}";

    /// <summary>The columns of a list, in their order.</summary>
    public static IReadOnlyList<Column> Columns(SqliteConnection connection, long listId) =>
        [
            .. connection
                .Query<ColumnRow>(
                    "SELECT id, name, type, role, kind, expression, format FROM list_column WHERE list_id = @listId AND removed = 0 ORDER "
                        + "BY position",
                    new { listId }
                )
                .Select(c => c.ToColumn()),
        ];

    internal sealed record ColumnRow
    {
        public long Id { get; init; }
        public string Name { get; init; } = "";
        public string Type { get; init; } = "";
        public string Role { get; init; } = "";
        public string Kind { get; init; } = "";
        public string? Expression { get; init; }
        public string? Format { get; init; }

        public Column ToColumn() =>
            new((int)Id, Name, Enum.Parse<ColumnType>(Type), Enum.Parse<Role>(Role), Enum.Parse<ColumnKind>(Kind), Expression, Format);
    }

    internal static void Create(SqliteConnection connection, long listId, IEnumerable<Column> columns)
    {
        var cells = string.Concat(columns.Select(c => $", {Cell(c.Id)} TEXT"));
        connection.Execute(
            $"CREATE TABLE {Name(listId)} (id INTEGER PRIMARY KEY, n INTEGER NOT NULL, find TEXT NOT NULL, gone INTEGER, hand "
                + $"INTEGER{cells})"
        );
        connection.Execute($"CREATE INDEX {Name(listId)}_n ON {Name(listId)}(n)");
        AddColumns(connection, listId, columns, 0);
    }

    static void AddColumns(SqliteConnection connection, long listId, IEnumerable<Column> columns, int from) =>
        connection.Execute(
            "INSERT INTO list_column (list_id, id, position, name, type, role, kind, expression, format, source_name) VALUES (@listId, "
                + "@Id, @Position, @Name, @Type, @Role, @Kind, @Expression, @Format, @Source)",
            columns.Select(
                (c, i) =>
                    new
                    {
                        listId,
                        c.Id,
                        Position = from + i,
                        c.Name,
                        Type = c.Type.ToString(),
                        Role = c.Role.ToString(),
                        Kind = c.Kind.ToString(),
                        c.Expression,
                        c.Format,
                        Source = c.Kind == ColumnKind.Source ? c.Name : null,
                    }
            )
        );

    /// <summary>Adds a column at the end of a list.</summary>
    internal static void Widen(SqliteConnection connection, long listId, Column column, int position)
    {
        connection.Execute($"ALTER TABLE {Name(listId)} ADD COLUMN {Cell(column.Id)} TEXT");
        AddColumns(connection, listId, [column], position);
    }

    internal static void Remove(SqliteConnection connection, long listId) => connection.Execute($"DROP TABLE IF EXISTS {Name(listId)}");

    /// <summary>The cells of all columns for a SELECT; <paramref name="alias"/> stands before each.</summary>
    public static string CellList(IReadOnlyList<Column> columns, string alias = "r")
    {
        var text = new StringBuilder();
        foreach (var c in columns)
            text.Append(text.Length > 0 ? ", " : "").Append(alias).Append('.').Append(Cell(c.Id));
        return text.Length == 0 ? "NULL" : text.ToString();
    }

    /// <summary>Reads the cells of the current row, the first of them at <paramref name="from"/>.</summary>
    public static string?[] Cells(SqliteDataReader reader, int from, int count)
    {
        var cells = new string?[count];
        for (var i = 0; i < count; i++)
            cells[i] = reader.IsDBNull(from + i) ? null : reader.GetString(from + i);
        return cells;
    }

    /// <summary>A recipient's values; null where their row is gone for good.</summary>
    /// <param name="onTheList">True to have none of who was removed from the list.</param>
    public static string?[]? Values(
        SqliteConnection c,
        IReadOnlyList<Column> columns,
        long listId,
        long recipientId,
        bool onTheList = false
    )
    {
        using var command = c.CreateCommand();
        command.CommandText =
            $"SELECT {CellList(columns)} FROM {Name(listId)} r WHERE r.id = $id{(onTheList ? " AND r.gone IS NULL" : "")}";
        command.Parameters.AddWithValue("$id", recipientId);
        using var reader = command.ExecuteReader();
        return reader.Read() ? Cells(reader, 0, columns.Count) : null;
    }
}
