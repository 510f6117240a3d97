using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Bandeja.Store;

/// <summary>Why a database file cannot be used.</summary>
public enum FileFault
{
    /// <summary>It is no database, or its pages do not fit together.</summary>
    Damaged,

    /// <summary>It is the database of another program.</summary>
    Foreign,

    /// <summary>A newer version of this program has changed its form.</summary>
    Newer,

    /// <summary>It, or its folder, cannot be written to.</summary>
    ReadOnly,
}

/// <summary>A database file that cannot be used. The message is for whoever starts the server.</summary>
public sealed class DatabaseFileException(FileFault fault, string message) : Exception(message)
{
    /// <summary>Why.</summary>
    public FileFault Fault => fault;
}

/// <summary>What SQLite's own codes say of the place where the database lies (https://sqlite.org/rescode.html).</summary>
public static class StorageFault
{
    /// <summary>True where no room is left.</summary>
    public static bool IsFull(SqliteException e) => e.SqliteErrorCode == raw.SQLITE_FULL;

    /// <summary>True where the file cannot be written or read now, and may be again later: locked by another program, read-only, a fault of
    /// the disk.</summary>
    public static bool IsPassing(SqliteException e) =>
        e.SqliteErrorCode
            is raw.SQLITE_BUSY
                or raw.SQLITE_LOCKED
                or raw.SQLITE_READONLY
                or raw.SQLITE_IOERR
                or raw.SQLITE_CANTOPEN
                or raw.SQLITE_FULL;

    /// <summary>True where the file is no sound database.</summary>
    public static bool IsDamage(SqliteException e) => e.SqliteErrorCode is raw.SQLITE_CORRUPT or raw.SQLITE_NOTADB;
}
