using Bandeja.Core.Drops;
using Bandeja.Store.Drops;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>What happens to a run: it is started, paused, resumed, and ends.</summary>
public sealed class RunLife(Database database)
{
    /// <summary>Says that the run is being made.</summary>
    public void Start(long runId) =>
        database.Write(c =>
            c.Execute("UPDATE run SET state = 'running', message = NULL WHERE id = @runId AND state = 'queued'", new { runId })
        );

    /// <summary>Stops a run for a while; its pieces stay with it.</summary>
    /// <exception cref="ConflictException">It is not being made.</exception>
    public void Pause(long runId, string why, Actor actor)
    {
        if (!PauseIfMade(runId, null, why, actor))
            throw new ConflictException("This run is not in progress, so it cannot be paused.");
    }

    /// <summary>Stops a run for a while where it is being made; one that somebody paused, ended, or resumed meanwhile stays as it
    /// is.</summary>
    /// <param name="workId">The work that stops it: what it saw counts only while it is still the one that makes the run. Null for
    /// whatever work there is.</param>
    /// <returns>False where nothing changed.</returns>
    public bool PauseIfMade(long runId, long? workId, string why, Actor actor) =>
        database.Write(c =>
        {
            if (
                c.Execute(
                    $"""
                    UPDATE run SET state = 'paused', message = @why WHERE id = @runId AND state IN ('queued', 'running')
                        AND (@workId IS NULL OR @workId = {RunStore.NewestWork})
                    """,
                    new
                    {
                        runId,
                        workId,
                        why,
                    }
                ) == 0
            )
                return false;
            // What waits in the queue is taken out of it; what is being worked on sees the run's state and stops.
            c.Execute(
                "UPDATE job SET state = 'done', message = 'Paused', finished_at = @Stamp WHERE kind IN ('run', 'print', 'send') AND "
                    + "subject_id = @runId AND state = 'queued'",
                new { runId, actor.Stamp }
            );
            RunLog.Add(c, runId, why, actor.At);
            return true;
        });

    /// <summary>Lets a paused run go on.</summary>
    /// <exception cref="ConflictException">It is not paused.</exception>
    public void Resume(long runId, string text, Actor actor) =>
        database.Write(c =>
        {
            if (c.Execute("UPDATE run SET state = 'queued', message = NULL WHERE id = @runId AND state = 'paused'", new { runId }) == 0)
                throw new ConflictException("This run is not paused.");
            var run = RunStore.Get(c, runId);
            c.Execute(
                "INSERT INTO job (kind, subject_id, state, label, done, total, created_at, created_by) SELECT @kind, id, 'queued', "
                    + "@label, @Printed, pieces, @Stamp, @Name FROM run WHERE id = @runId",
                new
                {
                    kind = run.Work,
                    runId,
                    label = $"Run {run.Number}, resumed",
                    run.Printed,
                    actor.Stamp,
                    actor.Name,
                }
            );
            RunLog.Add(c, runId, text, actor.At);
        });

    /// <summary>Ends a run whose files are written: all its pieces are produced, or reprinted, in one transaction. Nobody is marked as
    /// mailed.</summary>
    /// <returns>False where the run was canceled or paused meanwhile; then nothing changes.</returns>
    public bool Complete(long runId, IReadOnlyList<RunFile> files, Actor actor) =>
        database.Write(c =>
        {
            var run = RunStore.Get(c, runId);
            if (run.State != RunState.Running)
                return false;
            DropEvents.AppendMade(c, run.DropId, runId, run.ReprintOf is not null, actor, run.IsEmail);
            c.Execute("UPDATE run_piece SET printed_at = @Stamp WHERE run_id = @runId AND printed_at IS NULL", new { runId, actor.Stamp });
            c.Execute("DELETE FROM run_file WHERE run_id = @runId", new { runId });
            c.Execute(
                "INSERT INTO run_file (run_id, number, name, position, first_piece, last_piece, pages, size, sha256) VALUES "
                    + "(@runId, @Number, @Name, @Position, @FirstPiece, @LastPiece, @Pages, @Size, @Sha256)",
                files.Select(f => new
                {
                    runId,
                    f.Number,
                    f.Name,
                    f.Position,
                    f.FirstPiece,
                    f.LastPiece,
                    f.Pages,
                    f.Size,
                    f.Sha256,
                })
            );
            foreach (var design in files.Where(f => f.Position > 0).GroupBy(f => f.Position))
                c.Execute(
                    "UPDATE run_design SET pages = @pages WHERE run_id = @runId AND position = @position",
                    new
                    {
                        runId,
                        position = design.Key,
                        pages = design.Sum(f => f.Pages),
                    }
                );
            c.Execute(
                "UPDATE run SET state = 'done', finished_at = @Stamp, pages = CASE WHEN @pages > 0 THEN @pages ELSE pages END WHERE "
                    + "id = @runId",
                new
                {
                    actor.Stamp,
                    pages = files.Sum(f => f.Pages),
                    runId,
                }
            );
            c.Execute(
                "UPDATE job SET state = 'done', done = total, finished_at = @Stamp WHERE kind IN ('run', 'print', 'send') AND "
                    + "subject_id = @runId AND state IN ('queued', 'running')",
                new { actor.Stamp, runId }
            );
            RunLog.Add(
                c,
                runId,
                files.Count == 0
                    ? $"All {run.Pieces:N0} pieces are printed."
                    : $"Done: {(files.Count == 1 ? files[0].Name : $"{files.Count:N0} files")}, "
                        + $"{files.Sum(f => f.Size) / 1048576.0:0.0} MB, {files.Sum(f => f.Pages):N0} pages.",
                actor.At
            );
            return true;
        });

    /// <summary>Records pieces of a run of which the printer has given out everything; what is recorded already is passed over.</summary>
    /// <returns>How many were recorded.</returns>
    internal static int RecordPrinted(SqliteConnection c, RunRow run, Actor actor)
    {
        var all = (1L << run.Designs.Count) - 1;
        var pieces = c.Query<long>(
                "SELECT recipient_id FROM run_piece WHERE run_id = @Id AND printed_at IS NULL AND out_mask = @all ORDER BY position",
                new { run.Id, all }
            )
            .ToList();
        if (pieces.Count == 0)
            return 0;
        var states = DropEvents.States(c, run.DropId, pieces);
        // A piece that this run has made before, and makes again because the first was spoiled, is told as what it is.
        DropEvents.Append(
            c,
            run.DropId,
            [
                .. pieces.Select(p =>
                    (
                        p,
                        run.ReprintOf is not null || states[p].ProducedRun == run.Id
                            ? new DropEvent(DropEventKind.Reprinted, RunId: run.Id)
                            : new DropEvent(DropEventKind.Produced, RunId: run.Id)
                    )
                ),
            ],
            actor,
            null
        );
        c.Execute(
            "UPDATE run_piece SET printed_at = @Stamp WHERE run_id = @Id AND printed_at IS NULL AND out_mask = @all",
            new
            {
                run.Id,
                all,
                actor.Stamp,
            }
        );
        return pieces.Count;
    }

    /// <summary>Ends a run without its other pieces being made: they are where they were.</summary>
    public bool Stop(long runId, RunState state, string? message, Actor actor) =>
        database.Write(c =>
        {
            if (
                c.Execute(
                    "UPDATE run SET state = @state, finished_at = @Stamp, message = @message WHERE id = @runId AND state IN "
                        + "('queued', 'running', 'paused')",
                    new
                    {
                        state = state.Stored(),
                        actor.Stamp,
                        message,
                        runId,
                    }
                ) == 0
            )
                return false;
            c.Execute(
                "UPDATE job SET state = 'cancelled', finished_at = @Stamp WHERE kind IN ('run', 'print', 'send') AND subject_id = "
                    + "@runId AND state = 'queued'",
                new { runId, actor.Stamp }
            );
            RunLog.Add(c, runId, state == RunState.Cancelled ? $"Canceled by {actor.Name}." : $"The run failed: {message}", actor.At);
            return true;
        });

    /// <summary>Says what is in a run's way; null where nothing is any more.</summary>
    public void Say(long runId, string? message) =>
        database.Write(c => c.Execute("UPDATE run SET message = @message WHERE id = @runId AND state = 'running'", new { runId, message }));
}
