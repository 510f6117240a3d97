using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>What stands beside text, in boxes, in columns, and at the foot of the page.</summary>
public sealed class BesideTests
{
    const double Millimetre = 72 / 25.4;

    static readonly string Long = string.Concat(Enumerable.Repeat(Sentence, 8));

    static JsonObject Box(object attrs, params JsonNode[] content) => Node("box", attrs, content);

    static JsonObject Note(params JsonNode[] blocks) =>
        Node("footnote", new { content = new JsonArray([.. blocks.Select(b => b.DeepClone())]) });

    static double Right(TextLine line, double x) => x + line.Runs[^1].X + line.Runs[^1].Width - line.Runs[0].X;

    [Theory]
    [InlineData("left", "left")]
    [InlineData("right", "left")]
    [InlineData("left", "justify")]
    [InlineData("right", "justify")]
    public void Text_runs_around_a_box_at_a_side_and_below_it_over_the_whole_width(string place, string textAlign)
    {
        var letter = Letter(
            [
                Box(
                    new
                    {
                        place,
                        width = 60,
                        gap = 4,
                        padding = 2,
                        border = new { width = 1, color = "#112233" },
                    },
                    P("In the box of {First}"),
                    P("Two")
                ),
                P(new { textAlign }, T(Long)),
                P(Long),
            ]
        );
        var page = Compose(letter).Pages[0];
        var outline = Items(page).Single(i => i.Item is OutlineItem);
        var frame = (OutlineItem)outline.Item;
        var design = LetterReader.Read(letter);
        var (low, high) = (design.Page.Left, design.Page.Width - design.Page.Right);
        Assert.Equal(place == "left" ? low : high - frame.Width, outline.X, 3);
        Assert.Equal(60 * Millimetre, frame.Width, 3);
        var lines = Lines(page).Where(l => !l.Text.Contains("box") && l.Text != "Two").ToList();
        var bottom = outline.Y + frame.Height;
        var beside = lines.Where(l => l.Y - l.Line.Baseline < bottom).ToList();
        Assert.True(beside.Count >= 2);
        foreach (var l in beside)
            if (place == "left")
                Assert.True(l.X >= outline.X + frame.Width + 4 * Millimetre - 0.01, $"“{l.Text}” begins at {l.X}");
            else
                Assert.True(Right(l.Line, l.X) <= outline.X - 4 * Millimetre + 0.5, $"“{l.Text}” ends at {Right(l.Line, l.X)}");
        var below = lines.Where(l => l.Y - l.Line.Baseline > bottom + 4 * Millimetre).ToList();
        Assert.Contains(below, l => Math.Abs(l.X - low) < 0.01 && Right(l.Line, l.X) > high - 40);
        // Nothing is lost, and what is in the box comes once.
        Assert.Contains("In the box of Ana", page.Text());
        Assert.Equal((Long + Long).Replace(" ", ""), string.Concat(lines.Select(l => l.Text)).Replace(" ", ""));
    }

    [Fact]
    public void A_picture_at_a_side_has_lists_beside_it_and_what_is_no_text_below_it()
    {
        var letter = Letter(
            [
                Node(
                    "picture",
                    new
                    {
                        asset = "x",
                        width = 50,
                        aspect = 1,
                        place = "left",
                    }
                ),
                P("Short."),
                Node("bulletList", null, Node("listItem", null, P("An item")), Node("listItem", null, P("Another"))),
                Table(Row(Cell("A cell"), Cell("B"))),
            ]
        );
        var page = Compose(letter).Pages[0];
        var picture = Items(page).Single(i => i.Item is PictureItem);
        var edge = picture.X + 50 * Millimetre;
        foreach (var text in (string[])["Short.", "•", "An item", "Another"])
            Assert.All(Lines(page).Where(l => l.Text == text), l => Assert.True(l.X > edge, $"“{text}” is in the picture"));
        var cell = Lines(page).Single(l => l.Text == "A cell");
        Assert.True(cell.Y - cell.Line.Baseline >= picture.Y + 50 * Millimetre);
    }

    [Fact]
    public void A_box_stays_with_the_text_beside_it_when_the_page_ends()
    {
        for (var above = 20; above < 60; above++)
        {
            var letter = Letter(
                [
                    .. Enumerable.Range(0, above).Select(_ => P("filler")),
                    Box(
                        new
                        {
                            place = "right",
                            width = 50,
                            height = 40,
                            shade = "#eeeeee",
                        },
                        P("Boxed")
                    ),
                    P("Beside " + Long),
                ]
            );
            var pages = Compose(letter).Pages;
            var at = pages.Select((p, i) => (p, i)).Single(p => p.p.Text().Contains("Boxed")).i;
            Assert.Equal(at, pages.Select((p, i) => (p, i)).First(p => p.p.Text().Contains("Beside")).i);
            var frame = Items(pages[at]).Single(i => i.Item is OutlineItem);
            Assert.True(frame.Y + ((OutlineItem)frame.Item).Height <= 792 - 25 * Millimetre + 0.1);
        }
    }

    [Fact]
    public void A_box_or_picture_at_a_place_of_the_page_stands_there_in_a_header_too()
    {
        var box = Box(
            new
            {
                place = "page",
                x = 10,
                y = 20,
                width = 40,
                shade = "#00ff00",
            },
            P("Sender")
        );
        var picture = Node(
            "picture",
            new
            {
                asset = "x",
                width = 20,
                aspect = 1,
                place = "page",
                x = 150,
                y = 5,
            }
        );
        var letter = Letter(
            [P("Text"), Node("pageBreak"), P("{First}")],
            new JsonObject { ["header"] = new JsonArray(box, picture, P("Head")) }
        );
        foreach (var page in Compose(letter).Pages)
        {
            var frame = Items(page).Single(i => i.Item is OutlineItem);
            Assert.Equal((10 * Millimetre, 20 * Millimetre), (frame.X, frame.Y));
            var image = Items(page).Single(i => i.Item is PictureItem);
            Assert.Equal((150 * Millimetre, 5 * Millimetre), (image.X, image.Y));
            Assert.Contains("Sender", page.Text());
        }
    }

    [Theory]
    [InlineData("page", 260)]
    [InlineData("left", 0)]
    public void Text_that_a_box_carries_over_the_edge_of_the_page_is_told(string place, int y)
    {
        string Of(int lines) =>
            Letter(
                [
                    Box(
                        new
                        {
                            place,
                            y,
                            width = 50,
                        },
                        [.. Enumerable.Range(0, lines).Select(i => P($"line {i} of {{First}}"))]
                    ),
                    P("Text"),
                ]
            );
        Assert.Empty(Compose(Of(1)).Notes.TooLarge);
        Assert.Contains("over the edge of the page", Assert.Single(Compose(Of(60)).Notes.TooLarge));
    }

    [Fact]
    public void Footnotes_stand_at_the_foot_of_the_page_with_their_number()
    {
        var letter = Letter(
            [
                P(new { }, T("One"), Note(P("First note of {First}")), T(" and two"), Note(P("Second note"))),
                Node("when", null, Node("branch", new { test = "Amount > 100" }, P(new { }, T("rich"), Note(P("Only for the rich"))))),
                .. Enumerable.Range(0, 32).Select(i => P($"line {i}")),
                Table(Row(Cell("cell"), Node("tableCell", null, P(new { }, T("noted"), Note(P("A note from a cell")))))),
            ]
        );
        var poor = Compose(letter).Pages;
        Assert.Equal(2, poor.Count);
        var first = Lines(poor[0]).ToList();
        Assert.Contains(first, l => l.Text.StartsWith("One1 and two2", StringComparison.Ordinal));
        Assert.Equal(["1\u00A0First note of Ana", "2\u00A0Second note"], first.TakeLast(2).Select(l => l.Text));
        // Below all text, and above the lower margin.
        var lowest = first.SkipLast(2).Max(l => l.Y);
        Assert.True(first[^2].Y - first[^2].Line.Baseline > lowest + 5);
        Assert.True(first[^1].Y < 792 - 25 * Millimetre);
        Assert.Equal("3\u00A0A note from a cell", Lines(poor[1]).Last().Text);
        // Numbers count what is printed.
        var rich = Compose(letter, Person(amount: "200")).Pages;
        Assert.Equal("3\u00A0Only for the rich", Lines(rich[0]).Last().Text);
        Assert.Equal("4\u00A0A note from a cell", Lines(rich[1]).Last().Text);
    }

    [Property(MaxTest = 40)]
    public Property A_footnote_is_on_the_page_of_its_number_wherever_the_page_ends() =>
        Prop.ForAll(
            Gen.Choose(0, 6).ListOf(40).ToArbitrary(),
            marks =>
            {
                var n = 0;
                var letter = Letter(
                    [
                        .. marks.Select(
                            (m, i) =>
                                m > 3
                                    ? P(
                                        new { },
                                        T($"line {i} "),
                                        Note(P($"note <{n++}> {string.Concat(Enumerable.Repeat(Sentence, m - 4))}"))
                                    )
                                    : P($"line {i}")
                        ),
                    ]
                );
                var pages = Compose(letter).Pages;
                for (var k = 0; k < n; k++)
                {
                    var page = Assert.Single(pages, p => p.Text().Contains($"note <{k}>"));
                    Assert.Contains(
                        Lines(page),
                        l => l.Line.Runs.Any(r => r.Style.Note > 0 && string.Concat(r.Words.Select(w => w.Text)) == $"{k + 1}")
                    );
                    Assert.All(Lines(page), l => Assert.True(l.Y <= 792 - 25 * Millimetre + 0.1));
                }
                Assert.Equal(
                    Enumerable.Range(0, marks.Count),
                    pages
                        .SelectMany(p => Lines(p))
                        .Where(l => l.Text.StartsWith("line ", StringComparison.Ordinal))
                        .Select(l => int.Parse(l.Text.Split(' ')[1]))
                );
            }
        );

    [Theory]
    [InlineData(2)]
    [InlineData(3)]
    public void Columns_are_as_high_as_one_another_and_what_follows_is_below_them(int count)
    {
        var letter = Letter(
            [
                P("Before"),
                Node(
                    "columns",
                    new
                    {
                        count,
                        gap = 6,
                        line = true,
                    },
                    [.. Enumerable.Range(0, 12).Select(i => P($"item {i} for {{First}}"))]
                ),
                P("After"),
            ]
        );
        var page = Compose(letter).Pages[0];
        var items = Lines(page).Where(l => l.Text.StartsWith("item", StringComparison.Ordinal)).ToList();
        var columns = items.GroupBy(l => Math.Round(l.X)).OrderBy(g => g.Key).ToList();
        Assert.Equal(count, columns.Count);
        Assert.All(columns, c => Assert.Equal(12 / count, c.Count()));
        Assert.Equal(Enumerable.Range(0, 12), columns.SelectMany(c => c).Select(l => int.Parse(l.Text.Split(' ')[1])));
        var after = Lines(page).Single(l => l.Text == "After");
        Assert.True(after.Y - after.Line.Baseline >= items.Max(l => l.Y));
        Assert.Equal(count - 1, Items(page).Count(i => i.Item is RectangleItem { Width: < 1, Height: > 10 }));
    }

    [Property(MaxTest = 30)]
    public Property Columns_lose_nothing_over_pages() =>
        Prop.ForAll(
            Gen.Choose(1, 7).ListOf().SelectMany(all => Gen.Choose(2, 4).Select(count => (all, count))).ToArbitrary(),
            made =>
            {
                var n = 0;
                var letter = Letter(
                    [
                        P("Before"),
                        Node(
                            "columns",
                            new { made.count },
                            [
                                .. made.all.SelectMany(lines =>
                                    Enumerable.Range(0, lines * 3).Select(_ => P($"w{n++}")).Prepend(H(3, "Heading"))
                                ),
                            ]
                        ),
                        P("After"),
                    ]
                );
                var pages = Compose(letter).Pages;
                var words = pages
                    .SelectMany(p => Lines(p))
                    .Select(l => l.Text)
                    .Where(t => t.StartsWith('w'))
                    .Select(t => int.Parse(t[1..]));
                Assert.Equal(Enumerable.Range(0, n), words);
                Assert.All(pages.SelectMany(p => Lines(p)), l => Assert.True(l.Y <= 792 - 25 * Millimetre + 0.1));
            }
        );

    [Theory]
    [InlineData("""{"type":"box","attrs":{"width":0}}""", "width of a box")]
    [InlineData("""{"type":"box","attrs":{"shade":"green"}}""", "not a color")]
    [InlineData("""{"type":"columns","attrs":{"count":40}}""", "number of columns")]
    [InlineData(
        """{"type":"paragraph","content":[{"type":"footnote","attrs":{"content":[{"type":"paragraph","content":[{"type":"footnote"}]}]}}]}""",
        "no footnotes of its own"
    )]
    public void What_cannot_be_is_refused(string node, string why) =>
        Assert.Contains(why, Assert.Throws<LetterFormatException>(() => LetterReader.Read($"{{\"content\":[{node}]}}")).Message);

    [Fact]
    public void Fields_in_boxes_columns_and_footnotes_are_read_and_checked()
    {
        var letter = Letter(
            [
                Box(new { }, P("{First}")),
                Node("columns", null, P("{Last}")),
                P(new { }, Note(P("{City}"))),
                Box(new { place = "page" }, P("{Nobody knows this}")),
            ]
        );
        var bound = Bound(letter);
        Assert.Equal([0, 1, 3], bound.UsedColumns);
        Assert.Single(bound.Errors);
    }
}
