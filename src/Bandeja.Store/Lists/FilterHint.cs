using System.Globalization;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Store.Lists;

/// <summary>
/// A condition in SQL that every row passing a filter fulfils, for what SQLite can tell more cheaply than the evaluator: numbers
/// compared with a column. The evaluator still decides; the hint only spares it rows that cannot pass, and errs on the wide side.
/// </summary>
static class FilterHint
{
    /// <summary>The condition, or null where there is nothing to say.</summary>
    public static string? Of(Expression filter, IReadOnlyList<Column> columns) =>
        filter switch
        {
            Binary { Operator: Operator.And } and => (Of(and.Left, columns), Of(and.Right, columns)) switch
            {
                (null, var one) => one,
                (var one, null) => one,
                var (a, b) => $"{a} AND {b}",
            },
            Binary { Left: ColumnReference column, Right: Literal { Value: { Kind: ValueKind.Number, Number: var number } } } compared
                when columns[column.Index].Type == ColumnType.Number => Compared(
                $"CAST(r.{RowTable.Cell(columns[column.Index].Id)} AS REAL)",
                compared.Operator,
                (double)number
            ),
            _ => null,
        };

    static string? Compared(string cell, Operator op, double number)
    {
        // The cast is binary floating point, the evaluator decimal: leave room for the difference.
        var slack = Math.Abs(number) * 1e-9 + 1e-9;
        string Number(double n) => n.ToString("R", CultureInfo.InvariantCulture);
        return op switch
        {
            Operator.Greater or Operator.GreaterOrEqual => $"{cell} >= {Number(number - slack)}",
            Operator.Less or Operator.LessOrEqual => $"{cell} <= {Number(number + slack)}",
            Operator.Equal => $"{cell} BETWEEN {Number(number - slack)} AND {Number(number + slack)}",
            _ => null,
        };
    }
}
