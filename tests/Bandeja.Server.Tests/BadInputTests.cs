using System.Net;
using System.Net.Http.Json;
using System.Text;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Tests;

public sealed class BadInputTests : ServerTests
{
    Task<(HttpStatusCode Status, string Detail)> Refused(string name, string text) =>
        Api.Refusal(api.Upload(name, Encoding.Latin1.GetBytes(text)));

    async Task NothingIsStored() => Assert.Empty((await api.Get("/api/lists")).AsArray());

    [Theory]
    [InlineData("a.csv", "", "is empty")]
    [InlineData("a.csv", "%PDF-1.7", "is a PDF")]
    [InlineData("a.xlsx", "PK\u0003\u0004broken", "damaged")]
    public async Task A_file_that_is_no_list_is_refused_with_a_sentence(string name, string text, string why)
    {
        var (status, detail) = await Refused(name, text);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(why, detail);
        await NothingIsStored();
    }

    [Fact]
    public async Task Broken_quoting_far_down_names_the_row_and_leaves_nothing_half_stored()
    {
        var text = Api.Csv(6000) + "Ana,\"never closed,Cork,02139,5\r\n" + string.Concat(Enumerable.Repeat("x,y,z,0,1\r\n", 500));
        var e = await Assert.ThrowsAnyAsync<Xunit.Sdk.XunitException>(() => api.BringIn("members.csv", text));
        Assert.Contains("Row 6,002:", e.Message);
        await NothingIsStored();
    }

    [Fact]
    public async Task Rows_longer_and_shorter_than_the_headings_lose_nothing_and_are_told()
    {
        var list = await api.BringIn(
            "a.csv",
            "Name,City\r\nAna,Cork\r\nPer\r\n" + string.Concat(Enumerable.Repeat("Inês,Cork\r\n", 2100)) + "Zoë,Malmö,extra,,more\r\n,\r\n"
        );
        var view = await api.Get($"/api/lists/{list}");
        Assert.Equal(["Name", "City", "Column 3", "Column 4", "Column 5"], view["columns"]!.AsArray().Select(c => (string)c!["name"]!));
        var report = string.Join("\n", view["report"]!.AsArray());
        Assert.Contains("Some rows have more cells than headings", report);
        Assert.Contains("fewer cells than headings; the missing values are blank (1: row 3)", report);
        Assert.Contains("Blank rows were skipped (1: row 2,105)", report);
        Assert.Equal(2103, (int)view["recipients"]!);
        Assert.Equal(
            ["Zoë", "Malmö", "extra", null, "more"],
            (await api.Get($"/api/lists/{list}/recipients?search=zoe"))["rows"]![0]!["values"]!.AsArray().Select(v => (string?)v)
        );
    }

    [Fact]
    public async Task A_column_keeps_how_its_numbers_are_written()
    {
        var list = await api.BringIn("a.csv", "Name,Due,Share,Age\r\nAna,$5.00,5%,40\r\nBo,,,50\r\nCy,7,7 %,60\r\n");
        async Task<string?[]> Formats() =>
            [.. (await api.Get($"/api/lists/{list}"))["columns"]!.AsArray().Select(c => (string?)c!["format"])];
        Task<HttpResponseMessage> Change(int column, string format) =>
            api.Client.PatchAsJsonAsync($"/api/lists/{list}/columns/{column}", new { format });
        Assert.Equal([null, "money", "percent", null], await Formats());
        (await Change(4, "number 1")).EnsureSuccessStatusCode();
        (await Change(2, "")).EnsureSuccessStatusCode();
        Assert.Equal([null, null, "percent", "number 1"], await Formats());
        await api.Post($"/api/lists/{list}/undo", new { });
        Assert.Equal([null, "money", "percent", "number 1"], await Formats());
        // What is computed of money is money.
        await api.Post(
            $"/api/lists/{list}/columns",
            new
            {
                name = "Twice",
                type = "Number",
                role = "None",
                expression = "Due * 2",
            }
        );
        Assert.Equal("money", (await Formats())[4]);
        Assert.Contains("is not a format", (await Api.Refusal(Change(2, "money 99"))).Detail);
    }

    [Fact]
    public async Task An_amount_in_another_currency_is_never_taken_for_one_of_the_columns_own()
    {
        // Far below the rows by which the column is recognized.
        var rows = string.Concat(Enumerable.Range(1, 2200).Select(i => $"n{i},{(i == 2100 ? "€40" : $"${i}")}\r\n"));
        var list = await api.BringIn("a.csv", "Name,Gift\r\n" + rows);
        var view = await api.Get($"/api/lists/{list}");
        Assert.Equal("money 0", (string?)view["columns"]![1]!["format"]);
        Assert.Contains("“Gift” has values that are not numbers", string.Join("\n", view["report"]!.AsArray()));
        var found = (await api.Get($"/api/lists/{list}/recipients?search=n2100"))["rows"]![0]!;
        Assert.Equal("€40", (string?)found["values"]![1]);
        await api.Until($"/api/lists/{list}", l => !(bool)l["checking"]!);
        // Told, and no fix takes the sign away.
        var told = (await api.Get($"/api/lists/{list}/checks/NotANumber")).AsArray();
        Assert.Empty(Assert.Single(told)!["proposal"]!.AsArray());
        var id = (long)found["id"]!;
        var typed = await Api.Refusal(
            api.Client.PostAsJsonAsync(
                $"/api/lists/{list}/set",
                new
                {
                    columnId = 2,
                    recipients = new[] { id },
                    value = "£30",
                }
            )
        );
        Assert.Contains("takes amounts in USD", typed.Detail);
        await api.Post(
            $"/api/lists/{list}/set",
            new
            {
                columnId = 2,
                recipients = new[] { id },
                value = "$44",
            }
        );
        Assert.Equal("44", (string?)(await api.Get($"/api/lists/{list}/recipients?search=n2100"))["rows"]![0]!["values"]![1]);
        await api.Post(
            $"/api/lists/{list}/columns",
            new
            {
                name = "Pledge",
                type = "Number",
                role = "None",
                format = "money",
            }
        );
        Assert.Equal("money", (string?)(await api.Get($"/api/lists/{list}"))["columns"]!.AsArray().Last()!["format"]);
    }

    [Fact]
    public async Task Values_that_do_not_fit_their_column_are_kept_and_counted()
    {
        var list = await api.BringIn(
            "a.csv",
            "Name,Amount due\r\n" + string.Concat(Enumerable.Range(1, 100).Select(i => $"n{i},{(i == 60 ? "waived" : $"{i}")}\r\n"))
        );
        var view = await api.Get($"/api/lists/{list}");
        Assert.Equal("Number", (string)view["columns"]![1]!["type"]!);
        Assert.Contains("“Amount due” has values that are not numbers; they were kept as is (1: row 61)", (string)view["report"]![0]!);
        var drop = await api.MakeDrop(list, "{Amount due | money}");
        Assert.Equal(60, Assert.Single(await api.Recipients(drop, "&tray=NeedsReview")).Piece);
    }

    [Fact]
    public async Task A_file_over_the_limit_is_refused_before_it_has_arrived()
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/uploads?name=big.csv")
        {
            Content = new StreamContent(new Endless(ServerOptions.MaxUpload + 1)),
        };
        request.Content.Headers.ContentLength = ServerOptions.MaxUpload + 1;
        request.Headers.ExpectContinue = true;
        // A client that asks first waits for the answer, however busy the machine is.
        using var patient = new HttpClient(new SocketsHttpHandler { Expect100ContinueTimeout = TimeSpan.FromSeconds(60) })
        {
            BaseAddress = api.Client.BaseAddress,
        };
        var (status, detail) = await Api.Refusal(patient.SendAsync(request));
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, status);
        Assert.Contains("100 MB", detail);
    }

    [Fact]
    public async Task Sixty_megabytes_are_accepted()
    {
        var line = Encoding.UTF8.GetBytes($"Ana,{new string('x', 2000)},Cork\r\n");
        var bytes = new byte[60 << 20];
        "Name,Note,City\r\n"u8.CopyTo(bytes);
        for (var at = 16; at < bytes.Length; at += line.Length)
            line.AsSpan(0, Math.Min(line.Length, bytes.Length - at)).CopyTo(bytes.AsSpan(at));
        var response = await api.Upload("sixty.csv", bytes);
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
    }

    sealed class Endless(long length) : Stream
    {
        long left = length;

        public override int Read(byte[] buffer, int offset, int count)
        {
            var n = (int)Math.Min(count, left);
            left -= n;
            return n;
        }

        public override bool CanRead => true;
        public override bool CanSeek => false;
        public override bool CanWrite => false;
        public override long Length => throw new NotSupportedException();
        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override void Flush() { }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }

    [Fact]
    public async Task Requests_that_make_no_sense_get_a_sentence()
    {
        var list = await api.BringIn("members.csv", Api.Csv(5));
        var drop = await api.MakeDrop(list, "Dear {Last},");
        var id = (await api.Recipients(drop))[0].Id;
        var http = api.Client;
        Assert.Equal(
            (HttpStatusCode.BadRequest, "There is no column “Amont due”; did you mean “Amount due”? (at character 1 of the filter)"),
            await Api.Refusal(http.GetAsync($"/api/lists/{list}/recipients?where=Amont due > 3"))
        );
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(http.GetAsync("/api/lists/99"))).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await Api.Refusal(http.GetAsync("/api/nowhere"))).Status);
        Assert.Contains(
            "takes a number",
            (await Api.Refusal(http.PutAsJsonAsync($"/api/drops/{drop}/recipients/{id}/values/5", new { value = "much" }))).Detail
        );
        Assert.Contains(
            "is backward",
            (await Api.Refusal(http.PostAsJsonAsync($"/api/drops/{drop}/plan", new { output = "one", pieces = "9-3" }))).Detail
        );
        Assert.Contains(
            "Nothing was changed",
            (await Api.Refusal(http.PostAsJsonAsync($"/api/drops/{drop}/release", new { recipients = new[] { id } }))).Detail
        );
        Assert.Contains(
            "Enter a name for the letter",
            (await Api.Refusal(http.PostAsJsonAsync("/api/designs", new { name = " " }))).Detail
        );
        Assert.Contains(
            "no part called “banner”",
            (
                await Api.Refusal(
                    http.PostAsJsonAsync("/api/designs", new { name = "x", document = new { content = new[] { new { type = "banner" } } } })
                )
            ).Detail
        );
        Assert.Equal(HttpStatusCode.BadRequest, (await Api.Refusal(http.PostAsJsonAsync($"/api/drops/{drop}/hold", new { }))).Status);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await Api.Refusal(http.PostAsync($"/api/drops/{drop}/hold", new StringContent("{", Encoding.UTF8, "application/json")))).Status
        );
        Assert.Contains(
            "not an SVG drawing",
            (await Api.Refusal(http.PostAsync("/api/pictures?name=a.png", new StringContent("<svg/>")))).Detail
        );
    }

    [Fact]
    public async Task Two_people_writing_do_not_overwrite_each_other()
    {
        var design = (long)await api.Post("/api/designs", new { name = "Letter" });
        await api.Save(design, Api.Letter("one"));
        using var other = new HttpRequestMessage(HttpMethod.Put, $"/api/designs/{design}/document")
        {
            Content = JsonContent.Create(
                new
                {
                    basedOn = 1,
                    revision = 2,
                    document = Api.Letter("two"),
                }
            ),
        };
        other.Headers.Add("X-Person", "Marisol");
        Assert.Equal(
            2,
            (int)System.Text.Json.Nodes.JsonNode.Parse(await (await api.Client.SendAsync(other)).Content.ReadAsStringAsync())!["number"]!
        );
        // What is based on another version, or on an earlier save of the same one, is refused; nothing of either is lost.
        foreach (var (basedOn, revision) in new[] { (1, 1), (1, 2), (2, 7) })
        {
            var (status, detail) = await Api.Refusal(
                api.Client.PutAsJsonAsync(
                    $"/api/designs/{design}/document",
                    new
                    {
                        basedOn,
                        revision,
                        document = Api.Letter("three"),
                    }
                )
            );
            Assert.Equal((HttpStatusCode.PreconditionFailed, true), (status, detail.Contains("Marisol has since saved version 2")));
        }
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await Api.Refusal(api.Client.PutAsJsonAsync($"/api/designs/{design}/document", new { document = Api.Letter("three") }))).Status
        );
        var merge = await api.Post($"/api/designs/{design}/merge", new { @base = Api.Letter("one"), mine = Api.Letter("one", "mine") });
        Assert.Equal(("Marisol", 2), ((string)merge["by"]!, (int)merge["version"]!));
        var beside = await api.Put(
            $"/api/designs/{design}/document",
            new
            {
                basedOn = 1,
                revision = 2,
                document = Api.Letter("three"),
                beside = true,
            }
        );
        Assert.Equal(3, (int)beside["number"]!);
    }
}
