using System.Text;
using System.Text.Json;

namespace Bandeja.Formats.Lists;

/// <summary>
/// A JSON array (RFC 8259) of objects, which need not be alike, or of arrays; arrays that stand in an object, of which one is chosen; or
/// one
/// object on each line (JSON Lines).
/// </summary>
sealed class JsonSource(string path, string name) : PartedSource, ISource
{
    const int Deepest = 4;

    /// <summary>What an object with arrays in it may have: it is read as a whole, unlike arrays and lines.</summary>
    const long LargestObject = 256L << 20;

    enum Form
    {
        Array,
        Lines,
        Object,
    }

    string? encoding;
    bool mendedWhole;
    Form? form;
    Dictionary<string, List<JsonElement>>? arrays;

    Form OfFile => form ??= Told();

    public override string Kind => "json";
    public bool NamesItsColumns => true;

    public override IReadOnlyList<SheetInfo> Parts() => OfFile == Form.Object ? [.. Arrays.Keys.Select(k => new SheetInfo(k, false))] : [];

    public override SourceOptions Complete(SourceOptions options)
    {
        if (OfFile != Form.Object)
            return new(HeadingRow: 0);
        if (Arrays.Count == 0)
            throw new ListFileException(
                $"“{name}” is a JSON object without an array of objects in it. A list is read from an array: [{{\"First\": \"Ana\"}}, …]."
            );
        return base.Complete(options) with { HeadingRow = 0 };
    }

    /// <summary>Lines where the first line is an object and another follows; an object where the first object takes the whole
    /// file.</summary>
    Form Told()
    {
        using var reader = new StreamReader(Utf8(), Encoding.UTF8);
        var first = "";
        while (first.Trim().Length == 0 && reader.ReadLine() is { } line)
            first = line.Length > 4_000_000 ? "" : line;
        if (!first.TrimStart().StartsWith('{'))
            return Form.Array;
        try
        {
            using var one = JsonDocument.Parse(first, new() { MaxDepth = 32 });
        }
        catch (JsonException)
        {
            return Form.Object;
        }
        while (reader.ReadLine() is { } line)
            if (line.Trim().Length > 0)
                return Form.Lines;
        return Arrays.Count == 0 && Path.GetExtension(name).ToLowerInvariant() is ".jsonl" or ".ndjson" ? Form.Lines : Form.Object;
    }

    /// <summary>The arrays of objects that stand in an object, by the keys that lead to them.</summary>
    Dictionary<string, List<JsonElement>> Arrays
    {
        get
        {
            if (arrays is not null)
                return arrays;
            if (new FileInfo(path).Length > LargestObject)
                throw new ListFileException(
                    $"“{name}” is one JSON object of more than {LargestObject >> 20} MB. Import the array with the recipients as "
                        + "a file of its own."
                );
            var found = new Dictionary<string, List<JsonElement>>();
            try
            {
                using var file = Utf8();
                using var document = JsonDocument.Parse(
                    file,
                    new()
                    {
                        MaxDepth = 64,
                        AllowTrailingCommas = true,
                        CommentHandling = JsonCommentHandling.Skip,
                    }
                );
                void Look(JsonElement value, string at, int depth)
                {
                    if (
                        value.ValueKind == JsonValueKind.Array
                        && value.GetArrayLength() > 0
                        && value.EnumerateArray().All(v => v.ValueKind is JsonValueKind.Object or JsonValueKind.Array)
                    )
                        found.TryAdd(at, [.. value.EnumerateArray().Select(v => v.Clone())]);
                    else if (value.ValueKind == JsonValueKind.Object && depth < Deepest)
                        foreach (var property in value.EnumerateObject())
                            Look(property.Value, at.Length == 0 ? property.Name : $"{at}.{property.Name}", depth + 1);
                }
                try
                {
                    Look(document.RootElement, "", 0);
                }
                catch (InvalidOperationException)
                {
                    // A key holds half a character, so that it cannot be read as it is.
                    found.Clear();
                    Look(JsonSurrogates.Sound(document.RootElement, out mendedWhole), "", 0);
                }
            }
            catch (JsonException e)
            {
                throw new ListFileException(
                    $"“{name}” is broken{(e.LineNumber is { } line ? $" in line {line + 1:N0}" : "")}. Fix it there and import it again."
                );
            }
            return arrays = found;
        }
    }

    /// <summary>The encoding that the file is in. JSON is UTF-8 (RFC 8259, section 8.1), but programs write it otherwise.</summary>
    string FileEncoding
    {
        get
        {
            if (encoding is not null)
                return encoding;
            using var file = File.OpenRead(path);
            var head = new byte[Math.Min(1 << 20, file.Length)];
            file.ReadExactly(head);
            return encoding = Encodings.Recognize(path, head, head.Length == file.Length).Encoding;
        }
    }

    /// <summary>The file as UTF-8, whatever it is in.</summary>
    Stream Utf8()
    {
        var file = File.OpenRead(path);
        return FileEncoding == "utf-8" ? file : Encoding.CreateTranscodingStream(file, Encodings.Get(FileEncoding), Encoding.UTF8);
    }

    public override IRowReader Rows(SourceOptions complete)
    {
        var notes = new SourceNotes();
        if (FileEncoding != "utf-8")
            notes.Add($"JSON should be in UTF-8; this file was read as {FileEncoding}", "whole file");
        var count = new CellCount();
        var keys = new Dictionary<string, int>();
        var rows = new List<string?[]>();
        var number = 0;
        foreach (var entry in Elements(complete))
        {
            number++;
            var element = JsonSurrogates.Sound(entry, out var mended);
            if (mended || mendedWhole)
                notes.Add("Unpaired surrogate characters were replaced by �", $"entry {number:N0}");
            switch (element.ValueKind)
            {
                case JsonValueKind.Object:
                    var row = new SortedDictionary<int, string?>();
                    Flatten(element, "", row, keys, notes, number, 0);
                    if (row.Count < keys.Count && rows.Count > 0)
                        notes.Add("Some objects lack some keys; the missing values are blank", $"object {number:N0}");
                    rows.Add(Row(row));
                    break;
                case JsonValueKind.Array:
                    var cells = element.EnumerateArray().Select(v => Scalar(v)).ToArray();
                    for (var i = keys.Count; i < cells.Length; i++)
                        keys[$"Column {i + 1}"] = i;
                    rows.Add(cells);
                    break;
                default:
                    throw new ListFileException(
                        $"Entry {number:N0} of “{name}” is not an object or an array, so it has no columns: {Short(element)}."
                    );
            }
            count.Add(rows[^1], number);
            if (keys.Count > SourceFile.MaxColumns)
                throw new ListFileException(
                    $"The objects of “{name}” have more than {SourceFile.MaxColumns:N0} different keys; a list can have that many columns."
                );
        }
        rows.Insert(0, [.. keys.OrderBy(k => k.Value).Select(k => k.Key)]);
        return new MemoryRowReader(rows, notes);
    }

    static string?[] Row(SortedDictionary<int, string?> values)
    {
        var row = new string?[values.Count == 0 ? 0 : values.Keys.Max() + 1];
        foreach (var (i, value) in values)
            row[i] = value;
        return row;
    }

    /// <summary>The entries one after another: a long array, or a file of lines, is never in memory as a tree.</summary>
    IEnumerable<JsonElement> Elements(SourceOptions complete)
    {
        if (OfFile == Form.Lines)
            return Lines();
        if (OfFile == Form.Array)
            return OfArray();
        return Arrays.GetValueOrDefault(complete.Sheet ?? "") ?? throw new ListFileException($"“{name}” has no array “{complete.Sheet}”.");
    }

    IEnumerable<JsonElement> Lines()
    {
        var number = 0;
        using var reader = new StreamReader(Utf8(), Encoding.UTF8);
        while (reader.ReadLine() is { } line)
        {
            number++;
            if (line.AsSpan().Trim().Length == 0)
                continue;
            JsonElement element;
            try
            {
                using var document = JsonDocument.Parse(line, new() { MaxDepth = 32, AllowTrailingCommas = true });
                element = document.RootElement.Clone();
            }
            catch (JsonException)
            {
                throw new ListFileException(
                    $"Line {number:N0} of “{name}” is not a complete JSON object, as each line should be. Fix it and import the file again."
                );
            }
            yield return element;
        }
    }

    IEnumerable<JsonElement> OfArray()
    {
        using var file = Utf8();
        var entries = JsonSerializer
            .DeserializeAsyncEnumerable<JsonElement>(
                file,
                new JsonSerializerOptions
                {
                    MaxDepth = 32,
                    AllowTrailingCommas = true,
                    ReadCommentHandling = JsonCommentHandling.Skip,
                }
            )
            .ToBlockingEnumerable()
            .GetEnumerator();
        for (var number = 0; ; number++)
        {
            try
            {
                if (!entries.MoveNext())
                    yield break;
            }
            catch (JsonException e)
            {
                throw new ListFileException(
                    number == 0 && e.Path is "$" or null
                        ? $"“{name}” is not a JSON array. A list is read from an array of objects: [{{\"First\": \"Ana\"}}, …]."
                        : $"“{name}” is broken after entry "
                            + $"{number:N0}{(e.LineNumber is { } line ? $", in line {line + 1:N0}" : "")}. Fix it there and import it "
                            + "in again."
                );
            }
            yield return entries.Current;
        }
    }

    static void Flatten(
        JsonElement value,
        string prefix,
        SortedDictionary<int, string?> row,
        Dictionary<string, int> keys,
        SourceNotes notes,
        int number,
        int depth
    )
    {
        foreach (var property in value.EnumerateObject())
        {
            var key = prefix + property.Name;
            if (property.Value.ValueKind == JsonValueKind.Object && depth < Deepest)
            {
                Flatten(property.Value, key + " ", row, keys, notes, number, depth + 1);
                continue;
            }
            if (
                property.Value.ValueKind == JsonValueKind.Object
                || property.Value.ValueKind == JsonValueKind.Array
                    && property.Value.EnumerateArray().Any(v => v.ValueKind is JsonValueKind.Object or JsonValueKind.Array)
            )
            {
                notes.Add($"“{key}” contains nested rows, which were skipped", $"object {number:N0}");
                continue;
            }
            if (!keys.TryGetValue(key, out var at))
                keys[key] = at = keys.Count;
            row[at] =
                property.Value.ValueKind == JsonValueKind.Array
                    ? string.Join(", ", property.Value.EnumerateArray().Select(Scalar).Where(s => s is not null))
                    : Scalar(property.Value);
        }
    }

    static string? Scalar(JsonElement value)
    {
        var text = value.ValueKind switch
        {
            JsonValueKind.String => value.GetString()!.Replace("\0", ""),
            JsonValueKind.Number => value.GetRawText(),
            JsonValueKind.True => "yes",
            JsonValueKind.False => "no",
            JsonValueKind.Null => null,
            _ => value.GetRawText(),
        };
        return string.IsNullOrEmpty(text) ? null : text;
    }

    static string Short(JsonElement value) => value.GetRawText() is { Length: > 40 } text ? text[..40] + "…" : value.GetRawText();
}
