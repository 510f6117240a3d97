using Bandeja.Reader;

namespace Bandeja.Work.Reading;

/// <summary>
/// The processes that read files of strangers. One that has read a file well is kept and reads the next, because beginning one takes a
/// quarter of a second; one that failed, grew, or was interrupted is not used again. They end with this process: their input does.
/// </summary>
/// <param name="limits">What each may take.</param>
/// <param name="atOnce">How many may read at the same time; whoever comes after waits.</param>
public sealed class ReaderPool(Limits limits, int atOnce) : IDisposable
{
    /// <summary>How many are kept without work.</summary>
    const int Kept = 2;

    /// <summary>After how many files one is replaced, whatever it looks like.</summary>
    const int MostOrders = 500;

    /// <summary>Memory that one may hold and still be kept, bytes.</summary>
    const long KeptMemory = 300L << 20;

    /// <summary>The pool of this process. Its limits are those of the machine and not of one server, so all servers in a process share
    /// it.</summary>
    public static readonly ReaderPool Shared = new(Limits.Usual, Math.Max(4, 2 * Environment.ProcessorCount));

    readonly Stack<ReaderProcess> idle = [];
    readonly HashSet<ReaderProcess> working = [];
    readonly SemaphoreSlim places = new(atOnce);
    bool closed;

    /// <summary>What each may take.</summary>
    public Limits Limits => limits;

    /// <summary>Those without work now.</summary>
    internal IReadOnlyList<ReaderProcess> Idle
    {
        get
        {
            lock (idle)
                return [.. idle];
        }
    }

    /// <summary>Those that read now.</summary>
    internal IReadOnlyList<ReaderProcess> Working
    {
        get
        {
            lock (idle)
                return [.. working];
        }
    }

    /// <summary>Begins what is kept, so that the first file need not wait for it.</summary>
    public void Warm()
    {
        while (true)
        {
            lock (idle)
                if (closed || idle.Count >= Kept)
                    return;
            Keep(new(limits));
        }
    }

    /// <summary>A process, as soon as there is a place for one.</summary>
    internal ReaderProcess Take(CancellationToken cancel)
    {
        places.Wait(cancel);
        try
        {
            while (true)
            {
                ReaderProcess? process;
                lock (idle)
                    idle.TryPop(out process);
                process ??= new(limits);
                if (!process.HasEnded)
                {
                    lock (idle)
                        working.Add(process);
                    return process;
                }
                process.Dispose();
            }
        }
        catch
        {
            places.Release();
            throw;
        }
    }

    /// <summary>Takes a process back.</summary>
    /// <param name="sound">True where it has answered in full and waits for the next order.</param>
    internal void Return(ReaderProcess process, bool sound)
    {
        lock (idle)
            working.Remove(process);
        places.Release();
        if (sound && !process.HasEnded && process.Orders < MostOrders && process.Memory < KeptMemory)
            Keep(process);
        else
            process.Dispose();
    }

    void Keep(ReaderProcess process)
    {
        lock (idle)
            if (!closed && idle.Count < Kept)
            {
                idle.Push(process);
                return;
            }
        process.Dispose();
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        lock (idle)
        {
            closed = true;
            while (idle.TryPop(out var process))
                process.Dispose();
        }
    }
}
