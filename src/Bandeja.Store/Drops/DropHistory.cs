using Bandeja.Store.People;
using Dapper;

namespace Bandeja.Store.Drops;

/// <summary>One drop in a recipient's history.</summary>
public sealed record MailSoFar
{
    public long RecipientId { get; init; }
    public long DropId { get; init; }
    public long ListId { get; init; }
    public string ListName { get; init; } = "";
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

/// <summary>What happened in drops, and what a person was sent so far.</summary>
public sealed class DropHistory(Database database)
{
    /// <summary>Where the pieces of a recipient, and of the same person on other lists, are in drops of all campaigns, the newest
    /// first.</summary>
    public IReadOnlyList<MailSoFar> OfRecipient(long recipientId)
    {
        using var c = database.Open();
        var ids = PeopleStore.Recipients(c, recipientId);
        return
        [
            .. c.Query<MailSoFar>(
                """
                SELECT r.recipient_id, d.id AS drop_id, d.list_id, l.name AS list_name, k.name AS campaign_name, d.name AS drop_name,
                    r.piece_number, r.tray, r.channel, coalesce(r.mailed_on, r.emailed_on) AS mailed_on, r.return_reason, r.hold_reason,
                    (SELECT group_concat(name, ' + ')
                    FROM (SELECT g.name FROM drop_design p JOIN design g ON g.id = p.design_id WHERE p.drop_id = d.id
                    ORDER BY p.position)) AS design_name,
                       (SELECT finished_at FROM run WHERE id = coalesce(r.run_id, r.email_run_id)) AS produced_at
                FROM drop_recipient r JOIN mail_drop d ON d.id = r.drop_id JOIN campaign k ON k.id = d.campaign_id
                JOIN list l ON l.id = d.list_id
                WHERE r.recipient_id IN @ids ORDER BY coalesce(r.mailed_on, r.emailed_on, d.created_at) DESC, d.id DESC
                """,
                new { ids }
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

    /// <summary>What happened to the pieces of a recipient, and of the same person on other lists, the newest first.</summary>
    public IReadOnlyList<EventRow> Events(long recipientId)
    {
        using var c = database.Open();
        var ids = PeopleStore.Recipients(c, recipientId);
        return [.. c.Query<EventRow>(EventSql + " WHERE e.recipient_id IN @ids ORDER BY e.id DESC", new { ids })];
    }

    /// <summary>All events of a drop in the order they happened.</summary>
    public IReadOnlyList<EventRow> OfDrop(long dropId)
    {
        using var c = database.Open();
        return [.. c.Query<EventRow>(EventSql + " WHERE e.drop_id = @dropId ORDER BY e.id", new { dropId })];
    }

    /// <summary>The last events of a drop, the newest first. Of all of them only these are read.</summary>
    public IReadOnlyList<EventRow> Last(long dropId, int count)
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
