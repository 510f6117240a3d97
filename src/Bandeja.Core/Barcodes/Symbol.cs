using System.Collections.Concurrent;
using System.Text;
using ZXing;
using ZXing.Common;
using ZXing.Datamatrix;
using ZXing.OneD;
using ZXing.QrCode;
using ZXing.QrCode.Internal;

namespace Bandeja.Core.Barcodes;

/// <summary>The barcodes that can be drawn.</summary>
public enum Symbology
{
    /// <summary>QR code, ISO/IEC 18004.</summary>
    Qr,

    /// <summary>Code 128, ISO/IEC 15417.</summary>
    Code128,

    /// <summary>Data Matrix ECC 200, ISO/IEC 16022.</summary>
    DataMatrix,

    /// <summary>Intelligent Mail barcode, USPS-B-3200.</summary>
    IntelligentMail,
}

/// <summary>A content that its symbology cannot hold. The message is for the user.</summary>
public sealed class BarcodeContentException(string message) : Exception(message);

/// <summary>Dark bars or modules of a barcode, in units of one module, the quiet zone left out.</summary>
/// <param name="Width">Modules across.</param>
/// <param name="Height">Modules down; 1 for bars, which are as tall as is wanted.</param>
/// <param name="Dark">Dark rectangles: left, top, width, height.</param>
/// <param name="Quiet">Modules that must stay clear on each side.</param>
public sealed record Symbol(int Width, int Height, IReadOnlyList<(int X, int Y, int Width, int Height)> Dark, int Quiet)
{
    const int Kept = 2048;
    static readonly ConcurrentDictionary<(Symbology, string), Symbol> Known = [];

    /// <summary>Encodes a content.</summary>
    /// <exception cref="BarcodeContentException">The symbology cannot hold it.</exception>
    public static Symbol Of(Symbology symbology, string content)
    {
        if (Known.TryGetValue((symbology, content), out var known))
            return known;
        if (Known.Count >= Kept)
            Known.Clear();
        return Known[(symbology, content)] = Encode(symbology, content);
    }

    static Symbol Encode(Symbology symbology, string content)
    {
        if (content.Length == 0)
            throw new BarcodeContentException("The barcode has no content.");
        try
        {
            return symbology switch
            {
                Symbology.Qr => Matrix(
                    new QRCodeWriter().encode(
                        content,
                        BarcodeFormat.QR_CODE,
                        0,
                        0,
                        new Dictionary<EncodeHintType, object>
                        {
                            [EncodeHintType.MARGIN] = 0,
                            [EncodeHintType.ERROR_CORRECTION] = ErrorCorrectionLevel.M,
                            // Without an extended channel plain ASCII stays as compact as it can be.
                            [EncodeHintType.CHARACTER_SET] = Ascii.IsValid(content) ? "ISO-8859-1" : "UTF-8",
                            [EncodeHintType.DISABLE_ECI] = Ascii.IsValid(content),
                        }
                    ),
                    4
                ),
                Symbology.DataMatrix => DataMatrix(content),
                Symbology.Code128 => Bars(content),
                _ => throw new BarcodeContentException("An Intelligent Mail barcode is built from the address and has no other content."),
            };
        }
        catch (Exception e) when (e is WriterException or ArgumentException or InvalidOperationException or IndexOutOfRangeException)
        {
            throw new BarcodeContentException(
                $"{NameOf(symbology)} cannot hold “{(content.Length > 40 ? content[..39] + "…" : content)}” ({content.Length} "
                    + $"characters): {Limit(symbology)}"
            );
        }
    }

    static Symbol DataMatrix(string content)
    {
        if (!content.All(c => c < 256))
            throw new BarcodeContentException(
                $"A Data Matrix code can hold only Latin letters, digits, and signs, not “{content.First(c => c >= 256)}”. "
                    + "A QR code can hold every character."
            );
        return Matrix(
            new DataMatrixWriter().encode(
                content,
                BarcodeFormat.DATA_MATRIX,
                0,
                0,
                new Dictionary<EncodeHintType, object>
                {
                    [EncodeHintType.MARGIN] = 0,
                    [EncodeHintType.DATA_MATRIX_SHAPE] = ZXing.Datamatrix.Encoder.SymbolShapeHint.FORCE_SQUARE,
                }
            ),
            1
        );
    }

    static Symbol Bars(string content)
    {
        if (content.Any(c => c is < ' ' or > '~'))
            throw new BarcodeContentException(
                "Code 128 can hold only letters without accents, digits, and signs, not "
                    + $"“{content.First(c => c is < ' ' or > '~')}”. A QR code can hold every character."
            );
        if (content.Length > 80)
            throw new BarcodeContentException(
                $"Code 128 cannot hold “{content[..39]}…” ({content.Length} characters): {Limit(Symbology.Code128)}"
            );
        var modules = new Code128Writer().encode(content);
        var bars = new List<(int, int, int, int)>();
        for (var i = 0; i < modules.Length; i++)
        {
            if (!modules[i])
                continue;
            var start = i;
            while (i + 1 < modules.Length && modules[i + 1])
                i++;
            bars.Add((start, 0, i - start + 1, 1));
        }
        return new(modules.Length, 1, bars, 10);
    }

    static Symbol Matrix(BitMatrix matrix, int quiet)
    {
        var dark = new List<(int, int, int, int)>();
        for (var y = 0; y < matrix.Height; y++)
        for (var x = 0; x < matrix.Width; x++)
        {
            if (!matrix[x, y])
                continue;
            var start = x;
            while (x + 1 < matrix.Width && matrix[x + 1, y])
                x++;
            dark.Add((start, y, x - start + 1, 1));
        }
        return new(matrix.Width, matrix.Height, dark, quiet);
    }

    /// <summary>What a symbology is called.</summary>
    public static string NameOf(Symbology symbology) =>
        symbology switch
        {
            Symbology.Qr => "A QR code",
            Symbology.Code128 => "Code 128",
            Symbology.DataMatrix => "A Data Matrix code",
            _ => "An Intelligent Mail barcode",
        };

    static string Limit(Symbology symbology) =>
        symbology switch
        {
            Symbology.Qr => "at most 2,331 Latin characters.",
            Symbology.DataMatrix => "at most 1,555 characters.",
            _ => "at most 80 characters.",
        };
}
