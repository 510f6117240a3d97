using Bandeja.Core.Campaigns;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Sequences;

/// <summary>Lets recipients enter and leave campaigns.</summary>
public sealed class CampaignDesk(Database database, Func<ListSurroundings> surroundings)
{
    /// <summary>Puts recipients into a campaign that they go through one by one, from a day on.</summary>
    /// <returns>How many entered; who is in it already stays as they are.</returns>
    public int Enter(long campaignId, IReadOnlyList<long> recipientIds, DateOnly on) =>
        database.Write(c =>
        {
            var campaign = CampaignStore.Get(c, campaignId);
            if (campaign.Goes != CampaignMode.OneByOne)
                throw new ConflictException(
                    "All recipients on the list are already in this campaign. You can add "
                        + "recipients only to a campaign where they go one by one."
                );
            MustBeOn(c, campaign, recipientIds);
            return DailyCollection.Enter(c, campaignId, [.. recipientIds.Select(id => (id, on))]);
        });

    static void MustBeOn(SqliteConnection c, CampaignRow campaign, IReadOnlyList<long> recipientIds)
    {
        if (campaign.ListId is not { } list)
            throw new ConflictException("This campaign has no steps, so recipients cannot enter or leave it. Plan its steps first.");
        var there = recipientIds
            .Chunk(5000)
            .Sum(ids =>
                c.QuerySingle<long>($"SELECT count(*) FROM {RowTable.Name(list)} WHERE id {IdSet.In}", new { ids = IdSet.Json(ids) })
            );
        if (there != recipientIds.Distinct().Count())
            throw new NotFoundException("Some of these recipients are not on the campaign’s list.");
    }

    /// <summary>Lets recipients leave: nobody gets the steps that come. Pieces that wait are held; what was produced is reported, so that
    /// it can be pulled.</summary>
    /// <returns>How many left; who had left before stays as they are.</returns>
    public int Leave(
        long campaignId,
        IReadOnlyList<long> recipientIds,
        DateOnly on,
        LeaveReason reason,
        string? note,
        Actor actor,
        long? responseId = null
    ) =>
        database.Write(c =>
        {
            var campaign = CampaignStore.Get(c, campaignId);
            MustBeOn(c, campaign, recipientIds);
            var left = Leaves.Add(c, campaignId, recipientIds, on, reason, note, actor, responseId);
            Sweep(c, campaignId, recipientIds, actor);
            return left;
        });

    /// <summary>Undoes that recipients left.</summary>
    /// <exception cref="ConflictException">They are suppressed or off the list: that must be undone there.</exception>
    public int Return(long campaignId, IReadOnlyList<long> recipientIds, Actor actor) =>
        database.Write(c =>
        {
            var left = Leaves.Of(c, campaignId, recipientIds);
            if (left.Values.FirstOrDefault(l => l.Why is LeaveReason.AskedNot or LeaveReason.OffTheList) is { } data)
                throw new ConflictException(
                    data.Why == LeaveReason.OffTheList
                        ? "Recipients who were removed from the list are in the campaign again once they are restored there."
                        : "Recipients who asked not to be mailed are in the campaign again once they are removed from the suppression list."
                );
            var back = Leaves.Undo(c, campaignId, recipientIds, actor);
            Sweep(c, campaignId, recipientIds, actor);
            return back;
        });

    /// <summary>Holds and releases recipients in every drop of the campaign's steps.</summary>
    void Sweep(SqliteConnection c, long campaignId, IReadOnlyList<long> recipientIds, Actor actor)
    {
        foreach (var drop in Drops(c, campaignId))
            AutoHolds.Sweep(c, drop, recipientIds, surroundings(), actor);
    }

    /// <summary>The drops of a campaign's steps.</summary>
    /// <param name="onlyTogether">True to leave out those that collected who was due on a day: nothing but what is done to them changes
    /// who is in them.</param>
    public static IReadOnlyList<long> Drops(SqliteConnection c, long campaignId, bool onlyTogether = false) =>
        [
            .. c.Query<long>(
                "SELECT id FROM mail_drop WHERE campaign_id = @campaignId AND step_id IS NOT NULL AND (NOT @onlyTogether OR "
                    + "collects_on IS NULL) "
                    + "ORDER BY id",
                new { campaignId, onlyTogether }
            ),
        ];
}
