using Bandeja.Acts.Designs;
using Bandeja.Core.Designs;
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
public sealed class WriteToOne(DropStore drops, DesignStore designs, CheckRequests checks, Surroundings surroundings)
    : Act<SingleLetter, StartedSingle>
{
    const string EmptyName = "Single letter";

    /// <summary>The address, the day, and the greeting; what is to be said is written for the recipient alone.</summary>
    const string Empty = """
        {
          "page": { "sheet": "letter", "margins": { "top": 25, "right": 25, "bottom": 25, "left": 25 } },
          "type": { "family": "Source Serif 4", "size": 11, "lineSpacing": 1.35, "spaceAfter": 8 },
          "content": [
            { "type": "paragraph", "content": [{ "type": "text", "text": "{Delivery address}" }] },
            { "type": "paragraph", "content": [{ "type": "text", "text": "{Today | date long}" }] },
            { "type": "paragraph", "content": [{ "type": "text", "text": "{Salutation}" }] },
            { "type": "paragraph" }
          ]
        }
        """;

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
                        Empty,
                        deed.Actor,
                        DesignGiven.Kind(Empty)
                    ),
            ];
        var id = drops.CreateSingle(order.ListId, order.RecipientId, chosen, surroundings.Now, deed.Actor);
        checks.Drop(id);
        deed.Changed(Matter.Drop, id);
        return new(id, drops.Drop(id).Package.FirstOrDefault(p => p.Kind.Rules().IsText)?.DesignId);
    }
}
