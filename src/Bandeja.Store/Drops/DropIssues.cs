using Bandeja.Core.Drops;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Drops;

/// <summary>Issues alike, for a filter and for accepting all at once.</summary>
public sealed record PieceIssueGroup
{
    public string Alike { get; init; } = "";
    public string Kind { get; init; } = "";
    public string Subject { get; init; } = "";
    public long Recipients { get; init; }
    public long Open { get; init; }
    public string Message { get; init; } = "";
}

/// <summary>An issue as it is stored.</summary>
public sealed record PieceIssueRow
{
    public long RecipientId { get; init; }
    public string Key { get; init; } = "";
    public string Alike { get; init; } = "";
    public string Kind { get; init; } = "";
    public string Subject { get; init; } = "";
    public string Message { get; init; } = "";
    public bool Accepted { get; init; }

    /// <summary>What issues alike are called.</summary>
    public string Title => PieceIssue.Title(Enum.Parse<PieceIssueKind>(Kind), Subject);
}

/// <summary>What was found in the pieces of a drop.</summary>
public sealed class DropIssues(Database database)
{
    /// <summary>Issues alike, the most frequent first.</summary>
    public IReadOnlyList<PieceIssueGroup> Groups(long dropId)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<PieceIssueGroup>(
                """
                SELECT f.alike, f.kind, f.subject, min(f.message) AS message, count(DISTINCT f.recipient_id) AS recipients,
                       count(DISTINCT CASE WHEN r.tray = 'NeedsReview' AND NOT EXISTS (SELECT 1 FROM json_each(r.accepted_json)
                           WHERE value = f.key) THEN f.recipient_id END) AS open
                FROM piece_issue f JOIN drop_recipient r ON r.drop_id = f.drop_id AND r.recipient_id = f.recipient_id
                WHERE f.drop_id = @dropId GROUP BY f.alike ORDER BY open DESC, recipients DESC, f.alike
                """,
                new { dropId }
            ),
        ];
    }

    /// <summary>The issues of some recipients.</summary>
    public static IReadOnlyList<PieceIssueRow> Of(SqliteConnection c, long dropId, IReadOnlyList<long> recipientIds) =>
        [
            .. recipientIds
                .Chunk(500)
                .SelectMany(ids =>
                    c.Query<PieceIssueRow>(
                        """
                        SELECT f.recipient_id, f.key, f.alike, f.kind, f.subject, f.message, EXISTS (SELECT 1
                            FROM json_each(r.accepted_json) WHERE value = f.key) AS accepted
                        FROM piece_issue f JOIN drop_recipient r ON r.drop_id = f.drop_id AND r.recipient_id = f.recipient_id
                        WHERE f.drop_id = @dropId AND f.recipient_id IN @ids ORDER BY f.recipient_id, f.key
                        """,
                        new { dropId, ids }
                    )
                ),
        ];
}
