using Bandeja.Core.Barcodes;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Surfaces;

/// <summary>Holds a finished envelope against what the post takes: its size, where a barcode may stand, what must be on it.</summary>
static class PostalCheck
{
    const double Inch = 72,
        Millimetre = 72 / 25.4;

    /// <summary>What printers leave blank at the edge; most take 3 mm and more.</summary>
    public const double Edge = 3 * Millimetre;

    /// <summary>A sentence where the post refuses the size or charges more for it; null where all is well.</summary>
    /// <param name="zones">Whose post, ISO 3166-1; null for none.</param>
    public static string? OfSize(string? zones, double width, double height)
    {
        var (longer, shorter) = (Math.Max(width, height), Math.Min(width, height));
        switch (zones)
        {
            case null:
                return null;
            case "US":
                // Domestic Mail Manual 601.1.1 (least size), 201.1.1 (letters up to 6 1/8 by 11 1/2 inches, length by height 1.3 to 2.5),
                // 201.2.1 (flats up to 12 by 15).
                if (longer < 5 * Inch - 0.1 || shorter < 3.5 * Inch - 0.1)
                    return "The envelope is smaller than 3½ by 5 inches, the smallest the postal service accepts.";
                if (longer > 15 * Inch + 0.1 || shorter > 12 * Inch + 0.1)
                    return "The envelope is larger than 12 by 15 inches, so it is mailed as a parcel.";
                if (longer <= 11.5 * Inch + 0.1 && shorter <= 6.125 * Inch + 0.1 && longer / shorter is < 1.3 or > 2.5)
                    return $"The envelope is {longer / shorter:0.00} times as long as it is high. Outside 1.3 to 2.5, the postal service "
                        + "charges more, because machines cannot sort it.";
                return null;
            default:
                // UPU Convention Manual, Regulations 17-104 (limits of size of letters).
                if (longer < 140 * Millimetre - 0.1 || shorter < 90 * Millimetre - 0.1)
                    return "The envelope is smaller than 90 by 140 mm, the smallest that postal services accept.";
                if (longer > 600 * Millimetre + 0.1 || longer + shorter > 900 * Millimetre + 0.1)
                    return "The envelope is larger than postal services accept: 600 mm long, 900 mm with its height.";
                // Regulations 17-109: machines want letters at least 1.4 times as long as high.
                return longer <= 235 * Millimetre && shorter <= 120 * Millimetre && longer / shorter < 1.4
                    ? $"The envelope is {longer / shorter:0.00} times as long as it is high; machines sort letters from 1.4 on."
                    : null;
        }
    }

    /// <summary>True where an Intelligent Mail barcode stands where it may: in the lower right corner or with the address.</summary>
    public static bool IsWellPlaced(Area bars, double width, double height)
    {
        var (fromRight, fromBottom, top) = (width - bars.X, height - bars.Bottom, height - bars.Y);
        // Domestic Mail Manual 202.5.2: in the clear zone, the first bar 3½ to 4¼ inches from the right edge, the bars 3/16 to ½ inch from
        // the lower one.
        var corner =
            fromRight >= 3.5 * Inch - 0.5 && fromRight <= 4.25 * Inch + 0.5 && fromBottom >= 0.1875 * Inch - 0.5 && top <= 0.5 * Inch + 0.5;
        // 202.5.3: with the address, at least ⅝ and at most 4 inches from the lower edge, ½ inch from the sides.
        var address =
            fromBottom >= 0.625 * Inch - 0.5
            && top <= 4 * Inch + 0.5
            && bars.X >= 0.5 * Inch - 0.5
            && width - bars.Right >= 0.5 * Inch - 0.5;
        return corner || address;
    }

    /// <summary>True for the bars of an Intelligent Mail barcode, which has 65 of them at one pitch.</summary>
    public static bool IsIntelligentMail(BarsItem bars) =>
        bars.Bars.Count == IntelligentMail.Bars && Math.Abs(bars.Width - IntelligentMail.Width) < 0.01;
}
