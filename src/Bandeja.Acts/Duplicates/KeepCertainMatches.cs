using Bandeja.Acts.Lists;
using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Duplicates;

/// <summary>In which list to settle the certain matches.</summary>
public sealed record CertainMatches(long ListId);

/// <summary>Keeps the first of each pair that is certainly the same.</summary>
[Act("duplicates.keep-certain", Permission.Lists, "Kept one of each certain match")]
public sealed class KeepCertainMatches(DuplicateStore duplicates) : Act<CertainMatches, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(CertainMatches order, Deed deed)
    {
        deed.ChangedList(order.ListId);
        return duplicates.KeepSure(order.ListId, deed.Actor);
    }
}
