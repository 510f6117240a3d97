using System.Text.Json.Nodes;

namespace Bandeja.Core.Starters;

/// <summary>Parts of a stored document, short to write; docs/letter-format.md describes them.</summary>
static class Nodes
{
    internal static JsonObject T(string text, double? size = null, string? color = null, string? family = null, bool bold = false)
    {
        var node = new JsonObject { ["type"] = "text", ["text"] = text };
        var marks = new JsonArray();
        if (bold)
            marks.Add(new JsonObject { ["type"] = "bold" });
        if (size is not null || color is not null || family is not null)
        {
            var style = new JsonObject();
            if (size is { } points)
                style["fontSize"] = FormattableString.Invariant($"{points}pt");
            if (color is not null)
                style["color"] = color;
            if (family is not null)
                style["fontFamily"] = family;
            marks.Add(new JsonObject { ["type"] = "textStyle", ["attrs"] = style });
        }
        if (marks.Count > 0)
            node["marks"] = marks;
        return node;
    }

    internal static JsonObject F(string source, double? size = null, bool bold = false)
    {
        var node = T("", size, bold: bold);
        node.Remove("text");
        node["type"] = "field";
        node["attrs"] = new JsonObject { ["source"] = source };
        return node;
    }

    internal static JsonObject Br() => new() { ["type"] = "hardBreak" };

    internal static JsonObject P(params object[] parts) => Aligned(null, parts);

    internal static JsonObject Aligned(string? align, params object[] parts)
    {
        var node = new JsonObject
        {
            ["type"] = "paragraph",
            ["content"] = new JsonArray([.. parts.Select(p => p is string s ? T(s) : (JsonNode)p)]),
        };
        if (align is not null)
            node["attrs"] = new JsonObject { ["textAlign"] = align };
        return node;
    }

    internal static JsonObject Rule() => new() { ["type"] = "horizontalRule" };

    internal static JsonObject Bullets(params string[] items) =>
        new()
        {
            ["type"] = "bulletList",
            ["content"] = new JsonArray(
                [.. items.Select(i => new JsonObject { ["type"] = "listItem", ["content"] = new JsonArray(P(i)) })]
            ),
        };

    /// <summary>Lines one below another in one paragraph.</summary>
    internal static JsonObject Lines(string? align, double size, IEnumerable<string> lines, string? color = null)
    {
        var parts = new List<object>();
        foreach (var line in lines)
        {
            if (parts.Count > 0)
                parts.Add(Br());
            parts.Add(T(line, size, color));
        }
        return Aligned(align, [.. parts]);
    }

    internal static JsonObject Type(string family, double size, double lineSpacing, double spaceAfter) =>
        new()
        {
            ["family"] = family,
            ["size"] = size,
            ["lineSpacing"] = lineSpacing,
            ["spaceAfter"] = spaceAfter,
        };
}
