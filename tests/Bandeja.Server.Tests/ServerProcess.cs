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

    private protected async Task Start()
    {
        server = Process.Start(new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Bandeja.Server.dll"), "--data", data, "--port", "0"]) { RedirectStandardOutput = true })!;
        string? line;
        do line = await server.StandardOutput.ReadLineAsync();
        while (line is not null && !line.StartsWith("Bandeja is at ", StringComparison.Ordinal));
        http = new HttpClient { BaseAddress = new Uri(line!["Bandeja is at ".Length..]) };
    }

    private protected async Task<JsonNode> Get(string path) => JsonNode.Parse(await http.GetStringAsync(path))!;
    private protected async Task<JsonNode> Post(string path, object body) => JsonNode.Parse(await (await http.PostAsJsonAsync(path, body)).Content.ReadAsStringAsync())!;

    private protected async Task<JsonNode> Until(string path, Func<JsonNode, bool> reached)
    {
        for (var i = 0; i < 4000; i++)
        {
            var node = await Get(path);
            if (reached(node)) return node;
            await Task.Delay(15);
        }
        throw new TimeoutException(path);
    }
}
