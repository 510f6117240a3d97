using Bandeja.Work.Announcing;

namespace Bandeja.Work.Jobs;

/// <summary>Goes on with campaigns as days begin: who is due is collected, and conditions that count days are asked anew. It follows the
/// clock on the wall, so it looks every few minutes whether it is another day: a clock that is set, or a machine that slept, is
/// noticed.</summary>
public sealed class CampaignClock(CheckRequests checks, TimeProvider time, ILogger<CampaignClock> log) : BackgroundService
{
    static readonly TimeSpan Between = TimeSpan.FromMinutes(5);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        var last = DateOnly.MinValue;
        // It ticks on while something is done, so that no day is missed by what that takes.
        using var ticks = new PeriodicTimer(Between, time);
        do
        {
            var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
            try
            {
                if (today != last)
                {
                    checks.AllPeople();
                    checks.Collect();
                    checks.All();
                    last = today;
                }
            }
            catch (Exception e)
            {
                log.LogError(e, "Campaigns could not be checked");
            }
        } while (await Tick(ticks, stop));
    }

    static async Task<bool> Tick(PeriodicTimer ticks, CancellationToken stop)
    {
        try
        {
            return await ticks.WaitForNextTickAsync(stop);
        }
        catch (OperationCanceledException)
        {
            return false;
        }
    }
}
