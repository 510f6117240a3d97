using System.Text.Json.Serialization;
using Bandeja.Core.Drops;
using Dapper;

namespace Bandeja.Store;

/// <summary>A piece of long work.</summary>
public sealed record JobRow
{
    public long Id { get; init; }
    public string Kind { get; init; } = "";
    public long SubjectId { get; init; }
    public RunState State { get; init; }
    public string Label { get; init; } = "";

    /// <summary>What is to be done, as its kind reads it: for the queue alone. It may hold people's data, and be large.</summary>
    [JsonIgnore]
    public string PayloadJson { get; init; } = "{}";
    public long Done { get; init; }
    public long Total { get; init; }
    public string? Message { get; init; }
    public string CreatedAt { get; init; } = "";
    public string CreatedBy { get; init; } = "";
    public string? FinishedAt { get; init; }
}

/// <summary>The durable queue of long work.</summary>
public sealed class JobStore(Database database)
{
    const string Sql =
        "SELECT id, kind, subject_id, state, label, payload_json, done, total, message, created_at, created_by, finished_at FROM job";

    /// <summary>Puts work into the queue that nobody has to ask for, unless the same is waiting there already, or ended the server
    /// within the last day.</summary>
    public void AddOnce(string kind, long subjectId, string label, Actor actor) =>
        database.Write(c =>
            c.Execute(
                "INSERT INTO job (kind, subject_id, state, label, created_at, created_by) SELECT @kind, @subjectId, 'queued', "
                    + "@label, @Stamp, @Name WHERE NOT EXISTS (SELECT 1 FROM job WHERE kind = @kind AND subject_id = @subjectId AND "
                    + "(state = 'queued' OR ended_process >= @MostCrashes AND finished_at > @Lately AND id = (SELECT max(id) FROM "
                    + "job WHERE kind = @kind AND "
                    + "subject_id = @subjectId)))",
                new
                {
                    kind,
                    subjectId,
                    label,
                    actor.Stamp,
                    actor.Name,
                    MostCrashes,
                    Lately = Actor.StampOf(actor.At.AddDays(-1)),
                }
            )
        );

    /// <summary>Puts work into the queue.</summary>
    public long Add(string kind, long subjectId, string label, string payloadJson, long total, Actor actor) =>
        database.Write(c =>
            c.QuerySingle<long>(
                "INSERT INTO job (kind, subject_id, state, label, payload_json, total, created_at, created_by) VALUES (@kind, "
                    + "@subjectId, 'queued', @label, @payloadJson, @total, @Stamp, @Name) RETURNING id",
                new
                {
                    kind,
                    subjectId,
                    label,
                    payloadJson,
                    total,
                    actor.Stamp,
                    actor.Name,
                }
            )
        );

    /// <summary>One piece of work.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public JobRow Get(long id)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<JobRow>(Sql + " WHERE id = @id", new { id })
            ?? throw new NotFoundException("This job no longer exists.");
    }

    /// <summary>The oldest queued work of a kind whose time has come.</summary>
    public JobRow? Next(string kind, Actor now)
    {
        using var c = database.Open();
        return c.QueryFirstOrDefault<JobRow>(
            Sql + " WHERE state = 'queued' AND kind = @kind AND (not_before IS NULL OR not_before <= @Stamp) ORDER BY id LIMIT 1",
            new { kind, now.Stamp }
        );
    }

    /// <summary>What is queued or running, and what ended last.</summary>
    public IReadOnlyList<JobRow> Recent()
    {
        using var c = database.Open();
        return
        [
            .. c.Query<JobRow>(
                Sql + " WHERE state IN ('queued', 'running') OR id > (SELECT coalesce(max(id), 0) - 20 FROM job) ORDER BY id DESC LIMIT 40"
            ),
        ];
    }

    /// <summary>Takes work out of the queue; false where it was canceled meanwhile.</summary>
    public bool Start(long id) =>
        database.Write(c =>
            c.Execute("UPDATE job SET state = 'running', message = NULL WHERE id = @id AND state = 'queued'", new { id }) > 0
        );

    /// <summary>Puts work that is being done back into the queue until a moment; it is taken up again then.</summary>
    /// <param name="why">What it waits for; null where that is not said.</param>
    public void Wait(long id, DateTimeOffset until, string? why) =>
        database.Write(c =>
            c.Execute(
                "UPDATE job SET state = 'queued', ended_process = 0, not_before = @Stamp, message = @why WHERE id = @id AND "
                    + "state = 'running'",
                new
                {
                    id,
                    why,
                    Stamp = Actor.StampOf(until),
                }
            )
        );

    /// <summary>Says where the work is.</summary>
    public void Progress(long id, long done, long total) =>
        database.Write(c =>
            c.Execute(
                "UPDATE job SET done = @done, total = @total WHERE id = @id AND state = 'running'",
                new
                {
                    id,
                    done,
                    total,
                }
            )
        );

    /// <summary>Ends the work. Work that has ended stays as it ended.</summary>
    public bool End(long id, RunState state, string? message, Actor actor) =>
        database.Write(c =>
            c.Execute(
                "UPDATE job SET state = @state, message = @message, finished_at = @Stamp, done = CASE @state WHEN 'done' THEN total "
                    + "ELSE done END WHERE id = @id AND state IN ('queued', 'running')",
                new
                {
                    id,
                    state = state.Stored(),
                    message,
                    actor.Stamp,
                }
            ) > 0
        );

    /// <summary>Puts work back into the queue that the server leaves because it is told to end.</summary>
    public void Leave(long id) =>
        database.Write(c => c.Execute("UPDATE job SET state = 'queued', done = 0 WHERE id = @id AND state = 'running'", new { id }));

    /// <summary>
    /// Puts back into the queue what was running when the process ended without being told to; work during which that happened the <see
    /// cref="MostCrashes"/>th time is ended as failed.
    /// </summary>
    /// <returns>What was ended.</returns>
    public IReadOnlyList<JobRow> TakeUpAgain(Actor actor) =>
        database.Write(c =>
        {
            c.Execute("UPDATE job SET ended_process = ended_process + 1 WHERE state = 'running'");
            var ended = c.Query<long>(
                    "UPDATE job SET state = 'failed', message = @Crashed, finished_at = @Stamp WHERE state = 'running' AND "
                        + "ended_process >= "
                        + "@MostCrashes RETURNING id",
                    new
                    {
                        Crashed,
                        actor.Stamp,
                        MostCrashes,
                    }
                )
                .ToList();
            c.Execute("UPDATE job SET state = 'queued', done = 0 WHERE state = 'running'");
            return ended.Select(id => c.QuerySingle<JobRow>(Sql + " WHERE id = @id", new { id })).ToList();
        });

    /// <summary>How often the process may end during the same work before that work is taken for the reason.</summary>
    public const int MostCrashes = 2;

    /// <summary>What is said of such work.</summary>
    public const string Crashed =
        "The server stopped twice during this work, so it is not started again automatically. The server's log may show why. "
        + "Start the work again when the cause is fixed.";
}
