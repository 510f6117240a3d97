using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Sequences;

namespace Bandeja.Work.Announcing;

/// <summary>Asks for what follows from a change of a campaign: checks of its steps' drops, and collecting who is due.</summary>
public sealed class SequenceWork(Database database, CampaignStore campaigns, CheckRequests checks)
{
    /// <summary>After steps changed: their drops are checked, and who is due is collected.</summary>
    public void Follow(long campaignId)
    {
        Check(campaignId);
        if (campaigns.Get(campaignId).Goes == Core.Campaigns.CampaignMode.OneByOne)
            checks.Collect();
    }

    /// <summary>Checks the drops of a campaign's steps, as far as they are not up to date.</summary>
    public void Check(long campaignId) =>
        database.AfterCommit(() =>
        {
            IReadOnlyList<long> drops;
            using (var c = database.Open())
                drops = CampaignDesk.Drops(c, campaignId, onlyTogether: true);
            foreach (var drop in drops)
                checks.Freshness(drop);
        });

    /// <summary>As <see cref="Check"/>, for all campaigns.</summary>
    public void CheckAll()
    {
        foreach (var campaign in campaigns.All())
            Check(campaign.Id);
    }
}
