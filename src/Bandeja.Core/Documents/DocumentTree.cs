using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Core.Documents;

/// <summary>Walks a letter in its stored form.</summary>
static class DocumentTree
{
    /// <summary>The bands of a letter, its text first.</summary>
    public static IReadOnlyList<string> Bands => BroughtDocument.Bands;

    /// <summary>Stands for whatever is no text in the flat text of a paragraph.</summary>
    public const char Thing = '\uFFFC';

    /// <summary>True for a node whose content is the parts of a line.</summary>
    public static bool IsLine(JsonNode node) => (string?)node["type"] is "paragraph" or "heading";

    /// <summary>All lines below nodes, in their order, each with the number of the outermost block that holds it.</summary>
    public static IEnumerable<(JsonObject Line, int Block)> Lines(JsonArray? blocks)
    {
        for (var i = 0; i < (blocks?.Count ?? 0); i++)
            foreach (var line in Within(blocks![i]!.AsObject()))
                yield return (line, i);
    }

    static IEnumerable<JsonObject> Within(JsonObject root)
    {
        var stack = new Stack<JsonObject>([root]);
        while (stack.TryPop(out var node))
        {
            if (IsLine(node))
            {
                // What a footnote says, and what a condition prints, are lines of their own.
                foreach (var part in Apart(node))
                    yield return part;
                yield return node;
                continue;
            }
            if (node["content"] is JsonArray children)
                for (var i = children.Count - 1; i >= 0; i--)
                    if (children[i] is JsonObject child)
                        stack.Push(child);
        }
    }

    /// <summary>The lines that stand within parts of a line. A condition's are given while they are looked at, and put back.</summary>
    static IEnumerable<JsonObject> Apart(JsonObject line)
    {
        foreach (var node in line["content"]?.AsArray().ToList() ?? [])
        {
            if (node?["attrs"] is not JsonObject a)
                continue;
            if ((string?)node["type"] == "footnote")
                foreach (var (inner, _) in Lines(a["content"] as JsonArray).ToList())
                    yield return inner;
            if ((string?)node["type"] == "code")
                foreach (var branch in (string[])["yes", "no"])
                    if (a[branch] is JsonArray { Count: > 0 } parts)
                    {
                        var own = new JsonObject { ["type"] = "paragraph", ["content"] = parts.DeepClone() };
                        foreach (var inner in Apart(own))
                            yield return inner;
                        yield return own;
                        a[branch] = own["content"]?.DeepClone();
                    }
        }
    }

    /// <summary>The text of a line; whatever is no text is <see cref="Thing"/>, the end of a line within it a line feed.</summary>
    public static string Text(JsonObject line)
    {
        var text = new StringBuilder();
        foreach (var node in line["content"]?.AsArray() ?? [])
            text.Append(
                (string?)node!["type"] switch
                {
                    "text" => (string?)node["text"] ?? "",
                    "hardBreak" => "\n",
                    _ => Thing.ToString(),
                }
            );
        return text.ToString();
    }

    /// <summary>A node of text.</summary>
    public static JsonObject TextNode(string text, JsonNode? marks)
    {
        var node = new JsonObject { ["type"] = "text", ["text"] = text };
        if (marks is JsonArray { Count: > 0 })
            node["marks"] = marks.DeepClone();
        return node;
    }

    /// <summary>A node with one attribute, formatted.</summary>
    public static JsonObject Inline(string type, string source, JsonNode? marks)
    {
        var node = new JsonObject
        {
            ["type"] = type,
            ["attrs"] = new JsonObject { ["source"] = source },
        };
        if (marks is JsonArray { Count: > 0 })
            node["marks"] = marks.DeepClone();
        return node;
    }
}
