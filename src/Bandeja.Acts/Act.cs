namespace Bandeja.Acts;

/// <summary>
/// Something that can be done. It knows nothing of who asks for it in which way: a click, a program with a key, a routine, or a command
/// line performs the same act with another actor. What must hold is asked within it, and refused with a sentence.
/// </summary>
/// <typeparam name="TOrder">What is to be done: a plain record that JSON or a command line can carry.</typeparam>
/// <typeparam name="TAnswer">What came of it.</typeparam>
public abstract class Act<TOrder, TAnswer>
{
    /// <summary>
    /// True where the whole act is one transaction that the performer begins. False where it composes pieces or talks to a device
    /// first, which must keep nobody else waiting; then it writes once, in a transaction of its own.
    /// </summary>
    protected internal virtual bool IsOneTransaction => true;

    /// <summary>
    /// Asks what is to be asked before the transaction begins: what it sets going (a check that is not up to date) goes on even where
    /// the act is refused because of it.
    /// </summary>
    protected internal virtual void Before(TOrder order) { }

    /// <summary>Does it.</summary>
    /// <param name="deed">Who does it, and where it says what changed.</param>
    protected internal abstract TAnswer Do(TOrder order, Deed deed);
}

/// <summary>Something that can be done, of which nothing is answered.</summary>
public abstract class Act<TOrder> : Act<TOrder, Nothing>
{
    /// <summary>Does it.</summary>
    protected abstract void Carry(TOrder order, Deed deed);

    /// <inheritdoc/>
    protected internal sealed override Nothing Do(TOrder order, Deed deed)
    {
        Carry(order, deed);
        return default;
    }
}

/// <summary>The answer of an act that has none.</summary>
public readonly record struct Nothing;

/// <summary>Something that can be done and waits for others: a mail server, say. It is in no transaction while it waits.</summary>
public abstract class WaitingAct<TOrder, TAnswer>
{
    /// <summary>Does it.</summary>
    protected internal abstract Task<TAnswer> Do(TOrder order, Deed deed, CancellationToken cancel);
}
