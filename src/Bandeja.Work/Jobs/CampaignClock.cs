using Bandeja.Work.Announcing;

namespace Bandeja.Work.Jobs;

/// <summary>Goes on with campaigns as days begin: who is due is collected, and conditions that count days are asked anew. It follows the
/// clock on the wall, so it looks every few minutes whether it is another day: a clock that is set, or a machine that slept, is noticed.</summary>
public sealed class CampaignClock(SequenceWork work, CheckRequests checks, TimeProvider time, ILogger<CampaignClock> log)
    : BackgroundService
{
    static readonly TimeSpan Between = TimeSpan.FromMinutes(5);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        var last = DateOnly.MinValue;
        while (!stop.IsCancellationRequested)
        {
            var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
            try
            {
                if (today != last)
                {
                    work.Collect();
                    checks.All();
                    last = today;
                }
            }
            catch (Exception e)
            {
                log.LogError(e, "Campaigns could not be looked at");
            }
            try
            {
                await Task.Delay(Between, time, stop);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }
}
