using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Threading.Channels;
using Bandeja.Store;

namespace Bandeja.Work.Announcing;

/// <summary>Something for open browsers to know: what kind of thing changed, and what about it, as JSON.</summary>
public readonly record struct Told(string Kind, string Data);

/// <summary>Tells open browsers what changed. Who writes tells it within the transaction; it goes out when that is committed.</summary>
public sealed class EventHub(Database database)
{
    // As the API writes it.
    static readonly JsonSerializerOptions Form = new(JsonSerializerOptions.Web) { Converters = { new JsonStringEnumConverter() } };

    static readonly TimeSpan Quiet = TimeSpan.FromSeconds(20);

    readonly ConcurrentDictionary<Guid, Channel<Told>> listeners = [];

    /// <summary>Tells everybody that something of a kind changed: <c>job</c>, <c>drop</c>, <c>list</c>, <c>design</c> …</summary>
    public void Tell(string kind, object what)
    {
        var told = new Told(kind, JsonSerializer.Serialize(what, Form));
        database.AfterCommit(() =>
        {
            foreach (var listener in listeners.Values)
                listener.Writer.TryWrite(told);
        });
    }

    /// <summary>What is told from now on, until the listener goes away. In quiet times something is said too (<c>here</c>), so that a
    /// connection that is broken is noticed.</summary>
    public async IAsyncEnumerable<Told> Listen([EnumeratorCancellation] CancellationToken gone)
    {
        // A browser that does not read loses the oldest events, not the server its memory: it asks anew anyway.
        var channel = Channel.CreateBounded<Told>(new BoundedChannelOptions(200) { FullMode = BoundedChannelFullMode.DropOldest });
        var id = Guid.NewGuid();
        listeners[id] = channel;
        try
        {
            yield return Here;
            while (!gone.IsCancellationRequested)
            {
                using var wait = CancellationTokenSource.CreateLinkedTokenSource(gone);
                wait.CancelAfter(Quiet);
                Told next;
                try
                {
                    next = await channel.Reader.ReadAsync(wait.Token);
                }
                catch (OperationCanceledException) when (!gone.IsCancellationRequested)
                {
                    next = Here;
                }
                catch (OperationCanceledException)
                {
                    yield break;
                }
                yield return next;
            }
        }
        finally
        {
            listeners.TryRemove(id, out _);
        }
    }

    static readonly Told Here = new("here", "{}");
}
