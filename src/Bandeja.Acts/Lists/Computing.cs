using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Lists;

/// <summary>Computes a list's computed columns: at once where that takes a moment, as long work where it takes longer.</summary>
public sealed class Computing(ListStore lists, ListEditor editor, ListWork work)
{
    const int AtOnce = 5000;

    /// <summary>Computes all computed columns.</summary>
    public void All(long listId, Actor actor)
    {
        if (lists.Get(listId).RowCount <= AtOnce)
            editor.Recompute(listId, actor, (_, _) => { }, CancellationToken.None);
        else
            work.Compute(listId);
    }
}
