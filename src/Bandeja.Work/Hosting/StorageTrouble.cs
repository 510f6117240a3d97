using Bandeja.Store;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Hosting;

/// <summary>What is said where the disk or the database is the reason that something was not done: nothing is wrong with what was asked
/// for,
/// and it can be asked for again.</summary>
public static class StorageTrouble
{
    // ENOSPC, EDQUOT and EIO (POSIX.1-2017, errno.h), as .NET passes them on.
    const int NoSpace = 28,
        OverQuota = 122,
        InputOutput = 5,
        ReadOnlySystem = 30;

    /// <summary>True where something failed because no room is left.</summary>
    public static bool IsFull(Exception e) =>
        e is IOException { HResult: NoSpace or OverQuota } || e is SqliteException s && StorageFault.IsFull(s);

    /// <summary>True where something failed because of the disk or the database, and may succeed later.</summary>
    public static bool Is(Exception e) =>
        IsFull(e) || e is IOException { HResult: InputOutput or ReadOnlySystem } || e is SqliteException s && StorageFault.IsPassing(s);

    /// <summary>What happened, for somebody who waits for an answer.</summary>
    public static string Refusal(Exception e) =>
        IsFull(e)
            ? "The server's disk is full, so nothing was changed. Free some space and try again."
            : "The server's database cannot be written right now, so nothing was changed: " + Reason(e) + " Wait a moment and try again.";

    /// <summary>What happened, for work that goes on by itself.</summary>
    public static string Waiting(Exception e) =>
        IsFull(e)
            ? "Waiting: the server's disk is full. This continues automatically when there is space."
            : "Waiting: the server's database cannot be written right now. " + Reason(e) + " This continues automatically.";

    static string Reason(Exception e) =>
        e is SqliteException { SqliteErrorCode: SQLitePCL.raw.SQLITE_BUSY or SQLitePCL.raw.SQLITE_LOCKED }
            ? "another program has locked it."
        : e is SqliteException { SqliteErrorCode: SQLitePCL.raw.SQLITE_READONLY } or IOException { HResult: ReadOnlySystem }
            ? "it is read-only."
        : "the disk reported an error.";
}
