using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Lists;

/// <summary>A list's new name.</summary>
public sealed record ListName(long ListId, string Name);

/// <summary>Gives a list another name.</summary>
[Act("list.rename", Permission.Lists, "Renamed a list")]
public sealed class RenameList(ListStore lists) : Act<ListName>
{
    /// <inheritdoc/>
    protected override void Carry(ListName order, Deed deed)
    {
        var name = Given.Name(order.Name, "list");
        lists.Rename(order.ListId, name);
        deed.Says($"Renamed a list to “{name}”");
        deed.Changed(Matter.List, order.ListId);
    }
}
