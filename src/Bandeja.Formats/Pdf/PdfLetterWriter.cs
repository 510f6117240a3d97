using System.Globalization;
using System.Text;
using Bandeja.Core.Composition;

namespace Bandeja.Formats.Pdf;

/// <summary>What a PDF says about itself.</summary>
public sealed record PdfTitle(string Title, string Language, DateTimeOffset Created);

/// <summary>
/// Writes letters into one PDF, page after page, with an outline entry for each recipient. What is the same for everyone is
/// written once as a form XObject (ISO 32000-1, 8.10) and referred to; fonts are cut to the glyphs used and embedded once.
/// </summary>
public sealed class PdfLetterWriter
{
    const int PagesPerNode = 100;
    readonly PdfObjects objects;
    readonly Func<string, PictureFile?> pictures;
    readonly PdfTitle title;
    readonly int catalog, root, resources, info, outlines;
    readonly List<int> nodes = [], kids = [];
    readonly Dictionary<PaperFont, PdfFont> fonts = [];
    readonly Dictionary<SharedPart, int> parts = [];
    readonly Dictionary<string, int> images = [];
    readonly ContentStream content = new();
    int node, pageCount, firstOutline, lastOutline, outlineCount;
    (int Number, string Title, int Page, int Previous)? pendingOutline;
    string color = "";

    /// <summary>Begins a file.</summary>
    /// <param name="target">Where it goes; written forward only.</param>
    /// <param name="pictures">Finds a picture by the name that the design has for it.</param>
    public PdfLetterWriter(Stream target, Func<string, PictureFile?> pictures, PdfTitle title)
    {
        (this.pictures, this.title) = (pictures, title);
        objects = new(target);
        objects.Begin();
        (catalog, root, resources, info, outlines) = (objects.Reserve(), objects.Reserve(), objects.Reserve(), objects.Reserve(), objects.Reserve());
        node = objects.Reserve();
    }

    /// <summary>How many pages were written.</summary>
    public int Pages => pageCount;

    /// <summary>Adds a recipient's letter. With a null title it gets no outline entry.</summary>
    public void Add(string? outlineTitle, IReadOnlyList<LaidOutPage> pages)
    {
        for (var i = 0; i < pages.Count; i++)
        {
            var number = Page(pages[i]);
            if (i == 0 && outlineTitle is not null) Outline(outlineTitle, number);
        }
    }

    void Outline(string text, int page)
    {
        var number = objects.Reserve();
        if (pendingOutline is { } previous) WriteOutline(previous, number);
        if (firstOutline == 0) firstOutline = number;
        pendingOutline = (number, text, page, lastOutline);
        lastOutline = number;
        outlineCount++;
    }

    void WriteOutline((int Number, string Title, int Page, int Previous) item, int next) =>
        objects.Object(item.Number, $"<</Title {PdfObjects.TextString(item.Title)}/Parent {outlines} 0 R{(item.Previous > 0 ? $"/Prev {item.Previous} 0 R" : "")}{(next > 0 ? $"/Next {next} 0 R" : "")}/Dest[{item.Page} 0 R/Fit]>>");

    int Page(LaidOutPage page)
    {
        content.Clear();
        color = "";
        foreach (var item in page.Items) Draw(item, 0, page.Height);
        int stream = objects.Reserve(), number = objects.Reserve();
        objects.Stream(stream, "", content.Written);
        objects.Object(number, $"<</Type/Page/Parent {node} 0 R/MediaBox[0 0 {PdfObjects.Number(page.Width)} {PdfObjects.Number(page.Height)}]/Resources {resources} 0 R/Contents {stream} 0 R>>");
        kids.Add(number);
        pageCount++;
        if (kids.Count == PagesPerNode) CloseNode();
        return number;
    }

    void CloseNode()
    {
        objects.Object(node, $"<</Type/Pages/Parent {root} 0 R/Count {kids.Count}/Kids[{string.Join(' ', kids.Select(k => $"{k} 0 R"))}]>>");
        nodes.Add(node);
        node = objects.Reserve();
        kids.Clear();
    }

    /// <summary>Draws an item; the PDF's y runs up from <paramref name="top"/>.</summary>
    void Draw(PageItem item, double left, double top)
    {
        switch (item)
        {
            case LineItem line: DrawLine(line.Line, left + line.X, top - line.Y); break;
            case SharedItem shared:
                content.Raw("q 1 0 0 1 "u8).Num(left + shared.X).Num(top - shared.Y).Raw("cm "u8).Raw(Encoding.Latin1.GetBytes($"/S{Part(shared.Part)} Do Q\n"));
                break;
            case PictureItem picture when Image(picture.Asset) is var image and > 0:
                content.Raw("q "u8).Num(picture.Width).Raw("0 0 "u8).Num(picture.Height).Num(left + picture.X).Num(top - picture.Y - picture.Height).Raw("cm "u8).Raw(Encoding.Latin1.GetBytes($"/I{image} Do Q\n"));
                break;
        }
    }

    void DrawLine(TextLine line, double left, double baseline)
    {
        foreach (var run in line.Runs)
        {
            SetColor(run.Color);
            var font = Font(run.Font);
            content.Raw("BT "u8).Raw(Encoding.Latin1.GetBytes(font.Name)).Raw(" "u8).Num(run.Size).Raw("Tf "u8).Num(left + run.X).Num(baseline).Raw("Td ["u8);
            foreach (var word in run.Words)
            {
                var fragment = font.Fragment(word);
                // RISE stands for a shift in font sizes; Ts wants points.
                if (fragment.AsSpan().IndexOf("RISE"u8) >= 0) fragment = Rise(fragment, run.Size);
                content.Raw(fragment);
                if (run.SpaceExtra != 0 && word.IsSpace) content.Num(-run.SpaceExtra * word.Text.Length * 1000 / run.Size);
            }
            content.Raw("]TJ ET\n"u8);
            if (!run.Underline) continue;
            var unit = run.Size / run.Font.UnitsPerEm;
            var thickness = Math.Max(run.Font.UnderlineSize * unit, 0.4);
            content.Num(left + run.X).Num(baseline + run.Font.UnderlineOffset * unit - thickness).Num(run.Width).Num(thickness).Raw("re f\n"u8);
        }
    }

    static byte[] Rise(byte[] fragment, double size) => Encoding.Latin1.GetBytes(
        System.Text.RegularExpressions.Regex.Replace(Encoding.Latin1.GetString(fragment), @"(-?[0-9.]+) RISE", m => PdfObjects.Number(double.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture) * size) + " Ts"));

    void SetColor(string rgb)
    {
        if (rgb == color) return;
        color = rgb;
        for (var i = 0; i < 6; i += 2) content.Num(int.Parse(rgb.AsSpan(i, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture) / 255.0);
        content.Raw("rg\n"u8);
    }

    PdfFont Font(PaperFont font)
    {
        if (!fonts.TryGetValue(font, out var known)) fonts[font] = known = new(font, objects.Reserve(), $"/F{fonts.Count + 1}");
        return known;
    }

    int Part(SharedPart part)
    {
        if (parts.TryGetValue(part, out var number)) return number;
        // The page that is being written waits while the part is; both use the one buffer.
        var (waiting, waitingColor) = (content.Written.ToArray(), color);
        content.Clear();
        color = "";
        foreach (var item in part.Items) Draw(item, 0, 0);
        number = objects.Reserve();
        // A margin around the box keeps swashes and accents from being clipped.
        objects.Stream(number, $"/Type/XObject/Subtype/Form/BBox[-72 {PdfObjects.Number(-part.Height - 72)} {PdfObjects.Number(part.Width + 72)} 72]/Resources {resources} 0 R", content.Written);
        content.Clear();
        content.Raw(waiting);
        color = waitingColor;
        return parts[part] = number;
    }

    int Image(string asset)
    {
        if (images.TryGetValue(asset, out var number)) return number;
        return images[asset] = pictures(asset)?.Write(objects) ?? 0;
    }

    /// <summary>Writes what was put off to the end: fonts, resources, page tree, outline, trailer.</summary>
    public void Finish()
    {
        if (kids.Count > 0 || nodes.Count == 0) CloseNode();
        objects.Object(node, "null"); // the node reserved for pages that did not come
        foreach (var font in fonts.Values) font.Write(objects);
        objects.Object(resources, $"<</Font<<{string.Concat(fonts.Values.Select(f => $"{f.Name} {f.Number} 0 R"))}>>/XObject<<{string.Concat(parts.Values.Select(n => $"/S{n} {n} 0 R"))}{string.Concat(images.Values.Where(n => n > 0).Select(n => $"/I{n} {n} 0 R"))}>>>>");
        objects.Object(root, $"<</Type/Pages/Count {pageCount}/Kids[{string.Join(' ', nodes.Select(n => $"{n} 0 R"))}]>>");
        if (pendingOutline is { } last) WriteOutline(last, 0);
        objects.Object(outlines, firstOutline == 0 ? "<</Type/Outlines>>" : $"<</Type/Outlines/First {firstOutline} 0 R/Last {lastOutline} 0 R/Count {outlineCount}>>");
        objects.Object(info, $"<</Title {PdfObjects.TextString(title.Title)}/Producer (Bandeja)/CreationDate (D:{title.Created.UtcDateTime.ToString("yyyyMMddHHmmss", CultureInfo.InvariantCulture)}Z)>>");
        objects.Object(catalog, $"<</Type/Catalog/Pages {root} 0 R/Lang ({title.Language})/ViewerPreferences<</DisplayDocTitle true>>{(firstOutline == 0 ? "" : $"/Outlines {outlines} 0 R/PageMode/UseOutlines")}>>");
        objects.End(catalog, info);
    }
}
