namespace Bandeja.Core.Language;

/// <summary>A function of the field language.</summary>
/// <param name="Name">As it is written, in small letters; may be two words.</param>
/// <param name="Least">The least number of values in its brackets.</param>
/// <param name="Most">The most.</param>
/// <param name="Usage">How it is written, for messages and help.</param>
/// <param name="OverDetails">True where it sums up detail rows.</param>
public sealed record Function(string Name, int Least, int Most, string Usage, bool OverDetails = false)
{
    const int Many = 50;

    /// <summary>All functions.</summary>
    public static readonly IReadOnlyList<Function> All =
    [
        new("upper", 1, 1, "upper(text)"),
        new("lower", 1, 1, "lower(text)"),
        new("title", 1, 1, "title(text)"),
        new("trim", 1, 1, "trim(text)"),
        new("left", 2, 2, "left(text, how many)"),
        new("right", 2, 2, "right(text, how many)"),
        new("replace", 3, 3, "replace(text, what, with)"),
        new("join", 2, Many, "join(between, a, b, …)"),
        new("if", 3, 3, "if(condition, then, else)"),
        new("round", 1, 2, "round(number, decimals)"),
        new("days", 2, 2, "days(from, to)"),
        new("add days", 2, 2, "add days(date, how many)"),
        new("add months", 2, 2, "add months(date, how many)"),
        new("year", 1, 1, "year(date)"),
        new("month", 1, 1, "month(date)"),
        new("day", 1, 1, "day(date)"),
        new("age", 1, 1, "age(date)"),
        new("sum", 1, 1, "sum(Gifts.Amount)", true),
        new("count", 1, 1, "count(Gifts)", true),
        new("min", 1, 1, "min(Gifts.Amount)", true),
        new("max", 1, 1, "max(Gifts.Amount)", true),
        new("average", 1, 1, "average(Gifts.Amount)", true),
        new("first", 1, 1, "first(Gifts.Date)", true),
        new("last", 1, 1, "last(Gifts.Date)", true),
    ];

    static readonly Dictionary<string, Function> ByName = All.ToDictionary(f => f.Name, StringComparer.OrdinalIgnoreCase);

    /// <summary>The function of a name, or null.</summary>
    public static Function? Named(string name) => ByName.GetValueOrDefault(name);

    /// <summary>The function whose name stands at a position with an opening bracket after it, and where that bracket is.</summary>
    internal static (Function Function, int Bracket)? At(string text, int at, int end)
    {
        foreach (var function in All)
        {
            var name = function.Name;
            if (string.Compare(text, at, name, 0, name.Length, StringComparison.OrdinalIgnoreCase) != 0)
                continue;
            var bracket = at + name.Length;
            while (bracket < end && char.IsWhiteSpace(text[bracket]))
                bracket++;
            if (bracket < end && text[bracket] == '(')
                return (function, bracket);
        }
        return null;
    }

    /// <inheritdoc/>
    public bool Equals(Function? other) => other?.Name == Name;

    /// <inheritdoc/>
    public override int GetHashCode() => Name.GetHashCode(StringComparison.Ordinal);
}
