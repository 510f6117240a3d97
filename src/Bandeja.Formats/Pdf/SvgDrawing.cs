using System.Globalization;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using SkiaSharp;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// A drawing in SVG: the static shapes of SVG 2 (paths, basic shapes, groups, reuse, gradients, strokes). What runs or reaches outside
/// is taken out when it comes in, so that the cleaned drawing is harmless wherever it is shown.
/// </summary>
static class SvgDrawing
{
    const int MaxElements = 50_000,
        MaxDepth = 60,
        StopWork = 20;

    /// <summary>What drawing may take, in characters of attributes; a stop of a gradient counts as <see cref="StopWork"/>.</summary>
    const long MaxWork = 20_000_000;
    static readonly XNamespace Svg = "http://www.w3.org/2000/svg",
        XLink = "http://www.w3.org/1999/xlink";
    static readonly HashSet<string> Known =
    [
        "svg",
        "g",
        "path",
        "rect",
        "circle",
        "ellipse",
        "line",
        "polyline",
        "polygon",
        "use",
        "defs",
        "symbol",
        "linearGradient",
        "radialGradient",
        "stop",
        "title",
        "desc",
        "clipPath",
        "a",
    ];

    /// <summary>The drawing with nothing left in it but shapes.</summary>
    /// <exception cref="PictureException">It is no drawing, or holds what cannot be printed.</exception>
    public static byte[] Clean(byte[] data)
    {
        var root = Parse(data);
        if (root.Descendants(Svg + "text").Any(t => t.Value.Trim().Length > 0))
            throw new PictureException(
                "This drawing contains text, which needs a font. Convert the text to outlines and add the drawing again."
            );
        foreach (var element in root.Descendants().Where(e => e.Name.Namespace != Svg || !Known.Contains(e.Name.LocalName)).ToList())
            element.Remove();
        foreach (var attribute in root.DescendantsAndSelf().SelectMany(e => e.Attributes()).ToList())
        {
            var name = attribute.Name.LocalName;
            var outside =
                name == "href" && !attribute.Value.StartsWith('#')
                || attribute.Value.Contains("url(", StringComparison.OrdinalIgnoreCase)
                    && !attribute.Value.Replace(" ", "").Contains("url(#", StringComparison.Ordinal);
            if (
                name.StartsWith("on", StringComparison.OrdinalIgnoreCase)
                || outside
                || attribute.Value.Contains("javascript:", StringComparison.OrdinalIgnoreCase)
            )
                attribute.Remove();
        }
        Size(root);
        return Encoding.UTF8.GetBytes(root.ToString(SaveOptions.DisableFormatting));
    }

    static XElement Parse(byte[] data)
    {
        try
        {
            // A document type may define entities that grow without end or read files: it is passed over.
            var settings = new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Ignore,
                XmlResolver = null,
                MaxCharactersInDocument = 20_000_000,
            };
            // Counted before a tree is made of it.
            var parts = 0;
            using (var counter = XmlReader.Create(new MemoryStream(data), settings))
                while (counter.Read())
                {
                    if (counter.Depth > MaxDepth)
                        throw new PictureException($"This drawing is nested more than {MaxDepth} deep.");
                    if (counter.NodeType is XmlNodeType.Element && ++parts > MaxElements)
                        throw new PictureException($"This drawing has more than {MaxElements:N0} parts. Save it as PNG and add that file.");
                }
            using var reader = XmlReader.Create(new MemoryStream(data), settings);
            var root = XDocument.Load(reader).Root;
            return root?.Name == Svg + "svg" ? root : throw new PictureException("This file is not an SVG drawing.");
        }
        catch (XmlException)
        {
            throw new PictureException("This drawing is damaged and cannot be read.");
        }
    }

    static (SKRect View, double Width, double Height) Size(XElement root)
    {
        var box = Numbers((string?)root.Attribute("viewBox"));
        double? Length(string name) => (string?)root.Attribute(name) is { } v && !v.TrimEnd().EndsWith('%') ? Number(v) : null;
        var width = Length("width") ?? (box.Count == 4 ? box[2] : 300);
        var height = Length("height") ?? (box.Count == 4 ? box[3] : 150);
        if (!(width is > 0 and < 100_000 && height is > 0 and < 100_000))
            throw new PictureException("This drawing has no valid size.");
        var view =
            box.Count == 4 && box[2] > 0 && box[3] > 0
                ? SKRect.Create((float)box[0], (float)box[1], (float)box[2], (float)box[3])
                : SKRect.Create(0, 0, (float)width, (float)height);
        return (view, width, height);
    }

    /// <summary>Width and height of a cleaned drawing, in its units.</summary>
    public static (double Width, double Height) Size(byte[] data)
    {
        var (_, width, height) = Size(Parse(data));
        return (width, height);
    }

    /// <summary>The drawing as a PDF of one page.</summary>
    public static byte[] ToPdf(byte[] data)
    {
        var root = Parse(data);
        var (view, width, height) = Size(root);
        using var target = new MemoryStream();
        using (var document = SKDocument.CreatePdf(target))
        {
            Draw(root, view, document.BeginPage((float)width, (float)height), width, height);
            document.EndPage();
            document.Close();
        }
        return target.ToArray();
    }

    /// <summary>Draws a cleaned drawing onto a canvas, as large as it fits a width and height, in the middle.</summary>
    public static void Draw(byte[] data, SKCanvas canvas, double width, double height)
    {
        var root = Parse(data);
        Draw(root, Size(root).View, canvas, width, height);
    }

    static void Draw(XElement root, SKRect view, SKCanvas canvas, double width, double height)
    {
        var scale = Math.Min(width / view.Width, height / view.Height);
        canvas.Translate((float)((width - view.Width * scale) / 2), (float)((height - view.Height * scale) / 2));
        canvas.Scale((float)scale);
        canvas.Translate(-view.Left, -view.Top);
        var byId = root.Descendants()
            .Where(e => e.Attribute("id") is not null)
            .GroupBy(e => (string)e.Attribute("id")!)
            .ToDictionary(g => g.Key, g => g.First());
        new Painter(canvas, byId).Children(
            root,
            new(SKColors.Black, null, null, null, 1, 1, 1, 1, SKStrokeCap.Butt, SKStrokeJoin.Miter, false, SKColors.Black),
            0
        );
    }

    static double? Number(string? text)
    {
        if (text is null)
            return null;
        var t = text.Trim();
        var unit =
            t.Length > 2
                ? t[^2..] switch
                {
                    "px" => 1,
                    "pt" => 96 / 72.0,
                    "mm" => 96 / 25.4,
                    "cm" => 96 / 2.54,
                    "in" => 96,
                    "pc" => 16.0,
                    _ => 0,
                }
                : 0;
        return double.TryParse(unit > 0 ? t[..^2] : t, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) && double.IsFinite(n)
            ? n * (unit > 0 ? unit : 1)
            : null;
    }

    static List<double> Numbers(string? text) =>
        [
            .. (text ?? "")
                .Split([' ', ',', '\t', '\n', '\r'], StringSplitOptions.RemoveEmptyEntries)
                .Select(t => Number(t))
                .OfType<double>(),
        ];

    /// <summary>What is inherited from one element to those within it.</summary>
    readonly record struct Look(
        SKColor? Fill,
        string? FillServer,
        SKColor? Stroke,
        string? StrokeServer,
        double StrokeWidth,
        double FillOpacity,
        double StrokeOpacity,
        double Opacity,
        SKStrokeCap Cap,
        SKStrokeJoin Join,
        bool EvenOdd,
        SKColor Current
    )
    {
        public float[]? Dashes { get; init; }
    }

    sealed class Painter(SKCanvas canvas, Dictionary<string, XElement> byId)
    {
        int drawn;
        long work;
        readonly Dictionary<XElement, List<(SKColor Color, float Place)>> stopsOf = [];

        /// <summary>Charges what is about to be drawn: a shape or a gradient of a few bytes can be used any number of times.</summary>
        void Charge(int amount)
        {
            if ((work += amount) > MaxWork)
                throw new PictureException("This drawing takes too much to draw. Save it as PNG and add that file.");
        }

        public void Children(XElement parent, Look look, int depth)
        {
            if (depth > MaxDepth)
                return;
            foreach (var element in parent.Elements())
                Element(element, look, depth + 1);
        }

        void Element(XElement e, Look look, int depth)
        {
            if (depth > MaxDepth || ++drawn > MaxElements || Property(e, "display") == "none" || Property(e, "visibility") == "hidden")
                return;
            foreach (var attribute in e.Attributes())
                Charge(attribute.Value.Length);
            look = Inherit(e, look);
            canvas.Save();
            if (Transform((string?)e.Attribute("transform")) is { } matrix)
                canvas.Concat(matrix);
            switch (e.Name.LocalName)
            {
                case "g" or "a":
                    Children(e, look, depth);
                    break;
                case "svg":
                    canvas.Translate(F(e, "x"), F(e, "y"));
                    Children(e, look, depth);
                    break;
                case "use":
                    var target = ((string?)e.Attribute("href") ?? (string?)e.Attribute(XLink + "href"))?.TrimStart('#');
                    if (target is null || !byId.TryGetValue(target, out var used))
                        break;
                    canvas.Translate(F(e, "x"), F(e, "y"));
                    if (used.Name.LocalName == "symbol")
                        Children(used, Inherit(used, look), depth);
                    else
                        Element(used, look, depth);
                    break;
                default:
                    using (var path = Shape(e))
                        if (path is not null)
                            Paint(path, look);
                    break;
            }
            canvas.Restore();
        }

        static string? Property(XElement e, string name)
        {
            foreach (var part in ((string?)e.Attribute("style") ?? "").Split(';'))
            {
                var colon = part.IndexOf(':');
                if (colon > 0 && part[..colon].Trim() == name)
                    return part[(colon + 1)..].Trim();
            }
            return ((string?)e.Attribute(name))?.Trim();
        }

        static float F(XElement e, string name) => (float)(Number((string?)e.Attribute(name)) ?? 0);

        static Look Inherit(XElement e, Look look)
        {
            if (Property(e, "color") is { } current && Color(current, look) is { } c)
                look = look with { Current = c };
            if (Property(e, "fill") is { } fill)
                look =
                    fill.StartsWith("url(", StringComparison.Ordinal) ? look with { FillServer = Server(fill), Fill = null }
                    : fill == "inherit" ? look
                    : look with { Fill = Color(fill, look), FillServer = null };
            if (Property(e, "stroke") is { } stroke)
                look =
                    stroke.StartsWith("url(", StringComparison.Ordinal) ? look with { StrokeServer = Server(stroke), Stroke = null }
                    : stroke == "inherit" ? look
                    : look with { Stroke = Color(stroke, look), StrokeServer = null };
            if (Number(Property(e, "stroke-width")) is { } width)
                look = look with { StrokeWidth = width };
            if (Number(Property(e, "fill-opacity")) is { } fo)
                look = look with { FillOpacity = fo };
            if (Number(Property(e, "stroke-opacity")) is { } so)
                look = look with { StrokeOpacity = so };
            if (Number(Property(e, "opacity")) is { } o)
                look = look with { Opacity = look.Opacity * Math.Clamp(o, 0, 1) };
            if (Property(e, "stroke-linecap") is { } cap)
                look = look with
                {
                    Cap = cap switch
                    {
                        "round" => SKStrokeCap.Round,
                        "square" => SKStrokeCap.Square,
                        _ => SKStrokeCap.Butt,
                    },
                };
            if (Property(e, "stroke-linejoin") is { } join)
                look = look with
                {
                    Join = join switch
                    {
                        "round" => SKStrokeJoin.Round,
                        "bevel" => SKStrokeJoin.Bevel,
                        _ => SKStrokeJoin.Miter,
                    },
                };
            if (Property(e, "fill-rule") is { } rule)
                look = look with { EvenOdd = rule == "evenodd" };
            if (Property(e, "stroke-dasharray") is { } dashes)
            {
                var lengths = Numbers(dashes).Select(d => (float)d).ToList();
                if (lengths.Count % 2 == 1)
                    lengths.AddRange([.. lengths]);
                look = look with { Dashes = lengths.Count > 0 && lengths.All(d => d >= 0) && lengths.Sum() > 0 ? [.. lengths] : null };
            }
            return look;
        }

        static string Server(string value) => value[(value.IndexOf('#') + 1)..].Split(')')[0].Trim('"', '\'', ' ');

        static SKColor? Color(string value, Look look)
        {
            if (value is "none" or "transparent")
                return null;
            if (value == "currentColor")
                return look.Current;
            if (value.StartsWith("rgb", StringComparison.Ordinal))
            {
                var parts = value[(value.IndexOf('(') + 1)..].TrimEnd(')').Split([',', ' ', '/'], StringSplitOptions.RemoveEmptyEntries);
                byte Part(int i) =>
                    (byte)Math.Clamp(parts[i].EndsWith('%') ? (Number(parts[i][..^1]) ?? 0) * 2.55 : Number(parts[i]) ?? 0, 0, 255);
                return parts.Length >= 3
                    ? new SKColor(
                        Part(0),
                        Part(1),
                        Part(2),
                        parts.Length > 3 ? (byte)(Math.Clamp(Number(parts[3].TrimEnd('%')) ?? 1, 0, 1) * 255) : (byte)255
                    )
                    : SKColors.Black;
            }
            if (SKColor.TryParse(value, out var color))
                return color;
            return typeof(SKColors)
                    .GetField(
                        value,
                        System.Reflection.BindingFlags.Public
                            | System.Reflection.BindingFlags.Static
                            | System.Reflection.BindingFlags.IgnoreCase
                    )
                    ?.GetValue(null) as SKColor?
                ?? SKColors.Black;
        }

        SKPath? Shape(XElement e)
        {
            var path = new SKPath();
            switch (e.Name.LocalName)
            {
                case "path":
                    path.Dispose();
                    return SKPath.ParseSvgPathData((string?)e.Attribute("d") ?? "");
                case "rect":
                    float? rx = (float?)Number((string?)e.Attribute("rx")),
                        ry = (float?)Number((string?)e.Attribute("ry"));
                    path.AddRoundRect(SKRect.Create(F(e, "x"), F(e, "y"), F(e, "width"), F(e, "height")), rx ?? ry ?? 0, ry ?? rx ?? 0);
                    return path;
                case "circle":
                    path.AddCircle(F(e, "cx"), F(e, "cy"), F(e, "r"));
                    return path;
                case "ellipse":
                    path.AddOval(
                        new SKRect(F(e, "cx") - F(e, "rx"), F(e, "cy") - F(e, "ry"), F(e, "cx") + F(e, "rx"), F(e, "cy") + F(e, "ry"))
                    );
                    return path;
                case "line":
                    path.MoveTo(F(e, "x1"), F(e, "y1"));
                    path.LineTo(F(e, "x2"), F(e, "y2"));
                    return path;
                case "polyline" or "polygon":
                    var points = Numbers((string?)e.Attribute("points"))
                        .Chunk(2)
                        .Where(p => p.Length == 2)
                        .Select(p => new SKPoint((float)p[0], (float)p[1]))
                        .ToArray();
                    if (points.Length > 1)
                        path.AddPoly(points, e.Name.LocalName == "polygon");
                    return path;
                default:
                    path.Dispose();
                    return null;
            }
        }

        void Paint(SKPath path, Look look)
        {
            path.FillType = look.EvenOdd ? SKPathFillType.EvenOdd : SKPathFillType.Winding;
            using var paint = new SKPaint { IsAntialias = true, Style = SKPaintStyle.Fill };
            if (Ready(paint, look.Fill, look.FillServer, look.FillOpacity * look.Opacity, path.Bounds))
                canvas.DrawPath(path, paint);
            paint.Shader = null;
            (paint.Style, paint.StrokeWidth, paint.StrokeCap, paint.StrokeJoin, paint.StrokeMiter) = (
                SKPaintStyle.Stroke,
                (float)look.StrokeWidth,
                look.Cap,
                look.Join,
                4
            );
            if (look.Dashes is not null)
                paint.PathEffect = SKPathEffect.CreateDash(look.Dashes, 0);
            if (look.StrokeWidth > 0 && Ready(paint, look.Stroke, look.StrokeServer, look.StrokeOpacity * look.Opacity, path.Bounds))
                canvas.DrawPath(path, paint);
        }

        bool Ready(SKPaint paint, SKColor? color, string? server, double opacity, SKRect bounds)
        {
            if (server is not null && byId.TryGetValue(server, out var gradient) && Shader(gradient, bounds) is { } shader)
            {
                paint.Shader = shader;
                paint.Color = SKColors.Black.WithAlpha((byte)(Math.Clamp(opacity, 0, 1) * 255));
                return true;
            }
            if (color is not { } c)
                return false;
            paint.Color = c.WithAlpha((byte)(c.Alpha * Math.Clamp(opacity, 0, 1)));
            return paint.Color.Alpha > 0;
        }

        SKShader? Shader(XElement gradient, SKRect bounds)
        {
            if (!stopsOf.TryGetValue(gradient, out var stops))
                stopsOf[gradient] = stops = Stops(gradient, 0);
            Charge(stops.Count * StopWork);
            if (stops.Count == 0)
                return null;
            var colors = stops.Select(s => s.Color).ToArray();
            var places = stops.Select(s => s.Place).ToArray();
            var whole = (string?)gradient.Attribute("gradientUnits") == "userSpaceOnUse";
            // Places within the shape's own box are taken to it by a matrix (SVG 2, 14.2.2.1).
            var matrix = whole
                ? SKMatrix.Identity
                : SKMatrix.CreateScale(bounds.Width, bounds.Height).PostConcat(SKMatrix.CreateTranslation(bounds.Left, bounds.Top));
            if (Transform((string?)gradient.Attribute("gradientTransform")) is { } own)
                matrix = matrix.PreConcat(own);
            float At(string name, double otherwise) =>
                (string?)gradient.Attribute(name) is { } v
                    ? (float)(v.TrimEnd().EndsWith('%') ? (Number(v.Trim()[..^1]) ?? 0) / 100 : Number(v) ?? otherwise)
                    : (float)otherwise;
            return gradient.Name.LocalName switch
            {
                "linearGradient" => SKShader.CreateLinearGradient(
                    new(At("x1", 0), At("y1", 0)),
                    new(At("x2", 1), At("y2", 0)),
                    colors,
                    places,
                    SKShaderTileMode.Clamp,
                    matrix
                ),
                "radialGradient" => SKShader.CreateRadialGradient(
                    new(At("cx", 0.5), At("cy", 0.5)),
                    Math.Max(0.0001f, At("r", 0.5)),
                    colors,
                    places,
                    SKShaderTileMode.Clamp,
                    matrix
                ),
                _ => null,
            };
        }

        List<(SKColor Color, float Place)> Stops(XElement gradient, int depth)
        {
            var own = gradient
                .Elements(Svg + "stop")
                .Select(s =>
                {
                    var offset = ((string?)s.Attribute("offset") ?? "0").Trim();
                    var place = offset.EndsWith('%') ? (Number(offset[..^1]) ?? 0) / 100 : Number(offset) ?? 0;
                    var color = Color(Property(s, "stop-color") ?? "black", default) ?? SKColors.Transparent;
                    return (
                        color.WithAlpha((byte)(color.Alpha * Math.Clamp(Number(Property(s, "stop-opacity")) ?? 1, 0, 1))),
                        (float)Math.Clamp(place, 0, 1)
                    );
                })
                .ToList();
            if (own.Count > 0 || depth > 10)
                return own;
            var other = ((string?)gradient.Attribute("href") ?? (string?)gradient.Attribute(XLink + "href"))?.TrimStart('#');
            return other is not null && byId.TryGetValue(other, out var next) ? Stops(next, depth + 1) : own;
        }

        static SKMatrix? Transform(string? text)
        {
            if (string.IsNullOrWhiteSpace(text))
                return null;
            var matrix = SKMatrix.Identity;
            foreach (var part in text.Split(')', StringSplitOptions.RemoveEmptyEntries))
            {
                var open = part.IndexOf('(');
                if (open < 0)
                    continue;
                var n = Numbers(part[(open + 1)..]).Select(v => (float)v).ToList();
                var step = (part[..open].Trim(' ', ',', '\n', '\t', '\r'), n.Count) switch
                {
                    ("translate", 1) => SKMatrix.CreateTranslation(n[0], 0),
                    ("translate", 2) => SKMatrix.CreateTranslation(n[0], n[1]),
                    ("scale", 1) => SKMatrix.CreateScale(n[0], n[0]),
                    ("scale", 2) => SKMatrix.CreateScale(n[0], n[1]),
                    ("rotate", 1) => SKMatrix.CreateRotationDegrees(n[0]),
                    ("rotate", 3) => SKMatrix.CreateRotationDegrees(n[0], n[1], n[2]),
                    ("skewX", 1) => SKMatrix.CreateSkew(MathF.Tan(n[0] * MathF.PI / 180), 0),
                    ("skewY", 1) => SKMatrix.CreateSkew(0, MathF.Tan(n[0] * MathF.PI / 180)),
                    ("matrix", 6) => new SKMatrix(n[0], n[2], n[4], n[1], n[3], n[5], 0, 0, 1),
                    _ => SKMatrix.Identity,
                };
                matrix = matrix.PreConcat(step);
            }
            return matrix;
        }
    }
}
