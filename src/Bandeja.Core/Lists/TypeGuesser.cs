using System.Globalization;
using Bandeja.Core.Checks;

namespace Bandeja.Core.Lists;

/// <summary>In which order the parts of a written date stand.</summary>
public enum DateOrder { YearMonthDay, MonthDayYear, DayMonthYear }

/// <summary>What a column of raw text looks like.</summary>
/// <param name="Type">The type that fits every sampled value.</param>
/// <param name="DateOrder">For dates: the order of their parts.</param>
public sealed record GuessedType(ColumnType Type, DateOrder DateOrder = DateOrder.YearMonthDay);

/// <summary>Decides what a column holds from its heading and a sample of its values, and brings values to canonical form.</summary>
public static class TypeGuesser
{
    static readonly string[] Yes = ["yes", "y", "true", "si", "sí", "ja", "oui"];
    static readonly string[] No = ["no", "n", "false", "nein", "non"];

    /// <summary>
    /// Guesses a column's type. A column is a number only if no value would lose a leading zero and its heading does not
    /// speak of a code. A few words without a digit among numbers or dates (“waived”, “n/a”; at most one in fifty), a few
    /// numbers in another form (“1.250,00”; at most one in three) and a few dates that are none (“2021-02-30”; at most one in
    /// five) do not change what the column is: they are kept as written, and the checks tell them.
    /// Where the order of day and month cannot be told, <paramref name="preferred"/> decides.
    /// </summary>
    public static GuessedType Guess(string heading, IEnumerable<string?> sample, DateOrder preferred = DateOrder.MonthDayYear)
    {
        bool number = !RoleRecognizer.IsCode(heading), yesNo = true, dates = true;
        int filled = 0, words = 0, plain = 0;
        DateOrder[] orders = [DateOrder.YearMonthDay, preferred, preferred == DateOrder.MonthDayYear ? DateOrder.DayMonthYear : DateOrder.MonthDayYear];
        var read = new int[orders.Length];
        foreach (var raw in sample)
        {
            var value = raw?.Trim();
            if (string.IsNullOrEmpty(value)) continue;
            filled++;
            yesNo = yesNo && TryYesNo(value, out _);
            if (value.AsSpan().IndexOfAnyInRange('0', '9') < 0) words++;
            else
            {
                if (number && !HasLeadingZero(value) && TryNumber(value, out _)) plain++;
                else number = number && !HasLeadingZero(value) && NumberText.Read(value) is not null;
                var any = false;
                for (var i = 0; dates && i < orders.Length; i++)
                    if (TryDate(value, orders[i], out _)) { read[i]++; any = true; }
                dates = dates && (any || LooksLikeDate(value));
            }
            if (!number && !yesNo && !dates) break;
        }
        var figures = filled - words;
        if (filled == 0) return new(ColumnType.Text);
        if (yesNo) return new(ColumnType.YesNo);
        if (words * 50 > filled) return new(ColumnType.Text);
        if (number && plain * 3 >= figures * 2) return new(ColumnType.Number);
        var best = Array.IndexOf(read, read.Max());
        return dates && read[best] * 5 >= figures * 4 ? new(ColumnType.Date, orders[best]) : new(ColumnType.Text);
    }

    /// <summary>Three numbers with the same sign between them: a date, whether or not there is such a day.</summary>
    static bool LooksLikeDate(string value)
    {
        if (value.Length is < 6 or > 10) return false;
        var sign = value.FirstOrDefault(c => !char.IsAsciiDigit(c));
        if (sign is not ('-' or '/' or '.')) return false;
        var parts = value.Split(sign);
        return parts.Length == 3 && parts.All(p => p.Length is > 0 and <= 4 && p.All(char.IsAsciiDigit)) && parts.Count(p => p.Length > 2) <= 1;
    }

    /// <summary>
    /// The canonical form of a value of a type; false where the value is not of that type, and then
    /// <paramref name="canonical"/> is the value as it was, so nothing is lost. Blank is null.
    /// </summary>
    public static bool TryCanonical(string? raw, ColumnType type, DateOrder order, out string? canonical)
    {
        canonical = string.IsNullOrWhiteSpace(raw) ? null : raw;
        if (canonical is null || type == ColumnType.Text) return true;
        var value = canonical.AsSpan().Trim();
        switch (type)
        {
            case ColumnType.Number when TryNumber(value, out var number):
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

    /// <summary>Reads <c>1250</c>, <c>1,250.00</c>, <c>$1,250</c>, <c>(12.50)</c>: at most 15 significant digits, as a spreadsheet keeps.</summary>
    public static bool TryNumber(ReadOnlySpan<char> value, out decimal number)
    {
        number = 0;
        if (value.IsEmpty || value.Length > 24) return false;
        var digits = 0;
        foreach (var c in value) if (char.IsAsciiDigit(c)) digits++;
        if (digits is 0 or > 15) return false;
        if (value[0] is '$' or '€' or '£') value = value[1..];
        else if (value.Length > 1 && value[0] == '-' && value[1] == '$') value = $"-{value[2..]}";
        return decimal.TryParse(value, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint | NumberStyles.AllowThousands | NumberStyles.AllowParentheses, CultureInfo.InvariantCulture, out number)
            && GroupsAreThousands(value);
    }

    /// <summary>1,250 is a number; 12,50 is somebody's decimal comma and must not become 1250.</summary>
    static bool GroupsAreThousands(ReadOnlySpan<char> value)
    {
        var whole = value.IndexOf('.') is var dot and >= 0 ? value[..dot] : value;
        for (var i = 0; i < whole.Length; i++)
        {
            if (whole[i] != ',') continue;
            var run = 0;
            while (i + 1 + run < whole.Length && char.IsAsciiDigit(whole[i + 1 + run])) run++;
            if (run != 3) return false;
        }
        return true;
    }

    internal static bool TryYesNo(string value, out bool yes)
    {
        yes = Yes.Contains(value, StringComparer.OrdinalIgnoreCase);
        return yes || No.Contains(value, StringComparer.OrdinalIgnoreCase);
    }

    static readonly string[] Iso = ["yyyy-M-d", "yyyy/M/d", "yyyy.M.d", "yyyy-M-d'T'H:m:s", "yyyy-M-d H:m:s", "yyyy-M-d H:m"];
    static readonly string[] MonthFirst = ["M/d/yyyy", "M-d-yyyy", "M.d.yyyy", "MMM d, yyyy", "MMMM d, yyyy", "M/d/yyyy H:m", "M/d/yyyy H:m:s"];
    static readonly string[] DayFirst = ["d/M/yyyy", "d-M-yyyy", "d.M.yyyy", "d MMM yyyy", "d MMMM yyyy", "d-MMM-yyyy", "d/M/yyyy H:m", "d/M/yyyy H:m:s"];

    /// <summary>Reads a written date in the given order of its parts. Two-digit years are not accepted: they cannot be told apart from days.</summary>
    public static bool TryDate(string value, DateOrder order, out DateOnly date)
    {
        date = default;
        if (value.Length is < 8 or > 24 || !char.IsAsciiLetterOrDigit(value[0])) return false;
        var patterns = order switch { DateOrder.YearMonthDay => Iso, DateOrder.MonthDayYear => MonthFirst, _ => DayFirst };
        if (!DateTime.TryParseExact(value, patterns, CultureInfo.InvariantCulture, DateTimeStyles.None, out var read)) return false;
        date = DateOnly.FromDateTime(read);
        return true;
    }
}
