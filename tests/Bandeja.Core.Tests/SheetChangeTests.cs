using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>Pages with other sheets or margins than those before them, and cells with lines of their own.</summary>
public sealed class SheetChangeTests
{
    static readonly object Margins = new
    {
        top = 20,
        right = 20,
        bottom = 20,
        left = 20,
    };

    static JsonObject Turn(string orientation, string sheet = "letter", object? margins = null) =>
        Node(
            "pageBreak",
            new
            {
                page = new
                {
                    sheet,
                    orientation,
                    margins = margins ?? Margins,
                },
            }
        );

    static IEnumerable<string> Pages(ComposedPiece letter) =>
        letter.Pages.Select(p => $"{Math.Round(p.Width)}x{Math.Round(p.Height)} {p.Text().Replace("\n", " | ")}");

    [Fact]
    public void Text_and_headers_take_the_width_of_their_sheet()
    {
        var header = Node("paragraph", new { textAlign = "right" }, T("Page {Page number}"));
        var letter = Letter(
            [P(Long), Turn("landscape"), P(Long), Turn("portrait", "a5"), P("end")],
            new JsonObject { ["header"] = new JsonArray(header) }
        );
        var pages = Compose(letter).Pages;
        Assert.Equal([612, 792, 420], pages.Select(p => Math.Round(p.Width)));
        foreach (var page in pages)
        {
            var margin = page == pages[0] ? 25 : 20;
            var number = Lines(page).First(l => l.Text.StartsWith("Page"));
            var right = number.X + number.Line.Runs[^1].X + number.Line.Runs[^1].Width - number.Line.Runs[0].X;
            Assert.Equal(page.Width - margin * 72 / 25.4, right, 0.5);
        }
        static int Words(LaidOutPage page) => Lines(page).First(l => l.Text.StartsWith("The glass")).Text.Length;
        Assert.True(Words(pages[1]) > Words(pages[0]) * 1.2);
    }

    static readonly string Long = string.Concat(Enumerable.Repeat(Sentence, 3));

    [Fact]
    public void A_condition_ends_on_the_sheet_on_which_it_began()
    {
        var letter = Letter([P("before"), P("{when Amount > 50}"), Turn("landscape"), P("wide"), P("{end}"), P("after")]);
        Assert.Equal(["612x792 before", "792x612 wide", "612x792 after"], Pages(Compose(letter)));
        Assert.Equal(["612x792 before | after"], Pages(Compose(letter, Person(amount: "1"))));

        var block = Letter(
            [
                Node("when", null, Node("branch", new { test = "Amount > 50" }, Turn("landscape"), P("wide"))),
                P("after"),
                Node("each", new { rows = "Gifts" }, Turn("landscape"), P("{Plant}")),
            ]
        );
        Assert.Equal(
            ["792x612 wide", "612x792 after", "792x612 Fern", "792x612 Lily"],
            Pages(Compose(block, Person(gifts: [("Fern", "1"), ("Lily", "2")])))
        );
        Assert.Equal(["612x792 after"], Pages(Compose(block, Person(amount: "1"))));
    }

    [Fact]
    public void In_boxes_cells_and_columns_a_sheet_cannot_change()
    {
        var letter = Letter(
            [
                Node("columns", new { count = 2 }, P("one"), Turn("landscape"), P("two")),
                Node("blockquote", null, P("three"), Turn("landscape"), P("four")),
            ]
        );
        Assert.All(Compose(letter).Pages, p => Assert.Equal(612, p.Width, 0.5));
    }

    [Fact]
    public void A_footnote_stands_over_the_text_of_its_own_sheet()
    {
        var note = Node("footnote", new { content = new JsonArray(P(string.Concat(Enumerable.Repeat("word ", 60)))) });
        var letter = Letter([P("before"), Turn("landscape", margins: Margins), P(new { }, T("see"), note)]);
        var page = Compose(letter).Pages[1];
        var widest = Lines(page).Where(l => l.Text.Contains("word word")).Max(l => l.Line.Runs[^1].X + l.Line.Runs[^1].Width);
        Assert.InRange(widest, 640, 792 - 40 * 72 / 25.4 + 1);
    }

    [Property(MaxTest = 40)]
    public Property Whatever_the_sheets_nothing_is_lost_and_nothing_stands_outside_the_margins() =>
        Prop.ForAll(
            ArbMap.Default.ArbFor<(byte Kind, byte Count)[]>(),
            parts =>
            {
                var (content, wanted) = (new List<JsonNode>(), 0);
                foreach (var (kind, count) in parts)
                    if (kind % 3 == 0)
                        content.Add(
                            Turn(
                                kind % 2 == 0 ? "landscape" : "portrait",
                                kind % 4 < 2 ? "letter" : "a5",
                                new
                                {
                                    top = 5 + kind % 20,
                                    right = 10 + count % 20,
                                    bottom = 12,
                                    left = 8 + kind % 15,
                                }
                            )
                        );
                    else
                    {
                        content.Add(P(string.Concat(Enumerable.Repeat("word ", count + 1))));
                        wanted += count + 1;
                    }
                var letter = Letter(content);
                var piece = Compose(letter);
                var words = string.Join(' ', piece.Pages.Select(p => p.Text()))
                    .Split([' ', '\n'], StringSplitOptions.RemoveEmptyEntries)
                    .Count(w => w == "word");
                Assert.Equal(wanted, words);
                foreach (var page in piece.Pages)
                foreach (var line in Lines(page))
                {
                    Assert.InRange(line.Y, 0, page.Height);
                    Assert.InRange(line.X + line.Line.Runs[^1].X + line.Line.Runs[^1].Width - line.Line.Runs[0].X, 0, page.Width - 10);
                }
            }
        );

    [Fact]
    public void A_cell_with_lines_of_its_own_has_those_and_its_neighbors_keep_theirs()
    {
        static JsonObject Lined(string text, object lines) => Node("tableCell", new { lines }, P(text));
        var letter = Letter(
            [
                Node(
                    "table",
                    new { lines = "all", lineColor = "#000000" },
                    Row(Cell("a"), Lined("b", new { bottom = new { width = 3, color = "#ff0000" } })),
                    Row(Cell("c"), Cell("d"))
                ),
            ]
        );
        var lines = Items(Compose(letter).Pages[0]).Where(i => i.Item is RectangleItem).ToList();
        var red = Assert.Single(lines, i => ((RectangleItem)i.Item).Color == "ff0000");
        Assert.Equal(3, ((RectangleItem)red.Item).Height, 0.001);
        // The line above b is gone, that between a and b is a's, and d draws its own upper one.
        var black = lines.Where(i => ((RectangleItem)i.Item).Color == "000000").ToList();
        var top = black.Min(i => i.Y);
        Assert.Single(black, i => Math.Abs(i.Y - top) < 0.01 && ((RectangleItem)i.Item).Width > 20);
        Assert.Contains(black, i => ((RectangleItem)i.Item).Height > 5 && Math.Abs(i.X - red.X - 1.25) < 0.6);
        Assert.Equal(
            "The width of a line must be between 0.1 and 12; it is 40.",
            Assert
                .Throws<LetterFormatException>(() => LetterReader.Read(Letter([Table(Row(Lined("x", new { top = new { width = 40 } })))])))
                .Message
        );
    }
}
