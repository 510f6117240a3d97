using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Formulas;

/// <summary>Values as somebody types them into a cell: dates and numbers in the organization's own form, or in the form in which they are
/// stored.</summary>
public static class TypedValue
{
    /// <summary>The order in which an organization types the parts of a date.</summary>
    public static DateOrder DateOrderOf(OrganizationLocale locale) =>
        locale.DateShort[0] switch
        {
            'M' => DateOrder.MonthDayYear,
            'y' => DateOrder.YearMonthDay,
            _ => DateOrder.DayMonthYear,
        };

    /// <summary>Reads a typed value.</summary>
    /// <param name="canonical">The value as it is stored: null for blank, and the value as typed where it does not fit.</param>
    /// <returns>Null where the value fits the column; otherwise what the column takes, as a sentence for whoever typed it.</returns>
    public static string? Read(Column column, string? typed, OrganizationLocale locale, out string? canonical)
    {
        var value = typed?.Trim();
        canonical = string.IsNullOrEmpty(value) ? null : value;
        if (canonical is null || column.Type == ColumnType.Text)
            return null;
        if (column.Type == ColumnType.Number)
            return Number(column, value!, locale, ref canonical);
        var order = DateOrderOf(locale);
        if (WrittenValue.TryCanonical(value, column.Type, order, out canonical))
            return null;
        if (
            column.Type == ColumnType.Date
            && (
                WrittenValue.TryCanonical(value, column.Type, DateOrder.YearMonthDay, out canonical)
                || order == DateOrder.YearMonthDay && WrittenValue.TryCanonical(value, column.Type, DateOrder.DayMonthYear, out canonical)
            )
        )
            return null;
        return column.Type == ColumnType.Date
            ? $"{column.Name} takes a date, for " + "example 2027-03-31."
            : $"{column.Name} must be yes or no.";
    }

    static string? Number(Column column, string value, OrganizationLocale locale, ref string? canonical)
    {
        var comma = locale.Culture.NumberFormat.NumberDecimalSeparator == ",";
        var example = comma ? "1250,00" : "1250.00";
        var isPoint = WrittenValue.TryNumber(value, NumberForm.Point, out var point);
        var (isComma, asComma) = comma && WrittenValue.TryNumber(value, NumberForm.Comma, out var read) ? (true, read) : (false, 0m);
        // What is stored has a point, and is shown so: where both can be meant, somebody has to say.
        if (isPoint && isComma && point != asComma)
            return $"“{value}” can be {asComma.ToString("0.##########", locale.Culture)} or "
                + $"{point.ToString("0.##########", locale.Culture)}. Type the number without a separator for thousands, for example "
                + $"{example}.";
        if (!isPoint && !isComma)
            return $"{column.Name} takes a number, for example {example}.";
        // The sign is not stored: the amount would print in the organization's currency.
        if (WrittenValue.CurrenciesOf(value) is { Count: > 0 } currencies && !currencies.Contains(locale.Currency))
            return $"{column.Name} takes amounts in {locale.Currency}. “{value}” is in another currency, which is not stored with a "
                + "number.";
        canonical = (isPoint ? point : asComma).ToString(System.Globalization.CultureInfo.InvariantCulture);
        return null;
    }
}
