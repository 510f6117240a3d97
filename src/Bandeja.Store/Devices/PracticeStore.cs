using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Devices;

/// <summary>A tray of the practice printer.</summary>
/// <param name="Holds">letter, envelope or labels.</param>
public sealed record PracticeTray
{
    public long Number { get; init; }
    public string Holds { get; init; } = "";
    public long Sheets { get; init; }
    public long Capacity { get; init; }
}

/// <summary>The practice printer as it stands there.</summary>
public sealed record PracticeRow
{
    public long PrinterId { get; init; }
    public long SheetsAMinute { get; init; }

    /// <summary>How many sheets of ten thousand jam.</summary>
    public long JamsIn10000 { get; init; }

    /// <summary>What it waits for: jam, or paper for letter, envelope or labels; null while it can print.</summary>
    public string? Trouble { get; init; }
    public long JamNext { get; init; }
    public long RandomState { get; init; }
}

/// <summary>Something the practice printer was given.</summary>
public sealed record PracticeJob
{
    public long Id { get; init; }
    public long PrinterId { get; init; }
    public string Key { get; init; } = "";
    public string Title { get; init; } = "";
    public string File { get; init; } = "";
    public string Paper { get; init; } = "";
    public bool Duplex { get; init; }
    public long Copies { get; init; }
    public bool Collated { get; init; }
    public long Pages { get; init; }
    public long Total { get; init; }
    public long SheetsOut { get; init; }

    public PracticeJobState State { get; init; }
    public string At { get; init; } = "";
    public long Spoiled { get; init; }
}

/// <summary>A sheet that came out.</summary>
/// <param name="Sheet">Which of its job, from 1.</param>
public sealed record PracticeSheet
{
    public long Id { get; init; }
    public long JobId { get; init; }
    public long Sheet { get; init; }
    public bool Spoiled { get; init; }
    public string At { get; init; } = "";
    public string Title { get; init; } = "";
    public bool Duplex { get; init; }
    public long Pages { get; init; }
    public long Copies { get; init; }
    public bool Collated { get; init; }
    public long Total { get; init; }
}

/// <summary>What the practice printer remembers, as a printer's own memory: its paper, its jobs, the stack that came out.</summary>
public sealed class PracticeStore(Database database)
{
    const string JobSql =
        "SELECT j.*, (SELECT count(*) FROM practice_sheet WHERE job_id = j.id AND spoiled = 1) AS spoiled FROM practice_job j";

    /// <summary>Sets a practice printer up, where it is not yet, with full trays.</summary>
    public void SetUp(long printerId) =>
        database.Write(c =>
        {
            if (
                c.Execute(
                    "INSERT OR IGNORE INTO practice_printer (printer_id, sheets_a_minute) VALUES (@printerId, 2400)",
                    new { printerId }
                ) == 0
            )
                return;
            foreach (var (number, holds, capacity) in new[] { (1, "letter", 5000), (2, "envelope", 2000), (3, "labels", 500) })
                c.Execute(
                    "INSERT INTO practice_tray (printer_id, number, holds, sheets, capacity) VALUES (@printerId, @number, @holds, "
                        + "@capacity, @capacity)",
                    new
                    {
                        printerId,
                        number,
                        holds,
                        capacity,
                    }
                );
        });

    /// <summary>The printers for practice.</summary>
    public IReadOnlyList<PracticeRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<PracticeRow>("SELECT * FROM practice_printer ORDER BY printer_id")];
    }

    /// <summary>One of them.</summary>
    /// <exception cref="NotFoundException">It is none.</exception>
    public static PracticeRow Get(SqliteConnection c, long printerId) =>
        c.QuerySingleOrDefault<PracticeRow>("SELECT * FROM practice_printer WHERE printer_id = @printerId", new { printerId })
        ?? throw new NotFoundException("This is not a practice printer.");

    /// <summary>The trays of a printer.</summary>
    public static IReadOnlyList<PracticeTray> Trays(SqliteConnection c, long printerId) =>
        [
            .. c.Query<PracticeTray>(
                "SELECT number, holds, sheets, capacity FROM practice_tray WHERE printer_id = @printerId ORDER BY number",
                new { printerId }
            ),
        ];

    /// <summary>What it was given, the newest first.</summary>
    public static IReadOnlyList<PracticeJob> Jobs(SqliteConnection c, long printerId, int limit = 40) =>
        [.. c.Query<PracticeJob>(JobSql + " WHERE j.printer_id = @printerId ORDER BY j.id DESC LIMIT @limit", new { printerId, limit })];

    /// <summary>One job, or null.</summary>
    public PracticeJob? Job(long jobId)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<PracticeJob>(JobSql + " WHERE j.id = @jobId", new { jobId });
    }

    /// <summary>Takes a job; the same key again is the same job.</summary>
    public long Take(PracticeJob job, Actor actor) =>
        database.Write(c =>
            c.QuerySingle<long>(
                """
                INSERT INTO practice_job (printer_id, key, title, file, paper, duplex, copies, collated, pages, total, state, at)
                    VALUES (@PrinterId, @Key, @Title, @File, @Paper, @Duplex, @Copies, @Collated, @Pages, @Total, 'waiting', @Stamp)
                ON CONFLICT (key) DO UPDATE SET title = title RETURNING id
                """,
                new
                {
                    job.PrinterId,
                    job.Key,
                    job.Title,
                    job.File,
                    job.Paper,
                    job.Duplex,
                    job.Copies,
                    job.Collated,
                    job.Pages,
                    job.Total,
                    actor.Stamp,
                }
            )
        );

    /// <summary>Stops, goes on with, or gives up a job that is not finished.</summary>
    public void SetState(long jobId, PracticeJobState state) =>
        database.Write(c =>
            c.Execute(
                "UPDATE practice_job SET state = @state WHERE id = @jobId AND state IN ('waiting', 'printing', 'held')",
                new { jobId, state = state.ToString().ToLowerInvariant() }
            )
        );

    /// <summary>Sets the printer's speed and how often it jams.</summary>
    public void Set(long printerId, int sheetsAMinute, int jamsIn10000) =>
        database.Write(c =>
            c.Execute(
                "UPDATE practice_printer SET sheets_a_minute = @sheetsAMinute, jams_in_10000 = @jamsIn10000 WHERE printer_id = @printerId",
                new
                {
                    printerId,
                    sheetsAMinute,
                    jamsIn10000,
                }
            )
        );

    /// <summary>Puts paper into a tray, or takes it out. Where that was what the printer waited for, it goes on.</summary>
    public void Fill(long printerId, long tray, int sheets) =>
        database.Write(c =>
        {
            var row =
                Trays(c, printerId).FirstOrDefault(t => t.Number == tray)
                ?? throw new NotFoundException("The printer does not have that tray.");
            if (sheets < 0 || sheets > row.Capacity)
                throw new ConflictException($"Tray {tray} holds up to {row.Capacity:N0} sheets.");
            c.Execute(
                "UPDATE practice_tray SET sheets = @sheets WHERE printer_id = @printerId AND number = @tray",
                new
                {
                    printerId,
                    tray,
                    sheets,
                }
            );
            if (sheets > 0)
                c.Execute(
                    "UPDATE practice_printer SET trouble = NULL WHERE printer_id = @printerId AND trouble = @Holds",
                    new { printerId, row.Holds }
                );
        });

    /// <summary>Lets the next sheet jam, or takes the jammed one out so that it goes on.</summary>
    public void Jam(long printerId, bool jam) =>
        database.Write(c =>
            c.Execute(
                jam
                    ? "UPDATE practice_printer SET jam_next = 1 WHERE printer_id = @printerId"
                    : "UPDATE practice_printer SET trouble = NULL, jam_next = 0 WHERE printer_id = @printerId AND trouble = 'jam'",
                new { printerId }
            )
        );

    /// <summary>Prints up to so many sheets of the job that is next, all in one transaction, until paper runs out or jams.</summary>
    /// <returns>How many came out; 0 where there is nothing to print or something is in the way.</returns>
    public int Print(long printerId, int most, DateTimeOffset at) =>
        database.Write(c =>
        {
            var printer = Get(c, printerId);
            if (
                printer.Trouble is not null
                || c.QueryFirstOrDefault<PracticeJob>(
                    JobSql + " WHERE j.printer_id = @printerId AND j.state IN ('waiting', 'printing') ORDER BY j.id LIMIT 1",
                    new { printerId }
                )
                    is not { } job
            )
                return 0;
            if (job.State == PracticeJobState.Waiting)
                c.Execute("UPDATE practice_job SET state = 'printing' WHERE id = @Id", new { job.Id });
            var stamp = Actor.StampOf(at);
            using var insert = c.CreateCommand();
            insert.CommandText = "INSERT INTO practice_sheet (job_id, sheet, spoiled, at) VALUES ($job, $sheet, $spoiled, $at)";
            insert.Parameters.AddWithValue("$job", job.Id);
            insert.Parameters.AddWithValue("$at", stamp);
            var (sheetValue, spoiledValue) = (insert.Parameters.AddWithValue("$sheet", 0), insert.Parameters.AddWithValue("$spoiled", 0));
            long sheets = job.SheetsOut,
                random = printer.RandomState,
                left =
                    c.QuerySingleOrDefault<long?>(
                        "SELECT sum(sheets) FROM practice_tray WHERE printer_id = @printerId AND holds = @Paper",
                        new { printerId, job.Paper }
                    ) ?? 0;
            var (used, jamNext, trouble) = (0, printer.JamNext > 0, (string?)null);
            while (used < most && sheets < job.Total && trouble is null)
            {
                if (used >= left)
                {
                    trouble = job.Paper;
                    break;
                }
                used++;
                random = (random * 1103515245 + 12345) & 0x7fffffff;
                var jams = jamNext || random / 7 % 10_000 < printer.JamsIn10000;
                jamNext = false;
                // A sheet that jams is spoiled; the same one is printed again when somebody has taken it out.
                (sheetValue.Value, spoiledValue.Value) = (jams ? sheets + 1 : ++sheets, jams ? 1 : 0);
                insert.ExecuteNonQuery();
                if (jams)
                    trouble = "jam";
            }
            UsePaper(c, printerId, job.Paper, used);
            c.Execute(
                "UPDATE practice_job SET sheets_out = @sheets, state = CASE WHEN @sheets >= total THEN 'done' ELSE state END WHERE "
                    + "id = @Id",
                new { sheets, job.Id }
            );
            c.Execute(
                "UPDATE practice_printer SET trouble = @trouble, jam_next = @jamNext, random_state = @random WHERE printer_id = @printerId",
                new
                {
                    printerId,
                    trouble,
                    jamNext,
                    random,
                }
            );
            return used;
        });

    static void UsePaper(SqliteConnection c, long printerId, string paper, int used)
    {
        foreach (var tray in Trays(c, printerId).Where(t => t.Holds == paper))
        {
            var take = Math.Min(used, tray.Sheets);
            c.Execute(
                "UPDATE practice_tray SET sheets = sheets - @take WHERE printer_id = @printerId AND number = @Number",
                new
                {
                    printerId,
                    tray.Number,
                    take,
                }
            );
            used -= (int)take;
        }
    }

    /// <summary>The output stack, newest sheet on top.</summary>
    public IReadOnlyList<PracticeSheet> Stack(long printerId, int offset, int limit, out int total)
    {
        using var c = database.Open();
        total = (int)
            c.QuerySingle<long>(
                "SELECT count(*) FROM practice_sheet s JOIN practice_job j ON j.id = s.job_id WHERE j.printer_id = @printerId",
                new { printerId }
            );
        return
        [
            .. c.Query<PracticeSheet>(
                "SELECT s.id, s.job_id, s.sheet, s.spoiled, s.at, j.title, j.duplex, j.pages, j.copies, j.collated, j.total FROM "
                    + "practice_sheet s JOIN practice_job j ON j.id = s.job_id WHERE j.printer_id = @printerId ORDER BY s.id DESC "
                    + "LIMIT @limit OFFSET @offset",
                new
                {
                    printerId,
                    offset,
                    limit,
                }
            ),
        ];
    }

    /// <summary>The sheets of a job that jammed.</summary>
    public IReadOnlyList<int> SpoiledOf(long jobId)
    {
        using var c = database.Open();
        return [.. c.Query<int>("SELECT sheet FROM practice_sheet WHERE job_id = @jobId AND spoiled = 1 ORDER BY id", new { jobId })];
    }

    /// <summary>Takes the stack away. Jobs that are finished go with it.</summary>
    public void TakeAway(long printerId) =>
        database.Write(c =>
        {
            c.Execute(
                "DELETE FROM practice_sheet WHERE job_id IN (SELECT id FROM practice_job WHERE printer_id = @printerId AND state IN "
                    + "('done', 'cancelled'))",
                new { printerId }
            );
        });
}
