// For tests alone: the application with a clock that the test sets, through a port of its own. The application knows nothing of it.
using Bandeja.ClockedServer;
using Bandeja.Server;
using Bandeja.Work.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;

var clock = new TestClock(DateTimeOffset.Parse(args[2], System.Globalization.CultureInfo.InvariantCulture));
await using var app = Application.Build(
    new ServerOptions(args[0], Port: 0, Web: args[1]) { PrivateMail = true },
    b => b.Services.AddSingleton<TimeProvider>(clock)
);
await app.StartAsync();
var hands = WebApplication.CreateSlimBuilder();
hands.WebHost.UseUrls("http://127.0.0.1:0");
await using var control = hands.Build();
control.MapPost(
    "/forward",
    (double hours) =>
    {
        clock.Set(TimeSpan.FromHours(hours));
        return Results.Ok(clock.GetUtcNow());
    }
);
await control.StartAsync();
Console.WriteLine($"The clock is at {control.Urls.First()}");
Console.WriteLine($"Bandeja is at {app.Urls.First()}");
await app.WaitForShutdownAsync();
