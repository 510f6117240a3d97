using Bandeja.Store;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;
using Dapper;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.Extensions.Diagnostics.HealthChecks;

namespace Bandeja.Server.Web;

/// <summary>Whether the server can do its work, for whoever watches over it: <c>/health</c> answers 200, or 503 with what is
/// wrong.</summary>
static class Health
{
    /// <summary>Below this the disk is called full, bytes: a run of a thousand letters needs some of it.</summary>
    const long LeastSpace = 200L << 20;

    public static void Add(IServiceCollection services) =>
        services.AddHealthChecks().AddCheck<DatabaseCheck>("database").AddCheck<QueueCheck>("queues").AddCheck<DiskCheck>("disk");

    public static void Map(WebApplication app) =>
        app.MapHealthChecks(
            "/health",
            new HealthCheckOptions
            {
                ResponseWriter = (context, report) =>
                    context.Response.WriteAsJsonAsync(
                        new
                        {
                            status = report.Status.ToString().ToLowerInvariant(),
                            checks = report.Entries.ToDictionary(
                                e => e.Key,
                                e => new { status = e.Value.Status.ToString().ToLowerInvariant(), says = e.Value.Description }
                            ),
                        }
                    ),
            }
        );

    /// <summary>Writes one row: whatever keeps that from succeeding keeps everything else from it.</summary>
    sealed class DatabaseCheck(Database database, TimeProvider time) : IHealthCheck
    {
        public Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancel = default)
        {
            try
            {
                database.Write(c =>
                    c.Execute(
                        "INSERT INTO health (id, at) VALUES (1, @at) ON CONFLICT (id) DO UPDATE SET at = excluded.at",
                        new { at = Actor.StampOf(time.GetUtcNow()) }
                    )
                );
                return Task.FromResult(HealthCheckResult.Healthy("The database can be written."));
            }
            catch (Exception e) when (StorageTrouble.Is(e))
            {
                return Task.FromResult(HealthCheckResult.Unhealthy(StorageTrouble.Refusal(e)));
            }
        }
    }

    /// <summary>Asks every queue when it last looked for work.</summary>
    sealed class QueueCheck(JobRunner runner) : IHealthCheck
    {
        public Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancel = default) =>
            Task.FromResult(
                runner.Stuck() is { Count: > 0 } stuck
                    ? HealthCheckResult.Unhealthy($"These queues do not move: {string.Join(", ", stuck)}.")
                    : HealthCheckResult.Healthy("All queues move.")
            );
    }

    /// <summary>How much room is left where the data lies.</summary>
    sealed class DiskCheck(ServerOptions options) : IHealthCheck
    {
        public Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancel = default)
        {
            var left = new DriveInfo(options.Data).AvailableFreeSpace;
            var says = $"{left >> 20:N0} MB are free.";
            return Task.FromResult(left < LeastSpace ? HealthCheckResult.Unhealthy(says) : HealthCheckResult.Healthy(says));
        }
    }
}
