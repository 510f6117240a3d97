using Bandeja.Store.Sequences;

namespace Bandeja.Acts.Campaigns;

/// <summary>A campaign whose steps are kept.</summary>
public sealed record KeptPattern(long CampaignId, string Name);

/// <summary>Keeps a campaign's steps as a pattern; answers its id.</summary>
[Act("pattern.save", Permission.Drops, "Saved a pattern")]
public sealed class SavePattern(Patterns patterns) : Act<KeptPattern, long>
{
    /// <inheritdoc/>
    protected internal override long Do(KeptPattern order, Deed deed)
    {
        var name = Given.Name(order.Name, "pattern");
        deed.Says($"Saved the pattern “{name}”");
        return patterns.Save(order.CampaignId, name, deed.Actor);
    }
}
