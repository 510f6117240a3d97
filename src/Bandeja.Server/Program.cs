using System.Net;
using Bandeja.Server;

// bandeja-server [--data DIR] [--host ADDRESS] [--port N] [--web DIR] [--smtp-port N] [--name-server ADDRESS[:PORT]]     serves
// bandeja-server openapi                                                                                                     prints the description of the API
string? Option(string name) => Array.IndexOf(args, name) is var i and >= 0 && i + 1 < args.Length ? args[i + 1] : null;

if (args is ["openapi", ..])
{
    var folder = Directory.CreateTempSubdirectory("bandeja-openapi");
    await using var quiet = Application.Build(new(folder.FullName, Port: 0));
    await quiet.StartAsync();
    using var client = new HttpClient();
    Console.WriteLine(await client.GetStringAsync(new Uri(new Uri(quiet.Urls.First()), "/api/openapi.json")));
    return 0;
}

if (!int.TryParse(Option("--port") ?? "5280", out var port) || port is < 0 or > 65535)
{
    Console.Error.WriteLine("The port must be a number from 0 to 65535.");
    return 2;
}
if (!int.TryParse(Option("--smtp-port") ?? "0", out var smtp) || smtp is < 0 or > 65535)
{
    Console.Error.WriteLine("The port of the practice post office must be a number from 0 to 65535; 0 is any free one.");
    return 2;
}
IPEndPoint? names = null;
if (Option("--name-server") is { } said && !IPEndPoint.TryParse(said, out names))
{
    Console.Error.WriteLine("The name server must be an address such as 192.0.2.53, with a port where it is not 53: 192.0.2.53:5353.");
    return 2;
}
if (names is { Port: 0 }) names.Port = 53;
var options = new ServerOptions(Path.GetFullPath(Option("--data") ?? "data"), Option("--host") ?? "127.0.0.1", port, Option("--web"), smtp, names);
await using var app = Application.Build(options);
try
{
    await app.StartAsync();
}
catch (IOException e) when (e.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException)
{
    Console.Error.WriteLine($"Port {port} is taken by another program. Choose another: --port {port + 1}");
    return 1;
}
Console.WriteLine($"Bandeja is at {app.Urls.First()}");
await app.WaitForShutdownAsync();
return 0;
