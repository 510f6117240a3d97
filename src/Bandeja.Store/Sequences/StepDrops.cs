using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>Makes and changes the drops of steps.</summary>
static class StepDrops
{
    /// <summary>Makes a drop for a step, with nobody in it yet.</summary>
    /// <param name="collectsOn">One by one: the day for which it collects.</param>
    public static long Create(SqliteConnection c, StepRow step, string name, DateOnly mailDate, DateOnly? collectsOn, Actor actor)
    {
        var campaign = CampaignStore.Get(c, step.CampaignId);
        var id = c.QuerySingle<long>(
            """
            INSERT INTO mail_drop (campaign_id, number, name, list_id, mail_date, created_at, created_by, segment_id, step_id, collects_on,
                priority)
            VALUES (@CampaignId, (SELECT coalesce(max(number), 0) + 1 FROM mail_drop WHERE campaign_id = @CampaignId), @name, @ListId,
                @mailDate, @Stamp, @Name, @SegmentId, @Id, @collectsOn, coalesce((SELECT priority FROM mail_drop
                WHERE campaign_id = @CampaignId ORDER BY step_id = @Id DESC, number DESC LIMIT 1), 'Usual'))
            RETURNING id
            """,
            new
            {
                step.CampaignId,
                name,
                campaign.ListId,
                mailDate,
                actor.Stamp,
                actor.Name,
                step.SegmentId,
                step.Id,
                collectsOn,
            }
        );
        DropStore.WritePackage(c, id, step.DesignIds);
        return id;
    }

    /// <summary>Brings a step's drops in line with it, as far as nothing of them was produced: name, segment, package.</summary>
    public static void Follow(SqliteConnection c, StepRow step)
    {
        foreach (
            var drop in c.Query<(long Id, string? On)>(
                    "SELECT id, collects_on FROM mail_drop m WHERE step_id = @Id AND NOT EXISTS (SELECT 1 FROM run WHERE drop_id = m.id)",
                    new { step.Id }
                )
                .ToList()
        )
        {
            c.Execute(
                "UPDATE mail_drop SET segment_id = @SegmentId, name = CASE WHEN collects_on IS NULL THEN @Name ELSE name END, changes = "
                    + "changes + 1 WHERE id = @drop",
                new
                {
                    step.SegmentId,
                    step.Name,
                    drop = drop.Id,
                }
            );
            c.Execute("DELETE FROM drop_design WHERE drop_id = @drop", new { drop = drop.Id });
            DropStore.WritePackage(c, drop.Id, step.DesignIds);
        }
    }
}
