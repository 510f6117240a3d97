using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using static Bandeja.Formats.Tests.Documents.MadeDocx;

namespace Bandeja.Formats.Tests.Documents;

public class PlaceholderTests
{
    [Theory]
    [InlineData("Dear {{FName}} {{LName}},", "Dear {First name} {Last name},")]
    [InlineData("Dear <<First_Name>>,", "Dear {First name},")]
    [InlineData("Dear «FirstName»,", "Dear {First name},")]
    [InlineData("Dear [[first name]],", "Dear {First name},")]
    [InlineData("Dear [First Name],", "Dear {First name},")]
    [InlineData("Dear ${member.firstName},", "Dear {First name},")]
    [InlineData("Dear %firstname%,", "Dear {First name},")]
    [InlineData("Dear {forename},", "Dear {First name},")]
    [InlineData("Dear @FirstName, write to us@example.org.", "Dear {First name}, write to us@example.org.")]
    [InlineData(
        "{{ amount_due | currency }} by {{Renewal date, MMMM d, yyyy}}",
        "{Amount due | money} by {Renewal date | date \"MMMM d, yyyy\"}"
    )]
    [InlineData("{{Amount due:#,##0.00}} {{City|upper}}", "{Amount due | number 2} {City | upper}")]
    [InlineData("{{Level|default:\"friend\"}}", "{Level | else \"friend\"}")]
    [InlineData("{{#if Renewed}}Thanks{{else}}Please{{/if}} {{City}}", "{when Renewed}Thanks{otherwise}Please{end} {City}")]
    [InlineData("{{#if Level == 'Patron'}}P{{/if}}", "{when Level = \"Patron\"}P{end}")]
    [InlineData("{{#unless Level}}none{{/unless}}", "{when Level is blank}none{end}")]
    [InlineData("{{#if Amount due > 100}}big{{/if}}", "{when Amount due > 100}big{end}")]
    [InlineData("{{#each visits}}{{Visit Date}} ({{guests}}) {{/each}}", "{each Visits}{Visit date} ({Guests}) {end}")]
    [InlineData("{{#visits}}{{guests}};{{/visits}}", "{each Visits}{Guests};{end}")]
    [InlineData("50% of {{City}} and 20% of us", "50% of {City} and 20% of us")]
    [InlineData("See note [1] and [sic] for {{City}}.", "See note [1] and [sic] for {City}.")]
    [InlineData("A set {a, b} of {{City}}", "A set {a, b} of {City}", "A set \\{a, b\\} of {City}")]
    public void Typed_placeholders_become_fields_however_they_are_marked(string typed, string shown, string? stored = null)
    {
        Assert.Equal([stored ?? shown], Brought.Lines(P(R(typed))));
    }

    [Fact]
    public void A_placeholder_that_the_file_divides_takes_the_look_of_its_name()
    {
        var placed = Brought.Place(P(R("Dear {") + R("{Fi", "<w:b/>") + R("rst na", "<w:i/>") + R("me}") + R("}, hello")));
        Assert.Equal(["Dear {First name}, hello"], Brought.Lines(placed));
        var paragraph = Assert.IsType<Paragraph>(LetterReader.Read(placed.Letter).Blocks[0]);
        var field = paragraph.Inlines.OfType<FieldInline>().Single();
        Assert.True(field.Style.Bold);
        Assert.False(field.Style.Italic);
        Assert.False(paragraph.Inlines[^1].Style.Bold);
    }

    [Theory]
    [InlineData("MERGEFIELD First_Name", "{First name}")]
    [InlineData(" MERGEFIELD  \"Amount due\" \\# $#,##0.00 \\* MERGEFORMAT ", "{Amount due | money 2}")]
    [InlineData("MERGEFIELD Amount_due \\# \"#,##0\"", "{Amount due | number 0}")]
    [InlineData("MERGEFIELD Renewal_date \\@ \"dddd, MMMM d, yyyy\"", "{Renewal date | date \"EEEE, MMMM d, yyyy\"}")]
    [InlineData("MERGEFIELD City \\* Upper", "{City | upper}")]
    [InlineData("MERGEFIELD Level \\b \"Level: \" \\f \".\"", "{when Level is not blank}Level: {Level}.{end}")]
    [InlineData("DATE \\@ \"MMMM d, yyyy\"", "{Today | date \"MMMM d, yyyy\"}")]
    [InlineData("MERGEREC", "{Piece number}")]
    [InlineData("ADDRESSBLOCK \\f \"<<_FIRST0_>>\"", "{Delivery address}")]
    [InlineData("GREETINGLINE \\f \"Dear <<_FIRST0_>>\"", "{Salutation}")]
    [InlineData("NEXT", "")]
    [InlineData("SKIPIF City = \"Salem\"", "")]
    public void Codes_of_the_file_become_fields(string instruction, string line)
    {
        Assert.Equal([line.Length == 0 ? "x" : "x" + line], Brought.Lines(P(R("x") + Code(instruction, "shown"))));
        // The simple form means the same.
        Assert.Equal(
            [line.Length == 0 ? "x" : "x" + line],
            Brought.Lines(
                P(R("x") + $"<w:fldSimple w:instr=\"{System.Security.SecurityElement.Escape(instruction)}\">{R("shown")}</w:fldSimple>")
            )
        );
    }

    [Fact]
    public void A_condition_with_a_code_within_it_becomes_a_bracket()
    {
        var body = P(
            Begin
                + Instruction(" IF ")
                + Code("MERGEFIELD Level", "Friend")
                + Instruction(" = \"Patron\" \"As a patron, ")
                + Code("MERGEFIELD First_Name", "Ana")
                + Instruction(", you are invited.\" \"Thank you.\" ", "<w:b/>")
                + Middle
                + R("Thank you.")
                + End
                + R(" Bye")
        );
        Assert.Equal(
            ["{when Level = \"Patron\"}As a patron, {First name}, you are invited.{otherwise}Thank you.{end} Bye"],
            Brought.Lines(body)
        );
    }

    [Fact]
    public void A_condition_that_runs_over_paragraphs_is_one()
    {
        var body =
            P(R("Before ") + Begin + Instruction("IF ") + Code("MERGEFIELD Amount_due", "5") + Instruction(" > 100 \"First line"))
            + P(Instruction("Second line\" \"\"") + Middle + R("shown") + End + R(" after"))
            + P(R("Next"));
        Assert.Equal(["Before {when Amount due > 100}First line", "Second line{end} after", "Next"], Brought.Lines(body));
    }

    [Fact]
    public void Unknown_codes_keep_what_they_showed_and_are_reported()
    {
        var read = Brought.Read(P(R("A ") + Code("FROBNICATE x y", "kept text")));
        Assert.Equal(["A kept text"], Brought.Lines(Placing.Of(read.Document, Brought.Members)));
        Assert.Contains(read.Document.Report, l => l.Text.Contains("FROBNICATE x y") && l.Block == 0);
    }

    [Fact]
    public void Content_controls_are_placeholders_by_tag_or_title()
    {
        var control =
            "<w:sdt><w:sdtPr><w:alias w:val=\"The city\"/><w:tag w:val=\"City\"/><w:text/></w:sdtPr><w:sdtContent>"
            + R("Salem", "<w:b/>")
            + "</w:sdtContent></w:sdt>";
        var date =
            "<w:sdt><w:sdtPr><w:alias w:val=\"Renewal date\"/><w:date><w:dateFormat w:val=\"M/d/yyyy\"/></w:date></w:sdtPr><w:sdtContent>"
            + R("1/2/2027")
            + "</w:sdtContent></w:sdt>";
        Assert.Equal(["In {City} until {Renewal date | date \"M/d/yyyy\"}"], Brought.Lines(P(R("In ") + control + R(" until ") + date)));
        // One that only holds a stretch of the document keeps it.
        Assert.Equal(
            ["Kept"],
            Brought.Lines($"<w:sdt><w:sdtPr><w:tag w:val=\"City\"/></w:sdtPr><w:sdtContent>{P(R("Kept"))}</w:sdtContent></w:sdt>")
        );
    }

    [Fact]
    public void Answers_decide_and_what_nobody_knows_stays_a_field_of_its_name()
    {
        const string typed = "{{Region Mgr}} {{Signer}} {{Old}}{{City}}";
        var open = Brought.Place(P(R(typed)));
        Assert.Equal(["{`Region Mgr`} {`Signer`} {`Old`}{City}"], Brought.Lines(open));
        Assert.Null(open.Placeholders.Single(p => p.Name == "Region Mgr").Answer);
        Assert.Equal(MatchedBy.Heading, open.Placeholders.Single(p => p.Name == "City").By);
        var answers = new Dictionary<string, PlaceholderAnswer>
        {
            ["region mgr"] = new(AnswerKind.Field, "City & \", \" & State"),
            ["signer"] = new(AnswerKind.Text, "Marisol {Quint}"),
            ["old"] = new(AnswerKind.Remove),
        };
        Assert.Equal(["{City & \", \" & State} Marisol \\{Quint\\} {City}"], Brought.Lines(P(R(typed)), answers));
    }

    [Fact]
    public void Rows_of_a_table_repeat_by_tags_around_them_or_in_rows_of_their_own()
    {
        static string Row(params string[] cells) => $"<w:tr>{string.Concat(cells.Select(c => $"<w:tc>{P(R(c))}</w:tc>"))}</w:tr>";
        Assert.Equal(
            ["Date | Guests", "{each Visits} {Visit date} | {Guests} {end}"],
            Brought.Lines($"<w:tbl>{Row("Date", "Guests")}{Row("{{#each visits}}{{Visit date}}", "{{Guests}}{{/each}}")}</w:tbl>")
        );
        Assert.Equal(
            ["Date | Guests", "{each Visits} {Visit date} | {Guests} {end}", "Sum | 1"],
            Brought.Lines(
                "<w:tbl>"
                    + Row("Date", "Guests")
                    + Row("{{#each visits}}", "")
                    + Row("{{Visit date}}", "{{Guests}}")
                    + Row("{{/each}}", "")
                    + Row("Sum", "1")
                    + "</w:tbl>"
            )
        );
    }

    [Fact]
    public void Blocks_around_paragraphs_become_brackets_around_them()
    {
        Assert.Equal(
            ["{when Level = \"Patron\"}", "For patrons", "{otherwise}", "For others", "{end}", "All"],
            Brought.Lines(
                P(R("{{#if Level == \"Patron\"}}"))
                    + P(R("For patrons"))
                    + P(R("{{else}}"))
                    + P(R("For others"))
                    + P(R("{{/if}}"))
                    + P(R("All"))
            )
        );
        var nested = Brought.Place(
            P(R("{{#each visits}}"))
                + P(R("{{#if Guests}}"))
                + P(R("with {{Guests}}"))
                + P(R("{{/if}}"))
                + P(R("{{/each}}"))
                + P(R("{{#if City}}"))
        );
        var blocks = LetterReader.Read(nested.Letter).Blocks;
        var each = Assert.IsType<EachBlock>(blocks[0]);
        Assert.Equal(("Visits", "Guests is not blank"), (each.Rows, Assert.IsType<WhenBlock>(each.Blocks.Single()).Branches.Single().Test));
        // One that is never closed stays a marker, which is told as a mistake.
        Assert.IsType<Paragraph>(blocks[1]);
    }

    [Fact]
    public void What_never_ends_and_what_ends_nothing_is_told()
    {
        var placed = Brought.Place(P(R("Dear {{First name, we write")) + P(R("x {{/if}} {{City}} {{#if Level}}y")));
        Assert.Contains(placed.Report, n => n.Text.Contains("{{First name, we write") && n.Block == 0);
        Assert.Contains(placed.Report, n => n.Text.Contains("no matching start") && n.Block == 1);
        Assert.Contains(placed.Report, n => n.Text.Contains("not closed"));
        Assert.StartsWith("Dear \\{\\{First name", Brought.Lines(placed)[0]);
    }

    [Fact]
    public void A_sample_address_and_greeting_are_offered_and_stay_until_chosen()
    {
        var body =
            P(R("Fernquay Botanic Garden"), "<w:jc w:val=\"right\"/>")
            + P(R("Jordan Sample"))
            + P(R("123 Any Street"))
            + P(R("Anytown, OR 97412"))
            + P("")
            + P(R("Dear Ms. Sample,"))
            + P(R("Text {{City}}"));
        var placed = Brought.Place(body);
        Assert.Equal(2, placed.Placeholders.Count(p => p.Sort == PlaceholderSort.Sample));
        Assert.Contains("Jordan Sample", Brought.Lines(placed));
        var chosen = Brought.Lines(
            body,
            new Dictionary<string, PlaceholderAnswer>
            {
                ["sample:address"] = new(AnswerKind.Field, "Delivery address"),
                ["sample:salutation"] = new(AnswerKind.Field, "Salutation"),
            }
        );
        Assert.Equal(["Fernquay Botanic Garden", "{Delivery address}", "", "{Salutation}", "Text {City}"], chosen);
        // Places are those of the letter as it is then.
        var moved = Brought.Place(
            body,
            answers: new Dictionary<string, PlaceholderAnswer> { ["sample:address"] = new(AnswerKind.Field, "Delivery address") }
        );
        Assert.Equal(4, moved.Placeholders.Single(p => p.Name == "City").Block);
    }

    [Fact]
    public void The_likely_marks_are_found_by_counting_and_can_be_changed()
    {
        var body = P(R("{{City}} «Level» [draft] 100% or 50%"));
        var found = Brought.Place(body).Marks;
        Assert.Equal([true, true], found.Where(m => m.Marks.Open is "{{" or "«").Select(m => m.Likely));
        Assert.DoesNotContain(found, m => m.Marks.Open == "[" && m.Likely);
        Assert.Equal(["{City} «Level» [draft] 100% or 50%"], Brought.Lines(Brought.Place(body, marks: [new("{{", "}}")])));
        Assert.Equal(["A {City}"], Brought.Lines(Brought.Place(P(R("A ~City~")), marks: [TagMarks.Of("~name~")!])));
    }

    [Fact]
    public void Three_thousand_places_of_few_names_come_in_and_thousands_of_names_are_refused()
    {
        var many = string.Concat(Enumerable.Range(0, 3000).Select(i => P(R($"{{{{City}}}} {i}"))));
        Assert.Equal(3000, Brought.Place(many).Placeholders.Single().Places);
        var names = string.Concat(Enumerable.Range(0, 3000).Select(i => P(R($"{{{{Name {i}}}}}"))));
        Assert.Contains("2,000 different placeholders", Assert.Throws<DocumentException>(() => Brought.Place(names)).Message);
    }

    [Fact]
    public void An_end_too_many_within_a_row_ends_nothing_outside_of_it()
    {
        static string Row(string cell) => $"<w:tr><w:tc>{P(R(cell))}</w:tc></w:tr>";
        var placed = Brought.Place(
            $"<w:tbl>{Row("{{#each visits}}")}{Row("{{Guests}}{{/if}}{{/each}}")}{Row("{{/each}}")}</w:tbl>"
                + P(R("{{City}} {{#if Level}}x{{/if}}"))
        );
        Assert.Equal(["{each Visits} {Guests} {end}", "{City} {when Level is not blank}x{end}"], Brought.Lines(placed));
        Assert.Contains(placed.Report, n => n.Text.Contains("no matching start"));
    }

    [Theory]
    [InlineData(@"\\server\share {{City}}", @"\\\\server\\share {City}")]
    [InlineData(@"\\server\share", @"\\\\server\\share")]
    [InlineData(@"one \ alone", @"one \ alone")]
    public void Backslashes_print_as_they_are(string typed, string stored) => Assert.Equal([stored], Brought.Lines(P(R(typed))));

    [Fact]
    public void Names_within_each_of_our_own_language_are_those_of_its_rows() =>
        Assert.Equal(["{each Visits}{Guests};{end} {City}"], Brought.Lines(P(R("{each Visits}{guests};{end} {city}"))));
}
