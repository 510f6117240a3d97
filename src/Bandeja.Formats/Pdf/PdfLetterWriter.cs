using System.Globalization;
using System.Text;
using Bandeja.Core.Composition;

namespace Bandeja.Formats.Pdf;

/// <summary>What a PDF says about itself.</summary>
/// <param name="Language">A BCP 47 tag.</param>
/// <param name="Tagged">True where the file tells its structure, so that a screen reader can follow it. What recipients share is then
/// written with each of them.</param>
/// <param name="Fillable">True where fields of forms stay fields, in a file of one recipient; else they are drawn into the page.</param>
public sealed record PdfTitle(string Title, string Language, DateTimeOffset Created, bool Tagged = false, bool Fillable = false);

/// <summary>
/// Writes letters into one PDF, page after page, with an outline entry for each recipient. What is the same for everyone is
/// written once as a form XObject (ISO 32000-1, 8.10) and referred to; fonts are cut to the glyphs used and embedded once.
/// </summary>
public sealed class PdfLetterWriter
{
    const int PagesPerNode = 100,
        Small = 1024;
    readonly PdfObjects objects;
    readonly Func<string, PictureFile?> pictures;
    readonly PdfTitle title;
    readonly FontPrograms? programs;
    readonly PdfStructure? structure;

    /// <summary>True while something is drawn that is no part of a page's content itself.</summary>
    bool isApart;

    /// <summary>The PDF that was drawn last on the present page, and the number of its page.</summary>
    (string Asset, int Page) form;
    readonly PdfFields? fields;
    readonly int catalog,
        root,
        resources,
        info,
        outlines;
    readonly List<int> nodes = [],
        kids = [],
        annotations = [];
    readonly Dictionary<PaperFont, PdfFont> fonts = [];
    readonly Dictionary<SharedPart, int> parts = [];
    readonly Dictionary<string, int> images = [];
    readonly SortedDictionary<int, string> strengths = [];
    readonly ContentStream content = new();
    int node,
        pageCount,
        firstOutline,
        lastOutline,
        outlineCount;
    (int Number, string Title, int Page, int Previous)? pendingOutline;
    string color = "";

    /// <summary>Begins a file.</summary>
    /// <param name="target">Where it goes; written forward only.</param>
    /// <param name="pictures">Finds a picture by the name that the design has for it.</param>
    /// <param name="protection">How it is encrypted; null for not at all.</param>
    /// <param name="programs">Cut fonts that it has in common with other files; null to cut its own.</param>
    public PdfLetterWriter(
        Stream target,
        Func<string, PictureFile?> pictures,
        PdfTitle title,
        PdfProtection? protection = null,
        FontPrograms? programs = null
    )
    {
        (this.pictures, this.title, this.programs) = (pictures, title, programs);
        objects = new(target, protection);
        objects.Begin();
        (catalog, root, resources, info, outlines) = (
            objects.Reserve(),
            objects.Reserve(),
            objects.Reserve(),
            objects.Reserve(),
            objects.Reserve()
        );
        node = objects.Reserve();
        if (title.Fillable)
            fields = new(objects);
        if (title.Tagged)
            structure = new(objects, content);
    }

    /// <summary>How many pages were written.</summary>
    public int Pages => pageCount;

    /// <summary>For a tagged file, a mark of what is drawn on each page: who has a page of the same mark on screen need not draw it
    /// anew.</summary>
    public IReadOnlyList<string> PageMarks => pageMarks;
    readonly List<string> pageMarks = [];

    /// <summary>Adds a recipient's letter. With a null title it gets no outline entry.</summary>
    public void Add(string? outlineTitle, IReadOnlyList<LaidOutPage> pages)
    {
        for (var i = 0; i < pages.Count; i++)
        {
            var number = Page(pages[i]);
            if (i == 0 && outlineTitle is not null)
                Outline(outlineTitle, number);
        }
        structure?.EndLetter();
    }

    void Outline(string text, int page)
    {
        var number = objects.Reserve();
        if (pendingOutline is { } previous)
            WriteOutline(previous, number);
        if (firstOutline == 0)
            firstOutline = number;
        pendingOutline = (number, text, page, lastOutline);
        lastOutline = number;
        outlineCount++;
    }

    void WriteOutline((int Number, string Title, int Page, int Previous) item, int next) =>
        objects.Object(
            item.Number,
            $"<</Title {PdfObjects.TextString(item.Title)}/Parent {outlines} 0 "
                + $"R{(item.Previous > 0 ? $"/Prev {item.Previous} 0 R" : "")}{(next > 0 ? $"/Next {next} 0 R" : "")}/Dest["
                + $"{item.Page} 0 R/Fit]>>"
        );

    int Page(LaidOutPage page)
    {
        form = default;
        content.Clear();
        annotations.Clear();
        color = "";
        int stream = objects.Reserve(),
            number = objects.Reserve();
        structure?.BeginPage(number);
        var (width, height) = page.Feed.Turn is 90 or 270 ? (page.Height, page.Width) : (page.Width, page.Height);
        var fed = page.Feed != default;
        if (fed)
            content.Raw("q "u8).Raw(Encoding.Latin1.GetBytes(Placement(page))).Raw("cm\n"u8);
        foreach (var item in page.Items)
            Draw(item, 0, page.Height);
        if (fed)
            content.Raw("Q\n"u8);
        var tags = structure?.EndPage() ?? "";
        if (structure is not null)
            pageMarks.Add(Mark());
        foreach (var item in page.Items)
            Links(item, 0, page.Height);
        objects.Stream(stream, "", content.Written, deflate: content.Written.Length > Small);
        // The page is written: what is drawn of its fields need not keep it.
        content.Clear();
        if (fields is not null)
            foreach (var item in page.Items.OfType<FieldItem>())
                annotations.Add(
                    fields.Widget(
                        item,
                        page.Height - item.Y - item.Height,
                        number,
                        widget =>
                            structure?.Widget(widget, form.Asset ?? "", new(form.Page, Math.Round(item.X, 3), Math.Round(item.Y, 3))) ?? "",
                        looks => Drawing(looks, item.Width, item.Height, 0)
                    )
                );
        var links = annotations.Count == 0 ? "" : $"/Annots[{string.Join(' ', annotations.Select(a => $"{a} 0 R"))}]";
        objects.Object(
            number,
            $"<</Type/Page/Parent {node} 0 R/MediaBox[0 0 {PdfObjects.Number(width)} {PdfObjects.Number(height)}]/Resources "
                + $"{resources} 0 R/Contents {stream} 0 R{links}{tags}>>"
        );
        kids.Add(number);
        pageCount++;
        if (kids.Count == PagesPerNode)
            CloseNode();
        return number;
    }

    /// <summary>The matrix that moves a page and turns it with the clock (8.3.4).</summary>
    static string Placement(LaidOutPage page)
    {
        var (right, up) = (page.Feed.Right, -page.Feed.Down);
        double[] m = page.Feed.Turn switch
        {
            90 => [0, -1, 1, 0, up, page.Width - right],
            180 => [-1, 0, 0, -1, page.Width - right, page.Height - up],
            270 => [0, 1, -1, 0, page.Height - up, right],
            _ => [1, 0, 0, 1, right, up],
        };
        return string.Concat(m.Select(v => PdfObjects.Number(v) + " "));
    }

    string Mark()
    {
        using var hash = System.Security.Cryptography.IncrementalHash.CreateHash(System.Security.Cryptography.HashAlgorithmName.MD5);
        hash.AppendData(content.Written);
        // Fonts and pictures are numbered anew in each file: what the numbers stand for belongs to the mark.
        foreach (var font in fonts)
            hash.AppendData(Encoding.Latin1.GetBytes($"{font.Value.Name} {font.Key.PostScriptName}"));
        foreach (var image in images)
            hash.AppendData(Encoding.UTF8.GetBytes($"{image.Value} {image.Key}"));
        return Convert.ToHexString(hash.GetHashAndReset());
    }

    /// <summary>Links of an item as annotations of the page (12.5.6.5); shared parts are drawn once, but their links belong to each
    /// page.</summary>
    void Links(PageItem item, double left, double top)
    {
        if (item is SharedItem { Part.HasLinks: true } shared)
            foreach (var inner in shared.Part.Items)
                Links(inner, left + shared.X, top - shared.Y);
        if (item is not LineItem line)
            return;
        foreach (var run in line.Line.Runs)
        {
            if (
                run.Style.Link is not { } target
                || !Uri.TryCreate(target, UriKind.Absolute, out var uri)
                || uri.Scheme is not ("http" or "https" or "mailto")
            )
                continue;
            double x = left + line.X + run.X,
                baseline = top - line.Y,
                unit = run.Size / run.Font.UnitsPerEm;
            var number = objects.Reserve();
            annotations.Add(number);
            var tag = structure?.Link(number, item.Element) ?? "";
            var box = string.Join(
                ' ',
                new[] { x, baseline - run.Font.Descender * unit, x + run.Width, baseline + run.Font.Ascender * unit }.Select(
                    PdfObjects.Number
                )
            );
            objects.Object(
                number,
                $"<</Type/Annot/Subtype/Link/Rect[{box}]/Border[0 0 0]/F 4/Contents "
                    + $"{PdfObjects.TextString(string.Concat(run.Words.Select(w => w.Text)))}/A<</S/URI/URI "
                    + $"({PdfObjects.Escape(uri.AbsoluteUri)})>>{tag}>>"
            );
        }
    }

    void CloseNode()
    {
        objects.Object(
            node,
            $"<</Type/Pages/Parent {root} 0 R/Count {kids.Count}/Kids[{string.Join(' ', kids.Select(k => $"{k} 0 R"))}]>>"
        );
        nodes.Add(node);
        node = objects.Reserve();
        kids.Clear();
    }

    /// <summary>Draws an item; the PDF's y runs up from <paramref name="top"/>.</summary>
    void Draw(PageItem item, double left, double top)
    {
        if (item is SharedItem shared)
        {
            if (structure is not null && !isApart)
            {
                foreach (var inner in shared.Part.Items)
                    Draw(inner, left + shared.X, top - shared.Y);
                return;
            }
            content
                .Raw("q 1 0 0 1 "u8)
                .Num(left + shared.X)
                .Num(top - shared.Y)
                .Raw("cm "u8)
                .Raw(Encoding.Latin1.GetBytes($"/S{Part(shared.Part)} Do Q\n"));
            return;
        }
        if (!isApart)
            structure?.Turn(item.Element);
        switch (item)
        {
            case FieldItem field:
                if (fields is null)
                    foreach (var seen in field.Seen)
                        Draw(seen, left + field.X, top - field.Y);
                break;
            case LineItem line:
                DrawLine(line.Line, left + line.X, top - line.Y, item.Element);
                break;
            case PictureItem picture:
                DrawPicture(
                    picture.Asset,
                    left + picture.X,
                    top - picture.Y - picture.Height,
                    picture.Width,
                    picture.Height,
                    picture.WithAll
                );
                break;
            case RectangleItem box:
                SetColor(box.Color);
                content.Num(left + box.X).Num(top - box.Y - box.Height).Num(box.Width).Num(box.Height).Raw("re f\n"u8);
                break;
            case BarsItem bars:
                SetColor("000000");
                foreach (var (x, y, w, h) in bars.Bars)
                    content.Num(left + bars.X + x).Num(top - bars.Y - y - h).Num(w).Num(h).Raw("re\n"u8);
                content.Raw("f\n"u8);
                break;
            case OutlineItem frame:
                DrawOutline(frame, left + frame.X, top - frame.Y);
                break;
            case MarkItem sign:
                DrawMark(sign, left + sign.X, top - sign.Y);
                break;
            case WatermarkItem mark:
                DrawWatermark(mark, left, top);
                break;
            case TurnedItem turned:
                DrawTurned(turned, left + turned.X, top - turned.Y - turned.Height);
                break;
        }
    }

    /// <summary>A mark; shares of its size from its left and top edges.</summary>
    void DrawMark(MarkItem mark, double x, double top)
    {
        SetColor(mark.Color);
        void Point(double a, double b, ReadOnlySpan<byte> how) => content.Num(x + a * mark.Width).Num(top - b * mark.Height).Raw(how);
        void Filled(ReadOnlySpan<(double X, double Y)> points)
        {
            for (var i = 0; i < points.Length; i++)
                Point(points[i].X, points[i].Y, i == 0 ? "m\n"u8 : "l\n"u8);
            content.Raw("f\n"u8);
        }
        switch (mark.Shape)
        {
            case MarkShape.Check:
                Filled([(0.06, 0.52), (0.18, 0.42), (0.38, 0.68), (0.84, 0.08), (0.96, 0.17), (0.4, 0.92)]);
                break;
            case MarkShape.Cross:
                Filled(
                    [
                        (0.12, 0.02),
                        (0.5, 0.4),
                        (0.88, 0.02),
                        (0.98, 0.12),
                        (0.6, 0.5),
                        (0.98, 0.88),
                        (0.88, 0.98),
                        (0.5, 0.6),
                        (0.12, 0.98),
                        (0.02, 0.88),
                        (0.4, 0.5),
                        (0.02, 0.12),
                    ]
                );
                break;
            case MarkShape.Square:
                Filled([(0, 0), (1, 0), (1, 1), (0, 1)]);
                break;
            case MarkShape.Diamond:
                Filled([(0.5, 0), (1, 0.5), (0.5, 1), (0, 0.5)]);
                break;
            case MarkShape.Star:
                Span<(double, double)> star = stackalloc (double, double)[10];
                for (var i = 0; i < 10; i++)
                {
                    var (radius, angle) = (i % 2 == 0 ? 0.5 : 0.2, Math.PI * (i / 5.0 - 0.5));
                    star[i] = (0.5 + radius * Math.Cos(angle), 0.55 + radius * Math.Sin(angle));
                }
                Filled(star);
                break;
            default:
                // A quarter of a circle as a Bézier curve: its handles are 0.5523 of the radius long.
                const double k = 0.27615;
                Point(1, 0.5, "m\n"u8);
                foreach (
                    var (a, b, c, d, e, f) in (ReadOnlySpan<(double, double, double, double, double, double)>)
                        [
                            (1, 0.5 + k, 0.5 + k, 1, 0.5, 1),
                            (0.5 - k, 1, 0, 0.5 + k, 0, 0.5),
                            (0, 0.5 - k, 0.5 - k, 0, 0.5, 0),
                            (0.5 + k, 0, 1, 0.5 - k, 1, 0.5),
                        ]
                )
                {
                    Point(a, b, " "u8);
                    Point(c, d, " "u8);
                    Point(e, f, "c\n"u8);
                }
                content.Raw("f\n"u8);
                break;
        }
    }

    void DrawOutline(OutlineItem frame, double x, double top)
    {
        if (frame.Fill is not null)
            SetColor(frame.Fill);
        var line = frame.Thickness > 0;
        if (line)
        {
            for (var i = 0; i < 6; i += 2)
                content.Num(int.Parse(frame.Color.AsSpan(i, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture) / 255.0);
            content.Raw("RG "u8).Num(frame.Thickness).Raw("w\n"u8);
        }
        double w = frame.Width,
            h = frame.Height,
            r = Math.Min(frame.Radius, Math.Min(w, h) / 2),
            y = top - h;
        if (r <= 0)
            content.Num(x).Num(y).Num(w).Num(h).Raw("re\n"u8);
        else
        {
            // A quarter of a circle as a Bézier curve: its handles are 0.5523 of the radius long.
            var k = r * 0.5523;
            void Curve(double a, double b, double c, double d, double e, double f) =>
                content.Num(a).Num(b).Num(c).Num(d).Num(e).Num(f).Raw("c\n"u8);
            content.Num(x + r).Num(y).Raw("m\n"u8).Num(x + w - r).Num(y).Raw("l\n"u8);
            Curve(x + w - r + k, y, x + w, y + r - k, x + w, y + r);
            content.Num(x + w).Num(y + h - r).Raw("l\n"u8);
            Curve(x + w, y + h - r + k, x + w - r + k, y + h, x + w - r, y + h);
            content.Num(x + r).Num(y + h).Raw("l\n"u8);
            Curve(x + r - k, y + h, x, y + h - r + k, x, y + h - r);
            content.Num(x).Num(y + r).Raw("l\n"u8);
            Curve(x, y + r - k, x + r - k, y, x + r, y);
        }
        content.Raw(
            frame.Fill is null
                ? line
                    ? "S\n"u8
                    : "n\n"u8
                : line
                    ? "B\n"u8
                    : "f\n"u8
        );
    }

    void DrawPicture(string asset, double x, double y, double width, double height, bool withAll = false)
    {
        if (Image(asset, withAll) is not (var image and > 0))
            return;
        if (withAll)
            NotePage(asset);
        content
            .Raw("q "u8)
            .Num(width)
            .Raw("0 0 "u8)
            .Num(height)
            .Num(x)
            .Num(y)
            .Raw("cm "u8)
            .Raw(Encoding.Latin1.GetBytes($"/I{image} Do Q\n"));
    }

    /// <summary>Items in a box of their own, turned against the clock into the place whose lower left corner is at x, y (8.3.3).</summary>
    void DrawTurned(TurnedItem item, double x, double y)
    {
        var box = TurnedItem.Box(item.Width, item.Height, item.Turn);
        double[] matrix = item.Turn switch
        {
            90 => [0, 1, -1, 0, x + item.Width, y],
            180 => [-1, 0, 0, -1, x + item.Width, y + item.Height],
            _ => [0, -1, 1, 0, x, y + item.Height],
        };
        content.Raw("q "u8);
        foreach (var n in matrix)
            content.Num(n);
        content.Raw("cm\n"u8);
        color = "";
        foreach (var inner in item.Items)
            Draw(inner, 0, box.Height);
        content.Raw("Q\n"u8);
        color = "";
    }

    void DrawWatermark(WatermarkItem mark, double left, double top)
    {
        var width = mark.Line.Runs.Sum(r => r.Width);
        var font = mark.Line.Runs.Count > 0 ? mark.Line.Runs[0] : null;
        if (font is null)
            return;
        var strength = (int)Math.Round(mark.Strength * 100);
        strengths[strength] = $"<</Type/ExtGState/ca {PdfObjects.Number(strength / 100.0)}>>";
        double radians = mark.Angle * Math.PI / 180,
            cos = Math.Cos(radians),
            sin = Math.Sin(radians);
        content
            .Raw(
                Encoding.Latin1.GetBytes(
                    $"q /G{strength} gs {PdfObjects.Number(cos)} {PdfObjects.Number(sin)} {PdfObjects.Number(-sin)} "
                        + $"{PdfObjects.Number(cos)} "
                )
            )
            .Num(left + mark.X)
            .Num(top - mark.Y)
            .Raw("cm "u8);
        color = "";
        DrawLine(mark.Line, -width / 2, -font.Font.CapHeight * font.Size / font.Font.UnitsPerEm / 2, null);
        content.Raw("Q\n"u8);
        color = "";
    }

    void DrawLine(TextLine line, double left, double baseline, Element? element)
    {
        foreach (var picture in line.Pictures ?? [])
        {
            if (!isApart)
                structure?.Turn(picture.Figure, element);
            DrawPicture(picture.Asset, left + picture.X, baseline, picture.Width, picture.Height);
            if (!isApart)
                structure?.Turn(element);
        }
        if (line.Reading is { } reading)
            DrawAsRead(line.Runs, reading, left, baseline);
        foreach (var run in line.Runs)
        {
            SetColor(run.Style.Color);
            var font = Font(run.Font);
            if (line.Reading is not null)
            {
                Underline(run);
                continue;
            }
            content.Raw(font.Opening).Num(run.Size).Raw("Tf "u8).Num(left + run.X).Num(baseline + run.Rise).Raw("Td ["u8);
            foreach (var word in run.Words)
                Show(font, run, word);
            content.Raw("]TJ ET\n"u8);
            Underline(run);
        }

        void Underline(WordRun run)
        {
            if (!run.Style.Underline && !run.Style.Strike)
                return;
            var unit = run.Size / run.Font.UnitsPerEm;
            var thickness = Math.Max(run.Font.UnderlineSize * unit, 0.4);
            void Across(double y) => content.Num(left + run.X).Num(y).Num(run.Width).Num(thickness).Raw("re f\n"u8);
            if (run.Style.Underline)
                Across(baseline + run.Rise + run.Font.UnderlineOffset * unit - thickness);
            if (run.Style.Strike)
                Across(baseline + run.Rise + run.Font.CapHeight * unit * 0.36);
        }
    }

    /// <summary>
    /// Draws words in the order in which they are read (ISO 32000-1, 14.8.2.3.3). In a word that runs from right to left each letter is
    /// set at its own place, in that order too: most readers of text take letters as they come, the others by where they stand.
    /// </summary>
    void DrawAsRead(IReadOnlyList<WordRun> runs, IReadOnlyList<(int Run, int Word)> reading, double left, double baseline)
    {
        var starts = runs.Select(run =>
            {
                var (x, unit) = (left + run.X, run.Size / run.Font.UnitsPerEm);
                return run
                    .Words.Select(word =>
                    {
                        var at = x;
                        x += word.Advance * unit + (word.IsSpace ? run.SpaceExtra * word.Text.Length : 0);
                        return at;
                    })
                    .ToArray();
            })
            .ToArray();
        for (var i = 0; i < reading.Count; i++)
        {
            var (at, index) = reading[i];
            var (run, word, start) = (runs[at], runs[at].Words[index], starts[at][index]);
            SetColor(run.Style.Color);
            var font = Font(run.Font);
            if (word.Backwards)
            {
                foreach (var (code, x, y) in font.Letters(word))
                    Begin(start + x * run.Size, baseline + run.Rise + y * run.Size).Raw("<"u8).Raw(code).Raw(">Tj ET\n"u8);
                continue;
            }
            Begin(start, baseline + run.Rise).Raw("["u8);
            Show(font, run, word);
            // Words that also stand one after the other go on, as in any other line.
            while (
                i + 1 < reading.Count
                && reading[i + 1] is var (sameRun, next)
                && sameRun == at
                && next == index + 1
                && !run.Words[next].Backwards
            )
            {
                Show(font, run, run.Words[index = next]);
                i++;
            }
            content.Raw("]TJ ET\n"u8);

            ContentStream Begin(double x, double y) => content.Raw(font.Opening).Num(run.Size).Raw("Tf "u8).Num(x).Num(y).Raw("Td "u8);
        }
    }

    /// <summary>A word inside the TJ array that is being written, with what its spaces are stretched by.</summary>
    void Show(PdfFont font, WordRun run, ShapedWord word)
    {
        var (fragment, rises) = font.Fragment(word);
        // RISE stands for a shift in font sizes; Ts wants points.
        content.Raw(rises ? Rise(fragment, run.Size) : fragment);
        if (run.SpaceExtra != 0 && word.IsSpace)
            content.Num(-run.SpaceExtra * word.Text.Length * 1000 / run.Size);
    }

    static byte[] Rise(byte[] fragment, double size) =>
        Encoding.Latin1.GetBytes(
            System.Text.RegularExpressions.Regex.Replace(
                Encoding.Latin1.GetString(fragment),
                @"(-?[0-9.]+) RISE",
                m => PdfObjects.Number(double.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture) * size) + " Ts"
            )
        );

    void SetColor(string rgb)
    {
        if (rgb == color)
            return;
        color = rgb;
        // Black is the black ink alone: gray and not a mixture of three colors (8.6.4.2), so that small text has no colored edges.
        if (rgb == "000000")
        {
            content.Raw("0 g\n"u8);
            return;
        }
        for (var i = 0; i < 6; i += 2)
            content.Num(int.Parse(rgb.AsSpan(i, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture) / 255.0);
        content.Raw("rg\n"u8);
    }

    PdfFont Font(PaperFont font)
    {
        if (!fonts.TryGetValue(font, out var known))
            fonts[font] = known = new(font, objects.Reserve(), $"/F{fonts.Count + 1}");
        return known;
    }

    int Part(SharedPart part)
    {
        if (parts.TryGetValue(part, out var number))
            return number;
        // A margin around the box keeps swashes and accents from being clipped.
        return parts[part] = Drawing(part.Items, part.Width, part.Height, 72);
    }

    /// <summary>Items as a form XObject, from their upper left corner; answers its number.</summary>
    /// <param name="margin">Around its box, points.</param>
    int Drawing(IEnumerable<PageItem> items, double width, double height, double margin)
    {
        // The page that is being written waits while the part is; both use the one buffer.
        var (waiting, waitingColor) = (content.Written.ToArray(), color);
        content.Clear();
        color = "";
        var within = isApart;
        isApart = true;
        foreach (var item in items)
            Draw(item, 0, 0);
        isApart = within;
        var number = objects.Reserve();
        objects.Stream(
            number,
            $"/Type/XObject/Subtype/Form/BBox[{PdfObjects.Number(-margin)} {PdfObjects.Number(-height - margin)} "
                + $"{PdfObjects.Number(width + margin)} {PdfObjects.Number(margin)}]/Resources {resources} 0 R",
            content.Written,
            // Beginning to compress costs more than the few bytes of a field's value are worth.
            deflate: content.Written.Length > Small
        );
        content.Clear();
        content.Raw(waiting);
        color = waitingColor;
        return number;
    }

    int Image(string asset, bool withAll = false)
    {
        if (images.TryGetValue(asset, out var number))
            return number;
        if (!withAll || pictures(asset) is not { MediaType: "application/pdf" })
            return images[asset] = pictures(asset)?.Write(objects) ?? 0;
        var (whole, _) = PartOf(asset);
        var file = pictures(whole)!;
        var tags = structure is null ? [] : file.Tags;
        var pages = file.WriteAll(objects, tags.Count > 0 ? structure!.NewKeys : null);
        for (var i = 0; i < pages.Count; i++)
        {
            var page = i == 0 ? whole : string.Create(CultureInfo.InvariantCulture, $"{whole}#{i + 1}");
            images[page] = pages[i].Number;
            if (pages[i].Key is { } key)
                imported[page] = (tags, pages[i].Content, key);
        }
        return images.GetValueOrDefault(asset);
    }

    readonly Dictionary<string, (IReadOnlyList<PdfTag> Tags, int Content, int Key)> imported = [];

    /// <summary>The PDF that a page is of, and its number.</summary>
    static (string Asset, int Page) PartOf(string asset) =>
        asset.IndexOf('#') is > 0 and var sign && int.TryParse(asset.AsSpan(sign + 1), CultureInfo.InvariantCulture, out var page)
            ? (asset[..sign], page)
            : (asset, 1);

    /// <summary>A page of a PDF that is drawn has its own structure, where it has one.</summary>
    void NotePage(string asset)
    {
        if (structure is null || isApart || pictures(asset)?.MediaType != "application/pdf")
            return;
        form = PartOf(asset);
        if (!imported.TryGetValue(asset, out var tagged))
            return;
        structure.Leave();
        structure.Imported(form.Asset, tagged.Tags, form.Page, tagged.Content, tagged.Key);
    }

    /// <summary>Writes what was put off to the end: fonts, resources, page tree, outline, trailer.</summary>
    public void Finish()
    {
        if (kids.Count > 0 || nodes.Count == 0)
            CloseNode();
        objects.Object(node, "null"); // the node reserved for pages that did not come
        foreach (var font in fonts.Values)
            font.Write(objects, programs);
        objects.Object(
            resources,
            $"<</Font<<{string.Concat(fonts.Values.Select(f => $"{f.Name} {f.Number} 0 R"))}>>/XObject<<"
                + $"{string.Concat(parts.Values.Select(n => $"/S{n} {n} 0 R"))}"
                + $"{string.Concat(images.Values.Where(n => n > 0).Select(n => $"/I{n} {n} 0 R"))}>>"
                + $"{(strengths.Count == 0 ? "" : $"/ExtGState<<{string.Concat(strengths.Select(s => $"/G{s.Key} {s.Value}"))}>>")}>>"
        );
        var tags = structure?.Finish(title.Title) ?? "";
        var form = fields?.Finish() ?? "";
        objects.Object(root, $"<</Type/Pages/Count {pageCount}/Kids[{string.Join(' ', nodes.Select(n => $"{n} 0 R"))}]>>");
        if (pendingOutline is { } last)
            WriteOutline(last, 0);
        objects.Object(
            outlines,
            firstOutline == 0
                ? "<</Type/Outlines>>"
                : $"<</Type/Outlines/First {firstOutline} 0 R/Last {lastOutline} 0 R/Count {outlineCount}>>"
        );
        objects.Object(
            info,
            $"<</Title {PdfObjects.TextString(title.Title)}/Producer (Bandeja)/CreationDate "
                + $"(D:{title.Created.UtcDateTime.ToString("yyyyMMddHHmmss", CultureInfo.InvariantCulture)}Z)>>"
        );
        objects.Object(
            catalog,
            $"<</Type/Catalog/Pages {root} 0 R/Lang ({title.Language})/ViewerPreferences<</DisplayDocTitle "
                + $"true>>{(firstOutline == 0 ? "" : $"/Outlines {outlines} 0 R/PageMode/UseOutlines")}{tags}{form}>>"
        );
        objects.End(catalog, info);
        programs?.Finished();
    }
}
