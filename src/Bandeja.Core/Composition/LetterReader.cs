using System.Text.Json;
using System.Text.Json.Nodes;

namespace Bandeja.Core.Composition;

/// <summary>A document that cannot be read as a letter. The message is for the user.</summary>
public sealed class LetterFormatException(string message) : Exception(message);

/// <summary>
/// Reads the stored form of a letter: JSON with the page (millimetres), the type it starts from (points) and the content as
/// nested nodes, the same ones the editor works with. <c>docs/letter-format.md</c> describes it.
/// </summary>
public static class LetterReader
{
    const double PointsPerMillimetre = 72 / 25.4;
    const int MaxNodes = 20_000;

    /// <summary>The sheets by name, in millimetres, portrait (ANSI Y14.1 and ISO 216).</summary>
    public static readonly IReadOnlyDictionary<string, (double Width, double Height)> Sheets = new Dictionary<string, (double, double)>
    {
        ["letter"] = (215.9, 279.4), ["legal"] = (215.9, 355.6), ["a4"] = (210, 297), ["a5"] = (148, 210),
    };

    /// <summary>Reads a letter.</summary>
    /// <exception cref="LetterFormatException">It is not one, or a measure is out of range.</exception>
    public static LetterDesign Read(string json)
    {
        try
        {
            var root = JsonNode.Parse(json, documentOptions: new JsonDocumentOptions { MaxDepth = 32 })?.AsObject() ?? throw new LetterFormatException("The letter is empty.");
            var page = ReadPage(root["page"]?.AsObject());
            var type = root["type"]?.AsObject();
            var baseStyle = new TextStyle((string?)type?["family"] ?? "Source Serif 4", Within((double?)type?["size"] ?? 11, 4, 144, "type size"));
            var spacing = Within((double?)type?["lineSpacing"] ?? 1.35, 0.8, 4, "line spacing");
            var after = Within((double?)type?["spaceAfter"] ?? 8, 0, 200, "space after a paragraph");
            var nodes = root["content"]?.AsArray() ?? [];
            if (nodes.Count > MaxNodes) throw new LetterFormatException($"The letter has more than {MaxNodes:N0} paragraphs.");
            var blocks = nodes.Select(n => ReadBlock(n!.AsObject(), baseStyle, spacing, after, page)).ToList();
            return new(page, blocks, (int?)root["maxPages"]);
        }
        catch (Exception e) when (e is JsonException or InvalidOperationException or NullReferenceException or FormatException)
        {
            throw new LetterFormatException("The letter could not be read: its form is not that of a letter.");
        }
    }

    static double Within(double value, double low, double high, string what) =>
        value >= low && value <= high ? value : throw new LetterFormatException($"The {what} must be between {low} and {high}; it is {value}.");

    static PageSetup ReadPage(JsonObject? page)
    {
        var sheet = (string?)page?["sheet"] ?? "letter";
        if (!Sheets.TryGetValue(sheet, out var size)) throw new LetterFormatException($"There is no sheet called “{sheet}”.");
        if ((string?)page?["orientation"] == "landscape") size = (size.Height, size.Width);
        double Margin(string side) => Within((double?)page?["margins"]?[side] ?? 25, 0, Math.Min(size.Width, size.Height) / 2 - 10, $"{side} margin") * PointsPerMillimetre;
        return new(size.Width * PointsPerMillimetre, size.Height * PointsPerMillimetre, Margin("top"), Margin("right"), Margin("bottom"), Margin("left"));
    }

    static Block ReadBlock(JsonObject node, TextStyle baseStyle, double spacing, double after, PageSetup page)
    {
        var attributes = node["attrs"]?.AsObject();
        var align = ((string?)attributes?["textAlign"] ?? (string?)attributes?["align"]) switch { "center" => TextAlign.Center, "right" => TextAlign.Right, "justify" => TextAlign.Justify, _ => TextAlign.Left };
        switch ((string?)node["type"])
        {
            case "paragraph":
                var inlines = (node["content"]?.AsArray() ?? []).Select(n => ReadInline(n!.AsObject(), baseStyle)).ToList();
                return new Paragraph(align, inlines, baseStyle, spacing, after);
            case "picture":
                var asset = (string?)attributes?["asset"] ?? throw new LetterFormatException("A picture names no file.");
                var width = Within((double?)attributes?["width"] ?? 40, 1, 2000, "width of a picture") * PointsPerMillimetre;
                var aspect = Within((double?)attributes?["aspect"] ?? 1, 0.01, 100, "shape of a picture");
                width = Math.Min(width, page.TextWidth);
                return new Picture(align, asset, width, width / aspect, after);
            default:
                throw new LetterFormatException($"A letter has no part called “{(string?)node["type"]}”.");
        }
    }

    static Inline ReadInline(JsonObject node, TextStyle baseStyle)
    {
        var style = baseStyle;
        foreach (var mark in node["marks"]?.AsArray() ?? [])
        {
            var attributes = mark?["attrs"];
            style = (string?)mark?["type"] switch
            {
                "bold" => style with { Bold = true },
                "italic" => style with { Italic = true },
                "underline" => style with { Underline = true },
                "textStyle" => style with
                {
                    Family = (string?)attributes?["fontFamily"] ?? style.Family,
                    Size = Within(Points((string?)attributes?["fontSize"]) ?? style.Size, 4, 144, "type size"),
                },
                var other => throw new LetterFormatException($"A letter has no formatting called “{other}”."),
            };
        }
        return (string?)node["type"] switch
        {
            "text" => new TextInline((string?)node["text"] ?? "", style),
            "field" => new FieldInline((string?)node["attrs"]?["source"] ?? "", style),
            "hardBreak" => new LineBreakInline(style),
            var other => throw new LetterFormatException($"A paragraph has no part called “{other}”."),
        };
    }

    static double? Points(string? size) => size is null ? null : double.Parse(size.EndsWith("pt", StringComparison.Ordinal) ? size[..^2] : size, System.Globalization.CultureInfo.InvariantCulture);
}
