namespace Bandeja.Formats.Lists;

/// <summary>Recognizes the delimiter of a text from its first lines.</summary>
static class DelimiterGuess
{
    static readonly char[] Candidates = [',', ';', '\t', '|'];

    /// <summary>The candidate that divides most lines into the same number of cells, and into the most of them; a comma where none divides
    /// any.</summary>
    public static char Of(string head)
    {
        var best = (Char: ',', Score: 0.0);
        foreach (var candidate in Candidates)
        {
            var counts = Counts(head, candidate).Take(60).ToList();
            if (counts.Count == 0)
                continue;
            var common = counts
                .GroupBy(c => c)
                .OrderByDescending(g => g.Count() * (g.Key > 0 ? 1 : 0))
                .ThenByDescending(g => g.Key)
                .First();
            if (common.Key == 0)
                continue;
            var score = (double)common.Count() / counts.Count * (1 + Math.Log(1 + common.Key));
            if (score > best.Score)
                best = (candidate, score);
        }
        return best.Char;
    }

    static IEnumerable<int> Counts(string head, char delimiter)
    {
        var (count, quoted, any) = (0, false, false);
        foreach (var c in head)
        {
            if (c == '"')
                quoted = !quoted;
            else if (c == delimiter && !quoted)
                count++;
            else if (c == '\n' && !quoted)
            {
                if (any)
                    yield return count;
                (count, any) = (0, false);
                continue;
            }
            any |= !char.IsWhiteSpace(c) || c == delimiter;
        }
        if (any && !quoted)
            yield return count;
    }
}
