using System.Text.RegularExpressions;

namespace Bandeja.Core.Tests;

/// <summary>What people read keeps to the words of <c>tests/words.tsv</c>: screens, messages, the API, the handbook.</summary>
public sealed partial class EnglishTests
{
    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "bandeja")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    static IReadOnlyList<(Regex Word, string Instead)> Words { get; } =
    [
        .. File.ReadLines(Path.Combine(Root(), "tests", "words.tsv"))
            .Where(l => l.Length > 0 && l[0] != '#')
            .Select(l => l.Split('\t'))
            .Select(l => (new Regex(l[0], RegexOptions.IgnoreCase | RegexOptions.CultureInvariant), l[1])),
    ];

    [GeneratedRegex("\"((?:[^\"\\\\\\n]|\\\\.)*)\"")]
    private static partial Regex Quoted();

    // Text between tags that holds no code.
    [GeneratedRegex(@">([^<>{}()=;|&]*[A-Za-z][^<>{}()=;|&]*)(?=[<{])")]
    private static partial Regex BetweenTags();

    [GeneratedRegex(@"/\*.*?\*/|(?<=^|\s)//[^\n]*", RegexOptions.Singleline)]
    private static partial Regex Comment();

    [GeneratedRegex(@"\{[^{}]*\}")]
    private static partial Regex Hole();

    /// <summary>Sentences and labels of more than one word in a source, without what is filled in.</summary>
    static IEnumerable<string> Read(string path)
    {
        var text = File.ReadAllText(path);
        if (path.EndsWith(".md", StringComparison.Ordinal))
            return text.Split('\n');
        text = Comment().Replace(text, "");
        var said = Quoted().Matches(text).Select(m => m.Groups[1].Value);
        if (path.EndsWith(".tsx", StringComparison.Ordinal))
            said = said.Concat(BetweenTags().Matches(text).Select(m => m.Groups[1].Value));
        return said.Select(s => Hole().Replace(s, "…").Trim()).Where(s => s.Contains(' ') && !Sql().IsMatch(s) && !Kept.Contains(s));
    }

    [GeneratedRegex(@"\b(SELECT|INSERT|UPDATE|DELETE|WHERE|CREATE|VALUES|IN \()|'cancelled'|=> ")]
    private static partial Regex Sql();

    // Names that code reads, and words that are recognized in people's files.
    static readonly HashSet<string> Kept = ["organisation firm addressee", "is none of", "typefaces …"];

    [Fact]
    public void Nothing_that_people_read_uses_a_word_of_the_left_column()
    {
        var folders = new[] { "src", Path.Combine("web", "src"), Path.Combine("docs", "handbook") };
        var found = folders
            .SelectMany(f => Directory.EnumerateFiles(Path.Combine(Root(), f), "*", SearchOption.AllDirectories))
            .Where(f =>
                Path.GetExtension(f) is ".cs" or ".ts" or ".tsx" or ".md"
                && !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}", StringComparison.Ordinal)
                && !f.Contains("Migrations", StringComparison.Ordinal)
                && !f.EndsWith("schema.gen.ts", StringComparison.Ordinal)
                && !f.Contains(".test.", StringComparison.Ordinal)
            )
            .SelectMany(f => Read(f).SelectMany(s => Words.Where(w => w.Word.IsMatch(s)).Select(w => (f, s, w))))
            .Select(x => $"{Path.GetRelativePath(Root(), x.f)}: “{x.s}” has “{x.w.Word.Match(x.s).Value}”; write: {x.w.Instead}")
            .ToList();
        Assert.True(found.Count == 0, string.Join('\n', found));
    }

    [Fact]
    public void The_words_are_found_where_they_stand()
    {
        Assert.Contains(Words, w => w.Word.IsMatch("Mended 4 cells"));
        Assert.Contains(Words, w => w.Word.IsMatch("Bring a list in"));
        Assert.Contains(Words, w => w.Word.IsMatch("the colour of the line"));
        Assert.DoesNotContain(Words, w => w.Word.IsMatch("Import the list, choose a color, and fix what is wrong."));
    }
}
