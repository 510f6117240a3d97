using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>Which version of a design to restore.</summary>
public sealed record VersionOfDesign(long DesignId, long Number);

/// <summary>Restores an old version of a design as its newest one.</summary>
[Act("design.restore", Permission.Designs, "Restored a version of a design")]
public sealed class RestoreDesignVersion(DesignStore designs) : Act<VersionOfDesign, DesignVersionRow>
{
    /// <inheritdoc/>
    protected internal override DesignVersionRow Do(VersionOfDesign order, Deed deed)
    {
        deed.Says($"Restored version {order.Number} of a design");
        deed.Changed(Matter.Design, order.DesignId);
        return designs.Restore(order.DesignId, order.Number, deed.Actor);
    }
}
