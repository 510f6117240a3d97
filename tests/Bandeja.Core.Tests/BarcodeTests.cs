using Bandeja.Core.Barcodes;
using FsCheck;
using FsCheck.Xunit;
using ZXing;
using ZXing.Common;
using ZXing.IMB;

namespace Bandeja.Core.Tests;

/// <summary>Barcodes against their standards' examples, and read back by a reader that is not ours.</summary>
public sealed class BarcodeTests
{
    // USPS-B-3200, appendix E: the four examples.
    [Theory]
    [InlineData("", "ATTFATTDTTADTAATTDTDTATTDAFDDFADFDFTFFFFFTATFAAAATDFFTDAADFTFDTDT")]
    [InlineData("01234", "DTTAFADDTTFTDTFTFDTDDADADAFADFATDDFTAAAFDTTADFAAATDFDTDFADDDTDFFT")]
    [InlineData("012345678", "ADFTTAFDTTTTFATTADTAAATFTFTATDAAAFDDADATATDTDTTDFDTDATADADTDFFTFA")]
    [InlineData("01234567891", "AADTFFDFTDADTAADAATFDTDDAAADDTDTTDAFADADDDTFFFDDTTTADFAAADFTDAADA")]
    public void An_intelligent_mail_barcode_is_that_of_the_standard(string routing, string bars) =>
        Assert.Equal(bars, IntelligentMail.Encode("01234567094987654321", routing));

    [Theory]
    [InlineData("0123456709498765432", "", "20 digits")]
    [InlineData("05234567094987654321", "", "0 to 4")]
    [InlineData("01234567094987654321", "1234", "0, 5, 9, or 11")]
    [InlineData("0123456709498765432x", "", "20 digits")]
    [InlineData("01234567094987654321", "1234a", "0, 5, 9, or 11")]
    public void What_the_standard_does_not_have_is_refused(string tracking, string routing, string message) =>
        Assert.Contains(message, Assert.Throws<IntelligentMailException>(() => IntelligentMail.Encode(tracking, routing)).Message);

    [Theory]
    [InlineData("00", "040", "123456", 7, "00040123456000000007")]
    [InlineData("00", "040", "901234567", 7, "00040901234567000007")]
    [InlineData("00", "040", "901234567", 999_999, "00040901234567999999")]
    public void The_parts_make_a_tracking_code(string id, string service, string mailer, long serial, string tracking) =>
        Assert.Equal(tracking, IntelligentMail.Tracking(id, service, mailer, serial));

    [Theory]
    [InlineData("00", "040", "12345", 7, "6 or 9 digits")]
    [InlineData("00", "040", "1234567", 7, "6 or 9 digits")]
    [InlineData("00", "040", "12345a", 7, "no other characters")]
    [InlineData("09", "040", "123456", 7, "0 to 4")]
    [InlineData("00", "40", "123456", 7, "three digits")]
    [InlineData("00", "040", "901234567", 1_000_000, "6 digits")]
    [InlineData("00", "040", "123456", -1, "9 digits")]
    public void Parts_of_a_wrong_length_are_refused(string id, string service, string mailer, long serial, string message) =>
        Assert.Contains(
            message,
            Assert.Throws<IntelligentMailException>(() => IntelligentMail.Tracking(id, service, mailer, serial)).Message
        );

    [Theory]
    [InlineData("97412", "", "97412")]
    [InlineData("97412-1234", "", "974121234")]
    [InlineData("97412-1234", "56", "97412123456")]
    [InlineData("97412", "56", "97412")]
    [InlineData("7412", "", null)]
    [InlineData("V1L 4B3", "", null)]
    [InlineData("", "", null)]
    public void The_routing_code_is_what_is_known_of_the_address(string zip, string point, string? routing) =>
        Assert.Equal(routing, IntelligentMail.Routing(zip, point));

    /// <summary>Rectangles as a picture, so many pixels to the unit, with a margin around.</summary>
    static RGBLuminanceSource Picture(
        IEnumerable<(double X, double Y, double Width, double Height)> dark,
        double width,
        double height,
        double scale,
        int margin
    )
    {
        int w = (int)Math.Ceiling(width * scale) + 2 * margin,
            h = (int)Math.Ceiling(height * scale) + 2 * margin;
        var pixels = Enumerable.Repeat((byte)255, w * h).ToArray();
        foreach (var (x, y, rw, rh) in dark)
            for (var py = margin + (int)Math.Round(y * scale); py < margin + (int)Math.Round((y + rh) * scale); py++)
            for (var px = margin + (int)Math.Round(x * scale); px < margin + (int)Math.Round((x + rw) * scale); px++)
                pixels[py * w + px] = 0;
        return new(pixels, w, h, RGBLuminanceSource.BitmapFormat.Gray8);
    }

    [Fact]
    public void Ten_thousand_mail_barcodes_are_read_back()
    {
        var random = new System.Random(20270303);
        string Digits(int count) => string.Concat(Enumerable.Range(0, count).Select(_ => (char)('0' + random.Next(10))));
        var reader = new IMBReader();
        for (var i = 0; i < 10_000; i++)
        {
            var tracking = $"{random.Next(10)}{random.Next(5)}{Digits(18)}";
            var routing = Digits((int[])[0, 5, 9, 11] is var lengths ? lengths[random.Next(4)] : 0);
            var bars = Composition.BarcodeShape.Mail(IntelligentMail.Encode(tracking, routing));
            // 198 dots to the inch: nine to a bar and its space, whole dots, as the reader wants them.
            var picture = Picture(bars.Bars, IntelligentMail.Width, IntelligentMail.FullHeight, 2.75, 8);
            var read = reader.decode(new BinaryBitmap(new GlobalHistogramBinarizer(picture)));
            Assert.Equal(tracking + routing, read?.Text.Replace(" ", ""));
        }
    }

    static string? ReadBack(Symbology symbology, string content)
    {
        var symbol = Symbol.Of(symbology, content);
        var height = symbol.Height == 1 ? 30 : symbol.Height;
        var picture = Picture(
            symbol.Dark.Select(d => ((double)d.X, (double)d.Y, (double)d.Width, symbol.Height == 1 ? 30.0 : d.Height)),
            symbol.Width,
            height,
            4,
            4 * symbol.Quiet + 8
        );
        var reader = new BarcodeReaderGeneric
        {
            Options =
            {
                PossibleFormats =
                [
                    symbology switch
                    {
                        Symbology.Qr => BarcodeFormat.QR_CODE,
                        Symbology.DataMatrix => BarcodeFormat.DATA_MATRIX,
                        _ => BarcodeFormat.CODE_128,
                    },
                ],
                PureBarcode = true,
                TryHarder = true,
            },
        };
        return reader.Decode(picture)?.Text;
    }

    [Theory]
    [InlineData(Symbology.Qr, "https://example.org/r/0001")]
    [InlineData(Symbology.Qr, "Łódź, Πάτρα, محمد, 名古屋")]
    [InlineData(Symbology.Qr, "0")]
    [InlineData(Symbology.Code128, "F-00137")]
    [InlineData(Symbology.Code128, "0123456789")]
    [InlineData(Symbology.Code128, "Piece 0001 / a~z")]
    [InlineData(Symbology.DataMatrix, "F-00137")]
    [InlineData(Symbology.DataMatrix, "0123456789012345678901234567890123456789")]
    public void What_is_encoded_is_read_back(Symbology symbology, string content) => Assert.Equal(content, ReadBack(symbology, content));

    [Property(MaxTest = 150)]
    public void Plain_texts_are_read_back_in_every_symbology(NonEmptyString text)
    {
        var content = new string([.. text.Get.Select(c => (char)(' ' + c % 95)).Take(60)]).Trim();
        if (content.Length == 0)
            return;
        foreach (var symbology in (Symbology[])[Symbology.Qr, Symbology.Code128, Symbology.DataMatrix])
            Assert.Equal(content, ReadBack(symbology, content));
    }

    [Theory]
    [InlineData(Symbology.Code128, "Łódź", "QR code")]
    [InlineData(Symbology.DataMatrix, "名古屋", "QR code")]
    [InlineData(Symbology.Qr, "", "has no content")]
    [InlineData(Symbology.IntelligentMail, "x", "address")]
    public void A_content_that_cannot_be_held_is_told(Symbology symbology, string content, string message) =>
        Assert.Contains(message, Assert.Throws<BarcodeContentException>(() => Symbol.Of(symbology, content)).Message);

    [Theory]
    [InlineData(Symbology.Qr, 5000)]
    [InlineData(Symbology.Code128, 81)]
    [InlineData(Symbology.DataMatrix, 4000)]
    public void A_content_that_is_too_long_is_told_with_the_limit(Symbology symbology, int length) =>
        Assert.Contains(
            "at most",
            Assert
                .Throws<BarcodeContentException>(() =>
                    Symbol.Of(symbology, string.Concat(Enumerable.Range(0, length).Select(i => (char)('a' + i % 26))))
                )
                .Message
        );
}
