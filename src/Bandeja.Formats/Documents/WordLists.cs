using System.Text.Json.Nodes;

namespace Bandeja.Formats.Documents;

/// <summary>Collects blocks; neighbors that are items of lists become lists within one another, numbered as they were.</summary>
sealed class WordLists(WordNumbering numbering)
{
    /// <summary>An item as it was met.</summary>
    sealed record Item(JsonObject Block, string List, int Level, int Number);

    readonly JsonArray result = [];
    readonly List<Item> items = [];

    /// <summary>How many blocks there are so far, a list counted as one.</summary>
    public int Count => result.Count + (items.Count > 0 ? 1 : 0);

    /// <summary>True where the last block is a table.</summary>
    public bool EndsWithTable => items.Count == 0 && result.Count > 0 && (string?)result[^1]!["type"] == "table";

    /// <summary>Makes one block of all from a place on.</summary>
    public void Wrap(int from, Func<JsonArray, JsonObject> wrap)
    {
        Close();
        var inner = result.Skip(from).Select(b => b!.DeepClone()).ToList();
        while (result.Count > from)
            result.RemoveAt(result.Count - 1);
        result.Add(wrap([.. inner]));
    }

    /// <summary>Adds a block that is no item.</summary>
    public void Add(JsonObject block)
    {
        Close();
        result.Add(block);
    }

    /// <summary>Adds a paragraph, which may be an item.</summary>
    public void Add(JsonObject block, ParagraphLook look)
    {
        if (numbering.Of(look.List) is not { } levels || (string?)block["type"] == "heading")
        {
            // A numbered heading keeps its number as text.
            if ((string?)block["type"] == "heading" && look.List is { } numbered && numbering.Of(numbered) is { } own)
            {
                var at = Math.Clamp(look.Level ?? 0, 0, own.Count - 1);
                numbering.Count(numbered, at);
                Prefix(block, own[at].Style is null ? own[at].Template : numbering.WrittenOut(numbered, at));
            }
            Add(block);
            return;
        }
        var level = Math.Clamp(look.Level ?? 0, 0, levels.Count - 1);
        items.Add(new(block, look.List!, level, numbering.Count(look.List!, level)));
        // The list sets its items in; what the paragraph says beyond that would count twice.
        if (block["attrs"] is JsonObject a)
            foreach (var name in (string[])["indent", "firstLine", "tabs"])
                a.Remove(name);
        outer[items[^1]] = [.. Enumerable.Range(0, level).Select(i => numbering.Written(look.List!, i))];
    }

    readonly Dictionary<Item, string[]> outer = [];

    static void Prefix(JsonObject block, string label)
    {
        if (label.Length == 0)
            return;
        var node = new JsonObject { ["type"] = "text", ["text"] = label + " " };
        if (block["content"] is JsonArray content)
        {
            if (content.FirstOrDefault()?["marks"] is { } marks)
                node["marks"] = marks.DeepClone();
            content.Insert(0, node);
        }
        else
            block["content"] = new JsonArray(node);
    }

    void Close()
    {
        for (var at = 0; at < items.Count; )
            result.Add(List(ref at, items[at].Level, 0, [], 0));
        items.Clear();
        outer.Clear();
    }

    /// <summary>The items from a place on, as one list of a level; those of deeper levels are lists within its items.</summary>
    /// <param name="around">The levels of the lists around it, outermost first.</param>
    /// <param name="left">Where the text of the list around it begins, points from the left margin.</param>
    JsonObject List(ref int at, int level, int depth, IReadOnlyList<int> around, double left)
    {
        var first = items[at];
        var look = numbering.Of(first.List)![level];
        var a = new JsonObject
        {
            ["indent"] = LetterBuilder.Millimetres(Math.Clamp(look.Left - left, 0, 200)),
            ["hang"] = LetterBuilder.Millimetres(Math.Clamp(look.Hang, 0, 200)),
        };
        if (look.Style is null)
        {
            if (look.Template != "•")
                a["bullet"] = look.Template;
        }
        else
        {
            a["start"] = first.Number;
            if (look.Style != "decimal")
                a["style"] = look.Style;
            // Levels that are around this list in the letter count on; others stand as they were written.
            var template = look.Template;
            for (var i = 0; i < level; i++)
            {
                var place = around.ToList().IndexOf(i);
                template = template.Replace($"%{i + 1}", place >= 0 ? $"%\u0001{place + 1}" : outer[first].ElementAtOrDefault(i) ?? "");
            }
            template = template.Replace($"%{level + 1}", $"%\u0001{depth + 1}").Replace("\u0001", "");
            if (template != $"%{depth + 1}.")
                a["label"] = template;
        }
        var list = new JsonObject { ["type"] = look.Style is null ? "bulletList" : "orderedList", ["attrs"] = a };
        var content = new JsonArray();
        while (at < items.Count)
        {
            var item = items[at];
            if (item.Level < level || item.Level == level && item.List != first.List)
                break;
            if (item.Level > level)
            {
                var inner = List(ref at, item.Level, depth + 1, [.. around, level], look.Left);
                if (content.Count == 0)
                    content.Add(new JsonObject { ["type"] = "listItem", ["content"] = new JsonArray() });
                content[^1]!["content"]!.AsArray().Add(inner);
                continue;
            }
            // Numbers that jump begin a list of their own.
            if (content.Count > 0 && look.Style is not null && item.Number != first.Number + content.Count)
                break;
            content.Add(new JsonObject { ["type"] = "listItem", ["content"] = new JsonArray(item.Block) });
            at++;
        }
        list["content"] = content;
        return list;
    }

    /// <summary>The blocks.</summary>
    public JsonArray Result()
    {
        Close();
        return result;
    }
}
