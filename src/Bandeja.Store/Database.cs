using System.Data;
using System.Globalization;
using System.Reflection;
using Dapper;
using DbUp;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>The SQLite database: one file, many readers, one writer at a time.</summary>
public sealed class Database : IDisposable
{
    readonly string connectionString;
    readonly Lock writing = new();
    readonly StoreConnection writer;
    readonly Readers readers = new();
    readonly List<Action> afterCommit = [];
    readonly string migrations;
    readonly AsyncLocal<HeldView?> held = new();

    static Database()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        SqlMapper.AddTypeHandler(new DateHandler());
        SqlMapper.ConnectionStringComparer = new AnyDatabase();
    }

    /// <summary>Opens the database, creating it or bringing it to the present schema.</summary>
    /// <exception cref="InvalidOperationException">A migration failed; the file is as it was before that migration.</exception>
    /// <param name="lookThrough">True to look through the whole file first: the process before this one did not end as it should.</param>
    /// <exception cref="DatabaseFileException">The file cannot be used; it is left as it is.</exception>
    /// <param name="migrations">A part of the names of the embedded scripts that make its schema; null for the application's own.</param>
    public Database(string path, string? migrations = null, bool lookThrough = false)
    {
        Path = path;
        this.migrations = migrations ?? ".Migrations.";
        connectionString = new SqliteConnectionStringBuilder
        {
            DataSource = path,
            ForeignKeys = true,
            // Within this process one writes after the other; only another program can keep the file longer than that.
            DefaultTimeout = 5,
            // Readers are kept by ourselves: see StoreConnection.
            Pooling = false,
        }.ToString();
        try
        {
            Recognize(lookThrough);
            Migrate();
        }
        catch (SqliteException e) when (StorageFault.IsDamage(e))
        {
            throw Damaged();
        }
        catch (SqliteException e) when (e.SqliteErrorCode is SQLitePCL.raw.SQLITE_READONLY or SQLitePCL.raw.SQLITE_CANTOPEN)
        {
            throw new DatabaseFileException(
                FileFault.ReadOnly,
                $"The database “{path}” cannot be written to. Give the user that runs the server the right to write to it and its folder."
            );
        }
        writer = Ready(new(connectionString, null) { IsShared = true }, queryOnly: false);
    }

    /// <summary>The database file.</summary>
    public string Path { get; }

    DatabaseFileException Damaged() =>
        new(
            FileFault.Damaged,
            $"The database “{Path}” is damaged, so the server does not start and changes nothing. Put a copy from before in its place; the "
                + "damaged one may still be read by the tools of SQLite (sqlite3 FILE .recover)."
        );

    /// <summary>Sees whether the file is ours, before anything is changed in it.</summary>
    void Recognize(bool lookThrough)
    {
        if (!File.Exists(Path) || new FileInfo(Path).Length == 0)
            return;
        using var connection = new SqliteConnection(connectionString);
        connection.Open();
        if (lookThrough && connection.ExecuteScalar<string>("PRAGMA quick_check(1)") is var said && said != "ok")
            throw Damaged();
        var tables = connection.Query<string>("SELECT name FROM sqlite_master WHERE type = 'table'").ToHashSet();
        if (tables.Count == 0)
            return;
        if (!tables.Contains("SchemaVersions"))
            throw new DatabaseFileException(
                FileFault.Foreign,
                $"“{Path}” is the database of another program and was not changed. Choose another folder: --data FOLDER"
            );
        var known = Scripts().ToHashSet();
        var newer = connection
            .Query<string>("SELECT ScriptName FROM SchemaVersions")
            .Where(s => !known.Contains(s))
            .Order()
            .FirstOrDefault();
        if (newer is not null)
            throw new DatabaseFileException(
                FileFault.Newer,
                $"The database “{Path}” was changed by a newer version of Bandeja ({newer}). Start that version, or put a copy from "
                    + "before in "
                    + "its place."
            );
    }

    IEnumerable<string> Scripts() =>
        Assembly
            .GetExecutingAssembly()
            .GetManifestResourceNames()
            .Where(n => n.Contains(migrations, StringComparison.Ordinal) && n.EndsWith(".sql", StringComparison.Ordinal))
            .Concat(Written.Select(w => w.Name));

    // Those that have to look before they know what to do, in their order among the others.
    static readonly (string Name, DbUp.Engine.IScript Script)[] Written =
    [
        ("Bandeja.Store.Migrations.0002_rows_have_origin", new Migrations.RowsHaveOrigin()),
        ("Bandeja.Store.Migrations.0029_partners_have_whole_names", new Migrations.PartnersHaveWholeNames()),
    ];

    void Migrate()
    {
        using (var connection = new SqliteConnection(connectionString))
        {
            connection.Open();
            connection.Execute("PRAGMA journal_mode = WAL");
        }
        var upgrade = DeployChanges
            .To.SqliteDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(
                Assembly.GetExecutingAssembly(),
                name => name.Contains(migrations, StringComparison.Ordinal) && name.EndsWith(".sql", StringComparison.Ordinal)
            );
        if (migrations == ".Migrations.")
            foreach (var (name, script) in Written)
                upgrade = upgrade.WithScript(name, script);
        var result = upgrade.WithTransactionPerScript().LogToNowhere().Build().PerformUpgrade();
        if (!result.Successful)
            throw new InvalidOperationException(
                $"The database could not be updated to the current version: {result.Error.Message}",
                result.Error
            );
    }

    /// <summary>
    /// A view of the data for reading: everything read through it is as it was at the first read, whatever is written meanwhile,
    /// so that columns and the rows that have them always belong together (https://sqlite.org/isolation.html). It refuses to write.
    /// What is written after that first read is seen only by another view. Dispose of it soon: as long as it lives, the log of writes
    /// grows. Within <see cref="Write{T}"/> it is that transaction itself, which sees what it has written so far.
    /// </summary>
    public SqliteConnection Open() => IsWriting ? writer : held.Value?.Shared() ?? View();

    /// <summary>
    /// Until this is disposed of, everything that this flow of control opens is one view: what one store reads belongs together with what
    /// another does. Nothing may be read on several threads at once meanwhile.
    /// </summary>
    public IDisposable Hold() => held.Value = new HeldView(this);

    StoreConnection View()
    {
        var connection = Reader();
        try
        {
            connection.BeginTransaction(deferred: true);
            return connection;
        }
        catch
        {
            connection.End();
            throw;
        }
    }

    /// <summary>
    /// A connection for reading that sees what is written meanwhile: for work that goes on for hours and reads only what does not
    /// change any more. A view that lived so long would let the log of writes grow without end.
    /// </summary>
    public SqliteConnection Follow() => Reader();

    StoreConnection Reader() => readers.Next() ?? Ready(new(connectionString, readers), queryOnly: true);

    /// <summary>What one connection keeps of the file at most. A large run fills it by writing: more of it is memory that grows with the
    /// run; an import, an undo, and a day’s collection were no faster with four times as much.</summary>
    const int CacheKilobytes = 8_192;

    static StoreConnection Ready(StoreConnection connection, bool queryOnly)
    {
        try
        {
            connection.Open();
            connection.Execute(
                // What is removed is overwritten (secure_delete): people who are erased are not to be found in the file.
                // What was committed survives the loss of power (synchronous = FULL): an attempt is on the disk before a message goes out.
                $"PRAGMA query_only = {(queryOnly ? "ON" : "OFF")}; PRAGMA synchronous = FULL; PRAGMA secure_delete = ON; PRAGMA "
                    + "temp_store = MEMORY; PRAGMA "
                    + $"cache_size = -{CacheKilobytes}; PRAGMA mmap_size = 268435456"
            );
            NameOrder.Register(connection);
            return connection;
        }
        catch
        {
            connection.End();
            throw;
        }
    }

    // Only the thread that has the lock can find it held by itself.
    bool IsWriting => writing.IsHeldByCurrentThread;

    /// <summary>
    /// Runs work as the one writer, in a transaction that is committed where the work returns and rolled back where it throws. What
    /// writes within it joins it: what an act does is done as a whole or not at all.
    /// </summary>
    public T Write<T>(Func<SqliteConnection, T> work)
    {
        if (IsWriting)
            return work(writer);
        T result;
        Action[] committed;
        lock (writing)
        {
            try
            {
                using var transaction = writer.BeginTransaction(IsolationLevel.Serializable);
                result = work(writer);
                transaction.Commit();
                committed = [.. afterCommit];
            }
            finally
            {
                afterCommit.Clear();
            }
        }
        foreach (var action in committed)
            action();
        return result;
    }

    /// <summary>Brings everything from the log of writes into the file, and empties the log, as far as nobody reads from it.</summary>
    public void Checkpoint()
    {
        lock (writing)
            writer.Execute("PRAGMA wal_checkpoint(TRUNCATE)");
    }

    /// <summary>
    /// Does something once what is being written is there for all to see; at once where nothing is being written. Where the
    /// transaction is rolled back, it is not done: nobody is told of what did not happen.
    /// </summary>
    public void AfterCommit(Action action)
    {
        if (IsWriting)
            afterCommit.Add(action);
        else
            action();
    }

    /// <inheritdoc cref="Write{T}"/>
    public void Write(Action<SqliteConnection> work) =>
        Write<object?>(c =>
        {
            work(c);
            return null;
        });

    /// <inheritdoc/>
    public void Dispose()
    {
        // Never under whoever is just writing.
        lock (writing)
            writer.End();
        readers.End();
    }

    sealed class HeldView(Database database) : IDisposable
    {
        readonly Lock one = new();
        StoreConnection? connection;
        bool isOver;

        /// <summary>The view's connection; null where the hold has ended: work that was begun meanwhile and goes on reads for
        /// itself.</summary>
        public SqliteConnection? Shared()
        {
            // Under the lock of its end: a connection that is made after it would never be closed.
            lock (one)
            {
                if (isOver)
                    return null;
                if (connection is null)
                {
                    connection = database.View();
                    connection.IsShared = true;
                }
                return connection;
            }
        }

        public void Dispose()
        {
            lock (one)
            {
                isOver = true;
                connection?.End();
            }
        }
    }

    /// <summary>What is compiled for a query of one database serves all others of the process: they have the same schema, and a row's
    /// reader is chosen by its columns. Without it each server that tests start compiles all its queries anew.</summary>
    sealed class AnyDatabase : IEqualityComparer<string>
    {
        public bool Equals(string? x, string? y) => true;

        public int GetHashCode(string obj) => 0;
    }

    sealed class DateHandler : SqlMapper.TypeHandler<DateOnly>
    {
        public override DateOnly Parse(object value) => DateOnly.ParseExact((string)value, "yyyy-MM-dd", CultureInfo.InvariantCulture);

        public override void SetValue(IDbDataParameter parameter, DateOnly value) =>
            parameter.Value = value.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
    }
}
