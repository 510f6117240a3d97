using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Hosting;

/// <summary>Tells a full disk from other faults.</summary>
static class DiskSpace
{
    // ENOSPC (POSIX.1-2017, errno.h), as .NET passes it on.
    const int NoSpace = 28;

    /// <summary>True where something failed because no room is left.</summary>
    public static bool IsUsedUp(Exception e) =>
        e is IOException { HResult: NoSpace } or SqliteException { SqliteErrorCode: SQLitePCL.raw.SQLITE_FULL };
}
