using System.Buffers;
using System.Globalization;
using System.Text;

namespace Bandeja.Core.Composition;

/// <summary>
/// Where a line may or must break: the Unicode Line Breaking Algorithm (UAX #14, Unicode 16.0), LB2 to LB31,
/// without what it says of Brahmic syllables (LB28a) and of quotation marks by their shape (LB15a, LB15b, LB19a), which stand as in LB19.
/// Classes come from the Unicode Character Database.
/// </summary>
public static class LineBreaker
{
    enum C : byte
    {
        AL,
        AI,
        AK,
        AP,
        AS,
        B2,
        BA,
        BB,
        BK,
        CB,
        CJ,
        CL,
        CM,
        CP,
        CR,
        EB,
        EM,
        EX,
        GL,
        H2,
        H3,
        HL,
        HY,
        ID,
        IN,
        IS,
        JL,
        JT,
        JV,
        LF,
        NL,
        NS,
        NU,
        OP,

        /// <summary>An opening bracket as wide as an ideograph.</summary>
        OW,
        PO,
        PR,
        QU,
        RI,
        SA,
        SP,
        SY,
        VF,
        VI,
        WJ,
        ZW,
        ZWJ,
    }

    static readonly (int First, int Last, C Class)[] Ranges = Load();
    static readonly C[] Latin = [.. Enumerable.Range(0, 0x600).Select(Search)];

    static (int, int, C)[] Load()
    {
        using var stream = typeof(LineBreaker).Assembly.GetManifestResourceStream("LineBreakClasses.txt")!;
        using var reader = new StreamReader(stream);
        return
        [
            .. reader
                .ReadToEnd()
                .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Select(line =>
                {
                    var parts = line.Split(' ');
                    return (
                        int.Parse(parts[0], NumberStyles.HexNumber),
                        int.Parse(parts[1], NumberStyles.HexNumber),
                        Enum.Parse<C>(parts[2])
                    );
                }),
        ];
    }

    static C Search(int codePoint)
    {
        int low = 0,
            high = Ranges.Length - 1;
        while (low <= high)
        {
            var middle = (low + high) / 2;
            if (codePoint < Ranges[middle].First)
                high = middle - 1;
            else if (codePoint > Ranges[middle].Last)
                low = middle + 1;
            else
                return Resolve(Ranges[middle].Class, codePoint);
        }
        return C.AL;
    }

    /// <summary>LB1: classes that need more context than there is become ordinary ones.</summary>
    static C Resolve(C c, int codePoint) =>
        c switch
        {
            C.AI or C.AK or C.AP or C.AS => C.AL,
            C.OP when IsWide(codePoint) => C.OW,
            // LB30b: a pictograph that is yet to come takes a modifier like those that there are.
            C.ID when IsYetToCome(codePoint) => C.EB,
            C.VF or C.VI => C.CM,
            C.CJ => C.NS,
            C.SA => CharUnicodeInfo.GetUnicodeCategory(codePoint) is UnicodeCategory.NonSpacingMark or UnicodeCategory.SpacingCombiningMark
                ? C.CM
                : C.AL,
            _ => c,
        };

    // East_Asian_Width W, F, and H (UAX #11), of what opens.
    static bool IsWide(int c) => c is 0x2329 or >= 0x3000 and <= 0x303F or >= 0xFE10 and <= 0xFE6F or >= 0xFF00 and <= 0xFFEF;

    static bool IsYetToCome(int c) =>
        c is >= 0x1F000 and <= 0x1FAFF or >= 0x1FC00 and <= 0x1FFFD
        && CharUnicodeInfo.GetUnicodeCategory(c) == UnicodeCategory.OtherNotAssigned;

    static C ClassOf(int codePoint) => codePoint < Latin.Length ? Latin[codePoint] : Search(codePoint);

    /// <summary>
    /// Marks the places where a line of a letter may break: those of <see cref="Find"/> but for the one between the minus of an amount and
    /// its currency sign (-$12.40), which UAX #14 leaves to a tailoring (section 8.2).
    /// </summary>
    public static void FindInLetter(ReadOnlySpan<char> text, Span<bool> breaks)
    {
        Find(text, breaks);
        for (var i = 1; i < text.Length; i++)
            if (
                breaks[i]
                && text[i - 1] is ('-' or '−')
                && char.GetUnicodeCategory(text[i]) == UnicodeCategory.CurrencySymbol
                && (i == 1 || !char.IsLetterOrDigit(text[i - 2]))
            )
                breaks[i] = false;
    }

    /// <summary>
    /// Marks the places where a line may break. <paramref name="breaks"/>[i] is true where a break is allowed before the UTF-16
    /// unit at i; index 0 is always false. It must be as long as the text. Mandatory breaks inside the text count as allowed ones:
    /// line ends of a document are nodes of their own, not characters.
    /// </summary>
    public static void Find(ReadOnlySpan<char> text, Span<bool> breaks)
    {
        breaks[..text.Length].Clear();
        C before = C.BK,
            lastSolid = C.BK,
            beforeLast = C.BK; // lastSolid: last class that is not a space
        int regional = 0;
        var spaces = false;
        for (var i = 0; i < text.Length; )
        {
            Rune.DecodeFromUtf16(text[i..], out var rune, out var length);
            var now = ClassOf(rune.Value);
            if (i == 0)
            {
                var joins = now == C.ZWJ;
                if (now is C.CM or C.ZWJ)
                    now = C.AL; // LB10
                lastSolid = now;
                before = joins ? C.ZWJ : now; // LB8a
                regional = now == C.RI ? 1 : 0;
                spaces = now == C.SP;
                i += length;
                continue;
            }
            // LB9: a combining mark belongs to what it stands on.
            if (now is C.CM or C.ZWJ && before is not (C.BK or C.CR or C.LF or C.NL or C.SP or C.ZW))
            {
                // LB8a looks at it, where no other mark follows.
                before = now == C.ZWJ ? C.ZWJ : lastSolid;
                i += length;
                continue;
            }
            if (now is C.CM or C.ZWJ)
                now = C.AL; // LB10
            var joined = before == C.ZWJ;
            var left = joined ? lastSolid : before;
            // LB15c: after a space a full stop may begin a number.
            var begins = spaces && now == C.IS && IsDigitAt(text, i + length);
            breaks[i] = !joined && (begins || Allowed(left, lastSolid, beforeLast, now, regional));
            if (now == C.RI)
                regional++;
            else
                regional = 0;
            if (now != C.SP)
            {
                beforeLast = lastSolid;
                lastSolid = now;
            }
            spaces = now == C.SP;
            before = now;
            i += length;
        }
    }

    static bool IsDigitAt(ReadOnlySpan<char> text, int at) =>
        at < text.Length && Rune.DecodeFromUtf16(text[at..], out var rune, out _) == OperationStatus.Done && ClassOf(rune.Value) == C.NU;

    static bool Allowed(C a, C solid, C beforeSolid, C b, int regional)
    {
        if (a is C.BK or C.LF or C.NL || a == C.CR && b != C.LF)
            return true; // LB4, LB5
        if (a == C.CR || b is C.BK or C.CR or C.LF or C.NL)
            return false; // LB5, LB6
        if (b is C.SP or C.ZW)
            return false; // LB7
        if (solid == C.ZW)
            return true; // LB8
        if (b == C.WJ || a == C.WJ)
            return false; // LB11
        if (a == C.GL)
            return false; // LB12
        if (b == C.GL && a is not (C.SP or C.BA or C.HY))
            return false; // LB12a
        if (b is C.CL or C.CP or C.EX or C.SY)
            return false; // LB13
        if (b == C.IS)
            return false; // LB15d
        if (solid is C.OP or C.OW)
            return false; // LB14
        if (solid is C.CL or C.CP && b == C.NS)
            return false; // LB16
        if (solid == C.B2 && b == C.B2)
            return false; // LB17
        if (a == C.SP)
            return true; // LB18
        if (b == C.QU || a == C.QU)
            return false; // LB19
        if (a == C.CB || b == C.CB)
            return true; // LB20
        if (b is C.BA or C.HY or C.NS || a == C.BB)
            return false; // LB21
        if (beforeSolid == C.HL && a is C.HY or C.BA && b != C.HL)
            return false; // LB21a
        if (a == C.SY && b == C.HL)
            return false; // LB21b
        if (b == C.IN)
            return false; // LB22
        if (a is C.AL or C.HL && b == C.NU || a == C.NU && b is C.AL or C.HL)
            return false; // LB23
        if (a == C.PR && b is C.ID or C.EB or C.EM || a is C.ID or C.EB or C.EM && b == C.PO)
            return false; // LB23a
        if (a is C.PR or C.PO && b is C.AL or C.HL || a is C.AL or C.HL && b is C.PR or C.PO)
            return false; // LB24
        if (
            a is C.CL or C.CP or C.NU && b is C.PO or C.PR
            || a is C.PO or C.PR && b is C.OP or C.OW or C.NU
            || a is C.HY or C.IS or C.NU or C.SY && b == C.NU
        )
            return false; // LB25
        if (a == C.JL && b is C.JL or C.JV or C.H2 or C.H3 || a is C.JV or C.H2 && b is C.JV or C.JT || a is C.JT or C.H3 && b == C.JT)
            return false; // LB26
        if (a is C.JL or C.JV or C.JT or C.H2 or C.H3 && b == C.PO || a == C.PR && b is C.JL or C.JV or C.JT or C.H2 or C.H3)
            return false; // LB27
        if (a is C.AL or C.HL && b is C.AL or C.HL)
            return false; // LB28
        if (a == C.IS && b is C.AL or C.HL)
            return false; // LB29
        if (a is C.AL or C.HL or C.NU && b == C.OP || a == C.CP && b is C.AL or C.HL or C.NU)
            return false; // LB30
        if (a == C.RI && b == C.RI)
            return regional % 2 == 0; // LB30a
        if (a == C.EB && b == C.EM)
            return false; // LB30b
        return true; // LB31
    }
}
