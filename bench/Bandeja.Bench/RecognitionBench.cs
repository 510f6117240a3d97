using System.Globalization;
using Bandeja.Core.Addressing;
using Bandeja.Core.Recognition;
using Bandeja.Core.Tests.Corpus;

namespace Bandeja.Bench;

/// <summary>How much is recognized rightly: roles over a corpus of lists, whole names over a corpus of names. The baseline takes headings
/// alone, and the last word for the family name.</summary>
static class RecognitionBench
{
    public static void Corpora()
    {
        var roles = RoleCorpus.Measure();
        var lists = RoleCorpus.All();
        var plain =
            lists.Sum(l =>
                Enumerable.Range(0, l.Headings.Count).Count(c => l.Accepted[c].Contains(RoleRecognizer.FromHeading(l.Headings[c])))
            ) / (double)roles.Columns;
        Bench.Line(
            $"roles of {roles.Lists} lists, {roles.Columns:N0} columns",
            Share(roles.Right),
            $"{Share(plain)} by headings alone",
            Bench.Ratio(roles.Right / plain),
            "at least 97 %",
            roles.Right >= 0.97
        );
        Bench.Line("addresses that lose a part by it", $"{roles.Lost.Count}", "0", "", "none", roles.Lost.Count == 0);
        foreach (var wrong in roles.Wrong.Take(20))
            Console.WriteLine($"  {wrong}");
        var names = NameCorpus.All();
        var right = names.Count(n => n.Parts is null || NameParts.Of(n.Name) == n.Parts) / (double)names.Count;
        var naive =
            names.Count(n =>
                n.Parts is null
                || n.Name.Split(' ') is { Length: > 1 } w && new NameParts(null, string.Join(' ', w[..^1]), w[^1]) == n.Parts
            ) / (double)names.Count;
        Bench.Line(
            $"{names.Count:N0} whole names of {names.Select(n => n.Culture).Distinct().Count()} cultures",
            Share(right),
            $"{Share(naive)} by the last word",
            Bench.Ratio(right / naive),
            "at least 98 %",
            right >= 0.98
        );
    }

    static string Share(double value) => value.ToString("P1", CultureInfo.InvariantCulture);
}
