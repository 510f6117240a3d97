using System.Runtime.InteropServices;
using SkiaSharp;

namespace Bandeja.Formats.Pdf;

/// <summary>A picture that cannot be used. The message is for the user.</summary>
public sealed class PictureException(string message) : Exception(message);

/// <summary>A picture (PNG, JPEG), a drawing (SVG) or the page of a PDF, looked at once.</summary>
/// <param name="MediaType">image/png, image/jpeg, image/svg+xml or application/pdf.</param>
/// <param name="Width">Pixels; for drawings their units, for a PDF points.</param>
/// <param name="Height">As <paramref name="Width"/>.</param>
public sealed record PictureFile(byte[] Data, string MediaType, int Width, int Height, bool Gray)
{
    const int MaxPixels = 60_000_000;

    /// <summary>True where it has no pixels and is sharp at any size.</summary>
    public bool IsDrawing => MediaType is "image/svg+xml" or "application/pdf";

    static bool IsSvg(byte[] data)
    {
        var head = System.Text.Encoding.UTF8.GetString(data.AsSpan(0, Math.Min(data.Length, 4096))).TrimStart('\uFEFF', ' ', '\n', '\r', '\t');
        return head.StartsWith('<') && head.Contains("<svg", StringComparison.Ordinal);
    }

    /// <summary>Reads a picture's kind and size.</summary>
    /// <exception cref="PictureException">It is no picture, damaged, or too large.</exception>
    public static PictureFile Read(byte[] data)
    {
        if (data is [0x25, 0x50, 0x44, 0x46, ..])
        {
            var (w, h) = PdfImport.Size(data);
            return new(data, "application/pdf", (int)Math.Round(w), (int)Math.Round(h), false);
        }
        if (IsSvg(data))
        {
            var clean = SvgDrawing.Clean(data);
            var (w, h) = SvgDrawing.Size(clean);
            return new(clean, "image/svg+xml", Math.Max(1, (int)Math.Round(w)), Math.Max(1, (int)Math.Round(h)), false);
        }
        var jpeg = data is [0xFF, 0xD8, 0xFF, ..];
        if (!jpeg && data is not [0x89, 0x50, 0x4E, 0x47, ..]) throw new PictureException("This is not a picture in PNG, JPEG or SVG form, nor a PDF.");
        using var codec = SKCodec.Create(new SKMemoryStream(data)) ?? throw Damaged();
        var (width, height) = (codec.Info.Width, codec.Info.Height);
        if ((long)width * height > MaxPixels) throw new PictureException($"The picture has {width:N0} × {height:N0} pixels; the limit is {MaxPixels / 1_000_000} million.");
        var parts = jpeg ? JpegComponents(data) : 0;
        if (parts == 4) throw new PictureException("The picture is a JPEG in CMYK. Save it as RGB and bring it in again.");
        Pixels(codec);
        return new(data, jpeg ? "image/jpeg" : "image/png", width, height, parts == 1);
    }

    static PictureException Damaged() => new("The picture is damaged and cannot be read.");

    /// <summary>The number of colour components that a JPEG's frame header names (ITU-T T.81, B.2.2); 0 where there is none.</summary>
    static int JpegComponents(byte[] data)
    {
        for (var i = 2; i + 9 < data.Length && data[i] == 0xFF;)
        {
            var marker = data[i + 1];
            if (marker is >= 0xC0 and <= 0xCF and not 0xC4 and not 0xC8 and not 0xCC) return data[i + 9];
            i += 2 + (data[i + 2] << 8 | data[i + 3]);
        }
        return 0;
    }

    /// <summary>The pixels as red, green, blue, alpha, not premultiplied; a picture that breaks off is damaged.</summary>
    static byte[] Pixels(SKCodec codec)
    {
        var info = new SKImageInfo(codec.Info.Width, codec.Info.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul);
        var pixels = new byte[info.BytesSize];
        var held = GCHandle.Alloc(pixels, GCHandleType.Pinned);
        try { return codec.GetPixels(info, held.AddrOfPinnedObject()) == SKCodecResult.Success ? pixels : throw Damaged(); }
        finally { held.Free(); }
    }

    RecordedObjects? recorded;

    /// <summary>Writes the picture as an XObject; answers its number.</summary>
    internal int Write(PdfObjects objects) => (recorded ??= new(WriteAnew)).Write(objects);

    /// <summary>An image XObject (8.9.5), its transparency as a soft mask; a drawing or a page as a form XObject.</summary>
    int WriteAnew(PdfObjects objects)
    {
        if (IsDrawing) return PdfImport.Write(MediaType == "application/pdf" ? Data : SvgDrawing.ToPdf(Data), objects);
        var number = objects.Reserve();
        var common = $"/Type/XObject/Subtype/Image/Width {Width}/Height {Height}/BitsPerComponent 8";
        if (MediaType == "image/jpeg")
        {
            objects.Stream(number, $"{common}/ColorSpace/{(Gray ? "DeviceGray" : "DeviceRGB")}/Filter/DCTDecode", Data, deflate: false);
            return number;
        }
        using var codec = SKCodec.Create(new SKMemoryStream(Data)) ?? throw Damaged();
        var pixels = Pixels(codec);
        var rgb = new byte[Width * Height * 3];
        var alpha = new byte[Width * Height];
        var opaque = true;
        for (var i = 0; i < alpha.Length; i++)
        {
            rgb[i * 3] = pixels[i * 4];
            rgb[i * 3 + 1] = pixels[i * 4 + 1];
            rgb[i * 3 + 2] = pixels[i * 4 + 2];
            alpha[i] = pixels[i * 4 + 3];
            opaque &= alpha[i] == 255;
        }
        var mask = "";
        if (!opaque)
        {
            var maskNumber = objects.Reserve();
            objects.Stream(maskNumber, $"{common}/ColorSpace/DeviceGray", alpha);
            mask = $"/SMask {maskNumber} 0 R";
        }
        objects.Stream(number, $"{common}/ColorSpace/DeviceRGB{mask}", rgb);
        return number;
    }
}
