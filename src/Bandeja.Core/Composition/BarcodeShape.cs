using Bandeja.Core.Barcodes;

namespace Bandeja.Core.Composition;

/// <summary>Barcodes as shapes on the page, their quiet zones kept.</summary>
static class BarcodeShape
{
    /// <summary>The narrowest module that is read reliably in print, points: 0.25 mm for codes in two dimensions (ISO/IEC 18004, 7.2,
    /// leaves it to the application; GS1 General Specifications, 5.12), 0.19 mm for bars.</summary>
    public static double LeastModule(Symbology symbology) => (symbology == Symbology.Code128 ? 0.19 : 0.25) * 72 / 25.4;

    /// <summary>A symbol within a width and a height, centered, its quiet zone within them.</summary>
    /// <param name="module">Width of a module, points.</param>
    public static BarsItem Of(Symbol symbol, double width, double height, out double module)
    {
        var linear = symbol.Height == 1;
        var size = linear
            ? width / (symbol.Width + 2 * symbol.Quiet)
            : Math.Min(width / (symbol.Width + 2 * symbol.Quiet), height / (symbol.Height + 2 * symbol.Quiet));
        module = size;
        var (w, h) = (symbol.Width * size, linear ? height : symbol.Height * size);
        return new(
            (width - w) / 2,
            (height - h) / 2,
            w,
            h,
            [.. symbol.Dark.Select(d => (d.X * size, linear ? 0 : d.Y * size, d.Width * size, linear ? height : d.Height * size))]
        );
    }

    /// <summary>An Intelligent Mail barcode of 65 letters, its clear zone around it (USPS-B-3200, section 3.2).</summary>
    public static BarsItem Mail(string states)
    {
        const double reach = (IntelligentMail.FullHeight - IntelligentMail.TrackerHeight) / 2;
        var bars = new (double, double, double, double)[states.Length];
        for (var i = 0; i < bars.Length; i++)
        {
            var (up, down) = (states[i] is 'F' or 'A', states[i] is 'F' or 'D');
            bars[i] = (
                i * IntelligentMail.Pitch,
                up ? 0 : reach,
                IntelligentMail.BarWidth,
                IntelligentMail.TrackerHeight + (up ? reach : 0) + (down ? reach : 0)
            );
        }
        return new(IntelligentMail.ClearX, IntelligentMail.ClearY, IntelligentMail.Width, IntelligentMail.FullHeight, bars);
    }
}
