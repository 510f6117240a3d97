using System.Text.Json.Nodes;

namespace Bandeja.Core.Documents;

/// <summary>How often marks stand in a document, and whether they are likely meant for placeholders.</summary>
/// <param name="Count">How many placeholders they mark.</param>
public sealed record MarksFound(TagMarks Marks, int Count, bool Likely);

/// <summary>Finds typed placeholders, also where the file divides them over several stretches of formatting.</summary>
public static class TagScan
{
    /// <summary>Counts what each kind of marks would find, and says which are likely meant.</summary>
    /// <param name="isKnown">True for a name that the list, or the letter itself, knows.</param>
    public static IReadOnlyList<MarksFound> Count(JsonObject letter, Func<string, bool> isKnown, bool ours = false)
    {
        var names = TagMarks.Known.ToDictionary(m => m, _ => new List<Tag>());
        foreach (var band in DocumentTree.Bands)
        foreach (var (line, _) in DocumentTree.Lines(letter[band] as JsonArray))
        {
            var text = DocumentTree.Text(line);
            foreach (var (marks, _, _, tag) in Find(text, TagMarks.Known, ours))
                names[marks].Add(tag);
        }
        var strong = names.Any(n => n.Key.Strong && n.Value.Count > 0);
        return
        [
            .. names
                .Where(n => n.Value.Count > 0)
                .Select(n => new MarksFound(
                    n.Key,
                    n.Value.Count,
                    n.Key.Strong
                        || n.Value.Any(t => t.Kind is TagKind.Own || isKnown(t.Name))
                        // Where nothing else marks anything, brackets around several names are no accident.
                        || !strong && n.Key.Close.Length > 0 && n.Value.Select(t => t.Name).Distinct().Count() > 1
                )),
        ];
    }

    /// <summary>The placeholders of a text, in order, none within another.</summary>
    internal static IReadOnlyList<(TagMarks Marks, int From, int To, Tag Tag)> Find(string text, IReadOnlyList<TagMarks> marks, bool ours)
    {
        var found = new List<(TagMarks, int From, int To, Tag)>();
        if (text.Length == 0)
            return found;
        bool[]? taken = null;
        // Marks that hold others first.
        foreach (var m in marks.OrderByDescending(m => m.Open.Length))
        {
            if (!text.Contains(m.Open, StringComparison.Ordinal))
                continue;
            foreach (System.Text.RegularExpressions.Match match in m.Pattern.Matches(text))
            {
                taken ??= new bool[text.Length];
                if (Array.IndexOf(taken, true, match.Index, match.Length) >= 0)
                    continue;
                // In our own letters a backslash takes a brace as it is.
                if (ours && match.Index > 0 && text[match.Index - 1] == '\\')
                    continue;
                // Whatever stands between strong marks is theirs, placeholder or not: [[x]] is never [x].
                if (m.Strong)
                    Array.Fill(taken, true, match.Index, match.Length);
                if (Tag.Of(match.Groups["name"].Value, m, ours) is not { } tag)
                    continue;
                Array.Fill(taken, true, match.Index, match.Length);
                found.Add((m, match.Index, match.Index + match.Length, tag));
            }
        }
        found.Sort((a, b) => a.From - b.From);
        return found;
    }

    /// <summary>
    /// Puts a node <c>tag</c> in the place of each typed placeholder of a line. It has the formatting of the first character between its
    /// marks, or of the marks themselves.
    /// </summary>
    internal static void Mark(JsonObject line, IReadOnlyList<TagMarks> marks, bool ours, Func<Tag, TagMarks, string, JsonObject> node)
    {
        if (line["content"] is not JsonArray { Count: > 0 } content)
            return;
        var text = DocumentTree.Text(line);
        var found = Find(text, marks, ours);
        if (found.Count == 0)
            return;
        var result = new JsonArray();
        var (at, next) = (0, 0); // in the text; among what was found
        foreach (var part in content.ToList())
        {
            var length = (string?)part!["type"] == "text" ? ((string?)part["text"] ?? "").Length : 1;
            var (from, to) = (at, at + length);
            at = to;
            if ((string?)part["type"] != "text")
            {
                result.Add(part.DeepClone());
                continue;
            }
            var own = (string?)part["text"] ?? "";
            for (var i = from; i < to; )
            {
                if (next < found.Count && i >= found[next].From)
                {
                    var f = found[next];
                    // The node stands where the name begins.
                    var name = f.From + f.Marks.Open.Length;
                    if (name >= i && name < to)
                    {
                        var tag = node(f.Tag, f.Marks, text[f.From..f.To]);
                        if (part["marks"] is JsonArray { Count: > 0 } m)
                            tag["marks"] = m.DeepClone();
                        result.Add(tag);
                    }
                    i = Math.Min(f.To, to);
                    if (f.To <= to)
                        next++;
                    continue;
                }
                var stop = next < found.Count ? Math.Min(to, found[next].From) : to;
                result.Add(DocumentTree.TextNode(own[(i - from)..(stop - from)], part["marks"]));
                i = stop;
            }
        }
        line["content"] = result;
    }
}
