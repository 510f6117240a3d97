using System.Collections.Concurrent;
using Bandeja.Store;

namespace Bandeja.Work.Announcing;

/// <summary>Wakes the loops that take work from the queue.</summary>
public sealed class JobBells(Database database)
{
    readonly ConcurrentDictionary<string, SemaphoreSlim> bells = [];

    /// <summary>Wakes the loop of a kind, once the work that it is woken for is in the queue for it to see.</summary>
    public void Ring(string kind) => database.AfterCommit(() => Of(kind).Release());

    internal SemaphoreSlim Of(string kind) => bells.GetOrAdd(kind, _ => new(0));
}
