using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Documents;
using Bandeja.Core.Drops;
using Bandeja.Core.Forms;
using Bandeja.Core.Language;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>Forms: what is filled in where, and what is found wrong with it.</summary>
public sealed class FormTests
{
    const double Millimetre = 72 / 25.4;

    static FormField Field(
        string name,
        FormFieldKind kind = FormFieldKind.Text,
        double x = 50,
        double y = 100,
        double width = 200,
        double height = 20,
        params FormWidget[] widgets
    ) => new(name, kind, name, widgets.Length > 0 ? widgets : [new FormWidget(1, x, y, width, height)], new FormText(Size: 10));

    static string Form(IEnumerable<FormField> fields, object? answers = null, IEnumerable<object>? boxes = null, int pages = 1) =>
        new JsonObject
        {
            ["kind"] = "form",
            ["asset"] = "f",
            ["file"] = "form.pdf",
            ["facts"] = JsonSerializer.SerializeToNode(
                new FormFacts([.. Enumerable.Repeat(new FormPage(612, 792), pages)], [.. fields], []),
                FormReader.FactsForm
            ),
            ["answers"] = JsonSerializer.SerializeToNode(answers ?? new { }),
            ["boxes"] = JsonSerializer.SerializeToNode(boxes ?? []),
        }.ToJsonString();

    static ComposedPiece Filled(string form, Lists.IRow? person = null) =>
        DesignReader
            .Bind(form, new LetterSetting(Doc.Columns, OrganizationLocale.UnitedStates, TestFonts.Library, Details))
            .Composer(new(2027, 3, 12))
            .Compose(person ?? Person(), 12);

    static IEnumerable<string> Issues(ComposedPiece piece) => PieceIssue.Of(piece, null, PieceKind.Form).Select(i => i.Message);

    [Fact]
    public void Fields_are_filled_in_on_their_pages_over_the_page_itself_and_blank_stays_blank()
    {
        var form = Form(
            [Field("a"), Field("b", y: 200), Field("c", widgets: [new(2, 50, 50, 100, 20), new(2, 50, 90, 100, 20)])],
            new
            {
                a = "{First} {Last}",
                b = "{Amount}",
                c = "{City}",
            },
            pages: 3
        );
        var piece = Filled(form);
        Assert.Equal(["f", "f#2", "f#3"], piece.Pages.Select(p => ((PictureItem)p.Items[0]).Asset));
        Assert.Equal(["Ana Okafor\n64", "Alder Point\nAlder Point", ""], piece.Pages.Select(p => p.Text()));
        var line = Lines(piece.Pages[0]).First();
        Assert.Equal(52, line.X, 0.01);
        Assert.InRange(line.Y, 100, 120);
        var blank = Filled(form, Person(amount: null));
        Assert.Equal("Ana Okafor", blank.Pages[0].Text());
        Assert.Empty(Issues(blank));
        Assert.Equal(PieceKind.Form, DesignReader.Validate(form));
    }

    [Fact]
    public void What_must_be_filled_in_is_too_long_or_not_offered_is_an_issue()
    {
        var form = Form(
            [
                Field("must") with
                {
                    Required = true,
                },
                Field("short", y: 140) with
                {
                    MaxLength = 3,
                },
                Field("list", FormFieldKind.Choice, y: 180) with
                {
                    Options = [new("ap", "Alder Point"), new("fq", "Fernquay")],
                },
            ],
            new Dictionary<string, string>
            {
                ["must"] = "{Language}",
                ["short"] = "{First}{Last}",
                ["list"] = "{City}",
            }
        );
        Assert.Equal(
            ["The form requires “must”, and it is blank.", "“short” has 9 characters; there is room for 3."],
            Issues(Filled(form))
        );
        var other = Form([Field("list", FormFieldKind.Choice) with { Options = [new("fq", "Fernquay")] }], new { list = "{City}" });
        Assert.Equal(["“Alder Point” is not one of the choices of “list”."], Issues(Filled(other)));
        Assert.Equal("Alder Point", Filled(other).Pages[0].Text());
        var by = Form([Field("list", FormFieldKind.Choice) with { Options = [new("64", "sixty-four")] }], new { list = "{Amount}" });
        Assert.Equal("sixty-four", Filled(by).Pages[0].Text());
    }

    static IEnumerable<MarkItem> Marks(ComposedPiece piece) => piece.Pages.SelectMany(p => p.Items).OfType<MarkItem>();

    [Theory]
    [InlineData("{First}", 1)]
    [InlineData("friend", 0)]
    [InlineData("  PATRÓN ", 1)]
    [InlineData("Nobody", -1)]
    [InlineData("", -2)]
    public void One_of_several_buttons_is_marked_by_its_value_or_its_label(string answer, int expected)
    {
        var form = Form(
            [
                Field(
                    "level",
                    FormFieldKind.Radio,
                    widgets: [new(1, 50, 50, 12, 12, "1", "Friend", MarkShape.Circle), new(1, 150, 50, 12, 12, "Ana", "Patrón")]
                ),
            ],
            new { level = answer }
        );
        var piece = Filled(form);
        Assert.Equal(expected >= 0 ? [50 + expected * 100] : [], Marks(piece).Select(m => Math.Floor(m.X / 50) * 50));
        Assert.Equal(expected == -1 ? ["“Nobody” is not one of the choices of “level”."] : [], Issues(piece));
    }

    [Theory]
    [InlineData("yes", true)]
    [InlineData("TRUE", true)]
    [InlineData("x", true)]
    [InlineData("sí", true)]
    [InlineData("nein", false)]
    [InlineData("On please", true)]
    [InlineData("no", false)]
    [InlineData("0", false)]
    [InlineData("Off", false)]
    [InlineData("perhaps", null)]
    public void A_single_box_is_asked_yes_or_no(string answer, bool? on)
    {
        var piece = Filled(Form([Field("a", FormFieldKind.Check, widgets: [new(1, 9, 9, 12, 12, "On please")])], new { a = answer }));
        Assert.Equal(on == true ? 1 : 0, Marks(piece).Count());
        Assert.Equal(on is null ? 1 : 0, Issues(piece).Count());
    }

    [Fact]
    public void Characters_stand_in_the_middle_of_their_cells_from_the_right_where_the_form_says_so()
    {
        FormField zip = Field("zip") with { MaxLength = 5, Comb = true, Text = new(Size: 12) };
        static double[] Middles(ComposedPiece piece) =>
            [.. Lines(piece.Pages[0]).Select(l => Math.Round(l.X + l.Line.Runs[0].Width / 2, 1))];
        Assert.Equal([70, 110, 150], Middles(Filled(Form([zip], new { zip = "{First}" }))));
        Assert.Equal([150, 190, 230], Middles(Filled(Form([zip with { Text = new(Size: 12, Align: 2) }], new { zip = "{First}" }))));
        // A letter with its accent is one character.
        Assert.Equal([70], Middles(Filled(Form([zip], new { zip = "e\u0301" }))));
    }

    [Fact]
    public void Text_is_as_large_as_fits_wraps_and_is_an_issue_where_it_does_not()
    {
        FormField Auto(string name, double width, double height, bool multiline = false) =>
            Field(name, width: width, height: height) with
            {
                Text = new(),
                Multiline = multiline,
            };
        static double Size(ComposedPiece piece) => Lines(piece.Pages[0]).First().Line.Runs[0].Size;
        Assert.Equal(12, Size(Filled(Form([Auto("a", 300, 20)], new { a = "{First}" }))), 0.01);
        Assert.InRange(Size(Filled(Form([Auto("a", 60, 20)], new { a = "{First} {Last} of {City}" }))), 4, 7);
        var several = Filled(Form([Auto("a", 90, 60, true)], new { a = "{First} {Last} of {City}, {Street}" }));
        Assert.True(Lines(several.Pages[0]).Count() > 1);
        Assert.All(Lines(several.Pages[0]), l => Assert.InRange(l.Y, 100, 160));
        Assert.Empty(Issues(several));
        var full = Filled(Form([Auto("a", 30, 10)], new { a = string.Concat(Enumerable.Repeat("{City} ", 9)) }));
        Assert.Contains(Issues(full), i => i.Contains("does not fit"));
    }

    [Theory]
    [InlineData("date mm/dd/yyyy", "{Date}", "02/28/2027")]
    [InlineData("date mmm d, yy", "{Date}", "Feb 28, 27")]
    [InlineData("date mm/dd/yyyy", "{Date | date long}", "February 28, 2027")]
    [InlineData("number 2 0 before $", "{Amount}", "$1,234.50")]
    [InlineData("number 0 2 after  €", "{Amount}", "1.235 €")]
    [InlineData("number 2 3 before", "{Amount}", "1234,50")]
    [InlineData("number 1 4 before", "{Amount}", "1'234.5")]
    [InlineData("number 2 0 before $", "{First}", "Ana")]
    [InlineData("number 2 0 before $", "{Language}", "")]
    public void Dates_and_numbers_are_written_as_the_form_writes_them(string format, string answer, string printed) =>
        Assert.Equal(
            printed,
            Filled(Form([Field("a") with { Format = format }], new { a = answer }), Person(amount: "1234.5")).Pages[0].Text()
        );

    [Fact]
    public void A_field_without_an_answer_keeps_what_the_file_has_and_one_left_empty_does_not()
    {
        var fields = new[]
        {
            Field("kept") with
            {
                Initial = "from the file",
            },
            Field("emptied", y: 200) with
            {
                Initial = "gone",
            },
            Field("box", FormFieldKind.Check, widgets: [new(1, 9, 9, 12, 12, "Yes")]) with
            {
                Initial = "Yes",
            },
        };
        var piece = Filled(Form(fields, new { emptied = "" }));
        Assert.Equal("from the file", piece.Pages[0].Text());
        Assert.Single(Marks(piece));
    }

    [Fact]
    public void Boxes_stand_where_they_were_placed_and_on_every_page_where_they_say_so()
    {
        var form = Form(
            [],
            boxes:
            [
                new
                {
                    page = 0,
                    x = 150,
                    y = 5,
                    width = 60,
                    height = 8,
                    align = "right",
                    value = "{Page number} of {Page count} for {First}",
                },
                new
                {
                    page = 2,
                    use = "cells",
                    x = 10,
                    y = 20,
                    width = 40,
                    height = 8,
                    cells = 4,
                    value = "{Amount}",
                },
                new
                {
                    page = 2,
                    use = "mark",
                    x = 10,
                    y = 40,
                    width = 5,
                    height = 5,
                    mark = "cross",
                    value = "Amount > 60",
                },
                new
                {
                    page = 2,
                    use = "mark",
                    x = 20,
                    y = 40,
                    width = 5,
                    height = 5,
                    value = "Amount > 99",
                },
                new
                {
                    page = 1,
                    use = "barcode",
                    x = 10,
                    y = 60,
                    width = 25,
                    height = 25,
                    value = "`First`",
                },
                new
                {
                    page = 1,
                    use = "picture",
                    x = 50,
                    y = 60,
                    width = 20,
                    height = 10,
                    value = "Photo",
                },
            ],
            pages: 2
        );
        var piece = Filled(form, Person(photo: "ana.jpg"));
        Assert.Equal(["1 of 2 for Ana", "2 of 2 for Ana\n6\n4"], piece.Pages.Select(p => p.Text()));
        var number = Lines(piece.Pages[0]).First();
        Assert.Equal(210 * Millimetre, number.X + number.Line.Runs[^1].X + number.Line.Runs[^1].Width - number.Line.Runs[0].X, 0.5);
        var mark = Assert.Single(Marks(piece));
        Assert.Equal((MarkShape.Cross, 12.5), (mark.Shape, Math.Round((mark.X + mark.Width / 2) / Millimetre, 1)));
        Assert.Equal("Ana", Assert.Single(piece.Barcodes));
        Assert.Contains(piece.Pages[0].Items.OfType<PictureItem>(), p => p.Asset == "ana.jpg" && Math.Abs(p.X - 50 * Millimetre) < 0.01);
        Assert.Empty(Issues(piece));
        // A box that is blank shows nothing, and is no issue.
        Assert.Empty(Issues(Filled(form, Person(photo: null, amount: null))));
    }

    [Fact]
    public void A_form_for_some_is_excluded_for_the_others()
    {
        string For(string when)
        {
            var form = JsonNode.Parse(Form([], boxes: [new { value = "{First}" }]))!.AsObject();
            form["when"] = when;
            return form.ToJsonString();
        }
        Assert.False(Filled(For("Amount > 50")).Omitted);
        var other = Filled(For("Amount > 50"), Person(amount: "7"));
        Assert.True(other.Omitted);
        Assert.Empty(other.Pages);
        Assert.True(Filled(For("City is blank")).Omitted);
        Assert.False(Filled(For(" ")).Omitted);
        var bound = DesignReader.Bind(
            For("Amont > 50"),
            new LetterSetting(Doc.Columns, OrganizationLocale.UnitedStates, TestFonts.Library)
        );
        Assert.Contains(bound.Expressions(), e => e.ToString()!.Length > 0);
        Assert.NotEmpty(DesignReader.Bind(For("Amount >"), bound.Setting).Errors);
    }

    [Fact]
    public void Mistakes_name_their_box_and_columns_that_are_read_are_known()
    {
        var bound = DesignReader.Bind(
            Form(
                [Field("a"), Field("b")],
                new { a = "{Amount | mony}", b = "{First" },
                [new { use = "mark", value = "Amount >" }, new { value = "{Last}" }]
            ),
            new LetterSetting(Doc.Columns, OrganizationLocale.UnitedStates, TestFonts.Library)
        );
        Assert.Equal([0, 1, 2], bound.Errors.Select(e => e.Block).Distinct().Order());
        Assert.Contains(1, bound.UsedColumns);
    }

    [Fact]
    public void Fields_are_matched_by_label_tooltip_and_name_sure_ones_first()
    {
        var facts = new FormFacts(
            [new(612, 792)],
            [
                Field("x1") with
                {
                    Label = "Family name",
                },
                Field("form.name_first[0]") with
                {
                    Label = "?",
                },
                Field("x2") with
                {
                    Label = "Street and number",
                },
                Field("x3") with
                {
                    Label = "Amount",
                },
                Field("x4") with
                {
                    Label = "Amounts",
                },
                Field("x5") with
                {
                    Label = "What would you like to grow?",
                },
                Field("x6") with
                {
                    Label = "City",
                    ReadOnly = true,
                },
                Field("x7") with
                {
                    Label = "Where you live",
                    Beside = "City",
                    Initial = "Fernquay",
                },
                Field("x8") with
                {
                    Label = "Streets",
                    Initial = "kept, because that is only similar",
                },
            ],
            []
        );
        Assert.Equal(
            [("form.name_first[0]", "{First}"), ("x1", "{Last}"), ("x2", "{Street}"), ("x3", "{Amount}"), ("x7", "{City}")],
            FieldMatching
                .Of(facts, new PlaceholderSetting(Doc.Columns, Details, OrganizationLocale.UnitedStates))
                .Select(a => (a.Key, a.Value))
                .OrderBy(a => a.Key, StringComparer.Ordinal)
        );
    }

    [Theory]
    [InlineData("{\"kind\":\"form\"}", "names no PDF")]
    [InlineData("{\"kind\":\"form\",\"asset\":\"x\"}", "says nothing")]
    [InlineData("{\"kind\":\"form\",\"asset\":\"x\",\"facts\":{\"pages\":[],\"fields\":[]}}", "1 to 2,000 pages")]
    [InlineData("{\"kind\":\"form\",\"asset\":\"x\",\"facts\":{\"pages\":[{\"width\":0,\"height\":5}],\"fields\":[]}}", "width of a page")]
    [InlineData("{\"kind\":\"form\",\"asset\":\"x\",\"facts\":7}", "structure of a form")]
    [InlineData(
        "{\"kind\":\"form\",\"asset\":\"x\",\"facts\":{\"pages\":[{\"width\":9,\"height\":9}],\"fields\":[{\"name\":\"a\","
            + "\"kind\":\"text\",\"label\":\"a\",\"widgets\":[{\"page\":2}]}]}}",
        "page of a field"
    )]
    [InlineData(
        "{\"kind\":\"form\",\"asset\":\"x\",\"facts\":{\"pages\":[{\"width\":9,\"height\":9}],\"fields\":[]},"
            + "\"boxes\":[{\"use\":\"dance\"}]}",
        "“dance” is not known"
    )]
    public void What_is_no_form_is_refused(string json, string because) =>
        Assert.Contains(because, Assert.Throws<LetterFormatException>(() => DesignReader.Validate(json)).Message);

    [Fact]
    public void A_tab_in_a_value_is_a_space()
    {
        var form = Form([Field("a", x: 100, y: 100, width: 20, height: 10)], new { a = "{First}" });
        var ink = Ink.Of(Filled(form, Person(first: "a\ta")).Pages[0].Items.Skip(1)).Single();
        Assert.True(ink.Place.Right < 120, $"{ink.Place}");
    }

    [Property(MaxTest = 60)]
    public Property Whatever_is_filled_in_nothing_breaks_and_nothing_stands_outside_its_field() =>
        Prop.ForAll(
            ArbMap.Default.ArbFor<(NonNull<string> Value, byte Width, byte Height, byte Kind)>(),
            v =>
            {
                var (width, height) = (20 + v.Width, 10 + v.Height % 60);
                var field = Field("a", x: 100, y: 100, width: width, height: height) with
                {
                    Multiline = v.Kind % 2 == 0,
                    Comb = v.Kind % 3 == 0,
                    MaxLength = v.Kind % 3 == 0 ? 1 + v.Kind % 9 : 0,
                    Text = new(Size: v.Kind % 5 == 0 ? 9 : 0, Align: v.Kind % 3),
                };
                var piece = Filled(Form([field], new { a = "{First}" }), Person(first: v.Value.Get));
                var wrong = PieceIssue.Of(piece, null, PieceKind.Form).Any();
                foreach (var ink in Ink.Of(piece.Pages[0].Items.Skip(1)))
                    Assert.True(
                        wrong
                            || ink.Place.X >= 99 && ink.Place.Right <= 101 + width && ink.Place.Y >= 95 && ink.Place.Bottom <= 105 + height,
                        $"“{ink.Text}” at {ink.Place}"
                    );
            }
        );
}
