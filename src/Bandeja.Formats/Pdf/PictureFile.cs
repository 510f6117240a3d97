using System.Runtime.InteropServices;
using SkiaSharp;

namespace Bandeja.Formats.Pdf;

/// <summary>A picture that cannot be used. The message is for the user.</summary>
public class PictureException(string message) : Exception(message);

/// <summary>A PDF that opens only with a password, which is missing or another. The message is for the user.</summary>
public sealed class LockedPdfException(string message) : PictureException(message);

/// <summary>A picture (PNG, JPEG), a drawing (SVG) or the page of a PDF, looked at once.</summary>
/// <param name="MediaType">image/png, image/jpeg, image/svg+xml or application/pdf.</param>
/// <param name="Width">Pixels; for drawings their units, for a PDF points.</param>
/// <param name="Height">As <paramref name="Width"/>.</param>
/// <param name="Pages">For a PDF: how many pages it has.</param>
public sealed record PictureFile(byte[] Data, string MediaType, int Width, int Height, bool Gray, int Pages = 1)
{
    /// <summary>For a PDF: which of its pages is drawn, from 1.</summary>
    public int Page
    {
        get;
        // What was recorded is another page.
        init => (field, recorded) = (value, null);
    } = 1;

    /// <summary>For a PDF: the password that opens it; null for none.</summary>
    public string? Password { get; init; }

    const int MaxPixels = 60_000_000;

    /// <summary>True where it has no pixels and is sharp at any size.</summary>
    public bool IsDrawing => MediaType is "image/svg+xml" or "application/pdf";

    static bool IsSvg(byte[] data)
    {
        var head = System
            .Text.Encoding.UTF8.GetString(data.AsSpan(0, Math.Min(data.Length, 4096)))
            .TrimStart('\uFEFF', ' ', '\n', '\r', '\t');
        return head.StartsWith('<') && head.Contains("<svg", StringComparison.Ordinal);
    }

    /// <summary>Reads a picture that somebody brought, turns it upright, and draws it once, so that what was taken in can be
    /// printed.</summary>
    /// <param name="password">What opens a locked PDF; null for none.</param>
    /// <exception cref="PictureException">It is no picture, damaged, locked, or too large.</exception>
    public static PictureFile Accept(byte[] data, string? password = null)
    {
        if (IsPdf(data))
            PdfImport.Accept(data, password);
        return Read(data, password).Upright();
    }

    static bool IsPdf(byte[] data) => data is [0x25, 0x50, 0x44, 0x46, ..];

    /// <summary>Reads the kind and size of a picture that was taken in before.</summary>
    /// <param name="password">What opens a locked PDF; null for none.</param>
    /// <exception cref="PictureException">It is no picture, damaged, locked, or too large.</exception>
    public static PictureFile Read(byte[] data, string? password = null)
    {
        if (IsPdf(data))
        {
            var (w, h, pages) = PdfImport.Size(data, password);
            return new(data, "application/pdf", (int)Math.Round(w), (int)Math.Round(h), false, pages)
            {
                Password = password,
                source = new(data, password),
            };
        }
        if (IsSvg(data))
        {
            var clean = SvgDrawing.Clean(data);
            var (w, h) = SvgDrawing.Size(clean);
            return new(clean, "image/svg+xml", Math.Max(1, (int)Math.Round(w)), Math.Max(1, (int)Math.Round(h)), false);
        }
        var jpeg = data is [0xFF, 0xD8, 0xFF, ..];
        if (!jpeg && data is not [0x89, 0x50, 0x4E, 0x47, ..])
            throw new PictureException("This file is not a PNG, JPEG, SVG, or PDF.");
        using var codec = SKCodec.Create(new SKMemoryStream(data)) ?? throw Damaged();
        var (width, height) = (codec.Info.Width, codec.Info.Height);
        if ((long)width * height > MaxPixels)
            throw new PictureException($"The picture has {width:N0} × {height:N0} pixels; the limit is {MaxPixels / 1_000_000} million.");
        var parts = jpeg ? JpegComponents(data) : 0;
        if (parts == 4)
            throw new PictureException("This JPEG uses CMYK color. Save it as RGB and add it again.");
        Pixels(codec);
        return new(data, jpeg ? "image/jpeg" : "image/png", width, height, parts == 1);
    }

    /// <summary>
    /// The picture as it is meant to be seen: turned and mirrored as its camera noted (Exif 2.32, tag 0x0112, Orientation), and saved
    /// without that
    /// note, so that nothing turns it twice.
    /// </summary>
    public PictureFile Upright()
    {
        if (IsDrawing)
            return this;
        using var codec = SKCodec.Create(new SKMemoryStream(Data)) ?? throw Damaged();
        var origin = codec.EncodedOrigin;
        if (origin is SKEncodedOrigin.TopLeft)
            return this;
        using var bitmap = SKBitmap.Decode(codec) ?? throw Damaged();
        var turned =
            origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var (width, height) = turned ? (bitmap.Height, bitmap.Width) : (bitmap.Width, bitmap.Height);
        using var surface =
            SKSurface.Create(
                new SKImageInfo(width, height, SKColorType.Rgba8888, MediaType == "image/jpeg" ? SKAlphaType.Opaque : SKAlphaType.Premul)
            ) ?? throw Damaged();
        // The matrices of the eight orientations, from the stored picture to the seen one.
        var (w, h) = ((float)bitmap.Width, (float)bitmap.Height);
        surface.Canvas.SetMatrix(
            origin switch
            {
                SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
                SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
                SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
                SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
                _ => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
            }
        );
        surface.Canvas.DrawBitmap(bitmap, 0, 0);
        using var image = surface.Snapshot();
        using var data = image.Encode(MediaType == "image/jpeg" ? SKEncodedImageFormat.Jpeg : SKEncodedImageFormat.Png, 95);
        return Read(data.ToArray());
    }

    /// <summary>How many bytes the picture adds to a PDF that shows it.</summary>
    public long WrittenSize()
    {
        using var target = new CountingStream();
        Write(new PdfObjects(target));
        return target.Written;
    }

    sealed class CountingStream : Stream
    {
        public long Written { get; private set; }

        public override void Write(ReadOnlySpan<byte> buffer) => Written += buffer.Length;

        public override void Write(byte[] buffer, int offset, int count) => Written += count;

        public override bool CanRead => false;
        public override bool CanSeek => false;
        public override bool CanWrite => true;
        public override long Length => Written;
        public override long Position
        {
            get => Written;
            set => throw new NotSupportedException();
        }

        public override void Flush() { }

        public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();
    }

    static PictureException Damaged() => new("The picture is damaged and cannot be read.");

    /// <summary>The number of color components that a JPEG's frame header names (ITU-T T.81, B.2.2); 0 where there is none.</summary>
    static int JpegComponents(byte[] data)
    {
        for (var i = 2; i + 9 < data.Length && data[i] == 0xFF; )
        {
            var marker = data[i + 1];
            if (marker is >= 0xC0 and <= 0xCF and not 0xC4 and not 0xC8 and not 0xCC)
                return data[i + 9];
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
        try
        {
            return codec.GetPixels(info, held.AddrOfPinnedObject()) == SKCodecResult.Success ? pixels : throw Damaged();
        }
        finally
        {
            held.Free();
        }
    }

    RecordedObjects? recorded;

    // Copies for other pages have it in common.
    PdfSource? source;

    IReadOnlyList<PdfTag>? tags;

    /// <summary>For a PDF: its structure; empty where it is not tagged.</summary>
    internal IReadOnlyList<PdfTag> Tags => tags ??= MediaType == "application/pdf" ? PdfTags.Of(Data, Password) : [];

    /// <summary>Writes the picture as an XObject; answers its number.</summary>
    internal int Write(PdfObjects objects) => Write(objects, null).Number;

    /// <summary>Writes the picture as an XObject; answers its number, and that of the object with its content.</summary>
    /// <param name="key">Under which its marked parts are found in the file's structure; null where the file has none.</param>
    internal (int Number, int Content) Write(PdfObjects objects, int? key) => (recorded ??= new(WriteAnew)).Write(objects, key)[0];

    RecordedObjects? allRecorded;

    /// <summary>Writes all pages of a PDF, what they have in common once; answers the number of each, and of the object with its
    /// content.</summary>
    /// <param name="newKeys">Answers the first of so many keys under which the marked parts of pages are found in the file's structure;
    /// null where it has none.</param>
    internal IReadOnlyList<(int Number, int Content, int? Key)> WriteAll(PdfObjects objects, Func<int, int>? newKeys)
    {
        var all = allRecorded ??= new(o => source!.Write(o, 0));
        var first = newKeys?.Invoke(all.Roots);
        return [.. all.Write(objects, first).Select((w, i) => (w.Root, w.Content, first + i))];
    }

    /// <summary>An image XObject (8.9.5), its transparency as a soft mask; a drawing or a page as a form XObject.</summary>
    IReadOnlyList<(int Number, int Content)> WriteAnew(PdfObjects objects)
    {
        if (IsDrawing)
            return (source ??= new(MediaType == "application/pdf" ? Data : SvgDrawing.ToPdf(Data), Password)).Write(objects, Page);
        var number = objects.Reserve();
        var common = $"/Type/XObject/Subtype/Image/Width {Width}/Height {Height}/BitsPerComponent 8";
        if (MediaType == "image/jpeg")
        {
            objects.Stream(number, $"{common}/ColorSpace/{(Gray ? "DeviceGray" : "DeviceRGB")}/Filter/DCTDecode", Data, deflate: false);
            return [(number, number)];
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
        return [(number, number)];
    }
}
