using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Formulas;

/// <summary>A filter in the field language, bound to a list's columns: the same expressions as in a letter, without braces.</summary>
public sealed class Filter
{
    readonly Expression expression;
    readonly EvaluationContext context;

    Filter(Expression expression, EvaluationContext context) => (this.expression, this.context) = (expression, context);

    /// <summary>Parses a filter. On failure the result is null and the errors say what and where.</summary>
    public static Filter? Parse(
        string text,
        IReadOnlyList<Column> columns,
        DateOnly today,
        OrganizationLocale locale,
        out IReadOnlyList<LanguageError> errors,
        IReadOnlyList<DetailSet>? details = null
    )
    {
        var parsed = FieldParser.ParseCondition(text, new Names(columns, details, null, locale));
        errors = parsed.Errors;
        return parsed.Errors.Count > 0 ? null : new(parsed.Expression, new EvaluationContext(columns, locale, today, details));
    }

    /// <summary>What it says.</summary>
    public Expression Expression => expression;

    /// <summary>The positions of the columns the filter looks at.</summary>
    public IReadOnlyList<int> Columns => [.. expression.Columns().Distinct()];

    /// <summary>The positions of the sets of detail rows it looks at.</summary>
    public IReadOnlyList<int> DetailSets => [.. expression.DetailSets().Distinct()];

    /// <summary>True where the row passes. What cannot be computed for a row does not pass.</summary>
    public bool Passes(IRow row) => Evaluator.Evaluate(expression, context.For(row, 0)) is { Kind: ValueKind.YesNo, Bool: true };
}
