using System.Globalization;
using System.Text.Json.Nodes;
using Bandeja.Core.Addressing;
using Bandeja.Core.Barcodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Surfaces;
using Bandeja.Formats.Pdf;
using PdfSharp.Drawing;
using PdfSharp.Fonts;
using PdfSharp.Pdf;

namespace Bandeja.Bench;

/// <summary>Sheets of labels, envelopes with barcodes, delivery addresses.</summary>
static class SurfaceBench
{
    const int LabelCount = 50_000,
        EnvelopeCount = 10_000,
        AddressCount = 1_000_000;
    static readonly Role[] Roles = [Role.GivenName, Role.FamilyName, Role.Street, Role.City, Role.Region, Role.PostalCode, Role.Country];
    static readonly Column[] Columns = [.. Roles.Select((r, i) => new Column(i + 1, r.ToString(), ColumnType.Text, r))];

    static string?[] Values(int i) =>
        [
            $"Given{i % 977}",
            $"Family{i % 7919}",
            $"{i % 2400} Lantern Row",
            "Fernquay",
            "OR",
            (97400 + i % 99).ToString(CultureInfo.InvariantCulture),
            i % 20 == 0 ? "Canada" : null,
        ];

    static JsonObject Box(string use, double x, double y, double width, double height, JsonNode content) =>
        new()
        {
            ["use"] = use,
            ["x"] = x,
            ["y"] = y,
            ["width"] = width,
            ["height"] = height,
            ["content"] = new JsonArray(content),
        };

    static JsonObject P(string text, double size) =>
        new()
        {
            ["type"] = "paragraph",
            ["content"] = new JsonArray(
                new JsonObject
                {
                    ["type"] = "text",
                    ["text"] = text,
                    ["marks"] = new JsonArray(
                        new JsonObject
                        {
                            ["type"] = "textStyle",
                            ["attrs"] = new JsonObject { ["fontSize"] = FormattableString.Invariant($"{size}pt") },
                        }
                    ),
                }
            ),
        };

    static BoundSurface Bind(JsonObject document) =>
        (BoundSurface)
            DesignReader.Bind(
                document.ToJsonString(),
                new LetterSetting(
                    Columns,
                    OrganizationLocale.UnitedStates,
                    Bandeja.Formats.FontFolder.Load(),
                    Sender: "Fernquay Botanic Garden"
                )
            );

    static string[] Lines(int i)
    {
        var v = Values(i);
        var place = $"{v[3]} {v[4]} {v[5]}";
        return v[6] is null ? [$"{v[0]} {v[1]}", v[2]!, place] : [$"{v[0]} {v[1]}", v[2]!, place, "CANADA"];
    }

    /// <summary>50,000 labels on 3 × 10 sheets, an address and a piece number each.</summary>
    public static void Labels()
    {
        GlobalFontSettings.FontResolver ??= new Faces();
        var box = Box("delivery", 0, 0, 66.675, 25.4, P("{Delivery address}", 10));
        (box["padding"], box["smallest"], box["valign"]) = (3, 7, "middle");
        var surface = Bind(
            new()
            {
                ["kind"] = "labels",
                ["stock"] = "letter-3x10",
                ["type"] = new JsonObject { ["size"] = 10 },
                ["boxes"] = new JsonArray(box, Box("number", 53, 21.4, 11, 3, P("{Piece number}", 5.5))),
            }
        );
        var path = Path.GetTempFileName();
        void Ours()
        {
            using var target = File.Create(path);
            var writer = new PdfLetterWriter(target, _ => null, new("Bench", "en-US", DateTimeOffset.UnixEpoch));
            var composer = surface.Composer(new(2027, 3, 1));
            var sheets = new LabelSheets(surface.Design.Labels!);
            var full = new List<LaidOutPage>();
            foreach (var label in Ahead.Of(Enumerable.Range(1, LabelCount).Select(i => composer.Compose(new ArrayRow(Values(i)), i))))
            {
                sheets.Add(label, full);
                foreach (var page in full)
                    writer.Add(null, [page]);
                full.Clear();
            }
            if (sheets.Finish() is { } last)
                writer.Add(null, [last]);
            writer.Finish();
            if (writer.Pages != (LabelCount + 29) / 30)
                throw new InvalidOperationException($"{writer.Pages} sheets");
        }
        void Plain()
        {
            using var document = new PdfDocument();
            var (font, small) = (new XFont("Source Serif 4", 10), new XFont("Source Serif 4", 5.5));
            XGraphics? graphics = null;
            for (var i = 1; i <= LabelCount; i++)
            {
                var place = (i - 1) % 30;
                if (place == 0)
                {
                    graphics?.Dispose();
                    graphics = XGraphics.FromPdfPage(document.AddPage());
                }
                var (x, y) = (13.5 + place % 3 * 198, 36 + place / 3 * 72.0);
                var at = y + 20;
                foreach (var line in Lines(i))
                {
                    graphics!.DrawString(line, font, XBrushes.Black, x + 8.5, at);
                    at += 12;
                }
                graphics!.DrawString(i.ToString("0000", CultureInfo.InvariantCulture), small, XBrushes.Black, x + 160, y + 66);
            }
            graphics?.Dispose();
            document.Save(path);
        }
        var (ours, plain) = Bench.InTurn(Ours, Plain, 3);
        Bench.Line(
            "50,000 labels on 3 × 10 sheets into one PDF",
            $"{LabelCount / ours:N0} a second",
            $"{LabelCount / plain:N0} a second",
            Bench.Ratio(plain / ours),
            "at least 5×",
            plain / ours >= 5
        );
        File.Delete(path);
    }

    /// <summary>10,000 envelopes with return address, indicia, delivery address, Intelligent Mail barcode and piece number.</summary>
    public static void Envelopes()
    {
        GlobalFontSettings.FontResolver ??= new Faces();
        string[] returned = ["Fernquay Botanic Garden", "Glasshouse Road 1", "Fernquay, OR 97412"],
            indicia = ["Nonprofit Org.", "U.S. Postage Paid", "Fernquay, OR", "Permit No. 14"];
        JsonObject Of(string use, double x, double y, double w, double h, string[] lines, double size)
        {
            var box = Box(use, x, y, w, h, P(lines[0], size));
            foreach (var line in lines.Skip(1))
                box["content"]!.AsArray().Add(P(line, size));
            return box;
        }
        var surface = Bind(
            new()
            {
                ["kind"] = "envelope",
                ["format"] = "no10",
                ["type"] = new JsonObject { ["size"] = 11 },
                ["boxes"] = new JsonArray(
                    Of("return", 10, 8, 70, 18, returned, 9),
                    Of("indicia", 205, 8, 28, 20, indicia, 7.5),
                    Box("delivery", 112, 46, 105, 28, P("{Delivery address}", 11)),
                    Box(
                        "barcode",
                        132,
                        91.5,
                        82,
                        6,
                        new JsonObject
                        {
                            ["type"] = "barcode",
                            ["attrs"] = new JsonObject
                            {
                                ["symbology"] = "imb",
                                ["service"] = "040",
                                ["mailer"] = "901234567",
                            },
                        }
                    ),
                    Box("number", 10, 96, 20, 4, P("{Piece number}", 6.5))
                ),
            }
        );
        var path = Path.GetTempFileName();
        void Ours()
        {
            using var target = File.Create(path);
            var writer = new PdfLetterWriter(target, _ => null, new("Bench", "en-US", DateTimeOffset.UnixEpoch));
            var composer = surface.Composer(new(2027, 3, 1));
            var number = 0;
            foreach (var envelope in Ahead.Of(Enumerable.Range(1, EnvelopeCount).Select(i => composer.Compose(new ArrayRow(Values(i)), i))))
                writer.Add($"{++number:0000} recipient", envelope.Pages);
            writer.Finish();
            if (writer.Pages != EnvelopeCount)
                throw new InvalidOperationException($"{writer.Pages} envelopes");
        }
        // The plain way draws every string and every bar of every envelope.
        void Plain()
        {
            using var document = new PdfDocument();
            XFont eleven = new("Source Serif 4", 11),
                nine = new("Source Serif 4", 9),
                seven = new("Source Serif 4", 7.5);
            for (var i = 1; i <= EnvelopeCount; i++)
            {
                var page = document.AddPage();
                (page.Width, page.Height) = (XUnit.FromPoint(684), XUnit.FromPoint(297));
                document.Outlines.Add($"{i:0000} recipient", page);
                using var graphics = XGraphics.FromPdfPage(page);
                void Draw(IEnumerable<string> lines, XFont font, double x, double y)
                {
                    foreach (var line in lines)
                    {
                        graphics.DrawString(line, font, XBrushes.Black, x, y);
                        y += font.Size * 1.2;
                    }
                }
                Draw(returned, nine, 28, 30);
                Draw(indicia, seven, 581, 30);
                Draw(Lines(i), eleven, 317, 140);
                Draw([i.ToString("0000", CultureInfo.InvariantCulture)], seven, 28, 280);
                if (i % 20 == 0)
                    continue;
                var states = IntelligentMail.Encode(IntelligentMail.Tracking("00", "040", "901234567", i), Values(i)[5]!);
                for (var n = 0; n < states.Length; n++)
                    graphics.DrawRectangle(
                        XBrushes.Black,
                        372 + n * IntelligentMail.Pitch,
                        states[n] is 'F' or 'A' ? 260 : 263.5,
                        IntelligentMail.BarWidth,
                        states[n] switch
                        {
                            'F' => 10.4,
                            'T' => 3.5,
                            _ => 7,
                        }
                    );
            }
            document.Save(path);
        }
        var (ours, plain) = Bench.InTurn(Ours, Plain, 3);
        Bench.Line(
            "10,000 envelopes with barcode into one PDF",
            $"{EnvelopeCount / ours:N0} a second",
            $"{EnvelopeCount / plain:N0} a second",
            Bench.Ratio(plain / ours),
            "at least 5×",
            plain / ours >= 5
        );
        File.Delete(path);
    }

    /// <summary>A million delivery addresses, against joining the same strings; and barcodes.</summary>
    public static void Addresses()
    {
        var rows = Enumerable.Range(0, 20_000).Select(i => new ArrayRow(Values(i))).ToArray();
        var address = new DeliveryAddress(Columns, "US");
        long ourLength = 0,
            plainLength = 0;
        void Ours()
        {
            ourLength = 0;
            for (var i = 0; i < AddressCount; i++)
                foreach (var line in address.Write(rows[i % rows.Length]))
                    ourLength += line.Text.Length;
        }
        void Plain()
        {
            plainLength = 0;
            for (var i = 0; i < AddressCount; i++)
            {
                var r = rows[i % rows.Length];
                plainLength +=
                    string.Concat(r[0], " ", r[1]).Length + r[2]!.Length + string.Join(' ', r[3], r[4], r[5]).Length + (r[6]?.Length ?? 0);
            }
        }
        var (ours, plain) = Bench.InTurn(Ours, Plain, 5);
        if (Math.Abs(ourLength - plainLength) > AddressCount)
            throw new InvalidOperationException($"{ourLength} characters beside {plainLength}");
        Bench.Line(
            "1,000,000 delivery addresses",
            $"{ours * 1e9 / AddressCount:N0} ns each",
            $"{plain * 1e9 / AddressCount:N0} ns, joining the strings",
            Bench.Ratio(ours / plain),
            "at most 15×",
            ours / plain <= 15
        );

        const int codes = 400_000;
        var (encoded, joined) = Bench.InTurn(
            () =>
            {
                for (var i = 0; i < codes; i++)
                    IntelligentMail.Encode("00040901234567000000", "97412123401");
            },
            () =>
            {
                for (var i = 0; i < codes; i++)
                    _ = string.Concat("00040901234567", i.ToString("000000", CultureInfo.InvariantCulture), "97412123401");
            },
            5
        );
        Bench.Line(
            "Intelligent Mail barcodes encoded, one core",
            $"{codes / encoded:N0} a second",
            $"{codes / joined:N0} a second, writing their digits",
            Bench.Ratio(encoded / joined),
            "at least 200,000 a second",
            codes / encoded >= 200_000
        );
    }
}
