using Bandeja.Acts.Lists;
using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Duplicates;

/// <summary>Which of two to keep.</summary>
/// <param name="Join">True to fill the kept one's blanks from the other.</param>
public sealed record KeptOne(long ListId, long Keep, long Other, bool Join = true);

/// <summary>Keeps one of two that are the same.</summary>
[Act("duplicates.keep", Permission.Lists, "Kept one of two duplicates")]
public sealed class KeepOne(DuplicateStore duplicates) : Act<KeptOne, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(KeptOne order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return duplicates.Keep(order.ListId, order.Keep, order.Other, order.Join, deed.Actor);
    }
}
