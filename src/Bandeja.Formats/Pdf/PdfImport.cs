using System.Globalization;
using System.Text;
using PdfSharp.Pdf;
using PdfSharp.Pdf.Advanced;
using PdfSharp.Pdf.IO;

namespace Bandeja.Formats.Pdf;

/// <summary>Takes a page of another PDF over as a form XObject (ISO 32000-1, 8.10) that fills the unit square, so that it is drawn like a
/// picture.</summary>
static class PdfImport
{
    const int MaxDepth = 60;

    /// <summary>How many pages of a file may be used, and how deep the tree of its pages may be.</summary>
    const int MaxPages = 5000,
        MaxTree = 50;

    /// <summary>Looks through a PDF that somebody brought: its bounds, its tree of pages, and whether each of its pages can be drawn. After
    /// that it can be used.</summary>
    /// <param name="password">What opens it where it is locked; null for none.</param>
    /// <exception cref="PictureException">It cannot be used.</exception>
    public static (double Width, double Height, int Pages) Accept(byte[] data, string? password = null)
    {
        PdfBounds.Check(data);
        try
        {
            var document = Open(data, password);
            CheckTree(document);
            var size = Size(Page(document));
            // What cannot be drawn is reported when it is imported, not when it is printed.
            for (var page = 0; page < Math.Min(size.Pages, DrawnPages); page++)
                Write(document.Pages[page], new PdfObjects(Stream.Null), [], 0);
            return size;
        }
        catch (OutOfMemoryException)
        {
            // A stream may say any length, and the parser believes it.
            throw new PictureException("This PDF is damaged, or too large to read. Print it to a new PDF and bring that in.");
        }
        catch (Exception e) when (e is not PictureException)
        {
            throw new PictureException("This PDF has a page that cannot be drawn. Print it to a new PDF and bring that in.");
        }
    }

    const int DrawnPages = 20;

    /// <summary>Walks the tree of pages (7.7.3) without calling itself: a tree that contains itself has no end.</summary>
    static void CheckTree(PdfDocument document)
    {
        var seen = new HashSet<PdfDictionary>(ReferenceEqualityComparer.Instance);
        var open = new Stack<(PdfItem? Item, int Depth)>();
        open.Push((document.Internals.Catalog.Elements["/Pages"], 0));
        var pages = 0;
        while (open.TryPop(out var next))
        {
            var item = next.Item is PdfReference reference ? reference.Value : next.Item;
            if (item is not PdfDictionary node)
                continue;
            if (!seen.Add(node) || next.Depth > MaxTree)
                throw new PictureException("This PDF is damaged: the tree of its pages contains itself.");
            if (node.Elements["/Kids"] is not { } kids)
            {
                if (++pages > MaxPages)
                    throw new PictureException(
                        $"This PDF has more than {MaxPages:N0} pages. Save the pages that are needed as one of their own."
                    );
                continue;
            }
            if ((kids is PdfReference indirect ? indirect.Value : kids) is PdfArray children)
                foreach (var child in children.Elements)
                    open.Push((child, next.Depth + 1));
        }
    }

    /// <summary>Opens a PDF to import pages of it.</summary>
    /// <exception cref="LockedPdfException">It opens only with a password, or with another.</exception>
    /// <exception cref="PictureException">It is damaged.</exception>
    public static PdfDocument Open(byte[] data, string? password = null)
    {
        var asked = false;
        LockedPdfException Locked() =>
            new(
                password is null ? "This PDF opens only with a password." : "That password does not open this PDF. Check it and try again."
            );
        try
        {
            return PdfReader.Open(
                    new MemoryStream(data),
                    PdfDocumentOpenMode.Import,
                    // It is asked for one until it answers none.
                    args => (args.Password, args.Abort, asked) = (password ?? "", asked, true)
                ) ?? throw Locked();
        }
        catch (PdfReaderException) when (asked)
        {
            throw Locked();
        }
        catch (PdfReaderException)
        {
            throw Damaged();
        }
        catch (Exception e) when (e is not OutOfMemoryException and not PictureException)
        {
            throw Damaged();
        }
    }

    static PictureException Damaged() => new("This PDF is damaged and cannot be read.");

    /// <summary>The first page of a PDF, or the one of that number.</summary>
    /// <exception cref="PictureException">It has none.</exception>
    public static PdfPage Page(PdfDocument document, int number = 1)
    {
        try
        {
            return document.PageCount > 0
                ? document.Pages[Math.Clamp(number, 1, document.PageCount) - 1]
                : throw new PictureException("This PDF has no pages.");
        }
        catch (Exception e) when (e is not PictureException and not OutOfMemoryException)
        {
            throw Damaged();
        }
    }

    public static (double X, double Y, double Width, double Height) BoxOf(PdfPage page)
    {
        var box = page.Elements.ContainsKey("/CropBox") ? page.CropBox : page.MediaBox;
        return (box.X1, box.Y1, box.Width, box.Height);
    }

    /// <summary>Width and height of the first page as it is seen, points.</summary>
    /// <exception cref="PictureException">It cannot be used.</exception>
    public static (double Width, double Height, int Pages) Size(byte[] data, string? password = null) => Size(Page(Open(data, password)));

    static (double Width, double Height, int Pages) Size(PdfPage page)
    {
        var (_, _, width, height) = BoxOf(page);
        if (width is < 1 or > 15_000 || height is < 1 or > 15_000)
            throw new PictureException("This PDF page has no valid size.");
        return page.Rotate is 90 or 270 or -90 or -270 ? (height, width, page.Owner!.PageCount) : (width, height, page.Owner!.PageCount);
    }

    /// <summary>Writes a page; answers its object's number, and that of the object that has the page's own content.</summary>
    /// <param name="copied">What is written of its document already.</param>
    /// <param name="place">Its place among the pages that are recorded together, from 0.</param>
    public static (int Page, int Content) Write(PdfPage page, PdfObjects objects, Dictionary<PdfObjectID, int> copied, int place)
    {
        var (x, y, width, height) = BoxOf(page);
        var content = page.Contents.CreateSingleContent().Stream.UnfilteredValue;
        var resources = page.Elements.GetDictionary("/Resources");
        var resourceText = resources is null ? "<<>>" : Text(resources, objects, copied, 0);
        var box = $"[{N(x)} {N(y)} {N(x + width)} {N(y + height)}]";
        // Which elements its marked parts belong to is said where it is written (14.7.5.4).
        var marked = page.Elements["/StructParents"] is null ? "" : RecordedObjects.Marked(place);
        var inner = 0;
        if (Stamps(page, objects, copied) is { Count: > 0 } stamps)
        {
            // What stands on the page is drawn over it: the page becomes a form of its own, and the stamps follow it.
            var below = inner = objects.Reserve();
            objects.Stream(below, $"/Type/XObject/Subtype/Form/BBox{box}{marked}/Resources {resourceText}", content);
            marked = "";
            var drawing = new StringBuilder("/Page Do\n");
            for (var i = 0; i < stamps.Count; i++)
                drawing.Append($"q {stamps[i].Matrix} cm /Stamp{i} Do Q\n");
            content = Encoding.ASCII.GetBytes(drawing.ToString());
            resourceText = $"<</XObject<</Page {below} 0 R{string.Concat(stamps.Select((s, i) => $"/Stamp{i} {s.Number} 0 R"))}>>>>";
        }
        // The matrix takes the box to the unit square, turned as the page says (14.11.2).
        var (w, h) = (1 / width, 1 / height);
        var matrix = (((page.Rotate % 360) + 360) % 360) switch
        {
            90 => (0.0, -w, h, 0.0, -y * h, 1 + x * w),
            180 => (-w, 0.0, 0.0, -h, 1 + x * w, 1 + y * h),
            270 => (0.0, w, -h, 0.0, 1 + y * h, -x * w),
            _ => (w, 0.0, 0.0, h, -x * w, -y * h),
        };
        var written = objects.Reserve();
        objects.Stream(
            written,
            $"/Type/XObject/Subtype/Form/BBox{box}/Matrix[{N(matrix.Item1)} "
                + $"{N(matrix.Item2)} {N(matrix.Item3)} {N(matrix.Item4)} {N(matrix.Item5)} "
                + $"{N(matrix.Item6)}]{marked}/Group<</S/Transparency/CS/DeviceRGB>>/Resources {resourceText}",
            content
        );
        return (written, inner == 0 ? written : inner);
    }

    static string N(double value) => value.ToString("0.##########", CultureInfo.InvariantCulture);

    const int MostStamps = 5_000;

    /// <summary>What stands on a page beside its content and is printed with it (12.5.5): stamps, notes written on it, and buttons that
    /// cannot be filled in. Fields are not: who fills them in draws them.</summary>
    /// <returns>The number of each appearance's object, and the matrix that puts it in its place.</returns>
    static List<(int Number, string Matrix)> Stamps(PdfPage page, PdfObjects objects, Dictionary<PdfObjectID, int> copied)
    {
        var stamps = new List<(int, string)>();
        foreach (var item in (page.Elements.GetArray("/Annots")?.Elements ?? Enumerable.Empty<PdfItem>()).Take(MostStamps))
        {
            if (Followed(item) is not PdfDictionary annotation)
                continue;
            var (e, flags) = (annotation.Elements, annotation.Elements.GetInteger("/F"));
            var kind = e.GetName("/Subtype");
            const int hidden = 2,
                print = 4;
            if ((flags & hidden) != 0 || (flags & print) == 0 || kind is "/Popup" or "/Link")
                continue;
            const int pushButton = 1 << 16;
            if (kind == "/Widget" && !(e.GetName("/FT") == "/Btn" && (e.GetInteger("/Ff") & pushButton) != 0))
                continue;
            var normal = Followed((Followed(e["/AP"]) as PdfDictionary)?.Elements["/N"]);
            if (normal is PdfDictionary { Stream: null } states)
                normal = Followed(states.Elements[e.GetName("/AS") is { Length: > 1 } state ? state : "/Off"]);
            if (
                normal is not PdfDictionary { Stream: not null, Reference: { } reference } appearance
                || Followed(e["/Rect"]) is not PdfArray { Elements.Count: 4 } rect
                || Followed(appearance.Elements["/BBox"]) is not PdfArray { Elements.Count: 4 } bounds
            )
                continue;
            var (r, b) = (Numbers(rect), Numbers(bounds));
            var m = Followed(appearance.Elements["/Matrix"]) is PdfArray { Elements.Count: 6 } own ? Numbers(own) : [1, 0, 0, 1, 0, 0];
            if (r is null || b is null || m is null)
                continue;
            // The appearance's box, turned by its matrix, is stretched over the rectangle.
            var corners = new[] { (b[0], b[1]), (b[2], b[1]), (b[2], b[3]), (b[0], b[3]) }
                .Select(c => (X: m[0] * c.Item1 + m[2] * c.Item2 + m[4], Y: m[1] * c.Item1 + m[3] * c.Item2 + m[5]))
                .ToList();
            var (left, low, wide, tall) = (
                corners.Min(c => c.X),
                corners.Min(c => c.Y),
                corners.Max(c => c.X) - corners.Min(c => c.X),
                corners.Max(c => c.Y) - corners.Min(c => c.Y)
            );
            if (wide < 0.001 || tall < 0.001)
                continue;
            var (sx, sy) = (Math.Abs(r[2] - r[0]) / wide, Math.Abs(r[3] - r[1]) / tall);
            var number = int.Parse(Referred(reference, objects, copied, 0).Split(' ')[0], CultureInfo.InvariantCulture);
            stamps.Add((number, $"{N(sx)} 0 0 {N(sy)} {N(Math.Min(r[0], r[2]) - left * sx)} {N(Math.Min(r[1], r[3]) - low * sy)}"));
        }
        return stamps;
    }

    static PdfItem? Followed(PdfItem? item) => item is PdfReference reference ? reference.Value : item;

    /// <summary>Numbers of an array; null where they are none.</summary>
    public static double[]? Numbers(PdfArray array)
    {
        var numbers = array
            .Elements.Select(e =>
                Followed(e) switch
                {
                    PdfInteger i => i.Value,
                    PdfReal d => d.Value,
                    _ => double.NaN,
                }
            )
            .ToArray();
        return Array.TrueForAll(numbers, n => double.IsFinite(n) && Math.Abs(n) < 1e7) ? numbers : null;
    }

    /// <summary>An object as it is written; what it refers to is written first and once.</summary>
    static string Text(PdfItem? item, PdfObjects objects, Dictionary<PdfObjectID, int> copied, int depth)
    {
        if (depth > MaxDepth)
            return "null";
        switch (item)
        {
            case PdfReference reference:
                return Referred(reference, objects, copied, depth);
            case PdfDictionary dictionary:
                return "<<" + Entries(dictionary, objects, copied, depth) + ">>";
            case PdfArray array:
                return "[" + string.Join(' ', array.Elements.Select(e => Text(e, objects, copied, depth + 1))) + "]";
            case PdfString text:
                return "<" + Convert.ToHexString(Encoding.Latin1.GetBytes(text.Value)) + ">";
            case PdfReal real:
                return real.Value.ToString("0.######", CultureInfo.InvariantCulture);
            case PdfName name:
                return Name(name.Value);
            case null:
                return "null";
            default:
                return item.ToString() is { Length: > 0 } plain
                    ? plain.ToLowerInvariant() is "true" or "false"
                        ? plain.ToLowerInvariant()
                        : plain
                    : "null";
        }
    }

    /// <summary>A name, its delimiters and what is no plain character as #xx (7.3.5).</summary>
    public static string Name(string value) =>
        "/"
        + string.Concat(
            value.TrimStart('/').Select(c => c is > ' ' and < '\x7f' && !"()<>[]{}/%#".Contains(c) ? c.ToString() : $"#{(int)c & 255:X2}")
        );

    static string Entries(PdfDictionary dictionary, PdfObjects objects, Dictionary<PdfObjectID, int> copied, int depth) =>
        string.Concat(
            dictionary
                .Elements.Where(e =>
                    e.Key
                        is not (
                            "/Parent"
                            or "/Length"
                            or "/StructParent"
                            or "/StructParents"
                            or "/Metadata"
                            or "/PieceInfo"
                            or "/AA"
                            or "/A"
                            or "/JS"
                        )
                )
                .Select(e => $"{Name(e.Key)} {Text(e.Value, objects, copied, depth + 1)}")
        );

    static string Referred(PdfReference reference, PdfObjects objects, Dictionary<PdfObjectID, int> copied, int depth)
    {
        if (copied.TryGetValue(reference.ObjectID, out var known))
            return $"{known} 0 R";
        var number = objects.Reserve();
        copied[reference.ObjectID] = number;
        if (reference.Value is PdfDictionary { Stream: { } stream } dictionary)
            objects.Stream(number, Entries(dictionary, objects, copied, depth), stream.Value, deflate: false);
        else
            objects.Object(number, Text(reference.Value, objects, copied, depth));
        return $"{number} 0 R";
    }
}
