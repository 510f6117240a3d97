using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Suppressions;

/// <summary>An entry of a suppression list.</summary>
public sealed record SuppressionEntry(long EntryId);

/// <summary>Takes an entry off a suppression list.</summary>
[Act("suppression.remove", Permission.Suppressions, "Removed an entry from a suppression list")]
public sealed class RemoveSuppression(SuppressionStore store) : Act<SuppressionEntry>
{
    /// <inheritdoc/>
    protected override void Carry(SuppressionEntry order, Deed deed)
    {
        store.Remove(order.EntryId, deed.Actor);
        deed.Changed(Matter.Suppression);
    }
}
