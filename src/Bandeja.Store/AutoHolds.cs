using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>
/// Holds recipients by rule, and releases them when the rule lets go: off the list, not in the drop's segment, suppressed, mailed
/// to as one of a household. What somebody releases knowingly stays released.
/// </summary>
public static class AutoHolds
{
    /// <summary>Marks a release that a rule made.</summary>
    public const string ByRule = "rule";

    /// <summary>Brings the holds of some recipients of a drop, or of all, in line with the rules.</summary>
    public static void Sweep(SqliteConnection c, long dropId, IReadOnlyList<long>? recipientIds, ListSurroundings surroundings, Actor actor)
    {
        var drop = DropStore.Drop(c, dropId);
        var rules = new Rules(c, drop, surroundings);
        var ids = recipientIds ?? [.. c.Query<long>("SELECT recipient_id FROM drop_recipient WHERE drop_id = @dropId AND tray NOT IN ('Mailed', 'Returned')", new { dropId })];
        foreach (var batch in ids.Chunk(1000))
        {
            var states = DropEvents.States(c, dropId, batch);
            var events = new List<(long, DropEvent)>();
            foreach (var (id, why) in rules.Of(batch))
            {
                if (!states.TryGetValue(id, out var state) || state.IsOut || state.ReturnReason is not null) continue;
                if (state.HoldRule is not null && (why is null || why.Value.Rule != state.HoldRule || why.Value.Reason != state.HoldReason))
                {
                    events.Add((id, new(DropEventKind.Released, state.HoldReason, [ByRule])));
                    state = state with { HoldReason = null, HoldRule = null };
                }
                if (why is { } hold && state.HoldReason is null && !state.Overruled.Contains(hold.Rule)) events.Add((id, new(DropEventKind.Held, hold.Reason, [hold.Rule])));
            }
            DropEvents.Append(c, dropId, events, actor, null);
        }
    }

    sealed class Rules
    {
        readonly SqliteConnection c;
        readonly DropRow drop;
        readonly ListShape shape;
        readonly SuppressionMatcher suppression;
        readonly MatchKeys keys;
        readonly Filter? filter;
        readonly string? segmentName;
        readonly HashSet<long> ticked = [], unticked = [];
        readonly DetailReader details;

        public Rules(SqliteConnection c, DropRow drop, ListSurroundings surroundings)
        {
            (this.c, this.drop) = (c, drop);
            shape = ListShape.Of(c, drop.ListId, surroundings);
            suppression = new(c, surroundings.Today);
            keys = new(shape.Columns);
            details = new(c, [], []);
            if (drop.SegmentId is not { } id) return;
            var segment = SegmentStore.Get(c, id);
            (filter, segmentName) = (segment.Filter.Length == 0 ? null : shape.Filter(segment.Filter), segment.Name);
            if (filter is not null) details = new(c, shape.Details, filter.DetailSets);
            foreach (var (recipient, on) in c.Query<(long, bool)>("SELECT recipient_id, ticked FROM segment_tick WHERE segment_id = @id", new { id })) (on ? ticked : unticked).Add(recipient);
        }

        public List<(long Id, (string Rule, string Reason)? Why)> Of(IReadOnlyList<long> ids)
        {
            var list = string.Join(',', ids);
            var addressees = c.Query<(long, long)>($"SELECT recipient_id, addressee_id FROM household_member WHERE list_id = @ListId AND recipient_id IN ({list})", new { drop.ListId }).ToDictionary(h => h.Item1, h => h.Item2);
            using var command = c.CreateCommand();
            command.CommandText = $"SELECT r.id, r.gone, {RowTable.CellList(shape.Columns)} FROM {RowTable.Name(drop.ListId)} r WHERE r.id IN ({list})";
            var rows = new List<(long Id, bool Gone, string?[] Values)>();
            using (var reader = command.ExecuteReader())
                while (reader.Read()) rows.Add((reader.GetInt64(0), !reader.IsDBNull(1), RowTable.Cells(reader, 2, shape.Columns.Count)));
            return [.. rows.Select(r => (r.Id, Why(r.Id, r.Gone, r.Values, addressees)))];
        }

        (string, string)? Why(long id, bool gone, string?[] values, Dictionary<long, long> addressees)
        {
            if (gone) return ("gone", WhyGone(id));
            if (suppression.Find(keys.Of(id, values)) is { } suppressed) return ("suppression", $"{suppressed.ListName}: {suppressed.Reason}");
            if (segmentName is not null && !ticked.Contains(id) && (unticked.Contains(id) || filter?.Passes(new ArrayRow(values, set => details.Rows(id, set))) == false)) return ("segment", $"Not in “{segmentName}”");
            if (!addressees.TryGetValue(id, out var addressee)) return null;
            var name = RecipientLabel.Of(shape.Columns, i => ListStore.Recipient(c, drop.ListId, shape.Columns, addressee).Values[i]).Name;
            return ("household", $"One piece for the household: see {name}");
        }

        string WhyGone(long id)
        {
            var label = c.QueryFirstOrDefault<string?>("SELECT a.label FROM cell_change ch JOIN action a ON a.id = ch.action_id WHERE ch.list_id = @ListId AND ch.recipient_id = @id AND ch.column_id = 0 AND ch.new IS NULL ORDER BY ch.id DESC LIMIT 1", new { drop.ListId, id });
            return $"Off the list{(label is null ? "" : $": {label}")}";
        }
    }
}
