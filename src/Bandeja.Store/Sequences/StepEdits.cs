using System.Text.Json;
using Bandeja.Core.Campaigns;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>A step as somebody plans it.</summary>
public sealed record StepPlan(
    string Name,
    IReadOnlyList<long> DesignIds,
    StepTiming Timing,
    StepWho Who = StepWho.Everyone,
    long? SegmentId = null,
    string Condition = ""
);

/// <summary>How a campaign with steps begins.</summary>
public sealed record SequencePlan(
    long ListId,
    CampaignMode Mode,
    DateOnly StartsOn,
    Entry Entry,
    string EntryFilter,
    string StayFilter,
    int ResponseDays
);

/// <summary>Plans the steps of campaigns and changes them, also while people are on their way.</summary>
public sealed class StepEdits(Database database, Func<ListSurroundings> surroundings)
{
    /// <summary>More than anybody plans, and few enough to be told at a glance.</summary>
    public const int MostSteps = 60;

    /// <summary>Lets a campaign have steps: its list, and how recipients go through them. Before the first step is mailed it can be said
    /// again.</summary>
    public void Plan(long campaignId, SequencePlan plan, Actor actor) =>
        database.Write(c =>
        {
            var campaign = CampaignStore.Get(c, campaignId);
            if (plan.Mode == CampaignMode.Drops)
                throw new BadInputException("Choose how recipients go through the steps: together, or one by one.");
            if (plan.ResponseDays is < 1 or > 3650)
                throw new BadInputException("A piece can be credited with a response for 1 to 3,650 days.");
            if (plan.StartsOn is { Year: < 2000 or > 2200 })
                throw new BadInputException("A campaign must start between 2000 and 2200.");
            var list = ListStore.Get(c, plan.ListId);
            var steps = CampaignStore.Steps(c, campaignId);
            if (steps.Count > 0 && (campaign.ListId != plan.ListId || campaign.Goes != plan.Mode))
                throw new ConflictException(
                    "The campaign has steps, so its list and mode cannot change. Copy the campaign, or save its steps as a pattern."
                );
            var shape = ListShape.Of(c, list.Id, surroundings());
            foreach (var text in (string[])[plan.StayFilter, plan.Entry == Entry.Condition ? plan.EntryFilter : ""])
                if (text.Length > 0)
                    shape.Filter(text);
            if (plan.Mode == CampaignMode.OneByOne && plan.Entry == Entry.Condition && plan.EntryFilter.Length == 0)
                throw new BadInputException("Enter the condition for entering the campaign, or choose another option.");
            c.Execute(
                $"""
                UPDATE campaign SET mode = @mode, list_id = @ListId, starts_on = @StartsOn, entry = @entry, entry_filter = @EntryFilter,
                    stay_filter = @StayFilter, response_days = @ResponseDays, revision = revision + 1, entry_after = CASE
                        WHEN mode <> 'Drops' AND entry = @entry THEN entry_after
                        WHEN @entry = '{nameof(Entry.Added)}' THEN (SELECT coalesce(max(id), 0) FROM {RowTable.Name(list.Id)}) ELSE 0 END
                WHERE id = @campaignId
                """,
                new
                {
                    campaignId,
                    mode = plan.Mode.ToString(),
                    plan.ListId,
                    plan.StartsOn,
                    entry = plan.Entry.ToString(),
                    plan.EntryFilter,
                    plan.StayFilter,
                    plan.ResponseDays,
                }
            );
            if (campaign.Goes == CampaignMode.Drops && plan.Mode == CampaignMode.Together)
                TakeUpDrops(c, campaignId, list.Id, actor);
            StepDates.Refresh(c, campaignId);
        });

    /// <summary>Drops that a campaign had before it had steps become its steps, in their order, with their dates and everyone in
    /// them.</summary>
    static void TakeUpDrops(SqliteConnection c, long campaignId, long listId, Actor actor)
    {
        var position = 0;
        foreach (
            var drop in c.Query<(long Id, string Name, DateOnly? On, long? Segment)>(
                    "SELECT id, name, mail_date, segment_id FROM mail_drop WHERE campaign_id = @campaignId AND list_id = @listId "
                        + "AND remails IS "
                        + "NULL AND single = 0 ORDER BY mail_date IS NULL, mail_date, number",
                    new { campaignId, listId }
                )
                .ToList()
        )
        {
            var name = drop.Name;
            for (
                var n = 2;
                c.QuerySingle<bool>(
                    "SELECT EXISTS (SELECT 1 FROM campaign_step WHERE campaign_id = @campaignId AND name = @name COLLATE NOCASE)",
                    new { campaignId, name }
                );
                n++
            )
                name = $"{drop.Name} {n}";
            var designs = c.Query<long>("SELECT design_id FROM drop_design WHERE drop_id = @Id ORDER BY position", new { drop.Id })
                .ToList();
            var id = c.QuerySingle<long>(
                """
                INSERT INTO campaign_step (campaign_id, position, name, who, segment_id, on_date, after, designs)
                VALUES (@campaignId, @position, @name, @who, @Segment, @On, @after, @designs) RETURNING id
                """,
                new
                {
                    campaignId,
                    position = ++position,
                    name,
                    who = (drop.Segment is null ? StepWho.Everyone : StepWho.Segment).ToString(),
                    drop.Segment,
                    drop.On,
                    after = position == 1 ? 0 : 20,
                    designs = JsonSerializer.Serialize(designs),
                }
            );
            c.Execute("UPDATE mail_drop SET step_id = @id, changes = changes + 1 WHERE id = @Id2", new { id, Id2 = drop.Id });
            foreach (
                var back in c.Query<(long Recipient, DateOnly? On)>(
                        """
                        SELECT d.recipient_id, (SELECT max(date) FROM drop_event e WHERE e.recipient_id = d.recipient_id
                            AND e.drop_id = d.drop_id AND e.kind = 'Returned') FROM drop_recipient d
                        WHERE d.drop_id = @Id AND d.tray = 'Returned'
                        """,
                        new { drop.Id }
                    )
                    .ToList()
                    .GroupBy(b => b.On)
            )
                Leaves.Add(
                    c,
                    campaignId,
                    [.. back.Select(b => b.Recipient)],
                    back.Key ?? DateOnly.FromDateTime(actor.At.DateTime),
                    LeaveReason.Undeliverable,
                    null,
                    actor
                );
        }
    }

    /// <summary>Adds a step before another, or after all.</summary>
    /// <returns>The step's id.</returns>
    public long Add(long campaignId, StepPlan plan, long? beforeStepId, Actor actor) =>
        database.Write(c =>
        {
            var campaign = CampaignStore.Get(c, campaignId);
            var steps = CampaignStore.Steps(c, campaignId);
            if (campaign.ListId is null)
                throw new ConflictException("First choose the campaign’s list and how recipients go through it.");
            if (steps.Count >= MostSteps)
                throw new ConflictException($"A campaign can have {MostSteps} steps.");
            var position = beforeStepId is { } before
                ? (steps.FirstOrDefault(s => s.Id == before) ?? throw new NotFoundException("This step no longer exists.")).Position
                : steps.Count + 1;
            if (
                steps.FirstOrDefault(s => s.Position >= position && MailedAny(c, s.Id)) is { } mailed
                && campaign.Goes == CampaignMode.Together
            )
                throw new ConflictException($"“{mailed.Name}” was already mailed, so no step can be inserted before it.");
            Check(c, campaign, steps, plan, position, null);
            c.Execute(
                "UPDATE campaign_step SET position = position + 1 WHERE campaign_id = @campaignId AND position >= @position",
                new { campaignId, position }
            );
            var id = c.QuerySingle<long>(
                """
                INSERT INTO campaign_step (campaign_id, position, name, who, segment_id, condition, on_date, after, unit, ready_days,
                    weekday,
                    designs)
                VALUES (@campaignId, @position, @Name, @who, @SegmentId, @Condition, @On, @After, @unit, @ReadyDays, @weekday, @designs)
                RETURNING id
                """,
                Values(campaignId, position, null, plan)
            );
            var step = CampaignStore.Step(c, id);
            if (campaign.Goes == CampaignMode.Together)
                StepDrops.Create(c, step, step.Name, surroundings().Today, null, actor);
            Follow(c, campaign);
            return id;
        });

    static object Values(long campaignId, long position, long? stepId, StepPlan plan) =>
        new
        {
            campaignId,
            position,
            stepId,
            plan.Name,
            who = plan.Who.ToString(),
            SegmentId = plan.Who == StepWho.Segment ? plan.SegmentId : null,
            Condition = plan.Who == StepWho.Condition ? plan.Condition : "",
            plan.Timing.On,
            plan.Timing.After,
            unit = plan.Timing.Unit.ToString(),
            plan.Timing.ReadyDays,
            weekday = (int?)plan.Timing.Weekday,
            designs = JsonSerializer.Serialize(plan.DesignIds),
        };

    void Check(SqliteConnection c, CampaignRow campaign, IReadOnlyList<StepRow> steps, StepPlan plan, long position, long? but)
    {
        if (plan.Timing.Objection is { } objection)
            throw new BadInputException(objection);
        if (steps.Any(s => s.Id != but && string.Equals(s.Name, plan.Name, StringComparison.OrdinalIgnoreCase)))
            throw new ConflictException($"The campaign has another step “{plan.Name}”. Choose another name.");
        if (plan.Timing.On is { } date && campaign.Goes == CampaignMode.Together)
        {
            var before = steps.LastOrDefault(s => s.Position < position && s.Id != but && s.OnDate > date);
            var days = surroundings().Locale.Days;
            if (before is not null)
                throw new ConflictException(
                    $"{days.Of(date)} is before “{before.Name}”, which is mailed {days.Of(before.OnDate!.Value)}. Choose a later date."
                );
        }
        if (plan.Who == StepWho.Segment && (plan.SegmentId is not { } segment || SegmentStore.Get(c, segment).ListId != campaign.ListId))
            throw new BadInputException("Choose a segment of the campaign’s list.");
        if (plan.Who == StepWho.Condition)
        {
            if (plan.Condition.Length == 0)
                throw new BadInputException("Enter the condition, or choose all recipients.");
            // The step itself stands among those that a condition cannot ask about.
            var all = steps
                .Where(s => s.Id != but)
                .Select(s => s.Position >= position && but is null ? s with { Position = s.Position + 1 } : s)
                .Append(new StepRow { Name = plan.Name, Position = position })
                .OrderBy(s => s.Position)
                .ToList();
            StepRule.Check(plan.Condition, ListShape.Of(c, campaign.ListId!.Value, surroundings()), all, position);
        }
        foreach (var id in plan.DesignIds)
            if (c.QuerySingleOrDefault<bool?>("SELECT archived FROM design WHERE id = @id", new { id }) is not { } archived)
                throw new NotFoundException($"A design of “{plan.Name}” no longer exists. Choose another.");
            else if (archived)
                throw new ConflictException(
                    $"“{c.QuerySingle<string>("SELECT name FROM design WHERE id = @id", new { id })}” of “{plan.Name}” is archived. "
                        + "Restore it, or choose another design."
                );
        if (plan.DesignIds.Count == 0)
            throw new BadInputException($"Choose what “{plan.Name}” mails: at least one design.");
    }

    /// <summary>Changes a step. What was produced of it stays as it was.</summary>
    public void Change(long stepId, StepPlan plan) =>
        database.Write(c =>
        {
            var step = CampaignStore.Step(c, stepId);
            var campaign = CampaignStore.Get(c, step.CampaignId);
            var steps = CampaignStore.Steps(c, step.CampaignId);
            Check(c, campaign, steps, plan, step.Position, stepId);
            if (step.Name != plan.Name)
                Conditions.FollowStep(c, campaign, step, plan.Name, surroundings().Locale);
            c.Execute(
                """
                UPDATE campaign_step SET name = @Name, who = @who, segment_id = @SegmentId, condition = @Condition, on_date = @On,
                    after = @After, unit = @unit, ready_days = @ReadyDays, weekday = @weekday, designs = @designs WHERE id = @stepId
                """,
                Values(campaign.Id, step.Position, stepId, plan)
            );
            StepDrops.Follow(c, CampaignStore.Step(c, stepId));
            Follow(c, campaign);
        });

    /// <summary>Mails a step on another day: it has a date from now on.</summary>
    public void Move(long stepId, DateOnly date) =>
        database.Write(c =>
        {
            var step = CampaignStore.Step(c, stepId);
            // Where only a part has left, the rest still can be mailed on another day.
            if (
                CampaignStore.Get(c, step.CampaignId).Goes == CampaignMode.Together
                && StepDates.MailedOn(c, step.CampaignId).ContainsKey(stepId)
            )
                throw new ConflictException($"“{step.Name}” was mailed already, so its date stays.");
            Change(stepId, PlanOf(step) with { Timing = step.Timing with { On = date } });
        });

    /// <summary>Gives a step another name.</summary>
    public void Rename(long stepId, string name) =>
        database.Write(c => Change(stepId, PlanOf(CampaignStore.Step(c, stepId)) with { Name = name }));

    /// <summary>A step as it is planned.</summary>
    public static StepPlan PlanOf(StepRow step) =>
        new(step.Name, step.DesignIds, step.Timing, Enum.Parse<StepWho>(step.Who), step.SegmentId, step.Condition);

    /// <summary>Skips a step, or takes it up again: nobody gets it, and its date counts for the steps after it.</summary>
    public void Skip(long stepId, bool skipped) =>
        database.Write(c =>
        {
            var step = CampaignStore.Step(c, stepId);
            if (skipped && MailedAny(c, stepId) && CampaignStore.Get(c, step.CampaignId).Goes == CampaignMode.Together)
                throw new ConflictException($"“{step.Name}” was mailed already, so it cannot be skipped.");
            c.Execute("UPDATE campaign_step SET skipped = @skipped WHERE id = @stepId", new { stepId, skipped });
            c.Execute("UPDATE mail_drop SET changes = changes + 1 WHERE step_id = @stepId", new { stepId });
            Follow(c, CampaignStore.Get(c, step.CampaignId));
        });

    /// <summary>Removes a step of which nothing was produced.</summary>
    public void Remove(long stepId) =>
        database.Write(c =>
        {
            var step = CampaignStore.Step(c, stepId);
            if (
                c.QuerySingle<bool>(
                    "SELECT EXISTS (SELECT 1 FROM run r JOIN mail_drop m ON m.id = r.drop_id WHERE m.step_id = @stepId)",
                    new { stepId }
                )
            )
                throw new ConflictException($"Pieces of “{step.Name}” were produced, so it stays. Skip it instead.");
            var later = Conditions.AskingAbout(c, CampaignStore.Get(c, step.CampaignId), step, surroundings().Locale);
            if (later is not null)
                throw new ConflictException(
                    $"The condition of “{later.Name}” asks about “{step.Name}”. Change it first, or skip the step."
                );
            foreach (var drop in c.Query<long>("SELECT id FROM mail_drop WHERE step_id = @stepId", new { stepId }).ToList())
                Removals.RemoveDrop(c, drop);
            c.Execute("DELETE FROM campaign_step WHERE id = @stepId", new { stepId });
            c.Execute(
                "UPDATE campaign_step SET position = position - 1 WHERE campaign_id = @CampaignId AND position > @Position",
                new { step.CampaignId, step.Position }
            );
            Follow(c, CampaignStore.Get(c, step.CampaignId));
        });

    static void Follow(SqliteConnection c, CampaignRow campaign)
    {
        CampaignStore.Changed(c, campaign.Id);
        StepDates.Refresh(c, campaign.Id);
        if (campaign.Goes == CampaignMode.OneByOne)
            PersonClocks.RefreshAll(c, campaign.Id);
    }

    static bool MailedAny(SqliteConnection c, long stepId) =>
        c.QuerySingle<bool>(
            "SELECT EXISTS (SELECT 1 FROM drop_sum s JOIN mail_drop m ON m.id = s.drop_id WHERE m.step_id = @stepId AND s.day <> '' "
                + "AND s.pieces > 0)",
            new { stepId }
        );
}
