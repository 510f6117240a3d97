using Quickenshtein;

namespace Bandeja.Core.Matching;

/// <summary>Why two recipients may be the same person. The names are stored.</summary>
public enum DuplicateReason
{
    SameKey,
    SameEmail,
    SameNameAndAddress,
    Near,
}

/// <summary>The reasons as people read them.</summary>
public static class DuplicateReasons
{
    /// <summary>For instance <c>Same email address</c>.</summary>
    public static string Words(this DuplicateReason reason) =>
        reason switch
        {
            DuplicateReason.SameKey => "the same key",
            DuplicateReason.SameEmail => "Same email address",
            DuplicateReason.SameNameAndAddress => "Same name and address",
            DuplicateReason.Near => "Similar name and address",
        };
}

/// <summary>Two recipients that may be the same person.</summary>
/// <param name="A">The one that came first.</param>
/// <param name="B">The other.</param>
/// <param name="Reason">Why.</param>
/// <param name="Likeness">How alike name and address are, in percent.</param>
public sealed record DuplicatePair(long A, long B, DuplicateReason Reason, int Likeness);

/// <summary>Several people at one address.</summary>
public sealed record Household(string Address, IReadOnlyList<long> Members);

/// <summary>What was found.</summary>
public sealed record DuplicateResult(IReadOnlyList<DuplicatePair> Pairs, IReadOnlyList<Household> Households);

/// <summary>
/// Finds recipients that may be the same, and people of one household. The work grows with the number of rows, not with its
/// square: rows are compared only within the same postal code, and there only where they share a house number or the
/// consonants of the family name; where even those are many, only with their neighbors in the order of names.
/// </summary>
public static class Duplicates
{
    const int AllPairs = 40,
        Window = 12;

    /// <summary>Looks for them.</summary>
    /// <param name="rows">The rows, in the order of the list.</param>
    /// <param name="different">Pairs that somebody marked as different for good.</param>
    /// <param name="cancel">Ends the search.</param>
    public static DuplicateResult Find(
        IReadOnlyList<MatchRow> rows,
        IReadOnlySet<(long, long)>? different = null,
        CancellationToken cancel = default
    ) => Find([.. rows], different, cancel);

    static DuplicateResult Find(MatchRow[] rows, IReadOnlySet<(long, long)>? different, CancellationToken cancel)
    {
        // Numbers tell most rows apart without looking at their texts.
        var names = new ulong[rows.Length];
        var addresses = new ulong[rows.Length];
        var order = new ulong[rows.Length];
        for (var i = 0; i < rows.Length; i++)
            (names[i], addresses[i], order[i]) = (
                rows[i].Name.Length == 0 ? 0 : Hash(Start, rows[i].Name),
                rows[i].Address.Length == 0 ? 0 : Hash(Start, rows[i].Address),
                Beginning(rows[i].Name)
            );
        var found = new Dictionary<(long, long), DuplicatePair>();
        void Add(MatchRow a, MatchRow b, DuplicateReason reason)
        {
            var pair = a.Id < b.Id ? (a.Id, b.Id) : (b.Id, a.Id);
            if (a.Id != b.Id && different?.Contains(pair) != true && !found.ContainsKey(pair))
                found[pair] = new(pair.Item1, pair.Item2, reason, Likeness(a, b));
        }
        // Each is compared with the first of its group: a group of a hundred is a hundred questions, not five thousand.
        foreach (
            var (first, row) in Alike(
                rows,
                i => names[i] == 0 || addresses[i] == 0 ? 0 : names[i] * 31 + addresses[i],
                (a, b) => a.Name == b.Name && a.Address == b.Address
            )
        )
            Add(first, row, DuplicateReason.SameNameAndAddress);
        foreach (var (first, row) in Alike(rows, i => rows[i].Key.Length > 0 ? Hash(Start, rows[i].Key) : 0, (a, b) => a.Key == b.Key))
            Add(first, row, DuplicateReason.SameKey);
        foreach (
            var (first, row) in Alike(rows, i => rows[i].Email.Length > 0 ? Hash(Start, rows[i].Email) : 0, (a, b) => a.Email == b.Email)
        )
            if (AreNear(first.Name, row.Name))
                Add(first, row, DuplicateReason.SameEmail);
        cancel.ThrowIfCancellationRequested();
        foreach (var bucket in Buckets(rows))
        {
            cancel.ThrowIfCancellationRequested();
            if (bucket.Count > AllPairs)
                bucket.AsSpan().Sort((a, b) => order[a].CompareTo(order[b]));
            var reach = bucket.Count > AllPairs ? Window : bucket.Count;
            for (var i = 0; i < bucket.Count; i++)
            for (var j = i + 1; j < Math.Min(bucket.Count, i + 1 + reach); j++)
            {
                var (a, b) = (bucket[i], bucket[j]);
                if ((names[a] == names[b] || addresses[a] == addresses[b] && addresses[a] != 0) && AreDuplicates(rows[a], rows[b]))
                    Add(rows[a], rows[b], DuplicateReason.Near);
            }
        }
        return new(
            [.. found.Values.OrderBy(p => p.Reason).ThenByDescending(p => p.Likeness).ThenBy(p => p.A).ThenBy(p => p.B)],
            Households(rows, addresses, found)
        );
    }

    const ulong Start = 14695981039346656037;

    /// <summary>FNV-1a (Fowler, Noll, Vo), 64 bits: rows are grouped by sorting numbers, which stays fast where tables of texts do
    /// not.</summary>
    static ulong Hash(ulong hash, ReadOnlySpan<char> text)
    {
        foreach (var c in text)
            hash = (hash ^ c) * 1099511628211;
        return (hash ^ 0xFFFF) * 1099511628211;
    }

    /// <summary>The first four characters as a number that sorts as they do.</summary>
    static ulong Beginning(string name)
    {
        var number = 0UL;
        for (var i = 0; i < 4; i++)
            number = number << 16 | (i < name.Length ? name[i] : 0UL);
        return number;
    }

    /// <summary>The rows in groups of the same number; rows with 0 are in none. A group is good until the next one is asked for.</summary>
    static IEnumerable<ArraySegment<int>> Groups(MatchRow[] rows, params Func<int, ulong>[] numbers)
    {
        var (keys, items, count) = (new ulong[rows.Length * numbers.Length], new int[rows.Length * numbers.Length], 0);
        for (var i = 0; i < rows.Length; i++)
            foreach (var number in numbers)
            {
                var key = number(i);
                if (key != 0)
                    (keys[count], items[count++]) = (key, i);
            }
        Array.Sort(keys, items, 0, count);
        for (var from = 0; from < count; )
        {
            var to = from + 1;
            while (to < count && keys[to] == keys[from])
                to++;
            if (to - from > 1)
            {
                Array.Sort(items, from, to - from);
                yield return new(items, from, to - from);
            }
            from = to;
        }
    }

    static IEnumerable<(MatchRow First, MatchRow Row)> Alike(MatchRow[] rows, Func<int, ulong> number, Func<MatchRow, MatchRow, bool> same)
    {
        foreach (var group in Groups(rows, number))
            for (var i = 1; i < group.Count; i++)
                if (same(rows[group[0]], rows[group[i]]))
                    yield return (rows[group[0]], rows[group[i]]);
    }

    static IEnumerable<ArraySegment<int>> Buckets(MatchRow[] rows) => Groups(rows, i => HouseBlock(rows[i]), i => FamilyBlock(rows[i]));

    static ulong HouseBlock(MatchRow r) =>
        r.Place.Length == 0 || r.Name.Length == 0 || r.Street.Length == 0
            ? 0
            : Hash(
                Hash(Start, r.Place),
                char.IsAsciiDigit(r.Street[0]) ? HouseNumber(r.Street) : r.Street.AsSpan(0, Math.Min(4, r.Street.Length))
            );

    static ulong FamilyBlock(MatchRow r)
    {
        if (r.Place.Length == 0 || r.Name.Length == 0)
            return 0;
        Span<char> skeleton = stackalloc char[SkeletonLength];
        return Hash(Hash(Start + 1, r.Place), skeleton[..Skeleton(r.Family, skeleton)]);
    }

    /// <summary>Numbers of which two recipients share at least one wherever <see cref="Same"/> may say that they are the same: who is
    /// looked for among many is compared only with those who share one.</summary>
    public static IReadOnlyList<long> Blocks(MatchRow row)
    {
        var blocks = new List<long>(4);
        void Add(ulong block)
        {
            if (block != 0)
                blocks.Add(unchecked((long)block));
        }
        if (row.NameAndAddress.Length > 0)
            Add(Hash(Start + 2, row.NameAndAddress));
        if (row.Email.Length > 0)
            Add(Hash(Start + 3, row.Email));
        Add(HouseBlock(row));
        Add(FamilyBlock(row));
        return blocks;
    }

    /// <summary>Why two recipients, of one list or of two, are taken for the same person; null where they are not. A number of a list is
    /// not looked at: another list may have given it to somebody else.</summary>
    public static DuplicateReason? Same(MatchRow a, MatchRow b) =>
        a.NameAndAddress.Length > 0 && a.NameAndAddress == b.NameAndAddress ? DuplicateReason.SameNameAndAddress
        : a.Email.Length > 0 && a.Email == b.Email && AreNear(a.Name, b.Name) ? DuplicateReason.SameEmail
        : a.Place.Length > 0
        && a.Place == b.Place
        && (a.Name == b.Name || a.Address == b.Address && a.Address.Length > 0)
        && a.Name.Length > 0
        && AreDuplicates(a, b)
            ? DuplicateReason.Near
        : null;

    static ReadOnlySpan<char> HouseNumber(string street) => street.IndexOf(' ') is > 0 and var end ? street.AsSpan(0, end) : street;

    const int SkeletonLength = 5;

    /// <summary>The first letter and the consonants after it, doubled ones once: Ortega and Ortaga, Petrov and Pettrov are the
    /// same.</summary>
    static int Skeleton(string name, Span<char> skeleton)
    {
        var n = 0;
        foreach (var c in name)
        {
            if (n > 0 && (c is 'a' or 'e' or 'i' or 'o' or 'u' or 'y' or 'h' or ' ' || skeleton[n - 1] == c))
                continue;
            skeleton[n++] = c;
            if (n == skeleton.Length)
                break;
        }
        return n;
    }

    static bool AreDuplicates(MatchRow a, MatchRow b)
    {
        if (a.Address.Length > 0 && a.Address == b.Address)
            return AreNear(a.Name, b.Name);
        // The same name at an address that was mistyped: the house number must be the same.
        return a.Name == b.Name
            && a.Street.Length > 0
            && b.Street.Length > 0
            && HouseNumber(a.Street).SequenceEqual(HouseNumber(b.Street))
            && IsMistyped(a.Street, b.Street);
    }

    /// <summary>True where one can be a mistyped form of the other: at most one letter in five, at most three; or where one has the other's
    /// words and an initial more.</summary>
    static bool AreNear(string a, string b)
    {
        if (a == b)
            return true;
        if (a.Length == 0 || b.Length == 0)
            return false;
        if (IsMistyped(a, b) && !DifferByAWord(a, b))
            return true;
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

    static List<Household> Households(MatchRow[] rows, ulong[] addresses, Dictionary<(long, long), DuplicatePair> duplicates)
    {
        var seconds = duplicates.Values.Select(t => t.B).ToHashSet();
        // More than eight names at a door are an institution, not a household.
        return
        [
            .. Groups(rows, i => rows[i].Name.Length > 0 && !rows[i].IsOrganization && !seconds.Contains(rows[i].Id) ? addresses[i] : 0)
                .Where(g => g.Count <= 8)
                .Select(g =>
                    (
                        First: g[0],
                        Household: new Household(
                            rows[g[0]].Address,
                            [.. g.Where(i => rows[i].Address == rows[g[0]].Address).Select(i => rows[i].Id)]
                        )
                    )
                )
                .OrderBy(g => g.First)
                .Select(g => g.Household)
                .Where(h => h.Members.Count > 1),
        ];
    }
}
