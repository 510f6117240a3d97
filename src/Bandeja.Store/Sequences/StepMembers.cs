using Bandeja.Core.Drops;
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

    /// <summary>Puts recipients into a drop, with the next piece numbers, and holds whom a rule holds. Who is in it already stays.</summary>
    internal static void Add(SqliteConnection c, long dropId, IReadOnlyList<long> recipientIds, ListSurroundings surroundings, Actor actor)
    {
        var piece = c.QuerySingle<long>(
            "SELECT coalesce(max(piece_number), 0) FROM drop_recipient WHERE drop_id = @dropId",
            new { dropId }
        );
        var added = new List<long>(recipientIds.Count);
        foreach (var id in recipientIds)
            if (
                c.Execute(
                    "INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray) VALUES (@dropId, @id, @piece, 'Ready') "
                        + "ON CONFLICT (drop_id, recipient_id) DO NOTHING",
                    new
                    {
                        dropId,
                        id,
                        piece = piece + added.Count + 1,
                    }
                ) > 0
            )
                added.Add(id);
        if (added.Count == 0)
            return;
        DropEvents.Append(c, dropId, [.. added.Select(id => (id, new DropEvent(DropEventKind.Joined)))], actor, null);
        AutoHolds.Sweep(c, dropId, added, surroundings, actor);
    }
}
