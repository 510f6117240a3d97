using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>What the list's checks have found, where a drop prints it.</summary>
public sealed class PrintedIssueTests : ServerTests
{
    const string Accounts =
        "Account No.,Account Holder,Street,City,State,ZIP,Email\r\n"
        + "00412,Marguerite Oyelaran,14 Kiln Ct,Dunmere,OH,4321,marguerite@exmaple.org\r\n"
        + "00413,\"Bancroft, Theo\",88 Mill Race Rd,Dunmere,OH,43210,theo@example.org\r\n"
        + "00414,Ping Zhou,9 Alder Walk,Dunmere,OH,432,ping@example.org\r\n"
        + "00415,Ruiz Family Trust,PO Box 77,DUNMERE,OH,43210,ruiz@example.org\r\n"
        + "00416,Marta Ruiz,PO Box 78,DUNMERE,OH,43210,marta@example.org\r\n"
        + "00417,Ines Ruiz,PO Box 79,DUNMERE,OH,43210,ines@example.org\r\n";

    async Task<List<string>> Found(long drop) =>
        [
            .. (await api.Get($"/api/drops/{drop}/list-issues"))["groups"]!
                .AsArray()
                .Select(g =>
                    $"{g!["kind"]} {g["recipients"]}: "
                    + string.Join("; ", g["first"]!.AsArray().Select(f => $"{f!["piece"]} {f["name"]} {f["value"]}"))
                ),
        ];

    [Fact]
    public async Task What_a_drop_prints_of_the_lists_issues_is_told_before_it_is_produced()
    {
        var list = await api.BringIn("accounts.csv", Accounts);
        await api.Until($"/api/lists/{list}", l => !(bool)l["checking"]!);
        var drop = await api.MakeDrop(list, "{Delivery address}", "Dear customer,");
        await api.Checked(drop);
        Assert.Equal(
            [
                "PostalCodeMalformed 2: 1 Marguerite Oyelaran 4321; 3 Ping Zhou 432",
                "FamilyNameFirst 1: 2 Bancroft, Theo Bancroft, Theo",
                "Capitals 3: 4 Ruiz Family Trust DUNMERE; 5 Marta Ruiz DUNMERE",
            ],
            await Found(drop)
        );
        Assert.Equal(6, (int)(await api.Get($"/api/drops/{drop}/list-issues"))["recipients"]!);
        // What the pieces do not print is not told: the email address; and a letter without an address prints none of it.
        Assert.Empty(await Found(await api.MakeDrop(list, "Account {Account No.}")));

        // At the bench the value says it.
        var people = await api.Recipients(drop);
        var values = (await api.Get($"/api/drops/{drop}/recipients/{people[0].Id}"))["inThisLetter"]!.AsArray();
        JsonNode Of(string name) => values.Single(v => (string)v!["name"]! == name)!;
        Assert.NotNull((string?)Of("ZIP")["listIssue"]);
        Assert.Null((string?)Of("City")["listIssue"]);

        // Held, corrected, and accepted ones are not told.
        await api.Post($"/api/drops/{drop}/hold", new { recipients = new[] { people[0].Id }, reason = "moved" });
        Assert.Equal(
            ["FamilyNameFirst 1: 2 Bancroft, Theo Bancroft, Theo", "PostalCodeMalformed 1: 3 Ping Zhou 432"],
            (await Found(drop)).Take(2)
        );
        await api.Post($"/api/lists/{list}/checks/Capitals/fix", new { });
        await api.Post($"/api/lists/{list}/checks/FamilyNameFirst/fix", new { });
        await api.Post($"/api/lists/{list}/checks/PostalCodeMalformed/leave", new { });
        Assert.Empty(await Found(drop));
    }
}
