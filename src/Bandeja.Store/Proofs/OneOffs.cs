using Bandeja.Core.Drops;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Runs;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Proofs;

/// <summary>A letter that was changed for one recipient alone.</summary>
/// <param name="SettledVersionId">The version of the design for which the change holds.</param>
/// <param name="NewestVersionId">The design's newest version; where it is another, and says something else, the two must be
/// settled.</param>
public sealed record OneOffRow
{
    public long RecipientId { get; init; }
    public long DesignId { get; init; }
    public string DocumentJson { get; init; } = "";
    public long SettledVersionId { get; init; }
    public long SettledVersion { get; init; }
    public long NewestVersionId { get; init; }
    public long NewestVersion { get; init; }
    public bool IsOpen { get; init; }
    public string DesignName { get; init; } = "";
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>
/// Letters that were changed for one recipient of a drop without touching the design. What was changed is never dropped by itself: when
/// the design changes, both are kept until somebody settles it.
/// </summary>
public sealed class OneOffs(Database database, Recheck recheck)
{
    const string Sql = """
        SELECT o.recipient_id, o.design_id, o.document_json, o.settled_version_id, s.number AS settled_version, n.id AS newest_version_id,
            n.number AS newest_version, n.document_json <> s.document_json AS is_open, g.name AS design_name, o.at, o.by
        FROM one_off o JOIN design g ON g.id = o.design_id JOIN design_version s ON s.id = o.settled_version_id
          JOIN design_version n ON n.design_id = o.design_id AND n.number = (SELECT max(number) FROM design_version
              WHERE design_id = o.design_id)
        """;

    /// <summary>All of a drop, by recipient.</summary>
    public static ILookup<long, OneOffRow> Of(SqliteConnection c, long dropId) =>
        c.Query<OneOffRow>(Sql + " WHERE o.drop_id = @dropId ORDER BY o.recipient_id, o.design_id", new { dropId })
            .ToLookup(o => o.RecipientId);

    /// <summary>One, or null.</summary>
    public static OneOffRow? Get(SqliteConnection c, long dropId, long recipientId, long designId) =>
        c.QuerySingleOrDefault<OneOffRow>(
            Sql + " WHERE o.drop_id = @dropId AND o.recipient_id = @recipientId AND o.design_id = @designId",
            new
            {
                dropId,
                recipientId,
                designId,
            }
        );

    /// <summary>A mark of all of a drop.</summary>
    public static string Mark(SqliteConnection c, long dropId) =>
        c.QuerySingle<string>(
            "SELECT coalesce(group_concat(recipient_id || ':' || design_id || '@' || at || '/' || settled_version_id), '') FROM "
                + "(SELECT * FROM one_off WHERE drop_id = @dropId ORDER BY recipient_id, design_id)",
            new { dropId }
        );

    /// <summary>Keeps a recipient's own letter. It is settled with the design's newest version, which is sealed by it.</summary>
    /// <exception cref="ConflictException">The piece was made already, or it is what everybody gets.</exception>
    public ActOutcome Save(long dropId, long recipientId, long designId, string documentJson, Actor actor) =>
        database.Write(c =>
        {
            var design = Before(c, dropId, recipientId, designId);
            var newest = DesignStore.Newest(c, designId);
            if (newest.DocumentJson == documentJson)
                throw new ConflictException("No changes to save. This matches the standard letter.");
            c.Execute("UPDATE design_version SET sealed = 1 WHERE id = @Id AND sealed = 0", new { newest.Id });
            c.Execute(
                "INSERT OR REPLACE INTO one_off (drop_id, recipient_id, design_id, document_json, settled_version_id, at, by) "
                    + "VALUES (@dropId, @recipientId, @designId, @documentJson, @Id, @Stamp, @Name)",
                new
                {
                    dropId,
                    recipientId,
                    designId,
                    documentJson,
                    newest.Id,
                    actor.Stamp,
                    actor.Name,
                }
            );
            return Told(
                c,
                dropId,
                recipientId,
                new(DropEventKind.ChangedAlone, $"{design} changed for this recipient only"),
                $"Changed {design} for 1 recipient",
                actor
            );
        });

    /// <summary>Takes a recipient's own letter back: they get what everybody gets.</summary>
    public ActOutcome Remove(long dropId, long recipientId, long designId, Actor actor) =>
        database.Write(c =>
        {
            var design = Before(c, dropId, recipientId, designId);
            if (
                c.Execute(
                    "DELETE FROM one_off WHERE drop_id = @dropId AND recipient_id = @recipientId AND design_id = @designId",
                    new
                    {
                        dropId,
                        recipientId,
                        designId,
                    }
                ) == 0
            )
                throw new NotFoundException("This recipient has no changed letter.");
            return Told(
                c,
                dropId,
                recipientId,
                new(DropEventKind.ChangedAlone, $"{design} changed back to the standard version"),
                $"Undid the change to {design} for 1 recipient",
                actor
            );
        });

    static string Before(SqliteConnection c, long dropId, long recipientId, long designId)
    {
        var design =
            DropStore.Drop(c, dropId).Package.FirstOrDefault(p => p.DesignId == designId) ?? throw new NotFoundException(
                "This design is not in the drop's package."
            );
        var state =
            DropEvents.States(c, dropId, [recipientId]).GetValueOrDefault(recipientId) ?? throw new NotFoundException(
                "This recipient is not in the drop."
            );
        if (state.InDoubt)
            throw new ConflictException("This piece is in doubt and may already have been sent. Resolve that first, then change it.");
        if (state.IsBegun)
            throw new ConflictException("This piece is already produced. Move it back to Ready first, then edit it.");
        if (RunStore.IsInRun(c, dropId, recipientId))
            throw new ConflictException("This piece is in a run in progress. Wait until the run is done, or cancel it.");
        return design.Name;
    }

    ActOutcome Told(SqliteConnection c, long dropId, long recipientId, DropEvent e, string label, Actor actor)
    {
        DropEvents.Append(c, dropId, [(recipientId, e)], actor, null);
        recheck(c, dropId, [recipientId], actor, null);
        return new(label, 1, []);
    }
}
