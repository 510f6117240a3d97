using Bandeja.Store;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Campaigns;

/// <summary>What somebody says of a piece of work on Today.</summary>
/// <param name="Key">Which.</param>
/// <param name="Assign">True to say whose it is, with <paramref name="To"/>.</param>
/// <param name="To">Whose; null for nobody's.</param>
/// <param name="Postpone">True to let it rest, with <paramref name="Until"/>.</param>
/// <param name="Until">Until when; null to take it up again.</param>
/// <param name="Reason">Why it rests.</param>
/// <param name="Done">True where it is done, with <paramref name="As"/>.</param>
/// <param name="As">What it was like then; null to take that back.</param>
public sealed record WorkMark(
    string Key,
    bool Assign = false,
    string? To = null,
    bool Postpone = false,
    DateOnly? Until = null,
    string? Reason = null,
    bool Done = false,
    string? As = null
);

/// <summary>Assigns, postpones, or finishes a piece of work on Today.</summary>
[Act("work.mark", Permission.Drops, "Assigned, postponed, or finished work")]
public sealed class MarkWork(WorkList work, Surroundings surroundings) : Act<WorkMark>
{
    /// <inheritdoc/>
    protected override void Carry(WorkMark order, Deed deed)
    {
        if (order.Assign)
            work.Assign(order.Key, order.To is null ? null : Given.Name(order.To, "person"), deed.Actor);
        if (order.Postpone)
        {
            if (order.Until <= surroundings.Now.Today)
                throw new BadInputException("Postpone it to a day after today.");
            if (order.Until is not null && Given.Reason(order.Reason) is null)
                throw new BadInputException("Enter why it is postponed.");
            work.Postpone(order.Key, order.Until, Given.Reason(order.Reason), deed.Actor);
        }
        if (order.Done)
            work.Done(order.Key, order.As, deed.Actor);
        deed.Changed(Matter.Campaign);
    }
}
