using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Lists;

/// <summary>A set of detail rows to remove.</summary>
public sealed record RemovedDetails(long Id);

/// <summary>Removes a set of detail rows.</summary>
[Act("list.remove-details", Permission.Lists, "Removed detail rows")]
public sealed class RemoveDetails(DetailStore details) : Act<RemovedDetails>
{
    /// <inheritdoc/>
    protected override void Carry(RemovedDetails order, Deed deed) => deed.Changed(Matter.List, details.Remove(order.Id));
}
