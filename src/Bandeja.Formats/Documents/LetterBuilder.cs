using System.Text.Json.Nodes;
using Bandeja.Core.Documents;

namespace Bandeja.Formats.Documents;

/// <summary>Writes paragraphs and text in the stored form of a letter, saying only what differs from the type that the letter starts
/// from.</summary>
sealed class LetterBuilder
{
    const double PointsPerMillimetre = 72 / 25.4,
        FirstSize = 11;
    readonly Dictionary<string, FaceUse> faces = new(StringComparer.OrdinalIgnoreCase);
    readonly FaceBook book;
    readonly string family;
    readonly double size;
    readonly double lineSpacing;
    readonly double after;

    /// <summary>Begins with the look of ordinary text.</summary>
    public LetterBuilder(RunLook text, ParagraphLook paragraph, FaceBook book)
    {
        this.book = book;
        family = Face(text.Face);
        size = Size(text.Size);
        lineSpacing = Spacing(paragraph.Line, family, size);
        after = Math.Clamp(paragraph.After ?? 0, 0, 200);
    }

    /// <summary>True for one of our own letters, in which tabs lead where they say.</summary>
    public bool IsOurs { get; init; }

    /// <summary>The faces that the document names, with those that print them.</summary>
    public IReadOnlyList<FaceUse> Faces => [.. faces.Values];

    /// <summary>The type that the letter starts from.</summary>
    public JsonObject Type =>
        new()
        {
            ["family"] = family,
            ["size"] = size,
            ["lineSpacing"] = Round(lineSpacing, 4),
            ["spaceAfter"] = Round(after),
        };

    static double Round(double value, int digits = 2) => Math.Round(value, digits);

    /// <summary>Points as millimetres.</summary>
    public static double Millimetres(double points) => Round(points / PointsPerMillimetre);

    static double Size(double? size) => Math.Clamp(Math.Round((size ?? FirstSize) * 2) / 2, 4, 144);

    string Face(string? named)
    {
        var name = string.IsNullOrWhiteSpace(named) ? "Times New Roman" : named;
        if (!faces.TryGetValue(name, out var use))
            faces[name] = use = book.Of(name);
        return use.Printed;
    }

    double Spacing(LineLook? line, string face, double size)
    {
        var natural = book.LineHeight(face);
        var multiple = line switch
        {
            null => natural,
            { InPoints: false } => line.Value * natural,
            { AtLeast: true } => Math.Max(natural, line.Value / size),
            _ => line.Value / size,
        };
        return Math.Clamp(multiple, 0.8, 4);
    }

    /// <summary>A paragraph or a heading.</summary>
    /// <param name="look">How it is set.</param>
    /// <param name="text">The look of its text where nothing else is said.</param>
    public JsonObject Paragraph(ParagraphLook look, RunLook text, JsonArray content)
    {
        var a = new JsonObject();
        if (look.Align is { } align and not "left")
            a["textAlign"] = align;
        var own = Size(text.Size);
        var lines = Spacing(look.Line, Face(text.Face), own);
        if (Math.Abs(lines - lineSpacing) > 0.005)
            a["lineSpacing"] = Round(lines, 4);
        if (look.Before is > 0 and var before)
            a["spaceBefore"] = Round(Math.Min(before, 200));
        if (Math.Abs((look.After ?? 0) - after) > 0.05)
            a["spaceAfter"] = Round(Math.Clamp(look.After ?? 0, 0, 200));
        var left = Math.Clamp(look.Left ?? 0, 0, 400);
        if (left > 0)
            a["indent"] = Millimetres(left);
        if (look.Right is > 0 and var right)
            a["indentRight"] = Millimetres(Math.Min(right, 400));
        if (look.First is { } first && first != 0)
            a["firstLine"] = Millimetres(Math.Clamp(first, Math.Max(-280, -left), 280));
        var tabs = look.Tabs?.ToList() ?? [];
        // Where a line hangs, its first tab leads to where the others begin.
        if (!IsOurs && look.First < 0 && left > 0 && !tabs.Exists(t => Math.Abs(t.At - left) < 1))
            tabs.Add(new(left, "left", null));
        if (tabs.Count > 0 && content.Any(n => (string?)n!["text"] is { } t && t.Contains('\t')))
            a["tabs"] = new JsonArray(
                [
                    .. tabs.OrderBy(t => t.At)
                        .Where(t => t.At < 2800)
                        .Select(t =>
                        {
                            var tab = new JsonObject { ["at"] = Millimetres(t.At), ["kind"] = t.Kind };
                            if (t.Leader is not null)
                                tab["leader"] = t.Leader;
                            return (JsonNode)tab;
                        }),
                ]
            );
        if (look.Named is { Length: <= 80 } named && look.Outline is not (>= 0 and <= 2))
            a["named"] = named;
        if (look.Keep == true)
            a["keep"] = true;
        if (look.Shade is { } shade and not "ffffff")
            a["shade"] = $"#{shade}";
        if (look.Border is { Sides.Count: > 0 } border)
            a["border"] = new JsonObject
            {
                ["sides"] = string.Join(' ', border.Sides),
                ["width"] = Round(Math.Clamp(border.Width, 0.25, 6)),
                ["color"] = $"#{border.Color}",
            };
        var node = new JsonObject { ["type"] = look.Outline is >= 0 and <= 2 ? "heading" : "paragraph" };
        if (look.Outline is >= 0 and <= 2 and var level)
        {
            a["level"] = level + 1;
            // What a heading looks like is said by its text; what a letter's own headings look like does not hold.
            a["plain"] = true;
            a["lineSpacing"] = Round(lines, 4);
            a["spaceBefore"] = Round(Math.Clamp(look.Before ?? 0, 0, 200));
            a["spaceAfter"] = Round(Math.Clamp(look.After ?? 0, 0, 200));
            a["keep"] = look.Keep ?? false;
        }
        if (a.Count > 0)
            node["attrs"] = a;
        if (content.Count > 0)
            node["content"] = content;
        return node;
    }

    /// <summary>The formatting of a stretch of text; null for none.</summary>
    public JsonArray? Marks(RunLook look)
    {
        var marks = new JsonArray();
        void Plain(bool? on, string name)
        {
            if (on == true)
                marks.Add(new JsonObject { ["type"] = name });
        }
        Plain(look.Bold, "bold");
        Plain(look.Italic, "italic");
        Plain(look.Underline, "underline");
        Plain(look.Strike, "strike");
        Plain(look.Script == "superscript", "superscript");
        Plain(look.Script == "subscript", "subscript");
        if (look.Link is { } link)
            marks.Add(
                new JsonObject
                {
                    ["type"] = "link",
                    ["attrs"] = new JsonObject { ["href"] = link },
                }
            );
        var style = new JsonObject();
        if (Face(look.Face) is var face && face != family)
            style["fontFamily"] = face;
        // Small capitals are capitals of a smaller size.
        var points = look.SmallCapitals == true ? Math.Round(Size(look.Size) * 1.6) / 2 : Size(look.Size);
        if (points != size)
            style["fontSize"] = $"{points.ToString(System.Globalization.CultureInfo.InvariantCulture)}pt";
        if (look.Color is { } color and not "000000")
            style["color"] = $"#{color}";
        if (style.Count > 0)
            marks.Add(new JsonObject { ["type"] = "textStyle", ["attrs"] = style });
        return marks.Count > 0 ? marks : null;
    }

    /// <summary>Adds text to a line; what looks the same as what stands before it joins it.</summary>
    public void Text(JsonArray line, string text, RunLook look)
    {
        if (text.Length == 0 || look.Hidden == true)
            return;
        if (look.Capitals == true || look.SmallCapitals == true)
            text = text.ToUpperInvariant();
        var marks = Marks(look);
        if (line.Count > 0 && (string?)line[^1]!["type"] == "text" && JsonNode.DeepEquals(line[^1]!["marks"], marks))
        {
            line[^1]!["text"] = (string?)line[^1]!["text"] + text;
            return;
        }
        var node = new JsonObject { ["type"] = "text", ["text"] = text };
        if (marks is not null)
            node["marks"] = marks;
        line.Add(node);
    }
}
