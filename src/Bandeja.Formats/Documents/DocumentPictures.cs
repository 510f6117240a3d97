using Bandeja.Core.Documents;
using Bandeja.Formats.Pdf;
using SkiaSharp;

namespace Bandeja.Formats.Documents;

/// <summary>The pictures of a document, each taken in once for each way in which it is cut and turned.</summary>
sealed class DocumentPictures(DocumentReport report)
{
    const int MaxPixels = 60_000_000;
    readonly Dictionary<string, DocumentPicture?> taken = [];
    int bytes;

    /// <summary>Those that were taken in.</summary>
    public IReadOnlyList<DocumentPicture> All => [.. taken.Values.OfType<DocumentPicture>()];

    /// <summary>Takes a picture in.</summary>
    /// <param name="key">What tells it from others, its cut and turn included.</param>
    /// <param name="crop">What is cut off at the left, top, right, and bottom, as shares of the whole.</param>
    /// <param name="turn">Degrees clockwise.</param>
    /// <returns>Null where it cannot be shown; that is in the report.</returns>
    public DocumentPicture? Take(
        string key,
        string name,
        byte[]? data,
        (double Left, double Top, double Right, double Bottom) crop = default,
        double turn = 0
    )
    {
        if (taken.TryGetValue(key, out var known))
            return known;
        return taken[key] = Taken(key, name, data, crop, turn);
    }

    DocumentPicture? Taken(string key, string name, byte[]? data, (double, double, double, double) crop, double turn)
    {
        if (data is null)
            return Left($"The picture {name} is missing in the file, or has more than {DocumentLimits.PictureSize >> 20} MB.");
        if (taken.Count >= DocumentLimits.Pictures)
            return Left($"The document has more than {DocumentLimits.Pictures} pictures. The rest were not imported.");
        if ((bytes += data.Length) > 4 * DocumentLimits.PictureSize)
            return Left(
                $"The document's pictures have more than {4 * DocumentLimits.PictureSize >> 20} MB in total; {name} was not imported."
            );
        var ending = Path.GetExtension(name).ToLowerInvariant();
        if (ending is ".emf" or ".wmf")
            return Left(
                $"The drawing {name} is in the format {ending[1..].ToUpperInvariant()}, which is not supported. Save it as "
                    + "SVG or PNG and insert it again."
            );
        try
        {
            if (crop == default && turn == 0 && IsReady(data))
                return new(key, name, PictureFile.Accept(data).Data);
            return new(key, Path.ChangeExtension(name, ".png"), PictureFile.Accept(Drawn(data, crop, turn)).Data);
        }
        catch (PictureException e)
        {
            return Left($"The picture {name} could not be used: {e.Message}");
        }
    }

    DocumentPicture? Left(string why)
    {
        report.Say(Carried.Left, why);
        return null;
    }

    static bool IsReady(byte[] data) =>
        data is [0xFF, 0xD8, ..] or [0x89, 0x50, ..] or [(byte)'<', ..] or [0xEF, 0xBB, 0xBF, (byte)'<', ..];

    /// <summary>A picture cut and turned, or brought into a form that can be printed.</summary>
    static byte[] Drawn(byte[] data, (double Left, double Top, double Right, double Bottom) crop, double turn)
    {
        using var codec = SKCodec.Create(new SKMemoryStream(data)) ?? throw new PictureException("its form is not known.");
        if ((long)codec.Info.Width * codec.Info.Height > MaxPixels)
            throw new PictureException($"it has more than {MaxPixels / 1_000_000} million pixels.");
        using var whole = SKBitmap.Decode(codec) ?? throw new PictureException("it is damaged.");
        static double Share(double s) => Math.Clamp(s, 0, 0.98);
        var (w, h) = (whole.Width, whole.Height);
        var part = SKRectI.Create(
            (int)(w * Share(crop.Left)),
            (int)(h * Share(crop.Top)),
            Math.Max(1, (int)(w * (1 - Share(crop.Left) - Share(crop.Right)))),
            Math.Max(1, (int)(h * (1 - Share(crop.Top) - Share(crop.Bottom))))
        );
        var angle = turn * Math.PI / 180;
        var (cos, sin) = (Math.Abs(Math.Cos(angle)), Math.Abs(Math.Sin(angle)));
        using var surface = SKSurface.Create(
            new SKImageInfo(
                Math.Max(1, (int)Math.Round(part.Width * cos + part.Height * sin)),
                Math.Max(1, (int)Math.Round(part.Width * sin + part.Height * cos)),
                SKColorType.Rgba8888,
                SKAlphaType.Premul
            )
        );
        var canvas = surface.Canvas;
        canvas.Clear(SKColors.Transparent);
        canvas.Translate(surface.Canvas.DeviceClipBounds.Width / 2f, surface.Canvas.DeviceClipBounds.Height / 2f);
        canvas.RotateDegrees((float)turn);
        using var image = SKImage.FromBitmap(whole);
        canvas.DrawImage(
            image,
            part,
            SKRect.Create(-part.Width / 2f, -part.Height / 2f, part.Width, part.Height),
            new SKSamplingOptions(SKCubicResampler.Mitchell)
        );
        using var drawn = surface.Snapshot();
        using var png = drawn.Encode(SKEncodedImageFormat.Png, 100);
        return png.ToArray();
    }
}
