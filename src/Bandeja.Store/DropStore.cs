using System.Text;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>A campaign.</summary>
public sealed record CampaignRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public string CreatedAt { get; init; } = "";
}

/// <summary>A drop with the names of what it sends and to whom.</summary>
public sealed record DropRow
{
    public long Id { get; init; }
    public long CampaignId { get; init; }
    public string CampaignName { get; init; } = "";
    public long Number { get; init; }
    public string Name { get; init; } = "";
    public long ListId { get; init; }
    public string ListName { get; init; } = "";

    /// <summary>The names of the package's designs, for people.</summary>
    public string DesignName { get; init; } = "";

    /// <summary>The package in its order.</summary>
    public IReadOnlyList<PackageDesign> Package { get; init; } = [];
    public DateOnly? MailDate { get; init; }
    public string? CheckedMark { get; init; }

    /// <summary>Why the last check failed, and the mark for which it did.</summary>
    public string? CheckError { get; init; }
    public string? CheckErrorMark { get; init; }

    /// <summary>How many times the values of many recipients changed at once.</summary>
    public long Changes { get; init; }
    public long? SegmentId { get; init; }
    public string? SegmentName { get; init; }
    public bool NeedsSignOff { get; init; }
    public string ChannelBy { get; init; } = "Package";
    public long? ChannelColumn { get; init; }

    /// <summary>Who gets their pieces in which way.</summary>
    public ChannelRule Channels => new(Enum.Parse<ChannelBy>(ChannelBy), (int?)ChannelColumn);

    /// <summary>The ways that the package has.</summary>
    public Channel Ways => (Package.Any(p => p.IsEmail) ? Channel.Email : 0) | (Package.Any(p => !p.IsEmail) ? Channel.Paper : 0);
    public string CreatedAt { get; init; } = "";
}

/// <summary>A design of a drop's package.</summary>
/// <param name="Kind">letter, envelope, labels or email.</param>
public sealed record PackageDesign(long DesignId, string Name, string Kind)
{
    /// <summary>True for an email; all else is on paper.</summary>
    public bool IsEmail => Kind == "email";
}

/// <summary>A recipient as the bench lists them.</summary>
public sealed record DropRecipient(
    long Id,
    int PieceNumber,
    Tray Tray,
    int Pages,
    string? HoldReason,
    long? RunId,
    DateOnly? MailedOn,
    string? ReturnReason,
    string?[] Values
)
{
    /// <summary>How their pieces go out.</summary>
    public Channel Channel { get; init; } = Channel.Paper;

    /// <summary>True where a person chose that.</summary>
    public bool ChannelByHand { get; init; }

    /// <summary>The run that made or sent the email.</summary>
    public long? EmailRunId { get; init; }

    /// <summary>When the mail server took it.</summary>
    public DateOnly? EmailedOn { get; init; }

    /// <summary>Pieces of theirs that may have gone out, and nobody knows.</summary>
    public IReadOnlyList<PieceDoubt> InDoubt { get; init; } = [];

    /// <summary>What the rules would hold them for, where their piece was produced before that.</summary>
    public string? RuleNote { get; init; }

    /// <summary>True where anything of theirs was produced, or may have been.</summary>
    public bool IsBegun => RunId is not null || EmailRunId is not null || InDoubt.Count > 0;
}

/// <summary>Findings alike, for a filter and for accepting all at once.</summary>
public sealed record FindingGroup
{
    public string Alike { get; init; } = "";
    public string Kind { get; init; } = "";
    public string Subject { get; init; } = "";
    public long Recipients { get; init; }
    public long Open { get; init; }
    public string Message { get; init; } = "";
}

/// <summary>A finding as it is stored.</summary>
public sealed record FindingRow
{
    public long RecipientId { get; init; }
    public string Key { get; init; } = "";
    public string Alike { get; init; } = "";
    public string Kind { get; init; } = "";
    public string Subject { get; init; } = "";
    public string Message { get; init; } = "";
    public bool Accepted { get; init; }

    /// <summary>What findings alike are called.</summary>
    public string Title => Finding.Title(Enum.Parse<FindingKind>(Kind), Subject);
}

/// <summary>What is looked for among a drop's recipients.</summary>
/// <param name="Alike">Only those with findings of this group.</param>
/// <param name="Sort">piece, name or place.</param>
/// <param name="InDoubt">Only those who may have been sent a piece already.</param>
/// <param name="Noted">Only those whose piece was produced before a rule would have held them.</param>
public sealed record BenchSearch(
    Tray? Tray = null,
    string? Search = null,
    string? Alike = null,
    string Sort = "piece",
    bool Descending = false,
    bool InDoubt = false,
    bool Noted = false
);

/// <summary>Campaigns, drops, and who stands where in them.</summary>
public sealed class DropStore(Database database)
{
    const string DropSql = """
        SELECT d.id, d.campaign_id, k.name AS campaign_name, d.number, d.name, d.list_id, l.name AS list_name, (SELECT group_concat(name,
            ' + ') FROM (SELECT g.name FROM drop_design p JOIN design g ON g.id = p.design_id WHERE p.drop_id = d.id
            ORDER BY p.position)) AS design_name, d.mail_date, d.checked_mark, d.check_error, d.check_error_mark, d.changes, d.created_at,
            d.segment_id, s.name AS segment_name, d.needs_sign_off, d.channel_by, d.channel_column
        FROM mail_drop d JOIN campaign k ON k.id = d.campaign_id JOIN list l ON l.id = d.list_id LEFT JOIN segment s ON s.id = d.segment_id
        """;

    /// <summary>All campaigns, the newest first.</summary>
    public IReadOnlyList<CampaignRow> Campaigns()
    {
        using var c = database.Open();
        return [.. c.Query<CampaignRow>("SELECT id, name, created_at FROM campaign ORDER BY id DESC")];
    }

    /// <summary>All drops, in the order of their campaigns and numbers.</summary>
    public IReadOnlyList<DropRow> Drops()
    {
        using var c = database.Open();
        var packages = c.Query<(long Drop, long Id, string Name, string Kind)>(PackageSql + " ORDER BY p.drop_id, p.position")
            .ToLookup(p => p.Drop, p => new PackageDesign(p.Id, p.Name, p.Kind));
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
            ?? throw new NotFoundException("This drop is not there.")
        ) with
        {
            Package =
            [
                .. c.Query<(long Drop, long Id, string Name, string Kind)>(
                        PackageSql + " WHERE p.drop_id = @dropId ORDER BY p.position",
                        new { dropId }
                    )
                    .Select(p => new PackageDesign(p.Id, p.Name, p.Kind)),
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
                    "A run of this drop is being made. Wait until it is done, or cancel it, and then change the package."
                );
            c.Execute("DELETE FROM drop_design WHERE drop_id = @dropId", new { dropId });
            WritePackage(c, dropId, designIds);
        });

    /// <summary>Writes a package: letters first, then envelopes, then labels, as they are put together by hand; emails last.</summary>
    static void WritePackage(SqliteConnection c, long dropId, IReadOnlyList<long> designIds)
    {
        if (designIds.Count == 0)
            throw new ConflictException("A package holds at least one design: a letter, an envelope, labels or an email.");
        if (designIds.Distinct().Count() != designIds.Count)
            throw new ConflictException("The same design is in the package twice.");
        if (designIds.Count > 8)
            throw new ConflictException("A package holds at most 8 designs.");
        var kinds = designIds
            .Select(id =>
                (
                    id,
                    Kind: c.QuerySingleOrDefault<string?>("SELECT kind FROM design WHERE id = @id", new { id })
                        ?? throw new NotFoundException("This design is not there.")
                )
            )
            .ToList();
        if (kinds.Count(k => k.Kind == "email") > 1)
            throw new ConflictException("A package holds one email: two would reach the same person twice.");
        var position = 0;
        foreach (
            var (designId, _) in kinds.OrderBy(k =>
                k.Kind switch
                {
                    "letter" => 0,
                    "envelope" => 1,
                    "labels" => 2,
                    _ => 3,
                }
            )
        )
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

    /// <summary>Begins a campaign.</summary>
    public long CreateCampaign(string name, Actor actor) =>
        database.Write(c =>
            c.QuerySingle<long>(
                "INSERT INTO campaign (name, created_at, created_by) VALUES (@name, @Stamp, @Name) RETURNING id",
                new
                {
                    name,
                    actor.Stamp,
                    actor.Name,
                }
            )
        );

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
                throw new ConflictException("This segment is of another list.");
            if (c.QuerySingleOrDefault<long?>("SELECT id FROM campaign WHERE id = @campaignId", new { campaignId }) is null)
                throw new NotFoundException("This campaign is not there.");
            var list = ListStore.Get(c, listId);
            var dropId = c.QuerySingle<long>(
                """
                INSERT INTO mail_drop (campaign_id, number, name, list_id, mail_date, created_at, created_by, segment_id)
                VALUES (@campaignId, (SELECT coalesce(max(number), 0) + 1 FROM mail_drop
                    WHERE campaign_id = @campaignId), @name, @listId, @mailDate, @Stamp, @Name, @segmentId) RETURNING id
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
                    "A run of this drop is being made. Wait until it is done, or cancel it, and then say who gets it in which way."
                );
            if (rule.By == Core.Mail.ChannelBy.Column && rule.Position(RowTable.Columns(c, drop.ListId)) < 0)
                throw new ConflictException("The list has no such column (any more).");
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

    /// <summary>How many recipients may have been sent a piece already, and how many pieces were produced before a rule would have held
    /// them.</summary>
    public (int InDoubt, int Noted) Marked(long dropId)
    {
        using var c = database.Open();
        return c.QuerySingle<(int, int)>(
            "SELECT (SELECT count(DISTINCT recipient_id) FROM piece_doubt WHERE drop_id = @dropId), (SELECT count(*) FROM "
                + "drop_recipient WHERE drop_id = @dropId AND rule_note IS NOT NULL AND tray = 'Produced')",
            new { dropId }
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

    /// <summary>Findings alike, the most frequent first.</summary>
    public IReadOnlyList<FindingGroup> FindingGroups(long dropId)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<FindingGroup>(
                """
                SELECT f.alike, f.kind, f.subject, min(f.message) AS message, count(DISTINCT f.recipient_id) AS recipients,
                       count(DISTINCT CASE WHEN r.tray = 'NeedsALook' AND NOT EXISTS (SELECT 1 FROM json_each(r.accepted_json)
                           WHERE value = f.key) THEN f.recipient_id END) AS open
                FROM finding f JOIN drop_recipient r ON r.drop_id = f.drop_id AND r.recipient_id = f.recipient_id
                WHERE f.drop_id = @dropId GROUP BY f.alike ORDER BY open DESC, recipients DESC, f.alike
                """,
                new { dropId }
            ),
        ];
    }

    /// <summary>The findings of some recipients.</summary>
    public static IReadOnlyList<FindingRow> Findings(SqliteConnection c, long dropId, IReadOnlyList<long> recipientIds) =>
        [
            .. recipientIds
                .Chunk(500)
                .SelectMany(ids =>
                    c.Query<FindingRow>(
                        """
                        SELECT f.recipient_id, f.key, f.alike, f.kind, f.subject, f.message, EXISTS (SELECT 1
                            FROM json_each(r.accepted_json) WHERE value = f.key) AS accepted
                        FROM finding f JOIN drop_recipient r ON r.drop_id = f.drop_id AND r.recipient_id = f.recipient_id
                        WHERE f.drop_id = @dropId AND f.recipient_id IN @ids ORDER BY f.recipient_id, f.key
                        """,
                        new { dropId, ids }
                    )
                ),
        ];

    /// <summary>A part of the recipients that a search finds, how many there are, and their ids where <paramref name="limit"/> is
    /// 0.</summary>
    public (IReadOnlyList<DropRecipient> Rows, IReadOnlyList<FindingRow> Findings, int Total) Page(
        long dropId,
        BenchSearch search,
        int offset,
        int limit
    )
    {
        using var c = database.Open();
        var drop = Drop(c, dropId);
        var columns = RowTable.Columns(c, drop.ListId);
        using var command = c.CreateCommand();
        var where = Conditions(command, drop, search);
        var total = Count(c, command, drop, where);
        command.CommandText =
            $"SELECT {ReadColumns}, {RowTable.CellList(columns)} {From(drop)} {where} ORDER BY {OrderBy(columns, search)} LIMIT "
            + $"{limit} OFFSET {offset}";
        var rows = Read(c, drop.Id, command, columns.Count);
        return (rows, Findings(c, dropId, [.. rows.Select(r => r.Id)]), total);
    }

    /// <summary>The ids of all recipients that a search finds, in its order.</summary>
    public IReadOnlyList<long> Ids(long dropId, BenchSearch search)
    {
        using var c = database.Open();
        var drop = Drop(c, dropId);
        using var command = c.CreateCommand();
        var where = Conditions(command, drop, search);
        command.CommandText = $"SELECT d.recipient_id {From(drop)} {where} ORDER BY {OrderBy(RowTable.Columns(c, drop.ListId), search)}";
        var ids = new List<long>();
        using var reader = command.ExecuteReader();
        while (reader.Read())
            ids.Add(reader.GetInt64(0));
        return ids;
    }

    static string From(DropRow drop) => $"FROM drop_recipient d JOIN {RowTable.Name(drop.ListId)} r ON r.id = d.recipient_id";

    static int Count(SqliteConnection c, SqliteCommand like, DropRow drop, string where)
    {
        like.CommandText = $"SELECT count(*) {From(drop)} {where}";
        return Convert.ToInt32(like.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture);
    }

    static string Conditions(SqliteCommand command, DropRow drop, BenchSearch search)
    {
        var text = new StringBuilder("WHERE d.drop_id = $drop");
        command.Parameters.AddWithValue("$drop", drop.Id);
        if (search.Tray is { } tray)
        {
            text.Append(" AND d.tray = $tray");
            command.Parameters.AddWithValue("$tray", tray.ToString());
        }
        if (search.InDoubt)
            text.Append(" AND d.recipient_id IN (SELECT recipient_id FROM piece_doubt WHERE drop_id = $drop)");
        if (search.Noted)
            text.Append(" AND d.rule_note IS NOT NULL");
        if (search.Alike is { } alike)
        {
            text.Append(
                " AND EXISTS (SELECT 1 FROM finding f WHERE f.drop_id = d.drop_id AND f.recipient_id = d.recipient_id AND f.alike = $alike)"
            );
            command.Parameters.AddWithValue("$alike", alike);
        }
        if (search.Search?.Trim() is { Length: > 0 and < 8 } number && number.All(char.IsAsciiDigit))
        {
            text.Append(" AND (d.piece_number = $piece OR instr(r.find, $digits) > 0)");
            command.Parameters.AddWithValue("$piece", long.Parse(number, System.Globalization.CultureInfo.InvariantCulture));
            command.Parameters.AddWithValue("$digits", number);
        }
        else
            foreach (var condition in ListStore.SearchConditions(command, search.Search))
                text.Append(" AND ").Append(condition);
        return text.ToString();
    }

    static string OrderBy(IReadOnlyList<Column> columns, BenchSearch search)
    {
        Role[] roles = search.Sort switch
        {
            "name" => [Role.FamilyName, Role.FullName, Role.GivenName, Role.Organisation],
            "place" => [Role.Country, Role.Region, Role.City, Role.PostalCode],
            _ => [],
        };
        var direction = search.Descending ? " DESC" : "";
        var keys = roles
            .SelectMany(role => columns.Where(x => x.Role == role))
            .Select(x => $"{(x.Role == Role.Country ? RowTable.CountryKey(x.Id) : $"r.{RowTable.Cell(x.Id)}")} COLLATE NAMES{direction}, ");
        return string.Concat(keys) + $"d.piece_number{direction}";
    }

    const string ReadColumns =
        "d.recipient_id, d.piece_number, d.tray, d.pages, d.hold_reason, d.run_id, d.mailed_on, d.return_reason, d.channel, "
        + "d.channel_by_hand, d.email_run_id, d.emailed_on, d.rule_note";

    static List<DropRecipient> Read(SqliteConnection c, long dropId, SqliteCommand command, int columns)
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
            $"SELECT {ReadColumns}, {RowTable.CellList(columns)} {From(drop)} WHERE d.drop_id = "
            + $"$drop{(ids is null ? "" : $" AND d.recipient_id IN ({string.Join(',', ids)})")} ORDER BY d.piece_number";
        command.Parameters.AddWithValue("$drop", drop.Id);
        return Read(c, drop.Id, command, columns.Count);
    }

    /// <summary>The recipients of a drop whose pieces are still in the house, one after another, in the order of piece numbers: Needs a
    /// look, Ready, Produced.</summary>
    public static IEnumerable<DropRecipient> InTheHouse(SqliteConnection c, DropRow drop, IReadOnlyList<Column> columns)
    {
        using var command = c.CreateCommand();
        command.CommandText =
            "SELECT d.recipient_id, d.piece_number, d.tray, d.pages, d.channel, d.channel_by_hand, d.email_run_id, d.run_id, "
            + $"{RowTable.CellList(columns)} {From(drop)} WHERE d.drop_id = $drop AND d.tray IN ('NeedsALook', 'Ready', "
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

    /// <summary>Where a recipient's piece is in drops of all campaigns, the newest first.</summary>
    public IReadOnlyList<MailSoFar> History(long recipientId)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<MailSoFar>(
                """
                SELECT d.id AS drop_id, k.name AS campaign_name, d.name AS drop_name, r.piece_number, r.tray, r.channel,
                    coalesce(r.mailed_on, r.emailed_on) AS mailed_on, r.return_reason, r.hold_reason, (SELECT group_concat(name, ' + ')
                    FROM (SELECT g.name FROM drop_design p JOIN design g ON g.id = p.design_id WHERE p.drop_id = d.id
                    ORDER BY p.position)) AS design_name,
                       (SELECT finished_at FROM run WHERE id = coalesce(r.run_id, r.email_run_id)) AS produced_at
                FROM drop_recipient r JOIN mail_drop d ON d.id = r.drop_id JOIN campaign k ON k.id = d.campaign_id
                WHERE r.recipient_id = @recipientId ORDER BY coalesce(r.mailed_on, r.emailed_on, d.created_at) DESC, d.id DESC
                """,
                new { recipientId }
            ),
        ];
    }

    /// <summary>The last mailing of each of some recipients: when, and with what.</summary>
    public IReadOnlyDictionary<long, MailSoFar> LastMailed(IReadOnlyList<long> recipientIds)
    {
        using var c = database.Open();
        return recipientIds
            .Chunk(500)
            .SelectMany(ids =>
                c.Query<MailSoFar>(
                    """
                    SELECT r.recipient_id, d.id AS drop_id, k.name AS campaign_name, d.name AS drop_name, r.piece_number, r.tray, r.channel,
                        max(coalesce(r.mailed_on, ''), coalesce(r.emailed_on, '')) AS mailed_on, r.return_reason, (SELECT group_concat(name,
                        ' + ') FROM (SELECT g.name FROM drop_design p JOIN design g ON g.id = p.design_id WHERE p.drop_id = d.id
                        ORDER BY p.position)) AS design_name
                    FROM drop_recipient r JOIN mail_drop d ON d.id = r.drop_id JOIN campaign k ON k.id = d.campaign_id
                    WHERE r.recipient_id IN @ids AND (r.mailed_on IS NOT NULL OR r.emailed_on IS NOT NULL)
                        ORDER BY max(coalesce(r.mailed_on, ''), coalesce(r.emailed_on, '')), d.id
                    """,
                    new { ids }
                )
            )
            .GroupBy(m => m.RecipientId)
            .ToDictionary(g => g.Key, g => g.Last());
    }

    /// <summary>A recipient's events in all drops, the newest first.</summary>
    public IReadOnlyList<EventRow> Events(long recipientId)
    {
        using var c = database.Open();
        return [.. c.Query<EventRow>(EventSql + " WHERE e.recipient_id = @recipientId ORDER BY e.id DESC", new { recipientId })];
    }

    /// <summary>All events of a drop in the order they happened.</summary>
    public IReadOnlyList<EventRow> DropEvents(long dropId)
    {
        using var c = database.Open();
        return [.. c.Query<EventRow>(EventSql + " WHERE e.drop_id = @dropId ORDER BY e.id", new { dropId })];
    }

    /// <summary>The last events of a drop, the newest first. Of all of them only these are read.</summary>
    public IReadOnlyList<EventRow> LastEvents(long dropId, int count)
    {
        using var c = database.Open();
        return [.. c.Query<EventRow>(EventSql + " WHERE e.drop_id = @dropId ORDER BY e.id DESC LIMIT @count", new { dropId, count })];
    }

    const string EventSql = """
        SELECT e.id, e.drop_id, e.recipient_id, r.piece_number, k.name || ' · ' || d.name AS drop_name, e.kind, e.at, e.by, e.note,
            e.keys_json, e.date, (SELECT number FROM run WHERE id = e.run_id) AS run_number
        FROM drop_event e JOIN mail_drop d ON d.id = e.drop_id JOIN campaign k ON k.id = d.campaign_id JOIN drop_recipient r
            ON r.drop_id = e.drop_id AND r.recipient_id = e.recipient_id
        """;
}

/// <summary>How many recipients of a drop get their pieces in one way; who is held is not among them.</summary>
public sealed record ChannelCount
{
    public string Channel { get; init; } = "";
    public long Recipients { get; init; }
    public long Ready { get; init; }
    public long ByHand { get; init; }
}

/// <summary>One drop in a recipient's history.</summary>
public sealed record MailSoFar
{
    public long RecipientId { get; init; }
    public long DropId { get; init; }
    public string CampaignName { get; init; } = "";
    public string DropName { get; init; } = "";
    public string DesignName { get; init; } = "";
    public long PieceNumber { get; init; }
    public string Tray { get; init; } = "";

    /// <summary>Paper, Email or Both.</summary>
    public string Channel { get; init; } = "Paper";
    public string? ProducedAt { get; init; }
    public DateOnly? MailedOn { get; init; }
    public string? ReturnReason { get; init; }
    public string? HoldReason { get; init; }
}

/// <summary>An event as people read it.</summary>
public sealed record EventRow
{
    public long Id { get; init; }
    public long DropId { get; init; }
    public long RecipientId { get; init; }
    public long PieceNumber { get; init; }
    public string DropName { get; init; } = "";
    public string Kind { get; init; } = "";
    public string At { get; init; } = "";
    public string By { get; init; } = "";
    public string? Note { get; init; }
    public string? KeysJson { get; init; }
    public DateOnly? Date { get; init; }
    public long? RunNumber { get; init; }
}
