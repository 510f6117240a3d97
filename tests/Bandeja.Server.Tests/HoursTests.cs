using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Bandeja.Store;
using Bandeja.Work.Hosting;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Server.Tests;

/// <summary>Bad hours: the database is full, locked, or faulty while the server runs.</summary>
public sealed class HoursTests : ServerTests
{
    /// <summary>No more pages than there are: every write that needs one finds no room, as on a full disk.</summary>
    void Full(bool full) =>
        api.Part<Database>()
            .Write(c =>
                c.Execute(
                    full ? $"PRAGMA max_page_count = {c.ExecuteScalar<long>("PRAGMA page_count")}" : "PRAGMA max_page_count = 4294967294"
                )
            );

    async Task<HttpStatusCode> Health() => (await api.Client.GetAsync("/health")).StatusCode;

    [Fact]
    public async Task On_a_full_disk_what_is_asked_for_is_refused_and_can_be_done_again()
    {
        await api.Post("/api/campaigns", new { name = "Before" });
        Full(true);
        var (status, detail) = ((HttpStatusCode)0, "");
        var name = new string('x', 60);
        // The last page has some room yet.
        for (var i = 0; status != HttpStatusCode.InsufficientStorage; i++)
            (status, detail) = await Tried(() => api.Client.PostAsJsonAsync("/api/campaigns", new { name = $"{name} {i}" }));
        Assert.Contains("The server's disk is full", detail);
        Assert.Contains("Free some space and try again", detail);
        // Reading goes on.
        Assert.NotEmpty((await api.Get("/api/campaigns")).AsArray());
        Full(false);
        await api.Post("/api/campaigns", new { name = "After" });
    }

    static async Task<(HttpStatusCode, string)> Tried(Func<Task<HttpResponseMessage>> ask)
    {
        using var answer = await ask();
        return (
            answer.StatusCode,
            answer.IsSuccessStatusCode ? "" : (string)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["detail"]!
        );
    }

    [Fact]
    public async Task While_another_program_keeps_the_database_locked_it_is_said_and_health_says_so()
    {
        Assert.Equal(HttpStatusCode.OK, await Health());
        await using (var other = new SqliteConnection($"Data Source={api.Part<Database>().Path};Pooling=False"))
        {
            other.Open();
            other.Execute("BEGIN IMMEDIATE");
            using var answer = await api.Client.PostAsJsonAsync("/api/campaigns", new { name = "Renewal" });
            Assert.Equal(HttpStatusCode.ServiceUnavailable, answer.StatusCode);
            Assert.NotNull(answer.Headers.RetryAfter);
            Assert.Contains("another program has locked it", await answer.Content.ReadAsStringAsync());
            Assert.Equal(HttpStatusCode.ServiceUnavailable, await Health());
            other.Execute("ROLLBACK");
        }
        await api.Post("/api/campaigns", new { name = "Renewal" });
        Assert.Equal(HttpStatusCode.OK, await Health());
        var health = await api.Get("/health");
        Assert.Equal("healthy", (string)health["checks"]!["queues"]!["status"]!);
        Assert.Contains("MB are free", (string)health["checks"]!["disk"]!["says"]!);
    }

    [Fact]
    public async Task Work_waits_while_the_database_is_full_and_goes_on_by_itself()
    {
        var upload = await api.Upload("members.csv", System.Text.Encoding.UTF8.GetBytes(Api.Csv(4000)));
        upload.EnsureSuccessStatusCode();
        var id = (string)JsonNode.Parse(await upload.Content.ReadAsStringAsync())!["id"]!;
        var look = await api.Post($"/api/uploads/{id}/look", new { });
        var columns = new JsonArray();
        foreach (var (column, position) in look["columns"]!.AsArray().Select((c, i) => (c!, i)))
            columns.Add(
                new JsonObject
                {
                    ["position"] = position,
                    ["name"] = (string)column["name"]!,
                    ["type"] = "Text",
                    ["dateOrder"] = "MonthDayYear",
                    ["role"] = "None",
                }
            );
        Full(true);
        var begun = await api.Client.PostAsJsonAsync(
            $"/api/uploads/{id}/list",
            new
            {
                name = "Members",
                options = new
                {
                    headingRow = 0,
                    encoding = "utf-8",
                    delimiter = ",",
                },
                width = columns.Count,
                columns,
            }
        );
        if (begun.StatusCode == HttpStatusCode.InsufficientStorage)
        {
            // Not even the order found room; nothing is begun, so it is asked for again.
            Full(false);
            return;
        }
        var job = (long)JsonNode.Parse(await begun.Content.ReadAsStringAsync())!["jobId"]!;
        await api.Until(
            $"/api/jobs/{job}",
            j => (string?)j["message"] is { } m && m.StartsWith("Waiting: the server's disk is full", StringComparison.Ordinal)
        );
        Full(false);
        Assert.Equal("done", (string)(await api.Ended(job))["state"]!);
        Assert.Equal(4000, (int)(await api.Get("/api/lists"))[0]!["recipients"]!);
    }

    [Theory]
    [InlineData(5, "another program has locked it")]
    [InlineData(8, "it is read-only")]
    [InlineData(10, "the disk reported an error")]
    [InlineData(13, "disk is full")]
    public void Each_fault_of_the_database_has_its_sentence(int code, string words)
    {
        var fault = new SqliteException("", code);
        Assert.True(StorageTrouble.Is(fault));
        Assert.Contains(words, StorageTrouble.Refusal(fault));
        Assert.StartsWith("Waiting: ", StorageTrouble.Waiting(fault));
    }

    [Fact]
    public void Other_faults_are_none_of_the_disk()
    {
        Assert.False(StorageTrouble.Is(new SqliteException("", 1)));
        Assert.False(StorageTrouble.Is(new SqliteException("", 19)));
        Assert.False(StorageTrouble.Is(new FileNotFoundException()));
    }
}
