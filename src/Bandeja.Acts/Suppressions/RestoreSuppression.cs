using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Suppressions;

/// <summary>Puts an entry back on its suppression list.</summary>
[Act("suppression.restore", Permission.Suppressions, "Restored an entry of a suppression list")]
public sealed class RestoreSuppression(SuppressionStore store) : Act<SuppressionEntry>
{
    /// <inheritdoc/>
    protected override void Carry(SuppressionEntry order, Deed deed)
    {
        store.Restore(order.EntryId);
        deed.Changed(Matter.Suppression);
    }
}
