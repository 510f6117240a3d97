using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>How the result of an expression prints where it names no format: as the columns do that it is computed from.</summary>
public static class UsualFormats
{
    /// <summary>The format, and whether the result is a value as the list has it; null where there is none to go by.</summary>
    public static (UsualFormat Format, bool IsStored)? Of(Expression e, IReadOnlyList<Column> columns, IReadOnlyList<DetailSet> details)
    {
        switch (e)
        {
            case ColumnReference c:
                return OfColumn(columns[c.Index]);
            case RowValueReference r:
                return OfColumn(details[r.Set].Columns[r.Column]);
            case DetailReference { Column: >= 0 } d:
                return OfColumn(details[d.Set].Columns[d.Column]);
            case Formatted { Format: Format.Else } f:
                return Of(f.Inner, columns, details);
            case Negation n:
                return Of(n.Inner, columns, details);
            case Binary { Operator: Operator.Add or Operator.Subtract } b:
                return Computed(Together(Of(b.Left, columns, details), Of(b.Right, columns, details)));
            case Binary { Operator: Operator.Multiply } b:
                return Computed(Product(Of(b.Left, columns, details), Of(b.Right, columns, details)));
            // So many dollars for each of something are dollars; dollars of dollars are a share of them.
            case Binary { Operator: Operator.Divide } b:
                return Of(b.Right, columns, details) is { Format.Look: NumberLook.Money } ? null : Quantity(Of(b.Left, columns, details));
            case Call { Function.Name: "if" } c:
                return Together(Of(c.Arguments[1], columns, details), Of(c.Arguments[2], columns, details));
            case Call { Function.Name: "min" or "max" or "first" or "last" } c:
                return Of(c.Arguments[0], columns, details);
            case Call { Function.Name: "sum" or "average" } c:
                return Computed(Of(c.Arguments[0], columns, details));
            case Call { Function.Name: "round" } c:
                return Of(c.Arguments[0], columns, details) is { } rounded ? (rounded.Format with { Decimals = 0 }, false) : null;
            default:
                return null;
        }
    }

    static (UsualFormat, bool)? OfColumn(Column column) =>
        column.Type == ColumnType.Number && UsualFormat.Of(column.Format) is { } format ? (format, true) : null;

    static (UsualFormat, bool)? Computed((UsualFormat Format, bool)? of) => of is { } known ? (known.Format, false) : null;

    /// <summary>Of two that are added: a fee without a sign and an amount of money are money.</summary>
    static (UsualFormat Format, bool IsStored)? Together((UsualFormat Format, bool IsStored)? a, (UsualFormat Format, bool IsStored)? b)
    {
        if (a is not { } one || b is not { } other)
            return a ?? b;
        var decimals = Math.Max(one.Format.Decimals, other.Format.Decimals);
        var stored = one.IsStored && other.IsStored;
        if (one.Format.Look == other.Format.Look)
            return (one.Format with { Decimals = decimals }, stored);
        return one.Format.Look == NumberLook.Money ? (one.Format, stored)
            : other.Format.Look == NumberLook.Money ? (other.Format, stored)
            : null;
    }

    /// <summary>A percentage that is multiplied or divided by a number is no percentage any more: whoever writes Rate * 100 has a percent
    /// sign of their own in mind.</summary>
    static (UsualFormat, bool)? Quantity((UsualFormat Format, bool)? of) =>
        of is { Format.Look: not NumberLook.Percent } known ? (known.Format, false) : null;

    /// <summary>A price times a number, or a percentage of an amount, is money; a number of things with a rate is a number.</summary>
    static (UsualFormat, bool)? Product((UsualFormat Format, bool)? a, (UsualFormat Format, bool)? b) =>
        (a, b) switch
        {
            ({ } one, null) => Quantity(one),
            (null, { } other) => Quantity(other),
            ({ Format.Look: NumberLook.Percent }, { Format.Look: NumberLook.Percent }) => null,
            ({ Format.Look: NumberLook.Money }, { Format.Look: NumberLook.Money }) => null,
            ({ Format.Look: NumberLook.Money } one, _) => one,
            (_, { Format.Look: NumberLook.Money } other) => other,
            ({ Format.Look: NumberLook.Percent }, var other) => other,
            (var one, _) => one,
        };
}
