using System.Text.Json.Nodes;

namespace Bandeja.Core.Documents;

/// <summary>
/// Brackets around the rows of a table. Documents have them in two ways: from the beginning of a row's first cell to the end of its last
/// one, or in rows of their own above and below.
/// </summary>
static class TableRows
{
    /// <summary>The rows, each with the bracket that holds for it as the attribute <c>tag</c>.</summary>
    /// <param name="tell">Is told of what could not be carried over.</param>
    public static JsonArray Lift(JsonArray rows, Action<string> tell)
    {
        var own = rows.Select(r => r!.DeepClone().AsObject()).ToList();
        var result = new JsonArray();
        for (var i = 0; i < own.Count; i++)
        {
            var row = own[i];
            if (Only(row) is { } opening && IsOpening(opening))
            {
                var end = own.FindIndex(i + 1, r => Only(r) is { } t && KindOf(t) == TagKind.End);
                if (end > i + 1)
                {
                    var repeats = KindOf(opening) is TagKind.Each or TagKind.Section;
                    if (repeats && end > i + 2)
                        tell(
                            $"{Written(opening)} repeats {end - i - 1} rows of a table together; each of them is repeated by itself "
                                + "here. Put what belongs together into one row."
                        );
                    for (var j = i + 1; j < end; j++)
                        result.Add(With(own[j], opening));
                    i = end;
                    continue;
                }
            }
            result.Add(Enclosed(row) is { } tag ? With(row, tag) : row);
        }
        return result;
    }

    static JsonObject With(JsonObject row, JsonObject tag)
    {
        (row["attrs"] ??= new JsonObject())["tag"] = tag.DeepClone();
        return row;
    }

    static string Written(JsonObject tag) => $"“{(string?)tag["attrs"]?["written"]}”";

    static TagKind? KindOf(JsonNode? node) =>
        (string?)node?["type"] == "tag" && Enum.TryParse<TagKind>((string?)node["attrs"]?["kind"], out var kind) ? kind : null;

    static bool IsOpening(JsonNode? node) =>
        KindOf(node) switch
        {
            TagKind.If or TagKind.Each or TagKind.Section => true,
            TagKind.Own => ((string)node!["attrs"]!["name"]!) is var n
                && (n.StartsWith("when", StringComparison.OrdinalIgnoreCase) || n.StartsWith("each", StringComparison.OrdinalIgnoreCase)),
            _ => false,
        };

    static bool IsEnd(JsonNode? node) =>
        KindOf(node) == TagKind.End
        || KindOf(node) == TagKind.Own && ((string)node!["attrs"]!["name"]!).Equals("end", StringComparison.OrdinalIgnoreCase);

    static IEnumerable<JsonObject> Inlines(JsonObject row) =>
        (row["content"]?.AsArray() ?? [])
            .SelectMany(cell => DocumentTree.Lines(cell!["content"] as JsonArray))
            .SelectMany(l => l.Line["content"]?.AsArray() ?? [])
            .Select(n => n!.AsObject());

    static bool IsBlank(JsonObject node) => (string?)node["type"] == "text" && string.IsNullOrWhiteSpace((string?)node["text"]);

    /// <summary>The one tag of a row that holds nothing else.</summary>
    static JsonObject? Only(JsonObject row)
    {
        var parts = Inlines(row).Where(n => !IsBlank(n)).Take(2).ToList();
        return parts is [var only] && (IsOpening(only) || IsEnd(only)) ? only : null;
    }

    /// <summary>The bracket that opens at a row's beginning and closes at its end; both are taken out of it.</summary>
    static JsonObject? Enclosed(JsonObject row)
    {
        var parts = Inlines(row).Where(n => !IsBlank(n)).ToList();
        if (parts.Count < 2 || !IsOpening(parts[0]) || !IsEnd(parts[^1]))
            return null;
        // Only where both belong together.
        var depth = 0;
        for (var i = 0; i < parts.Count; i++)
        {
            if (IsOpening(parts[i]))
                depth++;
            else if (IsEnd(parts[i]) && --depth == 0 && i < parts.Count - 1)
                return null;
        }
        if (depth != 0)
            return null;
        parts[0].Parent!.AsArray().Remove(parts[0]);
        parts[^1].Parent!.AsArray().Remove(parts[^1]);
        return parts[0];
    }
}
