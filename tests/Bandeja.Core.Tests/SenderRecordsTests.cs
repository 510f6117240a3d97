using Bandeja.Core.Mail;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>What a sender's domain publishes about who may send for it.</summary>
public sealed class SenderRecordsTests
{
    [Theory]
    [InlineData(true, "no others may", "v=spf1 mx -all")]
    [InlineData(true, "no others may", "V=SPF1  a:mail.example/24 ip6:2001:db8::/32   include:_spf.mail.example -ALL")]
    [InlineData(true, "from others are suspect", "other", "v=spf1 include:mail.example ~all")]
    [InlineData(true, "nothing about others", "v=spf1 mx ?all")]
    [InlineData(true, "nothing about others", "v=spf1")]
    [InlineData(true, "refers to another domain", "v=spf1 redirect=mail.example")]
    [InlineData(false, "every server in the world", "v=spf1 all")]
    [InlineData(false, "every server in the world", "v=spf1 mx +all")]
    [InlineData(false, "does not say", "v=spf10 mx -all", "spf1")]
    [InlineData(false, "2 SPF records", "v=spf1 mx -all", "v=spf1 a -all")]
    [InlineData(false, "“ipv4:192.0.2.1”", "v=spf1 ipv4:192.0.2.1 -all")]
    [InlineData(false, "“include:”", "v=spf1 include: -all")]
    [InlineData(
        false,
        "11 lookups",
        "v=spf1 a mx ptr exists:e.example include:a.example include:b.example include:c.example include:d.example include:f.example "
            + "include:g.example include:h.example ip4:192.0.2.1 -all"
    )]
    public void An_spf_record_is_read(bool right, string said, params string[] texts)
    {
        var verdict = SenderRecords.Spf("garden.example", texts);
        Assert.Contains(said, verdict.Words);
        Assert.Equal((right, right), (verdict.Right, verdict.Help is null));
    }

    [Theory]
    [InlineData(true, "refuse messages", "v=DMARC1;p=reject")]
    [InlineData(true, "as spam", "other", "v=DMARC1 ; P = Quarantine ; rua=mailto:a@example.org")]
    [InlineData(true, "only for reports", "v=DMARC1; p=none; sp=reject")]
    [InlineData(false, "p is missing", "v=DMARC1; rua=mailto:a@example.org")]
    [InlineData(false, "“refuse”", "v=DMARC1; p=refuse")]
    [InlineData(false, "2 DMARC records", "v=DMARC1; p=none", "v=DMARC1; p=reject")]
    public void A_dmarc_record_is_read(bool right, string said, params string[] texts)
    {
        var verdict = SenderRecords.Dmarc("garden.example", "_dmarc.garden.example", texts)!;
        Assert.Contains(said, verdict.Words);
        Assert.Equal((right, right), (verdict.Right, verdict.Help is null));
    }

    [Fact]
    public void A_domain_without_a_dmarc_record_is_asked_for_above()
    {
        Assert.Null(SenderRecords.Dmarc("news.garden.example", "_dmarc.news.garden.example", ["v=DMARC10; p=none", "dmarc1"]));
        Assert.Equal(
            ["_dmarc.a.news.garden.example", "_dmarc.news.garden.example", "_dmarc.garden.example"],
            SenderRecords.DmarcPlaces("a.news.garden.example")
        );
        Assert.Equal(["_dmarc.localhost"], SenderRecords.DmarcPlaces("localhost"));
        Assert.Contains(
            "garden.example, which news.garden.example belongs to, asks receivers to refuse",
            SenderRecords.Dmarc("news.garden.example", "_dmarc.garden.example", ["v=DMARC1; p=none; sp=reject"])!.Words
        );
    }

    [Property]
    public void No_record_stops_the_reading(string?[] texts)
    {
        var all = texts.SelectMany(t => new[] { t ?? "", $"v=spf1 {t}", $"v=DMARC1; {t}" }).ToList();
        Assert.NotEmpty(SenderRecords.Spf("garden.example", all).Words);
        Assert.NotEqual("", SenderRecords.Dmarc("garden.example", "_dmarc.garden.example", all)?.Words);
    }
}
