using System.Collections.Concurrent;
using System.Text.Json;
using System.Threading.Channels;

namespace Bandeja.Server.Events;

/// <summary>Tells open browsers what changed, as server-sent events (HTML Living Standard, section 9.2).</summary>
public sealed class EventHub
{
    readonly ConcurrentDictionary<Guid, Channel<string>> listeners = [];

    /// <summary>Tells everybody that something of a kind changed: <c>job</c>, <c>drop</c>, <c>list</c>, <c>design</c>.</summary>
    public void Tell(string kind, object what)
    {
        var text = $"event: {kind}\ndata: {JsonSerializer.Serialize(what, JsonSerializerOptions.Web)}\n\n";
        foreach (var listener in listeners.Values)
            listener.Writer.TryWrite(text);
    }

    /// <summary>Raised when something about a list changed: its rows, columns, segments, detail rows, households.</summary>
    public event Action<long>? ListChanged;

    /// <summary>Tells everybody that a list changed; drops that depend on what changed are checked again.</summary>
    public void List(long listId)
    {
        Tell("list", new { Id = listId });
        ListChanged?.Invoke(listId);
    }

    /// <summary>Writes events to one browser until it goes away.</summary>
    public async Task Listen(HttpResponse response, CancellationToken gone)
    {
        response.ContentType = "text/event-stream";
        response.Headers.CacheControl = "no-store";
        // A browser that does not read loses the oldest events, not the server its memory: it asks anew anyway.
        var channel = Channel.CreateBounded<string>(new BoundedChannelOptions(200) { FullMode = BoundedChannelFullMode.DropOldest });
        var id = Guid.NewGuid();
        listeners[id] = channel;
        try
        {
            await response.WriteAsync(": here\n\n", gone);
            await response.Body.FlushAsync(gone);
            while (!gone.IsCancellationRequested)
            {
                using var wait = CancellationTokenSource.CreateLinkedTokenSource(gone);
                wait.CancelAfter(TimeSpan.FromSeconds(20));
                string text;
                try
                {
                    text = await channel.Reader.ReadAsync(wait.Token);
                }
                catch (OperationCanceledException) when (!gone.IsCancellationRequested)
                {
                    text = ": still here\n\n";
                }
                await response.WriteAsync(text, gone);
                await response.Body.FlushAsync(gone);
            }
        }
        catch (OperationCanceledException) { } // the browser went away
        finally
        {
            listeners.TryRemove(id, out _);
        }
    }
}
