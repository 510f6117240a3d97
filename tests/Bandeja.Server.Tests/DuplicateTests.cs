using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>Duplicates, households, issues and segments through the API, and the drops that follow.</summary>
public sealed class DuplicateTests : ServerTests
{
    const string Members =
        "No,First,Last,Street,City,State,Zip,Email\r\n"
        + "M-1,Ana,Okafor,9 Tide Street Apt 4,Fernquay,OR,97412,\r\nM-2,ANA,Okafor,9 Tide St #4,Fernquay,OR,97412,ana@example.org\r\n"
        + "M-3,Katherine,Abernathy,1 Quay Road,Fernquay,OR,97412,\r\nM-4,Katharine,Abernathy,1 Quay Road,Fernquay,OR,97412,\r\n"
        + "M-5,Luis,Ortega,2 Bell Street,Fernquay,OR,97412,\r\nM-6,Rosa,Ortega,2 Bell Street,Fernquay,OR,97412,\r\n";

    async Task<long> Found()
    {
        var list = await api.BringIn("m.csv", Members);
        await api.Post($"/api/lists/{list}/duplicates", new { });
        await api.Until($"/api/lists/{list}/duplicates", t => !(bool)t["stale"]!);
        return list;
    }

    async Task<List<(long Id, string?[] Values)>> Rows(long list, string query = "") =>
        [
            .. (await api.Get($"/api/lists/{list}/recipients?limit=500{query}"))["rows"]!
                .AsArray()
                .Select(r => ((long)r!["id"]!, r["values"]!.AsArray().Select(v => (string?)v).ToArray())),
        ];

    async Task<long> Drop(long list, long? segment = null)
    {
        var design = (long)
            JsonNode.Parse(
                await (
                    await api.Client.PostAsJsonAsync(
                        "/api/designs",
                        new
                        {
                            name = "Notice",
                            listId = list,
                            document = new
                            {
                                content = new[]
                                {
                                    new { type = "paragraph", content = new[] { new { type = "text", text = "Dear {First}," } } },
                                },
                            },
                        }
                    )
                ).Content.ReadAsStringAsync()
            )!;
        var drop = (long)
            JsonNode.Parse(
                await (
                    await api.Client.PostAsJsonAsync(
                        "/api/drops",
                        new
                        {
                            name = "First",
                            listId = list,
                            designIds = new[] { design },
                            campaignName = "Spring",
                            segmentId = segment,
                        }
                    )
                ).Content.ReadAsStringAsync()
            )!;
        await api.Checked(drop);
        return drop;
    }

    async Task<Dictionary<string, string>> Why(long drop) =>
        (await api.Get($"/api/drops/{drop}/recipients?limit=500"))["rows"]!
            .AsArray()
            .ToDictionary(r => (string)r!["name"]!, r => (string?)r!["why"] ?? (string)r["tray"]!);

    async Task<JsonNode?> Twice(long drop, object order) => (await api.Post($"/api/drops/{drop}/plan", order))["duplicates"];

    [Fact]
    public async Task A_plan_names_who_may_be_one_person_among_its_pieces_and_those_produced_before()
    {
        var list = await api.BringIn("m.csv", Members);
        var drop = await Drop(list);
        Assert.Equal((false, 0), ((bool)(await Twice(drop, new { output = "one" }))!["searched"]!, 0));
        await api.Post($"/api/lists/{list}/duplicates", new { });
        await api.Until($"/api/lists/{list}/duplicates", t => !(bool)t["stale"]!);

        var all = (await Twice(drop, new { output = "one" }))!;
        Assert.Equal((true, 2), ((bool)all["searched"]!, (int)all["pairs"]!));
        Assert.Equal(
            ["1 Okafor, Ana = 2 Okafor, ANA, SameNameAndAddress", "3 Abernathy, Katherine = 4 Abernathy, Katharine, Near"],
            all["first"]!
                .AsArray()
                .Select(p => $"{p!["a"]!["piece"]} {p["a"]!["name"]} = {p["b"]!["piece"]} {p["b"]!["name"]}, {p["reason"]}")
        );
        Assert.Equal(0, (int)(await Twice(drop, new { output = "one", pieces = "1, 3, 5" }))!["pairs"]!);
        Assert.Equal(1, (int)(await Twice(drop, new { output = "one", pieces = "1-3" }))!["pairs"]!);

        // Whoever got a piece before is one of a pair as well, in whichever order they stand.
        var run = await api.Post($"/api/drops/{drop}/runs", new { output = "one", pieces = "1, 4" });
        await api.Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
        Assert.Equal(2, (int)(await Twice(drop, new { output = "one" }))!["pairs"]!);
        Assert.Equal(0, (int)(await Twice(drop, new { output = "one", pieces = "5-6" }))!["pairs"]!);
        Assert.Null(
            await Twice(
                drop,
                new
                {
                    output = "one",
                    reprints = true,
                    pieces = "1",
                }
            )
        );

        // Whose piece was moved back has none: the other of the pair may get one.
        await api.Post($"/api/runs/{run["id"]}/take-back", new { reason = "spoiled" });
        Assert.Equal(0, (int)(await Twice(drop, new { output = "one", pieces = "2-3" }))!["pairs"]!);

        // Told apart, they are two people.
        var rows = await Rows(list);
        await api.Post($"/api/lists/{list}/duplicates/different", new { a = rows[2].Id, b = rows[3].Id });
        Assert.Equal(1, (int)(await Twice(drop, new { output = "one" }))!["pairs"]!);
    }

    [Fact]
    public async Task Pairs_are_kept_joined_or_told_apart_for_good()
    {
        var list = await Found();
        var counts = await api.Get($"/api/lists/{list}/duplicates");
        Assert.Equal((1, 1, 1), ((int)counts["sure"]!, (int)counts["toCompare"]!, (int)counts["households"]!));
        var pairs = (await api.Get($"/api/lists/{list}/duplicates/pairs")).AsArray();
        Assert.Equal(["SameNameAndAddress", "Near"], pairs.Select(p => (string)p!["reason"]!));
        var (a, b) = ((long)pairs[1]!["a"]!["id"]!, (long)pairs[1]!["b"]!["id"]!);
        await api.Post($"/api/lists/{list}/duplicates/different", new { a = b, b = a });
        Assert.Equal(0, (int)(await api.Get($"/api/lists/{list}/duplicates"))["toCompare"]!);
        var kept = await api.Post($"/api/lists/{list}/duplicates/keep-sure", new { });
        Assert.Equal("Merged 1 pair of duplicates", (string)kept["label"]!);
        var rows = await Rows(list);
        Assert.Equal(5, rows.Count);
        Assert.Equal("ana@example.org", rows[0].Values[7]); // the blank was filled from the other
        // Looked for again, what was settled is not asked again.
        await api.Post($"/api/lists/{list}/duplicates", new { });
        await api.Until($"/api/lists/{list}/duplicates", t => !(bool)t["stale"]!);
        Assert.Empty((await api.Get($"/api/lists/{list}/duplicates/pairs")).AsArray());
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/lists/{list}/duplicates/keep-sure", new { }))).Status
        );
        // Both acts are taken back from the log, in any order.
        var acts = (await api.Get($"/api/lists/{list}/log"))["acts"]!.AsArray();
        await api.Post($"/api/lists/{list}/log/{(long)acts[1]!["id"]!}/undo", new { });
        await api.Post($"/api/lists/{list}/log/{(long)acts[0]!["id"]!}/undo", new { });
        Assert.Equal(6, (await Rows(list)).Count);
        Assert.Null((await Rows(list))[0].Values[7]);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await Api.Refusal(api.Client.PostAsJsonAsync($"/api/lists/{list}/log/{(long)acts[0]!["id"]!}/undo", new { }))).Status
        );
    }

    [Fact]
    public async Task A_drop_says_who_is_held_by_which_rule()
    {
        var list = await Found();
        await api.Post($"/api/lists/{list}/households", new { form = "Family" });
        var rows = await Rows(list);
        Assert.Equal("The Ortega family", rows[4].Values[8]);
        await api.Post($"/api/lists/{list}/recipients/remove", new { recipients = new[] { rows[1].Id }, reason = "twice" });
        var segment = (long)
            JsonNode.Parse(
                await (
                    await api.Client.PostAsJsonAsync(
                        $"/api/lists/{list}/segments",
                        new { name = "Not Katharine", filter = "First <> \"Katharine\"" }
                    )
                ).Content.ReadAsStringAsync()
            )!;
        var drop = await Drop(list, segment);
        var why = await Why(drop);
        Assert.Equal(5, why.Count); // whoever was off the list before never joined
        Assert.Equal("Held: Not in “Not Katharine”", why["Abernathy, Katharine"]);
        Assert.Equal("Held: Household piece goes to Ortega, Luis", why["Ortega, Rosa"]);
        Assert.Equal("Ready", why["Ortega, Luis"]);
        // Ticked in by hand, on top of the filter.
        await api.Client.PostAsJsonAsync($"/api/segments/{segment}/tick", new { recipients = new[] { rows[3].Id }, ticked = true });
        await api.Until(() => Why(drop), w => w["Abernathy, Katharine"] == "Ready");
        // Taken off later, they stay in the drop, held, with the reason; taken back, they are released.
        await api.Post($"/api/lists/{list}/recipients/remove", new { recipients = new[] { rows[0].Id }, reason = "moved away" });
        Assert.Equal("Held: Removed from the list: moved away", (await Why(drop))["Okafor, Ana"]);
        await api.Post($"/api/lists/{list}/undo", new { });
        Assert.Equal("Ready", (await Why(drop))["Okafor, Ana"]);
        var trays = (await api.Get($"/api/drops/{drop}"))["trays"]!;
        Assert.Equal((4, 1, 5), ((int)trays["ready"]!, (int)trays["held"]!, (int)trays["onTheList"]!));
        Assert.Equal(HttpStatusCode.Conflict, (await Api.Refusal(api.Client.DeleteAsync($"/api/segments/{segment}"))).Status);
    }

    [Fact]
    public async Task Who_is_suppressed_is_held_at_once_and_let_go_when_the_entry_goes()
    {
        var list = await api.BringIn("m.csv", Members);
        var drop = await Drop(list);
        var suppression = (long)
            JsonNode.Parse(
                await (await api.Client.PostAsJsonAsync("/api/suppressions", new { name = "Do not mail" })).Content.ReadAsStringAsync()
            )!;
        await api.Client.PostAsJsonAsync(
            $"/api/suppressions/{suppression}/entries",
            new
            {
                name = "luis ortega",
                street = "2 Bell St",
                postalCode = "97412",
                reason = "asked",
            }
        );
        Task Until(string why) => api.Until(() => Why(drop), w => w["Ortega, Luis"] == why);
        await Until("Held: Do not mail: asked");
        var entry = (long)(await api.Get($"/api/suppressions/{suppression}/entries"))["rows"]![0]!["id"]!;
        await api.Client.DeleteAsync($"/api/suppressions/entries/{entry}");
        await Until("Ready");
        await api.Client.PostAsJsonAsync($"/api/suppressions/entries/{entry}/restore", new { });
        await Until("Held: Do not mail: asked");
        // Somebody who releases them knows why, and is not overruled by the next check.
        var id = (long)(await api.Get($"/api/drops/{drop}/recipients?tray=Held&limit=5"))["rows"]![0]!["id"]!;
        await api.Post($"/api/drops/{drop}/release", new { recipients = new[] { id } });
        await api.Client.PostAsJsonAsync($"/api/suppressions/{suppression}/entries", new { key = "M-6", reason = "asked too" });
        await api.Until(() => Why(drop), w => w["Ortega, Rosa"] != "Ready");
        Assert.Equal("Ready", (await Why(drop))["Ortega, Luis"]);
        Assert.Equal("Held: Do not mail: asked too", (await Why(drop))["Ortega, Rosa"]);
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.DeleteAsync("/api/suppressions/entries/99"))).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(api.Client.GetAsync("/api/suppressions/99/entries"))).Status);
    }

    [Fact]
    public async Task Issues_are_mended_or_left_for_some()
    {
        var list = await api.BringIn("m.csv", Members.Replace("Luis", "LUIS").Replace("Rosa", "ROSA"));
        await api.Until($"/api/lists/{list}", l => !(bool)l["checking"]!);
        var capitals = (await api.Get($"/api/lists/{list}/checks")).AsArray().Single(c => (string)c!["kind"]! == "Capitals")!;
        Assert.Equal((3, 3), ((int)capitals["cells"]!, (int)capitals["fixable"]!));
        var found = (await api.Get($"/api/lists/{list}/checks/Capitals")).AsArray();
        Assert.Equal(("ANA", "Ana"), ((string)found[0]!["proposal"]![0]!["before"]!, (string)found[0]!["proposal"]![0]!["after"]!));
        Assert.Equal(3, (int)(await api.Get($"/api/lists/{list}/recipients?issue=Capitals"))["total"]!);
        await api.Post($"/api/lists/{list}/checks/Capitals/fix", new { recipients = new[] { (long)found[0]!["recipientId"]! } });
        await api.Post($"/api/lists/{list}/checks/Capitals/leave", new { recipients = new[] { (long)found[1]!["recipientId"]! } });
        Assert.Equal("ROSA", Assert.Single(await Rows(list, "&issue=Capitals")).Values[1]);
        var row = (await api.Get($"/api/lists/{list}/recipients?issue=Capitals"))["rows"]![0]!;
        Assert.Equal("Rosa", (string)row["issues"]![0]!["fix"]!);
        Assert.Equal(HttpStatusCode.BadRequest, (await api.Client.GetAsync($"/api/lists/{list}/checks/Nonsense")).StatusCode);
        await api.Post($"/api/lists/{list}/undo", new { });
        Assert.Equal(2, (await Rows(list, "&issue=Capitals")).Count);
    }

    [Fact]
    public async Task A_newer_file_is_matched_by_hand_where_a_heading_changed_and_can_be_left()
    {
        var list = await api.BringIn("m.csv", Members);
        var upload = (string)
            JsonNode.Parse(
                await (
                    await api.Upload(
                        "newer.csv",
                        System.Text.Encoding.UTF8.GetBytes(
                            Members.Replace("Street,City", "Address line,City").Replace("2 Bell Street", "4 Bell Street")
                        )
                    )
                ).Content.ReadAsStringAsync()
            )!["id"]!;
        var look = await api.Post($"/api/lists/{list}/reload/look", new { uploadId = upload, options = new { } });
        Assert.Empty(look["made"]!.AsArray());
        Assert.Null(look["columnIds"]![3]);
        var ids = look["columnIds"]!.DeepClone().AsArray();
        ids[3] = 4;
        async Task<long> Compare(object columnIds)
        {
            var begun = await api.Post(
                $"/api/lists/{list}/reload",
                new
                {
                    uploadId = upload,
                    options = new { },
                    columnIds,
                }
            );
            return (long)JsonNode.Parse((string)(await api.Ended((long)begun["jobId"]!))["message"]!)!["reloadId"]!;
        }
        var reload = await Compare(ids);
        Assert.Equal(2, (int)(await api.Get($"/api/reloads/{reload}"))["changed"]!);
        Assert.Equal(reload, (long)(await api.Get($"/api/lists/{list}"))["reload"]!);
        Assert.Equal("4 Bell Street", (string)(await api.Get($"/api/reloads/{reload}/changed"))[0]!["cells"]![0]!["file"]!);
        await api.Client.DeleteAsync($"/api/reloads/{reload}");
        Assert.Null((await api.Get($"/api/lists/{list}"))["reload"]);
        Assert.Equal("2 Bell Street", (await Rows(list))[4].Values[3]);
        ids[4] = 4;
        Assert.Contains(
            "cannot match the same column",
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        $"/api/lists/{list}/reload",
                        new
                        {
                            uploadId = upload,
                            options = new { },
                            columnIds = ids,
                        }
                    )
                )
            ).Detail
        );
        Assert.Contains(
            "added, changed, or gone",
            (await Api.Refusal(api.Client.GetAsync($"/api/reloads/{await Compare(look["columnIds"]!)}/other"))).Detail
        );
    }
}
