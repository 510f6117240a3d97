using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Forms;
using Bandeja.Formats.Pdf;
using Bandeja.Formats.Tests;
using Bandeja.Work.Composition;
using Bandeja.Work.Production;
using PdfSharp.Pdf;
using PdfSharp.Pdf.Advanced;
using PdfSharp.Pdf.IO;

namespace Bandeja.Bench;

/// <summary>A form of four pages with thirty fields, against PDFsharp opening, filling in, and saving it each time.</summary>
static class FormBench
{
    const int Fields = 30,
        People = 10_000,
        Plain = 300;

    static byte[] Pdf()
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

    public static void All()
    {
        var pdf = Pdf();
        using var printed = new ProductionBench.World(People, Document(pdf, "printed"));
        using var fillable = new ProductionBench.World(People, Document(pdf, "fillable"));
        foreach (var world in new[] { printed, fillable })
            world.Get<PictureFiles>().Add("form.pdf", pdf, ProductionBench.By);
        var (one, each, plain) = (new List<double>(), new List<double>(), new List<double>());
        long size = 0;
        for (var round = 0; round < 4; round++)
        {
            printed.Begin(printed.Drop(), new OneFileOrder());
            var whole = People / Bench.Seconds(printed.Make);
            fillable.Begin(fillable.Drop(), new EachOrder());
            var single = People / Bench.Seconds(fillable.Make);
            var saved = Plain / Bench.Seconds(() => Saved(pdf));
            if (round == 0)
            {
                size = printed.LargestFile();
                continue;
            }
            one.Add(whole);
            each.Add(single);
            plain.Add(saved);
        }
        var (a, b, c) = (Bench.Median(one), Bench.Median(each), Bench.Median(plain));
        Bench.Line(
            "a form of 30 fields for 10,000, printed in, one PDF",
            $"{a:N0} a second",
            $"{c:N0} a second",
            Bench.Ratio(a / c),
            "at least 20×",
            a / c >= 20
        );
        Bench.Line("the same, fillable, a PDF each", $"{b:N0} a second", $"{c:N0} a second", Bench.Ratio(b / c), "at least 4×", b / c >= 4);
        Bench.Line("file for each recipient", $"{(double)size / People:N0} bytes", "", "", "under 6,000", (double)size / People < 6_000);
    }

    /// <summary>The plain way.</summary>
    static void Saved(byte[] pdf)
    {
        for (var i = 0; i < Plain; i++)
        {
            using var document = PdfReader.Open(new MemoryStream(pdf), PdfDocumentOpenMode.Modify);
            // The values alone, without appearances, for which it would want fonts of its own: that is the quicker way.
            var fields = document.Internals.Catalog.Elements.GetDictionary("/AcroForm")!.Elements.GetArray("/Fields")!;
            foreach (var field in fields.Elements.OfType<PdfReference>())
                ((PdfDictionary)field.Value).Elements.SetString("/V", $"Given{i} Family{i}");
            document.Save(new MemoryStream());
        }
    }
}
