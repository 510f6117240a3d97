using System.Globalization;
using Bandeja.Core.Campaigns;
using Bandeja.Core.Lists;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>What is to be recorded of a response.</summary>
/// <param name="Source">Where it came from: <c>typed</c>, <c>file</c>, or <c>column</c>.</param>
/// <param name="CampaignId">The campaign for which it was entered; null for the one of the piece that is credited.</param>
public sealed record ResponseEntry(
    long ListId,
    long RecipientId,
    DateOnly On,
    ResponseKind Kind,
    decimal? Amount,
    string? Note,
    string Source,
    long? CampaignId = null
);

/// <summary>A response.</summary>
public sealed record ResponseRow
{
    public long Id { get; init; }
    public long ListId { get; init; }
    public long RecipientId { get; init; }
    public string Name { get; init; } = "";
    public DateOnly OnDate { get; init; }
    public string Kind { get; init; } = "";
    public long? Cents { get; init; }
    public string? Note { get; init; }
    public long? DropId { get; init; }

    /// <summary>What is credited with it, such as “Membership renewal · First notice”; null for nothing.</summary>
    public string? Credited { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
    public bool Undone { get; init; }
}

/// <summary>Somebody who may be meant by what was typed.</summary>
/// <param name="Credited">What would be credited with a response of today.</param>
/// <param name="Responded">When they responded last in that campaign; null where they did not.</param>
public sealed record Responder(
    long ListId,
    string List,
    long RecipientId,
    string Key,
    string Name,
    string Place,
    string? Credited,
    DateOnly? Responded
);

/// <summary>A response of a file, before it is found who it is from.</summary>
/// <param name="Code">The recipient's own number, or a piece number.</param>
public sealed record ResponseLine(string Code, DateOnly? On, decimal? Amount, ResponseKind? Kind, string? Note);

/// <summary>What became of a file of responses.</summary>
/// <param name="NotFound">Codes of which nobody is known, with their line, from 1.</param>
public sealed record ResponseImport(int Recorded, int Known, int NotCredited, IReadOnlyList<string> NotFound, long? Batch);

/// <summary>Records responses: each is credited to the last piece that was mailed to the recipient within its campaign's window, and who
/// responds leaves that campaign.</summary>
public sealed class ResponseStore(Database database, CampaignDesk desk)
{
    /// <summary>A file with more is to be divided.</summary>
    public const int MostLines = 100_000;

    const int LongestCode = 200;

    const string RowSql = """
        SELECT r.id, r.list_id, r.recipient_id, r.on_date, r.kind, r.cents, r.note, r.drop_id, r.at, r.by, r.undone_at IS NOT NULL AS
            undone,
            (SELECT k.name || ' · ' || m.name FROM mail_drop m JOIN campaign k ON k.id = m.campaign_id WHERE m.id = r.drop_id) AS credited
        FROM response r
        """;

    /// <summary>The responses recorded last, the newest first.</summary>
    public IReadOnlyList<ResponseRow> Last(int most)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<ResponseRow>(RowSql + " ORDER BY r.id DESC LIMIT @most", new { most })
                .ToList()
                .Select(r => r with { Name = Name(c, r) }),
        ];
    }

    /// <summary>The responses of a recipient, and of the same person on other lists, the newest first.</summary>
    public IReadOnlyList<ResponseRow> OfRecipient(long recipientId)
    {
        using var c = database.Open();
        var ids = PeopleStore.Recipients(c, recipientId);
        return
        [
            .. c.Query<ResponseRow>(
                RowSql + " WHERE r.recipient_id IN @ids AND r.undone_at IS NULL ORDER BY r.on_date DESC, r.id DESC",
                new { ids }
            ),
        ];
    }

    static string Name(SqliteConnection c, ResponseRow r) => Label(c, r.ListId, r.RecipientId)?.Name ?? "";

    static RecipientLabel? Label(SqliteConnection c, long listId, long recipientId)
    {
        var columns = RowTable.Columns(c, listId);
        return RowTable.Values(c, columns, listId, recipientId) is { } values ? RecipientLabel.Of(columns, i => values[i]) : null;
    }

    /// <summary>Who may be meant by a number: recipients with that number of their own, then those to whom a piece with it was
    /// mailed.</summary>
    /// <param name="campaignId">Only of that campaign; null for all lists and drops.</param>
    public IReadOnlyList<Responder> Find(string code, long? campaignId, DateOnly on)
    {
        using var c = database.Open();
        return
        [
            .. Matches(c, code, campaignId)
                .Take(12)
                .Select(m =>
                {
                    var label = Label(c, m.ListId, m.RecipientId);
                    var drop = Credit(c, m.RecipientId, on, campaignId);
                    return new Responder(
                        m.ListId,
                        c.QuerySingle<string>("SELECT name FROM list WHERE id = @ListId", new { m.ListId }),
                        m.RecipientId,
                        code.Trim(),
                        label?.Name ?? "",
                        label?.Place ?? "",
                        drop is { } id
                            ? c.QuerySingle<string>(
                                "SELECT k.name || ' · ' || m.name FROM mail_drop m JOIN campaign k ON k.id = m.campaign_id WHERE "
                                    + "m.id = @id",
                                new { id }
                            )
                            : null,
                        c.QueryFirstOrDefault<DateOnly?>(
                            """
                            SELECT r.on_date FROM response r JOIN mail_drop m ON m.id = r.drop_id WHERE r.recipient_id = @RecipientId
                                AND r.undone_at IS NULL AND m.campaign_id = (SELECT campaign_id FROM mail_drop WHERE id = @drop)
                            ORDER BY r.on_date DESC
                            """,
                            new { m.RecipientId, drop }
                        )
                    );
                }),
        ];
    }

    /// <summary>Who has a number: by their own first, then by a piece's.</summary>
    /// <param name="known">All numbers of recipients, where many are asked for; null to look for one.</param>
    static IEnumerable<(long ListId, long RecipientId)> Matches(
        SqliteConnection c,
        string code,
        long? campaignId,
        ILookup<string, (long, long)>? known = null
    )
    {
        var text = code.Trim();
        if (text.Length is 0 or > LongestCode)
            return [];
        var own = known is null
            ? [.. OwnNumbers(c, campaignId, text).Select(n => (n.ListId, n.RecipientId)).Take(5)]
            : known[text].ToList();
        if (own.Count > 0)
            return own;
        var digits = text.TrimStart('#', ' ');
        if (digits.Length is 0 or > 7 || !digits.All(char.IsAsciiDigit))
            return [];
        return c.Query<(long, long)>(
                """
                SELECT DISTINCT m.list_id, d.recipient_id FROM mail_drop m CROSS JOIN drop_recipient d ON d.drop_id = m.id
                    AND d.piece_number = @number
                WHERE d.tray IN ('Mailed', 'Returned') AND (@campaignId IS NULL OR m.campaign_id = @campaignId)
                ORDER BY coalesce(d.mailed_on, d.emailed_on) DESC LIMIT 12
                """,
                new { number = long.Parse(digits, CultureInfo.InvariantCulture), campaignId }
            )
            .ToList();
    }

    /// <summary>The recipients' own numbers of a campaign's list, or of all lists.</summary>
    /// <param name="only">Only this number; null for all.</param>
    static IEnumerable<(string Number, long ListId, long RecipientId)> OwnNumbers(SqliteConnection c, long? campaignId, string? only)
    {
        var lists = campaignId is { } of
            ? CampaignStore.Get(c, of).ListId is { } list
                ? [list]
                : []
            : c.Query<long>("SELECT id FROM list ORDER BY id").ToList();
        foreach (var id in lists)
            if (RowTable.Columns(c, id).FirstOrDefault(x => x.Role == Role.Key) is { } key)
                foreach (
                    var (number, recipient) in c.Query<(string, long)>(
                        $"""
                        SELECT {RowTable.Cell(key.Id)}, id FROM {RowTable.Name(id)} WHERE gone IS NULL AND {RowTable.Cell(key.Id)} IS NOT
                            NULL
                            AND (@only IS NULL OR {RowTable.Cell(key.Id)} = @only COLLATE NOCASE)
                        """,
                        new { only }
                    )
                )
                    yield return (number, id, recipient);
    }

    /// <summary>The drop of the last piece mailed to a recipient up to a day, within its campaign's window; null for none.</summary>
    static long? Credit(SqliteConnection c, long recipientId, DateOnly on, long? campaignId) =>
        c.QueryFirstOrDefault<long?>(
            """
            SELECT d.drop_id FROM drop_recipient d CROSS JOIN mail_drop m ON m.id = d.drop_id CROSS JOIN campaign k ON k.id = m.campaign_id
            WHERE d.recipient_id = @recipientId AND (@campaignId IS NULL OR k.id = @campaignId)
                AND max(coalesce(CASE WHEN d.mailed_on <= @on THEN d.mailed_on END, ''),
                    coalesce(CASE WHEN d.emailed_on <= @on THEN d.emailed_on END, '')) >= date(@on, '-' || k.response_days || ' days')
            ORDER BY max(coalesce(CASE WHEN d.mailed_on <= @on THEN d.mailed_on END, ''),
                coalesce(CASE WHEN d.emailed_on <= @on THEN d.emailed_on END, '')) DESC, d.drop_id DESC
            """,
            new
            {
                recipientId,
                on,
                campaignId,
            }
        );

    /// <summary>Records a response.</summary>
    /// <returns>Its id, and the drops of which somebody left the campaign.</returns>
    public (long Id, long? CampaignId) Record(ResponseEntry entry, Actor actor, long? batch = null) =>
        database.Write(c =>
        {
            if (entry.Amount is < 0 or > 100_000_000)
                throw new BadInputException("An amount must be between 0 and 100,000,000.");
            if (Label(c, entry.ListId, entry.RecipientId) is null)
                throw new NotFoundException("This recipient is not on the list.");
            var drop = Credit(c, entry.RecipientId, entry.On, entry.CampaignId);
            var id = c.QuerySingle<long>(
                """
                INSERT INTO response (list_id, recipient_id, on_date, kind, cents, note, source, drop_id, at, by, batch)
                VALUES (@ListId, @RecipientId, @On, @kind, @cents, @Note, @Source, @drop, @Stamp, @Name, @batch) RETURNING id
                """,
                new
                {
                    entry.ListId,
                    entry.RecipientId,
                    entry.On,
                    kind = entry.Kind.ToString(),
                    cents = entry.Amount is { } amount ? (long?)Math.Round(amount * 100, MidpointRounding.AwayFromZero) : null,
                    entry.Note,
                    entry.Source,
                    drop,
                    actor.Stamp,
                    actor.Name,
                    batch,
                }
            );
            var campaign =
                entry.CampaignId
                ?? (drop is null ? null : c.QuerySingle<long?>("SELECT campaign_id FROM mail_drop WHERE id = @drop", new { drop }));
            if (campaign is not { } of)
                return (id, null);
            CampaignStore.Changed(c, of);
            if (CampaignStore.Get(c, of) is { Goes: not CampaignMode.Drops } row && row.ListId == entry.ListId)
                desk.Leave(
                    of,
                    [entry.RecipientId],
                    entry.On,
                    entry.Kind == ResponseKind.Paid ? LeaveReason.Paid : LeaveReason.Responded,
                    entry.Note,
                    actor,
                    id
                );
            return (id, (long?)of);
        });

    /// <summary>Undoes that a response was recorded, and that somebody left because of it.</summary>
    /// <returns>The campaign that it counted for.</returns>
    public long? Undo(long responseId, Actor actor) =>
        database.Write(c =>
        {
            var row =
                c.QuerySingleOrDefault<ResponseRow>(RowSql + " WHERE r.id = @responseId", new { responseId })
                ?? throw new NotFoundException("This response no longer exists.");
            if (row.Undone)
                throw new ConflictException("This response was undone already.");
            c.Execute("UPDATE response SET undone_at = @Stamp WHERE id = @responseId", new { responseId, actor.Stamp });
            var campaigns = c.Query<long>(
                    "SELECT campaign_id FROM campaign_leave WHERE response_id = @responseId AND undone_at IS NULL",
                    new { responseId }
                )
                .ToList();
            foreach (var campaign in campaigns)
                // Bandeja undoes it: that nobody decided it must not count as a decision of somebody.
                desk.Return(campaign, [row.RecipientId], Actor.Rule(actor.At));
            var of = row.DropId is { } drop
                ? c.QuerySingle<long>("SELECT campaign_id FROM mail_drop WHERE id = @drop", new { drop })
                : (long?)null;
            if (of is { } counted)
                CampaignStore.Changed(c, counted);
            return of ?? (campaigns.Count > 0 ? campaigns[0] : null);
        });

    /// <summary>Undoes all that one file recorded.</summary>
    public int UndoBatch(long batch, Actor actor) =>
        database.Write(c =>
        {
            var ids = c.Query<long>("SELECT id FROM response WHERE batch = @batch AND undone_at IS NULL", new { batch }).ToList();
            foreach (var id in ids)
                Undo(id, actor);
            return ids.Count;
        });

    /// <summary>Records the responses of a file. A response that is known already, of the same recipient, day, and amount, is not recorded
    /// twice.</summary>
    public ResponseImport Import(IReadOnlyList<ResponseLine> lines, long? campaignId, DateOnly today, Actor actor) =>
        database.Write(c =>
        {
            if (lines.Count > MostLines)
                throw new BadInputException($"A file can have {MostLines:N0} responses. Divide it.");
            var batch = c.QuerySingle<long>("SELECT coalesce(max(batch), 0) + 1 FROM response");
            var (recorded, known, uncredited, missing) = (0, 0, 0, new List<string>());
            // Gone through once: a look through the list for each line would take hours.
            var numbers = OwnNumbers(c, campaignId, null)
                .ToLookup(n => n.Number, n => (n.ListId, n.RecipientId), StringComparer.OrdinalIgnoreCase);
            for (var i = 0; i < lines.Count; i++)
            {
                var line = lines[i];
                if (line.On is { } on && on > today)
                {
                    missing.Add($"Line {i + 1}: {SettingStore.Days(c).Of(on)} is in the future.");
                    continue;
                }
                var found = Matches(c, line.Code, campaignId, numbers).Take(2).ToList();
                if (found.Count != 1)
                {
                    missing.Add(
                        found.Count == 0
                            ? $"Line {i + 1}: no recipient has the number “{line.Code}”."
                            : $"Line {i + 1}: more than one recipient has the number “{line.Code}”."
                    );
                    continue;
                }
                var entry = new ResponseEntry(
                    found[0].ListId,
                    found[0].RecipientId,
                    line.On ?? today,
                    line.Kind ?? (line.Amount > 0 ? ResponseKind.Paid : ResponseKind.Responded),
                    line.Amount,
                    line.Note,
                    "file",
                    campaignId
                );
                if (IsKnown(c, entry))
                {
                    known++;
                    continue;
                }
                var (id, _) = Record(entry, actor, batch);
                recorded++;
                if (c.QuerySingle<bool>("SELECT drop_id IS NULL FROM response WHERE id = @id", new { id }))
                    uncredited++;
            }
            return new ResponseImport(recorded, known, uncredited, missing, recorded > 0 ? batch : null);
        });

    static bool IsKnown(SqliteConnection c, ResponseEntry entry) =>
        c.QuerySingle<bool>(
            """
            SELECT EXISTS (SELECT 1 FROM response WHERE recipient_id = @RecipientId AND on_date = @On AND undone_at IS NULL
                AND cents IS @cents)
            """,
            new
            {
                entry.RecipientId,
                entry.On,
                cents = entry.Amount is { } amount ? (long?)Math.Round(amount * 100, MidpointRounding.AwayFromZero) : null,
            }
        );

    /// <summary>Records who responded by a column of the campaign's list that holds the date, and one that holds the amount where there is
    /// one. What was recorded before is not recorded twice.</summary>
    public ResponseImport FromColumn(long campaignId, int dateColumnId, int? amountColumnId, DateOnly today, Actor actor) =>
        database.Write(c =>
        {
            var campaign = CampaignStore.Get(c, campaignId);
            if (campaign.ListId is not { } list)
                throw new ConflictException("This campaign has no list of its own.");
            var columns = RowTable.Columns(c, list);
            if (columns.FirstOrDefault(x => x.Id == dateColumnId) is not { } dates)
                throw new NotFoundException("The list no longer has this column.");
            if (amountColumnId is { } of && columns.All(x => x.Id != of))
                throw new NotFoundException("The list no longer has this column.");
            var batch = c.QuerySingle<long>("SELECT coalesce(max(batch), 0) + 1 FROM response");
            var (recorded, known, uncredited, odd) = (0, 0, 0, new List<string>());
            foreach (
                var (id, date, amount) in c.Query<(long, string, string?)>(
                        $"SELECT id, {RowTable.Cell(dateColumnId)}, {(amountColumnId is { } a ? RowTable.Cell(a) : "NULL")} FROM "
                            + $"{RowTable.Name(list)} WHERE gone IS NULL AND coalesce({RowTable.Cell(dateColumnId)}, '') <> '' ORDER BY n"
                    )
                    .ToList()
            )
            {
                if (
                    !DateOnly.TryParseExact(date, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var on)
                    || on > today
                )
                {
                    odd.Add($"“{date}” in {dates.Name} is not a date in the past.");
                    continue;
                }
                // What happened before the campaign is no response to it.
                if (on < campaign.StartsOn)
                    continue;
                decimal? money =
                    decimal.TryParse(amount, NumberStyles.Number, CultureInfo.InvariantCulture, out var m) && m >= 0 ? m : null;
                var entry = new ResponseEntry(
                    list,
                    id,
                    on,
                    money > 0 ? ResponseKind.Paid : ResponseKind.Responded,
                    money,
                    null,
                    "column",
                    campaignId
                );
                if (IsKnown(c, entry))
                {
                    known++;
                    continue;
                }
                var (response, _) = Record(entry, actor, batch);
                recorded++;
                if (c.QuerySingle<bool>("SELECT drop_id IS NULL FROM response WHERE id = @response", new { response }))
                    uncredited++;
            }
            return new ResponseImport(recorded, known, uncredited, odd, recorded > 0 ? batch : null);
        });
}
