using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Sequences;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>Whether a drop's issues are up to date.</summary>
/// <param name="Error">Why it cannot be checked as things are; null where it can, or is fresh.</param>
public sealed record DropFreshness(bool Fresh, string? Error);

/// <summary>
/// Composes recipients' letters to see what is wrong about them, and writes the issues. A batch is read, composed and written
/// in one transaction, so that a correction made meanwhile is never overwritten by what was seen before it.
/// </summary>
public sealed class DropChecker(
    Letters letters,
    DropDependencies dependencies,
    Database database,
    StepMembers members,
    Surroundings surroundings
)
{
    /// <summary>How many recipients are checked in one transaction.</summary>
    public const int Batch = 400;

    /// <summary>Checks some recipients within the caller's transaction.</summary>
    public void Check(SqliteConnection c, long dropId, IReadOnlyList<long> recipientIds, Actor actor, long? actionId)
    {
        var drop = DropStore.Drop(c, dropId);
        var composer = new PackageComposer(c, letters, drop);
        var results = DropStore
            .Recipients(c, drop, RowTable.Columns(c, drop.ListId), recipientIds)
            .Where(r => r.Tray is not (Tray.Mailed or Tray.Returned))
            .Select(r =>
            {
                var composed = composer.Compose(r);
                return new CheckedPiece(r.Id, composed.Pages, composed.Channel, composed.Issues);
            })
            .ToList();
        DropEvents.ApplyCheck(c, dropId, results, actor, actionId);
    }

    /// <summary>Whether the issues of a drop are those of what its pieces depend on now.</summary>
    public DropFreshness Freshness(long dropId)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var mark = dependencies.Mark(c, drop);
        return drop.CheckedMark == mark ? new(true, null) : new(false, drop.CheckErrorMark == mark ? drop.CheckError : null);
    }

    /// <summary>Records that a drop cannot be checked as things are: it is not tried again before something changes, and nothing is
    /// produced until then.</summary>
    public void Failed(long dropId, string why)
    {
        using var c = database.Open();
        var mark = dependencies.Mark(c, DropStore.Drop(c, dropId));
        database.Write(w =>
            w.Execute(
                "UPDATE mail_drop SET check_error = @why, check_error_mark = @mark WHERE id = @dropId",
                new
                {
                    why,
                    mark,
                    dropId,
                }
            )
        );
    }

    /// <summary>Forgets that a drop could not be checked, so that it is tried again.</summary>
    public void TryAgain(long dropId) =>
        database.Write(c =>
            c.Execute("UPDATE mail_drop SET check_error = NULL, check_error_mark = NULL WHERE id = @dropId", new { dropId })
        );

    /// <summary>Checks a whole drop, batch by batch. What changes meanwhile changes the mark, and the drop is checked once more.</summary>
    public void CheckAll(long dropId, Actor actor, Action<long, long> progress, CancellationToken cancel)
    {
        string mark;
        using (var c = database.Open())
            mark = dependencies.Mark(c, DropStore.Drop(c, dropId));
        members.Follow(dropId, actor);
        // Who is held by rule may have changed with the list, its segments or the suppression lists.
        database.Write(c => AutoHolds.Sweep(c, dropId, null, surroundings.Now, actor));
        List<long> ids;
        using (var c = database.Open())
            ids =
            [
                .. c.Query<long>("SELECT recipient_id FROM drop_recipient WHERE drop_id = @dropId ORDER BY piece_number", new { dropId }),
            ];
        var done = 0;
        foreach (var batch in ids.Chunk(Batch))
        {
            cancel.ThrowIfCancellationRequested();
            database.Write(c => Check(c, dropId, batch, actor, null));
            progress(done += batch.Length, ids.Count);
        }
        database.Write(c =>
            c.Execute(
                "UPDATE mail_drop SET checked_mark = @mark, check_error = NULL, check_error_mark = NULL WHERE id = @dropId",
                new { mark, dropId }
            )
        );
    }
}
