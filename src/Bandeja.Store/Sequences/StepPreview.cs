using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>What a change of a campaign's steps would change for whom, in sentences, the most important first.</summary>
public sealed record StepConsequences(IReadOnlyList<string> Sentences);

/// <summary>Tells what a change of steps would come to: it is done, looked at, and rolled back, so what is said is what would be.</summary>
public sealed class StepPreview(Database database, CampaignSight sight, Func<ListSurroundings> surroundings)
{
    // Counting goes through the list for every step, and keeps others from writing meanwhile.
    const long MostCounted = 50_000;

    sealed class RolledBack(IReadOnlyList<string> sentences) : Exception
    {
        public IReadOnlyList<string> Sentences => sentences;
    }

    /// <summary>Tells it.</summary>
    /// <param name="change">The change; what it refuses is thrown as it is.</param>
    public StepConsequences Of(long campaignId, Action change)
    {
        try
        {
            database.Write(c =>
            {
                var before = Look(c, campaignId);
                change();
                throw new RolledBack([.. Say(before, Look(c, campaignId), SettingStore.Days(c))]);
            });
        }
        catch (RolledBack told)
        {
            return new(told.Sentences);
        }
        return new([]);
    }

    sealed record Sight(CampaignStanding View, Dictionary<long, (long? Step, DateOnly? Due)> People, Dictionary<long, int> Coming);

    Sight Look(SqliteConnection c, long campaignId)
    {
        var view = sight.Of(c, campaignId);
        var coming = new Dictionary<long, int>();
        var counts = c.QuerySingle<long>("SELECT row_count FROM list WHERE id = @ListId", new { view.ListId }) <= MostCounted;
        foreach (var step in view.Steps.Where(s => counts && !s.Mailed && s.DropIds.Count == 1 && s.MailOn is not null))
        {
            var drop = DropStore.Drop(c, step.DropIds[0]);
            AutoHolds.Sweep(c, drop.Id, null, surroundings(), Actor.Rule(DateTimeOffset.UnixEpoch));
            var inIt = c.QuerySingle<int>("SELECT count(*) FROM drop_recipient WHERE drop_id = @Id AND tray <> 'Held'", new { drop.Id });
            coming[step.Id] = inIt + AutoHolds.Missing(c, drop, surroundings()).Count;
        }
        return new(
            view,
            c.Query<(long Id, long? Step, DateOnly? Due)>(
                    "SELECT recipient_id, next_step_id, due_on FROM campaign_person WHERE campaign_id = @campaignId",
                    new { campaignId }
                )
                .ToDictionary(p => p.Id, p => (p.Step, p.Due)),
            coming
        );
    }

    static IEnumerable<string> Say(Sight before, Sight after, DayWords days)
    {
        var then = before.View.Steps.ToDictionary(s => s.Id);
        foreach (var step in after.View.Steps)
        {
            if (!then.TryGetValue(step.Id, out var was))
            {
                if (step.MailOn is { } first)
                    yield return $"“{step.Name}” is mailed {days.Of(first)}"
                        + (after.Coming.TryGetValue(step.Id, out var going) ? $" to {People(going)}." : ".");
                continue;
            }
            if (was.MailOn != step.MailOn && step.MailOn is { } on)
                yield return $"“{step.Name}” moves{(was.MailOn is { } from ? $" from {days.Of(from)}" : "")} to {days.Of(on)}.";
            if (step.Skipped && !was.Skipped)
                yield return before.Coming.TryGetValue(step.Id, out var all) && all > 0
                    ? $"{People(all)} {(all == 1 ? "does" : "do")} not get “{step.Name}”."
                    : $"No recipients get “{step.Name}”.";
            else if (before.Coming.TryGetValue(step.Id, out var old) && after.Coming.TryGetValue(step.Id, out var now) && old != now)
                yield return $"“{step.Name}” goes to {People(now)} instead of {People(old)}.";
        }
        foreach (var gone in before.View.Steps.Where(s => after.View.Steps.All(a => a.Id != s.Id)))
            yield return $"“{gone.Name}” is removed.";
        var names = before.View.Steps.Concat(after.View.Steps).GroupBy(s => s.Id).ToDictionary(s => s.Key, s => s.Last().Name);
        string Name(long? id) => id is { } step ? $"“{names[step]}”" : "nothing more";
        foreach (
            var other in after
                .People.Where(p => before.People[p.Key].Step != p.Value.Step)
                .GroupBy(p => (Was: before.People[p.Key].Step, Now: p.Value.Step))
                .OrderByDescending(g => g.Count())
        )
            yield return $"{People(other.Count())} {(other.Count() == 1 ? "gets" : "get")} {Name(other.Key.Now)} next instead of "
                + $"{Name(other.Key.Was)}.";
        foreach (
            var moved in after
                .People.Where(p => before.People[p.Key].Step == p.Value.Step && before.People[p.Key].Due != p.Value.Due)
                .GroupBy(p => (p.Value.Step, Later: p.Value.Due > before.People[p.Key].Due))
        )
            yield return $"{People(moved.Count())} {(moved.Count() == 1 ? "gets" : "get")} {Name(moved.Key.Step)} "
                + $"{(moved.Key.Later ? "later" : "earlier")}.";
    }

    static string People(int n) => n == 1 ? "1 recipient" : $"{n:N0} recipients";
}
