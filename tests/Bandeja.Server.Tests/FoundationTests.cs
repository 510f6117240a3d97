using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>What was frozen stays so, what was looked at stays looked at, and what was good is not thrown away: over changes, restarts and
/// work that fails.</summary>
public sealed class FoundationTests : ServerTests
{
    async Task<JsonNode> Made(long drop, object order)
    {
        var run = await api.Post($"/api/drops/{drop}/runs", order);
        var job = await api.Ended((long)run["jobId"]!);
        Assert.True((string)job["state"]! == "done", (string?)job["message"]);
        return await api.Get($"/api/runs/{run["id"]}");
    }

    Task<byte[]> File(JsonNode run) => api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1");

    async Task Picture(string color)
    {
        var svg = $"<svg xmlns='http://www.w3.org/2000/svg' width='20' height='10'><rect width='20' height='10' fill='{color}'/></svg>";
        Assert.True(
            (
                await api.Client.PostAsync("/api/pictures?name=leaf.svg", new ByteArrayContent(Encoding.UTF8.GetBytes(svg)))
            ).IsSuccessStatusCode
        );
    }

    /// <summary>A drop whose letter prints a picture that a column names.</summary>
    async Task<long> WithPicture()
    {
        var list = await api.BringIn("photos.csv", "First,Photo\r\nAna,leaf\r\nPer,leaf\r\n");
        var document = Api.Letter("Dear {First},");
        document["content"]!
            .AsArray()
            .Add(
                new JsonObject
                {
                    ["type"] = "picture",
                    ["attrs"] = new JsonObject
                    {
                        ["asset"] = "",
                        ["source"] = "Photo",
                        ["width"] = 30,
                        ["aspect"] = 2,
                    },
                }
            );
        var design = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Letter",
                    ["listId"] = list,
                    ["document"] = document,
                }
            );
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "First notice",
                    listId = list,
                    designIds = new[] { design },
                    campaignName = "Renewal",
                }
            );
        await api.Checked(drop);
        return drop;
    }

    async Task<string> SignOffState(long drop) => (string)(await api.Get($"/api/drops/{drop}/proof-set"))["signOff"]!["state"]!;

    async Task SignOff(long drop)
    {
        foreach (var m in (await api.Get($"/api/drops/{drop}/proof-set"))["members"]!.AsArray())
            await api.Put($"/api/drops/{drop}/proof-set/{m!["id"]}", new { found = "right" });
        await api.Post($"/api/drops/{drop}/sign-off", new { });
    }

    [Fact]
    public async Task A_picture_that_a_column_names_is_frozen_with_the_run()
    {
        await Picture("red");
        var drop = await WithPicture();
        var run = await Made(drop, new { output = "one" });
        var before = await File(run);
        await Picture("blue");
        await api.Checked(drop);
        var again = await api.Post($"/api/runs/{run["id"]}/remake", new { });
        await api.Ended((long)again["jobId"]!);
        Assert.Equal(Convert.ToHexString(SHA256.HashData(before)), Convert.ToHexString(SHA256.HashData(await File(run))));
        // What is looked at now has the newer one.
        var ids = (await api.Recipients(drop)).Select(r => r.Id).ToArray();
        await api.Post($"/api/drops/{drop}/take-back", new { recipients = ids, reason = "another picture" });
        Assert.NotEqual(before.Length, (await File(await Made(drop, new { output = "one" }))).Length);
    }

    [Fact]
    public async Task A_sign_off_holds_over_a_restart_and_lapses_with_a_picture_for_good()
    {
        await Picture("red");
        var drop = await WithPicture();
        await SignOff(drop);
        await api.Restart();
        await api.Checked(drop);
        Assert.Equal("valid", await SignOffState(drop));
        await Picture("blue");
        await api.Checked(drop);
        Assert.Equal("lapsed", await SignOffState(drop));
        await Picture("red");
        await api.Restart();
        await api.Checked(drop);
        Assert.Equal("lapsed", await SignOffState(drop));
    }

    [Fact]
    public async Task Making_files_again_and_giving_up_leaves_the_good_ones()
    {
        var drop = await api.MakeDrop(await api.BringIn("m.csv", Api.Csv(3000)), "Dear {First} {Last},");
        var run = await Made(drop, new { output = "one" });
        var before = await File(run);
        for (var i = 0; i < 4; i++)
        {
            var again = await api.Post($"/api/runs/{run["id"]}/remake", new { });
            // Begun, nearly done, or not begun yet: whichever it is, the files are whole.
            if (i > 0)
                await api.Until($"/api/jobs/{again["jobId"]}", j => (long)j["done"]! >= i * 300 || (string)j["state"]! == "done");
            await api.Client.PostAsync($"/api/jobs/{again["jobId"]}/cancel", null);
            await api.Ended((long)again["jobId"]!);
            Assert.Equal(before, await File(run));
        }
        Assert.Equal(
            ["1.pdf"],
            Directory.GetFiles(Path.GetDirectoryName(api.RunFile((long)run["id"]!, "1.pdf"))!).Select(Path.GetFileName)
        );
    }

    [Fact]
    public async Task A_message_that_was_put_off_is_exported_as_it_was_sent_also_after_a_restart()
    {
        var world = new MailWorld(api);
        var drop = await world.Drop();
        await world.Tell("later", "bea@example.org", 2);
        var run = await world.Begin(drop);
        await world.Until(run, "done");
        // Another public address is for what is sent from now on.
        await api.Put(
            "/api/settings/organization",
            new
            {
                name = "Fernquay Botanic Garden",
                locale = "en-US",
                currency = "USD",
                countryLine = "Abroad",
                postalAddress = "18 Quay Road\nFernquay OR 97412",
                publicAddress = "https://elsewhere.example.org",
            }
        );
        await api.Restart();
        var inbox = (await api.Get("/api/post-office/messages?limit=100"))["rows"]!
            .AsArray()
            .ToDictionary(m => (string)m!["recipients"]!, m => (long)m!["id"]!);
        using var zip = new System.IO.Compression.ZipArchive(
            new MemoryStream(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/messages/eml"))
        );
        Assert.Equal(3, zip.Entries.Count);
        foreach (var entry in zip.Entries)
        {
            using var stream = entry.Open();
            var made = await MimeKit.MimeMessage.LoadAsync(stream);
            var sent = await api.Client.GetByteArrayAsync(
                $"/api/post-office/messages/{inbox[made.To.Mailboxes.Single().Address]}/source.eml"
            );
            using var bytes = new MemoryStream();
            await made.WriteToAsync(bytes);
            Assert.Equal(
                Encoding.UTF8.GetString(sent).ReplaceLineEndings("\n").TrimEnd(),
                Encoding.UTF8.GetString(bytes.ToArray()).ReplaceLineEndings("\n").TrimEnd()
            );
        }
    }

    [Theory]
    [InlineData("handing", 0)]
    [InlineData("sent", 2)]
    public async Task Sending_that_cannot_write_pauses_with_the_reason_and_goes_on_when_it_can(string state, int inDoubtAtLeast)
    {
        var world = new MailWorld(api);
        var drop = await world.Drop();
        var database = api.Part<Bandeja.Store.Database>();
        // As a full disk does: nothing of that kind can be written.
        database.Write(c =>
            Dapper.SqlMapper.Execute(
                c,
                $"CREATE TRIGGER broken BEFORE UPDATE ON run_mail WHEN NEW.state = '{state}' BEGIN SELECT RAISE(ABORT, 'the disk is "
                    + "full'); END"
            )
        );
        var run = await world.Begin(drop);
        var paused = await world.Until(run, "paused");
        Assert.Contains("the disk is full", (string)paused["run"]!["message"]!);
        Assert.InRange((int)paused["mails"]!["doubt"]!, Math.Min(1, inDoubtAtLeast), 3);
        database.Write(c => Dapper.SqlMapper.Execute(c, "DROP TRIGGER broken"));
        // What may have gone out is settled by whoever looked into the inbox; the rest goes on by itself.
        var there = (await world.Inbox()).Select(m => m.To.Mailboxes.Single().Address).ToHashSet();
        foreach (var person in (await api.Get($"/api/runs/{run["id"]}/pieces?mail=doubt"))["rows"]!.AsArray())
            await api.Client.PostAsJsonAsync(
                $"/api/runs/{run["id"]}/settle-mail",
                new { recipientId = (long)person!["recipientId"]!, sent = there.Contains((string)person["address"]!) }
            );
        await api.Client.PostAsJsonAsync($"/api/runs/{run["id"]}/resume", new { });
        await world.Until(run, "done");
        Assert.Equal(3, (await world.Inbox()).Select(m => m.To.Mailboxes.Single().Address).Distinct().Count());
        Assert.Equal(3, (await world.Inbox()).Count);
    }

    [Fact]
    public async Task Sending_that_cannot_write_can_be_canceled()
    {
        var world = new MailWorld(api);
        var drop = await world.Drop();
        var database = api.Part<Bandeja.Store.Database>();
        database.Write(c =>
            Dapper.SqlMapper.Execute(
                c,
                "CREATE TRIGGER broken BEFORE UPDATE ON run_mail WHEN NEW.state = 'handing' BEGIN SELECT RAISE(ABORT, 'the disk is "
                    + "full'); END"
            )
        );
        var run = await world.Begin(drop);
        await world.Until(run, "paused");
        await api.Client.PostAsync($"/api/runs/{run["id"]}/cancel", null);
        await world.Until(run, "cancelled");
        Assert.Equal(4, Api.Count(await api.Get($"/api/drops/{drop}"), "ready"));
    }

    [Fact]
    public async Task A_mail_date_can_be_cleared_and_is_otherwise_left_alone()
    {
        var drop = await api.MakeDrop(await api.BringIn("m.csv", Api.Csv(3)), "Dear {First},");
        async Task<string?> Date() => (string?)(await api.Get($"/api/drops/{drop}"))["mailDate"];
        async Task Change(object body) => Assert.True((await api.Client.PatchAsJsonAsync($"/api/drops/{drop}", body)).IsSuccessStatusCode);
        await Change(new { mailDate = "2027-03-12" });
        await Change(new { name = "Second notice" });
        Assert.Equal("2027-03-12", await Date());
        await Change(new { noMailDate = true });
        Assert.Null(await Date());
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await Api.Refusal(api.Client.PatchAsJsonAsync($"/api/drops/{drop}", new { mailDate = "2027-03-12", noMailDate = true }))
            ).Status
        );
    }

    [Fact]
    public async Task Files_that_were_brought_in_are_removed_after_a_day_but_not_while_work_waits_for_them()
    {
        await api.BringIn("m.csv", Api.Csv(3));
        var waiting = (string)
            JsonNode.Parse(await (await api.Upload("later.csv", Encoding.UTF8.GetBytes(Api.Csv(3)))).Content.ReadAsStringAsync())!["id"]!;
        var folder = Path.Combine(Path.GetDirectoryName(Path.GetDirectoryName(api.RunFile(1, "x")))!, "..", "uploads");
        await System.IO.File.WriteAllTextAsync(Path.Combine(folder, "orphan"), "left behind");
        System.IO.File.SetLastWriteTimeUtc(Path.Combine(folder, "orphan"), DateTime.UtcNow.AddDays(-2));
        // What the list was read from is gone already: its rows are in.
        Assert.Equal(2, Directory.GetFiles(folder).Length);
        var uploads = api.Part<Bandeja.Work.Hosting.OldUploads>();
        uploads.RemoveOrphans(DateTimeOffset.UtcNow.AddDays(-1));
        uploads.Sweep(DateTimeOffset.UtcNow);
        Assert.Equal([waiting], Directory.GetFiles(folder).Select(Path.GetFileName));
        api.Part<Bandeja.Store.Database>()
            .Write(c =>
                Dapper.SqlMapper.Execute(
                    c,
                    "INSERT INTO job (kind, subject_id, state, label, payload_json, created_at, created_by) VALUES ('nobody does "
                        + "this', 0, 'queued', '', @payload, '', '')",
                    new { payload = $"{{\"UploadId\":\"{waiting}\"}}" }
                )
            );
        uploads.Sweep(DateTimeOffset.UtcNow.AddDays(2));
        Assert.Equal([waiting], Directory.GetFiles(folder).Select(Path.GetFileName));
        // What is gone is told in a sentence.
        Assert.Contains(
            "Import it again",
            (await Api.Refusal(api.Client.PostAsJsonAsync("/api/uploads/0123456789abcdef0123456789abcdef/look", new { }))).Detail
        );
    }
}
