using Bandeja.Core.Composition;
using Bandeja.Core.Contact;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Drops;

/// <summary>Campaigns, drops, and who stands where in them.</summary>
public sealed class DropStore(Database database)
{
    const string DropSql = """
        SELECT d.id, d.campaign_id, k.name AS campaign_name, d.number, d.name, d.list_id, l.name AS list_name, (SELECT group_concat(name,
            ' + ') FROM (SELECT g.name FROM drop_design p JOIN design g ON g.id = p.design_id WHERE p.drop_id = d.id
            ORDER BY p.position)) AS design_name, d.mail_date, d.checked_mark, d.check_error, d.check_error_mark, d.changes, d.created_at,
            d.segment_id, s.name AS segment_name, d.needs_sign_off, d.channel_by, d.channel_column, d.step_id, d.collects_on,
            d.priority
        FROM mail_drop d JOIN campaign k ON k.id = d.campaign_id JOIN list l ON l.id = d.list_id LEFT JOIN segment s ON s.id = d.segment_id
        """;

    /// <summary>All drops, in the order of their campaigns and numbers.</summary>
    public IReadOnlyList<DropRow> Drops()
    {
        using var c = database.Open();
        var packages = c.Query<(long Drop, long Id, string Name, string Kind)>(PackageSql + " ORDER BY p.drop_id, p.position")
            .ToLookup(p => p.Drop, p => new PackageDesign(p.Id, p.Name, PieceKinds.Read(p.Kind)));
        return
        [
            .. c.Query<DropRow>(DropSql + " ORDER BY d.campaign_id DESC, d.number").Select(d => d with { Package = [.. packages[d.Id]] }),
        ];
    }

    /// <summary>One drop.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public DropRow Drop(long dropId)
    {
        using var c = database.Open();
        return Drop(c, dropId);
    }

    /// <inheritdoc cref="Drop(long)"/>
    public static DropRow Drop(SqliteConnection c, long dropId) =>
        (
            c.QuerySingleOrDefault<DropRow>(DropSql + " WHERE d.id = @dropId", new { dropId })
            ?? throw new NotFoundException("This drop no longer exists.")
        ) with
        {
            Package =
            [
                .. c.Query<(long Drop, long Id, string Name, string Kind)>(
                        PackageSql + " WHERE p.drop_id = @dropId ORDER BY p.position",
                        new { dropId }
                    )
                    .Select(p => new PackageDesign(p.Id, p.Name, PieceKinds.Read(p.Kind))),
            ],
        };

    const string PackageSql = "SELECT p.drop_id, p.design_id, g.name, g.kind FROM drop_design p JOIN design g ON g.id = p.design_id";

    /// <summary>What a drop sends: other designs than before, from now on. What was produced stays as it was.</summary>
    /// <exception cref="ConflictException">A run is being made.</exception>
    public void SetPackage(long dropId, IReadOnlyList<long> designIds) =>
        database.Write(c =>
        {
            Drop(c, dropId);
            if (
                c.QuerySingle<bool>(
                    "SELECT EXISTS (SELECT 1 FROM run WHERE drop_id = @dropId AND state IN ('queued', 'running', 'paused'))",
                    new { dropId }
                )
            )
                throw new ConflictException(
                    "A run of this drop is in progress. Wait until it is done or cancel it, then change the package."
                );
            c.Execute("DELETE FROM drop_design WHERE drop_id = @dropId", new { dropId });
            WritePackage(c, dropId, designIds);
            // What a step mails is what its drop does; one by one, a drop of one day may be another.
            c.Execute(
                """
                UPDATE campaign_step SET designs = @designs
                WHERE id = (SELECT step_id FROM mail_drop WHERE id = @dropId AND collects_on IS NULL)
                """,
                new { dropId, designs = System.Text.Json.JsonSerializer.Serialize(designIds) }
            );
        });

    /// <summary>Writes a package: letters first, then envelopes, then labels, as they are put together by hand; emails last.</summary>
    internal static void WritePackage(SqliteConnection c, long dropId, IReadOnlyList<long> designIds)
    {
        if (designIds.Count == 0)
            throw new ConflictException("A package needs at least one design: a letter, envelope, label sheet, or email.");
        if (designIds.Distinct().Count() != designIds.Count)
            throw new ConflictException("The same design is in the package twice.");
        if (designIds.Count > 8)
            throw new ConflictException("A package can have up to 8 designs.");
        var kinds = designIds
            .Select(id =>
                (
                    id,
                    Kind: PieceKinds.Read(
                        c.QuerySingleOrDefault<string?>("SELECT kind FROM design WHERE id = @id", new { id })
                            ?? throw new NotFoundException("This design no longer exists.")
                    )
                )
            )
            .ToList();
        if (kinds.GroupBy(k => k.Kind).FirstOrDefault(k => k.Key.Rules().IsOnlyOne && k.Count() > 1) is { Key: var twice })
            throw new ConflictException($"A package can have only one {twice.Rules().Word}: two would reach the same person twice.");
        var position = 0;
        foreach (var (designId, _) in kinds.OrderBy(k => k.Kind))
            c.Execute(
                "INSERT INTO drop_design (drop_id, position, design_id) VALUES (@dropId, @position, @designId)",
                new
                {
                    dropId,
                    position = ++position,
                    designId,
                }
            );
    }

    /// <summary>
    /// Makes a drop: everybody on the list joins it and gets a piece number, in the order of the list. Whom the segment leaves out,
    /// whom a suppression list names and whom a household's piece reaches is held, so that the trays add up to the list and say why.
    /// </summary>
    public long CreateDrop(
        long campaignId,
        string name,
        long listId,
        IReadOnlyList<long> designIds,
        DateOnly? mailDate,
        Actor actor,
        long? segmentId = null,
        ListSurroundings? surroundings = null
    ) =>
        database.Write(c =>
        {
            if (segmentId is { } segment && SegmentStore.Get(c, segment).ListId != listId)
                throw new ConflictException("This segment belongs to another list.");
            if (c.QuerySingleOrDefault<long?>("SELECT id FROM campaign WHERE id = @campaignId", new { campaignId }) is null)
                throw new NotFoundException("This campaign no longer exists.");
            var list = ListStore.Get(c, listId);
            var dropId = c.QuerySingle<long>(
                """
                INSERT INTO mail_drop (campaign_id, number, name, list_id, mail_date, created_at, created_by, segment_id, priority)
                VALUES (@campaignId, (SELECT coalesce(max(number), 0) + 1 FROM mail_drop
                    WHERE campaign_id = @campaignId), @name, @listId, @mailDate, @Stamp, @Name, @segmentId,
                    coalesce((SELECT priority FROM mail_drop WHERE campaign_id = @campaignId ORDER BY number DESC LIMIT 1), 'Usual'))
                RETURNING id
                """,
                new
                {
                    campaignId,
                    name,
                    listId,
                    mailDate,
                    actor.Stamp,
                    actor.Name,
                    segmentId,
                }
            );
            WritePackage(c, dropId, designIds);
            c.Execute(
                $"""
                INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray)
                    SELECT @dropId, id, row_number() OVER (ORDER BY n), 'Ready' FROM {RowTable.Name(
                    listId
                )} WHERE gone IS NULL;
                INSERT INTO drop_event (drop_id, recipient_id, kind, at, by) SELECT @dropId, recipient_id, 'Joined', @Stamp, @Name
                    FROM drop_recipient WHERE drop_id = @dropId ORDER BY piece_number;
                """,
                new
                {
                    dropId,
                    actor.Stamp,
                    actor.Name,
                }
            );
            if (surroundings is not null)
                AutoHolds.Sweep(c, dropId, null, surroundings, actor);
            return dropId;
        });

    /// <summary>Makes a drop in which pieces of another are mailed again: who is in it is put into it one by one.</summary>
    internal static long CreateRemail(SqliteConnection c, DropRow of, IReadOnlyList<long> designIds, Actor actor)
    {
        var dropId = c.QuerySingle<long>(
            """
            INSERT INTO mail_drop (campaign_id, number, name, list_id, created_at, created_by, remails, priority)
            VALUES (@CampaignId, (SELECT max(number) + 1 FROM mail_drop WHERE campaign_id = @CampaignId), @name, @ListId, @Stamp,
                @Name, @Id, @Priority)
            RETURNING id
            """,
            new
            {
                of.CampaignId,
                name = $"{of.Name}, mailed again",
                of.ListId,
                actor.Stamp,
                actor.Name,
                of.Id,
                of.Priority,
            }
        );
        WritePackage(c, dropId, designIds);
        return dropId;
    }

    /// <summary>The campaign that single letters are recorded under.</summary>
    public const string SingleLetters = "Single letters";

    /// <summary>Makes a drop for one recipient alone, under <see cref="SingleLetters"/>.</summary>
    /// <exception cref="NotFoundException">They are not on the list.</exception>
    public long CreateSingle(long listId, long recipientId, IReadOnlyList<long> designIds, ListSurroundings surroundings, Actor actor) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            var columns = RowTable.Columns(c, listId);
            var values =
                RowTable.Values(c, columns, listId, recipientId, onTheList: true)
                ?? throw new NotFoundException("This recipient is " + "no longer on the list.");
            var name = $"To {RecipientLabel.Of(columns, i => values[i]).Name}";
            var campaign =
                c.QueryFirstOrDefault<long?>(
                    "SELECT id FROM campaign WHERE name = @SingleLetters AND mode = 'Drops' ORDER BY id",
                    new { SingleLetters }
                )
                ?? c.QuerySingle<long>(
                    "INSERT INTO campaign (name, created_at, created_by) VALUES (@SingleLetters, @Stamp, @Name) RETURNING id",
                    new
                    {
                        SingleLetters,
                        actor.Stamp,
                        actor.Name,
                    }
                );
            var dropId = c.QuerySingle<long>(
                """
                INSERT INTO mail_drop (campaign_id, number, name, list_id, mail_date, created_at, created_by, single, priority)
                VALUES (@campaign, (SELECT coalesce(max(number), 0) + 1 FROM mail_drop WHERE campaign_id = @campaign), @name, @listId,
                    @Today,
                    @Stamp, @Name, 1, 'Always') RETURNING id
                """,
                new
                {
                    campaign,
                    name,
                    listId,
                    surroundings.Today,
                    actor.Stamp,
                    actor.Name,
                }
            );
            WritePackage(c, dropId, designIds);
            Add(c, dropId, recipientId, surroundings, actor);
            return dropId;
        });

    /// <summary>Puts a recipient into a drop, with the next piece number.</summary>
    internal static void Add(SqliteConnection c, long dropId, long recipientId, ListSurroundings surroundings, Actor actor)
    {
        c.Execute(
            "INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray) VALUES (@dropId, @recipientId, (SELECT "
                + "coalesce(max(piece_number), 0) + 1 FROM drop_recipient WHERE drop_id = @dropId), 'Ready')",
            new { dropId, recipientId }
        );
        DropEvents.Append(c, dropId, [(recipientId, new(DropEventKind.Joined))], actor, null);
        c.Execute("UPDATE mail_drop SET changes = changes + 1 WHERE id = @dropId", new { dropId });
        AutoHolds.Sweep(c, dropId, [recipientId], surroundings, actor);
    }

    /// <summary>Says who of a drop gets their pieces in which way. What is made already stays as it was.</summary>
    /// <exception cref="ConflictException">The column is not one of the list's, or a run is being made.</exception>
    public void SetChannels(long dropId, ChannelRule rule) =>
        database.Write(c =>
        {
            var drop = Drop(c, dropId);
            if (
                c.QuerySingle<bool>(
                    "SELECT EXISTS (SELECT 1 FROM run WHERE drop_id = @dropId AND state IN ('queued', 'running', 'paused'))",
                    new { dropId }
                )
            )
                throw new ConflictException(
                    "A run of this drop is in progress. Wait until it is done or cancel it, then change the channels."
                );
            if (rule.By == Core.Mail.ChannelBy.Column && rule.Position(RowTable.Columns(c, drop.ListId)) < 0)
                throw new ConflictException("This column is no longer in the list.");
            c.Execute(
                "UPDATE mail_drop SET channel_by = @by, channel_column = @ColumnId WHERE id = @dropId",
                new
                {
                    by = rule.By.ToString(),
                    rule.ColumnId,
                    dropId,
                }
            );
        });

    /// <summary>How many recipients get their pieces in which way, and how many of them are Ready.</summary>
    public IReadOnlyList<ChannelCount> Channels(long dropId)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<ChannelCount>(
                "SELECT channel, count(*) AS recipients, sum(tray = 'Ready') AS ready, sum(channel_by_hand) AS by_hand FROM "
                    + "drop_recipient WHERE drop_id = @dropId AND tray <> 'Held' GROUP BY channel ORDER BY channel",
                new { dropId }
            ),
        ];
    }

    /// <summary>Changes a drop's name, its mail date, or whether it must be signed off before it is produced.</summary>
    /// <param name="mailDate">Null to leave it as it is.</param>
    /// <param name="noMailDate">True to clear it.</param>
    public void Change(long dropId, string? name, DateOnly? mailDate, bool? needsSignOff = null, bool noMailDate = false) =>
        database.Write(c =>
        {
            Drop(c, dropId);
            c.Execute(
                "UPDATE mail_drop SET name = coalesce(@name, name), mail_date = CASE WHEN @noMailDate THEN NULL ELSE "
                    + "coalesce(@mailDate, mail_date) END, needs_sign_off = coalesce(@needsSignOff, needs_sign_off) WHERE id = @dropId",
                new
                {
                    dropId,
                    name,
                    mailDate,
                    needsSignOff,
                    noMailDate,
                }
            );
        });

    /// <summary>Sets which of two drops goes where a contact limit lets only one go; drops that its campaign gets later have the
    /// same.</summary>
    public void SetPriority(long dropId, MailPriority priority) =>
        database.Write(c =>
        {
            Drop(c, dropId);
            c.Execute("UPDATE mail_drop SET priority = @priority WHERE id = @dropId", new { dropId, priority = priority.ToString() });
        });

    /// <summary>The campaign whose step a drop is; null for a drop that was started by hand.</summary>
    public long? CampaignOfStep(long dropId)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<long?>(
            "SELECT campaign_id FROM mail_drop WHERE id = @dropId AND step_id IS NOT NULL",
            new { dropId }
        );
    }

    /// <summary>How many are in each tray; trays without anybody are there with 0.</summary>
    public IReadOnlyDictionary<Tray, int> Trays(long dropId)
    {
        using var c = database.Open();
        return Trays(c, dropId);
    }

    /// <summary>The last day on which pieces of a drop were mailed, or null.</summary>
    public DateOnly? LastMailedOn(long dropId)
    {
        using var c = database.Open();
        return c.QueryFirstOrDefault<DateOnly?>(
            "SELECT max(coalesce(mailed_on, ''), coalesce(emailed_on, '')) AS last FROM drop_recipient WHERE drop_id = @dropId AND "
                + "(mailed_on IS NOT NULL OR emailed_on IS NOT NULL) ORDER BY last DESC LIMIT 1",
            new { dropId }
        );
    }

    /// <summary>How full the trays of drops are.</summary>
    /// <param name="dropId">Only of this drop; null for all drops.</param>
    public IReadOnlyDictionary<long, TrayTally> Tallies(long? dropId = null)
    {
        using var c = database.Open();
        var trays = c.Query<(long Drop, string Tray, long Count)>(
                "SELECT drop_id, what, pieces FROM drop_sum WHERE day = '' AND pieces > 0 AND (@dropId IS NULL OR drop_id = @dropId)",
                new { dropId }
            )
            .ToLookup(t => t.Drop);
        Dictionary<long, int> Counted(string sql) =>
            c.Query<(long, long)>(sql, new { dropId }).ToDictionary(x => x.Item1, x => (int)x.Item2);
        var inDoubt = Counted(
            "SELECT drop_id, count(DISTINCT recipient_id) FROM piece_doubt WHERE @dropId IS NULL OR drop_id = @dropId GROUP BY drop_id"
        );
        var noted = Counted(
            """
            SELECT drop_id, count(*) FROM drop_recipient
            WHERE rule_note IS NOT NULL AND tray = 'Produced' AND (@dropId IS NULL OR drop_id = @dropId) GROUP BY drop_id
            """
        );
        return trays.ToDictionary(
            t => t.Key,
            t => new TrayTally(
                t.ToDictionary(x => Enum.Parse<Tray>(x.Tray), x => (int)x.Count),
                inDoubt.GetValueOrDefault(t.Key),
                noted.GetValueOrDefault(t.Key)
            )
        );
    }

    /// <summary>The paused runs of all drops, as drop and number.</summary>
    public ILookup<long, long> PausedRuns()
    {
        using var c = database.Open();
        return c.Query<(long Drop, long Number)>("SELECT drop_id, number FROM run WHERE state = 'paused' ORDER BY number")
            .ToLookup(r => r.Drop, r => r.Number);
    }

    internal static IReadOnlyDictionary<Tray, int> Trays(SqliteConnection c, long dropId)
    {
        var counts = c.Query<(string Tray, long Count)>(
                "SELECT tray, count(*) FROM drop_recipient WHERE drop_id = @dropId GROUP BY tray",
                new { dropId }
            )
            .ToDictionary(t => t.Tray, t => (int)t.Count);
        return Enum.GetValues<Tray>().ToDictionary(t => t, t => counts.GetValueOrDefault(t.ToString()));
    }

    internal const string ReadColumns =
        "d.recipient_id, d.piece_number, d.tray, d.pages, d.hold_reason, d.run_id, d.mailed_on, d.return_reason, d.channel, "
        + "d.channel_by_hand, d.email_run_id, d.emailed_on, d.rule_note";

    internal static List<DropRecipient> Read(SqliteConnection c, long dropId, SqliteCommand command, int columns)
    {
        var rows = new List<DropRecipient>();
        var doubts = PieceDoubts.Of(c, dropId);
        using var reader = command.ExecuteReader();
        while (reader.Read())
            rows.Add(
                new(
                    reader.GetInt64(0),
                    reader.GetInt32(1),
                    Enum.Parse<Tray>(reader.GetString(2)),
                    reader.GetInt32(3),
                    Text(4),
                    reader.IsDBNull(5) ? null : reader.GetInt64(5),
                    Day(6),
                    Text(7),
                    RowTable.Cells(reader, 13, columns)
                )
                {
                    InDoubt = [.. doubts[reader.GetInt64(0)]],
                    RuleNote = Text(12),
                    Channel = Enum.Parse<Channel>(reader.GetString(8)),
                    ChannelByHand = reader.GetBoolean(9),
                    EmailRunId = reader.IsDBNull(10) ? null : reader.GetInt64(10),
                    EmailedOn = Day(11),
                }
            );
        return rows;
        string? Text(int i) => reader.IsDBNull(i) ? null : reader.GetString(i);
        DateOnly? Day(int i) => Text(i) is { } date ? DateOnly.Parse(date, System.Globalization.CultureInfo.InvariantCulture) : null;
    }

    /// <summary>Recipients of a drop by their ids, or all of them where <paramref name="ids"/> is null, in the order of piece
    /// numbers.</summary>
    public static IReadOnlyList<DropRecipient> Recipients(
        SqliteConnection c,
        DropRow drop,
        IReadOnlyList<Column> columns,
        IReadOnlyList<long>? ids
    )
    {
        using var command = c.CreateCommand();
        command.CommandText =
            $"SELECT {ReadColumns}, {RowTable.CellList(columns)} {BenchRows.From(drop)} WHERE d.drop_id = "
            + $"$drop{(ids is null ? "" : $" AND d.recipient_id {IdSet.In}")} ORDER BY d.piece_number";
        command.Parameters.AddWithValue("$drop", drop.Id);
        command.Parameters.AddWithValue("@ids", IdSet.Json(ids ?? []));
        return Read(c, drop.Id, command, columns.Count);
    }

    /// <summary>The recipients of a drop whose pieces are still in the house, one after another, in the order of piece numbers: Needs a
    /// look, Ready, Produced.</summary>
    public static IEnumerable<DropRecipient> InTheHouse(SqliteConnection c, DropRow drop, IReadOnlyList<Column> columns)
    {
        using var command = c.CreateCommand();
        command.CommandText =
            "SELECT d.recipient_id, d.piece_number, d.tray, d.pages, d.channel, d.channel_by_hand, d.email_run_id, d.run_id, "
            + $"{RowTable.CellList(columns)} {BenchRows.From(drop)} WHERE d.drop_id = $drop AND d.tray IN ('NeedsReview', 'Ready', "
            + "'Produced') ORDER BY d.piece_number";
        command.Parameters.AddWithValue("$drop", drop.Id);
        var doubts = PieceDoubts.Of(c, drop.Id);
        using var reader = command.ExecuteReader();
        while (reader.Read())
            yield return new(
                reader.GetInt64(0),
                reader.GetInt32(1),
                Enum.Parse<Tray>(reader.GetString(2)),
                reader.GetInt32(3),
                null,
                reader.IsDBNull(7) ? null : reader.GetInt64(7),
                null,
                null,
                RowTable.Cells(reader, 8, columns.Count)
            )
            {
                InDoubt = [.. doubts[reader.GetInt64(0)]],
                Channel = Enum.Parse<Channel>(reader.GetString(4)),
                ChannelByHand = reader.GetBoolean(5),
                EmailRunId = reader.IsDBNull(6) ? null : reader.GetInt64(6),
            };
    }
}
