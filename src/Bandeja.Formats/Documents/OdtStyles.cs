using System.Xml.Linq;
using Bandeja.Core.Composition;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>A level of a list of an OpenDocument text. Points.</summary>
sealed record OdtLevel(string? Style, string Label, int Start, double Left, double Hang);

/// <summary>The styles of an OpenDocument text with what they inherit (OpenDocument 1.2 part 1, section 16).</summary>
sealed class OdtStyles
{
    const int LongestChain = 40;
    readonly Dictionary<(string Family, string Name), XElement> styles = [];
    readonly Dictionary<string, XElement> defaults = [];
    readonly Dictionary<string, XElement> lists = [];
    readonly Dictionary<string, string> faces = [];

    public OdtStyles(params XElement?[] parts)
    {
        foreach (var part in parts)
        {
            foreach (var face in part.Child("font-face-decls").Children("font-face"))
                if (face.Value("name") is { } name)
                    faces[name] = face.Value("font-family")?.Trim('\'', '"', ' ') ?? name;
            foreach (var holder in (string[])["styles", "automatic-styles"])
            foreach (var e in part.Child(holder)?.Elements() ?? [])
                switch (e.Name.LocalName)
                {
                    case "style" when e.Value("name") is { } name && e.Value("family") is { } family:
                        styles[(family, name)] = e;
                        break;
                    case "default-style" when e.Value("family") is { } of:
                        defaults[of] = e;
                        break;
                    case "list-style" when e.Value("name") is { } list:
                        lists[list] = e;
                        break;
                }
        }
    }

    IEnumerable<XElement> Chain(string family, string? name)
    {
        var seen = new HashSet<string>();
        for (var n = 0; name is not null && n < LongestChain && seen.Add(name); n++)
        {
            if (!styles.TryGetValue((family, name), out var style))
                yield break;
            yield return style;
            name = style.Value("parent-style-name");
        }
    }

    /// <summary>A style's properties, the nearest style's first.</summary>
    public IEnumerable<XElement> Properties(string family, string? name, string properties) =>
        Chain(family, name).Select(s => s.Child(properties)).OfType<XElement>();

    /// <summary>An attribute of a style's properties, of the nearest style that says it.</summary>
    public string? Of(string family, string? name, string properties, string attribute) =>
        Chain(family, name).Select(s => s.Child(properties).Value(attribute)).FirstOrDefault(v => v is not null);

    /// <summary>The name of the list style that a paragraph's style brings along.</summary>
    public string? ListOf(string? paragraph) =>
        Chain("paragraph", paragraph).Select(s => s.Value("list-style-name")).FirstOrDefault(n => n is { Length: > 0 });

    /// <summary>The level of a heading, from 0, by its style.</summary>
    public int? OutlineOf(string? paragraph) =>
        Chain("paragraph", paragraph).Select(s => Whole(s.Value("default-outline-level"))).FirstOrDefault(l => l is > 0) is { } level
            ? level - 1
            : null;

    /// <summary>The page on which something begins, by its style (19.501); null where it goes on where it is.</summary>
    public string? MasterPage(string family, string? name) =>
        Chain(family, name).Select(s => s.Value("master-page-name")).FirstOrDefault(m => m is not null) is { Length: > 0 } master
            ? master
            : null;

    /// <summary>How text of a paragraph looks.</summary>
    public RunLook ParagraphText(string? paragraph) =>
        Chain("paragraph", paragraph)
            .Aggregate(RunLook.None, (own, s) => own.Over(Run(s.Child("text-properties"), own)))
            .Over(Run(defaults.GetValueOrDefault("paragraph").Child("text-properties"), RunLook.None));

    /// <summary>How a stretch of text looks, over the paragraph's look.</summary>
    public RunLook Text(string? span, RunLook paragraph) =>
        Chain("text", span).Aggregate(RunLook.None, (own, s) => own.Over(Run(s.Child("text-properties"), paragraph))).Over(paragraph);

    RunLook Run(XElement? p, RunLook below)
    {
        if (p is null)
            return RunLook.None;
        var named = p.Value("font-name");
        var size = p.Value("font-size");
        var position = p.Value("text-position");
        return new(
            p.Value("font-family")?.Trim('\'', '"') ?? (named is null ? null : faces.GetValueOrDefault(named, named)),
            size is null ? null
                : size.EndsWith('%') ? (below.Size ?? 12) * (Number(size.TrimEnd('%')) ?? 100) / 100
                : Points(size, 1),
            p.Value("font-weight") is { } weight ? weight is "bold" or "600" or "700" or "800" or "900" : null,
            p.Value("font-style") is { } slant ? slant is "italic" or "oblique" : null,
            p.Value("text-underline-style") is { } under ? under != "none" : null,
            p.Value("text-line-through-style") is { } through ? through != "none" : null,
            p.Value("text-transform") is { } transform ? transform == "uppercase" : null,
            p.Value("font-variant") is { } variant ? variant == "small-caps" : null,
            p.Value("display") is { } display ? display == "none" : null,
            p.Value("color") is { } color ? Color(color.TrimStart('#')) : null,
            position is null ? null
                : position.StartsWith("super", StringComparison.Ordinal) || position[0] is >= '1' and <= '9' ? "superscript"
                : position.StartsWith("sub", StringComparison.Ordinal) || position[0] == '-' ? "subscript"
                : null
        );
    }

    /// <summary>How a paragraph is set.</summary>
    public ParagraphLook Paragraph(string? name) =>
        Chain("paragraph", name)
            .Aggregate(ParagraphLook.None, (own, s) => own.Over(Look(s.Child("paragraph-properties"))))
            .Over(Look(defaults.GetValueOrDefault("paragraph").Child("paragraph-properties")));

    static ParagraphLook Look(XElement? p)
    {
        if (p is null)
            return ParagraphLook.None;
        var line = p.Value("line-height");
        LineLook? lines = line is null or "normal"
            ? p.Value("line-height-at-least") is { } least && Points(least, 1) is { } at
                ? new(at, true, true)
                : null
            : line.EndsWith('%')
                ? Number(line.TrimEnd('%')) is { } percent
                    ? new(percent / 100, false, false)
                    : null
                : Points(line, 1) is { } exact
                    ? new(exact, true, false)
                    : null;
        double? Margin(string side) => Points(p.Value($"margin-{side}") ?? p.Value("margin"), 1);
        var tabs = p.Child("tab-stops");
        return new(
            p.Value("text-align") switch
            {
                "center" => "center",
                "end" or "right" => "right",
                "justify" => "justify",
                "start" or "left" => "left",
                _ => null,
            },
            Margin("top"),
            Margin("bottom"),
            lines,
            Margin("left"),
            Margin("right"),
            Points(p.Value("text-indent"), 1),
            tabs is null
                ? null
                :
                [
                    .. tabs.Children("tab-stop")
                        .Select(t => new TabLook(
                            Points(t.Value("position"), 1) ?? 0,
                            t.Value("type") switch
                            {
                                "right" => "right",
                                "center" => "center",
                                "char" => "decimal",
                                _ => "left",
                            },
                            t.Value("leader-style") switch
                            {
                                "dotted" => "dots",
                                "dash" => "dashes",
                                "solid" => "line",
                                _ => null,
                            }
                        ))
                        .Where(t => t.At > 0)
                        .OrderBy(t => t.At),
                ],
            p.Value("keep-with-next") is { } keep ? keep == "always" : null,
            p.Value("break-before") is { } before ? before == "page" : null,
            Color(p.Value("background-color")?.TrimStart('#')),
            Border(p)
        );
    }

    static BorderLook? Border(XElement p)
    {
        var all = p.Value("border");
        var sides = ((string[])["top", "right", "bottom", "left"])
            .Select(s => (Side: s, Line: p.Value($"border-{s}") ?? all))
            .Where(s => s.Line is { Length: > 0 } and not "none")
            .ToList();
        if (sides.Count == 0)
            return all is null ? null : new([], 0, "000000");
        var line = Parts(sides[0].Line!);
        return new([.. sides.Select(s => s.Side)], line.Width, line.Color);
    }

    /// <summary>A border's width and color (XSL 1.1, 7.8).</summary>
    static CellLine Parts(string border)
    {
        var parts = border.Split(' ');
        return new(
            parts.Select(x => Points(x, 1)).FirstOrDefault(x => x is > 0) ?? 0.75,
            parts.Select(x => Color(x.TrimStart('#'))).FirstOrDefault(x => x is not null) ?? "000000"
        );
    }

    /// <summary>A line at the side of a cell; null for none.</summary>
    public static CellLine? Line(string? border) =>
        string.IsNullOrWhiteSpace(border) || border.Split(' ').Any(p => p is "none" or "hidden") || Parts(border) is not { Width: > 0 } line
            ? null
            : line with
            {
                Width = Math.Clamp(line.Width, 0.1, 12),
            };

    /// <summary>A level of a list style, from 0.</summary>
    public OdtLevel Level(string? list, int level)
    {
        var e = list is null ? null : lists.GetValueOrDefault(list)?.Elements().FirstOrDefault(x => Whole(x.Value("level")) == level + 1);
        var own = e.Child("list-level-properties");
        var align = own.Child("list-level-label-alignment");
        var left =
            Points(align.Value("margin-left"), 1)
            ?? (Points(own.Value("space-before"), 1) ?? 18 * level) + (Points(own.Value("min-label-width"), 1) ?? 18);
        var hang = -(Points(align.Value("text-indent"), 1) ?? -(Points(own.Value("min-label-width"), 1) ?? 18));
        if (e is null || e.Name.LocalName != "list-level-style-number")
            return new(
                null,
                e.Value("bullet-char") is { Length: > 0 } bullet && bullet[0] < '\uE000' ? bullet : "•",
                1,
                left,
                Math.Max(0, hang)
            );
        var style = e.Value("num-format") switch
        {
            "a" => "lower-alpha",
            "A" => "upper-alpha",
            "i" => "lower-roman",
            "I" => "upper-roman",
            _ => "decimal",
        };
        var shown = Math.Clamp(Whole(e.Value("display-levels")) ?? 1, 1, level + 1);
        var numbers = string.Join('.', Enumerable.Range(level + 2 - shown, shown).Select(i => $"%{i}"));
        return new(
            style,
            $"{e.Value("num-prefix")}{numbers}{e.Value("num-suffix")}",
            Whole(e.Value("start-value")) ?? 1,
            left,
            Math.Max(0, hang)
        );
    }
}
