using Bandeja.Core.Composition;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class LineBreakerTests
{
    /// <summary>The text with a bar at every place where it may break.</summary>
    static string Broken(string text)
    {
        var breaks = new bool[text.Length];
        LineBreaker.Find(text, breaks);
        return string.Concat(text.Select((c, i) => (breaks[i] ? "|" : "") + c));
    }

    [Theory]
    [InlineData("two words", "two |words")] // LB18
    [InlineData("a  b", "a  |b")] // LB7: spaces stay with what is before
    [InlineData("well-known", "well-|known")] // LB21
    [InlineData("no\u00A0break", "no\u00A0break")] // LB12
    [InlineData("word\u2060joiner", "word\u2060joiner")] // LB11
    [InlineData("zero\u200Bwidth", "zero\u200B|width")] // LB8
    [InlineData("say “this” now", "say |“this” |now")] // LB19
    [InlineData("(in brackets), please!", "(in |brackets), |please!")] // LB13, LB14
    [InlineData("$1,250.00 due", "$1,250.00 |due")] // LB25
    [InlineData("3.5% more", "3.5% |more")] // LB25
    [InlineData("a—b", "a|—|b")] // B2 may break on both sides
    [InlineData("1/2 cup", "1/2 |cup")] // LB13, LB25
    [InlineData("日本語", "日|本|語")] // ID
    [InlineData("日本、語", "日|本、|語")] // CL after ID
    [InlineData("e\u0301 a", "e\u0301 |a")] // LB9
    [InlineData("👩‍🌾 here", "👩‍🌾 |here")] // LB8a
    [InlineData("🇵🇹🇯🇵", "🇵🇹|🇯🇵")] // LB30a
    [InlineData("wait… what", "wait… |what")] // LB22
    public void Lines_break_where_uax14_says(string text, string expected) => Assert.Equal(expected, Broken(text));

    [Property(MaxTest = 1000)]
    public void It_takes_any_text_and_never_breaks_at_the_start_or_before_a_space(string? text)
    {
        text ??= "";
        var breaks = new bool[text.Length];
        LineBreaker.Find(text, breaks);
        for (var i = 0; i < text.Length; i++)
            if (breaks[i])
                Assert.True(
                    i > 0
                        && (text[i] != ' ' || "\n\r\v\f\u0085\u2028\u2029".Contains(text[i - 1]))
                        && !(char.IsLowSurrogate(text[i]) && char.IsHighSurrogate(text[i - 1]))
                );
    }
}
