using Bandeja.Core.Composition;
using SkiaSharp;

namespace Bandeja.Formats.Tests.Documents;

/// <summary>Small things that several tests make.</summary>
static class Made
{
    /// <summary>The fonts that ship.</summary>
    public static readonly FontLibrary Fonts = FontFolder.Load(Path.Combine(Root(), "assets", "fonts"));

    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Bandeja.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    /// <summary>A picture of one color.</summary>
    public static byte[] Png(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(new SKColor(30, 91, 74));
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    /// <summary>All that stands on a page, shared parts in their places.</summary>
    public static IEnumerable<PageItem> Flat(this LaidOutPage page) =>
        page.Items.SelectMany(i =>
            i is SharedItem s ? s.Part.Items.Select(p => p with { X = p.X + s.X, Y = p.Y + s.Y }) : Enumerable.Repeat(i, 1)
        );
}
