using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>Conditions and repetition: inside a line, around paragraphs, in rows and lists, and all that can be wrong with them.</summary>
public sealed class BracketTests
{
    static readonly (string?, string?)[] TwoGifts = [("Titan arum", "75"), ("Ginkgo", "50.5")];

    [Fact]
    public void The_first_way_that_holds_is_taken()
    {
        var json = Letter([P("{when Amount > 1000}a patron{or when Amount > 50}a friend{otherwise}a guest{end}!")]);
        Assert.Equal("a friend!", Text(Compose(json)));
        Assert.Equal("a patron!", Text(Compose(json, Person(amount: "1250"))));
        Assert.Equal("a guest!", Text(Compose(json, Person(amount: "5"))));
    }

    [Fact]
    public void Chips_and_typed_text_mean_the_same()
    {
        var chips = Letter(
            [
                P(
                    new { },
                    T("You are "),
                    M("when Amount > 50"),
                    T("a "),
                    F("First"),
                    T(" friend"),
                    M("otherwise"),
                    T("new"),
                    M("end"),
                    T(".")
                ),
            ]
        );
        Assert.Equal("You are a Ana friend.", Text(Compose(chips)));
        Assert.Equal(
            Text(Compose(chips, Person(amount: "1"))),
            Text(Compose(Letter([P("You are {when Amount > 50}a {First} friend{otherwise}new{end}.")]), Person(amount: "1")))
        );
    }

    [Fact]
    public void A_bracket_that_comes_to_nothing_closes_up()
    {
        var json = Letter([P("a {when no}b{end} c"), P("{when no}only this{end}"), P("end")]);
        Assert.Equal("a c\nend", Text(Compose(json)));
    }

    [Fact]
    public void Paragraphs_between_markers_are_kept_or_dropped_whole_without_a_gap()
    {
        var json = Letter(
            [P("before"), P("{when Amount > 50}"), P("much"), P("more"), P("{otherwise}"), P("little"), P("{end}"), P("after")]
        );
        Assert.Equal("before\nmuch\nmore\nafter", Text(Compose(json)));
        var without = Compose(json, Person(amount: "1"));
        Assert.Equal("before\nlittle\nafter", Text(without));
        var y = Lines(without.Pages[0]).Select(l => l.Y).ToList();
        Assert.Equal(y[1] - y[0], y[2] - y[1], 3);
    }

    [Fact]
    public void Drawn_brackets_do_as_typed_ones()
    {
        var drawn = Letter(
            [
                P("before"),
                Node(
                    "when",
                    null,
                    Node("branch", new { test = "Amount > 50" }, P("much"), P("more")),
                    Node("branch", new { test = "Amount > 20" }, P("some")),
                    Node("branch", new { test = (string?)null }, P("little"))
                ),
                P("after"),
            ]
        );
        Assert.Equal("before\nmuch\nmore\nafter", Text(Compose(drawn)));
        Assert.Equal("before\nsome\nafter", Text(Compose(drawn, Person(amount: "30"))));
        Assert.Equal("before\nlittle\nafter", Text(Compose(drawn, Person(amount: "1"))));
    }

    [Fact]
    public void Each_goes_through_the_rows_in_their_order_with_their_own_names()
    {
        var json = Letter([Node("each", new { rows = "Gifts" }, P("{Row number}. {Plant} of {First}: {Gift | money}"))]);
        var composed = Compose(json, Person(gifts: TwoGifts));
        Assert.Equal("1. Titan arum of Ana: $75.00\n2. Ginkgo of Ana: $50.50", Text(composed));
        Assert.Empty(composed.Problems);
        Assert.Equal("", Text(Compose(json)));
    }

    [Fact]
    public void A_row_is_repeated_and_totals_stand_outside()
    {
        var json = Letter(
            [
                Table(
                    Row(Cell("Plant", true), Cell("Gift", true)),
                    RowIn("each Gifts", Cell("{Plant}"), Cell("{Gift | money}")),
                    RowIn("when count(Gifts) > 1", Cell("Together"), Cell("{sum(Gifts.Gift) | money}"))
                ),
            ]
        );
        Assert.Equal("Plant\nGift\nTitan arum\n$75.00\nGinkgo\n$50.50\nTogether\n$125.50", Text(Compose(json, Person(gifts: TwoGifts))));
        Assert.Equal("Plant\nGift\nGinkgo\n$1.00", Text(Compose(json, Person(gifts: [("Ginkgo", "1")]))));
    }

    [Fact]
    public void Brackets_typed_in_the_first_and_last_cell_are_the_rows()
    {
        var json = Letter([Table(Row(Cell("{each Gifts}{Plant}"), Cell("{Gift}{end}")))]);
        Assert.Equal("Titan arum\n75\nGinkgo\n50.5", Text(Compose(json, Person(gifts: TwoGifts))));
        Assert.Equal("75\n50.5", Text(Compose(Letter([Table(Row(Cell("{each Gifts}{Gift}{end}")))]), Person(gifts: TwoGifts))));
        // A bracket that closes within its cell is the cell's.
        Assert.Equal(
            "Titan arumGinkgo\nx{",
            Text(Compose(Letter([Table(Row(Cell("{each Gifts}{Plant}{end}"), Cell("{when yes}x\\{{end}")))]), Person(gifts: TwoGifts)))
        );
    }

    [Fact]
    public void A_table_without_rows_vanishes_with_its_heading_where_it_is_told_to()
    {
        var rows = new[] { Row(Cell("Plant", true)), RowIn("each Gifts", Cell("{Plant}")) };
        Assert.Equal("a\nb", Text(Compose(Letter([P("a"), Node("table", new { vanishes = true }, rows), P("b")]))));
        Assert.Equal("a\nPlant\nb", Text(Compose(Letter([P("a"), Node("table", new { vanishes = false }, rows), P("b")]))));
    }

    [Fact]
    public void Items_of_a_list_are_numbered_as_they_come()
    {
        var json = Letter(
            [
                Node(
                    "orderedList",
                    new { start = 3 },
                    Node("listItem", null, P("{when Amount > 100}rich{end}")),
                    Node("listItem", null, P("{First}")),
                    Node("listItem", null, P("{each Gifts}")),
                    Node("listItem", null, P("{Plant}")),
                    Node("listItem", null, P("{end}")),
                    Node("listItem", null, P("last"))
                ),
            ]
        );
        Assert.Equal("3.\nAna\n4.\nTitan arum\n5.\nGinkgo\n6.\nlast", Text(Compose(json, Person(gifts: TwoGifts))));
    }

    [Theory]
    [InlineData("{when Amount > 5}never closed", "This “when Amount > 5” is not closed: its “end” is missing.")]
    [InlineData("{each Gifts}never closed", "This “each Gifts” is not closed: its “end” is missing.")]
    [InlineData("stray {end}", "This “end” has no matching “when” or “each” before it.")]
    [InlineData("stray {otherwise} b", "“otherwise” belongs between “when” and “end”.")]
    [InlineData("{when}a{end}", "“when” needs a condition")]
    [InlineData("{each Presents}a{end}", "This list has no detail rows “Presents”. It has Gifts.")]
    [InlineData("{each}a{end}", "“each” needs the name of detail rows")]
    [InlineData("{each Gifts}a{otherwise}b{end}", "“each” cannot have an “otherwise”")]
    [InlineData("{when yes}a{otherwise}b{otherwise}c{end}", "There is a second “otherwise” here.")]
    [InlineData("{when yes}a{otherwise}b{or when no}c{end}", "“or when” cannot follow “otherwise”.")]
    [InlineData("{First {Last}}", "A field cannot stand inside a field")]
    [InlineData("{Plant}", "There is no column “Plant”")]
    [InlineData("{Page number}", "can be used only in the header and footer")]
    [InlineData("{Row number}", "can be used only inside “each”")]
    [InlineData("{when Frist is blank}x{end}", "did you mean “First”?")]
    [InlineData("{when Amount > 5 and}x{end}", "Something is missing at the end.")]
    public void What_is_wrong_is_told_once_at_its_place(string text, string message)
    {
        var bound = Bound(Letter([P(text)]));
        Assert.Contains(message, Assert.Single(bound.Errors.Select(e => e.Error.Message)));
        // What the writer wrote still prints as far as it can.
        new LetterComposer(bound, default).Compose(Person(), 1);
    }

    [Fact]
    public void A_bracket_that_closes_in_another_paragraph_is_told()
    {
        var errors = Bound(Letter([P("a {when yes} b"), P("c {end} d")])).Errors;
        Assert.Equal([(0, "when yes"), (1, "end")], errors.Select(e => (e.Block, e.Source)));
    }

    [Fact]
    public void Nesting_ten_deep_works_and_beyond_thirty_is_told()
    {
        static string Nested(int depth) =>
            string.Concat(Enumerable.Repeat("{when Amount > 1}", depth)) + "deep" + string.Concat(Enumerable.Repeat("{end}", depth));
        Assert.Equal("deep", Text(Compose(Letter([P(Nested(10))]))));
        var drawn = Enumerable
            .Range(0, 10)
            .Aggregate(P("deep"), (inner, _) => Node("when", null, Node("branch", new { test = "Amount > 1" }, inner)));
        Assert.Equal("deep", Text(Compose(Letter([drawn]))));
        Assert.Contains("up to 30 levels deep", Assert.Single(Bound(Letter([P(Nested(31))])).Errors).Error.Message);
        var hundred = Enumerable.Range(0, 101).Aggregate(P("deep"), (inner, _) => Node("blockquote", null, inner));
        Assert.Contains("nested more than", Assert.Throws<LetterFormatException>(() => LetterReader.Read(Letter([hundred]))).Message);
    }

    [Fact]
    public void A_row_can_have_no_other_bracket()
    {
        var errors = Bound(Letter([Table(RowIn("First", Cell("x")))])).Errors;
        Assert.Contains("A row can use only", Assert.Single(errors).Error.Message);
    }

    [Fact]
    public void A_column_called_like_a_bracket_stays_a_column()
    {
        var names = new Names(
            [new(1, "End", Lists.ColumnType.Text, Lists.Role.None), new(2, "When", Lists.ColumnType.Text, Lists.Role.None)]
        );
        Assert.All(Template.Parse("{End} {when}", names).Parts.Where(p => p is not PlainPart), p => Assert.IsType<FieldPart>(p));
    }

    [Fact]
    public void Problems_say_in_which_row_and_paragraph()
    {
        var problem = Assert.Single(
            Compose(
                Letter([P("x"), Node("each", new { rows = "Gifts" }, P("{Gift | money}"))]),
                Person(gifts: [("a", "1"), ("b", null)])
            ).Problems
        );
        Assert.Equal(("Gift", "paragraph 2, row 2 of Gifts"), (problem.Field, problem.Place));
        var issue = Assert.Single(
            PieceIssue.Of(
                Compose(Letter([Table(RowIn("each Gifts", Cell("{Plant}"), Cell("{Gift | words}")))]), Person(gifts: [("a", "1.5")])),
                null
            )
        );
        Assert.Equal((PieceIssueKind.WrongType, "Gift"), (issue.Kind, issue.Subject));
        Assert.Contains("1.5, which is not a whole number", issue.Message);
        Assert.EndsWith("Location: the table in paragraph 1, row 1, row 1 of Gifts.", issue.Message);
    }

    [Fact]
    public void Numbers_and_dates_follow_the_recipients_language()
    {
        var json = Letter([P("{Amount | money} {Date | date long} {Amount | words} {Salutation}")]);
        Assert.Equal(
            "$1,250.50 February 28, 2027 Dear Ana,",
            Text(Compose(Letter([P("{Amount | money} {Date | date long} {Salutation}")]), Person(amount: "1250.5")))
        );
        Assert.Equal(
            "64,00 $ 28. Februar 2027 vierundsechzig Guten Tag Ana,",
            Text(Compose(json, Person(language: "German"))).Replace('\u00a0', ' ')
        );
        Assert.StartsWith(
            "$64.00 28 de febrero de 2027 sesenta y cuatro Hola, Ana:",
            Text(Compose(json, Person(language: "español"))).Replace('\u00a0', ' ')
        );
        var klingon = Compose(json, Person(language: "Klingon"));
        Assert.StartsWith("$64.00 February 28, 2027 sixty-four", Text(klingon));
        Assert.Contains("not a known language", Assert.Single(klingon.Problems).Message);
    }

    [Fact]
    public void A_delivery_address_is_lines_and_says_the_country_only_abroad()
    {
        Assert.Equal("Ana Okafor\n2291 Lantern Row\nAlder Point", Text(Compose(Letter([P("{Delivery address}")]))));
        Assert.Equal(
            "Okafor\n2291 Lantern Row\nALDER POINT\nIRELAND",
            Text(Compose(Letter([P("{Delivery address}")]), Person(first: null, country: "Éire")))
        );
        Assert.Equal("Dear friend,", Text(Compose(Letter([P("{Salutation}")]), Person(first: null))));
    }

    /// <summary>Random nestings of brackets: whatever their form, what is between them prints at most as often as the rows say, and nothing
    /// throws.</summary>
    [Property(MaxTest = 300)]
    public Property Any_nesting_of_brackets_composes() =>
        Prop.ForAll(
            Texts,
            text =>
            {
                var bound = Bound(Letter([P(text), P("{when yes}"), P(text), P("{end}")]));
                var composed = new LetterComposer(bound, default).Compose(Person(gifts: TwoGifts), 1);
                Assert.NotEmpty(composed.Pages);
            }
        );

    static Arbitrary<string> Texts =>
        Gen.Elements(
                "{when Amount > 5}",
                "{when First is blank}",
                "{or when yes}",
                "{otherwise}",
                "{each Gifts}",
                "{end}",
                "{Plant}",
                "{First}",
                "word ",
                "{",
                "}",
                "\\{",
                "{when",
                " "
            )
            .ListOf()
            .Select(parts => string.Concat(parts))
            .ToArbitrary();
}
