using System.Globalization;
using System.Security.Cryptography;
using Bandeja.Core.Campaigns;
using Bandeja.Core.Drops;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Dapper;

namespace Bandeja.Store.Sequences;

/// <summary>What is mailed on a day.</summary>
/// <param name="DropId">The drop; null for recipients of a campaign one by one who are not collected yet.</param>
/// <param name="StepId">The step, where it is one: its date is moved there.</param>
/// <param name="Pieces">How many pieces.</param>
/// <param name="Cents">What they cost; null where nothing was ever reckoned for the package.</param>
/// <param name="About">True where the cost is told from pieces produced before.</param>
public sealed record MailDay(
    DateOnly On,
    long CampaignId,
    string Campaign,
    long? DropId,
    string Name,
    long? StepId,
    int Pieces,
    long? Cents,
    bool About,
    bool Mailed,
    bool CanMove
);

/// <summary>The mail dates of all campaigns.</summary>
public sealed class MailCalendar(Database database, DropStore drops)
{
    const string AddressKey = "calendar address";

    /// <summary>What is mailed from a day up to and with another, in order.</summary>
    public IReadOnlyList<MailDay> Of(DateOnly from, DateOnly to)
    {
        using var c = database.Open();
        var tallies = drops.Tallies();
        var costs = c.Query<(long Drop, long Cents, long Pieces)>(
                "SELECT drop_id, sum(cents), sum(pieces) FROM run WHERE cents IS NOT NULL AND state = 'done' AND reprint_of IS NULL "
                    + "GROUP BY drop_id"
            )
            .ToDictionary(x => x.Drop);
        var ofStep = c.Query<(long Step, long Cents, long Pieces)>(
                """
                SELECT m.step_id, sum(r.cents), sum(r.pieces) FROM run r JOIN mail_drop m ON m.id = r.drop_id
                WHERE r.cents IS NOT NULL AND r.state = 'done' AND r.reprint_of IS NULL AND m.step_id IS NOT NULL GROUP BY m.step_id
                """
            )
            .ToDictionary(x => x.Step);
        var lastMailed = c.Query<(long Drop, DateOnly Day)>(
                "SELECT drop_id, max(day) FROM drop_sum WHERE day <> '' AND pieces > 0 GROUP BY drop_id"
            )
            .ToDictionary(x => x.Drop, x => x.Day);
        var days = new List<MailDay>();
        foreach (var drop in drops.Drops())
        {
            var t = tallies.GetValueOrDefault(drop.Id) ?? TrayTally.Empty;
            var out_ = t[Tray.Mailed] + t[Tray.Returned];
            var open = t[Tray.NeedsReview] + t[Tray.Ready] + t[Tray.Produced];
            var mailed = out_ > 0 && open == 0;
            var on = mailed ? lastMailed.GetValueOrDefault(drop.Id) : drop.MailDate ?? default;
            if (on == default || on < from || on > to)
                continue;
            var (cents, about) =
                costs.TryGetValue(drop.Id, out var own)
                    ? (own.Pieces >= out_ + open ? own.Cents : Share(own.Cents, own.Pieces, out_ + open), own.Pieces < out_ + open)
                : drop.StepId is { } s && ofStep.TryGetValue(s, out var before) ? (Share(before.Cents, before.Pieces, out_ + open), true)
                : ((long?)null, false);
            days.Add(
                new(
                    on,
                    drop.CampaignId,
                    drop.CampaignName,
                    drop.Id,
                    drop.Name,
                    drop.StepId,
                    out_ + open,
                    cents,
                    about,
                    mailed,
                    !mailed && drop.CollectsOn is null
                )
            );
        }
        foreach (
            var d in c.Query<(long Campaign, string Name, long Step, string StepName, DateOnly On, long People)>(
                """
                SELECT p.campaign_id, k.name, s.id, s.name, p.due_on, count(*) FROM campaign_person p JOIN campaign k ON k.id =
                    p.campaign_id
                JOIN campaign_step s ON s.id = p.next_step_id
                WHERE p.due_on BETWEEN @from AND @to AND NOT EXISTS (SELECT 1 FROM mail_drop m JOIN drop_recipient d ON d.drop_id = m.id
                    AND d.recipient_id = p.recipient_id WHERE m.step_id = s.id)
                GROUP BY s.id, p.due_on
                """,
                new { from, to }
            )
        )
            days.Add(
                new(
                    d.On,
                    d.Campaign,
                    d.Name,
                    null,
                    d.StepName,
                    d.Step,
                    (int)d.People,
                    ofStep.TryGetValue(d.Step, out var known) ? Share(known.Cents, known.Pieces, d.People) : null,
                    true,
                    false,
                    false
                )
            );
        return [.. days.OrderBy(d => d.On).ThenBy(d => d.Campaign, StringComparer.Ordinal).ThenBy(d => d.DropId)];
    }

    static long Share(long cents, long of, long pieces) => of == 0 ? 0 : (long)Math.Round((decimal)cents / of * pieces);

    /// <summary>The secret part of the address at which the calendar can be subscribed to; null where there is none.</summary>
    public string? Address()
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = @AddressKey", new { AddressKey });
    }

    /// <summary>Gives the calendar a new secret address; the one before no longer works.</summary>
    public string Renew() =>
        database.Write(c =>
        {
            var secret = Convert.ToHexString(RandomNumberGenerator.GetBytes(24)).ToLower(CultureInfo.InvariantCulture);
            c.Execute(
                "INSERT INTO setting VALUES (@AddressKey, @secret) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
                new { AddressKey, secret }
            );
            return secret;
        });
}
