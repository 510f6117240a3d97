// For tests alone: one process that starts servers and stops them again, as its first port is asked to, so that what the compiler and the
// readers of files have done once is not done again for every test. Each has a data folder of its own and, where the test sets it, a
// clock of its own; the application knows nothing of either. It ends when its input does: with whoever started it, whatever became of them.
using System.Collections.Concurrent;
using System.Globalization;
using Bandeja.Server;
using Bandeja.TestServers;
using Bandeja.Work.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;

ConcurrentDictionary<int, Running> all = [];
var last = 0;
var builder = WebApplication.CreateSlimBuilder();
builder.WebHost.UseUrls("http://127.0.0.1:0");
await using var control = builder.Build();
control.MapPost(
    "/servers",
    async (string data, string web, string? clock) =>
    {
        var options = new ServerOptions(data, Port: 0, Web: web, NameServer: new(System.Net.IPAddress.Loopback, 9)) { PrivateMail = true };
        var set = clock is null ? null : new TestClock(DateTimeOffset.Parse(clock, CultureInfo.InvariantCulture));
        var app = Application.Build(
            options,
            b =>
            {
                if (set is not null)
                    b.Services.AddSingleton<TimeProvider>(set);
            }
        );
        await app.StartAsync();
        var id = Interlocked.Increment(ref last);
        all[id] = new(app, set);
        return Results.Ok(new { id, url = app.Urls.First() });
    }
);
control.MapPost(
    "/servers/{id}/forward",
    (int id, double hours) =>
    {
        var clock = all[id].Clock!;
        clock.Set(TimeSpan.FromHours(hours));
        return Results.Ok(clock.GetUtcNow());
    }
);
control.MapDelete(
    "/servers/{id}",
    async (int id) =>
    {
        if (all.TryRemove(id, out var running))
            await running.Stop();
    }
);
await control.StartAsync();
Console.WriteLine($"Servers are started at {control.Urls.First()}");
await Console.In.ReadToEndAsync();
foreach (var running in all.Values)
    await running.Stop();

sealed record Running(WebApplication App, TestClock? Clock)
{
    public async Task Stop()
    {
        await App.StopAsync();
        await App.DisposeAsync();
    }
}
