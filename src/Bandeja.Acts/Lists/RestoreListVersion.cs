using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Lists;

/// <summary>Which version of a list to restore.</summary>
public sealed record ListVersion(long ListId, long Number);

/// <summary>Restores a version of a list.</summary>
[Act("list.restore", Permission.Lists, "Restored a version of a list")]
public sealed class RestoreListVersion(VersionStore versions) : Act<ListVersion, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(ListVersion order, Deed deed)
    {
        var outcome = versions.BringBack(order.ListId, order.Number, deed.Actor);
        deed.Says($"Restored version {order.Number} of a list");
        deed.ChangedList(order.ListId);
        return outcome;
    }
}
