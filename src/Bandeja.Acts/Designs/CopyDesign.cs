using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>A copy to make of a design.</summary>
public sealed record CopyOfDesign(long DesignId, string Name);

/// <summary>Makes a design like another; answers its id.</summary>
[Act("design.copy", Permission.Designs, "Copied a design")]
public sealed class CopyDesign(DesignStore designs) : Act<CopyOfDesign, long>
{
    /// <inheritdoc/>
    protected internal override long Do(CopyOfDesign order, Deed deed)
    {
        var id = designs.Duplicate(order.DesignId, DesignGiven.Name(order.Name), deed.Actor);
        deed.Changed(Matter.DesignCard, id);
        return id;
    }
}
