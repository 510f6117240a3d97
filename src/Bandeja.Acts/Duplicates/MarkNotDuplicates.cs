using Bandeja.Acts.Lists;
using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Duplicates;

/// <summary>Two who are not the same.</summary>
public sealed record NotDuplicates(long ListId, long A, long B);

/// <summary>Marks two as different for good.</summary>
[Act("duplicates.not", Permission.Lists, "Marked two as not duplicates")]
public sealed class MarkNotDuplicates(DuplicateStore duplicates) : Act<NotDuplicates, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(NotDuplicates order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return duplicates.Different(order.ListId, order.A, order.B, deed.Actor);
    }
}
