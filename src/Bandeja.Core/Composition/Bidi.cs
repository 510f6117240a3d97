using System.Globalization;
using System.Text;

namespace Bandeja.Core.Composition;

/// <summary>
/// The reading order of text that mixes directions: the implicit part of the Unicode Bidirectional Algorithm (UAX #9, rule HL1 for the
/// paragraph,
/// W1 to W7, N1 to N2, I1 to I2 and L1 to L2). Explicit embeddings and isolates count as what prints nothing.
/// </summary>
static class Bidi
{
    enum B : byte
    {
        L,
        R,
        AL,
        EN,
        ES,
        ET,
        AN,
        CS,
        NSM,
        BN,
        S,
        WS,
        ON,
    }

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

    static B ClassOf(Rune rune)
    {
        var c = rune.Value;
        if (c is >= '0' and <= '9' or >= 0x6F0 and <= 0x6F9 or 0xB2 or 0xB3 or 0xB9)
            return B.EN;
        if (c is >= 0x660 and <= 0x669 or 0x66B or 0x66C or 0x600 or 0x601 or 0x602 or 0x603 or 0x6DD)
            return B.AN;
        if (c is '+' or '-' or 0x207A or 0x207B or 0x2212)
            return B.ES;
        if (c is '#' or '$' or '%' or >= 0xA2 and <= 0xA5 or 0xB0 or 0xB1 or 0x66A or 0x2030 or 0x2031 or >= 0x20A0 and <= 0x20CF)
            return B.ET;
        if (c is ',' or '.' or '/' or ':' or 0xA0 or 0x60C or 0x202F or 0x2044)
            return B.CS;
        if (c is '\t' or '\n')
            return B.S;
        switch (Rune.GetUnicodeCategory(rune))
        {
            case UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark:
                return B.NSM;
            case UnicodeCategory.Format or UnicodeCategory.Control:
                return c switch
                {
                    0x200E => B.L,
                    0x200F => B.R,
                    0x61C => B.AL,
                    _ => B.BN,
                };
            case UnicodeCategory.SpaceSeparator:
                return B.WS;
        }
        if (
            c
            is >= 0x600
                and <= 0x7BF
                or >= 0x860
                and <= 0x8FF
                or >= 0xFB50
                and <= 0xFDFF
                or >= 0xFE70
                and <= 0xFEFF
                or >= 0x1EC70
                and <= 0x1EFFF
        )
            return Rune.IsLetter(rune) ? B.AL
                : c < 0x600 ? B.ON
                : Rune.IsLetterOrDigit(rune) ? B.AL
                : c is 0x61B or 0x61E or 0x61F or 0x66D or 0x6D4 ? B.AL
                : B.ON;
        if (
            c
            is >= 0x590
                and <= 0x5FF
                or >= 0x7C0
                and <= 0x85F
                or >= 0xFB1D
                and <= 0xFB4F
                or >= 0x10800
                and <= 0x10FFF
                or >= 0x1E800
                and <= 0x1EC6F
        )
            return B.R;
        return Rune.IsLetter(rune) || Rune.IsNumber(rune) && !Rune.IsDigit(rune) ? B.L : B.ON;
    }

    /// <summary>The embedding level of each UTF-16 unit; odd levels are read from right to left.</summary>
    public static byte[] Levels(ReadOnlySpan<char> text)
    {
        var types = new B[text.Length];
        for (var i = 0; i < text.Length; )
        {
            Rune.DecodeFromUtf16(text[i..], out var rune, out var length);
            var type = ClassOf(rune);
            for (var k = 0; k < length; k++)
                types[i + k] = type;
            i += length;
        }
        // HL1: a letter in one language may begin with a name in another. The direction of most of its letters is the paragraph's.
        var balance = 0;
        foreach (var type in types)
            balance += type switch
            {
                B.L => 1,
                B.R or B.AL => -1,
                _ => 0,
            };
        var start = (byte)(balance < 0 ? 1 : 0);
        var original = types.ToArray();
        Weak(types, start);
        Neutral(types, start);
        var levels = new byte[text.Length];
        for (var i = 0; i < levels.Length; i++)
            levels[i] =
                (start & 1) == 0
                    ? (byte)(
                        types[i] switch
                        {
                            B.R => start + 1,
                            B.AN or B.EN => start + 2,
                            _ => start,
                        }
                    )
                    : (byte)(types[i] is B.L or B.EN or B.AN ? start + 1 : start);
        // L1: tabs and the spaces before them and at the end stand at the paragraph's level.
        var trailing = true;
        for (var i = levels.Length - 1; i >= 0; i--)
        {
            if (original[i] == B.S)
            {
                levels[i] = start;
                trailing = true;
            }
            else if (trailing && original[i] is (B.WS or B.BN))
                levels[i] = start;
            else
                trailing = false;
        }
        return levels;
    }

    /// <summary>Rules W1 to W7: numbers and what belongs to them.</summary>
    static void Weak(B[] t, byte level)
    {
        var strong = (level & 1) == 0 ? B.L : B.R;
        var before = strong;
        for (var i = 0; i < t.Length; i++) // W1
        {
            if (t[i] is B.NSM or B.BN)
                t[i] = before;
            before = t[i];
        }
        var last = strong;
        for (var i = 0; i < t.Length; i++) // W2, W3
        {
            if (t[i] is B.L or B.R or B.AL)
                last = t[i];
            else if (t[i] == B.EN && last == B.AL)
                t[i] = B.AN;
        }
        for (var i = 0; i < t.Length; i++)
            if (t[i] == B.AL)
                t[i] = B.R;
        for (var i = 1; i + 1 < t.Length; i++) // W4
        {
            if (t[i] == B.ES && t[i - 1] == B.EN && t[i + 1] == B.EN)
                t[i] = B.EN;
            else if (t[i] == B.CS && t[i - 1] == t[i + 1] && t[i - 1] is (B.EN or B.AN))
                t[i] = t[i - 1];
        }
        for (var i = 0; i < t.Length; i++) // W5
        {
            if (t[i] != B.ET)
                continue;
            var end = i;
            while (end < t.Length && t[end] == B.ET)
                end++;
            var number = i > 0 && t[i - 1] == B.EN || end < t.Length && t[end] == B.EN;
            for (var k = i; k < end; k++)
                if (number)
                    t[k] = B.EN;
            i = end - 1;
        }
        last = strong;
        for (var i = 0; i < t.Length; i++)
        {
            if (t[i] is B.ET or B.ES or B.CS)
                t[i] = B.ON; // W6
            if (t[i] is B.L or B.R)
                last = t[i];
            else if (t[i] == B.EN && last == B.L)
                t[i] = B.L; // W7
        }
    }

    /// <summary>Rules N1 and N2: what has no direction takes that of its neighbours, else the paragraph's.</summary>
    static void Neutral(B[] t, byte level)
    {
        var paragraph = (level & 1) == 0 ? B.L : B.R;
        static B Direction(B b) => b is B.EN or B.AN ? B.R : b;
        for (var i = 0; i < t.Length; i++)
        {
            if (t[i] is not (B.ON or B.WS or B.S or B.BN))
                continue;
            var end = i;
            while (end < t.Length && (t[end] is B.ON or B.WS or B.S or B.BN))
                end++;
            var before = i > 0 ? Direction(t[i - 1]) : paragraph;
            var after = end < t.Length ? Direction(t[end]) : paragraph;
            for (var k = i; k < end; k++)
                t[k] = before == after ? before : paragraph;
            i = end - 1;
        }
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
