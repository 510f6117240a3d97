using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class PageFillingTests
{
    static readonly Column[] Columns = [new(1, "First", ColumnType.Text, Role.GivenName)];

    static IReadOnlyList<LaidOutPage> Pages(LetterDesign design) =>
        new LetterComposer(new BoundLetter(design, Columns, OrganizationLocale.UnitedStates, TestFonts.Library), default)
            .Compose(new ArrayRow(["Ana"]), 1)
            .Pages;

    [Property(MaxTest = 60)]
    public Property Every_line_comes_out_once_and_in_order_however_the_pages_fall() =>
        Prop.ForAll(
            Gen.Choose(1, 9).SelectMany(lines => Gen.Elements(true, false).Select(field => (lines, field))).ListOf().ToArbitrary(),
            paragraphs =>
            {
                var n = 0;
                var texts = paragraphs
                    .Select(p => string.Join('\n', Enumerable.Range(0, p.lines).Select(_ => $"line {n++}{(p.field ? " {First}" : "")}")))
                    .ToList();
                var pages = Pages(TestFonts.Letter(texts, maxPages: null, sheet: "a5"));
                var lines = pages.SelectMany(p => p.Text().Split('\n', StringSplitOptions.RemoveEmptyEntries)).Select(l => l.Split(' ')[1]);
                Assert.Equal(Enumerable.Range(0, n).Select(i => $"{i}"), lines);
            }
        );

    [Fact]
    public void A_group_that_does_not_fit_is_divided_between_its_paragraphs()
    {
        var pages = Pages(TestFonts.Letter([.. Enumerable.Range(0, 80).Select(i => $"static {i}")], maxPages: null));
        Assert.True(pages.Count >= 2);
        Assert.StartsWith("static 0\n", pages[0].Text());
        Assert.EndsWith("static 79", pages[^1].Text());
    }

    [Fact]
    public void A_picture_goes_to_the_next_page_whole()
    {
        var paragraph = """{"type":"paragraph","content":[{"type":"text","text":"filler"}]}""";
        var design = LetterReader.Read(
            """{"content":["""
                + string.Join(',', Enumerable.Repeat(paragraph, 26))
                + """,{"type":"picture","attrs":{"asset":"x","width":100,"aspect":1}}]}"""
        );
        var pages = Pages(design);
        Assert.Equal(2, pages.Count);
        var picture = pages[1].Items.OfType<PictureItem>().Select(p => p.Y + p.Height).Single();
        Assert.InRange(picture, design.Page.Top, design.Page.Height - design.Page.Bottom);
    }

    [Fact]
    public void A_picture_is_never_wider_than_the_text()
    {
        var design = LetterReader.Read(
            """{"page":{"sheet":"a5"},"content":[{"type":"picture","attrs":{"asset":"x","width":500,"aspect":2}}]}"""
        );
        var picture = Assert.IsType<Picture>(Assert.Single(design.Blocks));
        Assert.Equal(design.Page.TextWidth, picture.Box.Width, 3);
        Assert.Equal(picture.Box.Width / 2, picture.Box.Height, 3);
    }

    [Theory]
    [InlineData("letter", "portrait", 612, 792)]
    [InlineData("letter", "landscape", 792, 612)]
    [InlineData("a4", "portrait", 595.28, 841.89)]
    [InlineData("legal", "portrait", 612, 1008)]
    public void Sheets_have_their_standard_sizes(string sheet, string orientation, double width, double height)
    {
        var page = LetterReader.Read($$"""{"page":{"sheet":"{{sheet}}","orientation":"{{orientation}}"},"content":[]}""").Page;
        Assert.Equal(width, page.Width, 1);
        Assert.Equal(height, page.Height, 1);
    }

    [Fact]
    public void A_letter_without_text_is_one_empty_page()
    {
        var page = Assert.Single(Pages(LetterReader.Read("""{"content":[]}""")));
        Assert.Empty(page.Items);
        Assert.Equal("", Assert.Single(Pages(LetterReader.Read("""{"content":[{"type":"paragraph"},{"type":"paragraph"}]}"""))).Text());
    }

    [Fact]
    public void An_empty_paragraph_keeps_its_line()
    {
        double Top(string json) =>
            Pages(LetterReader.Read(json))
                .Single()
                .Items.OfType<SharedItem>()
                .SelectMany(s => s.Part.Items.OfType<LineItem>().Select(l => s.Y + l.Y))
                .Max();
        const string text = """{"type":"paragraph","content":[{"type":"text","text":"x"}]}""";
        var apart = Top($$"""{"content":[{{text}},{"type":"paragraph"},{{text}}]}""") - Top($$"""{"content":[{{text}},{{text}}]}""");
        Assert.Equal(11 * 1.35 + 8, apart, 2);
    }

    [Fact]
    public void Line_spacing_and_type_size_are_those_of_the_letter()
    {
        var design = LetterReader.Read(
            """{"type":{"size":20,"lineSpacing":2,"spaceAfter":0,"family":"Source Sans 3"},"content":[{"type":"paragraph","content":[{"type":"text","text":"a"},{"type":"hardBreak"},{"type":"text","text":"b"}]}]}"""
        );
        var lines = Pages(design).Single().Items.OfType<SharedItem>().SelectMany(s => s.Part.Items.OfType<LineItem>()).ToList();
        Assert.Equal(40, lines[1].Y - lines[0].Y, 3);
        Assert.All(lines, l => Assert.Equal("Source Sans 3", l.Line.Runs[0].Font.Family));
    }

    [Fact]
    public void An_unknown_typeface_falls_back_to_the_first_family()
    {
        Assert.Equal("Source Serif 4", TestFonts.Library.Find("Nowhere Grotesk", false, false).Family);
        var bold = TestFonts.Library.Find("Source Serif 4", true, false);
        Assert.True(bold.Bold && !bold.Italic);
        Assert.False(TestFonts.Library.Find("Caveat", false, true).Italic);
    }

    [Fact]
    public void Words_are_shaped_once()
    {
        var font = TestFonts.Library.Find("Source Serif 4", false, false);
        Assert.Same(font.Shape("glasshouse"), font.Shape("glasshouse"));
        Assert.True(font.Shape("ffi").Glyphs.Length <= 3);
        Assert.Equal("office", string.Concat(font.Shape("office").ClusterTexts));
        Assert.True(font.Shape("AV").Advance < font.Shape("A").Advance + font.Shape("V").Advance, "kerning");
    }

    [Fact]
    public void Control_characters_and_lone_surrogates_in_values_do_no_harm()
    {
        var bound = new BoundLetter(TestFonts.Letter(["a {First} b"]), Columns, OrganizationLocale.UnitedStates, TestFonts.Library);
        foreach (var value in (string[])["tab\tnewline\n", "\ud800", "soft\u00ADhyphen", "\u202Eoverride", "nul\0", "\uFFFF"])
            Assert.StartsWith("a ", new LetterComposer(bound, default).Compose(new ArrayRow([value]), 1).Pages[0].Text());
    }
}
