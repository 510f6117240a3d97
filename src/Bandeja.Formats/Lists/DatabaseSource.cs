using System.Globalization;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Bandeja.Formats.Lists;

/// <summary>An SQLite database: a table, a view, or what a SELECT gives. It is only ever read.</summary>
sealed class DatabaseSource(string path, string name) : PartedSource
{
    // Run-time limit categories (sqlite3.h, SQLITE_LIMIT_…).
    const int LimitLength = 0,
        LimitSqlLength = 1,
        LimitDepth = 3,
        LimitCompound = 4,
        LimitAttached = 7;

    public override string Kind => "database";

    public override IReadOnlyList<SheetInfo> Parts()
    {
        using var connection = Open(path, name);
        var parts = Reading(
            name,
            () =>
            {
                using var command = connection.CreateCommand();
                command.CommandText =
                    "SELECT name FROM sqlite_master WHERE type IN ('table', 'view') AND name NOT LIKE 'sqlite_%' ORDER BY type, name";
                using var reader = command.ExecuteReader();
                var found = new List<SheetInfo>();
                while (reader.Read())
                    found.Add(new(reader.GetString(0), false));
                return found;
            }
        );
        return parts.Count > 0 ? parts : throw new ListFileException($"“{name}” is a database with no tables.");
    }

    public override SourceOptions Complete(SourceOptions options)
    {
        var query = string.IsNullOrWhiteSpace(options.Query) ? null : options.Query;
        return base.Complete(options) with { Query = query, HeadingRow = 0 };
    }

    public override IRowReader Rows(SourceOptions complete) =>
        new DatabaseRowReader(path, name, complete.Query ?? $"SELECT * FROM \"{complete.Sheet!.Replace("\"", "\"\"")}\"");

    internal static SqliteConnection Open(string path, string name)
    {
        var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = path,
                Mode = SqliteOpenMode.ReadOnly,
                Pooling = false,
                DefaultTimeout = 3,
            }.ToString()
        );
        return Reading(
            name,
            () =>
            {
                connection.Open();
                using var command = connection.CreateCommand();
                // What SQLite may make of other people's data (sqlite3_limit): no text longer than a cell, in any encoding.
                raw.sqlite3_limit(connection.Handle, LimitLength, ListLimits.CellLength * 4);
                raw.sqlite3_limit(connection.Handle, LimitSqlLength, ListLimits.CellLength);
                raw.sqlite3_limit(connection.Handle, LimitDepth, 200);
                raw.sqlite3_limit(connection.Handle, LimitCompound, 100);
                raw.sqlite3_limit(connection.Handle, LimitAttached, 0);
                command.CommandText =
                    "PRAGMA query_only = ON; PRAGMA trusted_schema = OFF; PRAGMA temp_store = MEMORY; SELECT count(*) FROM sqlite_master";
                command.ExecuteScalar();
                return connection;
            },
            connection.Dispose
        );
    }

    internal static T Reading<T>(string name, Func<T> read, Action? failed = null)
    {
        try
        {
            return read();
        }
        catch (SqliteException e)
        {
            failed?.Invoke();
            throw new ListFileException(
                e.SqliteErrorCode switch
                {
                    raw.SQLITE_NOTADB => $"“{name}” is encrypted or is not a valid database. Export the table as CSV and import that file.",
                    raw.SQLITE_CORRUPT => $"“{name}” is damaged: the database cannot be read to its end.",
                    raw.SQLITE_BUSY or raw.SQLITE_LOCKED => $"“{name}” is locked by another program. Close that program, or import a copy.",
                    raw.SQLITE_CANTOPEN =>
                        $"“{name}” cannot be opened: it was copied while another program wrote to it. Close that program and copy "
                            + "it again.",
                    raw.SQLITE_INTERRUPT => "The SELECT query was stopped because it returned no rows within 20 "
                        + "seconds. Use a simpler query or import a table.",
                    raw.SQLITE_NOMEM => $"“{name}” takes more memory to read than it may. Ask for less, or for a table.",
                    raw.SQLITE_TOOBIG =>
                        $"“{name}” has a value of more than {ListLimits.CellLength:N0} characters, which is more than a cell can have.",
                    raw.SQLITE_AUTH or raw.SQLITE_READONLY => "The query was refused. It can only read from this database.",
                    _ => $"The database reported an error: {Plain(e.Message)}.",
                }
            );
        }
    }

    /// <summary>The words between the quotation marks of the driver's message.</summary>
    static string Plain(string message) => message.Split('\'') is [_, var inner, ..] ? inner : message;
}

/// <summary>Reads the rows of a SELECT, the headings first.</summary>
sealed class DatabaseRowReader : IRowReader
{
    /// <summary>Processor time without a row. Time on the clock would refuse on a busy machine what is read on an idle one.</summary>
    static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    /// <summary>The most rows that a SELECT may give: one that runs for ever must end.</summary>
    const int MaxRows = 5_000_000;

    readonly string name;
    readonly SqliteConnection connection;
    readonly SqliteCommand command;
    readonly SqliteDataReader reader;
    TimeSpan asked = Environment.CpuUsage.TotalTime;
    bool headings = true;

    public DatabaseRowReader(string path, string name, string select)
    {
        this.name = name;
        var first = select.TrimStart().Split((char[]?)null, 2)[0].ToUpperInvariant().TrimEnd('(');
        if (first is not ("SELECT" or "WITH" or "VALUES"))
            throw new ListFileException($"Only a SELECT query can be imported. This one starts with “{first}”.");
        connection = DatabaseSource.Open(path, name);
        (command, reader) = DatabaseSource.Reading(
            name,
            () =>
            {
                // The SELECT comes from outside: it may read this database and nothing else, and must not run for ever.
                raw.sqlite3_set_authorizer(
                    connection.Handle,
                    static (object _, int action, string? a, string? b, string? c, string? d) =>
                        action is raw.SQLITE_SELECT or raw.SQLITE_READ or raw.SQLITE_FUNCTION or raw.SQLITE_RECURSIVE
                            ? raw.SQLITE_OK
                            : raw.SQLITE_DENY,
                    null
                );
                raw.sqlite3_progress_handler(
                    connection.Handle,
                    10_000,
                    _ => Environment.CpuUsage.TotalTime - asked > Patience ? 1 : 0,
                    null
                );
                if (raw.sqlite3_prepare_v2(connection.Handle, select, out var statement, out var rest) is raw.SQLITE_OK)
                {
                    using (statement)
                        if (rest.Trim(' ', '\r', '\n', '\t', ';').Length > 0)
                            throw new ListFileException(
                                "Only one SELECT query can be imported. Remove the text after it: "
                                    + $"“{rest.Trim()[..Math.Min(30, rest.Trim().Length)]}”."
                            );
                }
                var made = connection.CreateCommand();
                made.CommandText = select;
                made.CommandTimeout = 25;
                return (made, made.ExecuteReader());
            },
            connection.Dispose
        );
        if (reader.FieldCount > SourceFile.MaxColumns)
        {
            var count = reader.FieldCount;
            Dispose();
            throw new ListFileException($"The SELECT gives {count:N0} columns; a list can have {SourceFile.MaxColumns:N0}.");
        }
    }

    public SourceNotes Notes { get; } = new();
    public int RowNumber { get; private set; }
    public double Progress => 0.5;

    public bool Read()
    {
        if (RowNumber++ == 0)
            return true;
        headings = false;
        if (RowNumber > MaxRows)
            throw new ListFileException($"The SELECT gives more than {MaxRows:N0} rows; it was stopped.");
        asked = Environment.CpuUsage.TotalTime;
        return DatabaseSource.Reading(name, reader.Read);
    }

    public string?[] Cells() =>
        headings
            ? [.. Enumerable.Range(0, reader.FieldCount).Select(reader.GetName)]
            : [.. Enumerable.Range(0, reader.FieldCount).Select(Cell)];

    string? Cell(int i)
    {
        var value = reader.GetValue(i);
        if (value is byte[])
            Notes.Add($"“{reader.GetName(i)}” contains binary data, which was skipped", $"row {RowNumber - 1:N0}");
        var text = value switch
        {
            DBNull or byte[] => null,
            string s => s.Replace("\0", ""),
            double d => d.ToString("R", CultureInfo.InvariantCulture),
            var other => Convert.ToString(other, CultureInfo.InvariantCulture),
        };
        return string.IsNullOrEmpty(text) ? null : text;
    }

    public void Dispose()
    {
        reader?.Dispose();
        command?.Dispose();
        connection.Dispose();
    }
}
