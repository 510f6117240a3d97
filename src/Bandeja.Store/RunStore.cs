using System.Globalization;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>A run.</summary>
public sealed record RunRow
{
    public long Id { get; init; }
    public long DropId { get; init; }
    public long Number { get; init; }
    public string State { get; init; } = "";
    public long Pieces { get; init; }
    public long Pages { get; init; }
    public long AsOfChange { get; init; }
    public DateOnly Today { get; init; }
    public string Chosen { get; init; } = "";
    public string CreatedAt { get; init; } = "";
    public string CreatedBy { get; init; } = "";
    public string? FinishedAt { get; init; }
    public string? Message { get; init; }
    public long Waiting { get; init; }
    public long Mailed { get; init; }
    public long HeldBack { get; init; }
    public long CorrectedSince { get; init; }
    public long? JobId { get; init; }
    public string? PrinterJson { get; init; }
    /// <summary>What it makes, a file for each design of the package.</summary>
    public IReadOnlyList<RunDesign> Designs { get; init; } = [];
}

/// <summary>One file of a run.</summary>
public sealed record RunDesign
{
    public long RunId { get; init; }
    public long Position { get; init; }
    public long DesignId { get; init; }
    public string Name { get; init; } = "";
    public string Kind { get; init; } = "";
    public long DesignVersionId { get; init; }
    public long DesignVersion { get; init; }
    public string FileName { get; init; } = "";
    public long? FileSize { get; init; }
    public long Pages { get; init; }
    public string? StartJson { get; init; }
}

/// <summary>What a run is asked to make beside who.</summary>
/// <param name="Starts">For label sheets, by the design: where on the first sheet they begin, as JSON.</param>
/// <param name="PrinterJson">How the printer takes envelopes and sheets; null for none.</param>
/// <param name="Mailers">Mailer identifiers of the package's barcodes: each piece gets a serial number for each.</param>
/// <param name="Pages">How many pages or sheets each design comes to, where that is known before.</param>
public sealed record RunAsk(IReadOnlyDictionary<long, string>? Starts = null, string? PrinterJson = null, IReadOnlyList<string>? Mailers = null, IReadOnlyDictionary<long, int>? Pages = null);

/// <summary>One piece of a run with the values it is made with.</summary>
public sealed record RunPiece(long RecipientId, int PieceNumber, string?[] Values);

/// <summary>Runs: planned, frozen, made, recorded.</summary>
public sealed class RunStore(Database database)
{
    const string Sql = """
        SELECT run.*,
               (SELECT count(*) FROM drop_recipient WHERE drop_id = run.drop_id AND run_id = run.id AND mailed_on IS NULL AND hold_reason IS NULL) AS waiting,
               (SELECT count(*) FROM drop_recipient WHERE drop_id = run.drop_id AND run_id = run.id AND mailed_on IS NOT NULL) AS mailed,
               (SELECT count(*) FROM drop_recipient WHERE drop_id = run.drop_id AND run_id = run.id AND mailed_on IS NULL AND hold_reason IS NOT NULL) AS held_back,
               (SELECT count(DISTINCT ch.recipient_id) FROM mail_drop d JOIN cell_change ch ON ch.list_id = d.list_id AND ch.id > run.as_of_change
                  JOIN drop_recipient r ON r.drop_id = run.drop_id AND r.recipient_id = ch.recipient_id AND r.run_id = run.id AND r.mailed_on IS NULL WHERE d.id = run.drop_id) AS corrected_since,
               (SELECT max(id) FROM job WHERE kind = 'run' AND subject_id = run.id) AS job_id
        FROM run
        """;

    const string DesignsSql = """
        SELECT r.run_id, r.position, r.design_version_id, r.file_name, r.file_size, r.pages, r.start_json, v.number AS design_version, g.id AS design_id, g.name, g.kind
        FROM run_design r JOIN design_version v ON v.id = r.design_version_id JOIN design g ON g.id = v.design_id
        """;

    /// <summary>Days for which a serial number is not given out again (USPS-B-3200, section 2.1.4; Domestic Mail Manual 204.1.2).</summary>
    public const int SerialDays = 45;

    /// <summary>One run.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public RunRow Get(long runId)
    {
        using var c = database.Open();
        return Get(c, runId);
    }

    internal static RunRow Get(SqliteConnection c, long runId) =>
        (c.QuerySingleOrDefault<RunRow>(Sql + " WHERE run.id = @runId", new { runId }) ?? throw new NotFoundException("This run is not there.")) with
        {
            Designs = [.. c.Query<RunDesign>(DesignsSql + " WHERE r.run_id = @runId ORDER BY r.position", new { runId })],
        };

    /// <summary>A drop's runs, the newest first.</summary>
    public IReadOnlyList<RunRow> OfDrop(long dropId)
    {
        using var c = database.Open();
        var designs = c.Query<RunDesign>(DesignsSql + " WHERE r.run_id IN (SELECT id FROM run WHERE drop_id = @dropId) ORDER BY r.position", new { dropId }).ToLookup(d => d.RunId);
        return [.. c.Query<RunRow>(Sql + " WHERE run.drop_id = @dropId ORDER BY run.number DESC", new { dropId }).Select(r => r with { Designs = [.. designs[r.Id]] })];
    }

    /// <summary>Plans a run without beginning it.</summary>
    public RunPlan Plan(long dropId, Func<PlanCandidate, bool> chosen, string notChosen)
    {
        using var c = database.Open();
        return Plan(c, dropId, chosen, notChosen);
    }

    static RunPlan Plan(SqliteConnection c, long dropId, Func<PlanCandidate, bool> chosen, string notChosen)
    {
        DropStore.Drop(c, dropId);
        var candidates = c.Query<(long Id, long Piece, string Tray, long Pages, string? Hold, bool InRun)>("""
            SELECT d.recipient_id, d.piece_number, d.tray, d.pages, d.hold_reason,
                   EXISTS (SELECT 1 FROM run_piece p JOIN run u ON u.id = p.run_id WHERE p.recipient_id = d.recipient_id AND u.drop_id = d.drop_id AND u.state IN ('queued', 'running'))
            FROM drop_recipient d WHERE d.drop_id = @dropId
            """, new { dropId }).Select(r => new PlanCandidate(r.Id, (int)r.Piece, Enum.Parse<Tray>(r.Tray), (int)r.Pages, r.Hold, r.InRun)).ToList();
        return RunPlan.Of(candidates, chosen, notChosen);
    }

    /// <summary>
    /// Begins a run: what it will make is frozen (who, which version of the design, the values of this moment, the day), the
    /// version is sealed, and the work is queued, in one transaction.
    /// </summary>
    /// <exception cref="ConflictException">Nothing would be made, or it is not <paramref name="expected"/> pieces as was said.</exception>
    public RunRow Begin(long dropId, Func<PlanCandidate, bool> chosen, string notChosen, string chosenText, int? expected, DateOnly today, Actor actor, RunAsk? ask = null) => database.Write(c =>
    {
        var drop = DropStore.Drop(c, dropId);
        var plan = Plan(c, dropId, chosen, notChosen);
        if (plan.Pieces.Count == 0) throw new ConflictException("Nobody is Ready in what was chosen, so there is nothing to make.");
        if (expected is { } said && said != plan.Pieces.Count) throw new ConflictException($"It would now be {plan.Pieces.Count:N0} pieces, not {said:N0}: something changed meanwhile. Look at the numbers again.");
        var number = c.QuerySingle<long>("SELECT coalesce(max(number), 0) + 1 FROM run WHERE drop_id = @dropId", new { dropId });
        var runId = c.QuerySingle<long>("""
            INSERT INTO run (drop_id, number, state, pieces, pages, as_of_change, today, chosen, created_at, created_by, printer_json)
            VALUES (@dropId, @number, 'queued', @pieces, @pages, @asOf, @today, @chosenText, @Stamp, @Name, @printer) RETURNING id
            """, new { dropId, number, pieces = plan.Pieces.Count, pages = plan.Pages, asOf = ListStore.LastChange(c, drop.ListId), today, chosenText, actor.Stamp, actor.Name, printer = ask?.PrinterJson });
        var position = 0;
        foreach (var design in drop.Package)
        {
            var version = DesignStore.Newest(c, design.DesignId);
            c.Execute("UPDATE design_version SET sealed = 1 WHERE id = @Id", new { version.Id });
            // What a file holds stands in its name where the package has more than one.
            var what = drop.Package.Count == 1 ? "" : drop.Package.Count(d => d.Kind == design.Kind) == 1 ? $"-{design.Kind}" : $"-{design.Kind}-{position + 1}";
            c.Execute("INSERT INTO run_design (run_id, position, design_version_id, file_name, pages, start_json) VALUES (@runId, @position, @Id, @fileName, @pages, @start)",
                new { runId, position = ++position, version.Id, fileName = $"{Safe(drop.CampaignName)}-{Safe(drop.Name)}-run-{number}{what}.pdf", pages = ask?.Pages?.GetValueOrDefault(design.DesignId) ?? plan.Pages, start = ask?.Starts?.GetValueOrDefault(design.DesignId) });
        }
        foreach (var mailer in ask?.Mailers ?? []) GiveSerials(c, mailer, plan.Pieces.Count, runId, actor);
        using (var insert = c.CreateCommand())
        {
            insert.CommandText = "INSERT INTO run_piece (run_id, piece_number, recipient_id) VALUES ($run, $piece, $recipient)";
            insert.Parameters.AddWithValue("$run", runId);
            var piece = insert.Parameters.Add("$piece", SqliteType.Integer);
            var recipient = insert.Parameters.Add("$recipient", SqliteType.Integer);
            foreach (var p in plan.Pieces)
            {
                (piece.Value, recipient.Value) = (p.PieceNumber, p.RecipientId);
                insert.ExecuteNonQuery();
            }
        }
        c.Execute("INSERT INTO job (kind, subject_id, state, label, total, created_at, created_by) VALUES ('run', @runId, 'queued', @label, @total, @Stamp, @Name)",
            new { runId, label = $"Run {number} of {drop.CampaignName}, {drop.Name}", total = plan.Pieces.Count, actor.Stamp, actor.Name });
        return Get(c, runId);
    });

    /// <summary>Gives a run the next stretch of a mailer's serial numbers; they go round, and none comes again within <see cref="SerialDays"/> days.</summary>
    static void GiveSerials(SqliteConnection c, string mailer, int count, long runId, Actor actor)
    {
        var all = mailer.Length == 6 ? 1_000_000_000L : 1_000_000L;
        var last = c.QueryFirstOrDefault<(long First, long Count)>("SELECT first, count FROM mail_serial WHERE mailer = @mailer ORDER BY id DESC LIMIT 1", new { mailer });
        var since = (actor with { At = actor.At.AddDays(-SerialDays) }).Stamp;
        var taken = c.QuerySingle<long>("SELECT coalesce(sum(count), 0) FROM mail_serial WHERE mailer = @mailer AND at > @since", new { mailer, since });
        if (taken + count > all) throw new ConflictException($"The mailer identifier {mailer} has {all:N0} serial numbers, and {taken:N0} of them were given out in the last {SerialDays} days; {count:N0} more would repeat some.");
        c.Execute("INSERT INTO mail_serial (mailer, first, count, run_id, at) VALUES (@mailer, @first, @count, @runId, @Stamp)", new { mailer, first = (last.First + last.Count) % all, count, runId, actor.Stamp });
    }

    /// <summary>The first serial number of a run for each mailer identifier, and how many there are before they go round.</summary>
    public IReadOnlyDictionary<string, (long First, long All)> Serials(long runId)
    {
        using var c = database.Open();
        return c.Query<(string Mailer, long First)>("SELECT mailer, first FROM mail_serial WHERE run_id = @runId", new { runId }).ToDictionary(s => s.Mailer, s => (s.First, s.Mailer.Length == 6 ? 1_000_000_000L : 1_000_000L));
    }

    static string Safe(string name)
    {
        var safe = string.Join('-', name.ToLowerInvariant().Split([.. Path.GetInvalidFileNameChars(), ' ', '.', '\\', '/', ':', '*', '?', '"', '<', '>', '|'], StringSplitOptions.RemoveEmptyEntries));
        return safe.Length == 0 ? "drop" : safe[..Math.Min(safe.Length, 60)];
    }

    /// <summary>
    /// The pieces of a run in order, with the values of the moment it was begun: corrections made since are left out, so that a
    /// run taken up again after a crash makes exactly what it would have made.
    /// </summary>
    public IEnumerable<RunPiece> Pieces(RunRow run, long listId, IReadOnlyList<Column> columns)
    {
        using var c = database.Open();
        using var transaction = c.BeginTransaction(deferred: true); // one view of the data for the whole run
        var since = new Dictionary<(long, long), string?>();
        foreach (var (recipient, column, old) in c.Query<(long, long, string?)>("SELECT recipient_id, column_id, old FROM cell_change WHERE list_id = @listId AND id > @AsOfChange ORDER BY id DESC", new { listId, run.AsOfChange }))
            since[(recipient, column)] = old;
        using var command = c.CreateCommand();
        command.CommandText = $"SELECT p.recipient_id, p.piece_number, {RowTable.CellList(columns)} FROM run_piece p JOIN {RowTable.Name(listId)} r ON r.id = p.recipient_id WHERE p.run_id = $run ORDER BY p.piece_number";
        command.Parameters.AddWithValue("$run", run.Id);
        using var reader = command.ExecuteReader();
        while (reader.Read())
        {
            var piece = new RunPiece(reader.GetInt64(0), reader.GetInt32(1), RowTable.Cells(reader, 2, columns.Count));
            if (since.Count > 0)
                for (var i = 0; i < columns.Count; i++)
                    if (since.TryGetValue((piece.RecipientId, columns[i].Id), out var old)) piece.Values[i] = old;
            yield return piece;
        }
    }

    /// <summary>Says that the run is being made.</summary>
    public void Start(long runId) => database.Write(c => c.Execute("UPDATE run SET state = 'running' WHERE id = @runId AND state = 'queued'", new { runId }));

    /// <summary>Ends a run whose file is written: all its pieces are produced, in one transaction. Nobody is marked as mailed.</summary>
    /// <returns>False where the run was cancelled meanwhile; then nothing changes.</returns>
    public bool Complete(long runId, IReadOnlyList<(long Position, long FileSize, int Pages)> files, Actor actor) => database.Write(c =>
    {
        var run = Get(c, runId);
        if (run.State != "running") return false;
        var recipients = c.Query<long>("SELECT recipient_id FROM run_piece WHERE run_id = @runId ORDER BY piece_number", new { runId }).ToList();
        DropEvents.Append(c, run.DropId, [.. recipients.Select(r => (r, new DropEvent(DropEventKind.Produced, RunId: runId)))], actor, null);
        foreach (var (position, fileSize, pages) in files) c.Execute("UPDATE run_design SET file_size = @fileSize, pages = @pages WHERE run_id = @runId AND position = @position", new { runId, position, fileSize, pages });
        c.Execute("UPDATE run SET state = 'done', finished_at = @Stamp, pages = @pages WHERE id = @runId", new { actor.Stamp, pages = files.Sum(f => f.Pages), runId });
        c.Execute("UPDATE job SET state = 'done', done = total, finished_at = @Stamp WHERE kind = 'run' AND subject_id = @runId AND state IN ('queued', 'running')", new { actor.Stamp, runId });
        return true;
    });

    /// <summary>Ends a run without its pieces being made: they are where they were.</summary>
    public bool Stop(long runId, string state, string? message, Actor actor) => database.Write(c =>
        c.Execute("UPDATE run SET state = @state, finished_at = @Stamp, message = @message WHERE id = @runId AND state IN ('queued', 'running')", new { state, actor.Stamp, message, runId }) > 0);

    /// <summary>The ledger of a drop, or of all drops: a row for each piece.</summary>
    public IEnumerable<IReadOnlyList<string?>> Ledger(long? dropId)
    {
        using var c = database.Open();
        foreach (var id in dropId is { } one ? [one] : c.Query<long>("SELECT id FROM mail_drop ORDER BY id").ToList())
        {
            var drop = DropStore.Drop(c, id);
            var columns = RowTable.Columns(c, drop.ListId);
            var key = columns.ToList().FindIndex(x => x.Role == Role.Key);
            var runs = c.Query<(long Id, long Number, string? Finished, string Designs, string Versions)>("""
                SELECT run.id, run.number, run.finished_at,
                       (SELECT group_concat(name, ' + ') FROM (SELECT g.name FROM run_design r JOIN design_version v ON v.id = r.design_version_id JOIN design g ON g.id = v.design_id WHERE r.run_id = run.id ORDER BY r.position)),
                       (SELECT group_concat(number, ' + ') FROM (SELECT v.number FROM run_design r JOIN design_version v ON v.id = r.design_version_id WHERE r.run_id = run.id ORDER BY r.position))
                FROM run WHERE drop_id = @id
                """, new { id }).ToDictionary(r => r.Id);
            foreach (var r in DropStore.Recipients(c, drop, columns, null))
            {
                var label = RecipientLabel.Of(columns, i => r.Values[i]);
                var run = r.RunId is { } runId ? runs[runId] : default;
                yield return [drop.CampaignName, drop.Name, r.PieceNumber.ToString("0000", CultureInfo.InvariantCulture), key >= 0 ? r.Values[key] : null, label.Name, label.Place, r.RunId is null ? drop.DesignName : run.Designs,
                    r.RunId is null ? null : run.Versions, TrayName(r.Tray), r.RunId is null ? null : run.Number.ToString(CultureInfo.InvariantCulture), run.Finished,
                    r.MailedOn?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), r.ReturnReason, r.HoldReason];
            }
        }
    }

    /// <summary>The headings of <see cref="Ledger"/>.</summary>
    public static readonly IReadOnlyList<string> LedgerHeadings = ["Campaign", "Drop", "Piece", "Key", "Recipient", "Goes to", "Package", "Versions", "Tray", "Run", "Produced", "Mailed", "Returned", "Held"];

    static string TrayName(Tray tray) => tray == Tray.NeedsALook ? "Needs a look" : tray.ToString();
}
