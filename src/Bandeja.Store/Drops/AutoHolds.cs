using System.Text.RegularExpressions;
using Bandeja.Core.Campaigns;
using Bandeja.Core.Drops;
using Bandeja.Core.Formulas;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Core.Recognition;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Drops;

/// <summary>
/// Holds recipients by rule, and releases them when the rule lets go: off the list, not in the drop's segment, suppressed, mailed
/// to as one of a household, mailed enough of late. What somebody releases knowingly stays released. A piece that was produced already
/// is not held: it stays produced, so that it can be marked as mailed, and what the rule says is reported on it.
/// </summary>
public static partial class AutoHolds
{
    /// <summary>What a removal is called in the log, now and before: who was removed follows, then the reason.</summary>
    [GeneratedRegex(@"^(?:Removed|Took) [\d,]+ recipients? (?:from|off) the list(?:: )?")]
    private static partial Regex Removal();

    /// <summary>Why someone who was removed from the list is held: that, and the reason that was given; where another act removed
    /// them, the act.</summary>
    static string RemovedWords(string? label)
    {
        var reason = Removal().Replace(label ?? "", "");
        return reason.Length == 0 ? "Removed from the list" : $"Removed from the list: {reason}";
    }

    /// <summary>Marks a release that a rule made.</summary>
    public const string ByRule = "rule";

    /// <summary>Rules by which somebody has no place in a step's drop at all; by the others they are in it, and held.</summary>
    static readonly string[] NoPlace = ["gone", HoldRules.Left, HoldRules.Step, "segment"];

    /// <summary>Brings the holds of some recipients of a drop, or of all, in line with the rules; those of one household are looked at
    /// together.</summary>
    public static void Sweep(SqliteConnection c, long dropId, IReadOnlyList<long>? recipientIds, ListSurroundings surroundings, Actor actor)
    {
        var drop = DropStore.Drop(c, dropId);
        var rules = new Rules(c, drop, surroundings);
        var ids =
            recipientIds
            ??
            [
                .. c.Query<long>(
                    "SELECT recipient_id FROM drop_recipient WHERE drop_id = @dropId AND tray NOT IN ('Mailed', 'Returned')",
                    new { dropId }
                ),
            ];
        foreach (var batch in ids.Chunk(1000))
        {
            var together = rules.WithTheirOwn(WithHouseholds(c, drop.ListId, batch));
            var states = DropEvents.States(c, dropId, together);
            var notes = c.Query<(long, string)>(
                    "SELECT recipient_id, rule_note FROM drop_recipient WHERE drop_id = @dropId AND rule_note IS NOT NULL AND "
                        + $"recipient_id {IdSet.In}",
                    new { dropId, ids = IdSet.Json(together) }
                )
                .ToDictionary(n => n.Item1, n => n.Item2);
            var events = new List<(long, DropEvent)>();
            foreach (var (id, said) in rules.Of(together, states))
            {
                var why = said;
                if (!states.TryGetValue(id, out var state))
                    continue;
                string? note = null;
                if (!state.IsOut && state.ReturnReason is null)
                {
                    var holds = why is { } rule && !state.Overruled.Contains(rule.Rule);
                    if (state.IsMade)
                    {
                        if (holds)
                            note = why!.Value.Reason;
                        why = null;
                    }
                    if (
                        state.HoldRule is not null
                        && (why is null || why.Value.Rule != state.HoldRule || why.Value.Reason != state.HoldReason)
                    )
                    {
                        events.Add((id, new(DropEventKind.Released, state.HoldReason, [ByRule])));
                        state = state with { HoldReason = null, HoldRule = null };
                    }
                    if (why is { } hold && holds && state.HoldReason is null)
                        events.Add((id, new(DropEventKind.Held, hold.Reason, [hold.Rule])));
                }
                if (notes.GetValueOrDefault(id) != note)
                    c.Execute(
                        "UPDATE drop_recipient SET rule_note = @note WHERE drop_id = @dropId AND recipient_id = @id",
                        new
                        {
                            note,
                            dropId,
                            id,
                        }
                    );
            }
            DropEvents.Append(c, dropId, events, actor, null);
            if (rules.Campaign is { } campaign)
                Leaves.Follow(c, campaign, rules.Left(states.Keys), surroundings.Today, actor);
        }
    }

    /// <summary>Who of a list belongs in a step's drop and is not in it yet, in the order of the list.</summary>
    public static IReadOnlyList<long> Missing(SqliteConnection c, DropRow drop, ListSurroundings surroundings)
    {
        var rules = new Rules(c, drop, surroundings);
        var missing = new List<long>();
        var none = new Dictionary<long, RecipientState>();
        foreach (
            var batch in c.Query<long>(
                    $"""
                    SELECT r.id FROM {RowTable.Name(drop.ListId)} r WHERE r.gone IS NULL
                        AND NOT EXISTS (SELECT 1 FROM drop_recipient WHERE drop_id = @Id AND recipient_id = r.id) ORDER BY r.n
                    """,
                    new { drop.Id }
                )
                .ToList()
                .Chunk(1000)
        )
        {
            var why = rules.Of(batch, none).ToDictionary(w => w.Id, w => w.Why);
            missing.AddRange(batch.Where(id => why.GetValueOrDefault(id) is not { } rule || !NoPlace.Contains(rule.Rule)));
        }
        return missing;
    }

    /// <summary>After something happened to recipients in one drop: where they belong to households, another member may be the one to get
    /// the piece now.</summary>
    internal static void SweepHouseholds(
        SqliteConnection c,
        long dropId,
        IReadOnlyList<long> recipientIds,
        ListSurroundings surroundings,
        Actor actor
    )
    {
        var listId = DropStore.Drop(c, dropId).ListId;
        if (c.QuerySingle<long>("SELECT count(*) FROM household WHERE list_id = @listId", new { listId }) == 0)
            return;
        var members = recipientIds
            .Chunk(5000)
            .SelectMany(ids =>
                c.Query<long>(
                    $"SELECT recipient_id FROM household_person WHERE list_id = @listId AND recipient_id {IdSet.In}",
                    new { listId, ids = IdSet.Json(ids) }
                )
            )
            .ToList();
        if (members.Count > 0)
            Sweep(c, dropId, members, surroundings, actor);
    }

    /// <summary>After recipients of a step's drop left its campaign, or are in it again: in the drops of the other steps they are held, or
    /// released, at once.</summary>
    internal static void SweepSteps(
        SqliteConnection c,
        long dropId,
        IReadOnlyList<long> recipientIds,
        ListSurroundings surroundings,
        Actor actor
    )
    {
        if (recipientIds.Count == 0)
            return;
        var there = c.Query<(long Drop, long Recipient)>(
                $"""
                SELECT m.id, d.recipient_id FROM mail_drop own JOIN mail_drop m ON m.campaign_id = own.campaign_id
                    AND m.step_id IS NOT NULL AND m.id <> own.id
                JOIN drop_recipient d ON d.drop_id = m.id
                WHERE own.id = @dropId AND own.step_id IS NOT NULL AND d.recipient_id {IdSet.In} ORDER BY m.id
                """,
                new { dropId, ids = IdSet.Json(recipientIds) }
            )
            .ToList();
        foreach (var drop in there.GroupBy(t => t.Drop, t => t.Recipient))
            Sweep(c, drop.Key, [.. drop], surroundings, actor);
    }

    static IReadOnlyList<long> WithHouseholds(SqliteConnection c, long listId, IReadOnlyList<long> ids) =>
        [
            .. ids.Union(
                c.Query<long>(
                    "SELECT recipient_id FROM household_person WHERE household_id IN (SELECT household_id FROM household_person "
                        + $"WHERE list_id = @listId AND recipient_id {IdSet.In})",
                    new { listId, ids = IdSet.Json(ids) }
                )
            ),
        ];

    sealed class Rules
    {
        readonly SqliteConnection c;
        readonly DropRow drop;
        readonly ListShape shape;
        readonly SuppressionMatcher suppression;
        readonly MatchKeys keys;
        readonly Filter? filter;
        readonly string? segmentName;
        readonly HashSet<long> ticked = [],
            unticked = [];
        readonly DetailReader details;
        readonly StepRule? step;
        readonly ContactHolds? contact;
        readonly Dictionary<long, (LeaveReason, string)?> left = [];
        readonly HashSet<long> onlyNoEmail = [];
        IReadOnlyDictionary<long, KeptOut> keptOut = new Dictionary<long, KeptOut>();

        /// <summary>The campaign whose step the drop is; null for other drops.</summary>
        public long? Campaign => step is null ? null : drop.CampaignId;

        /// <summary>Why each of some recipients leaves the campaign by what the data say now; null for who does not.</summary>
        public IReadOnlyDictionary<long, (LeaveReason, string)?> Left(IEnumerable<long> ids) =>
            ids.Where(left.ContainsKey).ToDictionary(id => id, id => left[id]);

        public Rules(SqliteConnection c, DropRow drop, ListSurroundings surroundings)
        {
            (this.c, this.drop) = (c, drop);
            shape = ListShape.Of(c, drop.ListId, surroundings);
            suppression = new(c, surroundings.Today);
            keys = new(shape.Columns);
            details = new(c, [], []);
            step = StepRule.Of(c, drop.StepId, shape, drop.MailDate);
            contact = ContactHolds.Of(c, drop, surroundings.Today);
            if (drop.SegmentId is not { } id)
                return;
            var segment = SegmentStore.Get(c, id);
            (filter, segmentName) = (segment.Filter.Length == 0 ? null : shape.Filter(segment.Filter), segment.Name);
            if (filter is not null)
                details = new(c, shape.Details, filter.DetailSets);
            foreach (
                var (recipient, on) in c.Query<(long, bool)>(
                    "SELECT recipient_id, ticked FROM segment_tick WHERE segment_id = @id",
                    new { id }
                )
            )
                (on ? ticked : unticked).Add(recipient);
        }

        /// <summary>Some of the drop's recipients with those who are looked at together with them because of contact limits.</summary>
        public IReadOnlyList<long> WithTheirOwn(IReadOnlyList<long> ids) => contact?.WithTheirOwn(ids) ?? ids;

        public List<(long Id, (string Rule, string Reason)? Why)> Of(
            IReadOnlyList<long> ids,
            IReadOnlyDictionary<long, RecipientState> states
        )
        {
            var list = IdSet.Json(ids);
            var households = c.Query<(long Recipient, long Household)>(
                    "SELECT recipient_id, household_id FROM household_person WHERE list_id = @ListId AND apart IS NULL AND "
                        + $"recipient_id {IdSet.In} ORDER BY household_id, position",
                    new { drop.ListId, ids = list }
                )
                .ToList();
            using var command = c.CreateCommand();
            command.CommandText =
                $"SELECT r.id, r.gone, {RowTable.CellList(shape.Columns)} FROM {RowTable.Name(drop.ListId)} r WHERE r.id {IdSet.In}";
            command.Parameters.AddWithValue("@ids", list);
            var rows = new Dictionary<long, string?[]>();
            var why = new Dictionary<long, (string, string)?>();
            var gone = new HashSet<long>();
            using (var reader = command.ExecuteReader())
                while (reader.Read())
                {
                    rows[reader.GetInt64(0)] = RowTable.Cells(reader, 2, shape.Columns.Count);
                    if (!reader.IsDBNull(1))
                        gone.Add(reader.GetInt64(0));
                }
            var off = WhyGone(gone);
            keptOut = step?.Of(rows) ?? keptOut;
            foreach (var (id, values) in rows)
            {
                why[id] = gone.Contains(id) ? ("gone", off[id]) : Own(id, values, states.GetValueOrDefault(id));
                if (step is not null)
                    left[id] = why[id] switch
                    {
                        ("gone", var words) => (LeaveReason.OffTheList, words),
                        // Who wants no email gets the steps on paper.
                        ("suppression" or "do not mail", var words) when !onlyNoEmail.Contains(id) => (LeaveReason.AskedNot, words),
                        (HoldRules.Left, var words) when keptOut[id].Left == LeaveReason.Condition => (LeaveReason.Condition, words),
                        _ => null,
                    };
            }
            foreach (var home in households.GroupBy(h => h.Household))
            {
                var members = home.Select(h => h.Recipient).Where(m => states.ContainsKey(m) && rows.ContainsKey(m)).ToList();
                // Who has a piece already is the one who gets it; else the first who can.
                var one = members
                    .Where(m => states[m].IsBegun || states[m].IsOut)
                    .Concat(members.Where(m => CanGetIt(states[m], why[m])))
                    .Select(m => (long?)m)
                    .FirstOrDefault();
                if (one is not { } addressee)
                    continue;
                var name = RecipientLabel.Of(shape.Columns, i => rows[addressee][i]).Name;
                foreach (var m in members.Where(m => m != addressee && !states[m].IsBegun))
                    why[m] ??= (HoldRules.Household, $"Household piece goes to {name}");
            }
            if (contact is not null)
                foreach (
                    var (id, reason) in contact.Of(
                        [.. rows.Keys],
                        id => states.TryGetValue(id, out var state) ? CanGetIt(state, why[id]) : why.GetValueOrDefault(id) is null,
                        id => states.TryGetValue(id, out var state) ? state.Channel : drop.Ways,
                        id => states.GetValueOrDefault(id) is { HoldRule: HoldRules.Contact } state ? state.HoldReason : null
                    )
                )
                    why[id] = (HoldRules.Contact, reason);
            return [.. why.Select(w => (w.Key, w.Value))];
        }

        /// <summary>True where neither a person nor another rule keeps the recipient from getting a piece.</summary>
        static bool CanGetIt(RecipientState state, (string Rule, string Reason)? why) =>
            (why is null || state.Overruled.Contains(why.Value.Rule))
            && (state.HoldReason is null || state.HoldRule is not null)
            && state.ReturnReason is null;

        (string, string)? Own(long id, string?[] values, RecipientState? state)
        {
            var match = keys.Of(id, values);
            // No email leaves letters: only where nothing but the email would go out is there a hold.
            if (
                (drop.Ways == Core.Mail.Channel.Email || state is { ChannelByHand: true, Channel: Core.Mail.Channel.Email })
                && suppression.FindEmail(match) is { } noEmail
            )
            {
                if (suppression.Find(match) is null)
                    onlyNoEmail.Add(id);
                return ("suppression", $"No email. {noEmail.ListName}: {noEmail.Reason}");
            }
            if (suppression.Find(match) is { } suppressed)
                return ("suppression", $"{suppressed.ListName}: {suppressed.Reason}");
            if (MailMark.Of(shape.Columns, values) is { } marked)
                return ("do not mail", marked);
            if (keptOut.TryGetValue(id, out var kept))
                return (kept.Left is null ? HoldRules.Step : HoldRules.Left, kept.Words);
            return
                segmentName is not null
                && !ticked.Contains(id)
                && (unticked.Contains(id) || filter?.Passes(new ArrayRow(values, set => details.Rows(id, set))) == false)
                ? ("segment", $"Not in “{segmentName}”")
                : null;
        }

        /// <summary>By which act each of them left the list.</summary>
        Dictionary<long, string> WhyGone(IReadOnlyCollection<long> ids)
        {
            if (ids.Count == 0)
                return [];
            var labels = c.Query<(long Id, string Label)>(
                    $"""
                    SELECT ch.recipient_id, a.label FROM cell_change ch JOIN action a ON a.id = ch.action_id
                    WHERE ch.id IN (SELECT max(id) FROM cell_change WHERE list_id = @ListId AND column_id = 0 AND new IS NULL
                        AND recipient_id {IdSet.In} GROUP BY recipient_id)
                    """,
                    new { drop.ListId, ids = IdSet.Json(ids) }
                )
                .ToDictionary(l => l.Id, l => l.Label);
            return ids.ToDictionary(id => id, id => RemovedWords(labels.GetValueOrDefault(id)));
        }
    }
}
