using Bandeja.Core.Campaigns;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Campaigns;

/// <summary>Keeps the mail dates of a campaign's steps that its list takes together.</summary>
public static class StepDates
{
    // The day on which a few stragglers are mailed is not the day on which the step was.
    const int Straggler = 20;

    /// <summary>The dates of a campaign's steps, in order.</summary>
    public static IReadOnlyList<StepDate> Of(
        SqliteConnection c,
        CampaignRow campaign,
        IReadOnlyList<StepRow> steps,
        WorkCalendar calendar
    ) =>
        new StepClock([.. steps.Select(s => s.Clock)], calendar).Together(
            campaign.StartsOn ?? DateOnly.FromDateTime(DateTime.UnixEpoch),
            MailedOn(c, campaign.Id)
        );

    /// <summary>When steps were mailed: the last day on which at least a twentieth of what was mailed so far left. A step of which more
    /// waits than was mailed is not mailed yet.</summary>
    public static IReadOnlyDictionary<long, DateOnly> MailedOn(SqliteConnection c, long campaignId)
    {
        var waiting = c.Query<(long Step, long Pieces)>(
                """
                SELECT m.step_id, sum(s.pieces) FROM mail_drop m JOIN drop_sum s ON s.drop_id = m.id AND s.day = ''
                WHERE m.campaign_id = @campaignId AND m.step_id IS NOT NULL AND s.what IN ('NeedsReview', 'Ready', 'Produced')
                GROUP BY m.step_id
                """,
                new { campaignId }
            )
            .ToDictionary(x => x.Step, x => x.Pieces);
        return c.Query<(long Step, DateOnly Day, long Pieces)>(
                """
                SELECT m.step_id, s.day, sum(s.pieces) FROM mail_drop m JOIN drop_sum s ON s.drop_id = m.id
                WHERE m.campaign_id = @campaignId AND m.step_id IS NOT NULL AND s.day <> '' AND s.pieces > 0 GROUP BY m.step_id, s.day
                """,
                new { campaignId }
            )
            .GroupBy(x => x.Step)
            .Where(x => x.Sum(d => d.Pieces) >= waiting.GetValueOrDefault(x.Key))
            .ToDictionary(
                x => x.Key,
                x =>
                {
                    var all = x.Sum(d => d.Pieces);
                    return x.Where(d => d.Pieces * Straggler >= all).Max(d => d.Day);
                }
            );
    }

    /// <summary>Writes the dates to the drops of steps that are not mailed yet.</summary>
    public static void Refresh(SqliteConnection c, long campaignId)
    {
        var campaign = CampaignStore.Get(c, campaignId);
        if (campaign.Goes != CampaignMode.Together)
            return;
        foreach (var date in Of(c, campaign, CampaignStore.Steps(c, campaignId), Calendars.Of(c)).Where(d => !d.Mailed))
            c.Execute(
                "UPDATE mail_drop SET mail_date = @MailOn WHERE step_id = @Id AND mail_date IS NOT @MailOn",
                new { date.MailOn, date.Id }
            );
    }
}
