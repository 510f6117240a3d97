using Bandeja.Core.Campaigns;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Campaigns;

/// <summary>Why somebody on the list does not get a step.</summary>
/// <param name="Left">The reason, where they leave the campaign by it.</param>
public sealed record KeptOut(string Words, LeaveReason? Left = null);

/// <summary>Who of a list does not get a step: they left the campaign, or do not meet the step's condition. The segment of a step is its
/// drop's. Serves one thread and one transaction.</summary>
public sealed class StepRule
{
    readonly SqliteConnection c;
    readonly CampaignRow campaign;
    readonly StepRow step;
    readonly IReadOnlyList<StepRow> before;
    readonly StepFields fields;
    readonly Filter? condition,
        stay;
    readonly DetailReader details;
    readonly DateOnly asOf,
        today;
    readonly DayWords days;

    StepRule(SqliteConnection c, StepRow step, ListShape shape, DateOnly asOf)
    {
        (this.c, this.step, this.asOf, today) = (c, step, asOf, shape.Surroundings.Today);
        days = shape.Surroundings.Locale.Days;
        campaign = CampaignStore.Get(c, step.CampaignId);
        before = [.. CampaignStore.Steps(c, step.CampaignId).Where(s => s.Position < step.Position)];
        fields = new(shape.Columns, [.. before.Select(s => s.Name)]);
        condition = Parse(step.Condition, fields.Columns, shape);
        stay = campaign.StayFilter.Length == 0 ? null : shape.Filter(campaign.StayFilter);
        details = new(c, shape.Details, [.. (condition?.DetailSets ?? []).Union(stay?.DetailSets ?? [])]);
    }

    /// <summary>Reads it; null for a drop of no step.</summary>
    /// <param name="mailDate">For when the drop is planned: days are counted up to it, or up to today where that is later.</param>
    /// <exception cref="ConflictException">A condition has a mistake.</exception>
    public static StepRule? Of(SqliteConnection c, long? stepId, ListShape shape, DateOnly? mailDate) =>
        stepId is { } id
            ? new(
                c,
                CampaignStore.Step(c, id),
                shape,
                mailDate is { } date && date > shape.Surroundings.Today ? date : shape.Surroundings.Today
            )
            : null;

    /// <summary>The condition of a step, bound to a list and the steps before it.</summary>
    /// <exception cref="BadInputException">It has a mistake; the sentence says which.</exception>
    public static void Check(string text, ListShape shape, IReadOnlyList<StepRow> steps, long position)
    {
        var names = steps.Where(s => s.Position < position).Select(s => s.Name).ToList();
        try
        {
            Parse(text, new StepFields(shape.Columns, names).Columns, shape);
        }
        catch (ConflictException e)
        {
            var later = steps.FirstOrDefault(s => s.Position >= position && text.Contains(s.Name, StringComparison.OrdinalIgnoreCase));
            throw new BadInputException(
                later is null ? e.Message
                : later.Position == position ? $"A condition cannot ask about its own step, “{later.Name}”."
                : $"“{later.Name}” comes after this step. A condition can ask only about the steps before it."
            );
        }
    }

    static Filter? Parse(string text, IReadOnlyList<Column> columns, ListShape shape)
    {
        if (text.Length == 0)
            return null;
        return Filter.Parse(text, columns, shape.Surroundings.Today, shape.Surroundings.Locale, out var errors, shape.Details)
            ?? throw new ConflictException($"The condition cannot be used: {errors[0].Message}");
    }

    /// <summary>Those of some recipients who do not get the step.</summary>
    /// <param name="rows">Their values in the list.</param>
    public IReadOnlyDictionary<long, KeptOut> Of(IReadOnlyDictionary<long, string?[]> rows)
    {
        var kept = new Dictionary<long, KeptOut>();
        var left = Leaves.Of(c, campaign.Id, [.. rows.Keys]);
        var overruled = stay is null ? [] : Leaves.Overruled(c, campaign.Id, [.. rows.Keys]);
        var facts = condition is null ? null : Facts([.. rows.Keys]);
        var other = campaign.Goes == CampaignMode.OneByOne ? NotNext([.. rows.Keys]) : [];
        foreach (var (id, values) in rows)
        {
            // What follows from the data of now is asked anew: a leaving that was recorded for it may be over.
            if (left.TryGetValue(id, out var leave) && (!leave.Why.FollowsFromData() || leave.Why == LeaveReason.Undeliverable))
                kept[id] = new($"Left the campaign {days.Short(leave.OnDate)}: {leave.Words}", leave.Why);
            else if (
                stay is not null
                && !overruled.Contains((id, LeaveReason.Condition))
                && !stay.Passes(new ArrayRow(values, set => details.Rows(id, set)))
            )
                kept[id] = new($"Left the campaign: {LeaveReason.Condition.Words()}", LeaveReason.Condition);
            else if (step.Skipped)
                kept[id] = new("The step is skipped");
            else if (other.Contains(id))
                kept[id] = new("Waits for an earlier step");
            else if (
                condition is not null
                && !condition.Passes(new ArrayRow(fields.Values(values, facts![id], asOf), set => details.Rows(id, set)))
            )
                kept[id] = new($"Does not meet the condition of “{step.Name}”");
        }
        return kept;
    }

    /// <summary>One by one: those for whom another step comes next, as after a mailing was undone or a step was inserted.</summary>
    HashSet<long> NotNext(IReadOnlyList<long> ids) =>
        [
            .. c.Query<long>(
                $"""
                SELECT recipient_id FROM campaign_person WHERE campaign_id = @CampaignId AND next_step_id IS NOT NULL
                    AND next_step_id <> @Id AND recipient_id {IdSet.In}
                """,
                new
                {
                    step.CampaignId,
                    step.Id,
                    ids = IdSet.Json(ids),
                }
            ),
        ];

    /// <summary>What happened to recipients before. A step that is not mailed yet counts with the date for which it is planned, for
    /// whoever is to get it: so the steps after it can be looked at early.</summary>
    Dictionary<long, StepFacts> Facts(IReadOnlyList<long> ids)
    {
        var place = before.Select((s, i) => (s.Id, i)).ToDictionary(x => x.Id, x => x.i);
        var list = IdSet.Json(ids);
        var facts = ids.ToDictionary(
            id => id,
            _ => (Mailed: new DateOnly?[before.Count], Returned: new bool[before.Count], On: (DateOnly?)null, Cents: 0L)
        );
        foreach (
            var (id, of, tray, out_, planned) in c.Query<(long, long, string, DateOnly?, DateOnly?)>(
                $"""
                SELECT d.recipient_id, m.step_id, d.tray, coalesce(d.mailed_on, d.emailed_on), m.mail_date FROM drop_recipient d
                CROSS JOIN mail_drop m ON m.id = d.drop_id
                WHERE d.recipient_id {IdSet.In} AND m.campaign_id = @Id AND m.step_id IS NOT NULL
                """,
                new { campaign.Id, ids = list }
            )
        )
        {
            if (!place.TryGetValue(of, out var at) || tray == nameof(Core.Drops.Tray.Held))
                continue;
            var fact = facts[id];
            // What should have been mailed by now and was not is mailed today at the earliest.
            if ((out_ ?? (planned < today ? today : planned)) is { } on && !(fact.Mailed[at] > on))
                fact.Mailed[at] = on;
            fact.Returned[at] |= tray == nameof(Core.Drops.Tray.Returned);
        }
        foreach (
            var (id, on, cents) in c.Query<(long, DateOnly, long)>(
                $"""
                SELECT r.recipient_id, min(r.on_date), coalesce(sum(r.cents), 0) FROM response r
                CROSS JOIN mail_drop m ON m.id = r.drop_id WHERE r.recipient_id {IdSet.In} AND m.campaign_id = @Id AND r.undone_at IS NULL
                GROUP BY r.recipient_id
                """,
                new { campaign.Id, ids = list }
            )
        )
            facts[id] = facts[id] with { On = on, Cents = cents };
        return facts.ToDictionary(f => f.Key, f => new StepFacts(f.Value.Mailed, f.Value.Returned, f.Value.On, f.Value.Cents / 100m));
    }
}
