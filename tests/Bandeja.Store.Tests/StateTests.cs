using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;

namespace Bandeja.Store.Tests;

/// <summary>States that are compared in SQL are among those that can be stored: one with another name would be true of nothing.</summary>
public sealed partial class StateTests
{
    [Fact]
    public void Every_state_that_is_asked_for_can_be_stored()
    {
        var source = Path.GetFullPath(Path.Combine(Path.GetDirectoryName(Here())!, "..", "..", "src"));
        string[] Files(string pattern) =>
            [
                .. Directory
                    .EnumerateFiles(source, pattern, SearchOption.AllDirectories)
                    .Where(f => !f.Contains("/obj/", StringComparison.Ordinal)),
            ];
        IEnumerable<string> States(IEnumerable<string> texts) =>
            texts.SelectMany(t => Asked().Matches(t)).SelectMany(m => Quoted().Matches(m.Value)).Select(m => m.Groups[1].Value).Distinct();
        var stored = States(Files("*.sql").Select(File.ReadAllText)).ToHashSet();
        Assert.Contains("doubt", stored);
        // A statement may stand in several literals.
        var asked = States(Files("*.cs").Select(f => Joins().Replace(File.ReadAllText(f), ""))).ToList();
        Assert.True(asked.Count > 15);
        Assert.Empty(asked.Except(stored));
    }

    static string Here([CallerFilePath] string path = "") => path;

    [GeneratedRegex(@"\bstate\s*(=|<>|(NOT )?IN)\s*(\([^)]*\)|'[^']*')")]
    private static partial Regex Asked();

    [GeneratedRegex("'([^']*)'")]
    private static partial Regex Quoted();

    [GeneratedRegex(@"""\s*\+\s*\$?""")]
    private static partial Regex Joins();
}
