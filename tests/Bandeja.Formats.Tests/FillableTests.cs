using Bandeja.Core.Forms;
using Bandeja.Formats.Pdf;

namespace Bandeja.Formats.Tests;

/// <summary>Forms whose fields stay fields.</summary>
public sealed class FillableTests
{
    /// <summary>The form filled in for one person, as a file of its own; and what is read of it again.</summary>
    internal static (byte[] File, FormFacts Facts) Filled(string output, byte[] made, object answers, string?[] values)
    {
        var facts = FormReading.Of(made);
        var document = new System.Text.Json.Nodes.JsonObject
        {
            ["kind"] = "form",
            ["asset"] = "p",
            ["facts"] = System.Text.Json.JsonSerializer.SerializeToNode(facts, FormReader.FactsForm),
            ["answers"] = System.Text.Json.JsonSerializer.SerializeToNode(answers),
            ["output"] = output,
        };
        var columns = values
            .Select((_, i) => new Core.Lists.Column(i + 1, $"C{i + 1}", Core.Lists.ColumnType.Text, Core.Lists.Role.None))
            .ToArray();
        var bound = new BoundForm(
            FormReader.Read(document),
            new(columns, Core.Language.OrganizationLocale.UnitedStates, Documents.Made.Fonts)
        );
        var piece = bound.Composer(new(2027, 3, 12)).Compose(new Core.Lists.ArrayRow(values), 1);
        using var target = new MemoryStream();
        var picture = PictureFile.Accept(made);
        var writer = new PdfLetterWriter(
            target,
            asset => asset.Contains('#') ? picture with { Page = int.Parse(asset.Split('#')[1]) } : picture,
            new("t", "en", DateTimeOffset.UnixEpoch, bound.KeepsTags, Fillable: true)
        );
        writer.Add(null, piece.Pages);
        writer.Finish();
        return (target.ToArray(), FormReading.Of(target.ToArray()));
    }

    static MadeForm Sample() =>
        new MadeForm()
            .Page(MadeForm.Text(50, 750, "A form"))
            .Field("person.name", "50 700 250 720", "/FT/Tx/Ff 2/TU(Your name)/DA(/Helv 11 Tf 0 0 1 rg)")
            .Field("person.zip", "50 660 150 680", "/FT/Tx/Ff 16777216/MaxLen 5/Q 1")
            .Field("agree", "50 620 62 632", "/FT/Btn/AP<</N<</Sure 1 0 R/Off 1 0 R>>>>/MK<</BC[0]/CA(8)>>")
            .Field("city", "50 580 150 600", "/FT/Ch/Ff 393216/Opt[[(al)(Alder Point)](Fernquay)]")
            .Field("note", "50 500 250 560", "/FT/Tx/Ff 4096");

    static readonly object Answers = new Dictionary<string, string>
    {
        ["person.name"] = "{C1}",
        ["person.zip"] = "{C2}",
        ["agree"] = "{C3}",
        ["city"] = "{C4}",
    };

    [Fact]
    public void Fields_stay_with_their_values_their_kinds_and_an_appearance_in_every_script()
    {
        var (file, facts) = Filled("fillable", Sample().File(), Answers, ["Ελένη Ñandú Żółć", "97412", "yes", "Alder Point"]);
        Assert.Equal(["person.name", "person.zip", "agree", "city", "note"], facts.Fields.Select(f => f.Name));
        Assert.Equal(["Ελένη Ñandú Żółć", "97412", "Sure", "al", null], facts.Fields.Select(f => f.Initial));
        Assert.Equal(
            [FormFieldKind.Text, FormFieldKind.Text, FormFieldKind.Check, FormFieldKind.Choice, FormFieldKind.Text],
            facts.Fields.Select(f => f.Kind)
        );
        Assert.Equal(
            (true, "Your name", 11, "0000ff"),
            (facts.Fields[0].Required, facts.Fields[0].Label, facts.Fields[0].Text!.Size, facts.Fields[0].Text!.Color)
        );
        Assert.Equal((true, 5, 1), (facts.Fields[1].Comb, facts.Fields[1].MaxLength, facts.Fields[1].Text!.Align));
        Assert.True(facts.Fields[3].Editable && facts.Fields[4].Multiline);
        Assert.Equal([new("al", "Alder Point"), new("Fernquay", "Fernquay")], facts.Fields[3].Options!);
        Assert.All(facts.Fields, f => Assert.False(f.ReadOnly));
        Assert.Equal(
            FormReading.Of(Sample().File()).Fields.Select(f => (f.Widgets[0].X, f.Widgets[0].Y, f.Widgets[0].Width)),
            facts.Fields.Select(f => (f.Widgets[0].X, f.Widgets[0].Y, f.Widgets[0].Width))
        );
        // What every viewer draws: the page's own text, and the values in the appearances.
        var seen = Paper.Run("pdftotext", "-layout {0} -", file);
        foreach (var text in (string[])["A form", "Ελένη Ñandú Żółć", "Alder Point"])
            Assert.Contains(text, seen);
        Assert.Contains("No syntax or stream encoding errors", Paper.Run("qpdf", "--check {0}", file));
    }

    [Fact]
    public void Read_only_fields_cannot_be_changed_and_blank_ones_are_blank()
    {
        var (file, facts) = Filled("readonly", Sample().File(), Answers, [null, " ", null, "Elsewhere"]);
        Assert.All(facts.Fields, f => Assert.True(f.ReadOnly));
        Assert.Equal([null, null, null, "Elsewhere", null], facts.Fields.Select(f => f.Initial));
        Assert.DoesNotContain("0", Paper.Run("pdftotext", "-layout {0} -", file).Replace("A form", ""));
    }

    [Fact]
    public void Printed_in_there_are_no_fields_left()
    {
        var (file, facts) = Filled("printed", Sample().File(), Answers, ["Ana", "97412", "yes", "Fernquay"]);
        Assert.Empty(facts.Fields);
        Assert.Contains("Ana", Paper.Run("pdftotext", "-layout {0} -", file));
    }

    /// <summary>By how much the page and the field are turned, and which way the text then runs as the page is seen.</summary>
    [Theory]
    [InlineData(0, 90, 0, 1)]
    [InlineData(0, 180, -1, 0)]
    [InlineData(0, 270, 0, -1)]
    [InlineData(90, 90, 1, 0)]
    [InlineData(90, 0, 0, -1)]
    [InlineData(270, 0, 0, 1)]
    [InlineData(180, 0, -1, 0)]
    public void Text_in_a_turned_field_runs_with_it_and_stays_in_it(int page, int field, int right, int up)
    {
        // Along the field in the page's own space.
        var place = field is 90 or 270 ? "100 400 124 620" : "100 400 320 424";
        var made = new MadeForm()
            .Page("", $"/MediaBox[0 0 612 792]/Rotate {page}")
            .Field("name", place, $"/FT/Tx/DA(/Helv 12 Tf 0 g)/MK<</R {field}>>")
            .File();
        var answers = new Dictionary<string, string> { ["name"] = "{C1}" };
        var w = FormReading.Of(made).Fields[0].Widgets[0];
        var (printed, _) = Filled("printed", made, answers, ["Ana Okafor-Lindqvist"]);
        using var pdf = UglyToad.PdfPig.PdfDocument.Open(printed);
        var letters = pdf.GetPage(1).Letters;
        var height = pdf.GetPage(1).Height;
        Assert.Equal("Ana Okafor-Lindqvist", string.Concat(letters.Select(l => l.Value)));
        var (dx, dy) = (letters[^1].StartBaseLine.X - letters[0].StartBaseLine.X, letters[^1].StartBaseLine.Y - letters[0].StartBaseLine.Y);
        Assert.Equal((right, up), (Math.Sign(Math.Round(dx)), Math.Sign(Math.Round(dy))));
        foreach (var l in letters)
        {
            Assert.InRange(l.StartBaseLine.X, w.X - 0.1, w.X + w.Width + 0.1);
            Assert.InRange(height - l.StartBaseLine.Y, w.Y - 0.1, w.Y + w.Height + 0.1);
        }
        // A file that stays fillable keeps the turn for programs that draw the field anew, and looks the same.
        var (kept, facts) = Filled("fillable", made, answers, ["Ana Okafor-Lindqvist"]);
        var stays = facts.Fields[0].Widgets[0];
        Assert.Equal((w.X, w.Y, w.Width, w.Height, w.Turn), (stays.X, stays.Y, stays.Width, stays.Height, stays.Turn));
        Assert.Contains("No syntax or stream encoding errors", Paper.Run("qpdf", "--check {0}", kept));
        Assert.Equal(
            Paper.Run("pdftotext", "-bbox {0} -", printed).Split("<body>")[1],
            Paper.Run("pdftotext", "-bbox {0} -", kept).Split("<body>")[1]
        );
    }

    /// <summary>A tagged form of two pages: a heading with a type of its own, two texts, a field that has an element and one that has
    /// none.</summary>
    static byte[] Tagged(string stamp = "")
    {
        static string Marked(int id, string type, string content) => $"/{type} <</MCID {id}>> BDC\n{content}EMC\n";
        var made = new MadeForm { Catalog = "/MarkInfo<</Marked true>>/StructTreeRoot 3 0 R/Lang(de)" }
            .Page(
                Marked(0, "Title", MadeForm.Text(50, 750, "Membership form"))
                    + "/Artifact BMC\n0 0 m 10 0 l S\nEMC\n"
                    + Marked(1, "P", MadeForm.Text(50, 720, "Your name")),
                "/MediaBox[0 0 612 792]/StructParents 0"
            )
            .Field("name", "150 700 350 720", "/FT/Tx/TU(Your name)/StructParent 2")
            .Field("other", "150 660 350 680", "/FT/Tx/TU(Other)");
        // Objects 1 and 2 are the fields; the pages come after what is made here and the font, each with its content before it.
        var last = stamp.Length == 0 ? 9 : 11;
        made.Object("<</Type/StructTreeRoot/K 4 0 R/RoleMap<</Title/H1>>>>");
        made.Object("<</Type/StructElem/S/Document/P 3 0 R/K[5 0 R 6 0 R 7 0 R 8 0 R]>>");
        made.Object($"<</Type/StructElem/S/Title/P 4 0 R/Pg {last + 3} 0 R/K 0>>");
        made.Object($"<</Type/StructElem/S/P/P 4 0 R/Pg {last + 3} 0 R/K[1 <</Type/OBJR/Obj 1 0 R>>]>>");
        made.Object($"<</Type/StructElem/S/P/P 4 0 R/K[<</Type/MCR/Pg {last + 5} 0 R/MCID 0>>]/ActualText(The second page)>>");
        // An element that holds itself has no end.
        made.Object("<</Type/StructElem/S/Sect/P 4 0 R/K[8 0 R 4 0 R 77]>>");
        made.Object("null");
        made.Page(Marked(0, "P", MadeForm.Text(50, 750, "Page two")), "/MediaBox[0 0 612 792]/StructParents 1");
        if (stamp.Length > 0)
        {
            var look = made.Stream("/Type/XObject/Subtype/Form/BBox[0 0 10 10]", "0 0 10 10 re f");
            made.Annotation($"<</Type/Annot/Subtype/Stamp/F 4/Rect[500 700 510 710]/AP<</N {look} 0 R>>>>");
        }
        return made.File();
    }

    [Theory]
    [InlineData("")]
    [InlineData("stamp")]
    public void A_tagged_form_whose_fields_stay_is_still_tagged(string stamp)
    {
        var made = Tagged();
        Assert.True(FormReading.Of(made).IsTagged);
        var was = Paper.Run("pdfinfo", "-struct-text {0}", made);
        Assert.Contains("\"Membership form\"", was);
        var (file, facts) = Filled("fillable", Tagged(stamp), new Dictionary<string, string> { ["name"] = "{C1}" }, ["Ana Okafor"]);
        Assert.Equal("Ana Okafor", facts.Fields[0].Initial);
        Assert.True(facts.IsTagged);
        Paper.Sound(file);
        var now = Paper.Run("pdfinfo", "-struct-text {0}", file);
        // The heading, the text with its field, the other page, and the field that had no element; in their order.
        var order = new[] { "H1", "\"Membership form\"", "P (block)", "\"Your name\"", "Object", "\"Page two\"", "Form" };
        Assert.True(order.Aggregate(0, (at, next) => at < 0 ? at : now.IndexOf(next, at, StringComparison.Ordinal)) > 0, now);
        var spoken = Convert.ToHexString(System.Text.Encoding.BigEndianUnicode.GetBytes("The second page"));
        Assert.Contains($"/ActualText <FEFF{spoken}>", System.Text.Encoding.Latin1.GetString(file));
        Assert.Contains("Tagged:          yes", Paper.Run("pdfinfo", "{0}", file));

        // Printed in there is no structure, and nothing that points into one.
        var (printed, _) = Filled("printed", made, new Dictionary<string, string>(), ["Ana"]);
        Assert.DoesNotContain("/StructParents", System.Text.Encoding.Latin1.GetString(printed));
    }

    [Fact]
    public void What_the_pages_of_a_form_have_in_common_is_written_once()
    {
        var made = new MadeForm();
        for (var page = 1; page <= 5; page++)
            made.Page(MadeForm.Text(50, 700, $"Page {page}")).Field($"f{page}", "50 600 250 620");
        var (file, _) = Filled("printed", made.File(), new Dictionary<string, string>(), []);
        Assert.Single(System.Text.RegularExpressions.Regex.Matches(System.Text.Encoding.Latin1.GetString(file), "/Helvetica"));
        var seen = Paper.Run("pdftotext", "-layout {0} -", file);
        Assert.All(Enumerable.Range(1, 5), page => Assert.Contains($"Page {page}", seen));
        Paper.Sound(file);
    }
}
