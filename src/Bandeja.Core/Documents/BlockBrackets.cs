using System.Text.Json.Nodes;

namespace Bandeja.Core.Documents;

/// <summary>
/// Turns paragraphs that hold nothing but a bracket's beginning, turn, or end into brackets around the paragraphs between them, as the
/// editor
/// draws them. What does not belong together stays as it is.
/// </summary>
static class BlockBrackets
{
    /// <summary>The blocks, with brackets around them.</summary>
    public static JsonArray Fold(JsonArray blocks)
    {
        var own = blocks.Select(b => b!.DeepClone().AsObject()).ToList();
        var at = 0;
        return Until(own, ref at, false) ?? blocks;
    }

    /// <summary>Blocks up to a turn or an end that is not theirs.</summary>
    /// <param name="inside">True within a bracket, where a turn or an end stops.</param>
    static JsonArray? Until(List<JsonObject> blocks, ref int at, bool inside)
    {
        var result = new JsonArray();
        while (at < blocks.Count)
        {
            var marker = Marker(blocks[at]);
            if (inside && marker is not null && IsTurn(marker))
                return result;
            if (marker is not null && Begins(marker) is { } kind)
            {
                var begun = at;
                if (Bracket(blocks, ref at, marker, kind) is { } bracket)
                {
                    result.Add(bracket);
                    continue;
                }
                at = begun;
            }
            result.Add(blocks[at].DeepClone());
            at++;
        }
        return result;
    }

    /// <summary>The bracket that begins here; null where it is not closed, or holds nothing.</summary>
    static JsonObject? Bracket(List<JsonObject> blocks, ref int at, string marker, string kind)
    {
        at++;
        if (Until(blocks, ref at, true) is not { Count: > 0 } first)
            return null;
        if (kind == "each")
        {
            if (at >= blocks.Count || !Is(Marker(blocks[at]), "end"))
                return null;
            at++;
            return new JsonObject
            {
                ["type"] = "each",
                ["attrs"] = new JsonObject { ["rows"] = marker["each".Length..].Trim().Trim('`') },
                ["content"] = first,
            };
        }
        var branches = new JsonArray(Branch(marker["when".Length..].Trim(), first));
        while (at < blocks.Count && Marker(blocks[at]) is { } turn)
        {
            at++;
            if (Is(turn, "end"))
                return new JsonObject { ["type"] = "when", ["content"] = branches };
            if (Until(blocks, ref at, true) is not { Count: > 0 } next)
                return null;
            branches.Add(Branch(Is(turn, "otherwise") ? null : turn["or when".Length..].Trim(), next));
        }
        return null;
    }

    static JsonObject Branch(string? test, JsonArray content) =>
        new()
        {
            ["type"] = "branch",
            ["attrs"] = new JsonObject { ["test"] = test },
            ["content"] = content,
        };

    /// <summary>What the one marker of a paragraph says; null where the paragraph holds anything else.</summary>
    static string? Marker(JsonObject block)
    {
        if ((string?)block["type"] != "paragraph" || block["content"] is not JsonArray content)
            return null;
        var parts = content.Where(n => !((string?)n!["type"] == "text" && string.IsNullOrWhiteSpace((string?)n["text"]))).ToList();
        return parts is [var only] && (string?)only!["type"] == "marker" ? (string?)only["attrs"]?["source"] : null;
    }

    static bool Is(string? marker, string word) => word.Equals(marker?.Trim(), StringComparison.OrdinalIgnoreCase);

    static bool IsTurn(string marker) =>
        Is(marker, "end") || Is(marker, "otherwise") || marker.StartsWith("or when", StringComparison.OrdinalIgnoreCase);

    static string? Begins(string marker) =>
        marker.StartsWith("when", StringComparison.OrdinalIgnoreCase) ? "when"
        : marker.StartsWith("each", StringComparison.OrdinalIgnoreCase) ? "each"
        : null;
}
