using Bandeja.Core.Barcodes;
using Bandeja.Formats.Pdf;
using SkiaSharp;

namespace Bandeja.Formats.Mail;

/// <summary>Pictures as mail programs show them: PNG or JPEG. Drawings and barcodes are drawn at twice their size, for screens that are
/// that fine.</summary>
public static class MailPictures
{
    const int Fine = 2;

    /// <summary>A picture of a design.</summary>
    /// <param name="width">CSS pixels.</param>
    /// <param name="height">CSS pixels.</param>
    /// <returns>Null for the page of a PDF, which no mail program shows.</returns>
    public static (byte[] Data, string MediaType)? Of(PictureFile file, double width, double height) =>
        file.MediaType switch
        {
            "image/png" or "image/jpeg" => (file.Data, file.MediaType),
            "image/svg+xml" => (
                Drawn(
                    (int)Math.Ceiling(width) * Fine,
                    (int)Math.Ceiling(height) * Fine,
                    SKColors.Transparent,
                    canvas => SvgDrawing.Draw(file.Data, canvas, (float)(width * Fine), (float)(height * Fine))
                ),
                "image/png"
            ),
            _ => null,
        };

    /// <summary>A barcode, its quiet zone included, dark on white.</summary>
    public static (byte[] Data, string MediaType) Of(Symbol symbol, double width, double height)
    {
        var across = symbol.Width + 2 * symbol.Quiet;
        // Whole pixels for each module: what lies between them is read badly.
        var module = Math.Max(1, (int)(width * Fine / across));
        var isLine = symbol.Height == 1;
        var tall = isLine ? (int)(height * Fine) : (symbol.Height + 2 * symbol.Quiet) * module;
        return (
            Drawn(
                across * module,
                tall,
                SKColors.White,
                canvas =>
                {
                    using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = false };
                    foreach (var (x, y, w, h) in symbol.Dark)
                        canvas.DrawRect(
                            (x + symbol.Quiet) * module,
                            isLine ? 0 : (y + symbol.Quiet) * module,
                            w * module,
                            isLine ? tall : h * module,
                            ink
                        );
                }
            ),
            "image/png"
        );
    }

    static byte[] Drawn(int width, int height, SKColor ground, Action<SKCanvas> draw)
    {
        using var bitmap = new SKBitmap(
            new SKImageInfo(Math.Clamp(width, 1, 4000), Math.Clamp(height, 1, 4000), SKColorType.Rgba8888, SKAlphaType.Premul)
        );
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(ground);
        draw(canvas);
        canvas.Flush();
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }
}
