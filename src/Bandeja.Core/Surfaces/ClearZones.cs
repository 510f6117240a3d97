using Bandeja.Core.Composition;

namespace Bandeja.Core.Surfaces;

/// <summary>A part of an envelope's face that the post wants clear.</summary>
/// <param name="Name">What it is called in a sentence.</param>
/// <param name="Allowed">What may stand there nevertheless.</param>
public sealed record ClearZone(string Name, Area Place, IReadOnlyList<BoxUse> Allowed);

/// <summary>Which zones of an envelope the posts want clear.</summary>
public static class ClearZones
{
    const double Inch = 72,
        Millimetre = 72 / 25.4;

    /// <summary>The zones of an envelope.</summary>
    /// <param name="country">ISO 3166-1 code of the post; null for none.</param>
    /// <param name="width">Of the envelope, points.</param>
    /// <param name="height">Of the envelope, points.</param>
    public static IReadOnlyList<ClearZone> Of(string? country, double width, double height) =>
        country switch
        {
            null => [],
            // USPS Domestic Mail Manual 202.5.1 (barcode clear zone, 4¾ by ⅝ inch in the lower right corner) and 604 (postage in the upper
            // right corner; 1.3 by 1.6 inch are left for it).
            "US" =>
            [
                new(
                    "the barcode clear zone",
                    new(Math.Max(0, width - 4.75 * Inch), height - 0.625 * Inch, Math.Min(width, 4.75 * Inch), 0.625 * Inch),
                    [BoxUse.Barcode]
                ),
                new("the postage area", new(width - 1.625 * Inch, 0, 1.625 * Inch, 1.375 * Inch), [BoxUse.Indicia, BoxUse.Endorsement]),
            ],
            // UPU Convention Manual, Regulations 17-109 (standardized items): 15 mm at the foot, 140 mm from the right edge, for coding; 40
            // mm by 74 mm in the upper right corner for franking.
            _ =>
            [
                new(
                    "the coding zone",
                    new(
                        Math.Max(0, width - 140 * Millimetre),
                        height - 15 * Millimetre,
                        Math.Min(width, 140 * Millimetre),
                        15 * Millimetre
                    ),
                    [BoxUse.Barcode]
                ),
                new(
                    "the franking zone",
                    new(Math.Max(0, width - 74 * Millimetre), 0, Math.Min(width, 74 * Millimetre), 40 * Millimetre),
                    [BoxUse.Indicia, BoxUse.Endorsement]
                ),
            ],
        };
}
