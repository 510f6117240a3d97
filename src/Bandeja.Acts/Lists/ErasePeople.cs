using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Production;

namespace Bandeja.Acts.Lists;

/// <summary>A list whose people are to be erased.</summary>
/// <param name="Name">The list's name, typed once more, because this cannot be undone.</param>
public sealed record ErasedList(long ListId, string Name);

/// <summary>Erases the people of a list, from its history and from the files as well; what was mailed stays as numbers.</summary>
[Act("list.erase", Permission.Lists, "Erased the people of a list")]
public sealed class ErasePeople(ListStore lists, Removals removals, ListEditor editor, RemovedFiles files) : Act<ErasedList>
{
    /// <inheritdoc/>
    protected override void Carry(ErasedList order, Deed deed)
    {
        var list = lists.Get(order.ListId);
        if (order.Name.Trim() != list.Name)
            throw new BadInputException($"To erase the recipients for good, enter the list's exact name: {list.Name}");
        deed.Changed(Matter.List, order.ListId);
        // Off the list first, so that every drop holds them before there is nothing left to hold.
        IReadOnlyList<CellEdit> off = [.. lists.Ids(order.ListId, new(), null).Select(r => new CellEdit(r, ListEditor.OnTheList, null))];
        if (off.Count > 0)
            editor.Edit(order.ListId, off, "Erased", deed.Actor);
        var (runs, messages) = removals.ErasePeople(order.ListId, deed.Actor);
        files.Later(runs, messages);
        deed.Says("Erased the people of a list");
    }
}
