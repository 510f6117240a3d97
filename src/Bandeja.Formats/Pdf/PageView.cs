using PdfSharp.Pdf;

namespace Bandeja.Formats.Pdf;

/// <summary>A page as it is seen: cut to its crop box and turned (ISO 32000-2, 14.11.2). Points.</summary>
sealed class PageView
{
    readonly double left,
        low,
        width,
        height;
    readonly int turn;

    public PageView(PdfPage page)
    {
        (left, low, width, height) = PdfImport.BoxOf(page);
        turn = ((page.Rotate % 360) + 360) % 360;
    }

    /// <summary>Width as it is seen.</summary>
    public double Width => turn is 90 or 270 ? height : width;

    /// <summary>Height as it is seen.</summary>
    public double Height => turn is 90 or 270 ? width : height;

    /// <summary>A point of the page's own space, from the left and top edges of what is seen.</summary>
    public (double X, double Y) Seen(double x, double y)
    {
        var (right, up) = (x - left, y - low);
        return turn switch
        {
            90 => (up, right),
            180 => (width - right, up),
            270 => (height - up, width - right),
            _ => (right, height - up),
        };
    }

    /// <summary>A rectangle of the page's own space, by two corners, as it is seen.</summary>
    public (double X, double Y, double Width, double Height) Seen(double x1, double y1, double x2, double y2)
    {
        var (a, b) = (Seen(x1, y1), Seen(x2, y2));
        return (Math.Min(a.X, b.X), Math.Min(a.Y, b.Y), Math.Abs(a.X - b.X), Math.Abs(a.Y - b.Y));
    }
}
