using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>
/// A connection that several may share, and that goes back to <see cref="Readers"/> when it is closed. The pool of Microsoft.Data.Sqlite is
/// not used: it looks for connections that nobody closed while others are opened and closed, and under load two readers once had the same
/// one (version 10.0.0).
/// </summary>
sealed class StoreConnection(string connectionString, Readers? readers) : SqliteConnection(connectionString)
{
    readonly HashSet<StoreCommand> commands = [];
    int isOut = 1;
    bool isEnding;

    /// <summary>True while several share it: whoever has used it leaves it as it is.</summary>
    public bool IsShared { get; set; }

    /// <summary>Closes it for those who shared it.</summary>
    public void End()
    {
        IsShared = false;
        Dispose();
    }

    /// <summary>It is in somebody's hands again.</summary>
    public void GoOut() => Volatile.Write(ref isOut, 1);

    /// <summary>Ends the view that it was used for, with the queries that nobody finished: they would keep it, and whoever came next would
    /// read what was there then. False where it has failed.</summary>
    public bool Rest()
    {
        try
        {
            foreach (var command in commands.ToArray())
                command.Dispose();
            Transaction?.Dispose();
            return SQLitePCL.raw.sqlite3_get_autocommit(Handle) != 0;
        }
        catch (SqliteException)
        {
            return false;
        }
    }

    /// <inheritdoc/>
    public override SqliteCommand CreateCommand()
    {
        var command = new StoreCommand(commands)
        {
            Connection = this,
            CommandTimeout = DefaultTimeout,
            Transaction = Transaction,
        };
        commands.Add(command);
        return command;
    }

    sealed class StoreCommand(HashSet<StoreCommand> all) : SqliteCommand
    {
        protected override void Dispose(bool disposing)
        {
            if (disposing)
                all.Remove(this);
            base.Dispose(disposing);
        }
    }

    /// <inheritdoc/>
    public override void Close()
    {
        if (!IsShared && !GoesBack())
            base.Close();
    }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (IsShared || disposing && GoesBack())
            return;
        isEnding = true;
        base.Dispose(disposing);
    }

    /// <summary>True where it is with the readers now, or was already: who closes it twice closes it once.</summary>
    bool GoesBack()
    {
        if (isEnding || readers is null || Handle is null)
            return false;
        if (Interlocked.Exchange(ref isOut, 0) == 0)
            return true;
        if (readers.Take(this))
            return true;
        isEnding = true;
        return false;
    }
}

/// <summary>Connections that were used for reading and wait to be used again: opening one reads the whole schema.</summary>
sealed class Readers
{
    const int Most = 32;
    readonly Lock one = new();
    readonly Stack<StoreConnection> waiting = [];
    bool isOver;

    /// <summary>One that nobody uses; null where there is none.</summary>
    public StoreConnection? Next()
    {
        lock (one)
            if (waiting.TryPop(out var connection))
            {
                connection.GoOut();
                return connection;
            }
        return null;
    }

    /// <summary>Takes one back; false where it is to be closed for good.</summary>
    public bool Take(StoreConnection connection)
    {
        if (!connection.Rest())
            return false;
        lock (one)
        {
            if (isOver || waiting.Count >= Most)
                return false;
            waiting.Push(connection);
            return true;
        }
    }

    /// <summary>Closes those that wait; those that come back are closed from now on.</summary>
    public void End()
    {
        List<StoreConnection> all;
        lock (one)
        {
            isOver = true;
            all = [.. waiting];
            waiting.Clear();
        }
        foreach (var connection in all)
        {
            connection.GoOut();
            connection.End();
        }
    }
}
