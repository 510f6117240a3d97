using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class CompositionTests
{
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Amount", ColumnType.Number, Role.None),
        new(3, "Extra", ColumnType.Text, Role.None),
    ];
    const string Sentence = "The glasshouse is quieter without you; in nine years you have walked the riverside path with us. ";

    static ComposedPiece Compose(LetterDesign design, params string?[] values) =>
        new LetterComposer(new BoundLetter(design, Columns, OrganizationLocale.UnitedStates, TestFonts.Library), new(2027, 3, 5)).Compose(
            new ArrayRow(values),
            12
        );

    static IEnumerable<(LineItem Item, double Left, double Top)> Lines(LaidOutPage page) =>
        page.Items.SelectMany(i =>
            i switch
            {
                LineItem l => [(l, l.X, l.Y)],
                SharedItem s => s.Part.Items.OfType<LineItem>().Select(l => (l, s.X + l.X, s.Y + l.Y)),
                _ => Enumerable.Empty<(LineItem, double, double)>(),
            }
        );

    static double Width(TextLine line) => line.Runs.Count == 0 ? 0 : line.Runs.Max(r => r.X + r.Width) - line.Runs.Min(r => r.X);

    [Fact]
    public void Fields_are_filled_and_text_is_broken_into_lines()
    {
        var composed = Compose(TestFonts.Letter(["Dear {First},", "You owe {Amount | money}. " + Sentence + Sentence]), "Ana", "64");
        var text = composed.Pages.Single().Text();
        Assert.StartsWith("Dear Ana,\nYou owe $64.00. The glasshouse", text);
        Assert.True(text.Count(c => c == '\n') >= 3);
        Assert.Empty(composed.Problems);
    }

    [Fact]
    public void No_line_is_wider_than_the_text_and_no_word_is_lost()
    {
        var design = TestFonts.Letter([string.Concat(Enumerable.Repeat(Sentence, 6))]);
        var page = Compose(design).Pages.Single();
        Assert.All(Lines(page), l => Assert.True(Width(l.Item.Line) <= design.Page.TextWidth + 0.02));
        Assert.Equal(
            string.Concat(Enumerable.Repeat(Sentence, 6)).Split(' ', StringSplitOptions.RemoveEmptyEntries),
            page.Text().Split([' ', '\n'], StringSplitOptions.RemoveEmptyEntries)
        );
    }

    [Theory]
    [InlineData("left")]
    [InlineData("center")]
    [InlineData("right")]
    [InlineData("justify")]
    public void Lines_stand_where_the_alignment_says(string align)
    {
        var design = TestFonts.Letter([string.Concat(Enumerable.Repeat(Sentence, 4))], align: align);
        var lines = Lines(Compose(design).Pages.Single()).Select(l => l.Item.Line).ToList();
        foreach (var (line, last) in lines.Select((l, i) => (l, i == lines.Count - 1)))
        {
            double left = line.Runs[0].X,
                right = line.Runs.Max(r => r.X + r.Width),
                full = design.Page.TextWidth;
            if (align == "left")
                Assert.Equal(0, left, 2);
            if (align == "right")
                Assert.Equal(full, right, 2);
            if (align == "center")
                Assert.Equal(left, full - right, 2);
            if (align == "justify" && !last)
                Assert.Equal(
                    (0, full),
                    (Math.Round(left, 2), Math.Round(right, 2)),
                    (a, b) => Math.Abs(a.Item1 - b.Item1) < 0.05 && Math.Abs(a.Item2 - b.Item2) < 0.05
                );
        }
    }

    [Fact]
    public void A_line_of_nothing_but_blank_fields_leaves_no_gap()
    {
        var design = TestFonts.Letter(["{First}\n{Extra | else \"\"}\n14 Quay Road", "{Extra | else \"\"}", "End"]);
        Assert.Equal("Ana\n14 Quay Road\nEnd", Compose(design, "Ana").Pages.Single().Text());
        Assert.Equal("Ana\nApt 3\n14 Quay Road\nApt 3\nEnd", Compose(design, "Ana", null, "Apt 3").Pages.Single().Text());
        Assert.Empty(Compose(design, "Ana").Problems);
        var positions = Lines(Compose(design, "Ana").Pages.Single()).Select(l => l.Top).ToList();
        Assert.Equal(
            positions[1] - positions[0] + design.Blocks.OfType<Paragraph>().First().Style.SpaceAfter,
            positions[2] - positions[1],
            3
        );
    }

    [Theory]
    [InlineData("{First} {Extra}", null, "Okafor", "Okafor")]
    [InlineData("{First} {Extra}", "Ana", null, "Ana")]
    [InlineData("a {First} b", null, null, "a b")]
    [InlineData("a {First} {Extra} b", null, null, "a b")]
    [InlineData("Dear {First},", null, null, "Dear,")]
    [InlineData("Dear {First},", "Ana", null, "Dear Ana,")]
    [InlineData("({First})", null, null, "()")]
    [InlineData("x{First}y", null, null, "xy")]
    public void A_blank_field_leaves_no_gap_within_its_line(string text, string? first, string? extra, string expected) =>
        Assert.Equal(expected, Compose(TestFonts.Letter([text]), first, null, extra).Pages.Single().Text().TrimEnd());

    [Fact]
    public void Blank_fields_that_say_nothing_are_issues()
    {
        var issues = PieceIssue.Of(Compose(TestFonts.Letter(["Dear {First}, {Amount | money} {First}"])), 1);
        Assert.Equal([(PieceIssueKind.Blank, "First"), (PieceIssueKind.Blank, "Amount")], issues.Select(f => (f.Kind, f.Subject)));
        Assert.Equal("Blank|First|", issues[0].Key);
    }

    [Fact]
    public void An_unknown_field_is_told_once_for_the_design_and_is_a_issue_for_everybody()
    {
        var bound = new BoundLetter(TestFonts.Letter(["Dear {Frist},"]), Columns, OrganizationLocale.UnitedStates, TestFonts.Library);
        Assert.Equal("First", Assert.Single(bound.Errors).Error.Suggestion);
        var issue = Assert.Single(PieceIssue.Of(new LetterComposer(bound, default).Compose(new ArrayRow(["Ana"]), 1), 1));
        Assert.Equal(PieceIssueKind.UnknownField, issue.Kind);
    }

    [Fact]
    public void A_letter_that_no_longer_fits_its_page_is_a_issue()
    {
        var design = TestFonts.Letter([.. Enumerable.Repeat(Sentence + Sentence + Sentence, 9), "{Extra | else \"\"}"]);
        Assert.Empty(PieceIssue.Of(Compose(design, "Ana"), design.MaxPages));
        var composed = Compose(design, "Ana", "1", string.Concat(Enumerable.Repeat(Sentence, 20)));
        Assert.Equal(2, composed.Pages.Count);
        Assert.Equal(("letter", "2"), PieceIssue.Of(composed, design.MaxPages).Select(f => (f.Subject, f.Detail)).Single());
        Assert.Empty(PieceIssue.Of(composed, null));
    }

    [Fact]
    public void Pages_keep_at_least_two_lines_of_a_paragraph_together()
    {
        for (var filler = 1; filler < 60; filler++)
        {
            var design = TestFonts.Letter(
                [
                    string.Join('\n', Enumerable.Range(0, filler).Select(i => $"filler {i}")),
                    string.Join('\n', Enumerable.Range(0, 5).Select(i => $"together {i} {{First}}")),
                ],
                maxPages: null
            );
            foreach (var page in Compose(design, "x").Pages)
            {
                var here = page.Text().Split('\n').Count(l => l.StartsWith("together", StringComparison.Ordinal));
                Assert.True(here is 0 or >= 2, $"{filler} lines before: {here} alone on a page");
            }
        }
    }

    [Fact]
    public void Every_line_stays_within_the_margins_of_its_page()
    {
        var design = TestFonts.Letter(
            Enumerable.Range(0, 60).Select(i => i % 3 == 0 ? $"{{First}} {Sentence}{Sentence}" : Sentence + Sentence),
            maxPages: null
        );
        var composed = Compose(design, "Ana");
        Assert.True(composed.Pages.Count > 1);
        Assert.All(composed.Pages.SelectMany(Lines), l => Assert.InRange(l.Top, design.Page.Top, design.Page.Height - design.Page.Bottom));
        Assert.Equal(60 * 2, composed.Pages.Sum(p => p.Text().Split("The glasshouse").Length - 1));
    }

    [Fact]
    public void Characters_are_taken_from_another_family_before_they_are_missing()
    {
        var greek = Compose(TestFonts.Letter(["{First}"]), "Ελένη Nguyễn Thị Ánh");
        Assert.Empty(greek.Notes.MissingGlyphs);
        var issue = Assert.Single(PieceIssue.Of(Compose(TestFonts.Letter(["{First} {First}"]), "ليلى \U00012000"), 1));
        Assert.Equal((PieceIssueKind.MissingGlyph, "12000"), (issue.Kind, issue.Detail));
    }

    [Fact]
    public void A_word_wider_than_its_line_is_cut_and_told()
    {
        var word = new string('W', 200);
        var composed = Compose(TestFonts.Letter(["{First}"]), word);
        Assert.Equal(word, composed.Pages.Single().Text().Replace("\n", ""));
        Assert.Equal(PieceIssueKind.TooWide, Assert.Single(PieceIssue.Of(composed, 1)).Kind);
    }

    [Fact]
    public void What_is_the_same_for_everyone_is_one_shared_part()
    {
        var bound = new BoundLetter(
            TestFonts.Letter([Sentence, "Dear {First},", Sentence, Sentence]),
            Columns,
            OrganizationLocale.UnitedStates,
            TestFonts.Library
        );
        var composer = new LetterComposer(bound, default);
        var (a, b) = (composer.Compose(new ArrayRow(["Ana"]), 1), composer.Compose(new ArrayRow(["Per"]), 2));
        Assert.Equal(a.Pages[0].Items.OfType<SharedItem>().Select(s => s.Part), b.Pages[0].Items.OfType<SharedItem>().Select(s => s.Part));
        Assert.Equal(2, a.Pages[0].Items.OfType<SharedItem>().Count());
    }

    [Fact]
    public void Line_boxes_grow_with_the_largest_type_in_them()
    {
        var big = LetterReader.Read(
            """{"content":[{"type":"paragraph","content":[{"type":"text","text":"small "},{"type":"text","text":"BIG","marks":[{"type":"textStyle","attrs":{"fontSize":"44pt"}}]}]},{"type":"paragraph","content":[{"type":"text","text":"after"}]}]}"""
        );
        var lines = Lines(Compose(big).Pages.Single()).ToList();
        Assert.True(lines[0].Item.Line.Height is > 55 and < 75, $"{lines[0].Item.Line.Height}");
        Assert.Equal(11 * 1.35, lines[1].Item.Line.Height, 3);
    }

    [Fact]
    public void Formatting_chooses_the_cut_of_the_face()
    {
        var design = LetterReader.Read(
            """{"content":[{"type":"paragraph","content":[{"type":"field","attrs":{"source":"First"},"marks":[{"type":"bold"},{"type":"underline"}]},{"type":"text","text":" x","marks":[{"type":"italic"}]},{"type":"text","text":"y","marks":[{"type":"textStyle","attrs":{"fontFamily":"Caveat","fontSize":"24pt"}}]}]}]}"""
        );
        var runs = Lines(Compose(design, "Ana").Pages.Single()).Single().Item.Line.Runs;
        Assert.Equal(
            [(true, false, true), (false, true, false), (false, false, false)],
            runs.Select(r => (r.Font.Bold, r.Font.Italic, r.Style.Underline))
        );
        Assert.Equal(("Caveat", 24.0), (runs[2].Font.Family, runs[2].Size));
    }

    [Theory]
    [InlineData("")]
    [InlineData("[]")]
    [InlineData("{\"content\":[{\"type\":\"table\"}]}")]
    [InlineData(
        "{\"content\":[{\"type\":\"paragraph\",\"content\":[{\"type\":\"text\",\"text\":\"a\",\"marks\":[{\"type\":\"blink\"}]}]}]}"
    )]
    [InlineData("{\"page\":{\"sheet\":\"napkin\"}}")]
    [InlineData("{\"page\":{\"margins\":{\"left\":900}}}")]
    [InlineData("{\"type\":{\"size\":100000}}")]
    [InlineData("{\"content\":[{\"type\":\"picture\",\"attrs\":{\"width\":-4,\"asset\":\"x\"}}]}")]
    [InlineData("{\"content\":[null]}")]
    [InlineData("{\"content\":5}")]
    public void What_is_not_a_letter_is_refused_with_a_sentence(string json) =>
        Assert.NotEmpty(Assert.Throws<LetterFormatException>(() => LetterReader.Read(json)).Message);

    [Property(MaxTest = 200)]
    public void Any_value_composes_and_comes_out_whole(string? first, NonNull<string> extra)
    {
        var composed = Compose(
            TestFonts.Letter(["a {First | else \"-\"} b", "{Extra | else \"\"}"], maxPages: null),
            first,
            null,
            extra.Get
        );
        Assert.NotEmpty(composed.Pages);
        Assert.Contains("a ", composed.Pages[0].Text());
    }
}
