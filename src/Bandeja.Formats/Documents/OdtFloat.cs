using System.Globalization;
using System.Text.RegularExpressions;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>How frames of an OpenDocument text look: their line and color, and how pictures in them are cut and turned.</summary>
static partial class OdtFloat
{
    /// <summary>The look of a box (OpenDocument 1.2, 20.175 to 20.187).</summary>
    /// <param name="said">What the frame's style says.</param>
    public static WordShape Shape(Func<string, string?> said)
    {
        var line = said("border") ?? said("border-top");
        (double, string)? drawn = null;
        if (line is not null && !line.StartsWith("none", StringComparison.Ordinal))
        {
            var parts = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            drawn = (
                Math.Clamp(parts.Select(p => Points(p, 1)).FirstOrDefault(w => w is > 0) ?? 0.75, 0.25, 20),
                Color(parts.FirstOrDefault(p => p.StartsWith('#'))?.TrimStart('#')) ?? "000000"
            );
        }
        var shade = said("fill") is "none" ? null : said("fill-color") ?? said("background-color");
        return new(
            Color(shade?.TrimStart('#')),
            drawn,
            Math.Clamp(Points(said("padding"), 1) ?? Points(said("padding-left"), 1) ?? 0, 0, 100)
        );
    }

    /// <summary>What is cut off a picture, as shares of the whole (20.179). The measures are those of the picture as it stands, with what
    /// was cut off.</summary>
    public static (double Left, double Top, double Right, double Bottom) Cut(string? clip, double width, double height)
    {
        var match = Clip().Match(clip ?? "");
        if (!match.Success)
            return default;
        double Of(string side) => Math.Max(0, Points(match.Groups[side].Value, 1) ?? 0);
        var (top, right, bottom, left) = (Of("top"), Of("right"), Of("bottom"), Of("left"));
        var (w, h) = (width + left + right, height + top + bottom);
        return w <= 0 || h <= 0 ? default : (left / w, top / h, right / w, bottom / h);
    }

    [GeneratedRegex(@"rect\(\s*(?<top>[\w.-]+)[\s,]+(?<right>[\w.-]+)[\s,]+(?<bottom>[\w.-]+)[\s,]+(?<left>[\w.-]+)\s*\)")]
    private static partial Regex Clip();

    /// <summary>Degrees clockwise that a frame is turned (20.177); the file has them in radians, counted against the clock.</summary>
    public static double Turn(string? transform) =>
        Rotate().Match(transform ?? "") is { Success: true } match
        && double.TryParse(match.Groups["angle"].Value, NumberStyles.Float, CultureInfo.InvariantCulture, out var angle)
            ? Math.Round(-angle * 180 / Math.PI, 2) % 360
            : 0;

    [GeneratedRegex(@"rotate\s*\(\s*(?<angle>[-+0-9.eE]+)\s*\)")]
    private static partial Regex Rotate();
}
