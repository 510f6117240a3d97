using System.Globalization;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>Runs: planned, frozen, made, recorded.</summary>
public sealed class RunStore(Database database)
{
    const string Sql = """
        SELECT run.*,
               (SELECT count(*) FROM drop_recipient r WHERE r.drop_id = run.drop_id AND (r.run_id = run.id AND r.mailed_on IS NULL
                   OR r.email_run_id = run.id AND r.emailed_on IS NULL) AND r.hold_reason IS NULL) AS waiting,
               (SELECT count(*) FROM drop_recipient r WHERE r.drop_id = run.drop_id AND (r.run_id = run.id AND r.mailed_on IS NOT NULL
                   OR r.email_run_id = run.id AND r.emailed_on IS NOT NULL)) AS mailed,
               (SELECT count(*) FROM drop_recipient r WHERE r.drop_id = run.drop_id AND (r.run_id = run.id AND r.mailed_on IS NULL
                   OR r.email_run_id = run.id AND r.emailed_on IS NULL) AND r.hold_reason IS NOT NULL) AS held_back,
               (SELECT count(DISTINCT ch.recipient_id) FROM mail_drop d JOIN cell_change ch
                   ON ch.list_id = d.list_id AND ch.id > run.as_of_change
                  JOIN drop_recipient r ON r.drop_id = run.drop_id AND r.recipient_id = ch.recipient_id AND (r.run_id = run.id
                      AND r.mailed_on IS NULL OR r.email_run_id = run.id AND r.emailed_on IS NULL)
                      WHERE d.id = run.drop_id) AS corrected_since,
               (SELECT count(*) FROM run_piece WHERE run_id = run.id AND printed_at IS NOT NULL) AS printed,
               (SELECT number FROM run o WHERE o.id = run.reprint_of) AS reprint_of_number,
               (SELECT max(id) FROM job WHERE kind IN ('run', 'print', 'send', 'remake') AND subject_id = run.id) AS job_id
        FROM run
        """;

    const string DesignsSql = """
        SELECT r.run_id, r.position, r.design_version_id, r.pages, r.start_json, v.number AS design_version, g.id AS design_id, g.name,
            g.kind
        FROM run_design r JOIN design_version v ON v.id = r.design_version_id JOIN design g ON g.id = v.design_id
        """;

    const string FilesSql = "SELECT run_id, number, name, position, first_piece, last_piece, pages, size, sha256 FROM run_file";

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
        (
            c.QuerySingleOrDefault<RunRow>(Sql + " WHERE run.id = @runId", new { runId })
            ?? throw new NotFoundException("This run is not there.")
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
            .. c.Query<RunRow>(Sql + " WHERE run.drop_id = @dropId ORDER BY run.number DESC", new { dropId })
                .Select(r => r with { Designs = [.. designs[r.Id]], Files = [.. files[r.Id]] }),
        ];
    }

    /// <summary>Plans a run without beginning it.</summary>
    /// <param name="sort">The order: piece, postal, or columns' ids divided by commas.</param>
    /// <param name="home">The organisation's country, ISO 3166-1, by which pieces abroad are told; null where that does not matter.</param>
    /// <param name="email">True for emails, false for what is on paper.</param>
    public RunPlan Plan(
        long dropId,
        Func<PlanCandidate, bool> chosen,
        string notChosen,
        string sort = "piece",
        bool reprints = false,
        string? home = null,
        bool email = false
    )
    {
        using var c = database.Open();
        return Plan(c, dropId, chosen, notChosen, sort, reprints, home, email);
    }

    static RunPlan Plan(
        SqliteConnection c,
        long dropId,
        Func<PlanCandidate, bool> chosen,
        string notChosen,
        string sort,
        bool reprints,
        string? home,
        bool email
    )
    {
        var (wanted, otherWay) = email ? ("Email", "Goes on paper") : ("Paper", "Goes by email");
        var drop = DropStore.Drop(c, dropId);
        var columns = RowTable.Columns(c, drop.ListId);
        var country = columns.FirstOrDefault(x => x.Role == Role.Country);
        var abroad = new Dictionary<string, bool>();
        bool IsAbroad(string? value)
        {
            if (home is null || string.IsNullOrWhiteSpace(value))
                return false;
            // What is no country that is known here is not at home either: nobody pays too little because of a slip.
            if (!abroad.TryGetValue(value, out var known))
                abroad[value] = known = Core.Places.Countries.Named(value)?.Code != home;
            return known;
        }
        var doubts = PieceDoubts.Of(c, dropId);
        // Who gets the piece one way only must not get it the other way instead, while the first may have gone out.
        var candidates = c.Query<(
            long Id,
            long Piece,
            string Tray,
            long Pages,
            string? Hold,
            bool InRun,
            long? Run,
            string? Country,
            string Channel
        )>(
                $"""
                SELECT d.recipient_id, d.piece_number, d.tray, d.pages, d.hold_reason,
                       EXISTS (SELECT 1 {InRunSql} AND p.recipient_id = d.recipient_id AND u.drop_id = d.drop_id
                           AND (u.output IN ('email', 'eml', 'mbox')) = @email),
                       {(email ? "d.email_run_id" : "d.run_id")}, {(country is null ? "NULL" : "r." + RowTable.Cell(country.Id))}, d.channel
                FROM drop_recipient d JOIN {RowTable.Name(
                    drop.ListId
                )} r ON r.id = d.recipient_id WHERE d.drop_id = @dropId ORDER BY {OrderBy(columns, sort)}
                """,
                new { dropId, email },
                buffered: false
            )
            .Select(r => new PlanCandidate(
                r.Id,
                (int)r.Piece,
                Enum.Parse<Tray>(r.Tray),
                (int)r.Pages,
                r.Hold,
                r.InRun,
                r.Run,
                IsAbroad(r.Country),
                r.Channel == wanted || r.Channel == "Both" ? null : otherWay,
                doubts[r.Id].FirstOrDefault(d => d.Email == email || r.Channel != "Both")?.RunNumber
            ))
            .ToList();
        return RunPlan.Of(candidates, chosen, notChosen, reprints);
    }

    /// <summary>The order of a run's pieces in SQL; where it leaves two alike, their piece numbers decide.</summary>
    static string OrderBy(IReadOnlyList<Column> columns, string sort)
    {
        if (sort == "piece")
            return "d.piece_number";
        // Sorted as the post takes them: by country, then by postal code.
        var ids =
            sort == "postal"
                ? new[] { Role.Country, Role.PostalCode, Role.DeliveryPoint }
                    .Select(role => columns.FirstOrDefault(x => x.Role == role)?.Id)
                    .OfType<int>()
                : sort.Split(',').Select(s => int.TryParse(s.TrimStart('-'), out var id) ? id : 0);
        var by = ids.Select(id => columns.FirstOrDefault(x => x.Id == id)).OfType<Column>().ToList();
        if (by.Count == 0)
            throw new ConflictException(
                sort == "postal"
                    ? "The list has no column for the postal code to sort by."
                    : "The list has no such column (any more) to sort by."
            );
        string By(Column x)
        {
            var cell = $"r.{RowTable.Cell(x.Id)}";
            var down = sort.Split(',').Contains($"-{x.Id}") ? " DESC" : "";
            if (x.Role == Role.Country)
                return $"{RowTable.CountryKey(x.Id)} COLLATE NAMES{down}, ";
            return $"{cell} IS NULL, {(x.Type == ColumnType.Number ? $"CAST({cell} AS REAL)" : $"{cell} COLLATE NAMES")}{down}, ";
        }
        return string.Concat(by.Select(By)) + "d.piece_number";
    }

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
            var email = RunRow.IsEmailOutput(ask.Output);
            var plan = Plan(c, dropId, chosen, notChosen, ask.Sort, ask.Reprints, null, email);
            if (plan.Pieces.Count == 0)
                throw new ConflictException(NobodyLeft(c, dropId, plan, ask.Reprints));
            if (expected is { } said && said != plan.Pieces.Count)
                throw new ConflictException(
                    $"It would now be {plan.Pieces.Count:N0} pieces, not {said:N0}: something changed meanwhile. Look at the numbers again."
                );
            ask.Refuse?.Invoke(plan);
            RunRow? source = null;
            if (ask.Reprints)
            {
                var sources = plan.Pieces.Select(p => p.RunId).Distinct().ToList();
                if (sources.Count > 1)
                    throw new ConflictException(
                        "These pieces were made in runs "
                            + $"{string.Join(" and ", sources.Select(r => Get(c, r!.Value).Number).Order())}. Each run makes its "
                            + "pieces again as they were, so reprint them one run after the other."
                    );
                source = Get(c, sources[0]!.Value);
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
                    ask.Output,
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
                GiveSerials(c, mailer, plan.Pieces.Count, runId, actor);
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
                : $", reprinted with corrections made since run {source.Number}";
            Log(
                c,
                runId,
                $"{actor.Name} began it: {plan.Pieces.Count:N0} {(plan.Pieces.Count == 1 ? "piece" : "pieces")}, {chosenText}{again}.",
                actor.At
            );
            return Get(c, runId);
        });

    static string NobodyLeft(SqliteConnection c, long dropId, RunPlan plan, bool reprints)
    {
        if (
            plan.LeftOut.Any(l => l.Reason.StartsWith("In a run", StringComparison.Ordinal))
            && c.QueryFirstOrDefault<(long Number, string By)>(
                "SELECT number, created_by FROM run WHERE drop_id = @dropId AND state IN ('queued', 'running', 'paused') ORDER BY "
                    + "id DESC LIMIT 1",
                new { dropId }
            )
                is { By: not null } going
        )
            return $"Nobody is Ready in what was chosen: run {going.Number}, which {going.By} began, has them.";
        return reprints
            ? "None of these pieces was produced yet, so there is nothing to reprint."
            : "Nobody is Ready in what was chosen, so there is nothing to make.";
    }

    static void WriteDesigns(SqliteConnection c, long runId, DropRow drop, RunRow? source, RunPlan plan, RunAsk ask)
    {
        if (source is not null)
        {
            var again = source.Designs.Where(d => ask.Only is null || ask.Only.Contains(d.DesignId)).ToList();
            if (again.Count == 0)
                throw new ConflictException($"Run {source.Number} made none of these designs, so there is nothing of them to reprint.");
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
        var pages = ask.PagesOf?.Invoke(plan);
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
                    pages = pages?.GetValueOrDefault(design.DesignId) ?? plan.Pages,
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

    /// <summary>Each message gets its Message-ID and its link before anything is tried: whatever becomes of it can be told by
    /// them.</summary>
    static void WriteMails(SqliteConnection c, long runId, DropRow drop, RunPlan plan, RunAsk ask)
    {
        var named = DropStore
            .Recipients(c, drop, RowTable.Columns(c, drop.ListId), [.. plan.Pieces.Select(p => p.RecipientId)])
            .ToDictionary(r => r.Id);
        static string Random(int bytes) => Convert.ToHexStringLower(System.Security.Cryptography.RandomNumberGenerator.GetBytes(bytes));
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
                        message = $"{runId}.{p.PieceNumber:0000}.{Random(8)}@"
                            + $"{ask.MessageIdOf?.Invoke(named[p.RecipientId]) ?? "bandeja.invalid"}",
                        token = Random(16),
                    }
            )
        );
    }

    /// <summary>Gives a run the next stretch of a mailer's serial numbers; they go round, and none comes again within <see
    /// cref="SerialDays"/> days.</summary>
    static void GiveSerials(SqliteConnection c, string mailer, int count, long runId, Actor actor)
    {
        var all = mailer.Length == 6 ? 1_000_000_000L : 1_000_000L;
        var last = c.QueryFirstOrDefault<(long First, long Count)>(
            "SELECT first, count FROM mail_serial WHERE mailer = @mailer ORDER BY id DESC LIMIT 1",
            new { mailer }
        );
        var since = (actor with { At = actor.At.AddDays(-SerialDays) }).Stamp;
        var taken = c.QuerySingle<long>(
            "SELECT coalesce(sum(count), 0) FROM mail_serial WHERE mailer = @mailer AND at > @since",
            new { mailer, since }
        );
        if (taken + count > all)
            throw new ConflictException(
                $"The mailer identifier {mailer} has {all:N0} serial numbers, and {taken:N0} of them were given out in the last "
                    + $"{SerialDays} days; {count:N0} more would repeat some."
            );
        c.Execute(
            "INSERT INTO mail_serial (mailer, first, count, run_id, at) VALUES (@mailer, @first, @count, @runId, @Stamp)",
            new
            {
                mailer,
                first = (last.First + last.Count) % all,
                count,
                runId,
                actor.Stamp,
            }
        );
    }

    /// <summary>The first serial number of a run for each mailer identifier, and how many there are before they go round.</summary>
    public IReadOnlyDictionary<string, (long First, long All)> Serials(long runId)
    {
        using var c = database.Open();
        // A reprint has the numbers of the run that it repeats: it is the same piece of mail.
        return c.Query<(string Mailer, long First)>(
                "SELECT mailer, first FROM mail_serial WHERE run_id = (SELECT coalesce(reprint_of, id) FROM run WHERE id = @runId)",
                new { runId }
            )
            .ToDictionary(s => s.Mailer, s => (s.First, s.Mailer.Length == 6 ? 1_000_000_000L : 1_000_000L));
    }

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

    /// <summary>Pieces that an unfinished run still has before it: a message that was refused or left out is done with, whatever becomes of
    /// the others.</summary>
    const string InRunSql = """
        FROM run_piece p JOIN run u ON u.id = p.run_id WHERE u.state IN ('queued', 'running', 'paused') AND p.printed_at IS NULL
            AND NOT EXISTS (SELECT 1 FROM run_mail m WHERE m.run_id = p.run_id AND m.recipient_id = p.recipient_id
                AND m.state IN ('refused', 'left out'))
        """;

    /// <summary>The letters of a run that were changed for one recipient alone, as they were when it began.</summary>
    public static IReadOnlyDictionary<(long RecipientId, long DesignId), string> OwnLetters(SqliteConnection c, long runId) =>
        c.Query<(long, long, string)>("SELECT recipient_id, design_id, document_json FROM run_one_off WHERE run_id = @runId", new { runId })
            .ToDictionary(o => (o.Item1, o.Item2), o => o.Item3);

    /// <summary>Says that the run is being made.</summary>
    public void Start(long runId) =>
        database.Write(c =>
            c.Execute("UPDATE run SET state = 'running', message = NULL WHERE id = @runId AND state = 'queued'", new { runId })
        );

    /// <summary>True while a piece of work is still the one that makes a run: not where the run was paused, ended, or let go on by another
    /// piece of work since.</summary>
    public bool IsWorkOf(long runId, long jobId)
    {
        using var c = database.Open();
        return c.QuerySingle<bool>($"SELECT state = 'running' AND @jobId = {NewestWork} FROM run WHERE id = @runId", new { runId, jobId });
    }

    const string NewestWork = "(SELECT max(id) FROM job WHERE kind IN ('run', 'print', 'send') AND subject_id = run.id)";

    /// <summary>The state of a run.</summary>
    public string State(long runId)
    {
        using var c = database.Open();
        return c.QuerySingle<string>("SELECT state FROM run WHERE id = @runId", new { runId });
    }

    /// <summary>Stops a run for a while; its pieces stay with it.</summary>
    /// <exception cref="ConflictException">It is not being made.</exception>
    public void Pause(long runId, string why, Actor actor)
    {
        if (!PauseIfMade(runId, null, why, actor))
            throw new ConflictException("This run is not being made, so it cannot be paused.");
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
                        AND (@workId IS NULL OR @workId = {NewestWork})
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
            Log(c, runId, why, actor.At);
            return true;
        });

    /// <summary>Lets a paused run go on.</summary>
    /// <exception cref="ConflictException">It is not paused.</exception>
    public void Resume(long runId, string text, Actor actor) =>
        database.Write(c =>
        {
            if (c.Execute("UPDATE run SET state = 'queued', message = NULL WHERE id = @runId AND state = 'paused'", new { runId }) == 0)
                throw new ConflictException("This run is not paused.");
            var run = Get(c, runId);
            c.Execute(
                "INSERT INTO job (kind, subject_id, state, label, done, total, created_at, created_by) SELECT @kind, id, 'queued', "
                    + "@label, @Printed, pieces, @Stamp, @Name FROM run WHERE id = @runId",
                new
                {
                    kind = run.Work,
                    runId,
                    label = $"Run {run.Number}, going on",
                    run.Printed,
                    actor.Stamp,
                    actor.Name,
                }
            );
            Log(c, runId, text, actor.At);
        });

    /// <summary>Ends a run whose files are written: all its pieces are produced, or reprinted, in one transaction. Nobody is marked as
    /// mailed.</summary>
    /// <returns>False where the run was cancelled or paused meanwhile; then nothing changes.</returns>
    public bool Complete(long runId, IReadOnlyList<RunFile> files, Actor actor) =>
        database.Write(c =>
        {
            var run = Get(c, runId);
            if (run.State != "running")
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
            Log(
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
    public bool Stop(long runId, string state, string? message, Actor actor) =>
        database.Write(c =>
        {
            if (
                c.Execute(
                    "UPDATE run SET state = @state, finished_at = @Stamp, message = @message WHERE id = @runId AND state IN "
                        + "('queued', 'running', 'paused')",
                    new
                    {
                        state,
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
            Log(c, runId, state == "cancelled" ? $"Cancelled by {actor.Name}." : $"It did not work: {message}", actor.At);
            return true;
        });

    /// <summary>Writes a line of a run's log, for people.</summary>
    public static void Log(SqliteConnection c, long runId, string text, DateTimeOffset at) =>
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
    public void Log(long runId, string text, DateTimeOffset at) => database.Write(c => Log(c, runId, text, at));

    /// <summary>Says what is in a run's way; null where nothing is any more.</summary>
    public void Say(long runId, string? message) =>
        database.Write(c => c.Execute("UPDATE run SET message = @message WHERE id = @runId AND state = 'running'", new { runId, message }));

    /// <summary>The number of the piece at a place of the run, from 0; null where there is none.</summary>
    public int? PieceAt(long runId, int position)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<int?>(
            "SELECT piece_number FROM run_piece WHERE run_id = @runId AND position = @position",
            new { runId, position }
        );
    }

    /// <summary>What happened in a run, the oldest first.</summary>
    public IReadOnlyList<RunLogLine> LogOf(long runId)
    {
        using var c = database.Open();
        return [.. c.Query<RunLogLine>("SELECT id, at, text FROM run_log WHERE run_id = @runId ORDER BY id", new { runId })];
    }

    /// <summary>A part of a run's pieces with where each is now.</summary>
    public (IReadOnlyList<RunPieceRow> Rows, int Total) PiecesOf(
        long runId,
        int offset,
        int limit,
        int? pieceNumber = null,
        string? mailState = null,
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
                    mailState,
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
                        mailState,
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
            Log(c, runId, text, actor.At);
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
            }
            return 0;
        });
    }

    /// <summary>The ledger of a drop, or of all drops: a row for each piece.</summary>
    public IEnumerable<IReadOnlyList<string?>> Ledger(long? dropId)
    {
        using var c = database.Open();
        foreach (var id in dropId is { } one ? [one] : c.Query<long>("SELECT id FROM mail_drop ORDER BY id").ToList())
        {
            var drop = DropStore.Drop(c, id);
            var columns = RowTable.Columns(c, drop.ListId);
            var key = columns.ToList().FindIndex(x => x.Role == Role.Key);
            var runs = c.Query<(long Id, long Number, string? Finished, string Designs, string Versions)>(
                    """
                    SELECT run.id, run.number, run.finished_at,
                           (SELECT group_concat(name, ' + ') FROM (SELECT g.name FROM run_design r JOIN design_version v
                               ON v.id = r.design_version_id JOIN design g ON g.id = v.design_id WHERE r.run_id = run.id
                               ORDER BY r.position)),
                           (SELECT group_concat(number, ' + ') FROM (SELECT v.number FROM run_design r JOIN design_version v
                               ON v.id = r.design_version_id WHERE r.run_id = run.id ORDER BY r.position))
                    FROM run WHERE drop_id = @id
                    """,
                    new { id }
                )
                .ToDictionary(r => r.Id);
            var reprints = c.Query<(long Recipient, string Runs)>(
                    "SELECT recipient_id, group_concat(number, ', ') FROM (SELECT e.recipient_id, u.number FROM drop_event e JOIN "
                        + "run u ON u.id = e.run_id WHERE e.drop_id = @id AND e.kind = 'Reprinted' ORDER BY e.id) GROUP BY recipient_id",
                    new { id }
                )
                .ToDictionary(r => r.Recipient, r => r.Runs);
            var addresses = c.Query<(long Run, long Recipient, string? Address)>(
                    "SELECT m.run_id, m.recipient_id, m.address FROM run_mail m JOIN run u ON u.id = m.run_id WHERE u.drop_id = @id",
                    new { id }
                )
                .ToDictionary(m => (m.Run, m.Recipient), m => m.Address);
            var email = columns.ToList().FindIndex(x => x.Role == Role.Email);
            // What stood on the piece that went out, whatever is corrected later; the last reprint counts.
            var printed = c.Query<(long Recipient, bool Email, string? Name, string? Address)>(
                    "SELECT p.recipient_id, u.output IN ('email', 'eml', 'mbox'), p.printed_name, p.printed_address FROM run_piece "
                        + "p JOIN run u ON u.id = p.run_id WHERE u.drop_id = @id AND p.printed_at IS NOT NULL AND p.printed_name IS "
                        + "NOT NULL ORDER BY p.printed_at, u.id",
                    new { id }
                )
                .GroupBy(p => (p.Recipient, p.Email))
                .ToDictionary(g => g.Key, g => (g.Last().Name, g.Last().Address));
            var codes = c.Query<(long Run, long Recipient, string Codes)>(
                    "SELECT p.run_id, p.recipient_id, p.barcodes FROM run_piece p JOIN run u ON u.id = p.run_id WHERE u.drop_id = "
                        + "@id AND p.barcodes IS NOT NULL",
                    new { id }
                )
                .ToDictionary(p => (p.Run, p.Recipient), p => p.Codes.Replace("\n", "; "));
            var history = c.Query<(long Recipient, string Kind, string At, string By, string? Note, long? Run, string? Date)>(
                    "SELECT e.recipient_id, e.kind, e.at, e.by, e.note, u.number, e.date FROM drop_event e LEFT JOIN run u ON u.id "
                        + "= e.run_id WHERE e.drop_id = @id AND e.kind <> 'Checked' ORDER BY e.id",
                    new { id }
                )
                .ToLookup(e => e.Recipient);
            string Designs(bool mail) => string.Join(" + ", drop.Package.Where(p => p.IsEmail == mail).Select(p => p.Name));
            foreach (var r in DropStore.Recipients(c, drop, columns, null))
            {
                var label = RecipientLabel.Of(columns, i => r.Values[i]);
                var happened = string.Join("; ", history[r.Id].Select(e => LedgerHistory.Words(e.Kind, e.At, e.By, e.Note, e.Run, e.Date)));
                var back = string.Join(
                    "; ",
                    history[r.Id]
                        .Where(e => LedgerHistory.IsBackToReady(e.Kind))
                        .Select(e => LedgerHistory.Words(e.Kind, e.At, e.By, e.Note, e.Run, e.Date))
                );
                // A piece each: who gets paper and email has two. What went out another way than it would go now is told, too.
                foreach (var mail in (bool[])[false, true])
                {
                    if (
                        !r.Channel.HasFlag(mail ? Core.Mail.Channel.Email : Core.Mail.Channel.Paper)
                        && (mail ? r.EmailRunId : r.RunId) is null
                    )
                        continue;
                    var runId = mail ? r.EmailRunId : r.RunId;
                    var run = runId is { } made ? runs[made] : default;
                    var then = runId is null ? default : printed.GetValueOrDefault((r.Id, mail));
                    var goesTo = !mail
                        ? then.Address ?? label.Place
                        : (runId is { } sent ? addresses.GetValueOrDefault((sent, r.Id)) : null) ?? (email >= 0 ? r.Values[email] : null);
                    yield return
                    [
                        drop.CampaignName,
                        drop.Name,
                        r.PieceNumber.ToString("0000", CultureInfo.InvariantCulture),
                        key >= 0 ? r.Values[key] : null,
                        then.Name ?? label.Name,
                        mail ? "Email" : "Paper",
                        goesTo,
                        runId is null ? Designs(mail) : run.Designs,
                        runId is null ? null : run.Versions,
                        TrayName(r.Tray),
                        runId is null ? null : run.Number.ToString(CultureInfo.InvariantCulture),
                        run.Finished,
                        mail ? null : reprints.GetValueOrDefault(r.Id),
                        (mail ? r.EmailedOn : r.MailedOn)?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                        r.ReturnReason,
                        r.HoldReason,
                        r.InDoubt.FirstOrDefault(d => d.Email == mail) is { } doubt
                            ? $"May have been {(mail ? "sent" : "printed")} in run {doubt.RunNumber}"
                            : null,
                        runId is { } coded ? codes.GetValueOrDefault((coded, r.Id)) : null,
                        back.Length == 0 ? null : back,
                        happened.Length == 0 ? null : happened,
                    ];
                }
            }
        }
    }

    /// <summary>The headings of <see cref="Ledger"/>.</summary>
    public static readonly IReadOnlyList<Column> LedgerHeadings =
    [
        .. new[]
        {
            "Campaign",
            "Drop",
            "Piece",
            "Key",
            "Recipient",
            "Goes by",
            "Goes to",
            "Package",
            "Versions",
            "Tray",
            "Run",
            "Produced",
            "Reprinted in run",
            "Mailed",
            "Returned",
            "Held",
            "In doubt",
            "Barcodes",
            "Back to Ready",
            "History",
        }.Select(
            (h, i) =>
                new Column(
                    i + 1,
                    h,
                    h switch
                    {
                        "Run" => ColumnType.Number,
                        "Mailed" => ColumnType.Date,
                        _ => ColumnType.Text,
                    },
                    Role.None
                )
        ),
    ];

    static string TrayName(Tray tray) => tray == Tray.NeedsALook ? "Needs a look" : tray.ToString();
}
