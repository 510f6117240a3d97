using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>A design to start.</summary>
/// <param name="Document">Null for an empty page.</param>
public sealed record StartedDesign(string Name, long? ListId = null, string? Document = null);

/// <summary>Starts a letter, an envelope, a label sheet, or an email, as its document says; answers its id.</summary>
[Act("design.start", Permission.Designs, "Started a design")]
public sealed class StartDesign(DesignStore designs) : Act<StartedDesign, long>
{
    const string EmptyLetter = """
        {
          "page": { "sheet": "letter", "margins": { "top": 25, "right": 25, "bottom": 25, "left": 25 } },
          "type": { "family": "Source Serif 4", "size": 11, "lineSpacing": 1.35, "spaceAfter": 8 },
          "maxPages": 1,
          "content": [{ "type": "paragraph" }]
        }
        """;

    /// <inheritdoc/>
    protected internal override long Do(StartedDesign order, Deed deed)
    {
        var document = order.Document ?? EmptyLetter;
        var kind = DesignGiven.Kind(document);
        var name = DesignGiven.Name(order.Name);
        var id = designs.Create(name, order.ListId, document, deed.Actor, kind);
        deed.Says($"Started the design “{name}”");
        deed.Changed(Matter.DesignCard, id);
        return id;
    }
}
