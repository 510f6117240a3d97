using System.Collections.Concurrent;

namespace Bandeja.Core.Composition;

/// <summary>Lets what comes be made ahead on a thread of its own, in order: while one piece is written the next is composed.</summary>
public static class Ahead
{
    /// <summary>The source's elements in their order; the source runs on another thread, at most so many elements ahead.</summary>
    /// <param name="most">How many may wait; that bounds the memory.</param>
    /// <exception cref="Exception">Whatever the source throws, as it was thrown.</exception>
    public static IEnumerable<T> Of<T>(IEnumerable<T> source, int most = 256)
    {
        using var waiting = new BlockingCollection<T[]>(Math.Max(1, most / Together));
        using var stop = new CancellationTokenSource();
        var making = Task.Run(() =>
        {
            try
            {
                var batch = new List<T>(Together);
                foreach (var element in source)
                {
                    batch.Add(element);
                    if (batch.Count < Together)
                        continue;
                    waiting.Add([.. batch], stop.Token);
                    batch.Clear();
                }
                if (batch.Count > 0)
                    waiting.Add([.. batch], stop.Token);
            }
            finally
            {
                waiting.CompleteAdding();
            }
        });
        try
        {
            foreach (var batch in waiting.GetConsumingEnumerable())
            foreach (var element in batch)
                yield return element;
            making.GetAwaiter().GetResult();
        }
        finally
        {
            // Whoever stops in the middle stops the source, too, and waits for it: it may hold a database open.
            stop.Cancel();
            try
            {
                making.Wait();
            }
            catch (AggregateException) { }
        }
    }

    // Handing over costs more than composing a label: it is done for several at once.
    const int Together = 16;
}
