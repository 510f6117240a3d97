using System.Globalization;
using Bandeja.Core.Composition;

namespace Bandeja.Work.Composition;

/// <summary>A trial print: rulers from two edges and a cross, so that one reads off by how much the printer misses.</summary>
public static class TrialPage
{
    const double Millimetre = 72 / 25.4;

    /// <summary>The page, points.</summary>
    public static LaidOutPage Of(double width, double height, FontLibrary fonts)
    {
        const string ink = "000000";
        var items = new List<PageItem>();
        var layout = new ParagraphLayout(fonts);
        var style = new TextStyle("Source Sans 3", 8);
        void Say(string text, double x, double y)
        {
            foreach (var line in layout.Set([new(text, style)], style, new(TextAlign.Left, 1, 0), 400, new()))
                items.Add(new LineItem(x, y, line));
        }
        for (var mm = 5; mm <= 25; mm++)
        {
            var length = (mm % 5 == 0 ? 4 : 2) * Millimetre;
            items.Add(new RectangleItem(mm * Millimetre, height / 2, 0.4, length, ink));
            items.Add(new RectangleItem(width / 2, mm * Millimetre, length, 0.4, ink));
            if (mm % 5 != 0)
                continue;
            Say(mm.ToString(CultureInfo.InvariantCulture), mm * Millimetre - 4, height / 2 + 24);
            Say(mm.ToString(CultureInfo.InvariantCulture), width / 2 + 16, mm * Millimetre + 3);
        }
        Say(
            "Measure from the left edge to the line marked 10. Right " + "offset = 10 mm minus this distance.",
            30 * Millimetre,
            height / 2 + 10
        );
        Say("Measure from the top edge to the line marked 10. Down offset = 10 mm minus this distance.", width / 2 + 30, 12 * Millimetre);
        return new(width, height, items);
    }
}
