using System.Globalization;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Language;

/// <summary>What the functions of the field language give. Blank in gives blank out, except for <c>join</c>, which skips it, and
/// <c>if</c>.</summary>
static class Functions
{
    /// <summary>The longest text that an expression may come to: nested replacements must not grow without end.</summary>
    public const int LongestText = 100_000;

    public static Value Value(Call e, EvaluationContext context) =>
        e.Function.OverDetails
            ? OverDetails(e, context)
            : e.Function.Name switch
            {
                "if" => Evaluator.Evaluate(e.Arguments[Evaluator.IsYes(Evaluator.Evaluate(e.Arguments[0], context)) ? 1 : 2], context),
                "join" => Join(e, context),
                _ => Strict(e, context),
            };

    public static Value Bounded(string text, Expression e, EvaluationContext context) =>
        text.Length <= LongestText
            ? Language.Value.Of(text)
            : Evaluator.Failed(
                context,
                ProblemKind.OutOfRange,
                Evaluator.FieldName(e, context),
                null,
                $"{Evaluator.Short(e.ToString()!)} comes to more than {LongestText:N0} characters."
            );

    static Value Join(Call e, EvaluationContext context)
    {
        var between = Evaluator.Evaluate(e.Arguments[0], context).Print(context.Locale);
        var parts = e
            .Arguments.Skip(1)
            .Select(a => Evaluator.Evaluate(a, context))
            .Where(v => !v.IsBlank)
            .Select(v => v.Print(context.Locale))
            .ToList();
        return parts.Count == 0 ? Language.Value.Blank : Bounded(string.Join(between, parts), e, context);
    }

    static Value Strict(Call e, EvaluationContext context)
    {
        Span<Value> a = new Value[e.Arguments.Count];
        for (var i = 0; i < a.Length; i++)
            a[i] = Evaluator.Evaluate(e.Arguments[i], context);
        // What to replace with may well be nothing.
        for (var i = 0; i < a.Length; i++)
            if (a[i].IsBlank && !(e.Function.Name == "replace" && i > 0))
                return Language.Value.Blank;
        var text = a[0].Print(context.Locale);
        switch (e.Function.Name)
        {
            case "upper":
                return Language.Value.Of(Texts.Capitals.Upper(text, context.Locale.Culture));
            case "lower":
                return Language.Value.Of(text.ToLower(context.Locale.Culture));
            case "title":
                return Language.Value.Of(NameCase.Of(text));
            case "trim":
                return Language.Value.Of(string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)));
            case "replace":
                var what = a[1].Print(context.Locale);
                return what.Length == 0
                    ? Language.Value.Of(text)
                    : Bounded(text.Replace(what, a[2].Print(context.Locale), StringComparison.OrdinalIgnoreCase), e, context);
            case "left" or "right":
                return Part(e, text, a[1], context);
            case "round":
                return Round(e, a, context);
            case "days":
                return Date(e, a[0], context) is { } from && Date(e, a[1], context) is { } to
                    ? Language.Value.Of((decimal)(to.DayNumber - from.DayNumber))
                    : Language.Value.Blank;
            case "add days":
                return Date(e, a[0], context) is { } start && Number(e, a[1], context) is { } n
                    ? Evaluator.AddDays(Language.Value.Of(start), n, e, context)
                    : Language.Value.Blank;
            case "add months":
                return Date(e, a[0], context) is { } begin && Number(e, a[1], context) is { } months
                    ? AddMonths(begin, months, e, context)
                    : Language.Value.Blank;
            default:
                if (Date(e, a[0], context) is not { } date)
                    return Language.Value.Blank;
                return Language.Value.Of(
                    (decimal)(
                        e.Function.Name switch
                        {
                            "year" => date.Year,
                            "month" => date.Month,
                            "day" => date.Day,
                            _ => Age(date, context.Today),
                        }
                    )
                );
        }
    }

    /// <summary>Whole years between a day and another; who was born on February 29 has a birthday on March 1 in other years.</summary>
    static int Age(DateOnly born, DateOnly today) =>
        today.Year - born.Year - (today.Month < born.Month || today.Month == born.Month && today.Day < born.Day ? 1 : 0);

    static Value Part(Call e, string text, Value count, EvaluationContext context)
    {
        if (Number(e, count, context) is not { } number)
            return Language.Value.Blank;
        var elements = new StringInfo(SoundText.Of(text));
        var n = (int)Math.Clamp(Math.Truncate(number), 0, elements.LengthInTextElements);
        if (n == 0)
            return Language.Value.Blank;
        return Language.Value.Of(
            e.Function.Name == "left"
                ? elements.SubstringByTextElements(0, n)
                : elements.SubstringByTextElements(elements.LengthInTextElements - n, n)
        );
    }

    static Value Round(Call e, ReadOnlySpan<Value> a, EvaluationContext context)
    {
        if (Number(e, a[0], context) is not { } number)
            return Language.Value.Blank;
        if (a.Length == 1)
            return Language.Value.Of(Math.Round(number, MidpointRounding.AwayFromZero));
        return Number(e, a[1], context) is { } digits
            ? Language.Value.Of(Math.Round(number, (int)Math.Clamp(digits, 0, 10), MidpointRounding.AwayFromZero))
            : Language.Value.Blank;
    }

    static Value AddMonths(DateOnly date, decimal months, Expression e, EvaluationContext context)
    {
        var to = date.Year * 12m + date.Month - 1 + Math.Truncate(Math.Clamp(months, -200_000, 200_000));
        return to < 12 || to >= 120_000
            ? Evaluator.Failed(context, ProblemKind.OutOfRange, Evaluator.FieldName(e, context), null, $"{e} is not a date that exists.")
            : Language.Value.Of(date.AddMonths((int)(to - (date.Year * 12m + date.Month - 1))));
    }

    static decimal? Number(Call e, Value value, EvaluationContext context)
    {
        value = Evaluator.AsNumber(value);
        if (value.Kind == ValueKind.Number)
            return value.Number;
        Evaluator.NotA("number", value, e, context);
        return null;
    }

    static DateOnly? Date(Call e, Value value, EvaluationContext context)
    {
        if (value.Kind == ValueKind.Date)
            return value.Date;
        if (value.Kind == ValueKind.Text && WrittenValue.TryDate(value.Text.Trim(), DateOrder.YearMonthDay, out var date))
            return date;
        Evaluator.NotA("date", value, e, context);
        return null;
    }

    static Value OverDetails(Call e, EvaluationContext context)
    {
        var reference = (DetailReference)e.Arguments[0];
        var rows = context.Row.Details(reference.Set);
        if (reference.Column < 0)
            return Language.Value.Of((decimal)rows.Count);
        var column = context.Details[reference.Set].Columns[reference.Column];
        var values = rows.Select(r => Evaluator.Typed(r[reference.Column], column, context)).Where(v => !v.IsBlank).ToList();
        if (e.Function.Name == "count")
            return Language.Value.Of((decimal)values.Count);
        // The sum of nothing is nothing to print, not a zero: {sum(Gifts.Amount) | else "0"} says otherwise where that is wanted.
        if (values.Count == 0)
            return Language.Value.Blank;
        switch (e.Function.Name)
        {
            case "first":
                return values[0];
            case "last":
                return values[^1];
            case "min" or "max":
                var sign = e.Function.Name == "min" ? -1 : 1;
                return values.Aggregate((best, v) => Evaluator.Compare(v, best, context) * sign > 0 ? v : best);
        }
        var sum = 0m;
        foreach (var value in values)
        {
            if (Number(e, value, context) is not { } number)
                return Language.Value.Blank;
            try
            {
                sum += number;
            }
            catch (OverflowException)
            {
                return Evaluator.Failed(
                    context,
                    ProblemKind.OutOfRange,
                    Evaluator.FieldName(e, context),
                    null,
                    $"{e} is too large a number."
                );
            }
        }
        return Language.Value.Of(e.Function.Name == "sum" ? sum : sum / values.Count);
    }
}
