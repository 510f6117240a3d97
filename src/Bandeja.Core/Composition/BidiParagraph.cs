using static Bandeja.Core.Composition.BidiClass;

namespace Bandeja.Core.Composition;

/// <summary>The levels of one paragraph (UAX #9, rules P2 to I2 and L1), told from its characters' types alone.</summary>
sealed class BidiParagraph
{
    const int MostDepth = 125,
        MostBrackets = 63;

    readonly IReadOnlyList<BidiClass> original;
    readonly IReadOnlyList<int> brackets;
    readonly BidiClass[] types;
    readonly byte[] levels;
    readonly byte paragraph;
    byte[] explicitLevels = [];

    // For an isolate initiator its PDI, for a PDI its initiator; -1 for none (BD9).
    readonly int[] partner;

    BidiParagraph(IReadOnlyList<BidiClass> original, IReadOnlyList<int> brackets, byte? direction)
    {
        (this.original, this.brackets) = (original, brackets);
        types = [.. original];
        levels = new byte[original.Count];
        partner = Partners(original);
        paragraph = direction ?? Direction(0, original.Count) ?? 0;
    }

    /// <summary>The level of each character.</summary>
    /// <param name="brackets">For each the number of its pair of brackets, below zero where it closes; 0 for none.</param>
    /// <param name="direction">0 or 1; null for that of its first strong character (P2, P3).</param>
    public static byte[] Levels(IReadOnlyList<BidiClass> classes, IReadOnlyList<int> brackets, byte? direction)
    {
        var own = new BidiParagraph(classes, brackets, direction);
        own.Explicit();
        own.explicitLevels = [.. own.levels];
        foreach (var sequence in own.Sequences())
            own.Resolve(sequence);
        own.Rest();
        return own.levels;
    }

    static int[] Partners(IReadOnlyList<BidiClass> t)
    {
        var partner = new int[t.Count];
        Array.Fill(partner, -1);
        var open = new Stack<int>();
        for (var i = 0; i < t.Count; i++)
            if (IsInitiator(t[i]))
                open.Push(i);
            else if (t[i] == PDI && open.TryPop(out var at))
                (partner[at], partner[i]) = (i, at);
        return partner;
    }

    static bool IsInitiator(BidiClass c) => c is LRI or RLI or FSI;

    /// <summary>X9: what is as if it were not there.</summary>
    static bool IsRemoved(BidiClass c) => c is RLE or LRE or RLO or LRO or PDF or BN;

    /// <summary>P2 and P3: the direction of the first strong character outside isolates; null where there is none.</summary>
    byte? Direction(int from, int to)
    {
        for (var i = from; i < to; i++)
            if (original[i] == L)
                return 0;
            else if (original[i] is R or AL)
                return 1;
            else if (IsInitiator(original[i]))
                i = partner[i] < 0 ? to : partner[i];
        return null;
    }

    /// <summary>X1 to X8: embeddings, overrides, and isolates.</summary>
    void Explicit()
    {
        var stack = new Stack<(byte Level, BidiClass Override, bool IsIsolate)>([(paragraph, ON, false)]);
        int tooManyIsolates = 0,
            tooManyEmbeddings = 0,
            isolates = 0;
        for (var i = 0; i < types.Length; i++)
        {
            var type = original[i];
            var top = stack.Peek();
            if (type is RLE or LRE or RLO or LRO || IsInitiator(type))
            {
                var isolate = IsInitiator(type);
                var isRight = type is RLE or RLO or RLI || type == FSI && Direction(i + 1, partner[i] < 0 ? types.Length : partner[i]) == 1;
                levels[i] = top.Level;
                if (isolate && top.Override != ON)
                    types[i] = top.Override;
                var next = isRight ? (top.Level + 1) | 1 : (top.Level + 2) & ~1;
                if (next <= MostDepth && tooManyIsolates == 0 && tooManyEmbeddings == 0)
                {
                    if (isolate)
                        isolates++;
                    stack.Push(
                        (
                            (byte)next,
                            type switch
                            {
                                RLO => R,
                                LRO => L,
                                _ => ON,
                            },
                            isolate
                        )
                    );
                }
                else if (isolate)
                    tooManyIsolates++;
                else if (tooManyIsolates == 0)
                    tooManyEmbeddings++;
            }
            else if (type == PDI)
            {
                if (tooManyIsolates > 0)
                    tooManyIsolates--;
                else if (isolates > 0)
                {
                    tooManyEmbeddings = 0;
                    while (!stack.Peek().IsIsolate)
                        stack.Pop();
                    stack.Pop();
                    isolates--;
                }
                top = stack.Peek();
                levels[i] = top.Level;
                if (top.Override != ON)
                    types[i] = top.Override;
            }
            else if (type == PDF)
            {
                levels[i] = top.Level;
                if (tooManyIsolates > 0)
                    continue;
                if (tooManyEmbeddings > 0)
                    tooManyEmbeddings--;
                else if (!top.IsIsolate && stack.Count > 1)
                    stack.Pop();
            }
            else if (type == B)
                levels[i] = paragraph;
            else
            {
                levels[i] = top.Level;
                if (top.Override != ON && type != BN)
                    types[i] = top.Override;
            }
        }
    }

    /// <summary>BD13 and X10: runs of one level, joined over what is isolated between them.</summary>
    List<List<int>> Sequences()
    {
        var runs = new List<List<int>>();
        var runOf = new Dictionary<int, List<int>>();
        foreach (var i in Enumerable.Range(0, types.Length).Where(i => !IsRemoved(original[i])))
        {
            if (runs.Count == 0 || levels[runs[^1][^1]] != levels[i])
                runs.Add([]);
            runs[^1].Add(i);
            runOf[i] = runs[^1];
        }
        var sequences = new List<List<int>>();
        foreach (var run in runs.Where(r => !(original[r[0]] == PDI && partner[r[0]] >= 0)))
        {
            var sequence = new List<int>(run);
            while (IsInitiator(original[sequence[^1]]) && partner[sequence[^1]] is >= 0 and var pdi)
                sequence.AddRange(runOf[pdi]);
            sequences.Add(sequence);
        }
        return sequences;
    }

    void Resolve(List<int> sequence)
    {
        var level = levels[sequence[0]];
        var t = sequence.Select(i => types[i]).ToArray();
        var start = Of(Math.Max(level, LevelBeside(sequence[0], -1)));
        var isOpen = IsInitiator(original[sequence[^1]]);
        var end = Of(Math.Max(level, isOpen ? paragraph : LevelBeside(sequence[^1], 1)));
        Weak(t, start);
        Brackets(sequence, t, Of(level), start);
        Neutral(t, Of(level), start, end);
        for (var k = 0; k < t.Length; k++) // I1, I2
            levels[sequence[k]] =
                (level & 1) == 0
                    ? (byte)(
                        t[k] switch
                        {
                            R => level + 1,
                            AN or EN => level + 2,
                            _ => level,
                        }
                    )
                    : (byte)(t[k] is L or EN or AN ? level + 1 : level);
    }

    static BidiClass Of(int level) => (level & 1) == 0 ? L : R;

    /// <summary>The level of what stands before or after, as X1 to X8 left it; the paragraph's where there is nothing.</summary>
    byte LevelBeside(int at, int step)
    {
        for (var i = at + step; i >= 0 && i < types.Length; i += step)
            if (!IsRemoved(original[i]))
                return explicitLevels[i];
        return paragraph;
    }

    /// <summary>W1 to W7: numbers and what belongs to them.</summary>
    static void Weak(BidiClass[] t, BidiClass start)
    {
        for (var i = 0; i < t.Length; i++) // W1
            if (t[i] == NSM)
                t[i] =
                    i == 0 ? start
                    : IsInitiator(t[i - 1]) || t[i - 1] == PDI ? ON
                    : t[i - 1];
        var last = start;
        for (var i = 0; i < t.Length; i++) // W2
            if (t[i] is L or R or AL)
                last = t[i];
            else if (t[i] == EN && last == AL)
                t[i] = AN;
        for (var i = 0; i < t.Length; i++) // W3
            if (t[i] == AL)
                t[i] = R;
        for (var i = 1; i + 1 < t.Length; i++) // W4
            if (t[i] == ES && t[i - 1] == EN && t[i + 1] == EN)
                t[i] = EN;
            else if (t[i] == CS && t[i - 1] == t[i + 1] && t[i - 1] is EN or AN)
                t[i] = t[i - 1];
        for (var i = 0; i < t.Length; i++) // W5
        {
            if (t[i] != ET)
                continue;
            var end = i;
            while (end < t.Length && t[end] == ET)
                end++;
            if (i > 0 && t[i - 1] == EN || end < t.Length && t[end] == EN)
                Array.Fill(t, EN, i, end - i);
            i = end - 1;
        }
        last = start;
        for (var i = 0; i < t.Length; i++)
        {
            if (t[i] is ET or ES or CS)
                t[i] = ON; // W6
            if (t[i] is L or R)
                last = t[i];
            else if (t[i] == EN && last == L)
                t[i] = L; // W7
        }
    }

    static BidiClass Strong(BidiClass c) => c is EN or AN ? R : c;

    /// <summary>N0: a pair of brackets has one direction.</summary>
    void Brackets(List<int> sequence, BidiClass[] t, BidiClass embedding, BidiClass start)
    {
        foreach (var (open, close) in Pairs(sequence, t))
        {
            var (sameInside, otherInside) = (false, false);
            for (var k = open + 1; k < close; k++)
                if (Strong(t[k]) is L or R)
                    if (Strong(t[k]) == embedding)
                        sameInside = true;
                    else
                        otherInside = true;
            if (!sameInside && !otherInside)
                continue;
            var direction = embedding;
            if (!sameInside)
            {
                var before = start;
                for (var k = open - 1; k >= 0; k--)
                    if (Strong(t[k]) is L or R)
                    {
                        before = Strong(t[k]);
                        break;
                    }
                if (before != embedding)
                    direction = before;
            }
            foreach (var bracket in (int[])[open, close])
            {
                t[bracket] = direction;
                // Marks on the bracket follow it.
                for (var k = bracket + 1; k < t.Length && original[sequence[k]] == NSM; k++)
                    t[k] = direction;
            }
        }
    }

    /// <summary>BD16: the pairs of brackets, by where they open.</summary>
    List<(int Open, int Close)> Pairs(List<int> sequence, BidiClass[] t)
    {
        var pairs = new List<(int, int)>();
        var open = new List<(int Pair, int At)>();
        for (var k = 0; k < t.Length; k++)
        {
            var bracket = t[k] == ON ? brackets[sequence[k]] : 0;
            if (bracket > 0)
            {
                if (open.Count == MostBrackets)
                    return [];
                open.Add((bracket, k));
            }
            else if (bracket < 0 && open.FindLastIndex(o => o.Pair == -bracket) is >= 0 and var found)
            {
                pairs.Add((open[found].At, k));
                open.RemoveRange(found, open.Count - found);
            }
        }
        pairs.Sort();
        return pairs;
    }

    /// <summary>N1 and N2: what has no direction takes that of its neighbors, else the embedding's.</summary>
    static void Neutral(BidiClass[] t, BidiClass embedding, BidiClass start, BidiClass stop)
    {
        static bool IsNeutral(BidiClass c) => c is B or S or WS or ON or PDI || IsInitiator(c);
        for (var i = 0; i < t.Length; i++)
        {
            if (!IsNeutral(t[i]))
                continue;
            var end = i;
            while (end < t.Length && IsNeutral(t[end]))
                end++;
            var before = i > 0 ? Strong(t[i - 1]) : start;
            var after = end < t.Length ? Strong(t[end]) : stop;
            Array.Fill(t, before == after ? before : embedding, i, end - i);
            i = end - 1;
        }
    }

    /// <summary>What X9 takes away stands at the level of what is before it; then L1: tabs and the spaces before them and at the end stand
    /// at the paragraph's level.</summary>
    void Rest()
    {
        for (var i = 0; i < levels.Length; i++)
            if (IsRemoved(original[i]))
                levels[i] = i == 0 ? paragraph : levels[i - 1];
        var trailing = true;
        for (var i = levels.Length - 1; i >= 0; i--)
            if (original[i] is S or B)
            {
                levels[i] = paragraph;
                trailing = true;
            }
            else if (trailing && (original[i] is WS or PDI || IsInitiator(original[i]) || IsRemoved(original[i])))
                levels[i] = paragraph;
            else
                trailing = false;
    }
}
