using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>What happened in a run, for people to read.</summary>
public sealed class RunLog(Database database)
{
    /// <summary>Writes a line of a run's log, for people.</summary>
    public static void Add(SqliteConnection c, long runId, string text, DateTimeOffset at) =>
        c.Execute(
            "INSERT INTO run_log (run_id, at, text) VALUES (@runId, @at, @text)",
            new
            {
                runId,
                at = Actor.StampOf(at),
                text,
            }
        );

    /// <inheritdoc cref="Log(SqliteConnection, long, string, DateTimeOffset)"/>
    public void Add(long runId, string text, DateTimeOffset at) => database.Write(c => Add(c, runId, text, at));

    /// <summary>What happened in a run, the oldest first.</summary>
    public IReadOnlyList<RunLogLine> Of(long runId)
    {
        using var c = database.Open();
        return [.. c.Query<RunLogLine>("SELECT id, at, text FROM run_log WHERE run_id = @runId ORDER BY id", new { runId })];
    }
}
