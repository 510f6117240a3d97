using System.Reflection;
using Bandeja.Store;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts;

/// <summary>
/// Performs acts: begins the transaction, has the act done in it, and writes in the same transaction into the log what was done by whom.
/// What changed is announced after the commit. Where the act refuses or fails, nothing of it remains.
/// </summary>
public sealed class Performer(Database database, Announcements announcements, ActLog log)
{
    /// <summary>Performs an act.</summary>
    /// <exception cref="NotFoundException">What it is to be done to does not exist.</exception>
    /// <exception cref="ConflictException">It cannot be done as things are.</exception>
    /// <exception cref="BadInputException">The order makes no sense.</exception>
    public TAnswer Perform<TOrder, TAnswer>(Act<TOrder, TAnswer> act, TOrder order, Actor actor, CancellationToken cancel = default)
    {
        act.Before(order);
        var deed = new Deed(actor, announcements, cancel);
        return act.IsOneTransaction ? database.Write(_ => Logged(act, act.Do(order, deed), deed)) : Logged(act, act.Do(order, deed), deed);
    }

    /// <summary>Performs an act that waits for others.</summary>
    /// <inheritdoc cref="Perform{TOrder, TAnswer}(Act{TOrder, TAnswer}, TOrder, Actor, CancellationToken)"/>
    public async Task<TAnswer> Perform<TOrder, TAnswer>(
        WaitingAct<TOrder, TAnswer> act,
        TOrder order,
        Actor actor,
        CancellationToken cancel
    )
    {
        var deed = new Deed(actor, announcements, cancel);
        return Logged(act, await act.Do(order, deed, cancel), deed);
    }

    T Logged<T>(object act, T answer, Deed deed)
    {
        var known = act.GetType().GetCustomAttribute<ActAttribute>()!;
        log.Add(known.Name, deed.Actor, deed.About?.What.ToString(), deed.About?.Id, deed.Text ?? known.Log);
        return answer;
    }
}
