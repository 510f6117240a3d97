namespace Bandeja.Core.Composition;

/// <summary>
/// The reading order of text that mixes directions: the Unicode Bidirectional Algorithm (UAX #9). Its conformance tests are held whole
/// (<c>BidiTests</c>). Where nothing says otherwise, a paragraph's direction is that of most of its letters (rule HL1): a letter in one
/// language may begin with a name in another.
/// </summary>
static class Bidi
{
    /// <summary>True where a text has a character that is written from right to left; nearly no text has.</summary>
    public static bool IsNeeded(ReadOnlySpan<char> text)
    {
        foreach (var c in text)
            if (
                c >= '\u0590'
                && (
                    c <= '\u08FF'
                    || c
                        is >= '\uFB1D'
                            and <= '\uFDFF'
                            or >= '\uFE70'
                            and <= '\uFEFC'
                            or >= '\uD802'
                            and <= '\uD803'
                            or '\uD83A'
                            or '\uD83B'
                )
            )
                return true;
        return false;
    }

    /// <summary>The embedding level of each UTF-16 unit; odd levels are read from right to left.</summary>
    public static byte[] Levels(ReadOnlySpan<char> text)
    {
        var classes = new List<BidiClass>(text.Length);
        var brackets = new List<int>(text.Length);
        var balance = 0;
        foreach (var rune in text.EnumerateRunes())
        {
            var type = BidiCharacters.ClassOf(rune.Value);
            classes.Add(type);
            brackets.Add(BidiCharacters.Bracket(rune.Value));
            if (type == BidiClass.L)
                balance++;
            else if (type is BidiClass.R or BidiClass.AL)
                balance--;
        }
        var levels = BidiParagraph.Levels(classes, brackets, (byte)(balance < 0 ? 1 : 0));
        var units = new byte[text.Length];
        var (at, n) = (0, 0);
        foreach (var rune in text.EnumerateRunes())
        {
            units.AsSpan(at, rune.Utf16SequenceLength).Fill(levels[n++]);
            at += rune.Utf16SequenceLength;
        }
        return units;
    }

    /// <summary>L2: the order in which pieces of a line stand from left to right, by the level of each.</summary>
    public static int[] VisualOrder(ReadOnlySpan<byte> levels)
    {
        var order = Enumerable.Range(0, levels.Length).ToArray();
        if (levels.Length == 0)
            return order;
        byte highest = 0,
            lowestOdd = byte.MaxValue;
        foreach (var level in levels)
        {
            highest = Math.Max(highest, level);
            if ((level & 1) == 1)
                lowestOdd = Math.Min(lowestOdd, level);
        }
        for (var level = highest; level >= lowestOdd && level > 0; level--)
        {
            for (var i = 0; i < levels.Length; )
            {
                if (levels[i] < level)
                {
                    i++;
                    continue;
                }
                var end = i;
                while (end < levels.Length && levels[end] >= level)
                    end++;
                Array.Reverse(order, i, end - i);
                i = end;
            }
        }
        return order;
    }
}
