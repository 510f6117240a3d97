using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Drops;

/// <summary>A piece of which nobody knows whether it went out: a message that a server may have, or a batch that a printer may have
/// printed.</summary>
public sealed record PieceDoubt
{
    public long RecipientId { get; init; }
    public long RunId { get; init; }
    public long RunNumber { get; init; }

    /// <summary>True for a message, false for a batch on paper.</summary>
    public bool Email { get; init; }

    /// <summary>The batch, for paper.</summary>
    public long? Batch { get; init; }

    /// <summary>What is known of it.</summary>
    public string? Words { get; init; }
}

/// <summary>
/// Pieces in doubt. They are read from the messages and batches themselves (view <c>piece_doubt</c>), so a doubt lasts through a pause, a
/// cancellation, the end of its run, and a restart, until a person settles it. Until then the piece is in no plan.
/// </summary>
public static class PieceDoubts
{
    const string Sql = "SELECT recipient_id, run_id, run_number, email, batch, words FROM piece_doubt WHERE drop_id = @dropId";

    /// <summary>All of a drop.</summary>
    public static ILookup<long, PieceDoubt> Of(SqliteConnection c, long dropId) =>
        c.Query<PieceDoubt>(Sql, new { dropId }).ToLookup(d => d.RecipientId);

    /// <summary>How many recipients of each drop have one.</summary>
    public static IReadOnlyDictionary<long, int> Counts(SqliteConnection c) =>
        c.Query<(long Drop, long Count)>("SELECT drop_id, count(DISTINCT recipient_id) FROM piece_doubt GROUP BY drop_id")
            .ToDictionary(d => d.Drop, d => (int)d.Count);

    /// <summary>The run in which a recipient's message is in doubt, other than one; null where there is none.</summary>
    internal static long? MessageInDoubt(SqliteConnection c, long dropId, long recipientId, long exceptRun) =>
        c.QueryFirstOrDefault<long?>(
            "SELECT run_number FROM piece_doubt WHERE drop_id = @dropId AND recipient_id = @recipientId AND email = 1 AND run_id <> "
                + "@exceptRun LIMIT 1",
            new
            {
                dropId,
                recipientId,
                exceptRun,
            }
        );
}
