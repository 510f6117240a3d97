using Bandeja.Core.Drops;
using Dapper;

namespace Bandeja.Store.Drops;

/// <summary>A reason as it stands on the recipients that are held for it.</summary>
public sealed record HoldReason(string Reason, int Count);

/// <summary>Recipients of a drop that are held for one reason.</summary>
/// <param name="Reason">What they are counted under (<see cref="HoldRules.Together"/>).</param>
/// <param name="Each">The same reason as it stands on each: by which other mail, on which day. The most frequent fifty; none where it is no
/// other than <paramref name="Reason"/>.</param>
public sealed record HoldGroup(string Reason, int Count, IReadOnlyList<HoldReason> Each);

/// <summary>Who is held in a drop, by reason. The groups add up to its Held tray.</summary>
public sealed class HoldGroups(Database database)
{
    const int MostEach = 50;

    /// <summary>The reasons with how many are held for each, the most first.</summary>
    /// <exception cref="NotFoundException">The drop does not exist.</exception>
    public IReadOnlyList<HoldGroup> Of(long dropId) =>
        [
            .. Reasons(dropId)
                .GroupBy(r => r.Together)
                .Select(g => new HoldGroup(
                    g.Key,
                    (int)g.Sum(r => r.Count),
                    g.All(r => r.Reason == g.Key)
                        ? []
                        :
                        [
                            .. g.GroupBy(r => r.Reason, r => r.Count)
                                .Select(r => new HoldReason(r.Key, (int)r.Sum()))
                                .OrderByDescending(r => r.Count)
                                .ThenBy(r => r.Reason, StringComparer.Ordinal)
                                .Take(MostEach),
                        ]
                ))
                .OrderByDescending(g => g.Count)
                .ThenBy(g => g.Reason, StringComparer.Ordinal),
        ];

    /// <summary>Who is held for one of the reasons, in the order of their piece numbers.</summary>
    /// <exception cref="NotFoundException">The drop does not exist.</exception>
    public IReadOnlyList<long> Recipients(long dropId, string reason)
    {
        var meant = Reasons(dropId).Where(r => r.Together == reason).Select(r => (r.Rule, r.Reason)).ToHashSet();
        using var c = database.Open();
        return
        [
            .. c.Query<(long Id, string? Rule, string Reason)>(
                    $"SELECT recipient_id, hold_rule, hold_reason {InTray} ORDER BY piece_number",
                    new { dropId },
                    buffered: false
                )
                .Where(r => meant.Contains((r.Rule, r.Reason)))
                .Select(r => r.Id),
        ];
    }

    const string InTray = $"FROM drop_recipient WHERE drop_id = @dropId AND tray = '{nameof(Tray.Held)}'";

    List<(string? Rule, string Reason, string Together, long Count)> Reasons(long dropId)
    {
        using var c = database.Open();
        DropStore.Drop(c, dropId);
        return
        [
            .. c.Query<(string? Rule, string Reason, long Count)>(
                    $"SELECT hold_rule, hold_reason, count(*) {InTray} GROUP BY hold_rule, hold_reason",
                    new { dropId }
                )
                .Select(r => (r.Rule, r.Reason, HoldRules.Together(r.Rule, r.Reason), r.Count)),
        ];
    }
}
