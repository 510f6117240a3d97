using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Server.Tests;

/// <summary>What is made of a list's columns is made again of a newer file, whatever they are called by then; and values are read as they
/// were.</summary>
public sealed class NewerFileTests : ServerTests
{
    static bool IsWholeName(JsonObject column) => (string)column["role"]! == "FullName";

    async Task<JsonNode> Looked(long list, string text)
    {
        var upload = await api.Read(await api.Upload("newer.csv", Encoding.UTF8.GetBytes(text)));
        var look = await api.Post($"/api/lists/{list}/reload/look", new { uploadId = (string)upload["id"]!, options = new { } });
        look["uploadId"] = (string)upload["id"]!;
        return look;
    }

    /// <summary>Compares a newer file with a list and applies all of it; answers the names of the columns that it brings.</summary>
    /// <param name="keepTimes">The columns whose times are to be kept; those proposed where null.</param>
    async Task<string[]> Applied(long list, JsonNode look, int[]? keepTimes = null)
    {
        var begun = await api.Post(
            $"/api/lists/{list}/reload",
            new
            {
                uploadId = (string)look["uploadId"]!,
                options = new { },
                columnIds = look["columnIds"],
                keepTimes,
            }
        );
        var job = await api.Ended((long)begun["jobId"]!);
        Assert.True((string)job["state"]! == "done", (string?)job["message"]);
        var reload = (long)JsonNode.Parse((string)job["message"]!)!["reloadId"]!;
        string[] fresh = [.. (await api.Get($"/api/reloads/{reload}"))["newColumns"]!.AsArray().Select(c => (string)c!["name"]!)];
        await api.Post(
            $"/api/reloads/{reload}/take",
            new
            {
                added = true,
                changed = true,
                gone = false,
                keepHere = false,
            }
        );
        return fresh;
    }

    async Task<JsonObject[]> Columns(long list) =>
        [.. (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray().Select(c => c!.AsObject())];

    async Task<long> Column(long list, string name) => (long)(await Columns(list)).Single(c => (string)c["name"]! == name)["id"]!;

    /// <summary>The values of a column, in the list's order.</summary>
    async Task<string?[]> Values(long list, string column)
    {
        var at = Array.FindIndex(await Columns(list), c => (string)c["name"]! == column);
        return
        [
            .. (await api.Get($"/api/lists/{list}/recipients?limit=100"))["rows"]!
                .AsArray()
                .Select(r => (string?)r!["values"]!.AsArray()[at]),
        ];
    }

    Task<HttpResponseMessage> Remove(long list, long column) => api.Client.DeleteAsync($"/api/lists/{list}/columns/{column}");

    [Fact]
    public async Task Parts_of_a_name_are_made_again_when_they_are_called_otherwise_here_or_in_the_file()
    {
        var list = await api.BringIn("m.csv", "No,Client\nM-1,Ana Okafor\nM-2,Per Berg\n", c => c["divide"] = IsWholeName(c));
        await api.Client.PatchAsJsonAsync($"/api/lists/{list}/columns/{await Column(list, "Given name")}", new { name = "First name" });
        var look = await Looked(list, "No,Name of client\nM-1,Anna Okafor\nM-2,Per Berg\n");
        // What it is now called nobody can know; somebody says so.
        look["columnIds"]![1] = await Column(list, "Client");
        Assert.Empty(await Applied(list, look));
        Assert.Equal(["Anna", "Per"], await Values(list, "First name"));
        Assert.Equal(["Anna Okafor", "Per Berg"], await Values(list, "Client"));
    }

    [Fact]
    public async Task A_part_that_nobody_had_is_a_new_column_and_one_that_was_removed_stays_away()
    {
        var list = await api.BringIn("m.csv", "No,Client\nM-1,Ana Okafor\nM-2,Dr. Per Berg\n", c => c["divide"] = IsWholeName(c));
        Assert.Equal(["No", "Client", "Title", "Given name", "Family name"], (await Columns(list)).Select(c => (string)c["name"]!));
        await Remove(list, await Column(list, "Title"));
        const string Newer = "No,Client\nM-1,Ana and Luis Okafor\nM-2,Dr. Per Berg Jr.\nM-3,Mr. Ulf Lind\n";
        var look = await Looked(list, Newer);
        Assert.Equal(
            ["Given name", "Family name"],
            (await Columns(list)).Where(c => look["made"]!.AsArray().Any(m => (int)m! == (int)c["id"]!)).Select(c => (string)c["name"]!)
        );
        Assert.Equal(["Suffix", "Partner's given name", "Partner's family name"], await Applied(list, look));
        Assert.Equal(["Luis", null, null], await Values(list, "Partner's given name"));
        Assert.Equal([null, "Jr.", null], await Values(list, "Suffix"));
        Assert.Equal("Suffix", (string)(await Columns(list)).Single(c => (string)c["name"]! == "Suffix")["role"]!);
        Assert.DoesNotContain(await Columns(list), c => (string)c["name"]! == "Title");
        // The same file again finds them there.
        Assert.Empty(await Applied(list, await Looked(list, Newer.Replace("M-3,Mr. Ulf Lind", "M-3,Mr. Ulf Lind III"))));
        Assert.Equal([null, "Jr.", "III"], await Values(list, "Suffix"));
    }

    [Fact]
    public async Task Parts_of_a_column_that_was_split_later_follow_a_newer_file_and_new_recipients_have_them()
    {
        var list = await api.BringIn("m.csv", "No,Client\nM-1,Ana Okafor\nM-2,Per Berg\n");
        await api.Post($"/api/lists/{list}/columns/{await Column(list, "Client")}/divide", new { whole = "FullName" });
        Assert.Equal(["Ana", "Per"], await Values(list, "Given name"));
        var look = await Looked(list, "No,Client\nM-1,Anna Okafor\nM-2,Per Berg\nM-3,Ulf Lind III\n");
        Assert.Equal(3, look["made"]!.AsArray().Count);
        Assert.Equal(["Suffix"], await Applied(list, look));
        Assert.Equal(["Anna", "Per", "Ulf"], await Values(list, "Given name"));
        Assert.Equal(["Okafor", "Berg", "Lind"], await Values(list, "Family name"));
        // Taken back and split again, the parts of now are meant.
        while ((await Columns(list)).Any(c => (string)c["name"]! == "Given name"))
            await api.Post($"/api/lists/{list}/undo", new { });
        Assert.Empty(await Applied(list, await Looked(list, "No,Client\nM-1,Anna Okafor\nM-2,Per Berg\nM-4,Eva Lind Jr.\n")));
        await api.Post($"/api/lists/{list}/columns/{await Column(list, "Client")}/divide", new { whole = "FullName" });
        Assert.Empty(await Applied(list, await Looked(list, "No,Client\nM-1,Aina Okafor\nM-2,Per Berg\n")));
        Assert.Equal(["Aina", "Per", "Eva"], await Values(list, "Given name"));
    }

    [Fact]
    public async Task A_roll_of_owners_is_split_by_its_own_order_at_import_on_the_desk_and_by_a_newer_file()
    {
        const string roll = "APN,Owner\n012-1,OKAFOR ANA M\n012-2,BERG PER & INGRID\n012-3,HARBOR VIEW LLC\n012-4,LIND ROBERT J JR\n";
        var list = await api.BringIn("m.csv", roll, c => c["divide"] = (bool)c["familyFirst"]!);
        Assert.Equal(["ANA M", "PER", null, "ROBERT J"], await Values(list, "Given name"));
        Assert.Equal(["OKAFOR", "BERG", null, "LIND"], await Values(list, "Family name"));
        await Applied(list, await Looked(list, "APN,Owner\n012-1,SOUSA MARTA\n"));
        Assert.Equal(("MARTA", "SOUSA"), ((await Values(list, "Given name"))[0], (await Values(list, "Family name"))[0]));
        var whole = await api.BringIn("m.csv", roll);
        var path = $"/api/lists/{whole}/columns/{await Column(whole, "Owner")}/divide";
        Assert.True((bool)(await api.Get($"{path}?whole=FullName"))["familyFirst"]!);
        Assert.Equal("OKAFOR ANA", (string)(await api.Get($"{path}?whole=FullName&familyFirst=false"))["parts"]![1]![2]!);
        await api.Post(path, new { whole = "FullName" });
        Assert.Equal(["ANA M", "PER", null, "ROBERT J"], await Values(whole, "Given name"));
    }

    [Fact]
    public async Task Two_second_people_are_not_mixed_and_who_is_not_addressed_is_told()
    {
        var list = await api.BringIn(
            "m.csv",
            "Owner,Owner 2\nOKAFOR ANA M & LUIS,\nBERG PER & EVA,BERG INGRID\nLIND ROBERT J,\n",
            c => c["divide"] = (bool)c["familyFirst"]!
        );
        var columns = (await Columns(list)).ToDictionary(c => (string)c["name"]!, c => (string)c["role"]!);
        Assert.Equal(
            ("PartnerFullName", "PartnerGivenName", "PartnerFamilyName"),
            (columns["Owner 2"], columns["Partner's given name"], columns["Partner's family name"])
        );
        var report = (await api.Get($"/api/lists/{list}"))["report"]!.AsArray().Select(r => (string)r!);
        Assert.Contains(
            report,
            r => r.StartsWith("“Owner” names a partner who will not be addressed", StringComparison.Ordinal) && r.Contains("(1: row 3)")
        );
    }

    [Fact]
    public async Task Splitting_on_the_desk_takes_no_partner_from_another_column_and_says_who_is_not_addressed()
    {
        var list = await api.BringIn("m.csv", "Owner,Owner 2\nAna Okafor and Luis Sousa,\nPer and Eva Berg,Ingrid Berg\n");
        var outcome = await api.Post($"/api/lists/{list}/columns/{await Column(list, "Owner")}/divide", new { whole = "FullName" });
        var columns = (await Columns(list)).ToDictionary(c => (string)c["name"]!, c => (string)c["role"]!);
        Assert.Equal(
            ("PartnerFullName", "PartnerGivenName", "PartnerFamilyName", "GivenName"),
            (columns["Owner 2"], columns["Partner's given name"], columns["Partner's family name"], columns["Given name"])
        );
        Assert.Equal(
            "“Owner” names a partner in 1 row who will not be addressed, because partners come from “Owner 2”.",
            (string)Assert.Single(outcome["skipped"]!.AsArray())!
        );
    }

    const string Visits = "No,Next appt\nM-1,1/14/2027 9:30 AM\nM-2,1/15/2027 2:00 PM\n";

    [Fact]
    public async Task Times_of_a_newer_file_are_proposed_and_from_then_on_kept()
    {
        // As all lists are that came before times could be kept.
        var list = await api.BringIn("m.csv", "No,Next appt\nM-1,1/7/2027\nM-2,1/8/2027\n");
        var look = await Looked(list, Visits);
        Assert.True((bool)look["look"]!["columns"]![1]!["keepTimes"]!);
        Assert.Equal(["Next appt time"], await Applied(list, look));
        Assert.Equal(["9:30 AM", "2:00 PM"], await Values(list, "Next appt time"));
        await api.Client.PatchAsJsonAsync($"/api/lists/{list}/columns/{await Column(list, "Next appt time")}", new { name = "At" });
        look = await Looked(list, Visits.Replace("2:00", "3:15"));
        Assert.Equal(await Column(list, "At"), (long)Assert.Single(look["made"]!.AsArray())!);
        Assert.Empty(await Applied(list, look));
        Assert.Equal(["9:30 AM", "3:15 PM"], await Values(list, "At"));
        // By another heading, which somebody has to match, they are the same times.
        look = await Looked(list, Visits.Replace("Next appt", "Visit").Replace("9:30", "9:45"));
        look["columnIds"]![1] = await Column(list, "Next appt");
        Assert.Empty(await Applied(list, look));
        Assert.Equal(["9:45 AM", "2:00 PM"], await Values(list, "At"));
        await Remove(list, await Column(list, "At"));
        look = await Looked(list, Visits);
        Assert.False((bool)look["look"]!["columns"]![1]!["keepTimes"]!);
    }

    [Fact]
    public async Task Times_that_nobody_wanted_are_not_proposed_again_but_can_be_had()
    {
        var list = await api.BringIn("m.csv", Visits, c => c["keepTimes"] = false);
        var newer = Visits.Replace("9:30", "10:30");
        var look = await Looked(list, newer);
        var column = look["look"]!["columns"]![1]!;
        Assert.Equal(("10:30 AM", false), ((string)column["time"]!, (bool)column["keepTimes"]!));
        Assert.Equal(["Next appt time"], await Applied(list, look, [1]));
        Assert.Equal(["10:30 AM", "2:00 PM"], await Values(list, "Next appt time"));
    }

    [Fact]
    public async Task Dates_are_read_as_the_first_time_where_most_of_a_newer_file_are_none()
    {
        var list = await api.BringIn("m.csv", "No,Renewal\nM-1,3/4/2027\nM-2,25/4/2027\n");
        Assert.Equal(["2027-04-03", "2027-04-25"], await Values(list, "Renewal"));
        await Applied(list, await Looked(list, "No,Renewal\nM-1,5/4/2027\nM-2,on request\nM-3,when settled\nM-4,6/4/2027\n"));
        Assert.Equal(["2027-04-05", "on request", "when settled", "2027-04-06"], await Values(list, "Renewal"));
    }

    [Fact]
    public async Task Times_get_a_free_name_where_theirs_is_taken()
    {
        var list = await api.BringIn("m.csv", "No,Appt,Appt time\nM-1,1/14/2027 9:30 AM,morning\nM-2,1/15/2027 2:00 PM,afternoon\n");
        Assert.Equal(["No", "Appt", "Appt time", "Appt time 2"], (await Columns(list)).Select(c => (string)c["name"]!));
        Assert.Equal(["9:30 AM", "2:00 PM"], await Values(list, "Appt time 2"));
        var look = await Looked(list, "No,Appt,Appt time\nM-1,1/14/2027 9:45 AM,early\nM-2,1/15/2027 2:00 PM,afternoon\n");
        Assert.Equal(await Column(list, "Appt time 2"), (long)Assert.Single(look["made"]!.AsArray())!);
        Assert.Empty(await Applied(list, look));
        Assert.Equal(["early", "afternoon"], await Values(list, "Appt time"));
        Assert.Equal(["9:45 AM", "2:00 PM"], await Values(list, "Appt time 2"));
    }
}
