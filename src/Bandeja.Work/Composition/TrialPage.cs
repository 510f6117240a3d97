using System.Globalization;
using Bandeja.Core.Composition;

namespace Bandeja.Work.Composition;

/// <summary>A trial print: rulers from two edges and a cross, so that one reads off by how much the printer misses.</summary>
public static class TrialPage
{
    const double Millimetre = 72 / 25.4;

    /// <summary>The page, points.</summary>
    /// <param name="inInches">Whether its rulers are in inches, otherwise in millimeters.</param>
    public static LaidOutPage Of(double width, double height, FontLibrary fonts, bool inInches)
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
        // Millimeters with a number at every fifth, or sixteenths of an inch with one at every quarter.
        var (unit, every, mark, name) = inInches ? (72.0 / 16, 4, "0.5", "0.5 in") : (Millimetre, 5, "10", "10 mm");
        for (var n = inInches ? 4 : 5; n <= (inInches ? 16 : 25); n++)
        {
            var (at, length) = (n * unit, (n % every == 0 ? 4 : 2) * Millimetre);
            items.Add(new RectangleItem(at, height / 2, 0.4, length, ink));
            items.Add(new RectangleItem(width / 2, at, length, 0.4, ink));
            if (n % every != 0)
                continue;
            var number = (inInches ? n / 16.0 : n).ToString(CultureInfo.InvariantCulture);
            Say(number, at - 4, height / 2 + 24);
            Say(number, width / 2 + 16, at + 3);
        }
        Say(
            $"Measure from the left edge to the line marked {mark}. Right offset = {name} minus this distance.",
            30 * Millimetre,
            height / 2 + 10
        );
        Say(
            $"Measure from the top edge to the line marked {mark}. Down offset = {name} minus this distance.",
            width / 2 + 30,
            12 * Millimetre
        );
        return new(width, height, items);
    }
}
