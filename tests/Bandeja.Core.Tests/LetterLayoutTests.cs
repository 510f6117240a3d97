using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>Where things stand: tables, tabs, lists, bands, pictures, pages, and scripts that run the other way.</summary>
public sealed class LetterLayoutTests
{
    const double Mm = 72 / 25.4,
        Margin = 25 * Mm;
    static readonly string Long = string.Concat(Enumerable.Repeat(Sentence, 7)).TrimEnd();

    static double Right((string Text, double X, double Y, TextLine Line) line) =>
        line.X - line.Line.Runs[0].X + line.Line.Runs.Max(r => r.X + r.Width);

    static List<RectangleItem> Boxes(LaidOutPage page) =>
        [.. Items(page).Where(i => i.Item is RectangleItem).Select(i => (RectangleItem)i.Item with { X = i.X, Y = i.Y })];

    [Fact]
    public void Tabs_go_to_their_stops()
    {
        var tabs = new object[]
        {
            new { at = 40, kind = "left" },
            new { at = 80, kind = "right" },
            new { at = 110, kind = "center" },
            new { at = 140, kind = "decimal" },
        };
        var line = Lines(Compose(Letter([P(new { tabs }, T("a\tleft\tright\tmid\t12.50"))])).Pages[0]).Single();
        var runs = line.Line.Runs;
        Assert.Equal(40 * Mm, runs[1].X, 2);
        Assert.Equal(80 * Mm, runs[2].X + runs[2].Width, 2);
        Assert.Equal(110 * Mm, runs[3].X + runs[3].Width / 2, 2);
        var font = runs[4].Font;
        Assert.Equal(140 * Mm, runs[4].X + font.Shape("12").Advance * 11.0 / font.UnitsPerEm, 2);
    }

    [Fact]
    public void Decimal_signs_stand_below_each_other()
    {
        var tabs = new object[] { new { at = 60, kind = "decimal" } };
        double SignAt(string amount)
        {
            var run = Lines(Compose(Letter([P(new { tabs }, T("Due\t"), F("Amount | money"))]), Person(amount: amount)).Pages[0])
                .Single()
                .Line.Runs[^1];
            var text = string.Concat(run.Words.Select(w => w.Text));
            return run.X + run.Font.Shape(text.AsSpan(0, text.LastIndexOf('.'))).Advance * run.Size / run.Font.UnitsPerEm;
        }
        Assert.Equal(SignAt("7"), SignAt("1234567.5"), 2);
    }

    [Fact]
    public void Without_stops_a_tab_goes_half_an_inch_further_and_one_too_many_begins_a_line()
    {
        Assert.Equal(36, Lines(Compose(Letter([P("\ta")])).Pages[0]).Single().Line.Runs[0].X, 2);
        var lines = Lines(Compose(Letter([P(string.Concat(Enumerable.Repeat("\tx", 40)))])).Pages[0]).ToList();
        Assert.True(lines.Count > 2);
        Assert.Equal(40, lines.Sum(l => l.Line.Runs.Count));
    }

    [Fact]
    public void A_tab_in_a_value_is_a_space() => Assert.Equal("a b", Text(Compose(Letter([P("{First}")]), Person(first: "a\tb"))));

    [Fact]
    public void Indents_and_the_first_line_are_kept()
    {
        var lines = Lines(
                Compose(
                    Letter(
                        [
                            P(
                                new
                                {
                                    indent = 20,
                                    indentRight = 10,
                                    firstLine = 5,
                                },
                                T(Long)
                            ),
                        ]
                    )
                ).Pages[0]
            )
            .ToList();
        Assert.Equal(Margin + 25 * Mm, lines[0].X, 2);
        Assert.All(lines.Skip(1), l => Assert.Equal(Margin + 20 * Mm, l.X, 2));
        Assert.All(lines, l => Assert.True(Right(l) <= 612 - Margin - 10 * Mm + 0.05));
        Assert.Equal(Margin + 15 * Mm, Lines(Compose(Letter([P(new { indent = 20, firstLine = -5 }, T("x"))])).Pages[0]).Single().X, 2);
    }

    [Fact]
    public void Justified_spaces_are_bounded_and_even()
    {
        var page = Compose(Letter([P(new { textAlign = "justify" }, T(Long + " incomprehensibilities notwithstanding"))])).Pages[0];
        var space = TestFonts.Library.Find("Source Serif 4", false, false).Shape(" ").Advance * 11.0 / 1000;
        foreach (var line in Lines(page))
            Assert.All(line.Line.Runs, r => Assert.InRange(r.SpaceExtra, -space * 0.19, space * 1.61));
        // A narrow column would need rivers: there the line stays short instead.
        var narrow = Compose(Letter([P(new { textAlign = "justify", indent = 115 }, T(Long))])).Pages[0];
        foreach (var line in Lines(narrow))
            Assert.All(line.Line.Runs, r => Assert.True(r.SpaceExtra <= space * 1.61));
    }

    [Fact]
    public void Raised_and_lowered_text_is_smaller_and_does_not_push_the_lines_apart()
    {
        var lines = Lines(
                Compose(
                    Letter([P(new { }, T("H"), T("2", "subscript"), T("O and 1"), T("st", "superscript"), T(" "), T("gone", "strike"))])
                ).Pages[0]
            )
            .Single()
            .Line;
        Assert.Equal([0, -1, 0, 1, 0, 0], lines.Runs.Select(r => Math.Sign(r.Rise)));
        Assert.True(lines.Runs[1].Size < 8 && lines.Runs[^1].Style.Strike);
        Assert.Equal(11 * 1.35, lines.Height, 2);
    }

    [Fact]
    public void Right_to_left_words_come_out_in_reading_order()
    {
        var line = Lines(
                Compose(
                    Letter([P("{First} and שלום עולם 42 have been with the garden for nine years, to the end")]),
                    Person(first: "محمد علي")
                ).Pages[0]
            )
            .Single()
            .Line;
        var visual = line.Runs.OrderBy(r => r.X).SelectMany(r => r.Words).Select(w => w.Text.Trim()).Where(t => t.Length > 0).ToList();
        // From the left: the Arabic name with its second word first, then Latin, then Hebrew the same way; numbers within it run forward.
        Assert.Equal(["علي", "محمد"], visual.Where(t => t[0] is >= '\u0600' and <= '\u06FF'));
        Assert.True(visual.IndexOf("עולם") < visual.IndexOf("שלום"));
        Assert.Equal("end", visual[^1]);
        Assert.Contains("42", visual);
        // Letters join: shaped Arabic is not its letters one by one.
        var word = line.Runs.SelectMany(r => r.Words).First(w => w.Text == "محمد");
        Assert.Equal("Amiri", word.Font.Family);
        Assert.NotEqual(
            word.Glyphs.Select(g => g.Id).Order(),
            "محمد".SelectMany(c => word.Font.Shape(c.ToString()).Glyphs).Select(g => g.Id).Order()
        );
    }

    [Theory]
    [InlineData("abc אבג (xyz)", "0,0,0,0,1,1,1,0,0,0,0,0,0")]
    [InlineData("אבג 12 דהו", "1,1,1,1,2,2,1,1,1,1")]
    [InlineData("שלום, Ana!", "1,1,1,1,1,1,2,2,2,1")]
    [InlineData("עלות 5.50$ ביום", "1,1,1,1,1,2,2,2,2,2,1,1,1,1,1")]
    public void Levels_are_those_of_the_standard(string text, string levels) => Assert.Equal(levels, string.Join(',', Bidi.Levels(text)));

    [Theory]
    [InlineData("Ελένη Παπαδοπούλου")]
    [InlineData("Ольга Иванова")]
    [InlineData("Nguyễn Thị Ánh")]
    [InlineData("Łukasz Żak, Åsa Ångström, Þóra, Čeněk, Özgür")]
    [InlineData("Zoe\u0308 and Ame\u0301lie")]
    [InlineData("مريم الخوري")]
    [InlineData("רות לוי")]
    public void Names_of_many_scripts_have_all_their_glyphs(string name) =>
        Assert.Empty(Compose(Letter([P("{First}")]), Person(first: name)).Notes.MissingGlyphs);

    [Fact]
    public void Columns_have_their_widths_and_merged_cells_theirs()
    {
        static JsonNode W(JsonObject cell, params int[] px)
        {
            cell["attrs"]!["colwidth"] = new JsonArray([.. px.Select(p => JsonValue.Create(p))]);
            return cell;
        }
        var json = Letter(
            [
                Node(
                    "table",
                    new { lines = "all" },
                    Row(W(Cell("a", colspan: 2, shade: "#f2ede3"), 100, 200), W(Cell("b"), 60)),
                    Row(Cell("c", rowspan: 2), Cell("d"), Cell("e")),
                    Row(Cell("f"), Cell("g"))
                ),
            ]
        );
        var page = Compose(json).Pages[0];
        var at = Lines(page).ToDictionary(l => l.Text, l => (l.X, l.Y));
        Assert.Equal(Margin + 4, at["a"].X, 2);
        Assert.Equal(Margin + 225 + 4, at["b"].X, 2);
        Assert.Equal(Margin + 75 + 4, at["d"].X, 2);
        Assert.Equal((at["d"].X, at["e"].X), (at["f"].X, at["g"].X));
        Assert.Equal(at["c"].Y, at["d"].Y, 2);
        var shade = Boxes(page).Single(b => b.Color == "f2ede3");
        Assert.Equal(
            (Margin, 225.0),
            (Math.Round(shade.X, 3), Math.Round(shade.Width, 3)),
            (x, y) => Math.Abs(x.Item1 - y.Item1) < 0.01 && Math.Abs(x.Item2 - y.Item2) < 0.01
        );
    }

    [Fact]
    public void A_table_wider_than_the_text_is_narrowed_and_told()
    {
        var cell = Cell("wide");
        cell["attrs"]!["colwidth"] = new JsonArray(2000);
        var composed = Compose(Letter([Table(Row(cell, Cell("rest")))]));
        Assert.Contains("wider than the text", Assert.Single(PieceIssue.Of(composed, null)).Message);
        Assert.All(Boxes(composed.Pages[0]), b => Assert.True(b.X + b.Width <= 612 - Margin + 0.3));
    }

    [Fact]
    public void Heading_rows_come_again_on_every_page_and_rows_are_not_broken()
    {
        var gifts = Enumerable.Range(1, 120).Select(i => ((string?)$"Plant {i} {(i % 7 == 0 ? Sentence : "")}", (string?)$"{i}")).ToArray();
        var composed = Compose(
            Letter(
                [P("before"), Table(Row(Cell("Plant", true), Cell("Gift", true)), RowIn("each Gifts", Cell("{Plant}"), Cell("{Gift}")))]
            ),
            Person(gifts: gifts)
        );
        Assert.True(composed.Pages.Count > 3);
        Assert.All(composed.Pages.Skip(1), p => Assert.StartsWith("Plant\nGift\nPlant ", p.Text()));
        // Each row's number is on the page where its plant begins.
        foreach (var page in composed.Pages)
        {
            var text = page.Text().Split('\n');
            foreach (var plant in text.Where(t => t.StartsWith("Plant ", StringComparison.Ordinal) && t.Length > 6))
                Assert.Contains(plant.Split(' ')[1], text);
        }
        Assert.Equal(120, composed.Pages.Sum(p => p.Text().Split('\n').Count(l => l.StartsWith("Plant ", StringComparison.Ordinal))));
    }

    [Fact]
    public void A_row_taller_than_a_page_is_divided_and_nothing_of_it_is_lost()
    {
        var text = string.Join(' ', Enumerable.Range(1, 2500).Select(i => $"w{i}"));
        var composed = Compose(Letter([Table(Row(Cell("Head", true), Cell("x", true)), Row(Cell(text), Cell("short")))]));
        Assert.True(composed.Pages.Count > 2);
        Assert.Equal(text.Split(' '), composed.Pages.SelectMany(p => p.Text().Split([' ', '\n'])).Where(w => w.Length > 1 && w[0] == 'w'));
        foreach (var page in composed.Pages)
            Assert.All(Lines(page), l => Assert.InRange(l.Y, Margin, 792 - Margin));
    }

    [Fact]
    public void A_heading_stays_with_what_follows()
    {
        for (var lines = 30; lines < 48; lines++)
        {
            var composed = Compose(
                Letter(
                    [
                        .. Enumerable.Range(0, lines).Select(i => Node("paragraph", new { spaceAfter = 0 }, T($"line {i}"))),
                        H(2, "Heading {First}"),
                        P(Long),
                    ]
                )
            );
            if (composed.Pages.Count == 1)
                continue;
            var page = composed.Pages.First(p => p.Text().Contains("Heading Ana"));
            Assert.Contains("Heading Ana\nThe glasshouse", page.Text());
        }
    }

    [Fact]
    public void No_page_begins_or_ends_with_a_single_line_of_a_paragraph()
    {
        for (var lines = 30; lines < 48; lines++)
        {
            var composed = Compose(
                Letter(
                    [
                        .. Enumerable.Range(0, lines).Select(i => Node("paragraph", new { spaceAfter = 0 }, T($"filler {i}"))),
                        P("{First} " + Long),
                    ]
                )
            );
            foreach (var page in composed.Pages)
                Assert.NotEqual(1, page.Text().Split('\n').Count(l => l.Length > 0 && !l.StartsWith("filler", StringComparison.Ordinal)));
        }
    }

    [Theory]
    [InlineData(true, "First", "Even 2", "Odd 3", "Even 4")]
    [InlineData(false, "Odd 1", "Even 2", "Odd 3", "Even 4")]
    public void Even_pages_can_have_a_header_of_their_own(bool firstDiffers, params string[] headers)
    {
        var with = new JsonObject
        {
            ["header"] = new JsonArray(P("Odd {Page number}")),
            ["evenDiffers"] = true,
            ["evenHeader"] = new JsonArray(P("Even {Page number}"), P("and a second line"), P("and a third"), P("and a fourth")),
            ["evenFooter"] = new JsonArray(P("Even foot")),
            ["firstDiffers"] = firstDiffers,
            ["firstHeader"] = new JsonArray(P("First")),
        };
        var pages = Compose(Letter([P("a"), Node("pageBreak"), P("b"), Node("pageBreak"), P("c"), Node("pageBreak"), P("d")], with)).Pages;
        Assert.Equal(headers, pages.Select(p => p.Text().Split('\n')[0]));
        Assert.Equal([false, true, false, true], pages.Select(p => p.Text().Contains("Even foot")));
        // A header that needs more room pushes the text in on its own pages alone.
        double TopOf(int page, string text) => Lines(pages[page]).Single(l => l.Text == text).Y;
        Assert.True(TopOf(1, "b") > TopOf(0, "a") + 10);
        Assert.Equal(TopOf(0, "a"), TopOf(2, "c"));
    }

    [Fact]
    public void Headers_and_footers_stand_on_every_page_and_count_them()
    {
        var with = new JsonObject
        {
            ["header"] = new JsonArray(P("Garden of {First}")),
            ["footer"] = new JsonArray(P("page {Page number} of {Page count}")),
            ["firstDiffers"] = true,
            ["firstHeader"] = new JsonArray(P("First of all")),
            ["firstFooter"] = new JsonArray(),
            ["edge"] = 10,
        };
        var composed = Compose(Letter([.. Enumerable.Range(0, 12).Select(_ => P(Long))], with));
        Assert.Equal(3, composed.Pages.Count);
        Assert.StartsWith("First of all\n", composed.Pages[0].Text());
        Assert.DoesNotContain("page 1", composed.Pages[0].Text());
        Assert.StartsWith("Garden of Ana\n", composed.Pages[1].Text());
        Assert.EndsWith("page 2 of 3", composed.Pages[1].Text());
        Assert.EndsWith("page 3 of 3", composed.Pages[2].Text());
        Assert.InRange(Lines(composed.Pages[1]).First().Y, 10 * Mm, 10 * Mm + 15);
    }

    [Fact]
    public void A_tall_header_pushes_the_text_in_and_one_that_leaves_no_room_is_told()
    {
        var tall = Compose(
            Letter([P("text")], new JsonObject { ["header"] = new JsonArray([.. Enumerable.Range(0, 6).Select(_ => P("h"))]) })
        ).Pages[0];
        var lines = Lines(tall).ToList();
        Assert.True(lines.Single(l => l.Text == "text").Y > lines.Where(l => l.Text == "h").Max(l => l.Y) + 15);
        var issues = PieceIssue.Of(
            Compose(Letter([P("text")], new JsonObject { ["header"] = new JsonArray([.. Enumerable.Range(0, 60).Select(_ => P("h"))]) })),
            null
        );
        Assert.Contains(issues, f => f.Kind == PieceIssueKind.TooLarge && f.Message.Contains("less than one-fifth"));
    }

    [Fact]
    public void A_watermark_has_the_recipients_values_and_lies_behind_the_text()
    {
        var with = new JsonObject
        {
            ["watermark"] = new JsonObject
            {
                ["text"] = "Copy for {First}",
                ["angle"] = 30,
                ["size"] = 50,
                ["strength"] = 0.2,
                ["color"] = "#1e5b4a",
            },
        };
        var page = Compose(Letter([P("text")], with)).Pages[0];
        var mark = Assert.IsType<WatermarkItem>(page.Items[0]);
        Assert.Equal((30, 0.2, 306, 396), (mark.Angle, mark.Strength, Math.Round(mark.X, 3), Math.Round(mark.Y, 3)));
        Assert.StartsWith("Copy for Ana\n", page.Text());
        Assert.Contains(
            "Page",
            Bound(Letter([P("x")], new JsonObject { ["watermark"] = new JsonObject { ["text"] = "{Paeg number}" } }))
                .Errors[0]
                .Error.Message,
            StringComparison.OrdinalIgnoreCase
        );
    }

    [Fact]
    public void A_page_break_begins_a_page_and_a_placed_picture_stands_where_it_is_put()
    {
        var composed = Compose(
            Letter(
                [
                    P("one"),
                    Node("pageBreak"),
                    Node(
                        "picture",
                        new
                        {
                            asset = "seal",
                            width = 20,
                            aspect = 2,
                            place = "page",
                            x = 150,
                            y = 10,
                            alt = "Seal",
                        }
                    ),
                    P("two"),
                ]
            )
        );
        Assert.Equal(["one", "two"], composed.Pages.Select(p => p.Text()));
        var (item, x, y) = Items(composed.Pages[1]).First(i => i.Item is PictureItem);
        Assert.Equal((150 * Mm, 10 * Mm, 20 * Mm, 10 * Mm), (x, y, ((PictureItem)item).Width, ((PictureItem)item).Height));
        Assert.Equal("Seal", item.Element!.Alt);
        Assert.Equal(Margin, Lines(composed.Pages[1]).Single().Y - Lines(composed.Pages[1]).Single().Line.Baseline, 2);
    }

    [Fact]
    public void A_picture_in_the_line_makes_room_for_itself()
    {
        var line = Lines(
                Compose(
                    Letter(
                        [
                            P(
                                new { },
                                T("before "),
                                Node(
                                    "inlinePicture",
                                    new
                                    {
                                        asset = "leaf",
                                        width = 10,
                                        aspect = 1,
                                    }
                                ),
                                T(" after")
                            ),
                        ]
                    )
                ).Pages[0]
            )
            .Single()
            .Line;
        var picture = Assert.Single(line.Pictures!);
        Assert.Equal(line.Runs[0].X + line.Runs[0].Width, picture.X, 2);
        Assert.Equal(picture.X + 10 * Mm, line.Runs[1].X, 2);
        Assert.True(line.Height >= 10 * Mm);
    }

    static PictureFacts? Pictures(string name) =>
        name switch
        {
            "ana.png" => new("id-ana", 600, 300, false),
            "small.png" => new("id-small", 60, 60, false),
            "seal.svg" => new("id-seal", 10, 10, true),
            _ => null,
        };

    [Fact]
    public void A_column_chooses_the_picture_and_what_is_missing_or_coarse_is_told()
    {
        var json = Letter(
            [
                Node(
                    "picture",
                    new
                    {
                        asset = "",
                        source = "Photo",
                        width = 40,
                        aspect = 1,
                    }
                ),
            ]
        );
        ComposedPiece Of(string? photo) => new LetterComposer(Bound(json, Pictures), default).Compose(Person(photo: photo), 1);
        var ana = Items(Of("ana.png").Pages[0]).Select(i => i.Item).OfType<PictureItem>().Single();
        Assert.Equal(
            ("id-ana", 40 * Mm, 20 * Mm),
            (ana.Asset, Math.Round(ana.Width, 6), Math.Round(ana.Height, 6)),
            (a, b) => a.Item1 == b.Item1 && Math.Abs(a.Item2 - b.Item2) < 0.01 && Math.Abs(a.Item3 - b.Item3) < 0.01
        );
        Assert.Empty(PieceIssue.Of(Of("ana.png"), null));
        Assert.Equal((PieceIssueKind.MissingPicture, "Photo", "per.png"), Kind(Of("per.png")));
        Assert.Equal((PieceIssueKind.CoarsePicture, "Photo", "38"), Kind(Of("small.png")));
        Assert.Equal((PieceIssueKind.Blank, "Photo", ""), Kind(Of(null)));
        Assert.Empty(PieceIssue.Of(Of("seal.svg"), null));
        // Without its picture the page is blank, which is an issue of its own.
        static (PieceIssueKind, string, string) Kind(ComposedPiece l) =>
            PieceIssue.Of(l, null).Where(f => f.Kind != PieceIssueKind.NothingPrinted).Select(f => (f.Kind, f.Subject, f.Detail)).Single();
    }

    [Fact]
    public void A_word_wider_than_a_cell_is_cut_and_told_with_its_place()
    {
        var composed = Compose(
            Letter([Table(Row([.. Enumerable.Range(0, 8).Select(i => Cell(i == 3 ? "Donaudampfschifffahrtsgesellschaft" : "x"))]))])
        );
        Assert.Contains("in the table in paragraph 1, row 1", Assert.Single(PieceIssue.Of(composed, null)).Message);
        Assert.Equal("Donaudampfschifffahrtsgesellschaft", string.Concat(composed.Pages[0].Text().Split('\n')).Trim('x'));
        // A row that is the same for everyone is set once, and what is wrong with it is told for everyone.
        var mixed = Bound(
            Letter(
                [
                    Table(
                        RowIn("when Amount > 0", Cell("{First}")),
                        Row([.. Enumerable.Range(0, 8).Select(i => Cell(i == 3 ? "Donaudampfschifffahrtsgesellschaft" : "x"))])
                    ),
                ]
            )
        );
        var composer = new LetterComposer(mixed, default);
        for (var i = 0; i < 3; i++)
            Assert.Single(composer.Compose(Person(), i).Notes.TooWide);
    }

    [Fact]
    public void Two_hundred_pages_are_composed_and_shared()
    {
        var bound = Bound(Letter([.. Enumerable.Range(0, 1200).Select(i => P($"{i}. {Long}")), P("{First}")]));
        var composer = new LetterComposer(bound, default);
        var (one, two) = (composer.Compose(Person(), 1), composer.Compose(Person(first: "Per"), 2));
        Assert.True(one.Pages.Count > 200);
        var (a, b) = (
            one.Pages.SelectMany(p => p.Items).OfType<SharedItem>().Select(s => s.Part).ToList(),
            two.Pages.SelectMany(p => p.Items).OfType<SharedItem>().Select(s => s.Part).ToList()
        );
        Assert.True(a.Count > 150);
        Assert.Equal(a, b);
        Assert.EndsWith("Per", two.Pages[^1].Text());
    }

    [Fact]
    public void Links_are_only_to_pages_and_mail()
    {
        static string Linked(string href) =>
            Letter(
                [
                    new JsonObject
                    {
                        ["type"] = "paragraph",
                        ["content"] = new JsonArray(
                            new JsonObject
                            {
                                ["type"] = "text",
                                ["text"] = "renew",
                                ["marks"] = new JsonArray(
                                    new JsonObject
                                    {
                                        ["type"] = "link",
                                        ["attrs"] = new JsonObject { ["href"] = href },
                                    }
                                ),
                            }
                        ),
                    },
                ]
            );
        Assert.Equal(
            "https://fernquay.example/?no=0012",
            Lines(Compose(Linked("https://fernquay.example/?no={Piece number}")).Pages[0]).Single().Line.Runs[0].Style.Link
        );
        foreach (var bad in (string[])["javascript:alert(1)", "file:///etc/passwd", "data:text/html,x"])
            Assert.Contains("is not a valid link", Assert.Throws<LetterFormatException>(() => LetterReader.Read(Linked(bad))).Message);
    }

    /// <summary>Whatever the document: all its text is there exactly once and in order, and nothing lies outside the margins without a
    /// issue.</summary>
    [Property(MaxTest = 120)]
    public Property All_text_is_there_once_and_within_the_margins() =>
        Prop.ForAll(
            Documents,
            made =>
            {
                var (json, words) = made;
                var composed = Compose(json);
                Assert.Equal(
                    words,
                    Text(composed).Split([' ', '\n', '\t', '•'], StringSplitOptions.RemoveEmptyEntries).Where(w => w[0] == 'q')
                );
                if (!composed.Notes.IsEmpty)
                    return;
                foreach (var page in composed.Pages)
                foreach (var line in Lines(page))
                {
                    if (line.Line.Runs.Count == 0)
                        continue;
                    Assert.InRange(Right(line), Margin, 612 - Margin + 0.05);
                    Assert.InRange(line.Y, Margin, 792 - Margin + 0.01);
                }
            }
        );

    static Arbitrary<(string Json, List<string> Words)> Documents
    {
        get
        {
            var words = Gen.Choose(1, 60);
            var kinds = Gen.Choose(0, 7);
            return Gen.Zip(kinds, words)
                .ListOf()
                .Where(l => l.Count is > 0 and < 30)
                .Select(plan =>
                {
                    var all = new List<string>();
                    string Some(int n)
                    {
                        var mine = Enumerable.Range(all.Count, n).Select(i => $"q{i}{new string('x', i * 7 % 11)}").ToList();
                        all.AddRange(mine);
                        return string.Join(' ', mine);
                    }
                    var blocks = plan.Select(p =>
                            (JsonNode)(
                                p.Item1 switch
                                {
                                    0 => P(new { textAlign = "justify" }, T(Some(p.Item2))),
                                    1 => H(1 + p.Item2 % 3, Some(1 + p.Item2 % 5)),
                                    2 => Node(
                                        "bulletList",
                                        null,
                                        Node("listItem", null, P(Some(p.Item2))),
                                        Node("listItem", null, P(Some(3)))
                                    ),
                                    3 => Node(
                                        "table",
                                        new { lines = "all" },
                                        Row(Cell(Some(2)), Cell(Some(p.Item2))),
                                        Row(Cell(Some(1), colspan: 2))
                                    ),
                                    4 => Node("blockquote", null, P(Some(p.Item2))),
                                    5 => P("{when First is not blank}" + Some(p.Item2) + "{otherwise}never{end}"),
                                    6 => P(new { indent = p.Item2 % 40, firstLine = 5 }, T(Some(p.Item2))),
                                    _ => P(Some(p.Item2)),
                                }
                            )
                        )
                        .ToList();
                    return (Letter(blocks), all);
                })
                .ToArbitrary();
        }
    }
}
