using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>The returns desk: finding the piece in hand, what follows from its return, and taking that back.</summary>
public sealed class ReturnTests : IAsyncLifetime
{
    readonly Api api = new();
    long list,
        first,
        second;

    /// <summary>Two drops to the same four people, the first mailed, with a QR code that says their number.</summary>
    public async ValueTask InitializeAsync()
    {
        await api.InitializeAsync();
        list = await api.BringIn(
            "members.csv",
            "Number,Name,Street,City,State,ZIP,Address line 2\r\nF-1,Ana Okafor,1 Quay Road,Fernquay,OR,97412,\r\n"
                + "F-2,Bo Lind,2 Quay Road,Fernquay,OR,97412,\r\nF-3,Cem Tan,3 Quay Road,Fernquay,OR,97412,\r\n"
                + "F-4,Dot Quint,4 Quay Road,Fernquay,OR,97412,\r\n"
        );
        first = await Drop("First notice");
        second = await Drop("Second notice");
        await Mail(first);
    }

    public ValueTask DisposeAsync() => api.DisposeAsync();

    async Task<long> Drop(string name)
    {
        var letter = Api.Letter("Dear {Name},", "{Delivery address}");
        letter["content"]!
            .AsArray()
            .Add(
                new JsonObject
                {
                    ["type"] = "barcode",
                    ["attrs"] = new JsonObject
                    {
                        ["symbology"] = "qr",
                        ["source"] = "Number",
                        ["width"] = 20,
                    },
                }
            );
        var design = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = name,
                    ["listId"] = list,
                    ["document"] = letter,
                }
            );
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name,
                    listId = list,
                    designIds = new[] { design },
                    campaignName = "Renewal",
                }
            );
        await api.Checked(drop);
        return drop;
    }

    async Task Mail(long drop)
    {
        var run = await api.Post($"/api/drops/{drop}/runs", Api.Order(new { output = "one" }));
        await api.Ended((long)run["jobId"]!);
        await api.Post($"/api/runs/{run["id"]}/mailed", new { date = DateTime.Today.AddDays(-3).ToString("yyyy-MM-dd") });
    }

    async Task<JsonArray> Find(string code) => (await api.Get($"/api/returns/find?code={Uri.EscapeDataString(code)}")).AsArray();

    async Task<JsonNode> Returned(JsonNode piece, string reason, string? followUp = null, object? address = null) =>
        await api.Post(
            "/api/returns",
            new
            {
                dropId = (long)piece["dropId"]!,
                recipientId = (long)piece["recipientId"]!,
                reason,
                followUp,
                address,
            }
        );

    async Task<Dictionary<string, int>> Trays(long drop) =>
        (await api.Checked(drop))["trays"]!.AsObject().ToDictionary(t => t.Key, t => (int)t.Value!);

    static int Column(JsonNode piece, string name) =>
        (int)piece["address"]!.AsArray().Single(a => (string)a!["name"]! == name)!["columnId"]!;

    [Fact]
    public async Task A_piece_is_found_by_its_number_and_by_its_barcode_once_it_was_made()
    {
        var piece = Assert.Single(await Find("0002"))!;
        Assert.Equal(("Bo Lind", "First notice", "Mailed"), ((string)piece["name"]!, (string)piece["drop"]!, (string)piece["tray"]!));
        Assert.Equal(["2 Quay Road", "Fernquay OR 97412"], piece["addressLines"]!.AsArray().Select(l => (string)l!));
        Assert.Equal(["2 Quay Road", null, "Fernquay", "OR", "97412"], piece["address"]!.AsArray().Select(a => (string)a!["value"]!));
        Assert.Equal(["Second notice"], piece["open"]!.AsArray().Select(o => (string)o!["name"]!));
        Assert.Equal(2, (int)Assert.Single(await Find("F-2\r\n"))!["piece"]!);
        Assert.Empty(await Find("F-9"));
        Assert.Empty(await Find("9999"));
        Assert.Equal(HttpStatusCode.BadRequest, (await Api.Refusal(api.Client.GetAsync("/api/returns/find?code=%20"))).Status);
        // Mailed last comes first.
        await Mail(second);
        Assert.Equal(["Second notice", "First notice"], (await Find("2")).Select(p => (string)p!["drop"]!).OrderByDescending(n => n));
        Assert.Single((await api.Get($"/api/returns/find?code=2&dropId={first}")).AsArray());
    }

    [Fact]
    public async Task The_address_stands_there_as_on_the_piece_with_the_country_where_the_organization_prints_it()
    {
        await api.Put(
            "/api/settings/organization",
            new
            {
                name = "Fernquay Botanic Garden",
                locale = "en-US",
                currency = "USD",
                countryLine = "Always",
            }
        );
        Assert.Equal(
            ["2 Quay Road", "Fernquay OR 97412", "UNITED STATES"],
            Assert.Single(await Find("0002"))!["addressLines"]!.AsArray().Select(l => (string)l!)
        );
    }

    [Fact]
    public async Task Moved_without_an_address_is_held_everywhere_until_the_address_is_another()
    {
        var piece = (await Find("1"))[0]!;
        var entered = await Returned(piece, "moved");
        Assert.Equal(("hold", "Ana Okafor"), ((string)entered["followUp"]!, (string)entered["name"]!));
        Assert.Equal(1, (await Trays(first))["returned"]);
        await api.Until(() => Trays(second), t => t["held"] == 1);
        var twice = await Api.Refusal(
            api.Client.PostAsJsonAsync(
                "/api/returns",
                new
                {
                    dropId = first,
                    recipientId = piece["recipientId"],
                    reason = "moved",
                }
            )
        );
        Assert.Equal((HttpStatusCode.Conflict, "Piece 0001 was already returned."), twice);

        // The address is corrected in the list: the hold ends by itself.
        await api.Client.PostAsJsonAsync(
            $"/api/lists/{list}/cells",
            new
            {
                cells = new[]
                {
                    new
                    {
                        recipientId = piece["recipientId"],
                        columnId = Column(piece, "Street"),
                        value = "9 Orchard Terrace",
                    },
                },
            }
        );
        await api.Until(() => Trays(second), t => t["held"] == 0);
    }

    [Fact]
    public async Task A_new_address_is_corrected_where_it_counts_and_the_piece_is_mailed_again()
    {
        var piece = (await Find("2"))[0]!;
        var none = await Api.Refusal(
            api.Client.PostAsJsonAsync(
                "/api/returns",
                new
                {
                    dropId = first,
                    recipientId = piece["recipientId"],
                    reason = "newAddress",
                }
            )
        );
        Assert.Contains("Nothing of the address was changed", none.Detail);
        Assert.Equal(4, (await Trays(first))["mailed"]);

        var typed = new Dictionary<string, string>
        {
            [$"{Column(piece, "Street")}"] = "48 Orchard Terrace",
            [$"{Column(piece, "ZIP")}"] = "02139",
        };
        var wrong = await api.Post(
            "/api/returns/check",
            new
            {
                listId = list,
                recipientId = piece["recipientId"],
                address = typed,
            }
        );
        Assert.Contains("02139", string.Join(' ', wrong.AsArray().Select(w => (string)w!)));
        typed[$"{Column(piece, "ZIP")}"] = "97420";
        Assert.Empty(
            (
                await api.Post(
                    "/api/returns/check",
                    new
                    {
                        listId = list,
                        recipientId = piece["recipientId"],
                        address = typed,
                    }
                )
            ).AsArray()
        );

        var entered = await Returned(piece, "newAddress", address: typed);
        var remail = (long)entered["remailDropId"]!;
        var again = await api.Checked(remail);
        Assert.Equal(("First notice, mailed again", 1), ((string)again["name"]!, Api.Count(again, "ready")));
        // A newcomer on the list is none of those who are mailed again.
        await api.Post(
            $"/api/lists/{list}/recipients",
            new { rows = new[] { new[] { new { columnId = Column(piece, "Street"), value = "5 Quay Road" } } } }
        );
        Assert.Equal(1, Api.Count(await api.Checked(remail), "onTheList"));
        Assert.Equal(5, Api.Count(await api.Checked(second), "onTheList"));

        // Another return goes into the same drop.
        var other = (await Find("3"))[0]!;
        var also = await Returned(
            other,
            "insufficient",
            address: new Dictionary<string, string> { [$"{Column(other, "Street")}"] = "3 Quay Road, Apt 4" }
        );
        Assert.Equal(remail, (long)also["remailDropId"]!);
        await api.Checked(remail);
        var run = await api.Post($"/api/drops/{remail}/runs", Api.Order(new { output = "one" }));
        await api.Ended((long)run["jobId"]!);
        using var pdf = UglyToad.PdfPig.PdfDocument.Open(await api.Client.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"));
        Assert.Equal(2, pdf.NumberOfPages);
        Assert.Contains("48 Orchard Terrace", pdf.GetPage(1).Text);

        // Once it is made, its return can no longer be taken back.
        var stuck = await Api.Refusal(api.Client.PostAsync($"/api/returns/{entered["id"]}/undo", null));
        Assert.Contains("is already produced", stuck.Detail);
    }

    [Fact]
    public async Task A_return_is_taken_back_with_all_that_followed()
    {
        var suppressed = await Returned((await Find("4"))[0]!, "deceased");
        var piece = (await Find("2"))[0]!;
        var corrected = await Returned(
            piece,
            "newAddress",
            address: new Dictionary<string, string> { [$"{Column(piece, "Street")}"] = "48 Orchard Terrace" }
        );
        await api.Until(() => Trays(second), t => t["held"] == 1);
        var view = await api.Get("/api/returns");
        Assert.Equal((2, 2), (view["rows"]!.AsArray().Count, (int)view["today"]!));

        // Elsewhere it is not taken back by halves: the last act of the drop, and the one in the list's log, are of the desk.
        Assert.Contains("on the Returns page", (await Api.Refusal(api.Client.PostAsync($"/api/drops/{first}/undo", null))).Detail);
        var log = (await api.Get($"/api/lists/{list}/log"))["acts"]!.AsArray();
        var act = log.Single(a => ((string)a!["label"]!).StartsWith("Recorded return of piece 0002"));
        Assert.Contains(
            "on the Returns page",
            (await Api.Refusal(api.Client.PostAsync($"/api/lists/{list}/log/{act!["id"]}/undo", null))).Detail
        );

        foreach (var entered in new[] { corrected, suppressed })
            Assert.True((bool)(await api.Post($"/api/returns/{entered["id"]}/undo", new { }))["undone"]!);
        Assert.Equal(4, (await Trays(first))["mailed"]);
        await api.Until(() => Trays(second), t => t["held"] == 0);
        Assert.Equal("2 Quay Road", (string)(await Find("2"))[0]!["address"]!.AsArray()[0]!["value"]!);
        Assert.Equal(1, (await Trays((long)corrected["remailDropId"]!))["held"]);
        Assert.Contains("already undone", (await Api.Refusal(api.Client.PostAsync($"/api/returns/{suppressed["id"]}/undo", null))).Detail);
        Assert.Equal(0, (int)(await api.Get("/api/returns"))["today"]!);
    }

    [Fact]
    public async Task Before_it_was_mailed_nothing_comes_back_and_rules_can_be_set()
    {
        var run = await api.Post($"/api/drops/{second}/runs", Api.Order(new { output = "one" }));
        await api.Ended((long)run["jobId"]!);
        var made = (await api.Get($"/api/returns/find?code=1&dropId={second}")).AsArray()[0]!;
        Assert.Equal("has not been mailed, so it cannot be returned", (string)made["objection"]!);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (
                await Api.Refusal(
                    api.Client.PostAsJsonAsync(
                        "/api/returns",
                        new
                        {
                            dropId = second,
                            recipientId = made["recipientId"],
                            reason = "other",
                        }
                    )
                )
            ).Status
        );
        var piece = (await api.Get($"/api/returns/find?code=1&dropId={first}")).AsArray()[0]!;
        foreach (
            var (date, because) in new[]
            {
                (DateTime.Today.AddDays(2), "in the future"),
                (DateTime.Today.AddDays(-9), "cannot have been returned before"),
            }
        )
            Assert.Contains(
                because,
                (
                    await Api.Refusal(
                        api.Client.PostAsJsonAsync(
                            "/api/returns",
                            new
                            {
                                dropId = first,
                                recipientId = piece["recipientId"],
                                reason = "other",
                                date = date.ToString("yyyy-MM-dd"),
                            }
                        )
                    )
                ).Detail
            );
        await api.Put("/api/returns/rules", new { rules = new { refused = "record" } });
        var rules = (await api.Get("/api/returns/rules")).AsArray().ToDictionary(r => (string)r!["reason"]!, r => (string)r!["followUp"]!);
        Assert.Equal(("record", "hold"), (rules["refused"], rules["moved"]));
        Assert.Equal("record", (string)(await Returned(piece, "refused"))["followUp"]!);
        Assert.Equal(0, (await Trays(second))["held"]);
    }

    /// <summary>The members of the first list on another one, which has its columns in another order and under other names.</summary>
    async Task<(long List, long[] People)> Donors()
    {
        var donors = await api.BringIn(
            "donors.csv",
            "Town,Postcode,Name,Address line 1,State\r\nFernquay,97412-1234,Ana Okafor,1 QUAY ROAD.,OR\r\n"
                + "Fernquay,97412,Bo Lind,77 Mill Lane,OR\r\nFernquay,97412,Cem Tan,3 Quay Road,OR\r\n"
        );
        var rows = (await api.Get($"/api/lists/{donors}/recipients?limit=10"))["rows"]!.AsArray();
        return (donors, [.. rows.Select(r => (long)r!["id"]!)]);
    }

    async Task<string> Street(long of, long id)
    {
        var columns = (await api.Get($"/api/lists/{of}"))["columns"]!.AsArray().Select(c => (string)c!["role"]!).ToList();
        return (string)(await api.Get($"/api/lists/{of}/recipients/{id}"))["values"]![columns.IndexOf("Street")]!;
    }

    [Fact]
    public async Task A_new_address_goes_to_the_persons_other_lists_where_the_old_one_was_the_same()
    {
        var (donors, people) = await Donors();
        var ana = await api.Until(async () => (await Find("1"))[0]!, p => p["otherLists"]!.AsArray().Count == 1);
        var other = ana["otherLists"]![0]!;
        Assert.Equal((true, "donors.csv"), ((bool)other["sameAddress"]!, (string)other["person"]!["listName"]!));
        // Bo lives elsewhere there, and is recognized only because somebody says so.
        var bo = (long)(await Find("2"))[0]!["recipientId"]!;
        Assert.True((await api.Client.PostAsync($"/api/lists/{list}/recipients/{bo}/person/{people[1]}/join", null)).IsSuccessStatusCode);
        var elsewhere = await api.Until(async () => (await Find("2"))[0]!, p => p["otherLists"]!.AsArray().Count == 1);
        Assert.False((bool)elsewhere["otherLists"]![0]!["sameAddress"]!);

        var entered = await Returned(
            ana,
            "newAddress",
            "correct",
            new Dictionary<string, string> { [$"{Column(ana, "Street")}"] = "48 Elm Way" }
        );
        Assert.Equal(["donors.csv"], entered["alsoOn"]!.AsArray().Select(n => (string)n!));
        Assert.Equal("48 Elm Way", await Street(donors, people[0]));

        // The log of the other list says so, with its own values, and where it is undone.
        async Task<List<JsonNode>> Log(long of) => [.. (await api.Get($"/api/lists/{of}/log"))["acts"]!.AsArray().Select(x => x!)];
        var here = (await Log(list)).First(x => (bool)x["ofReturn"]!);
        var logged = Assert.Single(await Log(donors), x => (bool)x["ofReturn"]!);
        Assert.Equal(((long)here["id"]!, 1, false), ((long)logged["id"]!, (int)logged["cells"]!, (bool)logged["undone"]!));
        var change = Assert.Single((await api.Get($"/api/lists/{donors}/log/{logged["id"]}")).AsArray())!;
        Assert.Equal(("1 QUAY ROAD.", "48 Elm Way"), ((string)change["old"]!, (string)change["new"]!));
        var refused = await Api.Refusal(api.Client.PostAsync($"/api/lists/{donors}/log/{logged["id"]}/undo", null));
        Assert.Equal((HttpStatusCode.Conflict, true), (refused.Status, refused.Detail.Contains("on the Returns page")));

        // What is different there stays, and so does what somebody keeps apart.
        var piece = (await Find("2"))[0]!;
        await Returned(piece, "newAddress", "correct", new Dictionary<string, string> { [$"{Column(piece, "Street")}"] = "5 Elm Way" });
        Assert.Equal("77 Mill Lane", await Street(donors, people[1]));
        var cem = (await Find("3"))[0]!;
        Assert.True((bool)cem["otherLists"]![0]!["sameAddress"]!);
        await api.Post(
            "/api/returns",
            new
            {
                dropId = first,
                recipientId = cem["recipientId"],
                reason = "newAddress",
                followUp = "correct",
                address = new Dictionary<string, string> { [$"{Column(cem, "Street")}"] = "6 Elm Way" },
                also = Array.Empty<long>(),
            }
        );
        Assert.Equal("3 Quay Road", await Street(donors, people[2]));

        // Taken back, both lists are as they were.
        await api.Post($"/api/returns/{entered["id"]}/undo", new { });
        Assert.Equal("1 QUAY ROAD.", await Street(donors, people[0]));
        var after = await Log(donors);
        Assert.True((bool)after.Single(x => (bool)x["ofReturn"]!)["undone"]!);
        Assert.True((bool)after[0]["isUndo"]!);
        Assert.Equal("1 Quay Road", await Street(list, (long)ana["recipientId"]!));
        // Somebody else's row is nobody's business.
        var stranger = await Api.Refusal(
            api.Client.PostAsJsonAsync(
                "/api/returns",
                new
                {
                    dropId = first,
                    recipientId = ana["recipientId"],
                    reason = "newAddress",
                    followUp = "correct",
                    address = new Dictionary<string, string> { [$"{Column(ana, "Street")}"] = "7 Elm Way" },
                    also = new[] { people[1] },
                }
            )
        );
        Assert.Equal(HttpStatusCode.BadRequest, stranger.Status);
        Assert.Equal("1 Quay Road", await Street(list, (long)ana["recipientId"]!));
    }

    [Fact]
    public async Task A_file_of_addresses_corrects_the_same_people_on_other_lists()
    {
        var (donors, people) = await Donors();
        await api.Until(async () => (await Find("3"))[0]!, p => p["otherLists"]!.AsArray().Count == 1);
        var came = await api.Post(
            "/api/returns/import",
            new
            {
                dropId = first,
                lines = new object[]
                {
                    new { code = "3", street = "8 Elm Way" },
                    new
                    {
                        code = "1",
                        reason = "new address",
                        street = "9 Elm Way",
                    },
                },
            }
        );
        Assert.Empty(came["wrong"]!.AsArray());
        Assert.Equal(2, (int)came["corrected"]!);
        Assert.Equal(
            ("9 Elm Way", "77 Mill Lane", "8 Elm Way"),
            (await Street(donors, people[0]), await Street(donors, people[1]), await Street(donors, people[2]))
        );
    }

    [Fact]
    public async Task A_list_that_cannot_take_the_new_address_is_named()
    {
        var (donors, people) = await Donors();
        await api.Until(async () => (await Find("3"))[0]!, p => p["otherLists"]!.AsArray().Count == 1);
        var came = await api.Post(
            "/api/returns/import",
            new
            {
                dropId = first,
                lines = new object[]
                {
                    new
                    {
                        code = "3",
                        street = "8 Elm Way",
                        street2 = "Apt 4",
                    },
                    new
                    {
                        code = "1",
                        reason = "new address",
                        street = "9 Elm Way",
                        street2 = "Apt 5",
                    },
                },
            }
        );
        Assert.Equal((2, 0), ((int)came["corrected"]!, came["wrong"]!.AsArray().Count));
        Assert.Equal(
            from row in (string[])["Row 1, 3", "Row 2, 1"]
            select $"{row}: The old address stays on “donors.csv”: that list has no editable column for Address line 2. Correct it there.",
            came["notCorrected"]!.AsArray().Select(n => (string)n!)
        );
        Assert.Equal(("1 QUAY ROAD.", "3 Quay Road"), (await Street(donors, people[0]), await Street(donors, people[2])));
    }
}
