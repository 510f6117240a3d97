using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class FileNameTests
{
    [Theory]
    [InlineData("Okafor, Ana", "Okafor, Ana")]
    [InlineData("a/b\\c:d*e?f\"g<h>i|j", "a-b-c-d-e-f-g-h-i-j")]
    [InlineData("../../etc/passwd", "etc-passwd")]
    [InlineData("...", "0012")]
    [InlineData("", "0012")]
    [InlineData("   ", "0012")]
    [InlineData("name. ", "name")]
    [InlineData("con", "_con")]
    [InlineData("NUL.txt", "_NUL.txt")]
    [InlineData("Com1 .pdf", "_Com1 .pdf")]
    [InlineData("a\u0000b\nc\u202ed", "abcd")]
    [InlineData("Zoe\u0308", "Zoë")]
    [InlineData("two   spaces\u00a0and\u2003more", "two spaces and more")]
    [InlineData("漢字 🌿", "漢字 🌿")]
    public void Names_are_made_so_that_every_system_takes_them(string name, string safe) =>
        Assert.Equal(safe, FileNames.Safe(name, "0012"));

    [Fact]
    public void A_long_name_is_cut_between_characters()
    {
        var name = FileNames.Safe(new string('a', FileNames.Longest - 1) + "🌿🌿", "x");
        Assert.Equal(new string('a', FileNames.Longest - 1), name);
        // An accent stays with its letter: either both are there or neither.
        Assert.Equal("aa", FileNames.Safe("aaa\u0301\u0301\u0301", "x", 4));
        // Half of a pair of surrogates is no character.
        Assert.Equal("half \ufffd pair", FileNames.Safe("half \ud83c pair", "x"));
    }

    static FileNames Namer(string template) =>
        new(Template.Parse(template, new Names(Doc.Columns)), new EvaluationContext(Doc.Columns, OrganizationLocale.UnitedStates, default));

    [Fact]
    public void Names_alike_are_numbered_also_where_only_capitals_differ()
    {
        var names = Namer("{Last}");
        Assert.Equal(
            ["Okafor.pdf", "OKAFOR (2).pdf", "okafor (3).pdf", "okafor (2) (2).pdf", "0005.pdf"],
            new[] { "Okafor", "OKAFOR", "okafor", "okafor (2)", null }.Select((last, i) => names.Of(Doc.Person(last: last), i + 1))
        );
        Assert.Equal(3, names.Numbered);
        Assert.Equal("0012 Ana.pdf", Namer("{Piece number} {First}").Of(Doc.Person(), 12));
    }

    [Property(MaxTest = 400)]
    public Property No_name_is_ever_refused_or_given_twice() =>
        Prop.ForAll(
            ArbMap.Default.GeneratorFor<string>().ListOf().ToArbitrary(),
            values =>
            {
                var names = Namer("{Last}");
                var given = values.Select((v, i) => names.Of(Doc.Person(last: v), i + 1)).ToList();
                return given.Distinct(StringComparer.OrdinalIgnoreCase).Count() == given.Count
                    && given.All(n =>
                        n.Length <= FileNames.Longest
                        && n.EndsWith(".pdf", StringComparison.Ordinal)
                        && n.IndexOfAny([.. "<>:\"/\\|?*"]) < 0
                        && !n.Any(char.IsControl)
                        && n.Trim() == n
                        && !n.StartsWith('.')
                        && n == string.Concat(n.EnumerateRunes().Select(r => r.ToString()))
                        && !n.StartsWith("CON.", StringComparison.OrdinalIgnoreCase)
                    );
            }
        );
}
