using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;
using Bandeja.Work.Documents;

namespace Bandeja.Acts.Designs;

/// <summary>A design to remove.</summary>
public sealed record RemovedDesign(long DesignId);

/// <summary>Removes a design that nothing uses and nothing was produced with.</summary>
[Act("design.remove", Permission.Designs, "Removed a design")]
public sealed class RemoveDesign(Removals removals, DocumentFiles documents) : Act<RemovedDesign>
{
    /// <inheritdoc/>
    protected override void Carry(RemovedDesign order, Deed deed)
    {
        deed.Says($"Removed the design “{removals.OfDesign(order.DesignId).Name}”");
        removals.RemoveDesign(order.DesignId);
        documents.SweepLater();
        deed.Changed(Matter.Design, order.DesignId);
    }
}
