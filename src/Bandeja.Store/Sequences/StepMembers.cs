using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>
/// Keeps who is in the drop of a step. Only who is to get the step is put into it, never the whole list; who is in it and is not to get it
/// any more is held. Once a piece of it was mailed, nobody is added.
/// </summary>
public sealed class StepMembers(Database database, Func<ListSurroundings> surroundings)
{
    // Others write in between.
    const int Batch = 2000;

    /// <summary>Adds to a step's drop who belongs in it; nothing for other drops.</summary>
    /// <returns>How many were added.</returns>
    public int Follow(long dropId, Actor actor)
    {
        IReadOnlyList<long> missing;
        var now = surroundings();
        using (var c = database.Open())
        {
            var drop = DropStore.Drop(c, dropId);
            if (drop.StepId is null || drop.CollectsOn is not null || IsMailed(c, dropId))
                return 0;
            missing = AutoHolds.Missing(c, drop, now);
        }
        foreach (var ids in missing.Chunk(Batch))
            database.Write(c => Add(c, dropId, ids, now, actor));
        return missing.Count;
    }

    static bool IsMailed(SqliteConnection c, long dropId) =>
        c.QuerySingle<bool>("SELECT EXISTS (SELECT 1 FROM drop_sum WHERE drop_id = @dropId AND day <> '' AND pieces > 0)", new { dropId });

    /// <summary>Puts recipients into a drop, with the next piece numbers, and holds whom a rule holds. Who is in it already
    /// stays.</summary>
    internal static void Add(SqliteConnection c, long dropId, IReadOnlyList<long> recipientIds, ListSurroundings surroundings, Actor actor)
    {
        var piece = c.QuerySingle<long>(
            "SELECT coalesce(max(piece_number), 0) FROM drop_recipient WHERE drop_id = @dropId",
            new { dropId }
        );
        // Written by the database itself: a day may bring ten thousand.
        c.Execute(
            """
            INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray)
            SELECT @dropId, j.value, @piece + row_number() OVER (ORDER BY j.key), 'Ready' FROM json_each(@ids) j
            WHERE NOT EXISTS (SELECT 1 FROM drop_recipient WHERE drop_id = @dropId AND recipient_id = j.value);
            INSERT INTO drop_event (drop_id, recipient_id, kind, at, by) SELECT drop_id, recipient_id, 'Joined', @Stamp, @Name
                FROM drop_recipient WHERE drop_id = @dropId AND piece_number > @piece ORDER BY piece_number
            """,
            new
            {
                dropId,
                piece,
                ids = System.Text.Json.JsonSerializer.Serialize(recipientIds),
                actor.Stamp,
                actor.Name,
            }
        );
        var added = c.Query<long>(
                "SELECT recipient_id FROM drop_recipient WHERE drop_id = @dropId AND piece_number > @piece ORDER BY piece_number",
                new { dropId, piece }
            )
            .ToList();
        if (added.Count == 0)
            return;
        AutoHolds.Sweep(c, dropId, added, surroundings, actor);
    }
}
