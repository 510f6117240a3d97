using System.Globalization;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>How a shape is filled and outlined (DrawingML, ECMA-376 part 1, 20.1; the older form, part 4, 19.1).</summary>
/// <param name="Shade">RRGGBB; null for none.</param>
/// <param name="Line">Width in points and color; null for none.</param>
/// <param name="Padding">From its edges to its text, points.</param>
sealed record WordShape(string? Shade, (double Width, string Color)? Line, double Padding)
{
    /// <summary>Shapes that are a box here; of others only their text is read.</summary>
    static readonly HashSet<string> Boxes =
    [
        "rect",
        "roundRect",
        "snip1Rect",
        "round1Rect",
        "round2SameRect",
        "flowChartProcess",
        "flowChartAlternateProcess",
    ];

    /// <summary>True for a shape that is as wide and as high as it looks.</summary>
    public static bool IsBox(XElement shape) => Boxes.Contains(Preset(shape) ?? "");

    /// <summary>True for a straight line along the page or down it.</summary>
    public static bool IsLine(XElement shape, double width, double height) =>
        Preset(shape) is "line" or "straightConnector1" && Math.Min(width, height) < 1.5;

    static string? Preset(XElement shape) => shape.Child("spPr").Child("prstGeom").Value("prst");

    /// <summary>The look of a shape of DrawingML.</summary>
    public static WordShape Of(XElement shape, WordTheme theme)
    {
        var (properties, style) = (shape.Child("spPr"), shape.Child("style"));
        string? Referred(string name) =>
            style.Child(name) is { } reference && reference.Value("idx") is not (null or "0") ? theme.Color(reference) : null;
        var shade =
            properties.Child("noFill") is not null ? null
            : properties.Child("solidFill") is { } fill ? theme.Color(fill)
            : properties.Child("gradFill") is { } gradient ? theme.Color(gradient.Below("gs").FirstOrDefault())
            : Referred("fillRef");
        var drawn = properties.Child("ln");
        var color =
            drawn.Child("noFill") is not null ? null
            : drawn.Child("solidFill") is { } ink ? theme.Color(ink)
            : Referred("lnRef") ?? (drawn?.HasElements == true || drawn?.Value("w") is not null ? "000000" : null);
        var width = (Number(drawn.Value("w")) ?? 9525) / EmuPerPoint;
        var inset = (Number(shape.Child("bodyPr").Value("lIns")) ?? 91440) / EmuPerPoint;
        return new(shade, color is null ? null : (Math.Clamp(width, 0.25, 20), color), Math.Clamp(inset, 0, 100));
    }

    /// <summary>The look of a shape of the older form.</summary>
    public static WordShape OfOlder(XElement shape)
    {
        static string? Named(string? value)
        {
            var text = value?.Trim().Split(' ')[0].TrimStart('#');
            return text?.ToLowerInvariant() switch
            {
                null => null,
                "white" => "ffffff",
                "black" => "000000",
                "red" => "ff0000",
                "gray" => "808080",
                "silver" => "c0c0c0",
                "blue" => "0000ff",
                "green" => "008000",
                "yellow" => "ffff00",
                { Length: 3 } s => Color(string.Concat(s.Select(c => $"{c}{c}"))),
                { } s => Color(s),
            };
        }
        var filled = shape.Value("filled") is not ("f" or "false");
        var stroked = shape.Value("stroked") is not ("f" or "false");
        var inset = shape.Child("textbox").Value("inset")?.Split(',')[0];
        return new(
            filled ? Named(shape.Value("fillcolor")) ?? "ffffff" : null,
            stroked
                ? (Math.Clamp(Points(shape.Value("strokeweight"), 1) ?? 0.75, 0.25, 20), Named(shape.Value("strokecolor")) ?? "000000")
                : null,
            Math.Clamp(Points(inset, 1) ?? 7.2, 0, 100)
        );
    }

    /// <summary>The style of a shape of the older form, by its names.</summary>
    public static IReadOnlyDictionary<string, string> Style(XElement? shape) =>
        (shape.Value("style") ?? "")
            .Split(';')
            .Select(s => s.Split(':', 2))
            .Where(s => s.Length == 2)
            .GroupBy(s => s[0].Trim())
            .ToDictionary(g => g.Key, g => g.First()[1].Trim());

    /// <summary>Writes a box.</summary>
    public JsonObject Box(double width, double height, JsonArray content)
    {
        var a = new JsonObject
        {
            ["width"] = Math.Clamp(LetterBuilder.Millimetres(width), 1, 2000),
            ["padding"] = LetterBuilder.Millimetres(Math.Min(Padding, Math.Max(0, width / 2 - 10))),
        };
        if (height > 0)
            a["height"] = Math.Clamp(LetterBuilder.Millimetres(height), 0, 2000);
        // White on the white of the sheet is nothing.
        if (Shade is not null and not "ffffff")
            a["shade"] = $"#{Shade}";
        if (Line is { } line)
            a["border"] = new JsonObject { ["width"] = Math.Round(line.Width, 2), ["color"] = $"#{line.Color}" };
        return new JsonObject
        {
            ["type"] = "box",
            ["attrs"] = a,
            ["content"] = content,
        };
    }
}

/// <summary>The colors of a document's theme (20.1.6.2).</summary>
sealed class WordTheme(XElement? theme)
{
    readonly Dictionary<string, string> colors =
        theme
            .Below("clrScheme")
            .FirstOrDefault()
            ?.Elements()
            .Select(e => (e.Name.LocalName, Value: Plain(e.Elements().FirstOrDefault())))
            .Where(c => c.Value is not null)
            .GroupBy(c => c.LocalName)
            .ToDictionary(g => g.Key, g => g.First().Value!)
        ?? [];

    static string? Plain(XElement? color) =>
        color?.Name.LocalName switch
        {
            "srgbClr" => WordXml.Color(color.Value()),
            "sysClr" => WordXml.Color(color.Value("lastClr")),
            "prstClr" => color.Value() switch
            {
                "white" => "ffffff",
                "black" => "000000",
                "red" => "ff0000",
                "blue" => "0000ff",
                "green" => "008000",
                "gray" => "808080",
                _ => null,
            },
            _ => null,
        };

    /// <summary>The color that stands within an element, with what makes it lighter or darker (20.1.2.3); null for none.</summary>
    public string? Color(XElement? around)
    {
        if (around?.Elements().FirstOrDefault() is not { } e)
            return null;
        var color = Plain(e);
        if (e.Name.LocalName == "schemeClr")
        {
            var name = e.Value() switch
            {
                "bg1" => "lt1",
                "bg2" => "lt2",
                "tx1" => "dk1",
                "tx2" => "dk2",
                var other => other ?? "",
            };
            color =
                colors.GetValueOrDefault(name)
                ?? (
                    name == "lt1" ? "ffffff"
                    : name == "dk1" ? "000000"
                    : null
                );
        }
        if (color is null)
            return null;
        double Part(string name, double otherwise) => (Number(e.Child(name).Value()) ?? otherwise * 100_000) / 100_000;
        var (mod, off, shade, tint) = (Part("lumMod", 1), Part("lumOff", 0), Part("shade", 1), Part("tint", 1));
        // The luminance of the standard is that of HSL; for a gray part of it the channels are moved alike.
        var channels = Enumerable.Range(0, 3).Select(i => int.Parse(color.AsSpan(i * 2, 2), NumberStyles.HexNumber) / 255.0).ToArray();
        var (least, most) = (channels.Min(), channels.Max());
        var light = (least + most) / 2;
        var wanted = Math.Clamp(light * mod + off, 0, 1);
        for (var i = 0; i < 3; i++)
        {
            var c = channels[i];
            if (Math.Abs(wanted - light) > 0.0001)
                c = wanted > light ? 1 - (1 - c) * (1 - wanted) / Math.Max(0.0001, 1 - light) : c * wanted / Math.Max(0.0001, light);
            channels[i] = Math.Clamp((c * shade) * tint + (1 - tint), 0, 1);
        }
        return string.Concat(channels.Select(c => ((int)Math.Round(c * 255)).ToString("x2", CultureInfo.InvariantCulture)));
    }
}
