using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Production;

namespace Bandeja.Work.Jobs;

/// <summary>Removes runs' files when their time is over, and files that were brought in: what runs were made from stays, so that they can
/// be made again.</summary>
public sealed class OldFiles(
    RunStore runs,
    OldUploads uploads,
    SettingStore settings,
    ServerOptions server,
    Announcements announcements,
    TimeProvider time,
    ILogger<OldFiles> log
) : BackgroundService
{
    // Made before the server listens: what was written before that is not arriving anymore.
    readonly DateTimeOffset begun = time.GetUtcNow();

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                uploads.RemoveOrphans(begun);
                Sweep();
            }
            catch (Exception e)
            {
                log.LogError(e, "Old files could not be removed");
            }
            try
            {
                await Task.Delay(TimeSpan.FromHours(1), time, stop);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    /// <summary>Removes what is too old now.</summary>
    public void Sweep()
    {
        uploads.Sweep(time.GetUtcNow());
        var days = settings.KeepFilesDays();
        foreach (var id in runs.WithOldFiles(time.GetUtcNow().AddDays(-days)))
        {
            var run = runs.Get(id);
            RunFolder.Remove(server, run.Id);
            runs.FilesGone(id, $"The files were deleted after {days} days. You can re-create them.", true, Actor.Rule(time.GetUtcNow()));
            announcements.Changed(Matter.Drop, run.DropId);
        }
    }
}
