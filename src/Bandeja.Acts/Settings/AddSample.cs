using Bandeja.Acts.Designs;
using Bandeja.Acts.Drops;
using Bandeja.Acts.Lists;
using Bandeja.Core.Starters;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Settings;

/// <summary>The sample to add; it has nothing to choose.</summary>
public sealed record SampleOrder;

/// <summary>Adds a sample to practice on: a list of made-up people, a letter and labels, and a drop.</summary>
[Act("sample.add", Permission.Lists, "Added the sample garden")]
public sealed class AddSample(
    Database database,
    SettingStore settings,
    DesignStore designs,
    DropStore drops,
    CampaignStore campaigns,
    CheckRequests checks,
    ListWork work,
    Surroundings surroundings
) : Act<SampleOrder, SampleParts>
{
    /// <inheritdoc/>
    protected internal override SampleParts Do(SampleOrder order, Deed deed)
    {
        if (settings.Sample() is not null)
            throw new ConflictException("The sample garden is already here.");
        var writer = new RowWriter(database, SampleGarden.Name, null, null, SampleGarden.Columns, deed.Actor);
        foreach (var row in SampleGarden.Rows)
            writer.Add([.. row]);
        writer.Finish([], null);
        var list = writer.ListId;
        work.Check(list);
        var words = settings.Organization().Words();
        if (words.Name.Length == 0)
            words = words with { Name = SampleGarden.Name, Address = ["14 Quay Road", "Fernquay OR 97412"] };
        if (words.Signer.Length == 0)
            words = words with { Signer = "Marisol Quint", SignerTitle = "Keeper of Members" };
        long Design(string starter)
        {
            var from = Starter.All.Single(s => s.Id == starter);
            var id = designs.Create($"{from.Name} (sample)", list, from.Write(words).ToJsonString(), deed.Actor, from.Kind);
            deed.Changed(Matter.DesignCard, id);
            return id;
        }
        long[] made = [Design("letter-formal"), Design("labels")];
        var campaign = campaigns.Create(SampleGarden.Name, deed.Actor);
        var drop = drops.CreateDrop(campaign, "Practice", list, [made[0]], null, deed.Actor, null, surroundings.Now);
        checks.Drop(drop);
        var sample = new SampleParts(list, drop, made);
        settings.SetSample(sample);
        deed.Says("Added the sample garden");
        deed.Changed(Matter.List, list);
        deed.Changed(Matter.Drop, drop);
        deed.Changed(Matter.Settings);
        return sample;
    }
}
