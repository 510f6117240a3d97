using System.Data;
using System.Globalization;
using System.Reflection;
using Bandeja.Core.Lists;
using Dapper;
using DbUp;

using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>Something that was asked for and is not there. The message is for the user.</summary>
public sealed class NotFoundException(string message) : Exception(message);

/// <summary>Something that cannot be done as things are. The message says why, for the user.</summary>
public sealed class ConflictException(string message) : Exception(message);

/// <summary>Something that was changed by somebody else since it was read. The message says so, for the user.</summary>
public sealed class StaleException(string message) : Exception(message);

/// <summary>The SQLite database: one file, many readers, one writer at a time.</summary>
public sealed class Database : IDisposable
{
    readonly string connectionString;
    readonly Lock writing = new();
    readonly SqliteConnection writer;
    readonly string migrations;

    static Database()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        SqlMapper.AddTypeHandler(new DateHandler());
    }

    /// <summary>Opens the database, creating it or bringing it to the present schema.</summary>
    /// <exception cref="InvalidOperationException">A migration failed; the file is as it was before that migration.</exception>
    /// <param name="migrations">A part of the names of the embedded scripts that make its schema; null for the application's own.</param>
    public Database(string path, string? migrations = null)
    {
        Path = path;
        this.migrations = migrations ?? ".Migrations.";
        connectionString = new SqliteConnectionStringBuilder { DataSource = path, ForeignKeys = true, DefaultTimeout = 30, Pooling = true }.ToString();
        Migrate();
        writer = Open();
    }

    /// <summary>The database file.</summary>
    public string Path { get; }

    void Migrate()
    {
        using (var connection = new SqliteConnection(connectionString))
        {
            connection.Open();
            connection.Execute("PRAGMA journal_mode = WAL");
        }
        var upgrade = DeployChanges.To.SqliteDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly(), name => name.Contains(migrations, StringComparison.Ordinal) && name.EndsWith(".sql", StringComparison.Ordinal));
        if (migrations == ".Migrations.") upgrade = upgrade.WithScript("Bandeja.Store.Migrations.0002_rows_have_origin", new Migrations.RowsHaveOrigin());
        var result = upgrade.WithTransactionPerScript().LogToNowhere().Build().PerformUpgrade();
        if (!result.Successful) throw new InvalidOperationException($"The database could not be brought to the present form: {result.Error.Message}", result.Error);
    }

    /// <summary>A connection for reading. Dispose of it soon.</summary>
    public SqliteConnection Open()
    {
        var connection = new SqliteConnection(connectionString);
        connection.Open();
        connection.Execute("PRAGMA synchronous = NORMAL; PRAGMA temp_store = MEMORY; PRAGMA cache_size = -32768; PRAGMA mmap_size = 268435456");
        NameOrder.Register(connection);
        return connection;
    }

    /// <summary>Runs work as the one writer, in a transaction that is committed where the work returns and rolled back where it throws.</summary>
    public T Write<T>(Func<SqliteConnection, T> work)
    {
        lock (writing)
        {
            using var transaction = writer.BeginTransaction(IsolationLevel.Serializable);
            var result = work(writer);
            transaction.Commit();
            return result;
        }
    }

    /// <inheritdoc cref="Write{T}"/>
    public void Write(Action<SqliteConnection> work) => Write<object?>(c => { work(c); return null; });

    /// <inheritdoc/>
    public void Dispose()
    {
        writer.Dispose();
        SqliteConnection.ClearPool(new SqliteConnection(connectionString));
    }

    sealed class DateHandler : SqlMapper.TypeHandler<DateOnly>
    {
        public override DateOnly Parse(object value) => DateOnly.ParseExact((string)value, "yyyy-MM-dd", CultureInfo.InvariantCulture);
        public override void SetValue(IDbDataParameter parameter, DateOnly value) => parameter.Value = value.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
    }
}

/// <summary>Who does something, and when: stands in every log.</summary>
public sealed record Actor(string Name, DateTimeOffset At)
{
    /// <summary>The time as it is stored.</summary>
    public string Stamp => At.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture);
}
