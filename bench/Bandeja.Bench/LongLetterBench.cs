using System.Text.Json;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Pdf;
using PdfSharp.Drawing;
using PdfSharp.Fonts;
using PdfSharp.Pdf;

namespace Bandeja.Bench;

/// <summary>Letters of three pages with a table of five detail rows, and fields evaluated a million times.</summary>
static class LongLetterBench
{
    const int Letters = 2_000,
        StaticParagraphs = 100;
    const string Line = "The glasshouse is quieter without you; the riverside path asks after you, every day.";
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Amount due", ColumnType.Number, Role.None),
        new(4, "Renewal date", ColumnType.Date, Role.None),
    ];
    static readonly DetailSet[] Details =
    [
        new(
            1,
            "Gifts",
            [
                new(1, "Plant", ColumnType.Text, Role.None),
                new(2, "Since", ColumnType.Date, Role.None),
                new(3, "Gift", ColumnType.Number, Role.None),
            ]
        ),
    ];

    static string?[] Values(int i) => [$"Given{i % 977}", $"Family{i % 7919}", $"{i % 1000}.50", "2027-02-28"];

    static IRow Row(int i) =>
        new ArrayRow(
            Values(i),
            _ =>
                [
                    .. Enumerable
                        .Range(0, 5)
                        .Select(n => (IRow)new ArrayRow([$"Plant {(i + n) % 300}", $"20{10 + n}-05-01", $"{(i * 7 + n) % 500}"])),
                ]
        );

    static LetterDesign Design()
    {
        static object Text(string t) => new { type = "paragraph", content = new[] { new { type = "text", text = t } } };
        static object Cell(string t, bool heading = false) =>
            new { type = heading ? "tableHeader" : "tableCell", content = new[] { Text(t) } };
        var content = new List<object> { Text("Dear {First} {Last},"), Text("you owe {Amount due | money} by {Renewal date | date long}") };
        content.AddRange(Enumerable.Repeat(Text(Line), 40));
        content.Add(
            new
            {
                type = "table",
                content = new object[]
                {
                    new { type = "tableRow", content = new[] { Cell("Plant", true), Cell("Since", true), Cell("Gift", true) } },
                    new
                    {
                        type = "tableRow",
                        attrs = new { bracket = "each Gifts" },
                        content = new[] { Cell("{Plant}"), Cell("{Since | date long}"), Cell("{Gift | money}") },
                    },
                    new { type = "tableRow", content = new[] { Cell("Together"), Cell(""), Cell("{sum(Gifts.Gift) | money}") } },
                },
            }
        );
        content.AddRange(Enumerable.Repeat(Text(Line), StaticParagraphs - 40));
        return LetterReader.Read(
            JsonSerializer.Serialize(
                new
                {
                    type = new
                    {
                        size = 11,
                        lineSpacing = 1.3,
                        spaceAfter = 2,
                    },
                    footer = new[] { Text("page {Page number} of {Page count}") },
                    content,
                }
            )
        );
    }

    static void Ours(BoundLetter letter, Stream target)
    {
        var writer = new PdfLetterWriter(target, _ => null, new("Bench", "en-US", DateTimeOffset.UnixEpoch));
        var composer = new LetterComposer(letter, new(2027, 3, 1));
        for (var i = 1; i <= Letters; i++)
        {
            var pages = composer.Compose(Row(i), i).Pages;
            if (pages.Count != 3)
                throw new InvalidOperationException($"{pages.Count} pages");
            writer.Add($"{i:0000} recipient", pages);
        }
        writer.Finish();
    }

    /// <summary>The plain way: every string of every page drawn anew.</summary>
    static void Plain(Stream target)
    {
        using var document = new PdfDocument();
        var font = new XFont("Source Serif 4", 11);
        var pen = new XPen(XColors.Gray, 0.5);
        for (var i = 1; i <= Letters; i++)
        {
            var v = Values(i);
            XGraphics? graphics = null;
            double y = double.MaxValue;
            var page = 0;
            void Draw(string text, double x = 71)
            {
                if (y > 700)
                {
                    graphics?.DrawString($"page {page} of 3", font, XBrushes.Black, 71, 760);
                    graphics?.Dispose();
                    var next = document.AddPage();
                    (next.Width, next.Height) = (XUnit.FromPoint(612), XUnit.FromPoint(792));
                    if (page++ == 0)
                        document.Outlines.Add($"{i:0000} recipient", next);
                    graphics = XGraphics.FromPdfPage(next);
                    y = 85;
                }
                graphics!.DrawString(text, font, XBrushes.Black, x, y);
            }
            void Next() => y += 16.3;
            Draw($"Dear {v[0]} {v[1]},");
            Next();
            Draw(
                string.Create(
                    OrganizationLocale.UnitedStates.Culture,
                    $"you owe {decimal.Parse(v[2]!, System.Globalization.CultureInfo.InvariantCulture):C2} by February 28, 2027"
                )
            );
            Next();
            for (var n = 0; n < StaticParagraphs; n++)
            {
                if (n == 40)
                    for (var r = 0; r < 7; r++)
                    {
                        Draw($"Plant {(i + r) % 300}");
                        Draw($"May 1, 20{10 + r}", 227);
                        Draw($"${(i * 7 + r) % 500}.00", 384);
                        graphics!.DrawLine(pen, 71, y + 4, 541, y + 4);
                        Next();
                    }
                Draw(Line);
                Next();
            }
            graphics?.DrawString("page 3 of 3", font, XBrushes.Black, 71, 760);
            graphics?.Dispose();
        }
        document.Save(target);
    }

    public static void ThreePages()
    {
        GlobalFontSettings.FontResolver ??= new Faces();
        var letter = new BoundLetter(
            Design(),
            new LetterSetting(Columns, OrganizationLocale.UnitedStates, Bandeja.Formats.FontFolder.Load(), Details)
        );
        var path = Path.GetTempFileName();
        var (ours, plain) = Bench.InTurn(
            () =>
            {
                using var t = File.Create(path);
                Ours(letter, t);
            },
            () =>
            {
                using var t = File.Create(path);
                Plain(t);
            },
            3
        );
        var speed = plain / ours;
        Bench.Line(
            "2,000 letters of three pages with a table of five rows",
            $"{Letters / ours:N0} a second",
            $"{Letters / plain:N0} a second",
            Bench.Ratio(speed),
            "at least 3×",
            speed >= 3
        );
        File.Delete(path);
    }

    /// <summary>A million fields that are a plain column, beside looking the value up in a dictionary.</summary>
    public static void Fields()
    {
        const int count = 1_000_000;
        var names = new Names(Columns);
        Expression[] fields = [.. Columns.Take(2).Select(c => FieldParser.ParseExpression(c.Name, names).Expression)];
        var context = new EvaluationContext(Columns, OrganizationLocale.UnitedStates, new(2027, 3, 1));
        IRow[] rows = [.. Enumerable.Range(0, 1000).Select(Row)];
        Dictionary<string, string>[] bare =
        [
            .. Enumerable.Range(0, 1000).Select(i => Columns.Zip(Values(i)).ToDictionary(x => x.First.Name, x => x.Second!)),
        ];
        long length = 0;
        var (ours, plain) = Bench.InTurn(
            () =>
            {
                for (var i = 0; i < count; i += 2)
                {
                    context.For(rows[i % 1000], i);
                    length += Evaluator.Print(fields[0], context).Length + Evaluator.Print(fields[1], context).Length;
                }
            },
            () =>
            {
                for (var i = 0; i < count; i += 2)
                    length += bare[i % 1000]["First"].Length + bare[i % 1000]["Last"].Length;
            },
            5
        );
        var each = ours / count * 1e6;
        Bench.Line(
            "1,000,000 fields that are a plain column",
            $"{each * 1000:N0} ns each",
            $"{plain / count * 1e9:N0} ns each",
            Bench.Ratio(ours / plain),
            "under 1 µs and at most 10×",
            each < 1 && ours / plain <= 10
        );
        if (length == 0)
            throw new InvalidOperationException("nothing was printed");
    }
}
