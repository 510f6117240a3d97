namespace Bandeja.Core.Drops;

/// <summary>A recipient who shows some variations, by their numbers.</summary>
sealed record ProofCandidate(int Index, long RecipientId, int PieceNumber, int[] Shows);

/// <summary>A recipient of the proof set.</summary>
/// <param name="Reasons">The variations for which they were chosen: those that no member before them shows.</param>
public sealed record ProofMember(long RecipientId, int PieceNumber, IReadOnlyList<Variation> Reasons);

/// <summary>A variation, in how many recipients it occurs, and the member in whom it is seen.</summary>
/// <param name="Recipients">0 where nobody has it.</param>
/// <param name="SeenIn">The member's recipient; null where nobody has it.</param>
public sealed record VariationSeen(Variation Variation, int Recipients, long? SeenIn);

/// <summary>
/// The few recipients in whom every way that a drop's pieces come out is seen at least once. Chosen greedily, whoever shows the most
/// that is not seen yet first, then without those whom the others make needless; the same list gives the same set.
/// </summary>
/// <param name="Members">In the order of their choice.</param>
/// <param name="Variations">All that could happen, also what happens to nobody.</param>
/// <param name="Population">How many recipients were looked at.</param>
public sealed record ProofSet(IReadOnlyList<ProofMember> Members, IReadOnlyList<VariationSeen> Variations, int Population)
{
    internal static ProofSet Cover(
        IReadOnlyList<Variation> variations,
        int[] counts,
        IReadOnlyList<ProofCandidate> candidates,
        int population
    )
    {
        var order = candidates.OrderBy(c => c.PieceNumber).ThenBy(c => c.RecipientId).ToList();
        var chosen = Needed(Greedy(order, counts), counts);
        var seenIn = new long?[variations.Count];
        var members = new List<ProofMember>();
        foreach (var member in chosen)
        {
            var reasons = member.Shows.Where(v => seenIn[v] is null).ToList();
            foreach (var v in reasons)
                seenIn[v] = member.RecipientId;
            members.Add(
                new(
                    member.RecipientId,
                    member.PieceNumber,
                    [
                        .. reasons
                            .Select(v => variations[v])
                            .OrderBy(Telling)
                            .ThenBy(v => counts[IndexOf(variations, v)])
                            // An issue and what it is about may say the same.
                            .DistinctBy(v => v.Text.ToLowerInvariant()),
                    ]
                )
            );
        }
        return new(members, [.. variations.Select((v, i) => new VariationSeen(v, counts[i], seenIn[i]))], population);
    }

    static int IndexOf(IReadOnlyList<Variation> variations, Variation v)
    {
        for (var i = 0; i < variations.Count; i++)
            if (ReferenceEquals(variations[i], v))
                return i;
        return 0;
    }

    /// <summary>What is said first of a member: what is odd, then what is rare, last what is ordinary.</summary>
    static int Telling(Variation v) =>
        v.Kind switch
        {
            VariationKind.OneOff => 0,
            VariationKind.Issue => 1,
            VariationKind.Field => v.Case == "blank" ? 2 : 4,
            _ => 3,
        };

    static List<ProofCandidate> Greedy(List<ProofCandidate> order, int[] counts)
    {
        var open = counts.Select(n => n > 0).ToArray();
        var left = open.Count(o => o);
        var chosen = new List<ProofCandidate>();
        // A candidate's gain never grows: whoever still has the most after being counted again is taken.
        var gains = order.Select(c => c.Shows.Length).ToArray();
        while (left > 0)
        {
            int best = -1,
                most = 0;
            for (var i = 0; i < order.Count; i++)
            {
                if (gains[i] <= most)
                    continue;
                gains[i] = order[i].Shows.Count(v => open[v]);
                if (gains[i] > most)
                    (best, most) = (i, gains[i]);
            }
            if (best < 0)
                break;
            chosen.Add(order[best]);
            foreach (var v in order[best].Shows)
            {
                if (!open[v])
                    continue;
                open[v] = false;
                left--;
            }
        }
        return chosen;
    }

    /// <summary>Leaves out whom the later choices made needless, the latest chosen being asked first.</summary>
    static List<ProofCandidate> Needed(List<ProofCandidate> chosen, int[] counts)
    {
        var times = new int[counts.Length];
        foreach (var v in chosen.SelectMany(c => c.Shows))
            times[v]++;
        for (var i = chosen.Count - 1; i >= 0; i--)
        {
            if (!chosen[i].Shows.All(v => times[v] > 1))
                continue;
            foreach (var v in chosen[i].Shows)
                times[v]--;
            chosen.RemoveAt(i);
        }
        return chosen;
    }
}
