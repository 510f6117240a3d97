using System.Globalization;

namespace Bandeja.Core.Emails;

/// <summary>How well one color is read on another (WCAG 2.2, definitions of contrast ratio and relative luminance).</summary>
static class Contrast
{
    /// <summary>From 1, the same, to 21, black on white.</summary>
    /// <param name="one">RRGGBB.</param>
    /// <param name="other">RRGGBB.</param>
    public static double With(string one, string other)
    {
        var (a, b) = (Luminance(one), Luminance(other));
        return (Math.Max(a, b) + 0.05) / (Math.Min(a, b) + 0.05);
    }

    static double Luminance(string color)
    {
        double Part(int at)
        {
            var c = int.Parse(color.AsSpan(at, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture) / 255.0;
            return c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);
        }
        return 0.2126 * Part(0) + 0.7152 * Part(2) + 0.0722 * Part(4);
    }
}
