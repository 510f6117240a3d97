using System.Net;

namespace Bandeja.Server.Tests;

/// <summary>Looking at something while somebody else changes what it is made of: every look sees one state, before or after.</summary>
public sealed class RaceTests : ServerTests
{
    MailWorld world = null!;

    public override async ValueTask InitializeAsync()
    {
        await api.InitializeAsync();
        world = new(api);
    }

    [Fact]
    public async Task Columns_come_and_go_while_every_page_of_the_list_and_of_its_drop_is_looked_at()
    {
        var drop = await world.Drop();
        var list = world.Members;
        var person = (await api.Recipients(drop))[0].Id;
        var columns = (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray();
        var last = columns.First(c => (string)c!["name"]! == "Last")!["id"];
        string[] paths =
        [
            $"/api/drops/{drop}",
            $"/api/drops/{drop}/recipients",
            $"/api/drops/{drop}/recipients?search=Tan&sort=name",
            $"/api/drops/{drop}/recipients/{person}",
            $"/api/drops/{drop}/recipients/{person}/proof.pdf",
            $"/api/drops/{drop}/recipients/{person}/mail",
            $"/api/drops/{drop}/proof-set",
            $"/api/drops/{drop}/proofs.pdf",
            $"/api/drops/{drop}/longest.pdf",
            $"/api/drops/{drop}/recipient-ids",
            $"/api/lists/{list}",
            $"/api/lists/{list}/recipients",
            $"/api/lists/{list}/recipients?search=Tan",
            $"/api/lists/{list}/recipients/{person}",
            $"/api/lists/{list}/columns/{last}/facts",
            $"/api/lists/{list}/columns/{last}/uses",
            $"/api/lists/{list}/checks",
            $"/api/lists/{list}/export.csv",
            $"/api/lists/{list}/export.xlsx",
            $"/api/lists/{list}/recipient-ids?search=Tan",
            $"/api/lists/{list}/duplicates",
            $"/api/lists/{list}/segments",
            $"/api/designs/{world.Letter}/matches?listId={list}",
            $"/api/designs/{world.Letter}/first-page",
            "/api/ledger.csv",
            "/api/campaigns",
        ];
        using var over = new CancellationTokenSource();
        var readers = paths
            .Select(async path =>
            {
                var wrong = new List<string>();
                while (!over.IsCancellationRequested)
                {
                    using var response = await api.Client.GetAsync(path);
                    if (response.StatusCode >= HttpStatusCode.InternalServerError)
                        wrong.Add($"{path}: {await response.Content.ReadAsStringAsync()}");
                    else
                        await response.Content.ReadAsByteArrayAsync();
                }
                return wrong;
            })
            .ToList();
        for (var i = 0; i < 25; i++)
        {
            await api.Client.DeleteAsync($"/api/lists/{list}/columns/{last}");
            await api.Client.PostAsync($"/api/lists/{list}/undo", null);
        }
        await over.CancelAsync();
        var all = await Task.WhenAll(readers);
        Assert.Empty(all.SelectMany(w => w).Distinct());
        Assert.Equal(HttpStatusCode.OK, (await api.Client.GetAsync($"/api/drops/{drop}/recipients/{person}/proof.pdf")).StatusCode);
    }
}
