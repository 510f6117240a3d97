using Bandeja.Core.Addressing;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Tests.Corpus;

/// <summary>A thousand made-up names of twenty-five cultures, with the parts that they have.</summary>
public static class NameCorpus
{
    /// <summary>A name.</summary>
    /// <param name="Parts">What it divides into; null where it may be left alone.</param>
    public sealed record Sample(string Culture, string Name, NameParts? Parts);

    /// <summary>All names: forty of each culture.</summary>
    public static IReadOnlyList<Sample> All()
    {
        using var reader = new StreamReader(typeof(NameCorpus).Assembly.GetManifestResourceStream("NameCorpus.tsv")!);
        var all = new List<Sample>();
        foreach (var row in reader.ReadToEnd().Split('\n').Where(l => l.Length > 0 && l[0] != '#').Select(l => l.Split('\t')))
        {
            string[] given = row[1].Split('|'),
                family = row[2].Split('|'),
                patterns = row[3].Split('^');
            for (var i = 0; i < 40; i++)
            {
                var pattern = patterns[i % patterns.Length].Split('>');
                var round = i / patterns.Length;
                string Filled(string text) =>
                    text.Replace("{g}", given[(i + round) % 8])
                        .Replace("{h}", given[(i + round + 3) % 8])
                        .Replace("{f}", family[(i * 3 + round) % 8])
                        .Replace("{e}", family[(i * 3 + round + 5) % 8]);
                all.Add(new(row[0], Filled(pattern[0]), pattern[1] == "?" ? null : Parts(Filled(pattern[1]))));
            }
        }
        return all;
    }

    static NameParts Parts(string text)
    {
        var parts = text.Split(';').Select(p => p.Split('=', 2)).ToDictionary(p => p[0], p => p[1]);
        string? Of(string key) => parts.GetValueOrDefault(key);
        return new(Of("T"), Of("G"), Of("F"), Of("S"), Of("PT"), Of("PG"), Of("PF"), Of("O"), Of("H"));
    }
}
