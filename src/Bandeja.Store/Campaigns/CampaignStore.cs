using Bandeja.Core.Campaigns;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Campaigns;

/// <summary>Campaigns and their steps.</summary>
public sealed class CampaignStore(Database database)
{
    const string Sql = """
        SELECT k.id, k.name, k.created_at, k.mode, k.list_id, l.name AS list_name, k.starts_on, k.entry, k.entry_filter, k.entry_after,
            k.stay_filter, k.response_days, k.revision
        FROM campaign k LEFT JOIN list l ON l.id = k.list_id
        """;

    /// <summary>All campaigns, the newest first.</summary>
    public IReadOnlyList<CampaignRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<CampaignRow>(Sql + " ORDER BY k.id DESC")];
    }

    /// <summary>One campaign.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public CampaignRow Get(long campaignId)
    {
        using var c = database.Open();
        return Get(c, campaignId);
    }

    /// <inheritdoc cref="Get(long)"/>
    public static CampaignRow Get(SqliteConnection c, long campaignId) =>
        c.QuerySingleOrDefault<CampaignRow>(Sql + " WHERE k.id = @campaignId", new { campaignId })
        ?? throw new NotFoundException("This campaign no longer exists.");

    /// <summary>Begins a campaign without steps.</summary>
    public long Create(string name, Actor actor) =>
        database.Write(c =>
            c.QuerySingle<long>(
                "INSERT INTO campaign (name, created_at, created_by) VALUES (@name, @Stamp, @Name) RETURNING id",
                new
                {
                    name,
                    actor.Stamp,
                    actor.Name,
                }
            )
        );

    /// <summary>Gives a campaign another name.</summary>
    public void Rename(long campaignId, string name) =>
        database.Write(c =>
        {
            Get(c, campaignId);
            c.Execute("UPDATE campaign SET name = @name WHERE id = @campaignId", new { campaignId, name });
        });

    /// <summary>The steps of a campaign in order.</summary>
    public static IReadOnlyList<StepRow> Steps(SqliteConnection c, long campaignId) =>
        [.. c.Query<StepRow>(StepSql + " WHERE campaign_id = @campaignId ORDER BY position, id", new { campaignId })];

    const string StepSql =
        "SELECT id, campaign_id, position, name, who, segment_id, condition, on_date, after, unit, ready_days, weekday, skipped, designs "
        + "FROM campaign_step";

    /// <summary>One step.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public static StepRow Step(SqliteConnection c, long stepId) =>
        c.QuerySingleOrDefault<StepRow>(StepSql + " WHERE id = @stepId", new { stepId })
        ?? throw new NotFoundException("This step no longer exists.");

    /// <summary>Says that something about a campaign changed on which the drops of its steps depend.</summary>
    internal static void Changed(SqliteConnection c, long campaignId) =>
        c.Execute("UPDATE campaign SET revision = revision + 1 WHERE id = @campaignId", new { campaignId });

    /// <summary>
    /// A mark that changes when who belongs in a step's drop may have changed, as far as conditions say it: they ask for responses,
    /// for what
    /// was mailed before, and for the day. Who leaves is held at once, and where the step itself changes, its drop is told
    /// (<c>mail_drop.changes</c>); so a response to a campaign without conditions has nothing checked again.
    /// </summary>
    /// <param name="today">The day it is: conditions count days up to it.</param>
    public static string Mark(SqliteConnection c, long stepId, DateOnly today)
    {
        var step = Step(c, stepId);
        var campaign = Get(c, step.CampaignId);
        if (step.Condition.Length == 0 && campaign.StayFilter.Length == 0)
            return $"{step.Skipped}";
        var before = c.Query<(string, string, long)>(
            """
            SELECT s.what, s.day, sum(s.pieces) FROM drop_sum s JOIN mail_drop m ON m.id = s.drop_id JOIN campaign_step p ON p.id =
                m.step_id
            WHERE p.campaign_id = @CampaignId AND p.position < @Position GROUP BY s.what, s.day ORDER BY s.what, s.day
            """,
            new { step.CampaignId, step.Position }
        );
        return $"{campaign.Revision}|{today:yyyy-MM-dd}|{string.Join(',', before)}";
    }
}
