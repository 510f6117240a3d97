// Classes whose tests share a server, or what the whole process has (its path), say so: they run one after another, at the end.
// Most tests here wait rather than compute (for a queue, a post office, a printer), so more of them run at once than there are cores.
[assembly: Xunit.v3.Parallelization(Mode = Xunit.Sdk.ParallelMode.All, MaxThreads = 6)]

namespace Bandeja.Server.Tests;

/// <summary>Tests of which each has a server of its own.</summary>
public abstract class ServerTests : IAsyncLifetime
{
    private protected readonly Api api = new();

    public virtual ValueTask InitializeAsync() => api.InitializeAsync();

    public ValueTask DisposeAsync() => api.DisposeAsync();
}
