using System.Xml.Linq;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>The styles of a document, with what they inherit (ECMA-376 part 1, section 17.7), and the theme's faces
/// (20.1.4.1.16).</summary>
sealed class WordStyles
{
    const int LongestChain = 40;
    readonly Dictionary<string, XElement> styles = [];
    readonly Dictionary<string, string> faces = [];
    readonly XElement? runDefaults;
    readonly XElement? paragraphDefaults;
    readonly string? normal;
    readonly string? normalTable;
    readonly Dictionary<string, RunLook> runs = [];
    readonly Dictionary<string, ParagraphLook> paragraphs = [];

    public WordStyles(XElement? part, XElement? theme)
    {
        foreach (var style in part.Children("style"))
            if (style.Value("styleId") is { } id)
                styles.TryAdd(id, style);
        runDefaults = part.Child("docDefaults").Child("rPrDefault").Child("rPr");
        paragraphDefaults = part.Child("docDefaults").Child("pPrDefault").Child("pPr");
        normal = Default("paragraph");
        normalTable = Default("table");
        foreach (var which in (string[])["majorFont", "minorFont"])
            if (theme.Below(which).FirstOrDefault().Child("latin").Value("typeface") is { Length: > 0 } face)
                faces[which[..5]] = face;
    }

    string? Default(string type) =>
        styles.Values.FirstOrDefault(s => s.Value("type") == type && s.Value("default") is "1" or "true" or "on").Value("styleId");

    /// <summary>A style and those that it is based on, the nearest first.</summary>
    IEnumerable<XElement> Chain(string? id)
    {
        var seen = new HashSet<string>();
        for (var n = 0; id is not null && n < LongestChain && seen.Add(id) && styles.TryGetValue(id, out var style); n++)
        {
            yield return style;
            id = style.Child("basedOn").Value();
        }
    }

    /// <summary>What a style of paragraphs is called; null for the ordinary one, and for headings, which are such.</summary>
    public string? NameOf(string? id) =>
        id is null || id == normal || HeadingOf(id) is not null || !styles.TryGetValue(id, out var style) ? null
        : style.Child("name").Value()?.Trim() is { Length: > 0 } name && !name.Equals("Normal", StringComparison.OrdinalIgnoreCase) ? name
        : null;

    /// <summary>How text looks where nothing but the document's own defaults holds.</summary>
    public RunLook Defaults => Run(runDefaults);

    /// <summary>The level of a heading, from 0, by the name that its style has in every language's file; null for another style.</summary>
    int? HeadingOf(string? id)
    {
        foreach (var style in Chain(id))
            if (
                style.Child("name").Value() is { } name
                && name.StartsWith("heading ", StringComparison.OrdinalIgnoreCase)
                && int.TryParse(name.AsSpan(8), out var level)
                && level is >= 1 and <= 9
            )
                return level - 1;
        return null;
    }

    /// <summary>The look of text in a paragraph of a style.</summary>
    /// <param name="table">What a table around it says, above the defaults and below the paragraph's style.</param>
    public RunLook RunOf(string? paragraphStyle, RunLook? table = null)
    {
        var style = Chained(paragraphStyle ?? normal);
        return style.Over(table ?? RunLook.None).Over(Defaults);
    }

    RunLook Chained(string? id)
    {
        if (id is null)
            return RunLook.None;
        if (!runs.TryGetValue(id, out var look))
            runs[id] = look = Chain(id).Aggregate(RunLook.None, (own, s) => own.Over(Run(s.Child("rPr"))));
        return look;
    }

    /// <summary>The look of a run: its own properties, its character style, and the paragraph's look below.</summary>
    public RunLook Run(XElement? properties, RunLook paragraph)
    {
        if (properties is null)
            return paragraph;
        var style = properties.Child("rStyle").Value() is { } id ? Chained(id).Toggled(paragraph) : paragraph;
        return Run(properties).Over(style);
    }

    /// <summary>The look of a paragraph of a style.</summary>
    public ParagraphLook ParagraphOf(string? id, ParagraphLook? table = null)
    {
        id ??= normal;
        if (id is null || !paragraphs.TryGetValue(id, out var look))
        {
            look = Chain(id).Aggregate(ParagraphLook.None, (own, s) => own.Over(Paragraph(s.Child("pPr"))));
            look = look with { Outline = look.Outline ?? HeadingOf(id) };
            if (id is not null)
                paragraphs[id] = look;
        }
        return look.Over(table ?? ParagraphLook.None).Over(Paragraph(paragraphDefaults));
    }

    /// <summary>What properties of a run say by themselves.</summary>
    public RunLook Run(XElement? p)
    {
        if (p is null)
            return RunLook.None;
        var fonts = p.Child("rFonts");
        var themed = fonts.Value("asciiTheme") ?? fonts.Value("hAnsiTheme");
        var face =
            themed is not null && faces.TryGetValue(themed.StartsWith("major", StringComparison.Ordinal) ? "major" : "minor", out var f)
                ? f
                : fonts.Value("ascii") ?? fonts.Value("hAnsi");
        var underline = p.Child("u");
        return new(
            face,
            Points(p.Child("sz").Value(), 2),
            p.On("b"),
            p.On("i"),
            underline is null ? null : underline.Value() is not ("none" or null),
            p.On("strike") ?? p.On("dstrike"),
            p.On("caps"),
            p.On("smallCaps"),
            p.On("vanish"),
            p.Child("color") is { } color ? Color(color.Value()) ?? "000000" : null,
            p.Child("vertAlign").Value()
        );
    }

    /// <summary>What properties of a paragraph say by themselves.</summary>
    public static ParagraphLook Paragraph(XElement? p)
    {
        if (p is null)
            return ParagraphLook.None;
        var (spacing, indent, number) = (p.Child("spacing"), p.Child("ind"), p.Child("numPr"));
        double? hanging = Points(indent.Value("hanging")) is { } h ? -h : null;
        return new(
            p.Child("jc").Value() switch
            {
                "left" or "start" => "left",
                "center" => "center",
                "right" or "end" => "right",
                "both" or "distribute" or "lowKashida" or "mediumKashida" or "highKashida" => "justify",
                _ => null,
            },
            spacing.Value("beforeAutospacing") is "1" or "true" ? 14 : Points(spacing.Value("before")),
            spacing.Value("afterAutospacing") is "1" or "true" ? 14 : Points(spacing.Value("after")),
            Line(spacing),
            Points(indent.Value("left") ?? indent.Value("start")),
            Points(indent.Value("right") ?? indent.Value("end")),
            hanging ?? Points(indent.Value("firstLine")),
            p.Child("tabs") is { } tabs ? Tabs(tabs) : null,
            p.On("keepNext"),
            p.On("pageBreakBefore"),
            // A fill that is said to be none takes that of the style away.
            p.Child("shd")
                is { } shade
                ? Color(shade.Value("fill")) ?? "ffffff"
                : null,
            Border(p.Child("pBdr")),
            number.Child("numId").Value(),
            Whole(number.Child("ilvl").Value()),
            Whole(p.Child("outlineLvl").Value()),
            p.On("contextualSpacing"),
            p.On("bidi")
        );
    }

    static LineLook? Line(XElement? spacing)
    {
        if (spacing.Value("line") is not { } line)
            return null;
        return spacing.Value("lineRule") switch
        {
            "exact" => Points(line) is { } p ? new(Math.Abs(p), true, false) : null,
            "atLeast" => Points(line) is { } p ? new(Math.Abs(p), true, true) : null,
            // 240 is a single line; the strict form may say it in points, 12 to the line.
            _ => Points(line, 20) is { } p ? new(Math.Abs(p) / 12, false, false) : null,
        };
    }

    static List<TabLook> Tabs(XElement tabs) =>
        [
            .. tabs.Children("tab")
                .Where(t => t.Value() is not ("clear" or "bar"))
                .Select(t => new TabLook(
                    Points(t.Value("pos")) ?? 0,
                    t.Value() switch
                    {
                        "right" or "end" => "right",
                        "center" => "center",
                        "decimal" => "decimal",
                        _ => "left",
                    },
                    t.Value("leader") switch
                    {
                        "dot" or "middleDot" => "dots",
                        "hyphen" => "dashes",
                        "underscore" or "heavy" => "line",
                        _ => null,
                    }
                ))
                .Where(t => t.At > 0)
                .OrderBy(t => t.At),
        ];

    static BorderLook? Border(XElement? borders)
    {
        if (borders is null)
            return null;
        var sides = ((string[])["top", "right", "bottom", "left"])
            .Select(s =>
                (
                    Side: s,
                    Element: borders.Child(s)
                        ?? (
                            s == "left" ? borders.Child("start")
                            : s == "right" ? borders.Child("end")
                            : null
                        )
                )
            )
            .Where(s => IsLine(s.Element))
            .ToList();
        return new(
            [.. sides.Select(s => s.Side)],
            sides.Count == 0 ? 0 : (Number(sides[0].Element.Value("sz")) ?? 4) / 8,
            sides.Count == 0 ? "000000" : Color(sides[0].Element.Value("color")) ?? "000000"
        );
    }

    /// <summary>True for a border that is drawn.</summary>
    public static bool IsLine(XElement? border) => border is not null && border.Value() is not (null or "nil" or "none");

    /// <summary>A table's style, and those it is based on.</summary>
    public IEnumerable<XElement> Table(string? id) => Chain(id ?? normalTable);
}
