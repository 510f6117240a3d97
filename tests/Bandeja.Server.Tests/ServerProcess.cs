using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>The server as a process of its own over a data folder of its own: it can be killed and started again.</summary>
public abstract class ServerProcess : IDisposable
{
    private protected readonly string data = Directory.CreateTempSubdirectory("bandeja-process").FullName;
    private protected Process? server;
    private protected HttpClient http = null!;

    public void Dispose()
    {
        server?.Kill();
        server?.WaitForExit();
        http?.Dispose();
        Directory.Delete(data, true);
        GC.SuppressFinalize(this);
    }

    /// <param name="culture">The machine's own language and country, as POSIX names it; null for that of the tests.</param>
    private protected async Task Start(string? culture = null)
    {
        var start = new ProcessStartInfo(
            "dotnet",
            [Path.Combine(AppContext.BaseDirectory, "Bandeja.Server.dll"), "--data", data, "--port", "0"]
        )
        {
            RedirectStandardOutput = true,
        };
        if (culture is not null)
            start.Environment["LC_ALL"] = culture;
        server = Process.Start(start)!;
        string? line;
        do line = await server.StandardOutput.ReadLineAsync();
        while (line is not null && !line.StartsWith("Bandeja is at ", StringComparison.Ordinal));
        http = new HttpClient { BaseAddress = new Uri(line!["Bandeja is at ".Length..]) };
    }

    private protected async Task<JsonNode> Get(string path) => JsonNode.Parse(await http.GetStringAsync(path))!;

    private protected async Task<JsonNode> Post(string path, object body) =>
        JsonNode.Parse(await (await http.PostAsJsonAsync(path, body)).Content.ReadAsStringAsync())!;

    private protected async Task<JsonNode> Until(string path, Func<JsonNode, bool> reached)
    {
        using var patience = new CancellationTokenSource(TimeSpan.FromMinutes(5));
        while (true)
        {
            var node = await Get(path);
            if (reached(node))
                return node;
            if (patience.IsCancellationRequested)
                throw new TimeoutException($"{path}: {node.ToJsonString()}");
            await Task.Delay(15, CancellationToken.None);
        }
    }
}
