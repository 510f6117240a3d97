using Bandeja.Core.Lists;

namespace Bandeja.Core.Recognition;

/// <summary>What stands with most numbers of a column. It is not kept with them: a field prints it where its format says so.</summary>
public enum NumberSign
{
    None,
    Currency,
    Percent,
}

/// <summary>Counts what stands with a column's numbers, so that whoever imports them is told how to print it.</summary>
public sealed class NumberSigns
{
    int filled,
        currencies,
        percents;

    /// <summary>The sign that at least half of the filled values have. A few amounts such as “50 USD” among plain numbers do not
    /// make a column of money.</summary>
    public NumberSign Usual =>
        filled == 0 ? NumberSign.None
        : currencies >= filled - currencies ? NumberSign.Currency
        : percents >= filled - percents ? NumberSign.Percent
        : NumberSign.None;

    /// <summary>Counts a value as it is written.</summary>
    public void Add(string? value)
    {
        if (string.IsNullOrWhiteSpace(value))
            return;
        filled++;
        if (WrittenValue.HasCurrency(value))
            currencies++;
        else if (value.AsSpan().TrimEnd(" )").EndsWith('%'))
            percents++;
    }

    /// <summary>A sentence for each sign that columns have.</summary>
    public static IEnumerable<string> Notes(IEnumerable<(string Column, NumberSign Sign)> columns) =>
        columns
            .Where(c => c.Sign != NumberSign.None)
            .GroupBy(c => c.Sign, c => c.Column)
            .OrderBy(g => g.Key)
            .Select(g => Note(g.Key, [.. g]));

    static string Note(NumberSign sign, List<string> columns)
    {
        var many = columns.Count > 1;
        var (what, format) = sign == NumberSign.Currency ? ("currency signs", "money") : ("percent signs", "percent");
        return $"{Names(columns)} {(many ? "have" : "has")} {what}, which are not stored with the numbers. "
            + $"To print them, choose the format {format} for the {(many ? "fields" : "field")}.";
    }

    static string Names(List<string> columns)
    {
        List<string> named = [.. columns.Take(3).Select(c => $"“{c}”")];
        if (columns.Count > 3)
            named.Add($"{columns.Count - 3} more");
        return named.Count switch
        {
            1 => named[0],
            2 => $"{named[0]} and {named[1]}",
            _ => $"{string.Join(", ", named.SkipLast(1))}, and {named[^1]}",
        };
    }
}
