using System.Text.Json;
using Bandeja.Core.Drops;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Proofs;

/// <summary>How somebody found a recipient's proof.</summary>
/// <param name="Verdict">right or wrong.</param>
/// <param name="PagesMark">A mark of what was on the pages.</param>
public sealed record ProofLook
{
    public long RecipientId { get; init; }
    public string Verdict { get; init; } = "";
    public string? Note { get; init; }
    public string PagesMark { get; init; } = "";
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>A sign-off as it was given.</summary>
public sealed record SignOffRow
{
    public long Id { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
    public string? Note { get; init; }
    public string OnJson { get; init; } = "";
    public string? WithdrawnAt { get; init; }

    /// <summary>What it speaks of.</summary>
    public SignOffSubject Subject => JsonSerializer.Deserialize<SignOffSubject>(OnJson)!;
}

/// <summary>What was looked at before production, and who signed it off.</summary>
public sealed class ProofStore(Database database)
{
    /// <summary>How recipients of a drop were found, by the recipient.</summary>
    public static IReadOnlyDictionary<long, ProofLook> Looks(SqliteConnection c, long dropId) =>
        c.Query<ProofLook>("SELECT recipient_id, verdict, note, pages_mark, at, by FROM proof_look WHERE drop_id = @dropId", new { dropId })
            .ToDictionary(l => l.RecipientId);

    /// <summary>Keeps how a recipient's pages were found; a null verdict forgets it.</summary>
    public void Look(long dropId, long recipientId, string? verdict, string? note, string pagesMark, Actor actor) =>
        database.Write(c =>
        {
            if (verdict is null)
                c.Execute("DELETE FROM proof_look WHERE drop_id = @dropId AND recipient_id = @recipientId", new { dropId, recipientId });
            else
                c.Execute(
                    "INSERT OR REPLACE INTO proof_look (drop_id, recipient_id, verdict, note, pages_mark, at, by) VALUES (@dropId, "
                        + "@recipientId, @verdict, @note, @pagesMark, @Stamp, @Name)",
                    new
                    {
                        dropId,
                        recipientId,
                        verdict,
                        note,
                        pagesMark,
                        actor.Stamp,
                        actor.Name,
                    }
                );
        });

    /// <summary>Whom somebody added to the proof set.</summary>
    public static IReadOnlyList<long> Own(SqliteConnection c, long dropId) =>
        [.. c.Query<long>("SELECT recipient_id FROM proof_own WHERE drop_id = @dropId ORDER BY at, recipient_id", new { dropId })];

    /// <summary>Adds recipients to the proof set, or takes them out again.</summary>
    /// <exception cref="NotFoundException">One is not in the drop.</exception>
    public void SetOwn(long dropId, IReadOnlyList<long> recipientIds, bool there, Actor actor) =>
        database.Write(c =>
        {
            foreach (var id in recipientIds)
            {
                if (
                    c.QuerySingleOrDefault<long?>(
                        "SELECT 1 FROM drop_recipient WHERE drop_id = @dropId AND recipient_id = @id",
                        new { dropId, id }
                    )
                    is null
                )
                    throw new NotFoundException("This recipient is not in the drop.");
                if (there)
                    c.Execute(
                        "INSERT OR IGNORE INTO proof_own (drop_id, recipient_id, at, by) VALUES (@dropId, @id, @Stamp, @Name)",
                        new
                        {
                            dropId,
                            id,
                            actor.Stamp,
                            actor.Name,
                        }
                    );
                else
                    c.Execute("DELETE FROM proof_own WHERE drop_id = @dropId AND recipient_id = @id", new { dropId, id });
            }
        });

    /// <summary>The last sign-off of a drop; null where there is none or it was withdrawn.</summary>
    public static SignOffRow? LastSignOff(SqliteConnection c, long dropId) =>
        c.QueryFirstOrDefault<SignOffRow>(
            "SELECT id, at, by, note, on_json, withdrawn_at FROM sign_off WHERE drop_id = @dropId ORDER BY id DESC LIMIT 1",
            new { dropId }
        )
            is { WithdrawnAt: null } last
            ? last
            : null;

    /// <summary>Signs a drop off. The versions it speaks of are sealed, so that writing on begins new ones.</summary>
    public void SignOff(long dropId, SignOffSubject subject, IReadOnlyList<ProofLook> looks, string? note, Actor actor) =>
        database.Write(c =>
        {
            foreach (var design in subject.Designs)
                c.Execute("UPDATE design_version SET sealed = 1 WHERE id = @VersionId AND sealed = 0", new { design.VersionId });
            c.Execute(
                "INSERT INTO sign_off (drop_id, at, by, note, on_json, looks_json) VALUES (@dropId, @Stamp, @Name, @note, @on, @looks)",
                new
                {
                    dropId,
                    actor.Stamp,
                    actor.Name,
                    note,
                    on = JsonSerializer.Serialize(subject),
                    looks = JsonSerializer.Serialize(looks),
                }
            );
        });

    /// <summary>Takes the last sign-off back.</summary>
    /// <exception cref="ConflictException">There is none.</exception>
    public void Withdraw(long dropId, Actor actor) =>
        database.Write(c =>
        {
            var last = LastSignOff(c, dropId) ?? throw new ConflictException("This drop is not signed off.");
            c.Execute(
                "UPDATE sign_off SET withdrawn_at = @Stamp, withdrawn_by = @Name WHERE id = @Id",
                new
                {
                    actor.Stamp,
                    actor.Name,
                    last.Id,
                }
            );
        });

    /// <summary>What a drop would send now, as a sign-off speaks of it.</summary>
    /// <param name="rules">A mark of the organization's settings.</param>
    public static SignOffSubject Subject(SqliteConnection c, DropRow drop, string rules)
    {
        var designs = drop
            .Package.Select(p => (p, Version: DesignStore.Newest(c, p.DesignId)))
            .Select(d => new SignedDesign(d.p.DesignId, d.p.Name, d.Version.Id, d.Version.Number))
            .ToList();
        var columns =
            c.QuerySingle<string>(
                "SELECT (SELECT coalesce(max(id), 0) FROM column_change WHERE list_id = @ListId) || '/' || (SELECT "
                    + "coalesce(group_concat(id), '') FROM detail_set WHERE list_id = @ListId AND state = 'ready')",
                new { drop.ListId }
            ) + string.Concat(drop.Package.Select(p => "/" + DesignMatches.Mark(c, p.DesignId, drop.ListId)));
        return new(
            designs,
            ListStore.LastChange(c, drop.ListId),
            columns,
            (int)c.QuerySingle<long>("SELECT count(*) FROM drop_recipient WHERE drop_id = @Id", new { drop.Id }),
            $"{drop.SegmentId}|{SegmentStore.Mark(c, drop.SegmentId)}",
            rules,
            OneOffs.Mark(c, drop.Id)
        );
    }

    /// <summary>What has changed since a sign-off was given; empty where it holds.</summary>
    public static IReadOnlyList<string> ChangedSince(SqliteConnection c, DropRow drop, SignOffRow signOff, string rules)
    {
        var subject = signOff.Subject;
        var changed = c.QuerySingle<long>(
            "SELECT count(DISTINCT recipient_id) FROM cell_change WHERE list_id = @ListId AND id > @ListChange AND column_id > 0",
            new { drop.ListId, subject.ListChange }
        );
        return subject.ChangedSince(Subject(c, drop, rules), (int)changed);
    }
}
