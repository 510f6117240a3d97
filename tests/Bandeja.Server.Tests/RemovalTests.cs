using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>Removing what nothing was produced of, erasing people, and files that nobody needs anymore.</summary>
public sealed class RemovalTests : ServerTests
{
    const string People = "First,Last,Email\r\nXenophon,Quillfeather,xeno@quill.example.org\r\nPer,Reyes,per@example.org\r\n";

    Task<long> List() => api.BringIn("members.csv", People);

    async Task<JsonNode> Removal(string what) => await api.Get($"/api/{what}/removal");

    async Task<HttpStatusCode> Remove(string what) => (await api.Client.DeleteAsync($"/api/{what}")).StatusCode;

    async Task Produce(long drop)
    {
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        Assert.Equal("done", (string)(await api.Ended((long)run["jobId"]!))["state"]!);
    }

    bool IsOnTheDisk(string words)
    {
        var sought = Encoding.UTF8.GetBytes(words);
        return api.DatabaseFiles().Any(f => f.AsSpan().IndexOf(sought) >= 0);
    }

    [Fact]
    public async Task A_drop_of_which_nothing_was_produced_is_removed_with_its_campaign_and_nothing_else()
    {
        var list = await List();
        var drop = await api.MakeDrop(list, "Dear {First},");
        await api.Post($"/api/drops/{drop}/hold", new { recipients = new[] { 1 }, reason = "Asked" });
        var said = await Removal($"drops/{drop}");
        Assert.Null(said["refusal"]);
        Assert.Contains("2 recipients stay on the list", said["affects"]!.ToJsonString());
        Assert.Contains("has no other drop, so it is also removed", said["affects"]!.ToJsonString());
        Assert.Equal(HttpStatusCode.NoContent, await Remove($"drops/{drop}"));
        Assert.Empty((await api.Get("/api/campaigns")).AsArray());
        Assert.Equal(HttpStatusCode.NotFound, await Remove($"drops/{drop}"));
        Assert.Equal(2, (int)(await api.Get($"/api/lists/{list}"))["recipients"]!);
        // What was free again is free: the same list, the same design, a new drop.
        Assert.Equal(2, Api.Count(await api.Get($"/api/drops/{await api.MakeDrop(list, "Again")}"), "ready"));
    }

    [Fact]
    public async Task What_was_produced_stays_in_the_ledger()
    {
        var list = await List();
        var drop = await api.MakeDrop(list, "Dear {First},");
        var design = (long)(await api.Get($"/api/drops/{drop}"))["package"]![0]!["designId"]!;
        await Produce(drop);
        foreach (
            var (what, why) in new[]
            {
                ($"drops/{drop}", "stays in the ledger"),
                ($"lists/{list}", "erase its recipients"),
                ($"designs/{design}", "Archive it"),
            }
        )
        {
            Assert.Contains(why, (string)(await Removal(what))["refusal"]!);
            Assert.Equal(HttpStatusCode.Conflict, await Remove(what));
        }
        Assert.Equal(2, Api.Count(await api.Get($"/api/drops/{drop}"), "produced"));
    }

    [Fact]
    public async Task A_design_that_is_used_says_where_and_is_removed_once_it_is_not()
    {
        var list = await List();
        var drop = await api.MakeDrop(list, "Dear {First},");
        var design = (long)(await api.Get($"/api/drops/{drop}"))["package"]![0]!["designId"]!;
        Assert.Contains("This design is used in the drop", (string)(await Removal($"designs/{design}"))["refusal"]!);
        Assert.Equal(HttpStatusCode.Conflict, await Remove($"designs/{design}"));
        Assert.Equal(HttpStatusCode.NoContent, await Remove($"drops/{drop}"));
        Assert.Equal(HttpStatusCode.NoContent, await Remove($"designs/{design}"));
        Assert.DoesNotContain((await api.Get("/api/designs")).AsArray(), d => (long)d!["id"]! == design);
    }

    [Fact]
    public async Task A_list_goes_with_its_planned_drops_and_nothing_of_it_is_left_on_the_disk()
    {
        var list = await List();
        var drop = await api.MakeDrop(list, "Dear {First},");
        await api.Put($"/api/drops/{drop}/recipients/1/values/2", new { value = "Quillfeather-Moss" });
        Assert.True(IsOnTheDisk("Quillfeather-Moss"));
        var said = (await Removal($"lists/{list}"))["affects"]!.ToJsonString();
        Assert.Contains("2 recipients", said);
        Assert.Contains("1 drop that was never produced", said);
        Assert.Contains("1 design is kept without a list", said);
        await api.Until("/api/jobs", j => j.AsArray().All(x => (string)x!["state"]! is "done"));
        Assert.Equal(HttpStatusCode.NoContent, await Remove($"lists/{list}"));
        Assert.Empty((await api.Get("/api/lists")).AsArray());
        Assert.Empty((await api.Get("/api/campaigns")).AsArray());
        Assert.Single((await api.Get("/api/designs")).AsArray());
        Assert.False(IsOnTheDisk("Quillfeather"));
        Assert.False(IsOnTheDisk("xeno@quill"));
    }

    [Fact]
    public async Task People_are_erased_from_list_history_and_files_and_what_was_mailed_stays_as_numbers()
    {
        var list = await List();
        var drop = await api.MakeDrop(list, "Dear {First} {Last},");
        await api.Put($"/api/drops/{drop}/recipients/1/values/2", new { value = "Quillfeather-Moss" });
        await Produce(drop);
        await api.Post("/api/runs/1/mailed", new { date = $"{DateTime.Now:yyyy-MM-dd}" });
        Assert.True(File.Exists(api.RunFile(1, "1.pdf")));
        await api.Until("/api/jobs", j => j.AsArray().All(x => (string)x!["state"]! is "done"));
        var name = (string)(await api.Get($"/api/lists/{list}"))["name"]!;
        Assert.Contains(
            "exact name",
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/lists/{list}/erase", new { name = "members" }))).Detail
        );
        Assert.Equal(HttpStatusCode.NoContent, (await api.Client.PostAsJsonAsync($"/api/lists/{list}/erase", new { name })).StatusCode);
        foreach (var words in new[] { "Quillfeather", "Xenophon", "xeno@quill" })
            Assert.False(IsOnTheDisk(words), words);
        Assert.False(File.Exists(api.RunFile(1, "1.pdf")));
        var trays = await api.Get($"/api/drops/{drop}");
        Assert.Equal(2, Api.Count(trays, "mailed"));
        // Every place of the drop and the list still answers.
        foreach (
            var path in new[]
            {
                $"drops/{drop}/recipients",
                $"drops/{drop}/recipients/1",
                $"drops/{drop}/events",
                $"drops/{drop}/runs",
                "runs/1/detail",
                "runs/1/pieces",
                $"lists/{list}",
                $"lists/{list}/recipients",
                $"lists/{list}/log",
                "campaigns",
                "acts",
            }
        )
            Assert.DoesNotContain("Xenophon", (await api.Get($"/api/{path}")).ToJsonString());
        Assert.Equal(0, (int)(await api.Get($"/api/lists/{list}/recipients"))["total"]!);
    }

    [Fact]
    public async Task A_list_with_a_paused_run_is_neither_removed_nor_erased()
    {
        var list = await api.BringIn("members.csv", Api.Csv(4000));
        var drop = await api.MakeDrop(list, "Dear {First},");
        await api.Until("/api/jobs", j => j.AsArray().All(x => (string)x!["state"]! is "done"));
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one" });
        await api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/pause", new { });
        var state = await api.Until($"/api/runs/{run["id"]}", r => (string)r["state"]! is "paused" or "done");
        var name = (string)(await api.Get($"/api/lists/{list}"))["name"]!;
        using var erased = await api.Client.PostAsJsonAsync($"/api/lists/{list}/erase", new { name });
        Assert.Equal((string)state["state"]! == "paused" ? HttpStatusCode.Conflict : HttpStatusCode.NoContent, erased.StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, await Remove($"lists/{list}"));
    }

    [Fact]
    public async Task An_upload_is_removed_once_its_rows_are_in_and_what_nobody_knows_of_at_the_next_start()
    {
        await List();
        var folder = Path.GetDirectoryName(api.Part<Bandeja.Work.Jobs.Uploads>().PathOf("x"))!;
        Assert.Empty(Directory.GetFiles(folder));
        await File.WriteAllTextAsync(Path.Combine(folder, "orphan"), "left by a process that ended");
        await api.Restart();
        while (Directory.GetFiles(folder).Length > 0)
            await Task.Delay(20, TestContext.Current.CancellationToken);
    }
}
