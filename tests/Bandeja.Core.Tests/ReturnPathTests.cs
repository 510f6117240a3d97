using Bandeja.Core.Mail;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Return addresses of single messages.</summary>
public sealed class ReturnPathTests
{
    [Fact]
    public void A_message_is_known_by_the_address_that_it_comes_back_to()
    {
        var to = ReturnPath.Of("bounces@example.org", "7.0003.ab12cd34ef56ab78@example.org");
        Assert.Equal("bounces+7.0003.ab12cd34ef56ab78@example.org", to);
        Assert.Equal("7.0003.ab12cd34ef56ab78", ReturnPath.MarkIn(to.ToUpperInvariant(), "Bounces@Example.org"));
    }

    [Theory]
    [InlineData("bounces@example.org")]
    [InlineData("bounces+@example.org")]
    [InlineData("bounces+a b@example.org")]
    [InlineData("bounces+a'--@example.org")]
    [InlineData("bounces+7.1@elsewhere.example")]
    [InlineData("other+7.1@example.org")]
    [InlineData("bounces@")]
    [InlineData("@")]
    [InlineData("")]
    public void Other_addresses_carry_no_mark(string to) => Assert.Null(ReturnPath.MarkIn(to, "bounces@example.org"));

    [Theory]
    [InlineData("7.1.x y@example.org")]
    [InlineData("@example.org")]
    [InlineData("a-very-long-mark-that-does-not-fit-before-the-at-sign-of-any-address@example.org")]
    public void Where_a_mark_does_not_fit_the_plain_address_is_used(string messageId) =>
        Assert.Equal("bounces@example.org", ReturnPath.Of("bounces@example.org", messageId));

    [Property]
    public void Nothing_that_comes_in_throws_and_every_own_address_is_within_its_limit(
        NonNull<string> a,
        NonNull<string> b,
        PositiveInt run,
        PositiveInt piece
    )
    {
        _ = ReturnPath.MarkIn(a.Get, b.Get);
        _ = ReturnPath.Of(a.Get, b.Get);
        var to = ReturnPath.Of("a-name-of-24-characters.@example.org", $"{run.Get}.{piece.Get:0000}.0123456789abcdef@example.org");
        Assert.True(to.LastIndexOf('@') <= ReturnPath.MaxLocal);
        Assert.Equal($"{run.Get}.{piece.Get:0000}.0123456789abcdef", ReturnPath.MarkIn(to, "a-name-of-24-characters.@example.org"));
    }
}
