using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Bandeja.Formats.Tests;

namespace Bandeja.Server.Tests;

/// <summary>The organization's own typefaces, through the API.</summary>
public sealed class TypefaceTests : IAsyncLifetime
{
    readonly Api api = new();

    public ValueTask InitializeAsync() => api.InitializeAsync();

    public ValueTask DisposeAsync() => api.DisposeAsync();

    Task<HttpResponseMessage> Send(byte[] file, string name = "blocks.otf") =>
        api.Client.PostAsync($"/api/typefaces?name={name}", new ByteArrayContent(file));

    static async Task<string> Why(HttpResponseMessage response) =>
        (string)JsonNode.Parse(await response.Content.ReadAsStringAsync())!["detail"]!;

    [Fact]
    public async Task A_typeface_is_added_used_kept_through_a_restart_and_not_removed_while_a_design_names_it()
    {
        var file = MadeFont.File(postScript: true);
        var added = await api.Read(await Send(file));
        Assert.Equal(("Fernquay Blocks", "Regular"), ((string)added["family"]!, (string)added["style"]!));
        Assert.Contains("Fernquay Blocks", (await api.Get("/api/settings"))["families"]!.AsArray().Select(f => (string)f!));
        Assert.Equal(file, await api.Client.GetByteArrayAsync($"/api/typefaces/{added["id"]}/file"));
        // The same file again changes nothing; another one of the same cut is refused.
        Assert.Equal((long)added["id"]!, (long)(await api.Read(await Send(file)))["id"]!);
        var twice = await Send(MadeFont.File());
        Assert.Equal(HttpStatusCode.BadRequest, twice.StatusCode);
        Assert.Contains("is there already", await Why(twice));
        var of = $"/api/typefaces/{added["id"]}/file?digest=";
        Assert.Contains("immutable", (await api.Client.GetAsync(of + added["digest"])).Headers.CacheControl!.ToString());
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync(of + new string('0', 64))).StatusCode);
        // A family that only lends its characters is one that ships, too.
        Assert.Contains("already included with Bandeja", await Why(await Send(MadeFont.File("Amiri"))));
        var closed = await Send(MadeFont.File("Closed Face", rights: 2));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, closed.StatusCode);
        Assert.Contains("does not allow", await Why(closed));

        var design = (long)
            await api.Post(
                "/api/designs",
                new
                {
                    name = "Branded",
                    document = new
                    {
                        type = new { family = "Fernquay Blocks" },
                        content = new[] { new { type = "paragraph", content = new[] { new { type = "text", text = "Hello" } } } },
                    },
                }
            );
        await api.Restart();
        Assert.Contains("Fernquay Blocks", (await api.Get("/api/settings"))["families"]!.AsArray().Select(f => (string)f!));
        var used = await api.Client.DeleteAsync($"/api/typefaces/{added["id"]}");
        Assert.Equal(HttpStatusCode.BadRequest, used.StatusCode);
        Assert.Contains("used in “Branded”", await Why(used));
        (await api.Client.DeleteAsync($"/api/designs/{design}")).EnsureSuccessStatusCode();
        (await api.Client.DeleteAsync($"/api/typefaces/{added["id"]}")).EnsureSuccessStatusCode();
        Assert.DoesNotContain("Fernquay Blocks", (await api.Get("/api/settings"))["families"]!.AsArray().Select(f => (string)f!));
        Assert.Equal(HttpStatusCode.NotFound, (await api.Client.GetAsync($"/api/typefaces/{added["id"]}/file")).StatusCode);
    }

    [Fact]
    public async Task What_is_chosen_for_a_typeface_of_documents_holds_for_the_next_look()
    {
        (await Send(MadeFont.File())).EnsureSuccessStatusCode();
        async Task<HttpResponseMessage> Choose(params object[] replacements) =>
            await api.Client.PutAsJsonAsync("/api/typefaces/replacements", new { replacements });
        (
            await Choose(new { named = "Arial", printed = "Fernquay Blocks" }, new { named = "Our Sans", printed = "Tinos" })
        ).EnsureSuccessStatusCode();
        var rows = (await api.Get("/api/typefaces"))["replacements"]!.AsArray();
        var arial = Assert.Single(rows, r => (string)r!["named"]! == "Arial")!;
        Assert.Equal(("Fernquay Blocks", true), ((string)arial["printed"]!, (bool)arial["isChosen"]!));
        Assert.Equal("Carlito", (string)rows.Single(r => (string)r!["named"]! == "Calibri")!["printed"]!);
        foreach (
            var (bad, why) in new (object, string)[]
            {
                (new { named = " ", printed = "Tinos" }, "Enter the font’s name"),
                (new { named = "X", printed = "Nobody" }, "no font named"),
            }
        )
        {
            var response = await Choose(bad);
            Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
            Assert.Contains(why, await Why(response));
        }
        var twice = await Choose(new { named = "A", printed = "Tinos" }, new { named = "a ", printed = "Arimo" });
        Assert.Contains("twice", await Why(twice));
        Assert.Equal(2, (await api.Get("/api/typefaces"))["replacements"]!.AsArray().Count(r => (bool)r!["isChosen"]!));
    }
}
