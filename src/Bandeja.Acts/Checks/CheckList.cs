using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Checks;

/// <summary>A list to check.</summary>
public sealed record ListToCheck(long ListId);

/// <summary>Checks a whole list again.</summary>
[Act("check.list", Permission.Lists, "Had a list checked again")]
public sealed class CheckList(ListStore lists, CheckIssues issues, ListWork work) : Act<ListToCheck>
{
    /// <inheritdoc/>
    protected override void Carry(ListToCheck order, Deed deed)
    {
        lists.Get(order.ListId);
        issues.Outdated(order.ListId);
        work.Check(order.ListId);
        deed.To(Matter.List, order.ListId);
    }
}
