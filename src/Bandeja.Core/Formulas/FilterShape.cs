using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Formulas;

/// <summary>How a column is compared in a filter that is picked together instead of typed.</summary>
public enum Comparison
{
    Is,
    IsNot,
    Contains,
    ContainsNot,
    StartsWith,
    EndsWith,
    Less,
    AtMost,
    Greater,
    AtLeast,
    Between,
    OneOf,
    NotOneOf,
    Blank,
    NotBlank,
}

/// <summary>A filter as it is picked together: a group of items of which all or any must hold, or one comparison of a column.</summary>
/// <param name="All">For a group: true where all items must hold, false where any.</param>
/// <param name="Items">The items of a group; null for a comparison.</param>
/// <param name="Column">The column's heading.</param>
/// <param name="Comparison">How it is compared.</param>
/// <param name="Values">With what: one value, two for between, several for one of, none for blank.</param>
public sealed record FilterItem(
    bool? All = null,
    IReadOnlyList<FilterItem>? Items = null,
    string? Column = null,
    Comparison? Comparison = null,
    IReadOnlyList<string>? Values = null
);

/// <summary>Turns a filter that was picked together into the field language and, where it has that shape, back.</summary>
public static class FilterShape
{
    /// <summary>The expression, or null with a sentence on what is missing.</summary>
    public static Expression? ToExpression(FilterItem item, IReadOnlyList<Column> columns, out string? problem)
    {
        problem = null;
        if (item.Items is { } items)
        {
            Expression? whole = null;
            foreach (var part in items)
            {
                var expression = ToExpression(part, columns, out problem);
                if (expression is null)
                    return null;
                whole = whole is null ? expression : new Binary(item.All == false ? Operator.Or : Operator.And, whole, expression);
            }
            if (whole is null)
                problem = "This group is empty. Add a condition or remove the group.";
            return whole;
        }
        var index = columns.ToList().FindIndex(c => c.Name.Equals(item.Column, StringComparison.OrdinalIgnoreCase));
        if (index < 0)
        {
            problem = $"There is no column “{item.Column}”.";
            return null;
        }
        var column = columns[index];
        var values = (item.Values ?? []).Where(v => v.Length > 0).ToList();
        var needed = item.Comparison switch
        {
            Formulas.Comparison.Blank or Formulas.Comparison.NotBlank => 0,
            Formulas.Comparison.Between => 2,
            _ => 1,
        };
        if (values.Count < needed)
        {
            problem = $"{column.Name}: {(needed == 2 ? "two values are" : "a value is")} missing.";
            return null;
        }
        return Compared(
            new ColumnReference(index, column.Name),
            item.Comparison ?? Formulas.Comparison.Is,
            [.. values.Select(v => LiteralOf(v, column.Type))]
        );
    }

    static Expression Compared(ColumnReference c, Comparison comparison, Literal[] v) =>
        comparison switch
        {
            Comparison.Is => new Binary(Operator.Equal, c, v[0]),
            Comparison.IsNot => new Binary(Operator.NotEqual, c, v[0]),
            Comparison.Contains => new Binary(Operator.Contains, c, v[0]),
            Comparison.ContainsNot => new LogicalNot(new Binary(Operator.Contains, c, v[0])),
            Comparison.StartsWith => new Binary(Operator.StartsWith, c, v[0]),
            Comparison.EndsWith => new Binary(Operator.EndsWith, c, v[0]),
            Comparison.Less => new Binary(Operator.Less, c, v[0]),
            Comparison.AtMost => new Binary(Operator.LessOrEqual, c, v[0]),
            Comparison.Greater => new Binary(Operator.Greater, c, v[0]),
            Comparison.AtLeast => new Binary(Operator.GreaterOrEqual, c, v[0]),
            Comparison.Between => new Between(c, v[0], v[1]),
            Comparison.OneOf => new OneOf(c, new(v)),
            Comparison.NotOneOf => new LogicalNot(new OneOf(c, new(v))),
            Comparison.Blank => new BlankTest(c, false),
            _ => new BlankTest(c, true),
        };

    static Literal LiteralOf(string value, ColumnType type)
    {
        if (type == ColumnType.Number && WrittenValue.TryNumber(value.Trim(), out var number) && number >= 0)
            return new(Value.Of(number));
        if (
            type == ColumnType.Date
            && DateOnly.TryParseExact(
                value.Trim(),
                "yyyy-MM-dd",
                System.Globalization.CultureInfo.InvariantCulture,
                System.Globalization.DateTimeStyles.None,
                out var date
            )
        )
            return new(Value.Of(date));
        if (type == ColumnType.YesNo && value is "yes" or "no")
            return new(Value.Of(value == "yes"));
        return new(Value.Of(value));
    }

    /// <summary>The shape of an expression, or null where it can only be typed.</summary>
    public static FilterItem? Of(Expression expression)
    {
        if (expression is Binary { Operator: Operator.And or Operator.Or } joined)
        {
            var items = new List<FilterItem>();
            return Collect(joined, joined.Operator, items) ? new(joined.Operator == Operator.And, items) : null;
        }
        return Single(expression);
    }

    static bool Collect(Expression expression, Operator op, List<FilterItem> items)
    {
        if (expression is Binary joined && joined.Operator == op)
            return Collect(joined.Left, op, items) && Collect(joined.Right, op, items);
        if (Of(expression) is not { } item)
            return false;
        items.Add(item);
        return true;
    }

    static FilterItem? Single(Expression expression) =>
        expression switch
        {
            Binary { Left: ColumnReference c, Right: Literal v, Operator: var op } when Binaries.TryGetValue(op, out var comparison) =>
                Item(c, comparison, v),
            LogicalNot { Inner: Binary { Operator: Operator.Contains, Left: ColumnReference c, Right: Literal v } } => Item(
                c,
                Comparison.ContainsNot,
                v
            ),
            LogicalNot { Inner: OneOf { Inner: ColumnReference c, Choices: var choices } } when choices.All(x => x is Literal) => Item(
                c,
                Comparison.NotOneOf,
                [.. choices.Cast<Literal>()]
            ),
            OneOf { Inner: ColumnReference c, Choices: var choices } when choices.All(x => x is Literal) => Item(
                c,
                Comparison.OneOf,
                [.. choices.Cast<Literal>()]
            ),
            Between { Inner: ColumnReference c, Low: Literal low, High: Literal high } => Item(c, Comparison.Between, low, high),
            BlankTest { Inner: ColumnReference c, Not: var not } => Item(c, not ? Comparison.NotBlank : Comparison.Blank),
            _ => null,
        };

    static readonly Dictionary<Operator, Comparison> Binaries = new()
    {
        [Operator.Equal] = Comparison.Is,
        [Operator.NotEqual] = Comparison.IsNot,
        [Operator.Contains] = Comparison.Contains,
        [Operator.StartsWith] = Comparison.StartsWith,
        [Operator.EndsWith] = Comparison.EndsWith,
        [Operator.Less] = Comparison.Less,
        [Operator.LessOrEqual] = Comparison.AtMost,
        [Operator.Greater] = Comparison.Greater,
        [Operator.GreaterOrEqual] = Comparison.AtLeast,
    };

    static FilterItem Item(ColumnReference column, Comparison comparison, params Literal[] values) =>
        new(null, null, column.Name, comparison, [.. values.Select(v => v.Value.ToString())]);
}
