using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Addresses out of cells and headers, text for headers, who goes by which, when to try again, how fast to send.</summary>
public sealed class MailAddressTests
{
    [Theory]
    [InlineData("ana@example.org", "ana@example.org", "")]
    [InlineData("  Ana@Example.ORG ", "Ana@example.org", "")]
    [InlineData("Ana Okafor <ana@example.org>", "ana@example.org", "Ana Okafor")]
    [InlineData("\"Okafor, Ana\" <ana@example.org>", "ana@example.org", "Okafor, Ana")]
    [InlineData("\"Ana \\\"Bo\\\" Okafor\" <ana@example.org>", "ana@example.org", "Ana \"Bo\" Okafor")]
    [InlineData("mailto:ana@example.org", "ana@example.org", "")]
    [InlineData("ana@gärtnerei.example", "ana@xn--grtnerei-0za.example", "")]
    [InlineData("jörg@example.org", "jörg@example.org", "")]
    [InlineData("o'neill+garden@example.org", "o'neill+garden@example.org", "")]
    public void An_address_is_read_with_its_name(string text, string address, string name) =>
        Assert.Equal(new MailParty(name, address), MailAddresses.One(text));

    [Theory]
    [InlineData("ana")]
    [InlineData("ana@")]
    [InlineData("@example.org")]
    [InlineData("ana@example")]
    [InlineData("ana@exa mple.org")]
    [InlineData("ana@@example.org")]
    [InlineData("ana@-example.org")]
    [InlineData("ana@example.org>")]
    [InlineData("")]
    public void What_is_no_address_is_none(string text) => Assert.Null(MailAddresses.One(text));

    [Theory]
    [InlineData(null, CellVerdict.Blank)]
    [InlineData("  ", CellVerdict.Blank)]
    [InlineData("ana@example.org", CellVerdict.Good)]
    [InlineData("ana@example.org, bo@example.org", CellVerdict.Several)]
    [InlineData("ana@example.org;bo@example.org", CellVerdict.Several)]
    [InlineData("ana@example.org / bo@example.org", CellVerdict.Several)]
    [InlineData("ana@example.org bo@example.org", CellVerdict.Several)]
    [InlineData("ana(at)example.org", CellVerdict.Malformed)]
    public void A_cell_is_told_for_what_it_is(string? cell, CellVerdict verdict) => Assert.Equal(verdict, MailAddresses.Cell(cell).Verdict);

    [Fact]
    public void Several_are_read_where_several_may_be()
    {
        var (parties, wrong) = MailAddresses.Read("\"Okafor, Ana\" <ana@example.org>, nobody; bo@example.org");
        Assert.Equal(["ana@example.org", "bo@example.org"], parties.Select(p => p.Address));
        Assert.Equal(["nobody"], wrong);
        Assert.True(new MailParty("", "jörg@example.org").NeedsUtf8);
    }

    [Theory]
    [InlineData("Your visit\r\nBcc: everybody@example.org", "Your visit Bcc: everybody@example.org")]
    [InlineData("a\u2028b\u0000c\td", "a b c d")]
    [InlineData("ana\u202Egro.elpmaxe", "anagro.elpmaxe")]
    public void A_header_never_ends_within_its_value(string text, string clean) => Assert.Equal(clean, HeaderText.Clean(text));

    [Property]
    public void No_text_makes_a_second_header(string? text)
    {
        var clean = HeaderText.Clean(text ?? "");
        Assert.DoesNotContain(clean, char.IsControl);
        Assert.True(clean.Length <= HeaderText.Longest + 1);
    }

    [Property]
    public void No_text_makes_an_address_that_ends_the_header(string? text)
    {
        var (parties, _) = MailAddresses.Read(text ?? "");
        Assert.All(parties, p => Assert.DoesNotContain(p.Address + p.Name, char.IsControl));
        MailAddresses.Cell(text);
    }

    static readonly Column[] Columns = [new(1, "Email", ColumnType.Text, Role.Email), new(2, "Sends by", ColumnType.Text, Role.None)];

    [Theory]
    [InlineData(ChannelBy.Package, CellVerdict.Blank, "email", Channel.Both)]
    [InlineData(ChannelBy.Address, CellVerdict.Good, null, Channel.Email)]
    [InlineData(ChannelBy.Address, CellVerdict.Blank, null, Channel.Paper)]
    [InlineData(ChannelBy.Address, CellVerdict.Malformed, null, Channel.Paper)]
    [InlineData(ChannelBy.Address, CellVerdict.Several, null, Channel.Email)]
    [InlineData(ChannelBy.Column, CellVerdict.Good, " Paper ", Channel.Paper)]
    [InlineData(ChannelBy.Column, CellVerdict.Blank, "E-mail", Channel.Email)]
    [InlineData(ChannelBy.Column, CellVerdict.Blank, "both", Channel.Both)]
    [InlineData(ChannelBy.Column, CellVerdict.Good, null, Channel.Email)]
    public void Who_goes_by_which_follows_the_drops_rule(ChannelBy by, CellVerdict address, string? said, Channel channel) =>
        Assert.Equal((channel, null), new ChannelRule(by, 2).Of(Channel.Both, Columns, new ArrayRow([null, said]), address));

    [Fact]
    public void A_word_that_is_no_way_is_told_and_nobody_gets_what_the_package_lacks()
    {
        Assert.Equal(
            (Channel.Email, "pigeon"),
            new ChannelRule(ChannelBy.Column, 2).Of(Channel.Both, Columns, new ArrayRow([null, "pigeon"]), CellVerdict.Good)
        );
        Assert.Equal(
            (Channel.Paper, null),
            new ChannelRule(ChannelBy.Column, 2).Of(Channel.Paper, Columns, new ArrayRow([null, "email"]), CellVerdict.Good)
        );
        Assert.Equal(
            (Channel.Email, null),
            new ChannelRule(ChannelBy.Column, 9).Of(Channel.Both, Columns, new ArrayRow([null, "paper"]), CellVerdict.Good)
        );
    }

    static readonly DateTimeOffset Noon = new(2027, 3, 1, 12, 0, 0, TimeSpan.Zero);

    [Fact]
    public void Waits_grow_threefold_up_to_four_hours_and_end()
    {
        var schedule = new RetrySchedule(TimeSpan.FromMinutes(1));
        Assert.Equal([1, 3, 9, 27, 81, 240, 240], Enumerable.Range(1, 7).Select(n => (schedule.After(n, Noon)!.Value - Noon).TotalMinutes));
        Assert.Null(schedule.After(8, Noon));
    }

    [Fact]
    public void A_pace_holds_in_any_minute_and_any_day()
    {
        var pace = new SendPace(3, 5);
        var now = Noon;
        // Evenly: not three at once and then nobody for a minute.
        Assert.Equal([0, 20, 20], Enumerable.Range(0, 3).Select(_ => pace.Take(now).TotalSeconds));
        for (var i = 1; i < 5; i++)
        {
            now = now.AddSeconds(19.5);
            Assert.Equal(0.5, pace.Take(now).TotalSeconds, 3);
            now = now.AddSeconds(0.5);
            Assert.Equal(TimeSpan.Zero, pace.Take(now));
        }
        now = now.AddSeconds(20);
        // Five went out in this day; the next waits for the first to be a day old.
        Assert.Equal(Noon.AddDays(1) - now, pace.Take(now));
        var again = new SendPace(0, 2);
        again.Count([Noon.AddHours(-1), Noon.AddHours(-30), Noon.AddHours(-2)]);
        Assert.Equal(TimeSpan.FromHours(22), again.Take(Noon));
        Assert.Equal(TimeSpan.Zero, new SendPace(0, 0).Take(Noon));
    }

    [Property]
    public void However_it_is_asked_no_minute_sends_more(ushort[] steps, byte limit)
    {
        var perMinute = limit % 7 + 1;
        var pace = new SendPace(perMinute, 0);
        var (now, sent) = (Noon, new List<DateTimeOffset>());
        foreach (var step in steps)
        {
            now = now.AddMilliseconds(step);
            if (pace.Take(now) == TimeSpan.Zero)
                sent.Add(now);
        }
        for (var i = perMinute; i < sent.Count; i++)
            Assert.True(sent[i] - sent[i - perMinute] >= TimeSpan.FromMinutes(1));
    }
}
