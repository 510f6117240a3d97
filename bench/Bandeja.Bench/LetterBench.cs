using System.Globalization;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Pdf;
using PdfSharp.Drawing;
using PdfSharp.Fonts;
using PdfSharp.Pdf;

namespace Bandeja.Bench;

/// <summary>Ten thousand one-page letters of 40 lines with six fields and a picture, into one PDF.</summary>
static class LetterBench
{
    const int Letters = 10_000,
        StaticLines = 34;
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Street", ColumnType.Text, Role.Street),
        new(4, "City", ColumnType.Text, Role.City),
        new(5, "Amount due", ColumnType.Number, Role.None),
        new(6, "Renewal date", ColumnType.Date, Role.None),
    ];
    const string Line = "The glasshouse is quieter without you; the riverside path asks after you, every day.";
    static readonly byte[] Emblem = File.ReadAllBytes(Path.Combine(Root(), "demo", "files", "emblem.png"));

    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "bandeja")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    static string?[] Row(int i) =>
        [$"Given{i % 977}", $"Family{i % 7919}", $"{i % 2400} Lantern Row", "Fernquay", $"{i % 1000}.50", "2027-02-28"];

    public static LetterDesign Design()
    {
        JsonObject Paragraph(string text) =>
            new() { ["type"] = "paragraph", ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = text }) };
        var content = new JsonArray(
            new JsonObject
            {
                ["type"] = "picture",
                ["attrs"] = new JsonObject
                {
                    ["asset"] = "emblem",
                    ["width"] = 14,
                    ["aspect"] = 1,
                },
            }
        );
        foreach (
            var text in (string[])
                [
                    "Dear {First} {Last},",
                    "{Street}",
                    "{City}",
                    "you owe {Amount due | money}",
                    "by {Renewal date | date long}",
                    "With warm regards,",
                ]
        )
            content.Add(Paragraph(text));
        for (var i = 0; i < StaticLines; i++)
            content.Insert(4 + i % 3, Paragraph(Line));
        return LetterReader.Read(
            new JsonObject
            {
                ["page"] = new JsonObject
                {
                    ["margins"] = new JsonObject
                    {
                        ["top"] = 15,
                        ["bottom"] = 10,
                        ["left"] = 25,
                        ["right"] = 25,
                    },
                },
                ["type"] = new JsonObject
                {
                    ["size"] = 11,
                    ["lineSpacing"] = 1.3,
                    ["spaceAfter"] = 2,
                },
                ["content"] = content,
            }.ToJsonString()
        );
    }

    static long Ours(BoundLetter letter, PictureFile emblem, Stream target, int count, Action<int>? at = null)
    {
        var writer = new PdfLetterWriter(target, _ => emblem, new("Bench", "en-US", DateTimeOffset.UnixEpoch));
        var composer = new LetterComposer(letter, new(2027, 3, 1));
        for (var i = 1; i <= count; i++)
        {
            writer.Add($"{i:0000} recipient", composer.Compose(new ArrayRow(Row(i)), i).Pages);
            at?.Invoke(i);
        }
        writer.Finish();
        if (writer.Pages != count)
            throw new InvalidOperationException($"{writer.Pages} pages for {count} letters");
        return target.Position;
    }

    /// <summary>The plain way: every string of every page drawn anew.</summary>
    static void Plain(XImage image, Stream target)
    {
        using var document = new PdfDocument();
        var font = new XFont("Source Serif 4", 11);
        for (var i = 1; i <= Letters; i++)
        {
            var page = document.AddPage();
            (page.Width, page.Height) = (XUnit.FromPoint(612), XUnit.FromPoint(792));
            document.Outlines.Add($"{i:0000} recipient", page);
            using var graphics = XGraphics.FromPdfPage(page);
            graphics.DrawImage(image, 71, 42, 40, 40);
            var row = Row(i);
            var y = 100.0;
            foreach (
                var text in (string[])
                    [
                        $"Dear {row[0]} {row[1]},",
                        row[2]!,
                        row[3]!,
                        "you owe "
                            + decimal.Parse(row[4]!, CultureInfo.InvariantCulture).ToString("C2", OrganizationLocale.UnitedStates.Culture),
                        "by February 28, 2027",
                        "With warm regards,",
                    ]
            )
            {
                graphics.DrawString(text, font, XBrushes.Black, 71, y);
                y += 16.3;
            }
            for (var n = 0; n < StaticLines; n++, y += 16.3)
                graphics.DrawString(Line, font, XBrushes.Black, 71, y);
        }
        document.Save(target);
    }

    public static void Letters10000()
    {
        GlobalFontSettings.FontResolver ??= new Faces();
        var letter = new BoundLetter(Design(), Columns, OrganizationLocale.UnitedStates, Bandeja.Formats.FontFolder.Load());
        var emblem = PictureFile.Read(Emblem);
        var path = Path.GetTempFileName();

        // Memory first, before the baseline has made the process large.
        long after = 0,
            end = 0;
        using (var target = File.Create(path))
            Ours(
                letter,
                emblem,
                target,
                Letters * 2,
                i =>
                {
                    if (i == Letters)
                        after = Settled();
                    if (i == Letters * 2)
                        end = Settled();
                }
            );
        long one,
            all;
        using (var target = File.Create(path))
            one = Ours(letter, emblem, target, 100);
        using (var target = File.Create(path))
            all = Ours(letter, emblem, target, Letters);

        var image = XImage.FromStream(new MemoryStream(Emblem));
        var (ours, plain) = Bench.InTurn(
            () =>
            {
                using var t = File.Create(path);
                Ours(letter, emblem, t, Letters);
            },
            () =>
            {
                using var t = File.Create(path);
                Plain(image, t);
            },
            3
        );
        var speed = plain / ours;
        Bench.Line(
            "10,000 letters into one PDF",
            $"{Letters / ours:N0} a second",
            $"{Letters / plain:N0} a second",
            Bench.Ratio(speed),
            "at least 6×",
            speed >= 6
        );
        var growth = (end - after) / 1048576.0;
        Bench.Line(
            "memory held after 20,000 letters, beside after 10,000",
            $"{end / 1048576.0:0.0} MB",
            $"{after / 1048576.0:0.0} MB",
            $"{growth:+0.0;-0.0} MB",
            "does not grow (within 4 MB)",
            growth < 4
        );
        var each = (all - one) / (double)(Letters - 100);
        Bench.Line(
            "file for each letter beyond the shared parts",
            $"{each:N0} bytes",
            "4,096 bytes",
            Bench.Ratio(each / 4096),
            "at most 4 KB",
            each <= 4096
        );
        File.Delete(path);
    }

    static long Settled()
    {
        GC.Collect();
        GC.WaitForPendingFinalizers();
        return GC.GetTotalMemory(true);
    }
}

/// <summary>The face that the plain way draws with.</summary>
sealed class Faces : IFontResolver
{
    public byte[] GetFont(string faceName) =>
        File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "fonts", "source-serif-4", "SourceSerif4-Regular.ttf"));

    public FontResolverInfo ResolveTypeface(string familyName, bool isBold, bool isItalic) => new("serif");
}
