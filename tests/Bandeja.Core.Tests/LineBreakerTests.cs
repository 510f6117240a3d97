using System.Text.RegularExpressions;
using Bandeja.Core.Composition;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed partial class LineBreakerTests
{
    /// <summary>The text with a bar at every place where it may break.</summary>
    static string Broken(string text)
    {
        var breaks = new bool[text.Length];
        LineBreaker.Find(text, breaks);
        return string.Concat(text.Select((c, i) => (breaks[i] ? "|" : "") + c));
    }

    [Theory]
    [InlineData("Credit -$12.40", "Credit |-$12.40")]
    [InlineData("−€12.40", "−€12.40")]
    [InlineData("(-$12.40)", "(-$12.40)")]
    [InlineData("mid-$12 range", "mid-|$12 |range")]
    [InlineData("well-known", "well-|known")]
    public void The_minus_of_an_amount_stays_with_it_in_a_letter(string text, string broken)
    {
        var breaks = new bool[text.Length];
        LineBreaker.FindInLetter(text, breaks);
        Assert.Equal(broken, string.Concat(text.Select((c, i) => (breaks[i] ? "|" : "") + c)));
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
    [InlineData("find .com", "find .com")] // LB15d
    [InlineData("equals .35", "equals |.35")] // LB15c
    [InlineData("about（クラス", "about|（ク|ラ|ス")] // LB30
    [InlineData("about(this", "about(this")] // LB30
    [InlineData("\u200D☝", "\u200D☝")] // LB8a
    public void Lines_break_where_uax14_says(string text, string expected) => Assert.Equal(expected, Broken(text));

    /// <summary>
    /// The conformance tests of UAX #14, all of them. They are those of Unicode 15.0; where 16.0 breaks otherwise, or where the tests'
    /// own tailoring of numbers does (LB25: “a.2” and “(s)%” are held together by rule, and not by the tests), that is counted by the
    /// rule.
    /// </summary>
    [Fact]
    public void All_texts_break_where_the_standards_own_tests_say()
    {
        var tests = 0;
        var others = new SortedDictionary<string, int>(StringComparer.Ordinal);
        foreach (var line in UnicodeFile.Lines("LineBreakTest.txt"))
        {
            var (test, remark) = (line.Split('#')[0].Trim().Split(' '), line.Split('#')[1]);
            var text = string.Concat(test.Where((_, i) => i % 2 == 1).Select(h => char.ConvertFromUtf32(Convert.ToInt32(h, 16))));
            var breaks = new bool[text.Length];
            LineBreaker.Find(text, breaks);
            tests++;
            var rules = Rules().Matches(remark);
            var at = 0;
            for (var k = 1; k < rules.Count - 1; k++)
            {
                at += char.ConvertFromUtf32(Convert.ToInt32(test[2 * k - 1], 16)).Length;
                if (breaks[at] == (test[2 * k] == "÷"))
                    continue;
                var rule = rules[k].Groups[1].Value;
                var why = rule == "999.0" ? "LB25" : $"LB{rule}";
                others[why] = others.GetValueOrDefault(why) + 1;
            }
        }
        Assert.Equal(7654, tests);
        Assert.Equal("LB13.02 1, LB15.0 6, LB21.1 1, LB25 34", string.Join(", ", others.Select(o => $"{o.Key} {o.Value}")));
    }

    // The rule by which the standard's tests decide a place.
    [GeneratedRegex(@"[×÷] \[([\d.]+)\]")]
    private static partial Regex Rules();

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
