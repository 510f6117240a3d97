using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Surfaces;
using Bandeja.Formats.Pdf;
using SkiaSharp;
using UglyToad.PdfPig;
using ZXing;
using ZXing.Common;
using ZXing.IMB;
using static Bandeja.Formats.Tests.Paper;

namespace Bandeja.Formats.Tests;

/// <summary>Envelopes and sheets of labels as PDF: what stands where, to a tenth of a millimetre, and barcodes that are read from the
/// rendered page.</summary>
public sealed class SurfacePdfTests
{
    const double Mm = 72 / 25.4;
    static readonly FontLibrary Fonts = new([Font("Source Sans 3", false, "source-sans-3/SourceSans3-Regular")]);
    static readonly Role[] Roles = [Role.GivenName, Role.FamilyName, Role.Street, Role.City, Role.Region, Role.PostalCode];
    static readonly Column[] Columns = [.. Roles.Select((r, i) => new Column(i + 1, r.ToString(), ColumnType.Text, r))];

    static byte[] Write(IEnumerable<LaidOutPage> pages)
    {
        using var target = new MemoryStream();
        var writer = new PdfLetterWriter(target, _ => null, new("Labels", "en-US", new(2027, 3, 5, 12, 0, 0, TimeSpan.Zero)));
        foreach (var page in pages)
            writer.Add(null, [page]);
        writer.Finish();
        return target.ToArray();
    }

    static IPieceComposer Composer(JsonObject document) =>
        DesignReader
            .Bind(document.ToJsonString(), new LetterSetting(Columns, OrganizationLocale.UnitedStates, Fonts))
            .Composer(new(2027, 3, 5));

    static ArrayRow Person(int i) => new([$"Ana{i}", "Okafor", $"{i} Quay Road", "Fernquay", "OR", "97412-1234"]);

    static JsonObject Box(string use, double x, double y, double width, double height, params JsonNode[] content) =>
        new()
        {
            ["use"] = use,
            ["x"] = x,
            ["y"] = y,
            ["width"] = width,
            ["height"] = height,
            ["content"] = new JsonArray(content),
        };

    static JsonObject P(string text) =>
        new() { ["type"] = "paragraph", ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = text }) };

    static JsonObject Code(string symbology, string source, double width, double height) =>
        new()
        {
            ["type"] = "barcode",
            ["attrs"] = new JsonObject
            {
                ["symbology"] = symbology,
                ["source"] = source,
                ["width"] = width,
                ["height"] = height,
                ["service"] = "040",
                ["mailer"] = "901234567",
            },
        };

    public static TheoryData<string> Stocks => [.. LabelStock.Ready.Select(s => s.Id)];

    [Theory, MemberData(nameof(Stocks))]
    public void A_stocks_labels_stand_where_its_geometry_says(string id)
    {
        var stock = LabelStock.Ready.Single(s => s.Id == id);
        using var pdf = PdfDocument.Open(Write([LabelSheets.Outline(stock)]));
        var page = pdf.GetPage(1);
        Assert.Equal(stock.SheetWidth, page.Width / Mm, 1);
        Assert.Equal(stock.SheetHeight, page.Height / Mm, 1);
        var outlines = page
            .Paths.Select(p => p.GetBoundingRectangle()!.Value)
            .OrderByDescending(r => Math.Round(r.Top))
            .ThenBy(r => r.Left)
            .ToList();
        Assert.Equal(stock.Count, outlines.Count);
        for (var i = 0; i < outlines.Count; i++)
        {
            var (row, column) = (i / stock.Columns, i % stock.Columns);
            void Near(double expected, double points) => Assert.InRange(points / Mm, expected - 0.1, expected + 0.1);
            Near(stock.Left + column * stock.PitchX, outlines[i].Left);
            Near(stock.Top + row * stock.PitchY, page.Height - outlines[i].Top);
            Near(stock.LabelWidth, outlines[i].Width);
            Near(stock.LabelHeight, outlines[i].Height);
        }
    }

    static JsonObject Labels(string stock) =>
        new()
        {
            ["kind"] = "labels",
            ["stock"] = stock,
            ["boxes"] = new JsonArray(Box("delivery", 3, 3, 60, 20, P("{Delivery address}"))),
        };

    [Fact]
    public void A_sheet_begins_where_it_was_told_and_holds_each_label_in_its_place()
    {
        var document = Labels("letter-3x10");
        var composer = Composer(document);
        var setup = SurfaceReader.Read(document).Labels!;
        var sheets = new LabelSheets(setup, new(8, [10]));
        var full = new List<LaidOutPage>();
        for (var i = 1; i <= 30; i++)
            sheets.Add(composer.Compose(Person(i), i), full);
        full.Add(sheets.Finish()!);
        var bytes = Write(full);
        Sound(bytes);
        using var pdf = PdfDocument.Open(bytes);
        Assert.Equal(2, pdf.NumberOfPages);
        int[] places = [8, 9, .. Enumerable.Range(11, 20), .. Enumerable.Range(1, 8)];
        for (var i = 1; i <= 30; i++)
        {
            var page = pdf.GetPage(i <= 22 ? 1 : 2);
            var word = page.GetWords().Single(w => w.Text == $"Ana{i}");
            var place = setup.Stock.PlaceOf(places[i - 1]);
            Assert.Equal((place.X / Mm) + 3, word.BoundingBox.Left / Mm, 0.3);
            Assert.InRange((page.Height - word.BoundingBox.Top) / Mm, place.Y / Mm + 3, place.Y / Mm + 6);
        }
    }

    [Theory]
    [InlineData(0, 684, 297)]
    [InlineData(90, 297, 684)]
    [InlineData(180, 684, 297)]
    [InlineData(270, 297, 684)]
    public void An_envelope_is_turned_and_moved_as_its_printer_takes_it(int turn, double width, double height)
    {
        var piece = Composer(
                new JsonObject
                {
                    ["kind"] = "envelope",
                    ["format"] = "no10",
                    ["boxes"] = new JsonArray(Box("text", 20, 30, 60, 10, P("Corner {GivenName}"))),
                }
            )
            .Compose(Person(1), 1);
        SKRectI Ink(Feed feed)
        {
            using var picture = Render(Write([piece.Pages[0] with { Feed = feed }]), 72);
            Assert.Equal((width, height), (picture.Width, picture.Height));
            int left = int.MaxValue,
                top = int.MaxValue,
                right = 0,
                bottom = 0;
            for (var y = 0; y < picture.Height; y++)
            for (var x = 0; x < picture.Width; x++)
                if (picture.GetPixel(x, y).Red < 160)
                    (left, top, right, bottom) = (Math.Min(left, x), Math.Min(top, y), Math.Max(right, x), Math.Max(bottom, y));
            return new(left, top, right, bottom);
        }
        var still = Ink(new(turn, 0, 0));
        if (still == default)
            return; // nothing renders PDFs here
        // The left upper corner of the text, 20 mm in and 30 mm down, as it lies when the page is turned with the clock.
        var (x, y) = (20 * Mm, 30 * Mm);
        var corner = turn switch
        {
            90 => (X: 297 - y, Y: x),
            180 => (X: 684 - x, Y: 297 - y),
            270 => (X: y, Y: 684 - x),
            _ => (X: x, Y: y),
        };
        Assert.InRange(turn is 90 or 180 ? still.Right : still.Left, corner.X - 9, corner.X + 9);
        Assert.InRange(turn is 180 or 270 ? still.Bottom : still.Top, corner.Y - 9, corner.Y + 9);
        // 10 mm to the right and 5 mm down, as it is read.
        var moved = Ink(new(turn, 10 * Mm, 5 * Mm));
        var by = turn switch
        {
            90 => (-5, 10),
            180 => (-10, -5),
            270 => (5, -10),
            _ => (10, 5),
        };
        Assert.InRange(moved.Left - still.Left, by.Item1 * Mm - 1.5, by.Item1 * Mm + 1.5);
        Assert.InRange(moved.Top - still.Top, by.Item2 * Mm - 1.5, by.Item2 * Mm + 1.5);
    }

    /// <summary>The first page as a picture.</summary>
    static SKBitmap Render(byte[] pdf, int dpi)
    {
        var target = Path.Combine(Path.GetTempPath(), Guid.NewGuid().ToString("N"));
        try
        {
            Run("pdftoppm", $"-r {dpi} -png -singlefile {{0}} {target}", pdf);
            return SKBitmap.Decode(target + ".png");
        }
        finally
        {
            File.Delete(target + ".png");
        }
    }

    /// <summary>What is dark in a picture, with a margin around it: some readers look only at its middle.</summary>
    static LuminanceSource Light(SKBitmap picture)
    {
        var pixels = new byte[picture.Width * picture.Height];
        int left = picture.Width,
            top = picture.Height,
            right = 0,
            bottom = 0;
        for (var y = 0; y < picture.Height; y++)
        for (var x = 0; x < picture.Width; x++)
            if ((pixels[y * picture.Width + x] = picture.GetPixel(x, y).Red) < 128)
                (left, top, right, bottom) = (Math.Min(left, x), Math.Min(top, y), Math.Max(right, x), Math.Max(bottom, y));
        const int margin = 40;
        return new RGBLuminanceSource(pixels, picture.Width, picture.Height, RGBLuminanceSource.BitmapFormat.Gray8).crop(
            left - margin,
            top - margin,
            right - left + 1 + 2 * margin,
            bottom - top + 1 + 2 * margin
        );
    }

    [Fact]
    public void Barcodes_are_read_from_the_rendered_page()
    {
        foreach (
            var (symbology, format, width, height) in (ReadOnlySpan<(string, BarcodeFormat, double, double)>)
                [
                    ("qr", BarcodeFormat.QR_CODE, 25, 25),
                    ("code128", BarcodeFormat.CODE_128, 60, 12),
                    ("datamatrix", BarcodeFormat.DATA_MATRIX, 18, 18),
                ]
        )
        {
            var piece = Composer(
                    new JsonObject
                    {
                        ["kind"] = "labels",
                        ["stock"] = "a4-2x4",
                        ["boxes"] = new JsonArray(
                            Box("barcode", 10, 10, 70, 40, Code(symbology, "\"https://example.org/r/\" & Piece number", width, height))
                        ),
                    }
                )
                .Compose(Person(1), 118);
            using var picture = Render(Write(piece.Pages), 300);
            var read = new BarcodeReaderGeneric { Options = { PossibleFormats = [format], TryHarder = true } }.Decode(Light(picture));
            Assert.Equal("https://example.org/r/0118", read?.Text);
        }
    }

    [Fact]
    public void A_mail_barcode_is_read_from_the_rendered_envelope()
    {
        var composer = Composer(
            new JsonObject
            {
                ["kind"] = "envelope",
                ["format"] = "no10",
                ["boxes"] = new JsonArray(Box("barcode", (292 - 9) / Mm, 60, 90, 6, Code("imb", "", 10, 10))),
            }
        );
        foreach (var serial in (long[])[0, 7, 123_456, 999_999])
        {
            var piece = composer.Compose(Person(1), 1, mailer => mailer == "901234567" ? serial : -1);
            // 396 dots to the inch: eighteen to a bar and its space, and the first bar on a whole dot, as the reader wants them.
            using var picture = Render(Write(piece.Pages), 396);
            var read = new IMBReader().decode(new BinaryBitmap(new GlobalHistogramBinarizer(Light(picture))));
            Assert.Equal($"00040901234567{serial:000000}974121234", read?.Text);
        }
    }

    [Fact]
    public void Frames_are_drawn_with_their_corners_and_shades()
    {
        var box = Box("text", 2, 2, 50, 20, P("Ana"));
        box["border"] = new JsonObject
        {
            ["width"] = 1,
            ["color"] = "#1e5b4a",
            ["radius"] = 3,
        };
        box["shade"] = "#f2ede3";
        var square = Box("text", 2, 30, 50, 20, P("Luis"));
        square["border"] = new JsonObject { ["width"] = 1, ["color"] = "#1b1b1b" };
        var bytes = Write(
            Composer(
                    new JsonObject
                    {
                        ["kind"] = "labels",
                        ["stock"] = "a4-2x4",
                        ["boxes"] = new JsonArray(box, square),
                    }
                )
                .Compose(Person(1), 1)
                .Pages
        );
        Sound(bytes);
        using var pdf = PdfDocument.Open(bytes);
        Assert.Equal("Ana Luis", string.Join(' ', pdf.GetPage(1).GetWords().Select(w => w.Text)));
        using var picture = Render(bytes, 72);
        Assert.Equal(new SKColor(0xf2, 0xed, 0xe3), picture.GetPixel((int)(45 * Mm), (int)(12 * Mm)));
        // The corner is cut off by its rounding, the square one is not.
        Assert.Equal(SKColors.White, picture.GetPixel((int)(2 * Mm), (int)(2 * Mm)));
        Assert.True(picture.GetPixel((int)Math.Round(2 * Mm), (int)Math.Round(30 * Mm)).Red < 200);
    }
}
