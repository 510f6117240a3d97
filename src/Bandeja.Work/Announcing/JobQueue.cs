using System.Text.Json;
using Bandeja.Store;

namespace Bandeja.Work.Announcing;

/// <summary>Puts long work into the queue, and wakes who does it.</summary>
public sealed class JobQueue(JobStore jobs, JobBells bells)
{
    /// <summary>Puts work into the queue; answers its id.</summary>
    /// <param name="subject">The id of what it is about; 0 for nothing that there is yet.</param>
    /// <param name="order">What is to be done, as the kind of work reads it.</param>
    /// <param name="total">How much there is to do, where that is known.</param>
    public long Add(string kind, long subject, string label, object order, Actor actor, long total = 0)
    {
        var job = jobs.Add(kind, subject, label, JsonSerializer.Serialize(order, order.GetType()), total, actor);
        bells.Ring(kind);
        return job;
    }
}
