using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using System.Text.RegularExpressions;

namespace Bandeja.Reader.Tests;

/// <summary>
/// Changes valid files as somebody would who knows their format: tokens of XML within an archive that stays sound, objects of a PDF whose
/// table of places is written anew, numbers and nesting in JSON, fields of SQLite's pages, and here and there bytes without regard for
/// anything. The same number gives the same file.
/// </summary>
static partial class Mutator
{
    static readonly string[] Numbers =
    [
        "0",
        "-1",
        "1",
        "255",
        "65536",
        "1048577",
        "2147483646",
        "2147483647",
        "2147483648",
        "-2147483648",
        "4294967296",
        "9223372036854775807",
        "1e308",
        "-0",
        "NaN",
        "",
        "999999999999999999999999",
    ];

    static readonly string[] Texts =
    [
        "",
        "\0",
        "\uFFFF",
        "&#0;",
        "&lt;",
        "<",
        ">",
        "\"",
        "\\ud800",
        "]]>",
        "../../etc/passwd",
        "url(#g)",
        "%n%s",
        "\u202E",
        new('x', 5000),
    ];

    public static byte[] Changed(Seed seed, Random random)
    {
        var changes = 1 + random.Next(4);
        if (!seed.IsArchive)
            return Part(seed.Name, seed.Parts[0].Content, random, changes);
        var parts = seed.Parts.ToList();
        // Now and then a part is missing, or there twice.
        if (random.Next(20) == 0)
            parts.RemoveAt(random.Next(parts.Count));
        if (random.Next(20) == 0 && parts.Count > 0)
            parts.Add(parts[random.Next(parts.Count)]);
        if (parts.Count > 0)
        {
            // The part with the rows more often than the small ones around it.
            var at = random.Next(3) > 0 ? parts.Count - 1 : random.Next(parts.Count);
            parts[at] = (parts[at].Name, Part(parts[at].Name, parts[at].Content, random, changes));
        }
        using var packed = new MemoryStream();
        using (var archive = new ZipArchive(packed, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var (name, content) in parts)
            {
                using var stream = archive.CreateEntry(name, CompressionLevel.Fastest).Open();
                stream.Write(content);
            }
        return random.Next(15) == 0 ? Raw(packed.ToArray(), random) : packed.ToArray();
    }

    static byte[] Part(string name, byte[] content, Random random, int changes)
    {
        for (; changes > 0; changes--)
            content = random.Next(8) == 0 ? Raw(content, random) : Known(Path.GetExtension(name), content, random);
        return content;
    }

    static byte[] Known(string extension, byte[] content, Random random) =>
        extension switch
        {
            ".xml" or ".rels" or ".svg" => Tokens(content, Xml, random),
            ".pdf" => Pdf(content, random),
            ".json" or ".jsonl" => Tokens(content, Json, random),
            ".csv" or ".vcf" or ".eml" => Tokens(content, Lines, random),
            ".sqlite" => Pages(content, random),
            _ => Fields(content, random),
        };

    [GeneratedRegex("<[^<>]*>|\"[^\"]*\"|-?[0-9][0-9.]*|[^<>\"]+")]
    private static partial Regex Xml { get; }

    [GeneratedRegex("\"(?:[^\"\\\\]|\\\\.)*\"|-?[0-9][0-9.eE+]*|[\\[\\]{}:,]|\\s+|[^\\s\\[\\]{}:,\"]+")]
    private static partial Regex Json { get; }

    [GeneratedRegex("\\r?\\n|[,;:=\"]|[^,;:=\"\\r\\n]+")]
    private static partial Regex Lines { get; }

    [GeneratedRegex("<<|>>|[\\[\\]]|/[A-Za-z0-9]+|[0-9]+ 0 R|-?[0-9.]+|\\s+|[^\\s<>\\[\\]/]+|.", RegexOptions.Singleline)]
    private static partial Regex PdfTokens { get; }

    static byte[] Tokens(byte[] content, Regex form, Random random)
    {
        var tokens = form.Matches(Encoding.UTF8.GetString(content)).Select(m => m.Value).ToList();
        Change(tokens, random);
        return Encoding.UTF8.GetBytes(string.Concat(tokens));
    }

    static void Change(List<string> tokens, Random random)
    {
        if (tokens.Count < 2)
            return;
        var at = random.Next(tokens.Count);
        var length = Math.Min(tokens.Count - at, 1 + random.Next(12));
        switch (random.Next(7))
        {
            case 0:
                tokens.RemoveRange(at, length);
                break;
            case 1:
                tokens.InsertRange(
                    at,
                    Enumerable.Repeat(tokens.GetRange(at, length), 1 + random.Next(random.Next(10) == 0 ? 3000 : 5)).SelectMany(t => t)
                );
                break;
            case 2:
                var to = random.Next(tokens.Count);
                var moved = tokens.GetRange(at, length);
                tokens.InsertRange(to, moved);
                break;
            case 3:
                tokens[at] = Texts[random.Next(Texts.Length)];
                break;
            case 4:
                tokens[at] = tokens[random.Next(tokens.Count)];
                break;
            default:
                // A number, or what stands in quotation marks, becomes one that nobody expects.
                var numbers = Enumerable.Range(0, tokens.Count).Where(i => tokens[i].Any(char.IsAsciiDigit)).ToList();
                if (numbers.Count == 0)
                    return;
                at = numbers[random.Next(numbers.Count)];
                tokens[at] = Digits.Replace(tokens[at], Numbers[random.Next(Numbers.Length)], 1);
                break;
        }
    }

    [GeneratedRegex("-?[0-9][0-9.]*")]
    private static partial Regex Digits { get; }

    [GeneratedRegex(@"(\d+) 0 obj\n?(.*?)\n?endobj", RegexOptions.Singleline)]
    private static partial Regex Objects { get; }

    static byte[] Pdf(byte[] content, Random random)
    {
        var objects = Objects
            .Matches(Encoding.Latin1.GetString(content))
            .Select(m => (Number: int.Parse(m.Groups[1].Value), Text: m.Groups[2].Value))
            .ToList();
        if (objects.Count == 0)
            return Raw(content, random);
        var at = random.Next(objects.Count);
        var (number, text) = objects[at];
        var stream = text.IndexOf("stream", StringComparison.Ordinal);
        var tokens = PdfTokens.Matches(stream < 0 ? text : text[..stream]).Select(m => m.Value).ToList();
        if (random.Next(4) == 0)
        {
            // A reference to something else, to itself for instance.
            var references = Enumerable.Range(0, tokens.Count).Where(i => tokens[i].EndsWith(" 0 R", StringComparison.Ordinal)).ToList();
            if (references.Count > 0)
                tokens[references[random.Next(references.Count)]] = $"{random.Next(objects.Count + 2)} 0 R";
        }
        else
            Change(tokens, random);
        objects[at] = (number, string.Concat(tokens) + (stream < 0 ? "" : text[stream..]));
        if (random.Next(15) == 0)
            objects.RemoveAt(random.Next(objects.Count));
        var most = objects.Count == 0 ? 0 : objects.Max(o => o.Number);
        var catalog = objects.FirstOrDefault(o => o.Text.Contains("/Catalog", StringComparison.Ordinal)).Number;
        var written = new StringBuilder("%PDF-1.4\n");
        var places = new Dictionary<int, int>();
        foreach (var (n, t) in objects)
        {
            places[n] = written.Length;
            written.Append($"{n} 0 obj\n{t}\nendobj\n");
        }
        var table = written.Length;
        written.Append($"xref\n0 {most + 1}\n0000000000 65535 f \n");
        for (var n = 1; n <= most; n++)
            written.Append(places.TryGetValue(n, out var place) ? $"{place:D10} 00000 n \n" : "0000000000 00000 f \n");
        written.Append($"trailer\n<</Size {most + 1}/Root {catalog} 0 R>>\nstartxref\n{table}\n%%EOF\n");
        return Encoding.Latin1.GetBytes(written.ToString());
    }

    /// <summary>A field at the beginning of a page, or a cell of it (SQLite file format, section 1.6).</summary>
    static byte[] Pages(byte[] content, Random random)
    {
        content = [.. content];
        if (content.Length < 512)
            return content;
        var page = random.Next(content.Length / 512) * 512;
        content[page + (random.Next(3) == 0 ? random.Next(512) : (page == 0 ? 100 : 0) + random.Next(24))] = (byte)random.Next(256);
        return content;
    }

    /// <summary>A length or a size within a binary file: two or four bytes at once.</summary>
    static byte[] Fields(byte[] content, Random random)
    {
        content = [.. content];
        if (content.Length < 16)
            return content;
        var at = random.Next(3) > 0 ? random.Next(Math.Min(content.Length - 4, 200)) : random.Next(content.Length - 4);
        var values = new uint[] { 0, 1, 0x7F, 0xFF, 0x7FFF, 0xFFFF, 0x7FFFFFFF, 0xFFFFFFFF, 0x80000000 };
        var value = values[random.Next(values.Length)];
        if (random.Next(2) == 0)
            BinaryPrimitives.WriteUInt32BigEndian(content.AsSpan(at), value);
        else
            BinaryPrimitives.WriteUInt16BigEndian(content.AsSpan(at), (ushort)value);
        return content;
    }

    static byte[] Raw(byte[] content, Random random)
    {
        if (content.Length == 0)
            return [(byte)random.Next(256)];
        var at = random.Next(content.Length);
        var length = Math.Min(content.Length - at, 1 + random.Next(64));
        switch (random.Next(4))
        {
            case 0:
                content = [.. content];
                content[at] ^= (byte)(1 << random.Next(8));
                return content;
            case 1:
                return [.. content[..at], .. content[(at + length)..]];
            case 2:
                return [.. content[..at], .. content[at..(at + length)], .. content[at..]];
            default:
                return content[..at];
        }
    }
}
