using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Lists;

static class ListDeeds
{
    /// <summary>Says that a list changed, and with it the drops that it is in.</summary>
    public static void ChangedList(this Deed deed, long listId)
    {
        deed.Changed(Matter.List, listId);
        deed.Changed(Matter.Drop);
    }
}
