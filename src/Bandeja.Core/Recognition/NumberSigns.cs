using Bandeja.Core.Lists;

namespace Bandeja.Core.Recognition;

/// <summary>What stands with most numbers of a column. It is not kept with them: a field prints it where its format says so.</summary>
public enum NumberSign
{
    None,
    Currency,
    Percent,
}

/// <summary>Finds what stands with a column's numbers, so that whoever imports them is told how to print it.</summary>
public static class NumberSigns
{
    /// <summary>The sign that at least half of the filled values have. A few amounts such as “50 USD” among plain numbers do not
    /// make a column of money.</summary>
    public static NumberSign Usual(IEnumerable<string?> values)
    {
        var (filled, currency, percent) = (0, 0, 0);
        foreach (var value in values)
        {
            if (string.IsNullOrWhiteSpace(value))
                continue;
            filled++;
            if (WrittenValue.HasCurrency(value))
                currency++;
            else if (value.AsSpan().TrimEnd(" )").EndsWith('%'))
                percent++;
        }
        return filled == 0 ? NumberSign.None
            : currency * 2 >= filled ? NumberSign.Currency
            : percent * 2 >= filled ? NumberSign.Percent
            : NumberSign.None;
    }

    /// <summary>A sentence for the columns that have one of the signs; null where there are none.</summary>
    public static string? Note(NumberSign sign, IReadOnlyList<string> columns)
    {
        if (sign == NumberSign.None || columns.Count == 0)
            return null;
        var many = columns.Count > 1;
        var names = string.Join(", ", columns.Take(3).Select(c => $"“{c}”")) + (columns.Count > 3 ? $", and {columns.Count - 3} more" : "");
        var (what, format) = sign == NumberSign.Currency ? ("currency signs", "money") : ("percent signs", "percent");
        return $"{names} {(many ? "have" : "has")} {what}, which are not stored with the numbers. "
            + $"To print them, choose the format {format} for the {(many ? "fields" : "field")}.";
    }
}
