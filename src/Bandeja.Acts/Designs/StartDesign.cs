using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Starters;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>A design to start.</summary>
/// <param name="Document">Null for what a design of its kind begins with.</param>
/// <param name="Kind">What it becomes where it has no document yet.</param>
public sealed record StartedDesign(string Name, long? ListId = null, string? Document = null, PieceKind Kind = PieceKind.Letter);

/// <summary>Starts a letter, an envelope, a label sheet, or an email, as its document says, or blank; answers its id.</summary>
[Act("design.start", Permission.Designs, "Started a design")]
public sealed class StartDesign(DesignStore designs, SettingStore settings) : Act<StartedDesign, long>
{
    /// <inheritdoc/>
    protected internal override long Do(StartedDesign order, Deed deed)
    {
        var document =
            order.Document
            ?? BlankDesign.Of(order.Kind, settings.Organization().Words())?.ToJsonString()
            ?? throw new BadInputException($"A {order.Kind.Rules().Word} starts with a file. Import the PDF to fill in.");
        var kind = DesignGiven.Kind(document);
        var name = DesignGiven.Name(order.Name);
        var id = designs.Create(name, order.ListId, document, deed.Actor, kind);
        deed.Says($"Started the design “{name}”");
        deed.Changed(Matter.DesignCard, id);
        return id;
    }
}
