using System.Text.Json;
using Bandeja.Core.Campaigns;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>A step of a pattern: without dates and without a list, so that it can be used anywhere.</summary>
/// <param name="SegmentName">The name of the segment that it goes to; the other list must have one of that name.</param>
public sealed record PatternStep(
    string Name,
    IReadOnlyList<long> DesignIds,
    StepTiming Timing,
    StepWho Who,
    string? SegmentName,
    string Condition,
    bool Skipped
);

/// <summary>A sequence of steps that is kept for reuse.</summary>
public sealed record PatternRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public string Mode { get; init; } = "";
    public long Steps { get; init; }
    public string CreatedAt { get; init; } = "";
    public string CreatedBy { get; init; } = "";
}

/// <summary>Keeps sequences of steps, and begins campaigns with them.</summary>
public sealed class Patterns(Database database, StepEdits edits)
{
    /// <summary>All patterns by name.</summary>
    public IReadOnlyList<PatternRow> All()
    {
        using var c = database.Open();
        return
        [
            .. c.Query<PatternRow>(
                "SELECT id, name, mode, json_array_length(steps_json) AS steps, created_at, created_by FROM campaign_pattern ORDER BY "
                    + "name COLLATE NAMES"
            ),
        ];
    }

    /// <summary>Keeps a campaign's steps. Dates become distances from the step before.</summary>
    /// <returns>The pattern's id.</returns>
    public long Save(long campaignId, string name, Actor actor) =>
        database.Write(c =>
        {
            var campaign = CampaignStore.Get(c, campaignId);
            if (c.QuerySingle<bool>("SELECT EXISTS (SELECT 1 FROM campaign_pattern WHERE name = @name COLLATE NOCASE)", new { name }))
                throw new ConflictException($"There is a pattern “{name}” already. Choose another name, or remove that one.");
            return c.QuerySingle<long>(
                "INSERT INTO campaign_pattern (name, mode, steps_json, created_at, created_by) VALUES (@name, @Mode, @steps, "
                    + "@Stamp, @Name) "
                    + "RETURNING id",
                new
                {
                    name,
                    campaign.Mode,
                    steps = JsonSerializer.Serialize(StepsOf(c, campaign)),
                    actor.Stamp,
                    actor.Name,
                }
            );
        });

    /// <summary>Removes a pattern; campaigns that began with it stay.</summary>
    public void Remove(long patternId) =>
        database.Write(c =>
        {
            if (c.Execute("DELETE FROM campaign_pattern WHERE id = @patternId", new { patternId }) == 0)
                throw new NotFoundException("This pattern no longer exists.");
        });

    static List<PatternStep> StepsOf(SqliteConnection c, CampaignRow campaign)
    {
        var steps = CampaignStore.Steps(c, campaign.Id);
        if (steps.Count == 0)
            throw new ConflictException("The campaign has no steps yet.");
        var before = campaign.StartsOn ?? steps.First().OnDate ?? default;
        var dates = StepDates.Of(c, campaign, steps, Calendars.Of(c)).ToDictionary(d => d.Id, d => d.MailOn);
        var kept = new List<PatternStep>();
        foreach (var step in steps)
        {
            var timing = step.Timing;
            if (timing.On is { } date)
                timing = timing with
                {
                    On = null,
                    After = Math.Clamp(date.DayNumber - before.DayNumber, 0, StepTiming.LongestAfter),
                    Unit = StepUnit.Days,
                };
            kept.Add(
                new(
                    step.Name,
                    step.DesignIds,
                    timing,
                    Enum.Parse<StepWho>(step.Who),
                    step.SegmentId is { } segment ? SegmentStore.Get(c, segment).Name : null,
                    step.Condition,
                    step.Skipped
                )
            );
            before = step.OnDate ?? dates[step.Id];
        }
        return kept;
    }

    /// <summary>Gives a campaign the steps of a pattern, for its own list and from its own first day.</summary>
    /// <exception cref="ConflictException">A design is archived, or the list has no segment of that name.</exception>
    public void Use(long patternId, long campaignId, Actor actor) =>
        database.Write(c =>
        {
            var json =
                c.QuerySingleOrDefault<string>("SELECT steps_json FROM campaign_pattern WHERE id = @patternId", new { patternId })
                ?? throw new NotFoundException("This pattern no longer exists.");
            Begin(c, campaignId, JsonSerializer.Deserialize<List<PatternStep>>(json)!, actor);
        });

    /// <summary>Gives a campaign the steps of another, counted from its own first day.</summary>
    public void Copy(long fromId, long toId, Actor actor) =>
        database.Write(c => Begin(c, toId, StepsOf(c, CampaignStore.Get(c, fromId)), actor));

    void Begin(SqliteConnection c, long campaignId, List<PatternStep> steps, Actor actor)
    {
        var campaign = CampaignStore.Get(c, campaignId);
        if (CampaignStore.Steps(c, campaignId).Count > 0)
            throw new ConflictException("The campaign has steps already.");
        foreach (var step in steps)
        {
            long? segment = step.SegmentName is null
                ? null
                : c.QueryFirstOrDefault<long?>(
                    "SELECT id FROM segment WHERE list_id = @ListId AND name = @SegmentName COLLATE NOCASE",
                    new { campaign.ListId, step.SegmentName }
                )
                    ?? throw new ConflictException(
                        $"“{step.Name}” goes to the segment “{step.SegmentName}”, and {campaign.ListName} has none of that name. "
                            + "Save one there first."
                    );
            var id = edits.Add(campaignId, new(step.Name, step.DesignIds, step.Timing, step.Who, segment, step.Condition), null, actor);
            if (step.Skipped)
                edits.Skip(id, true);
        }
    }
}
