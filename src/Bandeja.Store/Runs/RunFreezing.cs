using Bandeja.Core.Drops;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>Begins runs: everything that their pieces need is frozen in one transaction.</summary>
public sealed class RunFreezing(Database database)
{
    /// <summary>
    /// Begins a run: what it will make is frozen (who in which order, which version of the design, the values of this moment, the day), the
    /// version is sealed, and the work is queued, in one transaction. Two that begin the same at once make one run: the second is told.
    /// </summary>
    /// <exception cref="ConflictException">Nothing would be made, or it is not <paramref name="expected"/> pieces as was said.</exception>
    public RunRow Begin(
        long dropId,
        Func<PlanCandidate, bool> chosen,
        string notChosen,
        string chosenText,
        int? expected,
        DateOnly today,
        Actor actor,
        RunAsk? asked = null
    ) =>
        database.Write(c =>
        {
            var ask = asked ?? new();
            var drop = DropStore.Drop(c, dropId);
            ask.Guard?.Invoke(c);
            var email = ask.Output.IsMail();
            var plan = RunPlanning.Plan(c, dropId, chosen, notChosen, ask.Sort, ask.Reprints, null, email);
            if (plan.Pieces.Count == 0)
                throw new ConflictException(NobodyLeft(c, dropId, plan, ask.Reprints));
            if (expected is { } said && said != plan.Pieces.Count)
                throw new ConflictException(
                    $"The run would now have {plan.Pieces.Count:N0} pieces, not {said:N0}, "
                        + "because something changed. Review the numbers again."
                );
            ask.Refuse?.Invoke(plan);
            RunRow? source = null;
            if (ask.Reprints)
            {
                var sources = plan.Pieces.Select(p => p.RunId).Distinct().ToList();
                if (sources.Count > 1)
                    throw new ConflictException(
                        "These pieces were produced in runs "
                            + $"{string.Join(" and ", sources.Select(r => RunStore.Get(c, r!.Value).Number).Order())}. Each run makes its "
                            + "pieces again as they were, so reprint them one run after the other."
                    );
                source = RunStore.Get(c, sources[0]!.Value);
                var corrected = ask.Corrected is null
                    ? ask.CorrectedSince?.Invoke(c, source, [.. plan.Pieces.Select(p => p.RecipientId)]).Count ?? 0
                    : 0;
                if (corrected > 0)
                    throw new ConflictException(
                        $"{(corrected == 1 ? "1 of these recipients was" : $"{corrected:N0} of these recipients were")} corrected "
                            + $"since run {source.Number} produced {(corrected == 1 ? "the piece" : "their pieces")}. Choose whether "
                            + "to reprint the pieces as they were or with the corrections."
                    );
            }
            var asItWas = source is not null && ask.Corrected != true;
            var number = c.QuerySingle<long>("SELECT coalesce(max(number), 0) + 1 FROM run WHERE drop_id = @dropId", new { dropId });
            var runId = c.QuerySingle<long>(
                """
                INSERT INTO run (drop_id, number, state, pieces, pages, as_of_change, today, chosen, created_at, created_by, printer_json,
                    output, sort, settings_json, secret, frozen_json, reprint_of, corrected, device_id, account_id, not_before)
                VALUES (@dropId, @number, 'queued', @pieces, @pages, @asOf, @today, @chosenText, @Stamp, @Name, @printer, @Output, @Sort,
                    @SettingsJson, @Secret, @frozen, @reprintOf, @corrected, @DeviceId, @AccountId, @notBefore) RETURNING id
                """,
                new
                {
                    dropId,
                    number,
                    pieces = plan.Pieces.Count,
                    pages = plan.Pages,
                    asOf = asItWas ? source!.AsOfChange : ListStore.LastChange(c, drop.ListId),
                    today = source?.Today ?? today,
                    chosenText,
                    actor.Stamp,
                    actor.Name,
                    printer = ask.PrinterJson,
                    Output = ask.Output.Stored(),
                    ask.Sort,
                    ask.SettingsJson,
                    ask.Secret,
                    frozen = asItWas ? source!.FrozenJson : ask.FrozenJson,
                    reprintOf = source?.Id,
                    corrected = source is not null && !asItWas,
                    ask.DeviceId,
                    ask.AccountId,
                    notBefore = ask.NotBefore is { } when ? Actor.StampOf(when) : null,
                }
            );
            WriteDesigns(c, runId, drop, source, plan, ask);
            foreach (var mailer in source is null ? ask.Mailers ?? [] : [])
                MailerSerials.Give(c, mailer, plan.Pieces.Count, runId, actor);
            WritePieces(c, runId, drop, source, asItWas, plan, ask);
            FreezeDetails(c, runId, asItWas ? source : null, ask);
            c.Execute(
                source is null
                    ? "INSERT INTO run_one_off (run_id, recipient_id, design_id, document_json) SELECT @runId, o.recipient_id, "
                        + "o.design_id, o.document_json FROM one_off o JOIN run_piece p ON p.run_id = @runId AND p.recipient_id = "
                        + "o.recipient_id WHERE o.drop_id = @dropId"
                    : "INSERT INTO run_one_off (run_id, recipient_id, design_id, document_json) SELECT @runId, o.recipient_id, "
                        + "o.design_id, o.document_json FROM run_one_off o JOIN run_piece p ON p.run_id = @runId AND p.recipient_id = "
                        + "o.recipient_id WHERE o.run_id = @sourceId",
                new
                {
                    runId,
                    dropId,
                    sourceId = source?.Id,
                }
            );
            if (email)
                WriteMails(c, runId, drop, plan, ask);
            c.Execute(
                "INSERT INTO job (kind, subject_id, state, label, total, created_at, created_by, not_before) SELECT @kind, @runId, "
                    + "'queued', @label, @total, @Stamp, @Name, not_before FROM run WHERE id = @runId",
                new
                {
                    kind = new RunRow { Output = ask.Output }.Work,
                    runId,
                    label = $"Run {number} of {drop.CampaignName}, {drop.Name}",
                    total = plan.Pieces.Count,
                    actor.Stamp,
                    actor.Name,
                }
            );
            var again =
                source is null ? ""
                : asItWas ? $", reprinted as they were in run {source.Number}"
                : $", reprinted with corrections since run {source.Number}";
            RunLog.Add(
                c,
                runId,
                $"Started by {actor.Name}: {plan.Pieces.Count:N0} {(plan.Pieces.Count == 1 ? "piece" : "pieces")}, {chosenText}{again}.",
                actor.At
            );
            return RunStore.Get(c, runId);
        });

    static string NobodyLeft(SqliteConnection c, long dropId, RunPlan plan, bool reprints)
    {
        if (
            plan.Excluded.Any(l => l.Reason == RunPlan.InAnotherRun)
            && c.QueryFirstOrDefault<(long Number, string By)>(
                "SELECT number, created_by FROM run WHERE drop_id = @dropId AND state IN ('queued', 'running', 'paused') ORDER BY "
                    + "id DESC LIMIT 1",
                new { dropId }
            )
                is { By: not null } going
        )
            return $"No chosen recipients are Ready. They are in run {going.Number}, started by {going.By}.";
        return reprints
            ? "These pieces have not been produced, so there is nothing to reprint."
            : "No chosen recipients are Ready, so there is nothing to produce.";
    }

    static void WriteDesigns(SqliteConnection c, long runId, DropRow drop, RunRow? source, RunPlan plan, RunAsk ask)
    {
        if (source is not null)
        {
            var again = source.Designs.Where(d => ask.Only is null || ask.Only.Contains(d.DesignId)).ToList();
            if (again.Count == 0)
                throw new ConflictException($"Run {source.Number} did not include these designs, so there is nothing to reprint.");
            c.Execute(
                "INSERT INTO run_design (run_id, position, design_version_id, pages, start_json) VALUES (@runId, @position, "
                    + "@DesignVersionId, @pages, @start)",
                again.Select(
                    (d, i) =>
                        new
                        {
                            runId,
                            position = i + 1,
                            d.DesignVersionId,
                            pages = plan.Pages,
                            start = ask.Starts?.GetValueOrDefault(d.DesignId),
                        }
                )
            );
            return;
        }
        var position = 0;
        var counted = ask.Counted?.Invoke(plan);
        c.Execute("UPDATE run SET cents = @cents WHERE id = @runId", new { runId, cents = (long?)(counted?.Cost * 100) });
        foreach (var design in drop.Package.Where(d => ask.Makes is { } makes ? makes.Contains(d.DesignId) : !d.IsEmail))
        {
            var version = DesignStore.Newest(c, design.DesignId);
            c.Execute("UPDATE design_version SET sealed = 1 WHERE id = @Id", new { version.Id });
            c.Execute(
                "INSERT INTO run_design (run_id, position, design_version_id, pages, start_json) VALUES (@runId, @position, @Id, "
                    + "@pages, @start)",
                new
                {
                    runId,
                    position = ++position,
                    version.Id,
                    pages = counted?.Pages.GetValueOrDefault(design.DesignId) ?? plan.Pages,
                    start = ask.Starts?.GetValueOrDefault(design.DesignId),
                }
            );
        }
    }

    static void WritePieces(SqliteConnection c, long runId, DropRow drop, RunRow? source, bool asItWas, RunPlan plan, RunAsk ask)
    {
        var named =
            ask.NameOf is null && (asItWas || ask.AddresseeOf is null)
                ? null
                : DropStore
                    .Recipients(c, drop, RowTable.Columns(c, drop.ListId), [.. plan.Pieces.Select(p => p.RecipientId)])
                    .ToDictionary(r => r.Id);
        var former = source is null
            ? null
            : c.Query<(long Piece, long Serial, string? Name, string? Address)>(
                    "SELECT piece_number, serial, printed_name, printed_address FROM run_piece WHERE run_id = @Id",
                    new { source.Id }
                )
                .ToDictionary(p => p.Piece);
        using var insert = c.CreateCommand();
        insert.CommandText =
            "INSERT INTO run_piece (run_id, piece_number, recipient_id, position, serial, file_name, printed_name, printed_address) "
            + "VALUES ($run, $piece, $recipient, $position, $serial, $name, $printed, $address)";
        foreach (
            var name in (ReadOnlySpan<string>)["$run", "$piece", "$recipient", "$position", "$serial", "$name", "$printed", "$address"]
        )
            insert.Parameters.AddWithValue(name, DBNull.Value);
        insert.Parameters[0].Value = runId;
        for (var i = 0; i < plan.Pieces.Count; i++)
        {
            var p = plan.Pieces[i];
            var then = former?.GetValueOrDefault(p.PieceNumber);
            var (name, address) =
                asItWas ? (then?.Name, then?.Address)
                : ask.AddresseeOf is { } of ? of(named![p.RecipientId].Values)
                : (null, null);
            (insert.Parameters[1].Value, insert.Parameters[2].Value, insert.Parameters[3].Value, insert.Parameters[4].Value) = (
                p.PieceNumber,
                p.RecipientId,
                i,
                then?.Serial ?? i
            );
            insert.Parameters[5].Value = ask.NameOf is null ? DBNull.Value : ask.NameOf(named![p.RecipientId]);
            (insert.Parameters[6].Value, insert.Parameters[7].Value) = ((object?)name ?? DBNull.Value, (object?)address ?? DBNull.Value);
            insert.ExecuteNonQuery();
        }
    }

    /// <summary>Keeps the detail rows that a run prints as they are now; a reprint of pieces as they were has those of its
    /// source.</summary>
    static void FreezeDetails(SqliteConnection c, long runId, RunRow? source, RunAsk ask)
    {
        if (
            source is not null
            && c.Execute(
                "INSERT INTO run_detail SELECT @runId, d.recipient_id, d.position, d.rows_json FROM run_detail d JOIN run_piece p "
                    + "ON p.run_id = @runId AND p.recipient_id = d.recipient_id WHERE d.run_id = @Id",
                new { runId, source.Id }
            ) > 0
        )
            return;
        foreach (var (position, set) in ask.Details)
        {
            var cells = string.Join(", ", set.Columns.Select(x => RowTable.Cell(x.Id)));
            c.Execute(
                $"""
                INSERT OR IGNORE INTO run_detail (run_id, recipient_id, position, rows_json)
                SELECT @runId, recipient_id, @position, json_group_array(json_array({cells}))
                FROM (
                    SELECT d.* FROM {DetailStore.Table(set.Id)} d
                    JOIN run_piece p ON p.run_id = @runId AND p.recipient_id = d.recipient_id
                    ORDER BY d.recipient_id, d.n)
                GROUP BY recipient_id
                """,
                new { runId, position }
            );
        }
    }

    /// <summary>The detail rows of a run's recipient as they were frozen, by the position of their set.</summary>
    public static IReadOnlyDictionary<int, IReadOnlyList<string?[]>> FrozenDetails(SqliteConnection c, long runId, long recipientId) =>
        c.Query<(long Position, string Rows)>(
                "SELECT position, rows_json FROM run_detail WHERE run_id = @runId AND recipient_id = @recipientId",
                new { runId, recipientId }
            )
            .ToDictionary(
                d => (int)d.Position,
                d => (IReadOnlyList<string?[]>)System.Text.Json.JsonSerializer.Deserialize<string?[][]>(d.Rows)!
            );

    /// <summary>Each message gets its Message-ID and its link before anything is tried: whatever becomes of it can be told by
    /// them.</summary>
    static void WriteMails(SqliteConnection c, long runId, DropRow drop, RunPlan plan, RunAsk ask)
    {
        var named = DropStore
            .Recipients(c, drop, RowTable.Columns(c, drop.ListId), [.. plan.Pieces.Select(p => p.RecipientId)])
            .ToDictionary(r => r.Id);
        // Drawn at once: asked for message by message, the system's generator would take longer than writing.
        const int id = 8,
            token = 16;
        var drawn = System.Security.Cryptography.RandomNumberGenerator.GetBytes(plan.Pieces.Count * (id + token));
        string Random(int piece, int from, int bytes) => Convert.ToHexStringLower(drawn.AsSpan(piece * (id + token) + from, bytes));
        c.Execute(
            "INSERT INTO run_mail (run_id, recipient_id, position, message_id, token, state) VALUES (@runId, @id, @position, "
                + "@message, @token, 'waiting')",
            plan.Pieces.Select(
                (p, i) =>
                    new
                    {
                        runId,
                        id = p.RecipientId,
                        position = i,
                        message = $"{runId}.{p.PieceNumber:0000}.{Random(i, 0, id)}@"
                            + $"{ask.MessageIdOf?.Invoke(named[p.RecipientId]) ?? "bandeja.invalid"}",
                        token = Random(i, id, token),
                    }
            )
        );
    }
}
