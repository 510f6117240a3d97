using System.Text.Json;

namespace Bandeja.Formats.Lists;

/// <summary>A JSON array (RFC 8259) of objects, which need not be alike, or of arrays.</summary>
sealed class JsonSource(string path, string name) : ISource
{
    const int Deepest = 4;

    public string Kind => "json";
    public bool NamesItsColumns => true;
    public IReadOnlyList<SheetInfo> Parts() => [];
    public SourceOptions Complete(SourceOptions options) => new(HeadingRow: 0);

    public IRowReader Rows(SourceOptions complete)
    {
        var notes = new SourceNotes();
        var keys = new Dictionary<string, int>();
        var rows = new List<string?[]>();
        var number = 0;
        foreach (var element in Elements())
        {
            number++;
            switch (element.ValueKind)
            {
                case JsonValueKind.Object:
                    var row = new SortedDictionary<int, string?>();
                    Flatten(element, "", row, keys, notes, number, 0);
                    if (row.Count < keys.Count && rows.Count > 0) notes.Add("Objects that lack some of the keys; what is missing is blank", $"object {number:N0}");
                    rows.Add(Row(row));
                    break;
                case JsonValueKind.Array:
                    var cells = element.EnumerateArray().Select(v => Scalar(v)).ToArray();
                    for (var i = keys.Count; i < cells.Length; i++) keys[$"Column {i + 1}"] = i;
                    rows.Add(cells);
                    break;
                default:
                    throw new ListFileException($"Entry {number:N0} of “{name}” is neither an object nor an array, so it has no columns: {Short(element)}.");
            }
            if (keys.Count > SourceFile.MaxColumns) throw new ListFileException($"The objects of “{name}” have more than {SourceFile.MaxColumns:N0} different keys; a list can have that many columns.");
        }
        rows.Insert(0, [.. keys.OrderBy(k => k.Value).Select(k => k.Key)]);
        return new MemoryRowReader(rows, notes);
    }

    static string?[] Row(SortedDictionary<int, string?> values)
    {
        var row = new string?[values.Count == 0 ? 0 : values.Keys.Max() + 1];
        foreach (var (i, value) in values) row[i] = value;
        return row;
    }

    /// <summary>The entries one after another: a long file is never in memory as a tree.</summary>
    IEnumerable<JsonElement> Elements()
    {
        using var file = File.OpenRead(path);
        var entries = JsonSerializer.DeserializeAsyncEnumerable<JsonElement>(file, new JsonSerializerOptions { MaxDepth = 32, AllowTrailingCommas = true, ReadCommentHandling = JsonCommentHandling.Skip }).ToBlockingEnumerable().GetEnumerator();
        for (var number = 0; ; number++)
        {
            try { if (!entries.MoveNext()) yield break; }
            catch (JsonException e)
            {
                throw new ListFileException(number == 0 && e.Path is "$" or null
                    ? $"“{name}” is not a JSON array. A list is read from an array of objects: [{{\"First\": \"Ana\"}}, …]."
                    : $"“{name}” is broken after entry {number:N0}{(e.LineNumber is { } line ? $", in line {line + 1:N0}" : "")}. Mend it there and bring it in again.");
            }
            yield return entries.Current;
        }
    }

    static void Flatten(JsonElement value, string prefix, SortedDictionary<int, string?> row, Dictionary<string, int> keys, SourceNotes notes, int number, int depth)
    {
        foreach (var property in value.EnumerateObject())
        {
            var key = prefix + property.Name;
            if (property.Value.ValueKind == JsonValueKind.Object && depth < Deepest) { Flatten(property.Value, key + " ", row, keys, notes, number, depth + 1); continue; }
            if (property.Value.ValueKind == JsonValueKind.Object || property.Value.ValueKind == JsonValueKind.Array && property.Value.EnumerateArray().Any(v => v.ValueKind is JsonValueKind.Object or JsonValueKind.Array))
            {
                notes.Add($"“{key}” holds rows of its own, which a column cannot hold; it was left out", $"object {number:N0}");
                continue;
            }
            if (!keys.TryGetValue(key, out var at)) keys[key] = at = keys.Count;
            row[at] = property.Value.ValueKind == JsonValueKind.Array ? string.Join(", ", property.Value.EnumerateArray().Select(Scalar).Where(s => s is not null)) : Scalar(property.Value);
        }
    }

    static string? Scalar(JsonElement value)
    {
        var text = value.ValueKind switch { JsonValueKind.String => value.GetString()!.Replace("\0", ""), JsonValueKind.Number => value.GetRawText(), JsonValueKind.True => "yes", JsonValueKind.False => "no", JsonValueKind.Null => null, _ => value.GetRawText() };
        return string.IsNullOrEmpty(text) ? null : text;
    }

    static string Short(JsonElement value) => value.GetRawText() is { Length: > 40 } text ? text[..40] + "…" : value.GetRawText();
}
