using System.Diagnostics;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Tests;

/// <summary>The demo's world: its files are the ones committed, and it opens in the middle of its life.</summary>
public sealed class DemoTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-demo").FullName;

    public void Dispose()
    {
        Directory.Delete(folder, true);
    }

    static string Root()
    {
        var at = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(at, "bandeja")))
            at = Path.GetDirectoryName(at)!;
        return at;
    }

    static void Demo(params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Bandeja.Demo.dll"), .. arguments])
            {
                RedirectStandardError = true,
            }
        )!;
        var wrong = process.StandardError.ReadToEnd();
        process.WaitForExit();
        Assert.True(process.ExitCode == 0, wrong);
    }

    [Fact]
    public void The_committed_files_are_what_the_seed_gives()
    {
        Demo("files", folder);
        foreach (var name in (string[])["members.csv", "adopted-plants.csv"])
            Assert.Equal(
                Convert.ToHexString(SHA256.HashData(File.ReadAllBytes(Path.Combine(Root(), "demo", "files", name)))),
                Convert.ToHexString(SHA256.HashData(File.ReadAllBytes(Path.Combine(folder, name))))
            );
    }

    [Fact]
    public async Task Every_tray_has_something_to_show_and_every_drop_adds_up()
    {
        Demo("fill", Path.Combine(folder, "data"), Path.Combine(Root(), "demo", "files"));
        await using var app = Application.Build(new ServerOptions(Path.Combine(folder, "data"), Port: 0));
        await app.StartAsync();
        using var client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) };
        var campaigns = JsonNode.Parse(await client.GetStringAsync("/api/campaigns"))!.AsArray();
        Assert.Equal(4, campaigns.Count);
        Assert.Equal(3, campaigns.Single(c => (string)c!["name"]! == "Membership renewal")!["drops"]!.AsArray().Count);
        var trays = campaigns.SelectMany(c => c!["drops"]!.AsArray()).Select(d => d!["trays"]!.AsObject()).ToList();
        foreach (var t in trays)
            Assert.Equal((int)t["onTheList"]!, t.Where(p => p.Key is not ("onTheList" or "inDoubt" or "noted")).Sum(p => (int)p.Value!));
        foreach (var name in (string[])["needsReview", "ready", "held", "produced", "mailed", "returned"])
            Assert.Contains(trays, t => (int)t[name]! > 0);
        var ledger = await client.GetStringAsync("/api/ledger.csv");
        Assert.Contains("moved, left no address", ledger);
        Assert.DoesNotMatch("(?m)(^|,)[=+@]", ledger);
        await app.StopAsync();
    }
}
