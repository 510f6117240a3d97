namespace Bandeja.Core.Surfaces;

/// <summary>A standard size of envelope, landscape, millimetres.</summary>
/// <param name="Id">What it is called in a design.</param>
/// <param name="Name">What it is called by the trade.</param>
public sealed record EnvelopeFormat(string Id, string Name, double Width, double Height)
{
    const double Inch = 25.4;

    /// <summary>The sizes: North American commercial, booklet, catalog and announcement sizes in inches, and ISO 269.</summary>
    public static readonly IReadOnlyList<EnvelopeFormat> All =
    [
        new("no10", "No. 10", 9.5 * Inch, 4.125 * Inch),
        new("no9", "No. 9", 8.875 * Inch, 3.875 * Inch),
        new("no634", "No. 6¾", 6.5 * Inch, 3.625 * Inch),
        new("6x9", "6 × 9", 9 * Inch, 6 * Inch),
        new("9x12", "9 × 12", 12 * Inch, 9 * Inch),
        new("a7", "A7", 7.25 * Inch, 5.25 * Inch),
        new("dl", "DL", 220, 110),
        new("c6", "C6", 162, 114),
        new("c5", "C5", 229, 162),
        new("c4", "C4", 324, 229),
        new("b5", "B5", 250, 176),
    ];
}
