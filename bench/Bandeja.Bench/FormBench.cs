using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Forms;
using Bandeja.Formats.Pdf;
using Bandeja.Formats.Tests;
using Bandeja.Work.Composition;
using Bandeja.Work.Production;
using PdfSharp.Fonts;
using PdfSharp.Pdf;
using PdfSharp.Pdf.AcroForms;
using PdfSharp.Pdf.Advanced;
using PdfSharp.Pdf.IO;

namespace Bandeja.Bench;

/// <summary>A form of four pages with thirty fields, against PDFsharp opening, filling in, and saving it each time.</summary>
static class FormBench
{
    const int Fields = 30,
        People = 10_000,
        Plain = 300;

    public static byte[] Pdf()
    {
        var made = new MadeForm();
        for (var page = 0; page < 4; page++)
        {
            var text = string.Concat(
                Enumerable
                    .Range(0, 40)
                    .Select(i => MadeForm.Text(50, 740 - i * 17, $"Line {i} of page {page}: the rules of the nursery are kept."))
            );
            made.Page(text);
            for (var i = page * Fields / 4; i < (page + 1) * Fields / 4; i++)
                made.Field($"field{i}", $"300 {700 - i % 10 * 60} 500 {720 - i % 10 * 60}");
        }
        return made.File();
    }

    static JsonObject Document(byte[] pdf, string output)
    {
        var facts = FormReading.Of(pdf);
        var answers = new JsonObject();
        foreach (var (field, i) in facts.Fields.Select((f, i) => (f, i)))
            answers[field.Name] = (i % 3) switch
            {
                0 => "{First}",
                1 => "{First} {Last}",
                _ => "{Last}",
            };
        return new()
        {
            ["kind"] = "form",
            ["asset"] = Convert.ToHexStringLower(SHA256.HashData(pdf))[..24],
            ["file"] = "form.pdf",
            ["facts"] = JsonSerializer.SerializeToNode(facts, FormReader.FactsForm),
            ["answers"] = answers,
            ["output"] = output,
        };
    }

    /// <summary>Recipients of the form.</summary>
    public static ProductionBench.World World(int people, string output)
    {
        var pdf = Pdf();
        var world = new ProductionBench.World(people, Document(pdf, output));
        world.Get<PictureFiles>().Add("form.pdf", pdf, ProductionBench.By);
        return world;
    }

    public static void All()
    {
        var pdf = Pdf();
        using var printed = World(People, "printed");
        using var fillable = World(People, "fillable");
        var (one, each, plain, unseen) = (new List<double>(), new List<double>(), new List<double>(), new List<double>());
        long size = 0;
        for (var round = 0; round < 4; round++)
        {
            printed.Begin(printed.Drop(), new OneFileOrder());
            var whole = People / Bench.Seconds(printed.Make);
            fillable.Begin(fillable.Drop(), new EachOrder());
            var single = People / Bench.Seconds(fillable.Make);
            var saved = Plain / Bench.Seconds(() => Saved(pdf));
            var blank = Plain / Bench.Seconds(() => Unseen(pdf));
            if (round == 0)
            {
                size = printed.LargestFile();
                continue;
            }
            one.Add(whole);
            each.Add(single);
            plain.Add(saved);
            unseen.Add(blank);
        }
        var (a, b, c, d) = (Bench.Median(one), Bench.Median(each), Bench.Median(plain), Bench.Median(unseen));
        Bench.Line(
            "a form of 30 fields for 10,000, printed in, one PDF",
            $"{a:N0} a second",
            $"{c:N0} a second",
            Bench.Ratio(a / c),
            "at least 20×",
            a / c >= 20
        );
        Bench.Line("the same, fillable, a PDF each", $"{b:N0} a second", $"{c:N0} a second", Bench.Ratio(b / c), "at least 4×", b / c >= 4);
        Bench.Line(
            "printed in, beside values set without appearances",
            $"{a:N0} a second",
            $"{d:N0} a second",
            Bench.Ratio(a / d),
            "",
            true
        );
        Bench.Line("fillable, beside values set without appearances", $"{b:N0} a second", $"{d:N0} a second", Bench.Ratio(b / d), "", true);
        Bench.Line("file for each recipient", $"{(double)size / People:N0} bytes", "", "", "under 6,000", (double)size / People < 6_000);
        ProductionBench.Memory(
            "form",
            "the form for 100,000 in one PDF, peak memory beside 10,000",
            People,
            10 * People,
            1.25,
            "at most 1.25×"
        );
        ProofBench.Form();
    }

    /// <summary>The plain way: the library sets each value and draws its appearance.</summary>
    static void Saved(byte[] pdf)
    {
        GlobalFontSettings.FontResolver ??= new OneFont();
        for (var i = 0; i < Plain; i++)
        {
            using var document = PdfReader.Open(new MemoryStream(pdf), PdfDocumentOpenMode.Modify);
            foreach (var name in document.AcroForm.Fields.Names)
                if (document.AcroForm.Fields[name] is PdfTextField field)
                    field.Text = $"Given{i} Family{i}";
            document.Save(new MemoryStream());
        }
    }

    /// <summary>The same way without appearances, which many viewers and printers then do not show.</summary>
    static void Unseen(byte[] pdf)
    {
        for (var i = 0; i < Plain; i++)
        {
            using var document = PdfReader.Open(new MemoryStream(pdf), PdfDocumentOpenMode.Modify);
            var fields = document.Internals.Catalog.Elements.GetDictionary("/AcroForm")!.Elements.GetArray("/Fields")!;
            foreach (var field in fields.Elements.OfType<PdfReference>())
                ((PdfDictionary)field.Value).Elements.SetString("/V", $"Given{i} Family{i}");
            document.Save(new MemoryStream());
        }
    }

    /// <summary>The library has no fonts of its own: it gets one of ours for whatever it asks.</summary>
    sealed class OneFont : IFontResolver
    {
        public FontResolverInfo? ResolveTypeface(string familyName, bool isBold, bool isItalic) => new("one");

        public byte[] GetFont(string faceName) =>
            File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "fonts", "cousine", "Cousine-Regular.ttf"));
    }
}
