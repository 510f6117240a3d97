using Quickenshtein;

namespace Bandeja.Core.Matching;

/// <summary>Why two recipients may be the same person. The names are stored.</summary>
public enum TwinReason { SameKey, SameEmail, SameNameAndAddress, Near }

/// <summary>Two recipients that may be the same person.</summary>
/// <param name="A">The one that came first.</param>
/// <param name="B">The other.</param>
/// <param name="Reason">Why.</param>
/// <param name="Likeness">How alike name and address are, in percent.</param>
public sealed record TwinPair(long A, long B, TwinReason Reason, int Likeness);

/// <summary>Several people at one address.</summary>
public sealed record Household(string Address, IReadOnlyList<long> Members);

/// <summary>What was found.</summary>
public sealed record DuplicateResult(IReadOnlyList<TwinPair> Pairs, IReadOnlyList<Household> Households);

/// <summary>
/// Finds recipients that may be the same, and people of one household. The work grows with the number of rows, not with its
/// square: rows are compared only within the same postal code, and there only where they share a house number or the
/// consonants of the family name; where even those are many, only with their neighbours in the order of names.
/// </summary>
public static class Duplicates
{
    const int AllPairs = 40, Window = 12;

    /// <summary>Looks for them.</summary>
    /// <param name="rows">The rows, in the order of the list.</param>
    /// <param name="different">Pairs that somebody marked as different for good.</param>
    /// <param name="cancel">Ends the search.</param>
    public static DuplicateResult Find(IReadOnlyList<MatchRow> rows, IReadOnlySet<(long, long)>? different = null, CancellationToken cancel = default)
    {
        var found = new Dictionary<(long, long), TwinPair>();
        void Add(MatchRow a, MatchRow b, TwinReason reason, int likeness)
        {
            var pair = a.Id < b.Id ? (a.Id, b.Id) : (b.Id, a.Id);
            if (a.Id != b.Id && different?.Contains(pair) != true) found.TryAdd(pair, new(pair.Item1, pair.Item2, reason, likeness));
        }
        foreach (var (reason, by) in new (TwinReason, Func<MatchRow, string>)[] { (TwinReason.SameNameAndAddress, r => r.NameAndAddress), (TwinReason.SameKey, r => r.Key), (TwinReason.SameEmail, r => r.Email) })
        {
            // Each is compared with the first of its group: a group of a hundred is a hundred questions, not five thousand.
            var firsts = new Dictionary<string, MatchRow>();
            foreach (var row in rows)
            {
                var value = by(row);
                if (value.Length == 0) continue;
                if (!firsts.TryAdd(value, row) && firsts[value] is { } first && !(reason == TwinReason.SameEmail && !AreNear(first.Name, row.Name))) Add(first, row, reason, Likeness(first, row));
            }
            cancel.ThrowIfCancellationRequested();
        }
        foreach (var bucket in Buckets(rows))
        {
            cancel.ThrowIfCancellationRequested();
            if (bucket.Count > AllPairs) bucket.Sort((a, b) => string.CompareOrdinal(a.Name, b.Name));
            var reach = bucket.Count > AllPairs ? Window : bucket.Count;
            for (var i = 0; i < bucket.Count; i++)
            for (var j = i + 1; j < Math.Min(bucket.Count, i + 1 + reach); j++)
                if (AreTwins(bucket[i], bucket[j])) Add(bucket[i], bucket[j], TwinReason.Near, Likeness(bucket[i], bucket[j]));
        }
        return new([.. found.Values.OrderBy(p => p.Reason).ThenByDescending(p => p.Likeness).ThenBy(p => p.A).ThenBy(p => p.B)], Households(rows, found));
    }

    static IEnumerable<List<MatchRow>> Buckets(IReadOnlyList<MatchRow> rows)
    {
        var buckets = new Dictionary<string, List<MatchRow>>();
        void Put(string key, MatchRow row) => (buckets.TryGetValue(key, out var bucket) ? bucket : buckets[key] = []).Add(row);
        foreach (var row in rows)
        {
            if (row.Place.Length == 0 || row.Name.Length == 0) continue;
            if (row.Street.Length > 0 && char.IsAsciiDigit(row.Street[0])) Put($"{row.Place}\n#{row.Street.Split(' ')[0]}", row);
            else if (row.Street.Length > 0) Put($"{row.Place}\n~{row.Street[..Math.Min(4, row.Street.Length)]}", row);
            Put($"{row.Place}\n{Skeleton(row.Family)}", row);
        }
        return buckets.Values.Where(b => b.Count > 1);
    }

    /// <summary>The first letter and the consonants after it, doubled ones once: Ortega and Ortaga, Petrov and Pettrov are the same.</summary>
    static string Skeleton(string name)
    {
        Span<char> skeleton = stackalloc char[4];
        var n = 0;
        foreach (var c in name)
        {
            if (n > 0 && (c is 'a' or 'e' or 'i' or 'o' or 'u' or 'y' or 'h' or ' ' || skeleton[n - 1] == c)) continue;
            skeleton[n++] = c;
            if (n == 4) break;
        }
        return new(skeleton[..n]);
    }

    static bool AreTwins(MatchRow a, MatchRow b)
    {
        if (a.Address.Length > 0 && a.Address == b.Address) return AreNear(a.Name, b.Name);
        // The same name at an address that was mistyped: the house number must be the same.
        return a.Name == b.Name && a.Street.Length > 0 && b.Street.Length > 0 && a.Street.Split(' ')[0] == b.Street.Split(' ')[0] && IsMistyped(a.Street, b.Street);
    }

    /// <summary>True where one can be a mistyped form of the other: at most one letter in five, at most three; or where one has the other's words and an initial more.</summary>
    static bool AreNear(string a, string b)
    {
        if (a == b) return true;
        if (a.Length == 0 || b.Length == 0) return false;
        if (IsMistyped(a, b) && !DifferByAWord(a, b)) return true;
        return IsWithInitials(a, b) || IsWithInitials(b, a);
    }

    static bool IsMistyped(string a, string b)
    {
        var allowed = Math.Min(3, Math.Max(a.Length, b.Length) / 5);
        return Math.Abs(a.Length - b.Length) <= allowed && Levenshtein.GetDistance(a, b) <= allowed;
    }

    /// <summary>Ana and Ina Ortega differ by a letter and are two people: a short word that is another one counts for more.</summary>
    static bool DifferByAWord(string a, string b)
    {
        var (x, y) = (a.Split(' '), b.Split(' '));
        return x.Length == y.Length && x.Zip(y).Any(p => p.First != p.Second && Math.Max(p.First.Length, p.Second.Length) <= 4);
    }

    static bool IsWithInitials(string longer, string shorter)
    {
        var (l, s) = (longer.Split(' '), shorter.Split(' '));
        return l.Length > s.Length && s.Length > 1 && s.All(l.Contains) && l.Except(s).All(w => w.Length == 1);
    }

    static int Likeness(MatchRow a, MatchRow b)
    {
        var (x, y) = ($"{a.Name} {a.Street} {a.Place}", $"{b.Name} {b.Street} {b.Place}");
        var longest = Math.Max(x.Length, y.Length);
        return longest == 0 ? 100 : Math.Max(0, 100 - 100 * Levenshtein.GetDistance(x, y) / longest);
    }

    static List<Household> Households(IReadOnlyList<MatchRow> rows, Dictionary<(long, long), TwinPair> twins)
    {
        var seconds = twins.Values.Select(t => t.B).ToHashSet();
        return [.. rows.Where(r => r.Address.Length > 0 && r.Name.Length > 0 && !seconds.Contains(r.Id)).GroupBy(r => r.Address)
            // More than eight names at a door are an institution, not a household.
            .Select(g => new Household(g.Key, [.. g.Select(r => r.Id)])).Where(h => h.Members.Count is > 1 and <= 8)];
    }
}
