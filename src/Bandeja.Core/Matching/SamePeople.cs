namespace Bandeja.Core.Matching;

/// <summary>That two recipients are the same person.</summary>
/// <param name="Sure">How sure that is: what is surer counts first.</param>
public sealed record SamePair(long A, long B, int Sure);

/// <summary>Puts recipients together to people.</summary>
public static class SamePeople
{
    /// <summary>
    /// The people that some recipients are. Who is the same as somebody who is the same as a third is one person with both, unless two of
    /// them are marked as different: then the surer pairs hold, and the pair that would bring the two together does not.
    /// </summary>
    /// <param name="recipients">All of them.</param>
    /// <param name="pairs">Which of them are the same.</param>
    /// <param name="different">Which of them are not; the lesser number first.</param>
    /// <returns>For each recipient the least number of those who are the same person.</returns>
    public static IReadOnlyDictionary<long, long> Of(
        IReadOnlyCollection<long> recipients,
        IEnumerable<SamePair> pairs,
        IReadOnlySet<(long, long)> different
    )
    {
        var groups = recipients.Distinct().ToDictionary(id => id, id => new List<long> { id });
        foreach (var pair in pairs.OrderByDescending(p => p.Sure).ThenBy(p => p.A).ThenBy(p => p.B))
        {
            if (!groups.TryGetValue(pair.A, out var a) || !groups.TryGetValue(pair.B, out var b) || ReferenceEquals(a, b))
                continue;
            if (different.Count > 0 && a.Any(x => b.Any(y => different.Contains((Math.Min(x, y), Math.Max(x, y))))))
                continue;
            if (a.Count < b.Count)
                (a, b) = (b, a);
            a.AddRange(b);
            foreach (var id in b)
                groups[id] = a;
        }
        return groups.ToDictionary(g => g.Key, g => g.Value.Min());
    }
}
