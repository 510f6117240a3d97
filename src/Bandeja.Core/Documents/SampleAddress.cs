using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Bandeja.Core.Places;

namespace Bandeja.Core.Documents;

/// <summary>A stretch of blocks that looks like a sample: the name and address of one recipient, or a greeting.</summary>
/// <param name="Source">The field that would stand for it.</param>
/// <param name="From">The first block.</param>
/// <param name="To">The last one.</param>
/// <param name="Text">What stands there, in one line.</param>
sealed record Sample(string Key, string Source, int From, int To, string Text);

/// <summary>Finds a sample name and address, and a sample greeting, at the top of a letter.</summary>
static partial class SampleAddress
{
    const int Top = 16,
        MostLines = 6,
        LongestLine = 60,
        Between = 6;

    /// <summary>What looks like a sample, in the order in which it stands.</summary>
    public static IReadOnlyList<Sample> Find(JsonArray blocks)
    {
        // What stands to the right or in the middle, and headings, are the sender's.
        var lines = blocks
            .Take(Top)
            .Select(b =>
                (string?)b!["type"] == "paragraph" && (string?)b!["attrs"]?["textAlign"] is not ("right" or "center")
                    ? DocumentTree.Text(b!.AsObject()).Trim()
                    : null
            )
            .ToList();
        var greeting = lines.FindIndex(l => l is not null && Greeting().IsMatch(l));
        var found = new List<Sample>();
        var limit = greeting < 0 ? lines.Count : greeting;
        Sample? address = null;
        for (var i = 0; i < limit; i++)
        {
            // An address may be one paragraph with line ends or one paragraph a line.
            if (lines[i] is { } one && one.Contains('\n') && IsAddress(one.Split('\n')))
                address = new("sample:address", "Delivery address", i, i, one.Replace("\n", ", "));
            for (var j = i + 1; j < Math.Min(limit, i + MostLines) && lines[j] is { Length: > 0 }; j++)
                if (lines[i] is { Length: > 0 } && IsAddress([.. lines.Skip(i).Take(j - i + 1).Select(l => l!)]))
                {
                    address = new("sample:address", "Delivery address", i, j, string.Join(", ", lines.Skip(i).Take(j - i + 1)));
                    i = j;
                    break;
                }
        }
        // The recipient's stands right above the greeting; what stands far above it is the sender's.
        if (address is not null && greeting >= 0 && greeting - address.To <= Between)
            found.Add(address);
        // A greeting with a placeholder in it is no sample any more.
        if (greeting >= 0 && !lines[greeting]!.Contains(DocumentTree.Thing))
            found.Add(new("sample:salutation", "Salutation", greeting, greeting, lines[greeting]!));
        return found;
    }

    static bool IsAddress(IReadOnlyList<string> lines)
    {
        if (lines.Count is < 2 or > MostLines || lines.Any(l => l.Length is 0 or > LongestLine || l.Contains(DocumentTree.Thing)))
            return false;
        var last = lines[^1].Trim();
        var rest = lines;
        if (lines.Count > 2 && Countries.Named(last) is not null)
            (last, rest) = (lines[^2].Trim(), [.. lines.SkipLast(1)]);
        return CityLine().IsMatch(last) && rest.SkipLast(1).Any(l => Street().IsMatch(l)) && rest[0].Any(char.IsLetter);
    }

    /// <summary>The blocks with a sample replaced by its field.</summary>
    public static void Replace(JsonArray blocks, Sample sample)
    {
        var first = blocks[sample.From]!.AsObject();
        var marks = (first["content"]?.AsArray() ?? []).FirstOrDefault(n => (string?)n!["type"] == "text")?["marks"];
        var field = DocumentTree.Inline("field", sample.Source, marks);
        // The last line's space after it is the address's.
        if (blocks[sample.To]!["attrs"]?["spaceAfter"] is { } after && sample.To > sample.From)
            (first["attrs"] ??= new JsonObject())["spaceAfter"] = after.DeepClone();
        first["content"] = new JsonArray(field);
        for (var i = sample.To; i > sample.From; i--)
            blocks.RemoveAt(i);
    }

    [GeneratedRegex(@"^(?:Dear|Hello|Hi|To)\b[^\n]{0,56}[,:]$", RegexOptions.IgnoreCase)]
    private static partial Regex Greeting();

    /// <summary>A city with its region and postal code, before or behind it.</summary>
    [GeneratedRegex(
        @"(?:\b[A-Z]{2}\.?\s+\d{5}(?:-\d{4})?$)|(?:^\d{4,5}\s+\p{L})|(?:\b[A-Z]{1,2}\d[A-Z\d]?\s*\d[A-Z]{2}$)"
            + @"|(?:\b[A-Z]\d[A-Z]\s*\d[A-Z]\d$)|(?:\p{L},?\s+\d{4,6}$)"
    )]
    private static partial Regex CityLine();

    [GeneratedRegex(@"^\d+[A-Za-z]?\s+\S|\s\d+[A-Za-z]?$|\bP\.?\s?O\.?\s*Box\b", RegexOptions.IgnoreCase)]
    private static partial Regex Street();
}
