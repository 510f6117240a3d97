using System.Globalization;
using System.Text;

namespace Bandeja.Core.Composition;

/// <summary>Numbers of lists as they are written (CSS Counter Styles 3, sections 6.1 and 6.2, has the same names).</summary>
public static class ListNumber
{
    const int LargestRoman = 3999;
    static readonly (int Value, string Letters)[] Romans =
    [
        (1000, "m"),
        (900, "cm"),
        (500, "d"),
        (400, "cd"),
        (100, "c"),
        (90, "xc"),
        (50, "l"),
        (40, "xl"),
        (10, "x"),
        (9, "ix"),
        (5, "v"),
        (4, "iv"),
        (1, "i"),
    ];

    /// <summary>The names of the styles.</summary>
    public static readonly IReadOnlyList<string> Styles =
    [
        "decimal",
        "decimal-leading-zero",
        "lower-alpha",
        "upper-alpha",
        "lower-roman",
        "upper-roman",
    ];

    /// <summary>A number in a style; what the style cannot write is written in digits.</summary>
    public static string Written(int number, string? style) =>
        style switch
        {
            "decimal-leading-zero" => number.ToString("00", CultureInfo.InvariantCulture),
            "lower-alpha" when number > 0 => Letters(number),
            "upper-alpha" when number > 0 => Letters(number).ToUpperInvariant(),
            "lower-roman" when number is > 0 and <= LargestRoman => Roman(number),
            "upper-roman" when number is > 0 and <= LargestRoman => Roman(number).ToUpperInvariant(),
            _ => number.ToString(CultureInfo.InvariantCulture),
        };

    /// <summary>a to z, then aa, bb as documents have it would repeat letters; here aa, ab follow, as CSS has it.</summary>
    static string Letters(int number)
    {
        var text = new StringBuilder();
        for (var n = number; n > 0; n = (n - 1) / 26)
            text.Insert(0, (char)('a' + (n - 1) % 26));
        return text.ToString();
    }

    static string Roman(int number)
    {
        var text = new StringBuilder();
        foreach (var (value, letters) in Romans)
            for (; number >= value; number -= value)
                text.Append(letters);
        return text.ToString();
    }
}
