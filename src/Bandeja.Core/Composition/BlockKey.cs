using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Core.Composition;

/// <summary>
/// What a part of a letter says, however it is stored: letters made by scripts leave out what the editor writes down, and have fields in
/// their texts where the editor has chips. Two parts with the same key print the same.
/// </summary>
static class BlockKey
{
    /// <summary>The key, on one line.</summary>
    public static string Of(JsonNode? node)
    {
        var key = new StringBuilder();
        Write(node, key);
        return key.Replace("\n", "\\n").Replace("\r", "\\r").ToString();
    }

    static void Write(JsonNode? node, StringBuilder key)
    {
        switch (node)
        {
            case JsonArray array:
                key.Append('[');
                string? marks = null;
                foreach (var part in array)
                {
                    // Neighboring texts of one look are one text; a chip is what it is typed as.
                    if (Text(part) is var (text, look))
                    {
                        if (look != marks)
                            key.Append(marks is null ? "" : "”").Append(look).Append('“');
                        key.Append(text);
                        marks = look;
                        continue;
                    }
                    if (marks is not null)
                        key.Append('”');
                    marks = null;
                    Write(part, key);
                    key.Append(',');
                }
                if (marks is not null)
                    key.Append('”');
                key.Append(']');
                break;
            case JsonObject named:
                key.Append('{');
                foreach (var (name, value) in named.OrderBy(p => p.Key, StringComparer.Ordinal))
                {
                    if (IsUnsaid(name, value))
                        continue;
                    key.Append(name).Append(':');
                    Write(value, key);
                    key.Append(';');
                }
                key.Append('}');
                break;
            default:
                key.Append(node?.ToJsonString() ?? "null");
                break;
        }
    }

    static (string Text, string Look)? Text(JsonNode? node)
    {
        if (node is not JsonObject o)
            return null;
        var text = (string?)o["type"] switch
        {
            "text" => (string?)o["text"],
            "field" or "marker" => $"{{{(string?)o["attrs"]?["source"]}}}",
            _ => null,
        };
        if (text is null)
            return null;
        var look = new StringBuilder();
        Write(
            o["marks"] is JsonArray { Count: > 0 } marks
                ? new JsonArray([.. marks.Select(m => m?.DeepClone()).OrderBy(m => m?.ToJsonString(), StringComparer.Ordinal)])
                : null,
            look
        );
        return (text, look.ToString());
    }

    /// <summary>True for what means the same where it is left out.</summary>
    static bool IsUnsaid(string name, JsonNode? value) =>
        value switch
        {
            null => true,
            JsonObject { Count: 0 } or JsonArray { Count: 0 } => true,
            JsonObject o => o.All(p => IsUnsaid(p.Key, p.Value)),
            _ => name == "textAlign" && value.ToJsonString() == "\"left\"" || name is "firstDiffers" && value.ToJsonString() == "false",
        };
}
