using Bandeja.Core.Contact;
using Bandeja.Core.Language;
using Bandeja.Core.Mail;
using Bandeja.Store.People;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Drops;

/// <summary>Whom the contact limits keep from getting a drop's pieces, and because of which other mail.</summary>
public sealed class ContactHolds
{
    readonly SqliteConnection c;
    readonly DropRow drop;
    readonly IReadOnlyList<ContactLimit> limits;
    readonly DateOnly day;
    readonly DayWords days;

    /// <summary>True where pieces of the drop were mailed and nobody waits any more. Whom it kept back then stays held: nobody becomes
    /// ready again in a drop of last month because a month has passed.</summary>
    readonly bool isOver;

    ContactHolds(SqliteConnection c, DropRow drop, IReadOnlyList<ContactLimit> limits, DateOnly today)
    {
        (this.c, this.drop, this.limits) = (c, drop, limits);
        days = SettingStore.Days(c);
        // What was not mailed on its day is mailed today at the earliest.
        day = drop.MailDate is { } date && date > today ? date : today;
        isOver = c.QuerySingle<bool>(
            """
            SELECT EXISTS (SELECT 1 FROM drop_sum WHERE drop_id = @Id AND day <> '' AND pieces > 0)
                AND NOT EXISTS (SELECT 1 FROM drop_sum WHERE drop_id = @Id AND what IN ('Ready', 'NeedsReview') AND pieces > 0)
            """,
            new { drop.Id }
        );
    }

    /// <summary>Those that count for a drop; null where there are none, or it goes in any case.</summary>
    public static ContactHolds? Of(SqliteConnection c, DropRow drop, DateOnly today)
    {
        if (drop.Goes == MailPriority.Always)
            return null;
        var limits = SettingStore.ContactLimits(c).Where(l => (l.Channel & drop.Ways) != 0).ToList();
        return limits.Count == 0 ? null : new(c, drop, limits, today);
    }

    /// <summary>Recipients of the drop who are one person, or one household where that is what counts, with some of it.</summary>
    public IReadOnlyList<long> WithTheirOwn(IReadOnlyList<long> ids)
    {
        var list = IdSet.Json(ids);
        // Crossed in this order: begun with the drop, each of its people would be held against each of the ids.
        var own = c.Query<long>(
            $"""
            SELECT q.recipient_id FROM person_row p
            CROSS JOIN person_row q ON q.person_id = p.person_id AND q.recipient_id <> p.recipient_id
            CROSS JOIN drop_recipient d ON d.drop_id = @Id AND d.recipient_id = q.recipient_id WHERE p.recipient_id {IdSet.In}
            """,
            new { drop.Id, ids = list }
        );
        var home = limits.Any(l => l.Per == ContactCount.Household)
            ? c.Query<long>(
                $"""
                SELECT q.recipient_id FROM person_row p
                CROSS JOIN person_row q ON q.home = p.home AND q.recipient_id <> p.recipient_id
                CROSS JOIN drop_recipient d ON d.drop_id = @Id AND d.recipient_id = q.recipient_id
                WHERE p.recipient_id {IdSet.In} AND p.home <> '' AND q.home <> ''
                """,
                new { drop.Id, ids = list }
            )
            : [];
        return [.. ids.Union(own).Union(home)];
    }

    /// <summary>A piece that went to somebody, or will.</summary>
    sealed record Piece
    {
        public long Recipient { get; init; }
        public long DropId { get; init; }
        public string Tray { get; init; } = "";
        public string Channel { get; init; } = "";
        public DateOnly? MailedOn { get; init; }
        public DateOnly? EmailedOn { get; init; }
        public bool SamePerson { get; init; }

        /// <summary>The recipient that it went to.</summary>
        public long To { get; init; }
    }

    /// <summary>Another drop, as it is told.</summary>
    sealed record Other
    {
        public string Campaign { get; init; } = "";
        public string Name { get; init; } = "";
        public DateOnly? MailDate { get; init; }
        public string Priority { get; init; } = "";
    }

    readonly Dictionary<long, Other> others = [];

    Other Drop(long id) =>
        others.TryGetValue(id, out var known)
            ? known
            : others[id] = c.QuerySingle<Other>(
                "SELECT k.name AS campaign, m.name, m.mail_date, m.priority FROM mail_drop m "
                    + "JOIN campaign k ON k.id = m.campaign_id WHERE m.id = @id",
                new { id }
            );

    /// <param name="Words">Said only where it is in the way: most are not.</param>
    sealed record Counted(DateOnly Day, Func<string> Words, Channel Channel, bool SamePerson, long DropId, long To);

    /// <summary>Why each of some recipients is not to get the drop's piece now; who may get it is not in it.</summary>
    /// <param name="getsIt">True for a recipient of this drop who gets its piece as far as everything else goes.</param>
    /// <param name="channel">By which ways a recipient of this drop gets it.</param>
    /// <param name="before">Why the limits hold a recipient so far; null where they do not.</param>
    public IReadOnlyDictionary<long, string> Of(
        IReadOnlyList<long> ids,
        Func<long, bool> getsIt,
        Func<long, Channel> channel,
        Func<long, string?> before
    )
    {
        if (isOver)
            return ids.Where(id => before(id) is not null).ToDictionary(id => id, id => before(id)!);
        var reach = limits.Max(l => l.Days);
        const string Fields = "d.drop_id, d.tray, d.channel, d.mailed_on, d.emailed_on, d.recipient_id AS \"to\"";
        // What came back reached nobody. Who of this drop is held may be free by now: that is asked of them, not of their tray.
        const string Counts = """
            (d.drop_id = @Id OR d.return_reason IS NULL AND d.tray <> 'Held' AND (d.mailed_on >= @from OR d.emailed_on >= @from
                OR (d.tray IN ('Ready', 'NeedsReview', 'Produced') AND EXISTS (SELECT 1 FROM mail_drop m
                    WHERE m.id = d.drop_id AND (m.mail_date IS NULL OR m.mail_date <= @to)))))
            """;
        var sql = $"""
            SELECT d.recipient_id AS recipient, 1 AS same_person, {Fields} FROM drop_recipient d
                WHERE d.recipient_id {IdSet.In} AND {Counts}
            UNION
            SELECT p.recipient_id, q.person_id = p.person_id, {Fields} FROM person_row p
                CROSS JOIN person_row q ON q.person_id = p.person_id AND q.recipient_id <> p.recipient_id
                CROSS JOIN drop_recipient d ON d.recipient_id = q.recipient_id
                WHERE p.recipient_id {IdSet.In} AND {Counts}
            """;
        if (limits.Any(l => l.Per == ContactCount.Household))
            sql += $"""

                UNION
                SELECT p.recipient_id, q.person_id = p.person_id, {Fields} FROM person_row p
                    CROSS JOIN person_row q ON q.home = p.home AND q.recipient_id <> p.recipient_id
                    CROSS JOIN drop_recipient d ON d.recipient_id = q.recipient_id
                    WHERE p.recipient_id {IdSet.In} AND p.home <> '' AND q.home <> '' AND {Counts}
                """;
        var pieces = c.Query<Piece>(
                sql,
                new
                {
                    drop.Id,
                    ids = IdSet.Json(ids),
                    from = day.AddDays(-reach),
                    to = day.AddDays(reach),
                }
            )
            .ToLookup(p => p.Recipient);
        var held = new Dictionary<long, string>();
        // In the order of the ids, so that of two in one drop the first gets it.
        foreach (var id in ids.Order())
        {
            if (!getsIt(id))
                continue;
            var counted = pieces[id].SelectMany(p => Of(p, id, held, getsIt)).ToList();
            foreach (var limit in limits.Where(l => (l.Channel & channel(id)) != 0))
            {
                var others = counted
                    .Where(o => (o.Channel & limit.Channel) != 0 && (o.SamePerson || limit.Per == ContactCount.Household))
                    .DistinctBy(o => (o.DropId, o.To, o.Channel));
                var why = limit.InTheWay(day, others, o => o.Day);
                if (why.Count == 0)
                    continue;
                held[id] =
                    $"Contact limit, {limit.Words}: {string.Join("; ", why.Take(3).Select(o => o.Words()))}"
                    + (why.Count > 3 ? $"; and {why.Count - 3:N0} more" : "");
                break;
            }
        }
        return held;
    }

    /// <summary>What of somebody's other piece counts, and on which day.</summary>
    IEnumerable<Counted> Of(Piece p, long id, IReadOnlyDictionary<long, string> held, Func<long, bool> getsIt)
    {
        if (p.DropId == drop.Id)
        {
            // The same mailing to somebody else of theirs: who comes first gets it.
            if (p.To != id && p.To < id && getsIt(p.To) && !held.ContainsKey(p.To))
                yield return new(day, () => "another piece of this drop", Ways(p), p.SamePerson, p.DropId, p.To);
            yield break;
        }
        var of = Drop(p.DropId);
        if (p.MailedOn is { } mailed)
            yield return new(
                mailed,
                () => $"{of.Campaign} · {of.Name}, mailed {days.LongShort(mailed)}",
                Channel.Paper,
                p.SamePerson,
                p.DropId,
                p.To
            );
        if (p.EmailedOn is { } emailed)
            yield return new(
                emailed,
                () => $"{of.Campaign} · {of.Name}, emailed {days.LongShort(emailed)}",
                Channel.Email,
                p.SamePerson,
                p.DropId,
                p.To
            );
        if (p.MailedOn is not null || p.EmailedOn is not null)
            yield break;
        var isMade = p.Tray == "Produced";
        if (of.MailDate is null && !isMade)
            yield break;
        var on = of.MailDate ?? day;
        var other = (Enum.Parse<MailPriority>(of.Priority), of.MailDate ?? DateOnly.MinValue, p.DropId);
        if (isMade || other.CompareTo((drop.Goes, drop.MailDate ?? DateOnly.MinValue, drop.Id)) < 0)
            yield return new(
                on,
                () => $"{of.Campaign} · {of.Name}, {(isMade ? "produced for" : "planned for")} {days.LongShort(on)}",
                Ways(p),
                p.SamePerson,
                p.DropId,
                p.To
            );
    }

    static Channel Ways(Piece p) => Enum.TryParse<Channel>(p.Channel, out var way) ? way : Channel.Paper;

    /// <summary>A mark that changes with what the limits look at for a drop; empty where there are none.</summary>
    public static string Mark(SqliteConnection c, DropRow drop, DateOnly today)
    {
        if (Of(c, drop, today) is not { } of)
            return "";
        if (of.isOver)
            return "over";
        var reach = of.limits.Max(l => l.Days);
        // Of drops that come after this one only what is made or mailed counts. While a run goes on its pieces move one by one: what is
        // looked at for this drop changes once, when it is over.
        var others = c.Query<string>(
            """
            SELECT m.id || ':' || m.priority || ':' || coalesce(m.mail_date, '') || ':' || m.name || ':' || CASE
                    WHEN EXISTS (SELECT 1 FROM run r WHERE r.drop_id = m.id AND r.state IN ('queued', 'running', 'paused')) THEN 'in work'
                    ELSE (SELECT v.held || '+' || v.made FROM drop_moves v WHERE v.drop_id = m.id) END
                || coalesce((SELECT group_concat(DISTINCT s.day) FROM drop_sum s
                    WHERE s.drop_id = m.id AND s.pieces > 0 AND s.day >= @from), '')
            FROM mail_drop m WHERE m.id <> @Id AND (m.mail_date BETWEEN @from AND @to
                OR EXISTS (SELECT 1 FROM drop_sum s WHERE s.drop_id = m.id AND s.what = 'Produced' AND s.day = '' AND s.pieces > 0)
                OR EXISTS (SELECT 1 FROM drop_sum s WHERE s.drop_id = m.id AND s.day >= @from AND s.pieces > 0))
            ORDER BY m.id
            """,
            new
            {
                drop.Id,
                from = of.day.AddDays(-reach),
                to = of.day.AddDays(reach),
            }
        );
        var text = string.Join(
            '|',
            [.. of.limits.Select(l => l.ToString()), $"{of.day:O}", $"{drop.Goes}", PeopleRecognition.Revision(c), .. others]
        );
        return Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(text)));
    }
}
