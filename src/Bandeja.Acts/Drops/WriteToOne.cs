using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Starters;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Drops;

/// <summary>Somebody to write to alone.</summary>
/// <param name="DesignIds">What they get; nothing for an empty letter.</param>
public sealed record SingleLetter(long ListId, long RecipientId, IReadOnlyList<long> DesignIds);

/// <summary>A single letter that was begun.</summary>
/// <param name="DesignId">The letter that can be changed for them; null where the package has none.</param>
public sealed record StartedSingle(long DropId, long? DesignId);

/// <summary>Writes to one recipient alone: a drop of one piece, recorded like every other.</summary>
[Act("drop.single", Permission.Drops, "Wrote to one recipient")]
public sealed class WriteToOne(DropStore drops, DesignStore designs, SettingStore settings, CheckRequests checks, Surroundings surroundings)
    : Act<SingleLetter, StartedSingle>
{
    const string EmptyName = "Single letter";

    /// <inheritdoc/>
    protected internal override StartedSingle Do(SingleLetter order, Deed deed)
    {
        var chosen = order.DesignIds;
        if (chosen.Count == 0)
            chosen =
            [
                designs.All().FirstOrDefault(d => d.Name == EmptyName && !d.Archived && d.Kind.Rules().IsText)?.Id ?? designs.Create(
                        EmptyName,
                        null,
                        BlankDesign.Single(settings.Organization().Words()).ToJsonString(),
                        deed.Actor,
                        PieceKind.Letter
                    ),
            ];
        var id = drops.CreateSingle(order.ListId, order.RecipientId, chosen, surroundings.Now, deed.Actor);
        checks.Drop(id);
        deed.Changed(Matter.Drop, id);
        return new(id, drops.Drop(id).Package.FirstOrDefault(p => p.Kind.Rules().IsText)?.DesignId);
    }
}
