using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Recognition;

/// <summary>What a column of raw text looks like.</summary>
/// <param name="Type">The type that fits its values.</param>
/// <param name="DateOrder">The order of their parts, if they are read as dates.</param>
/// <param name="NumberForm">Their decimal sign, if they are read as numbers.</param>
/// <param name="Ambiguous">True where the values do not tell the order, or the sign, and one reading gives other days or amounts than the
/// other: somebody has to say.</param>
/// <param name="SeveralCurrencies">True for text that would be numbers if they were all of one currency.</param>
/// <param name="ShowsForm">For numbers: true where some value can be read with one decimal sign only.</param>
public sealed record GuessedType(
    ColumnType Type,
    DateOrder DateOrder = DateOrder.YearMonthDay,
    NumberForm NumberForm = NumberForm.Point,
    bool Ambiguous = false,
    bool ShowsForm = false,
    bool SeveralCurrencies = false
);

/// <summary>Decides what a column holds from its heading and a sample of its values, and brings values to canonical form.</summary>
public static class TypeGuesser
{
    /// <summary>The share of a column's values that must be of a type for the column to be.</summary>
    public const double Enough = 0.95;

    /// <summary>
    /// Guesses a column's type from its own values. A column is a number only if no value would lose a leading zero and its heading
    /// does not speak of a code; amounts in several currencies are text, because a number has no currency. What stands for no value
    /// (“n/a”, “TBD”) does not count. Up to one value in twenty may be something else (“waived”), and fewer than half of the dates no day
    /// at all (“2021-02-30”): they are kept as written, and the checks tell them.
    /// Numbers under a heading that speaks of dates are days as spreadsheets keep them.
    /// Where the values leave the order of day and month, or the decimal sign, open, the organization's are proposed and the guess is
    /// marked as ambiguous.
    /// </summary>
    public static GuessedType Guess(string heading, IEnumerable<string?> sample, DateOrder preferred = DateOrder.MonthDayYear)
    {
        bool number = !RoleRecognizer.IsCode(heading),
            yesNo = true,
            dates = true;
        int filled = 0,
            words = 0,
            numbers = 0,
            points = 0,
            commas = 0,
            either = 0,
            packed = 0,
            differ = 0,
            dayNumbers = 0,
            others = 0;
        DateOrder[] orders =
        [
            DateOrder.YearMonthDay,
            preferred,
            preferred == DateOrder.MonthDayYear ? DateOrder.DayMonthYear : DateOrder.MonthDayYear,
        ];
        var read = new int[orders.Length];
        IReadOnlyList<string>? currencies = null;
        foreach (var raw in sample)
        {
            var value = raw?.Trim();
            if (string.IsNullOrEmpty(value))
                continue;
            yesNo = yesNo && WrittenValue.TryYesNo(value, out _);
            // “n/a” stands for no value and says nothing of the others, however many there are.
            if (!WrittenValue.TryYesNo(value, out _) && Placeholders.Contains(value))
                continue;
            filled++;
            if (value.AsSpan().IndexOfAnyInRange('0', '9') < 0)
            {
                words++;
                continue;
            }
            number = number && !WrittenValue.HasLeadingZero(value);
            if (number && WrittenValue.CurrenciesOf(value) is { Count: > 0 } codes)
            {
                currencies = currencies is null ? codes : [.. currencies.Intersect(codes)];
            }
            bool point = WrittenValue.TryNumber(value, NumberForm.Point, out var asPoint),
                comma = WrittenValue.TryNumber(value, NumberForm.Comma, out var asComma);
            if (point || comma)
                numbers++;
            if (WrittenValue.TryDate(value, DateOrder.DayNumber, out _) && !WrittenValue.TryDate(value, DateOrder.YearMonthDay, out _))
                dayNumbers++;
            if (point && !comma)
                points++;
            else if (comma && !point)
                commas++;
            else if (point && asPoint != asComma)
                either++;
            var any = false;
            var days = new DateOnly?[orders.Length];
            for (var i = 0; dates && i < orders.Length; i++)
                if (WrittenValue.TryDate(value, orders[i], out var day))
                {
                    read[i]++;
                    days[i] = day;
                    any = true;
                }
            if (days[1] is { } one && days[2] is { } two && one != two)
                differ++;
            if (value.Length == 8 && any && value.All(char.IsAsciiDigit))
                packed++;
            if (!any && !LooksLikeDate(value) && ++others * 20 > filled + 20)
                dates = false;
        }
        var figures = filled - words;
        var best = Array.IndexOf(read, read.Max());
        // Said of any column: somebody may choose another type, or the list that a newer file is of may have one.
        var reading = new GuessedType(
            ColumnType.Text,
            orders[read[best] > 0 ? best : 1],
            commas > points || commas == points && either > 0 && preferred == DateOrder.DayMonthYear ? NumberForm.Comma : NumberForm.Point
        );
        if (filled == 0)
            return reading;
        if (yesNo)
            return reading with { Type = ColumnType.YesNo };
        var isDate = dates && figures - others >= Enough * filled && read[best] * 2 > figures;
        // 20260304 is a day where every value is one; of one or two values alone nobody can say so, unless the heading does.
        if (isDate && packed > 0 && packed < Math.Max(RoleRecognizer.SpeaksOfDates(heading) ? 1 : 3, Enough * filled))
            isDate = numbers < Enough * filled;
        if (isDate)
            return reading with { Type = ColumnType.Date, Ambiguous = best > 0 && differ > 0 && read[1] == read[2] };
        if (number && currencies is { Count: 0 } && numbers >= Enough * filled)
            return reading with { SeveralCurrencies = true };
        if (number && dayNumbers >= Enough * filled && RoleRecognizer.SpeaksOfDates(heading))
            return reading with { Type = ColumnType.Date, DateOrder = DateOrder.DayNumber };
        if (number && numbers >= Enough * filled)
            return reading with
            {
                Type = ColumnType.Number,
                Ambiguous = commas == 0 && points == 0 && either > 0,
                ShowsForm = commas != points,
            };
        return reading;
    }

    /// <summary>Three numbers with the same sign between them: a date, whether or not there is such a day.</summary>
    static bool LooksLikeDate(string value)
    {
        if (value.Length is < 6 or > 10)
            return false;
        var sign = value.FirstOrDefault(c => !char.IsAsciiDigit(c));
        if (sign is not ('-' or '/' or '.'))
            return false;
        var parts = value.Split(sign);
        return parts.Length == 3
            && parts.All(p => p.Length is > 0 and <= 4 && p.All(char.IsAsciiDigit))
            && parts.Count(p => p.Length > 2) <= 1;
    }
}
