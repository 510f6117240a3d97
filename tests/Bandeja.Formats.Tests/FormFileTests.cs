using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Forms;
using Bandeja.Formats.Pdf;

namespace Bandeja.Formats.Tests;

/// <summary>What is read of PDFs that become forms, from files made object by object.</summary>
public sealed class FormFileTests
{
    static string Refused(byte[] file) => Assert.Throws<PictureException>(() => FormReading.Of(file)).Message;

    [Fact]
    public void Fields_come_in_the_order_of_the_pages_with_the_labels_beside_them()
    {
        var facts = FormReading.Of(
            new MadeForm()
                .Page(MadeForm.Text(50, 706, "Family name:") + MadeForm.Text(300, 727, "Given name") + MadeForm.Text(80, 603, "I agree"))
                .Field("b", "300 700 500 720")
                .Field("a", "120 700 280 720", "/FT/Tx/Ff 2")
                .Field("c", "60 600 72 612", "/FT/Btn/AP<</N<</Sure 1 0 R/Off 1 0 R>>>>/TU(Agrees to the rules)")
                .Page()
                .Field("address.street", "50 700 200 720", "/FT/Tx/Ff 4096/TU(\\376\\377\\000S\\000t\\000r\\000a\\000\\337\\000e)")
                .File()
        );
        Assert.Equal(2, facts.Pages.Count);
        Assert.Equal(["a", "b", "c", "address.street"], facts.Fields.Select(f => f.Name));
        Assert.Equal(["Family name", "Given name", "Agrees to the rules", "Straße"], facts.Fields.Select(f => f.Label));
        Assert.Equal([true, false, false, false], facts.Fields.Select(f => f.Required));
        Assert.True(facts.Fields[3].Multiline);
        var box = facts.Fields[2];
        Assert.Equal((FormFieldKind.Check, "Sure", "I agree"), (box.Kind, box.Widgets[0].On, box.Widgets[0].Label));
        Assert.Equal(new FormWidget(1, 300, 72, 200, 20), facts.Fields[1].Widgets[0]);
    }

    [Theory]
    [InlineData("/MediaBox[0 0 612 792]/Rotate 90", 792, 612, 700, 100, 20, 160)]
    [InlineData("/MediaBox[0 0 612 792]/Rotate 180", 612, 792, 352, 700, 160, 20)]
    [InlineData("/MediaBox[0 0 612 792]/Rotate 270", 792, 612, 72, 352, 20, 160)]
    [InlineData("/MediaBox[-10 -10 612 792]/CropBox[50 100 562 742]", 512, 642, 50, 22, 160, 20)]
    public void Turned_and_cropped_pages_are_taken_as_they_are_seen(
        string page,
        double width,
        double height,
        double x,
        double y,
        double wide,
        double tall
    )
    {
        var facts = FormReading.Of(new MadeForm().Page("", page).Field("a", "100 700 260 720").File());
        Assert.Equal((width, height), (facts.Pages[0].Width, facts.Pages[0].Height));
        var w = facts.Fields[0].Widgets[0];
        Assert.Equal((x, y, wide, tall), (w.X, w.Y, w.Width, w.Height));
    }

    [Fact]
    public void A_list_that_is_shown_open_and_fields_turned_on_the_page_are_known()
    {
        var facts = FormReading.Of(
            new MadeForm()
                .Page()
                .Field("a", "100 700 260 720", "/FT/Ch/Opt[(x)(y)]")
                .Field("b", "100 600 260 620", "/FT/Ch/Ff 131072/Opt[(x)(y)]")
                .Field("c", "100 500 260 520", "/FT/Tx/MK<</R 90>>")
                .Page("", "/MediaBox[0 0 612 792]/Rotate 90")
                .Field("d", "100 500 260 520", "/FT/Tx/MK<</R 90>>")
                .Field("e", "100 400 260 420", "/FT/Tx")
                .Field("f", "100 300 260 320", "/FT/Tx/MK<</R -180>>")
                .Field("g", "100 200 260 220", "/FT/Tx/MK<</R 45>>")
                .File()
        );
        Assert.Equal(
            [("a", true, 0), ("b", false, 0), ("c", false, 90), ("d", false, 0), ("e", false, 270), ("f", false, 90), ("g", false, 0)],
            facts.Fields.Select(f => (f.Name, f.IsList, f.Widgets[0].Turn)).Order()
        );
    }

    [Fact]
    public void What_a_field_has_from_those_above_it_holds()
    {
        var made = new MadeForm().Page();
        var first = made.Annotation("<</Type/Annot/Subtype/Widget/F 4/Parent 3 0 R/T(first)/Rect[10 10 110 30]>>");
        var second = made.Annotation(
            "<</Type/Annot/Subtype/Widget/F 4/Parent 3 0 R/T(second)/Rect[10 40 110 60]/MaxLen 4/Ff 16777216/DA(/TiBo 9 Tf 1 0 0 rg)>>"
        );
        made.Root(made.Object($"<</T(person)/FT/Tx/Q 2/V(kept)/Kids[{first} 0 R {second} 0 R]>>"));
        var facts = FormReading.Of(made.File());
        Assert.Equal(["person.second", "person.first"], facts.Fields.Select(f => f.Name));
        Assert.All(facts.Fields, f => Assert.Equal((2, "kept"), (f.Text!.Align, f.Initial)));
        Assert.Equal((4, true), (facts.Fields[0].MaxLength, facts.Fields[0].Comb));
        Assert.Equal(new FormText("Tinos", 9, true, false, "ff0000", 2), facts.Fields[0].Text);
        Assert.Equal(("Arimo", 0.0), (facts.Fields[1].Text!.Family, facts.Fields[1].Text!.Size));
    }

    [Fact]
    public void Buttons_choices_and_the_form_of_dates_and_numbers_are_known()
    {
        var made = new MadeForm().Page(MadeForm.Text(30, 703, "Yearly") + MadeForm.Text(130, 703, "Monthly"));
        var kids = new[] { ("0", 10), ("1", 110) }
            .Select(k =>
                made.Annotation(
                    $"<</Type/Annot/Subtype/Widget/F 4/Rect[{k.Item2} 700 {k.Item2 + 12} 712]/MK<</CA(8)/BC[0 0 1]/BG[1]>>/BS<</W 2>>"
                        + $"/AP<</N<</{k.Item1} 1 0 R/Off 1 0 R>>>>>>"
                )
            )
            .ToList();
        made.Root(made.Object($"<</T(paid)/FT/Btn/Ff 32768/V/1/Opt[(Once a year)(Every month)]/Kids[{kids[0]} 0 R {kids[1]} 0 R]>>"));
        made.Field("by", "10 600 110 620", "/FT/Ch/Ff 131072/Opt[[(chk)(Check)](Cash)]/V(chk)")
            .Field("on", "10 560 110 580", "/FT/Tx/AA<</F<</S/JavaScript/JS(AFDate_FormatEx\\(\"mm/dd/yyyy\"\\);)>>>>")
            .Field("sum", "10 520 110 540", "/FT/Tx/AA<</F<</S/JavaScript/JS(AFNumber_Format\\(2, 0, 0, 0, \"\\\\u20ac\", false\\);)>>>>")
            .Field("all", "10 480 110 500", "/FT/Tx/AA<</C<</S/JavaScript/JS(AFSimple_Calculate\\(\"SUM\", [\"sum\"]\\);)>>>>");
        var facts = FormReading.Of(made.File());
        var paid = facts.Fields[0];
        Assert.Equal((FormFieldKind.Radio, "Every month"), (paid.Kind, paid.Initial));
        Assert.Equal(["Once a year", "Every month"], paid.Widgets.Select(w => w.On));
        Assert.Equal(["Yearly", "Monthly"], paid.Widgets.Select(w => w.Label));
        Assert.Equal(
            (MarkShape.Cross, "0000ff", "ffffff", 2),
            (paid.Widgets[0].Mark, paid.Widgets[0].Border, paid.Widgets[0].Shade, paid.Widgets[0].BorderWidth)
        );
        Assert.Equal([new("chk", "Check"), new("Cash", "Cash")], facts.Fields[1].Options!);
        Assert.Equal(["date mm/dd/yyyy", "number 2 0 after €", null], facts.Fields.Skip(2).Select(f => f.Format));
        Assert.True(facts.Fields[4].Calculated);
        Assert.Contains("3 fields have a script. It is not run; what it says of dates and numbers is followed.", facts.Notes);
        Assert.Contains("1 field is calculated by a script. Give it an expression instead.", facts.Notes);
    }

    [Fact]
    public void Scripts_files_rights_and_signatures_are_said()
    {
        var made = new MadeForm
        {
            Catalog = "/Names<</JavaScript<<>>/EmbeddedFiles<<>>>>/Perms<</UR3<<>>>>",
            AcroForm = "/XFA[(template)(x)]",
        }
            .Page()
            .Field("a", "10 10 110 30")
            .Field("sign", "10 50 110 70", "/FT/Sig/V<</Type/Sig>>");
        var facts = FormReading.Of(made.File());
        Assert.Equal(["a"], facts.Fields.Select(f => f.Name));
        foreach (var word in (string[])["XFA", "scripts", "embedded", "usage rights", "signed"])
            Assert.Contains(facts.Notes, n => n.Contains(word));
    }

    [Fact]
    public void That_filling_in_is_not_permitted_is_said()
    {
        static byte[] Locked(bool fill, bool extract)
        {
            using var document = PdfSharp.Pdf.IO.PdfReader.Open(
                new MemoryStream(new MadeForm().Page(MadeForm.Text(50, 723, "City")).Field("a", "50 700 250 720").File()),
                PdfSharp.Pdf.IO.PdfDocumentOpenMode.Modify
            );
            var security = document.SecuritySettings;
            security.OwnerPassword = "owner";
            (security.PermitFormsFill, security.PermitModifyDocument, security.PermitExtractContent) = (fill, fill, extract);
            using var target = new MemoryStream();
            document.Save(target);
            return target.ToArray();
        }
        var locked = FormReading.Of(Locked(false, true));
        Assert.Equal(["The author of this PDF does not permit filling in this form. Ask for a copy that permits it."], locked.Notes);
        Assert.Equal("City", locked.Fields.Single().Label);
        Assert.Contains(FormReading.Of(Locked(true, false)).Notes, n => n.Contains("extracting its content"));
        Assert.Empty(FormReading.Of(Locked(true, true)).Notes);
    }

    [Fact]
    public void A_dynamic_form_and_files_that_are_none_are_refused_with_what_to_do()
    {
        Assert.Contains(
            "print to PDF",
            Refused(
                new MadeForm { AcroForm = "/XFA[(template)(x)]" }
                    .Page()
                    .File()
            )
        );
        Assert.Equal("This file is not a PDF. A form is imported from a PDF.", Refused("PK no pdf"u8.ToArray()));
        Assert.Contains("damaged", Refused("%PDF-1.7\nnothing follows"u8.ToArray()));
        Assert.Contains("no page", Refused(new MadeForm().File()));
        var whole = new MadeForm().Page().Field("a", "10 10 110 30").File();
        // Cut anywhere, it is read as far as it goes or refused, and never anything else.
        for (var length = 20; length < whole.Length; length += 37)
            try
            {
                FormReading.Of(whole[..length]);
            }
            catch (PictureException e)
            {
                Assert.NotEmpty(e.Message);
            }
    }

    [Fact]
    public void Trees_without_end_fields_without_a_page_and_too_many_fields_do_no_harm()
    {
        var made = new MadeForm().Page().Field("good", "10 10 110 30");
        // A field that is its own child, and one within two hundred others.
        var self = made.Object("");
        made.Root(self);
        made.Set(self, $"<</T(round)/Kids[{self} 0 R]>>");
        var inner = made.Object("<</T(x)/FT/Tx/Rect[10 50 110 70]>>");
        for (var i = 0; i < 200; i++)
            inner = made.Object($"<</T(n)/Kids[{inner} 0 R]>>");
        made.Root(inner);
        made.Root(made.Object("<</T(lost)/FT/Tx/Rect[10 50 110 70]>>"));
        made.Root(9_999);
        made.Field("good", "10 90 110 110")
            .Field("good", "10 120 22 132", "/FT/Btn")
            .Field("flat", "10 90 10 110")
            .Field("wild", "0 0 99999999 5");
        var facts = FormReading.Of(made.File());
        Assert.Equal(["good", "good (2)"], facts.Fields.Select(f => f.Name).Order());
        Assert.Equal(2, facts.Fields.Single(f => f.Kind == FormFieldKind.Text).Widgets.Count);
        Assert.Contains(facts.Notes, n => n.Contains("no place on a page"));
        Assert.Contains(facts.Notes, n => n.Contains("Several different fields"));

        var many = new MadeForm().Page();
        for (var i = 0; i < 3_000; i++)
            many.Field($"f{i}", $"{10 + i % 30 * 19} {10 + i / 30 * 7} {26 + i % 30 * 19} {15 + i / 30 * 7}");
        Assert.Equal(3_000, FormReading.Of(many.File()).Fields.Count);
        for (var i = 0; i < 2_001; i++)
            many.Field($"g{i}", "10 10 20 20");
        Assert.Contains("more than 5,000 fields", Refused(many.File()));
    }

    [Fact]
    public void Stamps_that_are_printed_come_with_the_page_and_fields_do_not()
    {
        var made = new MadeForm().Page(MadeForm.Text(50, 700, "The page"));
        var stamp = made.Stream(
            "/Type/XObject/Subtype/Form/BBox[0 0 10 10]/Resources<</Font<</H<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>",
            "BT /H 5 Tf 0 2 Td (STAMPED) Tj ET"
        );
        made.Annotation($"<</Type/Annot/Subtype/Stamp/F 4/Rect[100 100 200 200]/AP<</N {stamp} 0 R>>>>");
        made.Annotation($"<</Type/Annot/Subtype/Stamp/F 2/Rect[300 100 400 200]/AP<</N {stamp} 0 R>>>>");
        made.Field("a", "100 400 200 420", $"/FT/Tx/AP<</N {stamp} 0 R>>");
        using var target = new MemoryStream();
        var picture = PictureFile.Accept(made.File());
        var writer = new PdfLetterWriter(target, _ => picture, new("t", "en", DateTimeOffset.UnixEpoch, false));
        writer.Add(null, [new(612, 792, [new PictureItem(0, 0, 612, 792, "p")])]);
        writer.Finish();
        using var read = UglyToad.PdfPig.PdfDocument.Open(target.ToArray());
        var letters = read.GetPage(1).Letters;
        Assert.Equal(
            "The pageSTAMPED",
            string.Concat(letters.OrderByDescending(l => l.Location.Y).ThenBy(l => l.Location.X).Select(l => l.Value))
        );
        var s = letters.First(l => l.Value == "S");
        Assert.Equal((100, 120), (Math.Round(s.Location.X), Math.Round(s.Location.Y)));
    }

    [Theory]
    [InlineData("AFDate_Format(2)", "date mm/dd/yy")]
    [InlineData("AFDate_KeystrokeEx('d mmm yyyy');", "date d mmm yyyy")]
    [InlineData("AFDate_Format(13)", null)]
    [InlineData("AFNumber_Format(0, 1, 0, 0, \"\", true);", "number 0 1 before")]
    [InlineData("AFNumber_Format(2,1,\"MinusBlack\",null,\"$\",true);", "number 2 1 before $")]
    [InlineData("app.alert('AFDate_'); while(true){}", null)]
    public void Scripts_are_recognized_and_never_run(string script, string? format) => Assert.Equal(format, FormScripts.Format(script));

    [Fact]
    public void Text_strings_have_three_encodings()
    {
        static string Raw(Encoding of, string text, string mark) => mark + Encoding.Latin1.GetString(of.GetBytes(text));
        Assert.Equal("Żółć", PdfText.Of(Raw(Encoding.BigEndianUnicode, "Żółć", "\u00FE\u00FF")));
        Assert.Equal("Żółć", PdfText.Of(Raw(Encoding.UTF8, "Żółć", "\u00EF\u00BB\u00BF")));
        Assert.Equal("café – €", PdfText.Of("café \u0085 \u00A0"));
    }
}
