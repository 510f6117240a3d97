using System.Globalization;
using System.Text.RegularExpressions;

namespace Bandeja.Core.Lists;

/// <summary>In which order the parts of a written date stand.</summary>
public enum DateOrder
{
    YearMonthDay,
    MonthDayYear,
    DayMonthYear,

    /// <summary>No parts: the number by which spreadsheets keep a day, counted from December 30, 1899 (ECMA-376 part 1,
    /// 18.17.4.1).</summary>
    DayNumber,
}

/// <summary>Which sign divides the decimals of a column's numbers; the other one may stand between thousands.</summary>
public enum NumberForm
{
    Point,
    Comma,
}

/// <summary>Reads values as people write them into the form that is kept: numbers with a point, days as ISO 8601, yes and no.</summary>
public static partial class WrittenValue
{
    static readonly string[] Yes = ["yes", "y", "true", "si", "sí", "ja", "oui"];
    static readonly string[] No = ["no", "n", "false", "nein", "non"];

    /// <summary>
    /// The canonical form of a value of a type; false where the value is not of that type, and then
    /// <paramref name="canonical"/> is the value as it was, so nothing is lost. Blank is null.
    /// </summary>
    public static bool TryCanonical(
        string? raw,
        ColumnType type,
        DateOrder order,
        out string? canonical,
        NumberForm form = NumberForm.Point
    )
    {
        canonical = string.IsNullOrWhiteSpace(raw) ? null : raw;
        if (canonical is null || type == ColumnType.Text)
            return true;
        var value = canonical.AsSpan().Trim();
        switch (type)
        {
            case ColumnType.Number when TryNumber(value, form, out var number):
                canonical = number.ToString(CultureInfo.InvariantCulture);
                return true;
            case ColumnType.Date when TryDate(value.ToString(), order, out var date):
                canonical = date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
                return true;
            case ColumnType.YesNo when TryYesNo(value.ToString(), out var yes):
                canonical = yes ? "yes" : "no";
                return true;
            default:
                return false;
        }
    }

    /// <summary>True for <c>007</c> or <c>-01.5</c>: digits that a number would not keep.</summary>
    public static bool HasLeadingZero(string value)
    {
        var digits = value.AsSpan().TrimStart("+-");
        return digits.Length > 1 && digits[0] == '0' && char.IsAsciiDigit(digits[1]) || value[0] == '+';
    }

    /// <summary>Reads a number with a decimal point.</summary>
    public static bool TryNumber(ReadOnlySpan<char> value, out decimal number) => TryNumber(value, NumberForm.Point, out number);

    /// <summary>
    /// Reads <c>1250</c>, <c>1,250.00</c>, <c>$1,250</c>, <c>(12.50)</c>, <c>12.50-</c>, <c>12.5%</c> (0.125) and, with a decimal
    /// comma, <c>1.250,50 €</c>: at most 15 significant digits, as a spreadsheet keeps. Thousands are divided by the other sign, a
    /// space, or an apostrophe, in threes: 12,50 is no 1250.
    /// </summary>
    public static bool TryNumber(ReadOnlySpan<char> value, NumberForm form, out decimal number)
    {
        number = 0;
        value = value.Trim();
        if (value.IsEmpty || value.Length > 32)
            return false;
        var digits = 0;
        foreach (var c in value)
            if (char.IsAsciiDigit(c))
                digits++;
        if (digits is 0 or > 15)
            return false;
        var negative = false;
        if (value[0] == '(' && value[^1] == ')')
        {
            negative = true;
            value = value[1..^1].Trim();
        }
        value = WithoutCurrency(value, ref negative);
        var percent = value.Length > 1 && value[^1] == '%';
        if (percent)
            value = value[..^1].TrimEnd();
        if (value.Length > 1 && value[0] is '-' or '−' or '+')
        {
            negative ^= value[0] != '+';
            value = WithoutCurrency(value[1..], ref negative);
        }
        // Bookkeeping puts the minus sign behind; after a decimal sign it stands for no cents: 50,-
        else if (value.Length > 1 && value[^1] is '-' or '−' && value[..^1].TrimEnd() is [.., not ('.' or ',')] amount)
        {
            negative = !negative;
            value = WithoutCurrency(amount, ref negative);
        }
        Span<char> plain = stackalloc char[value.Length];
        var (length, whole, sinceGroup, grouped, decimals) = (0, 0, -1, '\0', false);
        var mark = form == NumberForm.Point ? '.' : ',';
        foreach (var c in value)
        {
            if (char.IsAsciiDigit(c))
            {
                plain[length++] = c;
                if (!decimals)
                {
                    whole++;
                    if (sinceGroup >= 0)
                        sinceGroup++;
                }
                continue;
            }
            if (c == mark && !decimals && sinceGroup is -1 or 3)
            {
                plain[length++] = '.';
                decimals = true;
                continue;
            }
            var divider =
                c is '.' or ',' ? c
                : c is '\'' or '’' ? '\''
                : c is ' ' or '\u00a0' or '\u202f' or '\u2009' ? ' '
                : '\0';
            if (
                divider == '\0'
                || decimals
                || whole is 0
                // Nobody divides thousands after a zero: 0.125 has decimals, whichever sign is the usual one.
                || whole is 1 && plain[0] == '0'
                || sinceGroup is >= 0 and not 3
                || sinceGroup < 0 && whole > 3
                || grouped != '\0' && grouped != divider
            )
                return false;
            (grouped, sinceGroup) = (divider, 0);
        }
        if (
            sinceGroup is >= 0 and not 3
            || length == 0
            || !decimal.TryParse(plain[..length], NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out number)
        )
            return false;
        if (percent)
            number /= 100;
        if (negative)
            number = -number;
        return true;
    }

    // The words and signs of currencies, and the ISO 4217 codes of those that they can stand for; longer ones first.
    static readonly (string Word, string[] Codes)[] CurrencyWords =
    [
        ("US$", ["USD"]),
        .. "USD EUR GBP CHF CAD AUD NZD MXN SEK DKK NOK PLN CZK HUF JPY".Split(' ').Select(code => (code, new[] { code })),
        ("zł", ["PLN"]),
        ("Kč", ["CZK"]),
        ("Ft", ["HUF"]),
        ("kr.", ["SEK", "DKK", "NOK"]),
        ("kr", ["SEK", "DKK", "NOK"]),
        ("Fr.", ["CHF"]),
        ("$", ["USD", "CAD", "AUD", "NZD", "MXN"]),
        ("€", ["EUR"]),
        ("£", ["GBP"]),
        ("¥", ["JPY"]),
    ];

    /// <summary>The currencies, ISO 4217, that can be meant by what stands before or after a number: <c>$1,250</c>, <c>(12.50 EUR)</c>;
    /// none where nothing does.</summary>
    public static IReadOnlyList<string> CurrenciesOf(ReadOnlySpan<char> value)
    {
        value = value.Trim(" ()+-\u2212\u00a0\u202f");
        var negative = false;
        var rest = WithoutCurrency(value, ref negative, out var codes);
        return IsAmount(rest) ? codes : [];

        // “Kr” begins a Kraków, too.
        static bool IsAmount(ReadOnlySpan<char> rest)
        {
            var digit = false;
            foreach (var c in rest)
                if (char.IsLetter(c))
                    return false;
                else
                    digit |= char.IsAsciiDigit(c);
            return digit;
        }
    }

    static ReadOnlySpan<char> WithoutCurrency(ReadOnlySpan<char> value, scoped ref bool negative) =>
        WithoutCurrency(value, ref negative, out _);

    /// <summary>The text without a currency before or after it, and without a minus sign before that.</summary>
    static ReadOnlySpan<char> WithoutCurrency(ReadOnlySpan<char> value, scoped ref bool negative, out string[] codes)
    {
        codes = [];
        if (value.Length < 2 || char.IsAsciiDigit(value[0]) && char.IsAsciiDigit(value[^1]))
            return value;
        if (value[0] is '-' or '−' && !char.IsAsciiDigit(value[1]))
        {
            negative = !negative;
            value = value[1..].TrimStart();
        }
        foreach (var (word, meant) in CurrencyWords)
        {
            var first = value.Length > word.Length && value.StartsWith(word, StringComparison.OrdinalIgnoreCase);
            if (!first && !(value.Length > word.Length && value.EndsWith(word, StringComparison.OrdinalIgnoreCase)))
                continue;
            codes = meant;
            return first ? value[word.Length..].TrimStart() : value[..^word.Length].TrimEnd();
        }
        return value.EndsWith(",-", StringComparison.Ordinal) || value.EndsWith(".-", StringComparison.Ordinal) ? value[..^2] : value;
    }

    internal static bool TryYesNo(string value, out bool yes)
    {
        yes = Yes.Contains(value, StringComparer.OrdinalIgnoreCase);
        return yes || No.Contains(value, StringComparer.OrdinalIgnoreCase);
    }

    static readonly string[] Iso =
    [
        "yyyy-M-d",
        "yyyy/M/d",
        "yyyy.M.d",
        "yyyyMMdd",
        "yyyy-M-d'T'H:m:s",
        "yyyy-M-d H:m:s",
        "yyyy-M-d H:m",
        "yyyy年M月d日",
        "yyyy. M. d.",
        "yyyy. M. d",
    ];
    static readonly string[] MonthFirst =
    [
        "M/d/yyyy",
        "M-d-yyyy",
        "M.d.yyyy",
        "M/d/yy",
        "M-d-yy",
        "M.d.yy",
        "M/d/yyyy H:m",
        "M/d/yyyy H:m:s",
        "M/d/yyyy h:m tt",
        "M/d/yyyy h:m:s tt",
        "M/d/yy H:m",
        "M/d/yy h:m tt",
    ];
    static readonly string[] DayFirst =
    [
        "d/M/yyyy",
        "d-M-yyyy",
        "d.M.yyyy",
        "d. M. yyyy",
        "d/M/yy",
        "d-M-yy",
        "d.M.yy",
        "d/M/yyyy H:m",
        "d/M/yyyy H:m:s",
        "d.M.yyyy H:m",
        "d.M.yyyy H:m:s",
        "d/M/yy H:m",
        "d.M.yy H:m",
    ];

    // Where the month is a word its place does not matter.
    static readonly string[] Worded =
    [
        "MMM d, yyyy",
        "MMMM d, yyyy",
        "MMM d yyyy",
        "MMMM d yyyy",
        "d MMM yyyy",
        "d MMMM yyyy",
        "d. MMM yyyy",
        "d. MMMM yyyy",
        "d-MMM-yyyy",
        "d-MMM-yy",
        "d MMM yy",
        "d/MMM/yyyy",
        "d/MMM/yy",
        "yyyy-MMM-d",
        "d 'de' MMMM 'de' yyyy",
        "MMM-d-yyyy",
        "MMM d, yy",
        "dddd, MMMM d, yyyy",
        "ddd, d MMM yyyy",
    ];
    static readonly CultureInfo[] MonthLanguages =
    [
        CultureInfo.InvariantCulture,
        .. "es de fr it pt nl sv da nb fi pl".Split(' ').Select(CultureInfo.GetCultureInfo),
    ];

    [GeneratedRegex(@"^(\d{4}-\d{1,2}-\d{1,2})[T ]\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d{1,9})?)?\s?(?:Z|UTC|[+-]\d{2}(?::?\d{2})?)?$")]
    private static partial Regex Moment();

    static readonly DateOnly DayZero = new(1899, 12, 30);

    /// <summary>Whether a day number can be one of somebody's life or of a mailing: 1910 to 2099.</summary>
    static bool TryDayNumber(string value, out DateOnly date)
    {
        date = default;
        if (
            value.Length > 16
            || !decimal.TryParse(value, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
            || number is < 3654 or >= 73051
        )
            return false;
        // The time of the day stands behind the point.
        date = DayZero.AddDays((int)number);
        return true;
    }

    /// <summary>
    /// Reads a written date in the given order of its parts; a month in words may stand anywhere, in several languages. Years of two digits
    /// are
    /// those from 1950 to 2049 (as .NET and POSIX-like systems take them); the checks tell dates that are far away.
    /// </summary>
    public static bool TryDate(string value, DateOrder order, out DateOnly date)
    {
        date = default;
        if (order == DateOrder.DayNumber && TryDayNumber(value, out date))
            return true;
        // A moment as programs write it (ISO 8601, RFC 3339) is its day.
        if (value.Length > 14 && value.Contains(':') && Moment().Match(value) is { Success: true } moment)
            value = moment.Groups[1].Value;
        if (value.Length is < 6 or > 40 || !char.IsLetterOrDigit(value[0]))
            return false;
        var letters = value.Any(c => char.IsLetter(c) && c is not ('T' or 'A' or 'P' or 'M' or 'a' or 'p' or 'm' or '年' or '月' or '日'));
        if (!letters)
        {
            var patterns = order switch
            {
                DateOrder.YearMonthDay or DateOrder.DayNumber => Iso,
                DateOrder.MonthDayYear => MonthFirst,
                _ => DayFirst,
            };
            if (!DateTime.TryParseExact(value, patterns, CultureInfo.InvariantCulture, DateTimeStyles.None, out var read))
                return false;
            date = DateOnly.FromDateTime(read);
            return true;
        }
        // Street names and the like end here: a month and a number are needed, and hardly more.
        if (!value.Any(char.IsAsciiDigit))
            return false;
        foreach (var language in MonthLanguages)
            if (
                DateTime.TryParseExact(
                    value.Replace("Sept.", "Sep.").Replace("Sept ", "Sep "),
                    Worded,
                    language,
                    DateTimeStyles.AllowWhiteSpaces,
                    out var read
                )
            )
            {
                date = DateOnly.FromDateTime(read);
                return true;
            }
        return false;
    }
}
