namespace Bandeja.Server.Tests;

/// <summary>Listens to what the server tells open browsers, so that a test waits for an event and not for a time.</summary>
sealed class Events : IAsyncDisposable
{
    readonly CancellationTokenSource over = new();
    readonly Task listening;
    TaskCompletionSource next = New();

    public Events(HttpClient client) => listening = Listen(client);

    /// <summary>Ends with the next event.</summary>
    public Task Next => Volatile.Read(ref next).Task;

    // Whoever waits goes on in a thread of their own, not in the one that listens.
    static TaskCompletionSource New() => new(TaskCreationOptions.RunContinuationsAsynchronously);

    async Task Listen(HttpClient client)
    {
        try
        {
            using var reader = new StreamReader(await client.GetStreamAsync("/api/events", over.Token));
            while (await reader.ReadLineAsync(over.Token) is { } line)
                if (line.StartsWith("event:", StringComparison.Ordinal))
                    Interlocked.Exchange(ref next, New()).SetResult();
        }
        // the test is over, or has ended the server
        catch (Exception e) when (e is OperationCanceledException or HttpRequestException or IOException) { }
    }

    public async ValueTask DisposeAsync()
    {
        await over.CancelAsync();
        await listening;
        over.Dispose();
    }
}
