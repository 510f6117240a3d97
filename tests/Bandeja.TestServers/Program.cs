// For tests alone: one process that starts servers and stops them again, as its first port is asked to, so that what the compiler and
// the readers of files have done once is not done again for every test. Each has a data folder of its own and, where the test sets
// it, a clock of its own; the application knows nothing of either. The demo's world, whose files lie where the first argument says,
// is filled once, for whoever asks first. It ends when its input does: with whoever started it, whatever became of them.
using System.Collections.Concurrent;
using System.Globalization;
using Bandeja.Demo;
using Bandeja.Server;
using Bandeja.TestServers;
using Bandeja.Work.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

ConcurrentDictionary<int, Running> all = [];
var last = 0;
var worlds = Directory.CreateTempSubdirectory("bandeja-demo").FullName;
Lazy<string> world = new(() =>
{
    var data = Path.Combine(worlds, "data");
    Filling.Fill(data, args[0], DateTimeOffset.Now);
    return data;
});
var builder = WebApplication.CreateSlimBuilder();
builder.WebHost.UseUrls("http://127.0.0.1:0");
await using var control = builder.Build();

// Whoever asked is told what went wrong.
control.Use(
    async (http, next) =>
    {
        try
        {
            await next(http);
        }
        catch (Exception e)
        {
            http.Response.StatusCode = StatusCodes.Status500InternalServerError;
            await http.Response.WriteAsync($"{e}");
        }
    }
);
control.MapPost("/world", () => world.Value);
control.MapPost(
    "/servers",
    async (string data, string web, string? clock) =>
    {
        var options = new ServerOptions(data, Port: 0, Web: web, NameServer: new(System.Net.IPAddress.Loopback, 9)) { PrivateMail = true };
        var set = clock is null ? null : new TestClock(DateTimeOffset.Parse(clock, CultureInfo.InvariantCulture));
        var log = new ServerLog();
        var app = Application.Build(
            options,
            b =>
            {
                b.Logging.ClearProviders().AddProvider(log);
                if (set is not null)
                    b.Services.AddSingleton<TimeProvider>(set);
            }
        );
        await app.StartAsync();
        var id = Interlocked.Increment(ref last);
        all[id] = new(app, set, log);
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
control.MapGet("/servers/{id}/log", (int id) => all[id].Log.Text);
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
Directory.Delete(worlds, true);

sealed record Running(WebApplication App, TestClock? Clock, ServerLog Log)
{
    public async Task Stop()
    {
        await App.StopAsync();
        await App.DisposeAsync();
    }
}
