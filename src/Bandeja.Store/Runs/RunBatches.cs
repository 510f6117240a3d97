using System.Text.Json;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Store.Drops;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>A part of a printed run: some pieces of one design, handed to the printer at once.</summary>
public sealed record RunBatch
{
    public long RunId { get; init; }
    public long Number { get; init; }

    /// <summary>Which design, from 1.</summary>
    public long Position { get; init; }

    /// <summary>The first place in the run, from 0.</summary>
    public long FirstAt { get; init; }

    /// <summary>The last.</summary>
    public long LastAt { get; init; }
    public long FirstPiece { get; init; }
    public long LastPiece { get; init; }

    public BatchState State { get; private init; }

    /// <summary>The state as it is stored, where its row is read: some have two words.</summary>
    internal string StoredState
    {
        init => State = BatchStates.Read(value);
    }
    public string? DeviceJob { get; init; }
    public long SheetsOut { get; init; }

    /// <summary>How many of its spoiled sheets the run's log tells of.</summary>
    public long SpoiledTold { get; init; }
    public string? EndsJson { get; init; }
    public long Before { get; init; }

    /// <summary>True where its pieces were printed before and are printed again.</summary>
    public bool Again { get; init; }

    /// <summary>Which pieces are out with how many sheets.</summary>
    public SheetsOut Sheets(int copies, bool collated) =>
        new(EndsJson is null ? [] : JsonSerializer.Deserialize<int[]>(EndsJson)!, (int)Before, copies, collated);
}

/// <summary>The batches of printed runs. What the printer has given out is recorded together with the pieces that are whole by
/// it.</summary>
public sealed class RunBatches(Database database)
{
    const string Sql = """
        SELECT b.run_id, b.number, b.position, b.first_at, b.last_at, b.state AS stored_state, b.device_job, b.sheets_out,
            b.spoiled_told, b.ends_json, b.before, b.again, (SELECT piece_number FROM run_piece WHERE run_id = b.run_id
            AND position = b.first_at) AS first_piece, (SELECT piece_number FROM run_piece
            WHERE run_id = b.run_id AND position = b.last_at) AS last_piece
        FROM run_batch b
        """;

    /// <summary>The batches of a run in the order in which they are printed.</summary>
    public IReadOnlyList<RunBatch> Of(long runId)
    {
        using var c = database.Open();
        return [.. c.Query<RunBatch>(Sql + " WHERE b.run_id = @runId ORDER BY b.number", new { runId })];
    }

    /// <summary>Writes into the run's log what became of spoiled sheets, and how many it tells of now: at once, so that none is told
    /// twice or never, whenever the server ends.</summary>
    public void TellSpoiled(RunBatch batch, int told, IEnumerable<string> lines, DateTimeOffset at) =>
        database.Write(c =>
        {
            foreach (var line in lines)
                RunLog.Add(c, batch.RunId, line, at);
            c.Execute(
                "UPDATE run_batch SET spoiled_told = @told WHERE run_id = @RunId AND number = @Number",
                new
                {
                    told,
                    batch.RunId,
                    batch.Number,
                }
            );
        });

    /// <summary>
    /// Divides a run into batches, where that is not done yet: of each some pieces of every design, so that letters and envelopes stay
    /// close
    /// together; labels all at once and first, because a sheet of them holds many, and a piece is whole only with its label.
    /// </summary>
    /// <param name="size">Pieces of a batch; 0 for all.</param>
    public void Divide(RunRow run, int size) =>
        database.Write(c =>
        {
            if (c.QuerySingle<long>("SELECT count(*) FROM run_batch WHERE run_id = @Id", new { run.Id }) == 0)
                Divide(c, run, 0, size, false);
        });

    static void Divide(SqliteConnection c, RunRow run, int from, int size, bool again)
    {
        var number = c.QuerySingle<long>("SELECT coalesce(max(number), 0) FROM run_batch WHERE run_id = @Id", new { run.Id });
        var step = size > 0 ? size : int.MaxValue;
        void Add(long position, long first, long last) =>
            c.Execute(
                "INSERT INTO run_batch (run_id, number, position, first_at, last_at, state, again) VALUES (@Id, @number, @position, "
                    + "@first, @last, 'waiting', @again)",
                new
                {
                    run.Id,
                    number = ++number,
                    position,
                    first,
                    last,
                    again,
                }
            );
        foreach (var design in run.Designs.Where(d => d.Kind.Rules().SharesSheets))
            Add(design.Position, from, run.Pieces - 1);
        var others = run.Designs.Where(d => !d.Kind.Rules().SharesSheets).ToList();
        for (long first = from; first < run.Pieces && others.Count > 0; first += step)
        {
            foreach (var design in others)
                Add(design.Position, first, Math.Min(run.Pieces - 1, first + step - 1L));
        }
    }

    /// <summary>Goes back to a piece: everything from there on is printed again, whatever has come out of it.</summary>
    /// <param name="pieceNumber">Its number.</param>
    /// <returns>The batches that are given up, with what the printer was asked.</returns>
    /// <exception cref="ConflictException">It is not a piece of the run, or mailed already.</exception>
    public IReadOnlyList<RunBatch> GoBackTo(RunRow run, int pieceNumber, int size, Actor actor) =>
        database.Write(c =>
        {
            var at =
                c.QuerySingleOrDefault<int?>(
                    "SELECT position FROM run_piece WHERE run_id = @Id AND piece_number = @pieceNumber",
                    new { run.Id, pieceNumber }
                ) ?? throw new ConflictException($"Piece {pieceNumber:0000} is not in this run.");
            if (
                c.QueryFirstOrDefault<long?>(
                    "SELECT p.piece_number FROM run_piece p JOIN drop_recipient d ON d.drop_id = @DropId AND d.recipient_id = "
                        + "p.recipient_id WHERE p.run_id = @Id AND p.position >= @at AND d.mailed_on IS NOT NULL LIMIT 1",
                    new
                    {
                        run.DropId,
                        run.Id,
                        at,
                    }
                ) is
                { } mailed
            )
                throw new ConflictException(
                    $"Piece {mailed:0000} is mailed already, so the run cannot go back to {pieceNumber:0000}. Reprint single pieces "
                        + "instead."
                );
            var given = c.Query<RunBatch>(
                    Sql + " WHERE b.run_id = @Id AND b.last_at >= @at AND b.state <> 'given up' ORDER BY b.number",
                    new { run.Id, at }
                )
                .ToList();
            foreach (var batch in given)
            {
                // What of a batch lies before the piece keeps what is out of it; the rest of its pieces are in new batches.
                c.Execute("UPDATE run_batch SET state = 'given up' WHERE run_id = @Id AND number = @Number", new { run.Id, batch.Number });
                if (batch.FirstAt >= at || batch.State is BatchState.Out)
                    continue;
                var missing = c.QuerySingle<int?>(
                    "SELECT min(position) FROM run_piece WHERE run_id = @Id AND position BETWEEN @FirstAt AND @LastAt AND out_mask "
                        + "& @bit = 0",
                    new
                    {
                        run.Id,
                        batch.FirstAt,
                        batch.LastAt,
                        bit = 1L << (int)(batch.Position - 1),
                    }
                );
                if (missing is { } early && early < at)
                    at = early;
            }
            c.Execute("UPDATE run_piece SET out_mask = 0, printed_at = NULL WHERE run_id = @Id AND position >= @at", new { run.Id, at });
            Divide(c, run, at, size, true);
            RunLog.Add(
                c,
                run.Id,
                $"{actor.Name} lets it go on from piece {pieceNumber:0000}: everything from there is printed again. Take out what "
                    + "was printed of it before.",
                actor.At
            );
            return (IReadOnlyList<RunBatch>)given;
        });

    /// <summary>Says that a batch is about to be handed to the printer.</summary>
    /// <returns>False where the run was paused or canceled before that, or is the work of another by now: nothing may be handed
    /// over.</returns>
    public bool Handing(RunBatch batch, long workId, IReadOnlyList<int> ends, int before) =>
        database.Write(c =>
            c.Execute(
                $"""
                UPDATE run_batch SET state = 'handing', ends_json = @ends, before = @before
                WHERE run_id = @RunId AND number = @Number AND state IN ('waiting', 'handing')
                    AND EXISTS (SELECT 1 FROM run WHERE id = @RunId AND state = 'running' AND @workId = {RunStore.NewestWork})
                """,
                new
                {
                    batch.RunId,
                    batch.Number,
                    workId,
                    ends = JsonSerializer.Serialize(ends),
                    before,
                }
            )
        ) > 0;

    /// <summary>Says that the printer has it.</summary>
    public void Printing(RunBatch batch, string deviceJob) =>
        database.Write(c =>
            c.Execute(
                "UPDATE run_batch SET state = 'printing', device_job = @deviceJob WHERE run_id = @RunId AND number = @Number AND "
                    + "state IN ('handing', 'doubt')",
                new
                {
                    batch.RunId,
                    batch.Number,
                    deviceJob,
                }
            )
        );

    /// <summary>Records that nobody knows whether a batch was printed: somebody must look.</summary>
    public void Doubt(RunRow run, RunBatch batch, Actor actor) =>
        database.Write(c =>
        {
            if (
                c.Execute(
                    "UPDATE run_batch SET state = 'doubt' WHERE run_id = @RunId AND number = @Number AND state IN ('handing', 'printing')",
                    new { batch.RunId, batch.Number }
                ) == 0
            )
                return;
            Tell(c, run, batch, DropEventKind.InDoubt, $"Batch {batch.Number} may have been printed.", actor);
        });

    static void Tell(SqliteConnection c, RunRow run, RunBatch batch, DropEventKind kind, string note, Actor actor) =>
        DropEvents.Append(
            c,
            run.DropId,
            [
                .. c.Query<long>(
                        "SELECT recipient_id FROM run_piece WHERE run_id = @RunId AND position BETWEEN @FirstAt AND @LastAt AND "
                            + "printed_at IS NULL ORDER BY position",
                        new
                        {
                            batch.RunId,
                            batch.FirstAt,
                            batch.LastAt,
                        }
                    )
                    .Select(r => (r, new DropEvent(kind, note, RunId: run.Id))),
            ],
            actor,
            null
        );

    /// <summary>Settles a doubt: the batch was printed, or it was not. A run that still goes on prints it again; where the run has ended,
    /// its pieces are Ready again.</summary>
    /// <exception cref="ConflictException">It is not in doubt, or another run has produced some of its pieces since.</exception>
    public void Settle(RunRow run, long number, bool printed, Actor actor) =>
        database.Write(c =>
        {
            var ended = RunStates.Read(c.QuerySingle<string>("SELECT state FROM run WHERE id = @Id", new { run.Id })).IsOver();
            var batch =
                c.QuerySingleOrDefault<RunBatch>(
                    Sql + " WHERE b.run_id = @Id AND b.number = @number AND (b.state = 'doubt' OR @ended AND b.state = 'handing')",
                    new
                    {
                        run.Id,
                        number,
                        ended,
                    }
                ) ?? throw new ConflictException("This batch is no longer in doubt.");
            if (
                run.ReprintOf is null
                && c.QueryFirstOrDefault<(long Piece, long Run)?>(
                    "SELECT p.piece_number, u.number FROM run_piece p JOIN drop_recipient d ON d.drop_id = @DropId AND "
                        + "d.recipient_id = p.recipient_id JOIN run u ON u.id = d.run_id WHERE p.run_id = @Id AND p.position BETWEEN "
                        + "@FirstAt AND @LastAt AND p.printed_at IS NULL AND u.id <> @Id LIMIT 1",
                    new
                    {
                        run.DropId,
                        run.Id,
                        batch.FirstAt,
                        batch.LastAt,
                    }
                )
                    is { } made
            )
                throw new ConflictException(
                    $"Run {made.Run} has since produced piece {made.Piece:0000}, so run {run.Number} has nothing left to resolve."
                );
            RunLog.Add(
                c,
                run.Id,
                $"{actor.Name} checked: batch {number}, pieces {batch.FirstPiece:0000} to {batch.LastPiece:0000}, was "
                    + $"{(printed ? "printed" : "not printed")}.",
                actor.At
            );
            Tell(c, run, batch, DropEventKind.DoubtSettled, printed ? "printed" : "not printed", actor);
            if (printed)
                Out(c, run, batch, int.MaxValue, true, actor);
            else
                c.Execute(
                    "UPDATE run_batch SET state = @state WHERE run_id = @Id AND number = @number",
                    new
                    {
                        run.Id,
                        number,
                        state = ended ? "given up" : "waiting",
                    }
                );
        });

    /// <summary>Takes what the printer says of a batch: so many sheets are out, and with them these pieces.</summary>
    /// <returns>How many pieces became whole by it.</returns>
    public int Report(RunRow run, RunBatch batch, int sheetsOut, int piecesOut, bool finished, Actor actor) =>
        database.Write(c =>
        {
            c.Execute(
                "UPDATE run_batch SET sheets_out = @sheetsOut WHERE run_id = @RunId AND number = @Number",
                new
                {
                    batch.RunId,
                    batch.Number,
                    sheetsOut,
                }
            );
            return Out(c, run, batch, piecesOut, finished, actor);
        });

    static int Out(SqliteConnection c, RunRow run, RunBatch batch, int piecesOut, bool finished, Actor actor)
    {
        if (finished)
            c.Execute(
                "UPDATE run_batch SET state = 'out' WHERE run_id = @RunId AND number = @Number AND state IN ('handing', 'printing', "
                    + "'doubt')",
                new { batch.RunId, batch.Number }
            );
        var to = finished ? batch.LastAt : Math.Min(batch.LastAt, batch.FirstAt + piecesOut - 1L);
        c.Execute(
            "UPDATE run_piece SET out_mask = out_mask | @bit WHERE run_id = @RunId AND position BETWEEN @FirstAt AND @to AND "
                + "out_mask & @bit = 0",
            new
            {
                batch.RunId,
                batch.FirstAt,
                to,
                bit = 1L << (int)(batch.Position - 1),
            }
        );
        return RunLife.RecordPrinted(c, run, actor);
    }
}
