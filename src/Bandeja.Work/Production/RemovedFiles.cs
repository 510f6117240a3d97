using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Work.Hosting;
using Bandeja.Work.People;

namespace Bandeja.Work.Production;

/// <summary>Removes files of what was removed or erased, once that is committed.</summary>
public sealed class RemovedFiles(
    Database database,
    ServerOptions server,
    OldUploads uploads,
    PostOfficeStore office,
    PersonFiles people,
    TimeProvider time
)
{
    /// <summary>A file that was written to more recently may still be arriving.</summary>
    static readonly TimeSpan Arriving = TimeSpan.FromMinutes(10);

    /// <summary>Runs' files, uploads that nothing speaks of anymore, and messages that came to the practice post office.</summary>
    public void Later(IReadOnlyList<long> runs, IReadOnlyList<string>? messageIds = null) =>
        database.AfterCommit(() =>
        {
            foreach (var run in runs)
                RunFolder.Remove(server, run);
            people.Sweep();
            uploads.RemoveOrphans(time.GetUtcNow() - Arriving);
            if (messageIds is { Count: > 0 })
                office.RemoveMessages(messageIds);
            // What was there is overwritten, also in the log of writes.
            database.Checkpoint();
        });
}
