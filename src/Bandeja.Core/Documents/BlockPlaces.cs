using System.Text.Json.Nodes;

namespace Bandeja.Core.Documents;

/// <summary>Where the blocks of a document stand after samples were replaced and brackets drawn around some of them.</summary>
sealed class BlockPlaces
{
    const string Name = "numbered";
    readonly SortedDictionary<int, int> now = [];

    /// <summary>Notes on each block where it stands.</summary>
    public static void Number(JsonArray blocks)
    {
        for (var i = 0; i < blocks.Count; i++)
            blocks[i]![Name] = i;
    }

    /// <summary>Takes the notes off, and remembers where each block has gone.</summary>
    public static BlockPlaces Of(JsonArray blocks)
    {
        var places = new BlockPlaces();
        for (var i = 0; i < blocks.Count; i++)
        {
            var stack = new Stack<JsonObject>([blocks[i]!.AsObject()]);
            while (stack.TryPop(out var node))
            {
                if (node[Name] is { } at)
                {
                    places.now[(int)at] = i;
                    node.Remove(Name);
                    continue;
                }
                foreach (var child in node["content"]?.AsArray() ?? [])
                    stack.Push(child!.AsObject());
            }
        }
        return places;
    }

    /// <summary>Where a block stands now; one that became a part of another is where that is.</summary>
    public int? Now(int? block)
    {
        if (block is not { } wanted || now.Count == 0)
            return block;
        var place = 0;
        foreach (var (at, index) in now)
        {
            if (at > wanted)
                break;
            place = index;
        }
        return place;
    }
}
