using System.Text;
using Bandeja.Store.Devices;
using Bandeja.Store.Mail;

namespace Bandeja.Store.Tests;

/// <summary>The practice post office's inbox, the accounts, and the files to attach.</summary>
public sealed class PostOfficeTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-post").FullName;
    readonly PostOfficeStore store;
    static readonly DateTimeOffset At = new(2027, 3, 1, 9, 0, 0, TimeSpan.Zero);

    public PostOfficeTests() => store = new(new Database(Path.Combine(folder, "post-office.sqlite"), PostOfficeStore.Migrations));

    public void Dispose()
    {
        store.Dispose();
        Directory.Delete(folder, true);
    }

    long Add(string to, string subject = "Your letter", string body = "Hello") =>
        store.Add(
            new("office@example.org", to, "Garden", subject, "1@example.org", 1, body, Encoding.UTF8.GetBytes($"To: {to}\r\n\r\n{body}")),
            At
        );

    [Theory]
    [InlineData("okafor", 2)]
    [InlineData("ana.okafor@example.org", 1)] // a whole address is no beginning of another
    [InlineData("ana.okafor@example", 2)]
    [InlineData("letter autumn", 1)]
    [InlineData("spring", 0)]
    [InlineData("\"'*()-^:", 3)] // nothing to look for
    [InlineData("NEAR(a b) OR x*", 0)]
    [InlineData("", 3)]
    public void Messages_are_found_by_beginnings_of_words_and_by_whole_addresses(string search, int found)
    {
        Add("ana.okafor@example.org", "Autumn letter");
        Add("ana.okafor@example.organic");
        Add("bo@example.org");
        var (rows, total) = store.Page(search, 0, 100);
        Assert.Equal((found, found), (rows.Count, total));
        Assert.Equal(rows.OrderByDescending(r => r.Id), rows);
    }

    [Fact]
    public void A_message_is_kept_byte_for_byte_until_it_is_thrown_away()
    {
        var (first, second) = (Add("ana@example.org", body: "Zażółć\0"), Add("bo@example.org"));
        Assert.Equal("To: ana@example.org\r\n\r\nZażółć\0", Encoding.UTF8.GetString(store.Get(first).Raw));
        store.Remove(first);
        Assert.Throws<NotFoundException>(() => store.Get(first));
        Assert.Equal((0, 1), (store.Page("ana", 0, 9).Total, store.Page(null, 0, 9).Total));
        store.Remove(null);
        Assert.Empty(store.Page(null, 0, 9).Rows);
        Assert.True(Add("c@example.org") > 0 && second > 0);
    }

    [Fact]
    public void What_it_is_told_to_do_it_does_as_often_as_it_is_told()
    {
        store.Tell("refuse", "@lost.example", null, "550 gone");
        store.Tell("later", "*", 2, "451 later");
        Assert.Equal("550 gone", store.Take("x@LOST.example", "refuse", "later")?.Words);
        Assert.Equal(
            ["451 later", "451 later", null],
            Enumerable.Range(0, 3).Select(_ => store.Take("x@example.org", "refuse", "later")?.Words)
        );
        Assert.Null(store.Take("x@lost.example", "drop"));
        store.Untell(Assert.Single(store.Behaviors()).Id);
        Assert.Empty(store.Behaviors());
    }

    [Fact]
    public void An_account_keeps_its_password_only_while_its_user_is_the_same()
    {
        using var w = new World(1);
        var accounts = new MailAccounts(w.Database);
        var id = accounts.Save(
            new()
            {
                Name = "Office",
                Host = "mail.example.org",
                Port = 587,
                UserName = "desk",
                Secret = "sealed",
            },
            w.By()
        );
        accounts.Save(accounts.Get(id) with { Secret = null, PerDay = 500 }, w.By());
        Assert.Equal(("sealed", 500), (accounts.Get(id).Secret, accounts.Get(id).PerDay));
        accounts.Save(accounts.Get(id) with { Secret = null, UserName = "other" }, w.By());
        Assert.False(accounts.Get(id).HasPassword);
        Assert.DoesNotContain(
            "sealed",
            System.Text.Json.JsonSerializer.Serialize(accounts.Get(id) with { Secret = "sealed" }),
            StringComparison.Ordinal
        );
        Assert.Throws<ConflictException>(() => accounts.Save(new() { Name = "OFFICE" }, w.By()));
        accounts.Remove(id);
        Assert.Throws<NotFoundException>(() => accounts.Get(id));
        var practice = Assert.Single(accounts.All());
        Assert.Equal("practice", practice.Kind);
        Assert.Throws<ConflictException>(() => accounts.Remove(practice.Id));
    }

    [Fact]
    public void A_folder_tells_what_it_held_at_any_moment()
    {
        using var w = new World(1);
        var files = new MailFiles(w.Database);
        var certificates = files.Folder("Certificates", w.By());
        Assert.Equal(certificates, files.Folder("certificates", w.By()));
        files.Add(certificates, "0001.pdf", "aa", 10, w.By());
        var before = files.Newest();
        files.Add(certificates, "0001.PDF", "bb", 20, w.By());
        Assert.Equal(("bb", "aa"), (files.Find(certificates, "0001.pdf")!.File, files.Find(certificates, "0001.pdf", before)!.File));
        Assert.Equal((1, 20), (files.Folders()[0].Files, files.Folders()[0].Size));
        files.Remove(certificates, "0001.pdf", w.By());
        Assert.Null(files.Find(certificates, "0001.pdf"));
        Assert.Equal("aa", files.Find(certificates, "0001.pdf", before)!.File);
        Assert.Empty(files.Files(certificates));
        Assert.Throws<NotFoundException>(() => files.Add(99, "a.pdf", "cc", 1, w.By()));
        files.Add(null, "For all.pdf", "dd", 1, w.By());
        Assert.Null(files.Find(certificates, "For all.pdf"));
    }
}
