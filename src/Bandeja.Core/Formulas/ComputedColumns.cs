using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Formulas;

/// <summary>A definition that cannot be computed. The message is for the user.</summary>
public sealed class ComputedColumnException(string message) : Exception(message);

/// <summary>The computed columns of a list in an order in which each finds what it reads. Serves one thread.</summary>
public sealed class ComputedColumns
{
    readonly List<(int Index, Expression Expression, HashSet<int> Reads)> ordered = [];
    readonly EvaluationContext context;

    /// <summary>Parses and orders them.</summary>
    /// <exception cref="ComputedColumnException">An expression has a mistake, or columns would be computed from themselves.</exception>
    public ComputedColumns(IReadOnlyList<Column> columns, OrganizationLocale locale, DateOnly today, IReadOnlyList<DetailSet> details)
    {
        context = new EvaluationContext(columns, locale, today, details);
        var names = new Names(columns, details, null, locale);
        var waiting = new List<(int Index, Expression Expression, HashSet<int> Reads)>();
        for (var i = 0; i < columns.Count; i++)
        {
            if (columns[i].Kind != ColumnKind.Computed)
                continue;
            var parsed = FieldParser.ParseExpression(columns[i].Expression ?? "", names);
            if (parsed.Errors.Count > 0)
                throw new ComputedColumnException($"{columns[i].Name}: {parsed.Errors[0].Message}");
            if (
                Reads(parsed.Expression, BuiltIn.DeliveryAddress)
                || Reads(parsed.Expression, BuiltIn.Salutation)
                || Reads(parsed.Expression, BuiltIn.AddressLines)
                || Reads(parsed.Expression, BuiltIn.LongestAddressLine)
            )
                throw new ComputedColumnException(
                    $"{columns[i].Name}: a list column cannot use the delivery address or the "
                        + "salutation, because they are created with each piece."
                );
            if (Reads(parsed.Expression, BuiltIn.PieceNumber))
                throw new ComputedColumnException(
                    $"{columns[i].Name}: a list column cannot use the piece " + "number, because it belongs to a drop."
                );
            var reads = parsed.Expression.Columns().ToHashSet();
            // Names made of roles read whatever has them, also where that is computed itself.
            if (ReadsNames(parsed.Expression))
                reads.UnionWith(Enumerable.Range(0, columns.Count).Where(at => at != i && columns[at].Role != Role.None));
            waiting.Add((i, parsed.Expression, reads));
        }
        while (waiting.Count > 0)
        {
            var next = waiting.FindIndex(w => !waiting.Any(other => w.Reads.Contains(other.Index)));
            if (next < 0)
                throw new ComputedColumnException(
                    $"{string.Join(" and ", waiting.Select(w => columns[w.Index].Name))} would be computed from "
                        + $"{(waiting.Count == 1 ? "itself" : "each other")}."
                );
            ordered.Add(waiting[next]);
            waiting.RemoveAt(next);
        }
    }

    static bool ReadsNames(Expression expression) =>
        expression is BuiltInReference { Which: >= BuiltIn.NameInFull } || expression.Parts().Any(ReadsNames);

    static bool Reads(Expression expression, BuiltIn which) =>
        expression is BuiltInReference b && b.Which == which || expression.Parts().Any(p => Reads(p, which));

    /// <summary>The positions of the computed columns.</summary>
    public IReadOnlyList<int> Indexes => [.. ordered.Select(o => o.Index)];

    /// <summary>The positions of the sets of detail rows that are read.</summary>
    public IReadOnlyList<int> DetailSets => [.. ordered.SelectMany(o => o.Expression.DetailSets()).Distinct()];

    /// <summary>True where values change from one day to the next.</summary>
    public bool ReadToday => ordered.Any(o => o.Expression.ReadsToday);

    /// <summary>Computes a row's columns in place.</summary>
    /// <returns>What could not be computed, with the column's position.</returns>
    public List<(int Column, string Message)> Compute(string?[] values, Func<int, IReadOnlyList<IRow>>? details = null)
    {
        var problems = new List<(int, string)>();
        var row = new ArrayRow(values, details);
        foreach (var (index, expression, _) in ordered)
        {
            var value = Evaluator.Evaluate(expression, context.For(row, 0));
            if (context.Problems.Count > 0)
                problems.Add((index, context.Problems[0].Message));
            values[index] = value.IsBlank ? null : value.ToString();
        }
        return problems;
    }

    /// <summary>The type that fits what an expression gives for some rows; text where nothing is known.</summary>
    public static ColumnType TypeOf(IEnumerable<Value> values)
    {
        var kinds = values.Where(v => !v.IsBlank).Select(v => v.Kind).Distinct().ToList();
        return kinds is [var only]
            ? only switch
            {
                ValueKind.Number => ColumnType.Number,
                ValueKind.Date => ColumnType.Date,
                ValueKind.YesNo => ColumnType.YesNo,
                _ => ColumnType.Text,
            }
            : ColumnType.Text;
    }
}
