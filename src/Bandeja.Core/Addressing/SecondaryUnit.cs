using Bandeja.Core.Texts;

namespace Bandeja.Core.Addressing;

/// <summary>Parts of buildings: apartments, suites, floors (USPS Publication 28, section 213 and appendix C2; the words of other posts
/// beside them).</summary>
public static class SecondaryUnit
{
    // These are followed by a number or a letter.
    static readonly HashSet<string> Numbered =
    [
        .. (
            "apartment apt building bldg department dept floor fl hangar hngr key lot pier room rm slip space spc stop suite ste "
            + "trailer trlr unit no flat level lvl shop "
            + "app appt appartement bat batiment esc escalier etage apto apartamento depto dpto interior int piso puerta bloco sala "
            + "fraccao wohnung whg interno scala lgh"
        ).Split(' '),
    ];

    // These stand alone.
    static readonly HashSet<string> Alone =
    [
        .. "basement bsmt front frnt lobby lbby lower lowr office ofc penthouse ph rear side upper uppr".Split(' '),
    ];

    /// <summary>True where a line is a unit of a building: <c>Apt 3</c>, <c>Suite 500</c>, <c># 12</c>, <c>2nd Floor</c>; not for <c>Upper
    /// Slaughter</c>.</summary>
    public static bool IsUnit(string line)
    {
        if (line.Length is 0 or > 30)
            return false;
        if (line[0] == '#')
            return true;
        var words = Words(line);
        if (words.Length is 0 or > 3)
            return false;
        if (Alone.Contains(words[0]) && (words.Length == 1 || words.Length == 2 && IsNumber(words[1])))
            return true;
        if (Numbered.Contains(words[0]) && words.Length > 1 && IsNumber(words[1]))
            return true;
        return words.Length > 1 && char.IsAsciiDigit(words[0][0]) && (Numbered.Contains(words[^1]) || Alone.Contains(words[^1]));
    }

    /// <summary>True where a street line names a unit already: <c>14 Quay Rd Apt 3</c> and <c># 3</c>, whatever word or sign stands before
    /// the number.</summary>
    public static bool IsSaid(string street, string unit)
    {
        var words = Words(street);
        var number = Words(unit) is [.., var last] ? last : "";
        if (number.Length == 0 || !IsNumber(number))
            return false;
        for (var i = 1; i < words.Length; i++)
            if (words[i] == number && Numbered.Contains(words[i - 1]))
                return true;
        return street.Contains('#') && Words(street[street.IndexOf('#')..]) is [var first, ..] && first == number;
    }

    static string[] Words(string line) =>
        [
            .. FoldedText
                .Of(line)
                .Split([' ', ','], StringSplitOptions.RemoveEmptyEntries)
                .Select(w => w.Trim('.', '#'))
                .Where(w => w.Length > 0),
        ];

    static bool IsNumber(string word) => word.Length <= 2 || word.Length <= 8 && word.Any(char.IsAsciiDigit);
}
