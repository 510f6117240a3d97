using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;

namespace Bandeja.Core.Tests;

/// <summary>What the formatter cannot hold: it breaks no literal and no comment.</summary>
public sealed partial class ReadableTests
{
    const int Widest = 140;

    [Fact]
    public void No_line_is_longer_than_can_be_read_at_once()
    {
        var root = Path.GetFullPath(Path.Combine(Path.GetDirectoryName(Here())!, "..", ".."));
        var folders = (string[])["src", "demo", "bench", "tests"];
        var wrong = folders
            .SelectMany(f => Directory.EnumerateFiles(Path.Combine(root, f), "*.cs", SearchOption.AllDirectories))
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && !f.Contains("/node_modules/", StringComparison.Ordinal))
            .SelectMany(f => Wide(f).Select(n => $"{Path.GetRelativePath(root, f)}:{n}"))
            .ToList();
        Assert.True(wrong.Count == 0, $"Lines of more than {Widest} characters; divide them:\n{string.Join('\n', wrong)}");
    }

    [Fact]
    public void Days_and_times_in_sentences_are_said_in_one_way()
    {
        var root = Path.GetFullPath(Path.Combine(Path.GetDirectoryName(Here())!, "..", "..", "src"));
        var wrong = Directory
            .EnumerateFiles(root, "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal))
            .SelectMany(f => File.ReadLines(f).Index().Where(l => OwnPattern().IsMatch(l.Item)).Select(l => $"{f}:{l.Index + 1}"))
            .ToList();
        Assert.True(wrong.Count == 0, $"A day or time with a pattern of its own; ask DayWords for it:\n{string.Join('\n', wrong)}");
    }

    /// <summary>Something in a sentence with a pattern that has the name of a month, or a clock of twelve hours.</summary>
    [GeneratedRegex(@"\$.*\{[^{}""]+:[^{}""]*(MMM|h:mm)[^{}""]*\}")]
    private static partial Regex OwnPattern();

    /// <summary>The numbers of lines that are too long. The data of a test may be: a raw string is compared as it is.</summary>
    static IEnumerable<int> Wide(string file)
    {
        var raw = false;
        var isTest = file.Contains("/tests/", StringComparison.Ordinal);
        foreach (var (i, line) in File.ReadLines(file).Index())
        {
            var marks = line.Split("\"\"\"").Length - 1;
            var isData = isTest && (raw || marks > 0);
            if (marks % 2 == 1)
                raw = !raw;
            if (line.Length > Widest && !isData)
                yield return i + 1;
        }
    }

    static string Here([CallerFilePath] string path = "") => path;
}
