using Bandeja.Core.Campaigns;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Campaigns;

/// <summary>Keeps what comes next, and when, for everyone who goes through a campaign one by one. It is always told anew from what they
/// received, so it follows whatever is undone.</summary>
public static class PersonClocks
{
    /// <summary>Tells it anew for some recipients of a campaign; nothing for campaigns that a list takes together.</summary>
    public static void Refresh(SqliteConnection c, long campaignId, IReadOnlyCollection<long> recipientIds)
    {
        var campaign = CampaignStore.Get(c, campaignId);
        if (campaign.Goes != CampaignMode.OneByOne)
            return;
        var clock = new StepClock([.. CampaignStore.Steps(c, campaignId).Select(s => s.Clock)], Calendars.Of(c));
        using var update = c.CreateCommand();
        update.CommandText =
            "UPDATE campaign_person SET next_step_id = $step, due_on = $due WHERE campaign_id = $campaign AND recipient_id = $id AND "
            + "(next_step_id IS NOT $step OR due_on IS NOT $due)";
        foreach (var name in (ReadOnlySpan<string>)["$campaign", "$id", "$step", "$due"])
            update.Parameters.AddWithValue(name, DBNull.Value);
        update.Parameters[0].Value = campaignId;
        foreach (var ids in recipientIds.Chunk(5000))
        {
            var list = IdSet.Json(ids);
            var left = c.Query<long>(
                    "SELECT recipient_id FROM campaign_leave WHERE campaign_id = @campaignId AND undone_at IS NULL AND "
                        + $"recipient_id {IdSet.In}",
                    new { campaignId, ids = list }
                )
                .ToHashSet();
            var received = c.Query<(long Recipient, long Step, DateOnly On)>(
                    $"""
                    SELECT d.recipient_id, m.step_id, max(coalesce(d.mailed_on, ''), coalesce(d.emailed_on, ''))
                    FROM drop_recipient d CROSS JOIN mail_drop m ON m.id = d.drop_id
                    WHERE d.recipient_id {IdSet.In} AND m.campaign_id = @campaignId AND m.step_id IS NOT NULL
                        AND d.tray IN ('Mailed', 'Returned')
                    """,
                    new { campaignId, ids = list }
                )
                .ToLookup(x => x.Recipient);
            foreach (
                var (id, entered) in c.Query<(long, DateOnly)>(
                        "SELECT recipient_id, entered_on FROM campaign_person WHERE campaign_id = @campaignId AND recipient_id " + IdSet.In,
                        new { campaignId, ids = list }
                    )
                    .ToList()
            )
            {
                var next = left.Contains(id)
                    ? null
                    : clock.Next(entered, received[id].GroupBy(x => x.Step).ToDictionary(x => x.Key, x => x.Max(d => d.On)));
                (update.Parameters[1].Value, update.Parameters[2].Value, update.Parameters[3].Value) = (
                    id,
                    (object?)next?.StepId ?? DBNull.Value,
                    (object?)next?.DueOn.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture) ?? DBNull.Value
                );
                update.ExecuteNonQuery();
            }
        }
    }

    /// <summary>Tells it anew for everyone in a campaign, as after its steps changed.</summary>
    public static void RefreshAll(SqliteConnection c, long campaignId) =>
        Refresh(
            c,
            campaignId,
            [.. c.Query<long>("SELECT recipient_id FROM campaign_person WHERE campaign_id = @campaignId", new { campaignId })]
        );

    /// <summary>What follows in a campaign from pieces of a step's drop having left, or from that having been undone.</summary>
    internal static void AfterMailing(SqliteConnection c, long dropId, IReadOnlyCollection<long> recipientIds)
    {
        if (
            c.QuerySingleOrDefault<long?>("SELECT campaign_id FROM mail_drop WHERE id = @dropId AND step_id IS NOT NULL", new { dropId })
            is not { } campaign
        )
            return;
        StepDates.Refresh(c, campaign);
        Refresh(c, campaign, recipientIds);
    }
}
