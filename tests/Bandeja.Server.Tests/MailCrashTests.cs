using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;

namespace Bandeja.Server.Tests;

/// <summary>The server as a process of its own, killed while it sends.</summary>
public sealed class MailCrashTests : ServerProcess
{
    const int People = 400;
    static readonly int Kills = int.TryParse(Environment.GetEnvironmentVariable("BANDEJA_KILLS"), out var n) ? n : 6;

    [Fact]
    public async Task Killed_at_any_instant_nobody_gets_it_twice_and_only_what_was_in_the_air_is_in_doubt()
    {
        await Start();
        await http.PutAsJsonAsync(
            "/api/settings/organization",
            new
            {
                name = "Garden",
                locale = "en-US",
                currency = "USD",
                countryLine = "Abroad",
                postalAddress = "18 Quay Road",
                publicAddress = "",
            }
        );
        var upload = JsonNode.Parse(
            await (
                await http.PostAsync(
                    "/api/uploads?name=m.csv",
                    new ByteArrayContent(
                        Encoding.UTF8.GetBytes(
                            "First,Email\r\n"
                                + string.Concat(Enumerable.Range(1, People).Select(i => $"Given{i},member{i}@example.org\r\n"))
                        )
                    )
                )
            ).Content.ReadAsStringAsync()
        )!;
        var columns = new[]
        {
            new
            {
                position = 0,
                name = "First",
                type = "Text",
                dateOrder = "YearMonthDay",
                role = "GivenName",
            },
            new
            {
                position = 1,
                name = "Email",
                type = "Text",
                dateOrder = "YearMonthDay",
                role = "Email",
            },
        };
        var job = await Post(
            $"/api/uploads/{upload["id"]}/list",
            new
            {
                name = "Members",
                width = 2,
                columns,
                options = new
                {
                    headingRow = 0,
                    encoding = "utf-8",
                    delimiter = ",",
                    sheet = (string?)null,
                },
            }
        );
        JsonNode brought;
        do brought = await Get($"/api/jobs/{job["jobId"]}");
        while ((string)brought["state"]! is "queued" or "running");
        var list = (long)JsonNode.Parse((string)brought["message"]!)!["listId"]!;
        var email = (long)
            await Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Email",
                    ["listId"] = list,
                    ["document"] = MailWorld.Design(null, "Dear {First},"),
                }
            );
        var drop = (long)
            await Post(
                "/api/drops",
                new
                {
                    name = "Notice",
                    listId = list,
                    designIds = new[] { email },
                    campaignName = "Renewal",
                }
            );
        while ((bool)(await Get($"/api/drops/{drop}"))["checking"]!)
            await Task.Delay(20);
        var account = (long)(await Get("/api/mail-accounts"))[0]!["id"]!;
        var run = (long)(await Post($"/api/drops/{drop}/runs", new { output = "email", accountId = account }))["id"]!;
        var random = new Random(20270301);
        for (var kill = 0; kill < Kills; kill++)
        {
            await Task.Delay(random.Next(5, 120));
            server!.Kill();
            await server.WaitForExitAsync();
            await Start();
            var state = (string)(await Get($"/api/runs/{run}"))["state"]!;
            if (state is "done")
                break;
            if (state is "paused")
                await Settle(run);
        }
        for (var i = 0; i < 2000; i++)
        {
            var state = (string)(await Get($"/api/runs/{run}"))["state"]!;
            if (state == "done")
                break;
            if (state == "paused")
                await Settle(run);
            await Task.Delay(20);
        }
        Assert.Equal("done", (string)(await Get($"/api/runs/{run}"))["state"]!);
        Assert.Equal(People, (int)(await Get($"/api/drops/{drop}"))["trays"]!["mailed"]!);
        // The post office's own record: everybody once.
        using var connection = new SqliteConnection($"Data Source={Path.Combine(data, "post-office.sqlite")};Mode=ReadOnly;Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT m.recipients, count(*) FROM message m GROUP BY 1";
        var got = new Dictionary<string, long>();
        using (var reader = command.ExecuteReader())
            while (reader.Read())
                got[reader.GetString(0)] = reader.GetInt64(1);
        Assert.Equal(People, got.Count);
        Assert.All(got.Values, n => Assert.Equal(1, n));
        Assert.Equal(People, (await http.GetStringAsync($"/api/ledger.csv?dropId={drop}")).Split(",Mailed,1,").Length - 1);
    }

    /// <summary>Somebody looks in the inbox for each that is in doubt, and says what they see.</summary>
    async Task Settle(long run)
    {
        foreach (var piece in (await Get($"/api/runs/{run}/pieces?mail=doubt&limit=1000"))["rows"]!.AsArray())
        {
            var found = (await Get($"/api/post-office/messages?search={Uri.EscapeDataString((string)piece!["address"]!)}&limit=1000"))[
                "rows"
            ]!.AsArray();
            await http.PostAsJsonAsync(
                $"/api/runs/{run}/settle-mail",
                new
                {
                    recipientId = (long)piece["recipientId"]!,
                    sent = found.Any(m => (string)m!["recipients"]! == (string)piece["address"]!),
                }
            );
        }
        await http.PostAsJsonAsync($"/api/runs/{run}/resume", new { });
    }
}
