using Bandeja.Core.Composition;
using Bandeja.Formats.Pdf;
using FsCheck.Xunit;
using SkiaSharp;
using UglyToad.PdfPig;

namespace Bandeja.Formats.Tests;

public sealed class PictureTests
{
    static byte[] Make(SKEncodedImageFormat format, SKColorType color = SKColorType.Rgba8888, int width = 40, int height = 20)
    {
        using var bitmap = new SKBitmap(width, height, color, SKAlphaType.Opaque);
        bitmap.Erase(new SKColor(30, 91, 74));
        using var data = bitmap.Encode(format, 90);
        return data.ToArray();
    }

    [Theory]
    [InlineData(SKEncodedImageFormat.Png, SKColorType.Rgba8888, "image/png", false)]
    [InlineData(SKEncodedImageFormat.Jpeg, SKColorType.Rgba8888, "image/jpeg", false)]
    [InlineData(SKEncodedImageFormat.Jpeg, SKColorType.Gray8, "image/jpeg", true)]
    public void Pictures_are_known_by_their_content(SKEncodedImageFormat format, SKColorType color, string type, bool gray)
    {
        var picture = PictureFile.Read(Make(format, color));
        Assert.Equal((type, 40, 20, gray), (picture.MediaType, picture.Width, picture.Height, picture.Gray));
    }

    /// <summary>A JPEG that a camera marked as turned (Exif 2.32, section 4.6.4, tag 0x0112).</summary>
    static byte[] Turned(byte orientation)
    {
        var jpeg = Make(SKEncodedImageFormat.Jpeg);
        byte[] exif = [.. "Exif\0\0"u8, .. "MM\0*"u8, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0, 0, 0, 0, 0];
        return [.. jpeg[..2], 0xFF, 0xE1, (byte)((exif.Length + 2) >> 8), (byte)(exif.Length + 2), .. exif, .. jpeg[2..]];
    }

    [Theory]
    [InlineData(1, 40, 20)]
    [InlineData(3, 40, 20)]
    [InlineData(6, 20, 40)]
    [InlineData(8, 20, 40)]
    [InlineData(99, 40, 20)]
    public void A_turned_photograph_stands_upright(byte orientation, int width, int height)
    {
        var picture = PictureFile.Read(Turned(orientation)).Upright();
        Assert.Equal((width, height), (picture.Width, picture.Height));
    }

    [Theory]
    [InlineData(SKEncodedImageFormat.Png)]
    [InlineData(SKEncodedImageFormat.Jpeg)]
    public void They_come_out_in_the_pdf_with_their_pixels(SKEncodedImageFormat format)
    {
        var picture = PictureFile.Read(Make(format));
        using var target = new MemoryStream();
        var writer = new PdfLetterWriter(target, _ => picture, new("x", "en-US", DateTimeOffset.UnixEpoch));
        for (var i = 0; i < 3; i++)
            writer.Add(null, [new LaidOutPage(612, 792, [new PictureItem(72, 72, 100, 50, "a")])]);
        writer.Finish();
        using var pdf = PdfDocument.Open(target.ToArray());
        var image = Assert.Single(pdf.GetPage(3).GetImages());
        Assert.Equal((40, 20), (image.WidthInSamples, image.HeightInSamples));
        Assert.Equal(792 - 72, image.BoundingBox.Top, 1);
        if (format == SKEncodedImageFormat.Png)
        {
            Assert.True(image.TryGetBytesAsMemory(out var bytes));
            Assert.Equal([30, 91, 74], bytes.Span[..3].ToArray());
        }
    }

    [Fact]
    public void A_jpeg_in_cmyk_and_one_that_is_too_large_are_refused()
    {
        var jpeg = Make(SKEncodedImageFormat.Jpeg);
        var frame = Enumerable.Range(2, jpeg.Length - 12).First(i => jpeg[i] == 0xFF && jpeg[i + 1] is 0xC0 or 0xC2 && jpeg[i] == 0xFF);
        var cmyk = jpeg.ToArray();
        cmyk[frame + 9] = 4;
        Assert.NotEmpty(Assert.Throws<PictureException>(() => PictureFile.Read(cmyk)).Message);
        var huge = jpeg.ToArray();
        (huge[frame + 5], huge[frame + 6], huge[frame + 7], huge[frame + 8]) = (0xFF, 0xFF, 0xFF, 0xFF);
        Assert.NotEmpty(Assert.Throws<PictureException>(() => PictureFile.Read(huge)).Message);
    }

    [Property(MaxTest = 150)]
    public void A_damaged_picture_is_read_or_refused_and_always_comes_back(int at, byte value, bool png)
    {
        var data = Make(png ? SKEncodedImageFormat.Png : SKEncodedImageFormat.Jpeg);
        data[Math.Abs(at % data.Length)] = value;
        try
        {
            Assert.True(PictureFile.Read(data).Width > 0);
        }
        catch (PictureException e)
        {
            Assert.NotEmpty(e.Message);
        }
        try
        {
            PictureFile.Read(data[..Math.Abs(at % data.Length)]);
        }
        catch (PictureException e)
        {
            Assert.NotEmpty(e.Message);
        }
    }
}
