using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>Runs: planned, frozen, made, recorded.</summary>
public sealed class RunStore(Database database)
{
    /// <summary>Runs with their counts: each piece that a run has now is looked at once.</summary>
    static string Sql(string where) =>
        $"""
            WITH chosen AS (SELECT * FROM run WHERE {where}),
            piece AS (
                SELECT k.id AS run_id, r.recipient_id, r.mailed_on AS sent_on, r.hold_reason
                FROM chosen k JOIN drop_recipient r ON r.run_id = k.id
                UNION ALL
                SELECT k.id, r.recipient_id, r.emailed_on, r.hold_reason
                FROM chosen k JOIN drop_recipient r ON r.email_run_id = k.id
            ),
            tally AS (
                SELECT p.run_id,
                       sum(p.sent_on IS NULL AND p.hold_reason IS NULL) AS waiting,
                       sum(p.sent_on IS NOT NULL) AS mailed,
                       sum(p.sent_on IS NULL AND p.hold_reason IS NOT NULL) AS held_back,
                       sum(p.sent_on IS NULL AND EXISTS (
                           SELECT 1 FROM cell_change ch
                           WHERE ch.list_id = d.list_id AND ch.recipient_id = p.recipient_id AND ch.id > k.as_of_change)) AS corrected_since
                FROM piece p JOIN chosen k ON k.id = p.run_id JOIN mail_drop d ON d.id = k.drop_id
                GROUP BY p.run_id
            )
            SELECT k.*, coalesce(t.waiting, 0) AS waiting, coalesce(t.mailed, 0) AS mailed, coalesce(t.held_back, 0) AS held_back,
                   coalesce(t.corrected_since, 0) AS corrected_since,
                   (SELECT count(*) FROM run_piece WHERE run_id = k.id AND printed_at IS NOT NULL) AS printed,
                   (SELECT number FROM run o WHERE o.id = k.reprint_of) AS reprint_of_number,
                   (SELECT max(id) FROM job WHERE kind IN ('run', 'print', 'send', 'remake') AND subject_id = k.id) AS job_id
            FROM chosen k LEFT JOIN tally t ON t.run_id = k.id
            """;

    const string DesignsSql = """
        SELECT r.run_id, r.position, r.design_version_id, r.pages, r.start_json, v.number AS design_version, g.id AS design_id, g.name,
            g.kind
        FROM run_design r JOIN design_version v ON v.id = r.design_version_id JOIN design g ON g.id = v.design_id
        """;

    const string FilesSql = "SELECT run_id, number, name, position, first_piece, last_piece, pages, size, sha256 FROM run_file";

    /// <summary>One run.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public RunRow Get(long runId)
    {
        using var c = database.Open();
        return Get(c, runId);
    }

    internal static RunRow Get(SqliteConnection c, long runId) =>
        (
            c.QuerySingleOrDefault<RunRow>(Sql("id = @runId"), new { runId }) ?? throw new NotFoundException("This run no longer exists.")
        ) with
        {
            Designs = [.. c.Query<RunDesign>(DesignsSql + " WHERE r.run_id = @runId ORDER BY r.position", new { runId })],
            Files = [.. c.Query<RunFile>(FilesSql + " WHERE run_id = @runId ORDER BY number", new { runId })],
        };

    /// <summary>A drop's runs, the newest first.</summary>
    public IReadOnlyList<RunRow> OfDrop(long dropId)
    {
        using var c = database.Open();
        var designs = c.Query<RunDesign>(
                DesignsSql + " WHERE r.run_id IN (SELECT id FROM run WHERE drop_id = @dropId) ORDER BY r.position",
                new { dropId }
            )
            .ToLookup(d => d.RunId);
        var files = c.Query<RunFile>(
                FilesSql + " WHERE run_id IN (SELECT id FROM run WHERE drop_id = @dropId) ORDER BY number",
                new { dropId }
            )
            .ToLookup(f => f.RunId);
        return
        [
            .. c.Query<RunRow>(Sql("drop_id = @dropId") + " ORDER BY k.number DESC", new { dropId })
                .Select(r => r with { Designs = [.. designs[r.Id]], Files = [.. files[r.Id]] }),
        ];
    }

    /// <summary>The runs that produced a recipient's pieces of a channel, the last one first: the original, and its reprints.</summary>
    public static IReadOnlyList<long> Producing(SqliteConnection c, long dropId, long recipientId, bool email) =>
        [
            .. c.Query<long>(
                "SELECT u.id FROM run_piece p JOIN run u ON u.id = p.run_id WHERE u.drop_id = @dropId AND p.recipient_id = "
                    + "@recipientId AND p.printed_at IS NOT NULL AND (u.output IN ('email', 'eml', 'mbox')) = @email ORDER BY "
                    + "p.printed_at DESC, u.id DESC",
                new
                {
                    dropId,
                    recipientId,
                    email,
                }
            ),
        ];

    /// <summary>
    /// The pieces of a run in order, with the values of the moment it was begun: corrections made since are left out, so that a
    /// run taken up again after a crash makes exactly what it would have made.
    /// </summary>
    /// <param name="from">The first place in the run, from 0.</param>
    /// <param name="to">The last.</param>
    /// <param name="recipientId">Only this recipient's piece.</param>
    public IEnumerable<RunPiece> Pieces(
        RunRow run,
        long listId,
        IReadOnlyList<Column> columns,
        int from = 0,
        int to = int.MaxValue,
        long? recipientId = null
    )
    {
        using var c = database.Open();
        var since = new Dictionary<(long, long), string?>();
        foreach (
            var (recipient, column, old) in c.Query<(long, long, string?)>(
                "SELECT recipient_id, column_id, old FROM cell_change WHERE list_id = @listId AND id > @AsOfChange AND "
                    + "(@recipientId IS NULL OR recipient_id = @recipientId) ORDER BY id DESC",
                new
                {
                    listId,
                    run.AsOfChange,
                    recipientId,
                }
            )
        )
            since[(recipient, column)] = old;
        using var command = c.CreateCommand();
        command.CommandText =
            $"SELECT p.recipient_id, p.piece_number, p.position, p.serial, p.file_name, {RowTable.CellList(columns)} FROM run_piece "
            + $"p JOIN {RowTable.Name(listId)} r ON r.id = p.recipient_id WHERE p.run_id = $run AND p.position >= $from AND "
            + $"p.position <= $to{(recipientId is null ? "" : " AND p.recipient_id = $recipient")} ORDER BY p.position";
        if (recipientId is { } only)
            command.Parameters.AddWithValue("$recipient", only);
        command.Parameters.AddWithValue("$from", from);
        command.Parameters.AddWithValue("$to", to);
        command.Parameters.AddWithValue("$run", run.Id);
        using var reader = command.ExecuteReader();
        while (reader.Read())
        {
            var piece = new RunPiece(
                reader.GetInt64(0),
                reader.GetInt32(1),
                reader.GetInt32(2),
                reader.GetInt64(3),
                reader.IsDBNull(4) ? null : reader.GetString(4),
                RowTable.Cells(reader, 5, columns.Count)
            );
            if (since.Count > 0)
                for (var i = 0; i < columns.Count; i++)
                    if (since.TryGetValue((piece.RecipientId, columns[i].Id), out var old))
                        piece.Values[i] = old;
            yield return piece;
        }
    }

    /// <summary>True while a run that is not finished has a recipient's piece.</summary>
    internal static bool IsInRun(SqliteConnection c, long dropId, long recipientId) =>
        c.QuerySingle<bool>(
            $"SELECT EXISTS (SELECT 1 {InRunSql} AND u.drop_id = @dropId AND p.recipient_id = @recipientId)",
            new { dropId, recipientId }
        );

    /// <summary>Those of a drop whom an unfinished run still has before it.</summary>
    internal static HashSet<long> InRun(SqliteConnection c, long dropId) =>
        [.. c.Query<long>($"SELECT p.recipient_id {InRunSql} AND u.drop_id = @dropId", new { dropId })];

    /// <summary>Pieces that an unfinished run still has before it: a message that was refused or left out is done with, whatever becomes of
    /// the others.</summary>
    internal const string InRunSql = """
        FROM run_piece p JOIN run u ON u.id = p.run_id WHERE u.state IN ('queued', 'running', 'paused') AND p.printed_at IS NULL
            AND NOT EXISTS (SELECT 1 FROM run_mail m WHERE m.run_id = p.run_id AND m.recipient_id = p.recipient_id
                AND m.state IN ('refused', 'excluded'))
        """;

    /// <summary>The letters of a run that were changed for one recipient alone, as they were when it began.</summary>
    public static IReadOnlyDictionary<(long RecipientId, long DesignId), string> OwnLetters(SqliteConnection c, long runId) =>
        c.Query<(long, long, string)>("SELECT recipient_id, design_id, document_json FROM run_one_off WHERE run_id = @runId", new { runId })
            .ToDictionary(o => (o.Item1, o.Item2), o => o.Item3);

    /// <summary>True while a piece of work is still the one that makes a run: not where the run was paused, ended, or let go on by another
    /// piece of work since.</summary>
    public bool IsWorkOf(long runId, long jobId)
    {
        using var c = database.Open();
        return c.QuerySingle<bool>($"SELECT state = 'running' AND @jobId = {NewestWork} FROM run WHERE id = @runId", new { runId, jobId });
    }

    internal const string NewestWork = "(SELECT max(id) FROM job WHERE kind IN ('run', 'print', 'send') AND subject_id = run.id)";

    /// <summary>The state of a run.</summary>
    public RunState State(long runId)
    {
        using var c = database.Open();
        return RunStates.Read(c.QuerySingle<string>("SELECT state FROM run WHERE id = @runId", new { runId }));
    }

    /// <summary>The number of the piece at a place of the run, from 0; null where there is none.</summary>
    public int? PieceAt(long runId, int position)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<int?>(
            "SELECT piece_number FROM run_piece WHERE run_id = @runId AND position = @position",
            new { runId, position }
        );
    }

    /// <summary>A part of a run's pieces with where each is now.</summary>
    public (IReadOnlyList<RunPieceRow> Rows, int Total) PiecesOf(
        long runId,
        int offset,
        int limit,
        int? pieceNumber = null,
        MailState? mailState = null,
        string? code = null
    )
    {
        using var c = database.Open();
        var rows = c.Query<RunPieceRow>(
                """
                SELECT p.recipient_id, p.piece_number, p.position, p.file_name, p.printed_at, p.out_mask, d.tray, CASE
                    WHEN m.run_id IS NULL THEN d.run_id ELSE d.email_run_id END AS run_id, d.hold_reason,
                       CASE WHEN m.run_id IS NULL THEN d.mailed_on
                           ELSE d.emailed_on END AS mailed_on, m.state AS mail_state, m.words, m.next_at, m.sent_at, m.address, p.barcodes
                FROM run_piece p JOIN run u ON u.id = p.run_id JOIN drop_recipient d
                    ON d.drop_id = u.drop_id AND d.recipient_id = p.recipient_id LEFT JOIN run_mail m
                    ON m.run_id = p.run_id AND m.recipient_id = p.recipient_id
                WHERE p.run_id = @runId AND (@pieceNumber IS NULL OR p.piece_number = @pieceNumber) AND (@mailState IS NULL
                    OR m.state = @mailState) AND (@code IS NULL OR instr(replace(p.barcodes, ' ', ''), @code) > 0)
                    ORDER BY p.position LIMIT @limit OFFSET @offset
                """,
                new
                {
                    runId,
                    offset,
                    limit,
                    pieceNumber,
                    mailState = mailState?.ToString().ToLowerInvariant(),
                    code,
                }
            )
            .ToList();
        return (
            rows,
            (int)
                c.QuerySingle<long>(
                    "SELECT count(*) FROM run_piece p LEFT JOIN run_mail m ON m.run_id = p.run_id AND m.recipient_id = "
                        + "p.recipient_id WHERE p.run_id = @runId AND (@pieceNumber IS NULL OR p.piece_number = @pieceNumber) AND "
                        + "(@mailState IS NULL OR m.state = @mailState) AND (@code IS NULL OR instr(replace(p.barcodes, ' ', ''), "
                        + "@code) > 0)",
                    new
                    {
                        runId,
                        pieceNumber,
                        mailState = mailState?.ToString().ToLowerInvariant(),
                        code,
                    }
                )
        );
    }

    /// <summary>The runs whose files are older than so many days and still there.</summary>
    public IReadOnlyList<long> WithOldFiles(DateTimeOffset before)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<long>(
                "SELECT id FROM run WHERE state = 'done' AND output NOT IN ('print', 'email') AND files_gone_at IS NULL AND "
                    + "finished_at < @Stamp",
                new { Stamp = Actor.StampOf(before) }
            ),
        ];
    }

    /// <summary>Says that a run's files were removed, or that they are there again.</summary>
    public void FilesGone(long runId, string text, bool gone, Actor actor) =>
        database.Write(c =>
        {
            c.Execute("UPDATE run SET files_gone_at = @at WHERE id = @runId", new { runId, at = gone ? actor.Stamp : null });
            RunLog.Add(c, runId, text, actor.At);
        });

    /// <summary>Keeps what the barcodes of a run's pieces say.</summary>
    public void KeepBarcodes(long runId, IReadOnlyDictionary<int, IReadOnlyList<string>> byPiece)
    {
        if (byPiece.Count == 0)
            return;
        database.Write(c =>
        {
            using var update = c.CreateCommand();
            update.CommandText = "UPDATE run_piece SET barcodes = $codes WHERE run_id = $run AND piece_number = $piece";
            foreach (var name in (ReadOnlySpan<string>)["$codes", "$run", "$piece"])
                update.Parameters.AddWithValue(name, runId);
            foreach (var (piece, codes) in byPiece)
            {
                (update.Parameters[0].Value, update.Parameters[2].Value) = (string.Join('\n', codes), piece);
                update.ExecuteNonQuery();
                foreach (var code in codes)
                    c.Execute(
                        "INSERT OR IGNORE INTO piece_code (code, run_id, piece_number) VALUES (@code, @runId, @piece)",
                        new
                        {
                            code = Core.Returns.PieceCode.Stored(code),
                            runId,
                            piece,
                        }
                    );
            }
            return 0;
        });
    }
}
