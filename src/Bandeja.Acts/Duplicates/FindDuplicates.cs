using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Duplicates;

/// <summary>A list in which to look for duplicates.</summary>
public sealed record ListToSearch(long ListId);

/// <summary>Looks for duplicates and households.</summary>
[Act("duplicates.find", Permission.Lists, "Looked for duplicates")]
public sealed class FindDuplicates(ListStore lists, ListWork work) : Act<ListToSearch>
{
    /// <inheritdoc/>
    protected override void Carry(ListToSearch order, Deed deed)
    {
        lists.Get(order.ListId);
        work.FindDuplicates(order.ListId);
        deed.To(Matter.List, order.ListId);
    }
}
