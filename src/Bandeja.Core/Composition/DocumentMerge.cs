using System.Text.Json.Nodes;
using DiffPlex;
using DiffPlex.Chunkers;

namespace Bandeja.Core.Composition;

/// <summary>
/// Puts a change that was made to one copy of a letter into another version of the letter. Both began from the same version. Where the
/// two did something else to the same paragraph, or to the same setting, nothing is guessed.
/// </summary>
public static class DocumentMerge
{
    /// <summary>The newer version with the change in it; null where the two touch the same place.</summary>
    /// <param name="common">What both began from, in the stored form of letters.</param>
    /// <param name="changed">The copy.</param>
    /// <param name="newer">The newer version.</param>
    public static string? Of(string common, string changed, string newer)
    {
        var (was, mine, theirs) = (Read(common), Read(changed), Read(newer));
        return was is null || mine is null || theirs is null ? null : Entries(was, mine, theirs)?.ToJsonString();
    }

    /// <summary>What is named is put together entry by entry, as settings are, or the answers of a form.</summary>
    static JsonObject? Entries(JsonObject was, JsonObject mine, JsonObject theirs)
    {
        var merged = new JsonObject();
        foreach (var key in theirs.Select(p => p.Key).Concat(mine.Select(p => p.Key)).Distinct())
        {
            var (a, b, c) = (was[key], mine[key], theirs[key]);
            if (BlockKey.Of(b) == BlockKey.Of(a))
                Put(c);
            else if (BlockKey.Of(c) == BlockKey.Of(a) || BlockKey.Of(b) == BlockKey.Of(c))
                Put(b);
            else if (a is JsonObject x && b is JsonObject y && c is JsonObject z && Entries(x, y, z) is { } entries)
                merged[key] = entries;
            else if (Blocks(a as JsonArray, b as JsonArray, c as JsonArray) is { } blocks)
                merged[key] = blocks;
            else
                return null;
            void Put(JsonNode? value)
            {
                if (value is not null)
                    merged[key] = value.DeepClone();
            }
        }
        return merged;
    }

    /// <summary>
    /// What stands on the page, block by block. Between two blocks that all three have, either one of the two is as it was, or both are
    /// alike; else they touch the same place. That also holds for what was put in beside something changed: it may belong to it.
    /// </summary>
    static JsonArray? Blocks(JsonArray? was, JsonArray? mine, JsonArray? theirs)
    {
        if (was is null || mine is null || theirs is null)
            return null;
        string[] Keys(JsonArray blocks) => [.. blocks.Select(b => BlockKey.Of(b))];
        var (a, b, c) = (Keys(was), Keys(mine), Keys(theirs));
        var (inMine, inTheirs) = (Kept(a, b), Kept(a, c));
        var merged = new JsonArray();
        int i = 0,
            m = 0,
            t = 0;
        while (true)
        {
            var j = i;
            while (j < a.Length && (inMine[j] < 0 || inTheirs[j] < 0))
                j++;
            var (toMine, toTheirs) = j < a.Length ? (inMine[j], inTheirs[j]) : (b.Length, c.Length);
            var (before, own, other) = (a[i..j], b[m..toMine], c[t..toTheirs]);
            if (own.SequenceEqual(before))
                Take(theirs, t, toTheirs);
            else if (other.SequenceEqual(before) || own.SequenceEqual(other))
                Take(mine, m, toMine);
            else
                return null;
            if (j == a.Length)
                return merged;
            Take(theirs, toTheirs, toTheirs + 1);
            (i, m, t) = (j + 1, toMine + 1, toTheirs + 1);
        }
        void Take(JsonArray from, int start, int end)
        {
            for (var n = start; n < end; n++)
                merged.Add(from[n]?.DeepClone());
        }
    }

    /// <summary>For each block of the first where it is in the second; -1 where it is not.</summary>
    static int[] Kept(string[] was, string[] now)
    {
        var places = new int[was.Length];
        var diff = Differ.Instance.CreateDiffs(string.Join('\n', was), string.Join('\n', now), false, false, new LineChunker());
        int i = 0,
            n = 0;
        foreach (var block in diff.DiffBlocks)
        {
            while (i < block.DeleteStartA)
                places[i++] = n++;
            for (; i < block.DeleteStartA + block.DeleteCountA; i++)
                places[i] = -1;
            n = block.InsertStartB + block.InsertCountB;
        }
        while (i < was.Length)
            places[i++] = n++;
        return places;
    }

    static JsonObject? Read(string json)
    {
        try
        {
            return JsonNode.Parse(json, null, new() { MaxDepth = 512 }) as JsonObject;
        }
        catch (System.Text.Json.JsonException)
        {
            return null;
        }
    }
}
