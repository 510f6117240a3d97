using Bandeja.Store.Returns;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Returns;

/// <summary>Tells what a return, or taking it back, changed.</summary>
static class Announced
{
    public static void Of(ReturnOutcome outcome, Deed deed)
    {
        deed.Changed(Matter.Drop, outcome.Row.DropId);
        if (outcome.Row.RemailDropId is { } remail)
            deed.Changed(Matter.Drop, remail);
        foreach (var open in outcome.OpenDrops)
            deed.Changed(Matter.Drop, open);
        foreach (var list in outcome.CorrectedLists)
            deed.Changed(Matter.List, list);
        if (outcome.SuppressionListId is { } suppression)
            deed.Changed(Matter.Suppression, suppression);
    }
}
