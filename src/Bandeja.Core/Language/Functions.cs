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

    /// <summary>A text that is built only where it may be so long, and where the field may still cost that.</summary>
    /// <param name="length">How long it will be, UTF-16 units.</param>
    public static Value Built(long length, Expression e, EvaluationContext context, Func<string> build) =>
        length > LongestText ? TooLong(e, context)
        : !context.Budget.TakeCharacters(length) ? Evaluator.Spent(e, context)
        : Language.Value.Of(build());

    /// <summary>A text in another form that is about as long.</summary>
    public static Value Changed(Value value, Expression e, EvaluationContext context, Func<string, string> change)
    {
        var text = value.Print(context.Locale);
        return Built(text.Length, e, context, () => change(text));
    }

    /// <summary>A text without spaces at its ends, and with one between its words.</summary>
    public static string Trimmed(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    /// <summary>True where a text may be searched for another: at worst each place of it is compared with all of the other.</summary>
    public static bool IsSearched(string text, string what, EvaluationContext context) =>
        context.Budget.TakeSteps((long)text.Length * what.Length / 1000);

    static Value TooLong(Expression e, EvaluationContext context) =>
        Evaluator.Failed(
            context,
            ProblemKind.OutOfRange,
            Evaluator.FieldName(e, context),
            null,
            $"{Evaluator.Short(e.ToString()!)} is longer than {LongestText:N0} characters."
        );

    static Value Join(Call e, EvaluationContext context)
    {
        var between = Evaluator.Evaluate(e.Arguments[0], context).Print(context.Locale);
        var parts = new List<string>();
        var length = 0L;
        foreach (var argument in e.Arguments.Skip(1))
        {
            if (Evaluator.Evaluate(argument, context) is not { IsBlank: false } value)
                continue;
            parts.Add(value.Print(context.Locale));
            length += parts[^1].Length + (parts.Count > 1 ? between.Length : 0);
            if (length > LongestText)
                return TooLong(e, context);
        }
        return parts.Count == 0 ? Language.Value.Blank : Built(length, e, context, () => string.Join(between, parts));
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
                return Changed(a[0], e, context, t => Texts.Capitals.Upper(t, context.Locale.Culture));
            case "lower":
                return Changed(a[0], e, context, t => t.ToLower(context.Locale.Culture));
            case "title":
                return Changed(a[0], e, context, NameCase.Of);
            case "trim":
                return Changed(a[0], e, context, Trimmed);
            case "replace":
                return Replaced(e, text, a[1].Print(context.Locale), a[2].Print(context.Locale), context);
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

    static Value Replaced(Call e, string text, string what, string with, EvaluationContext context)
    {
        if (what.Length == 0)
            return Language.Value.Of(text);
        if (!IsSearched(text, what, context))
            return Evaluator.Spent(e, context);
        // How long it will be is known before anything is built.
        var found = 0;
        for (var at = 0; (at = text.IndexOf(what, at, StringComparison.OrdinalIgnoreCase)) >= 0; at += what.Length)
            found++;
        var length = text.Length + found * ((long)with.Length - what.Length);
        return Built(length, e, context, () => text.Replace(what, with, StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>Whole years between a day and another; who was born on February 29 has a birthday on March 1 in other years.</summary>
    static int Age(DateOnly born, DateOnly today) =>
        today.Year - born.Year - (today.Month < born.Month || today.Month == born.Month && today.Day < born.Day ? 1 : 0);

    static Value Part(Call e, string text, Value count, EvaluationContext context)
    {
        if (Number(e, count, context) is not { } number)
            return Language.Value.Blank;
        if (!context.Budget.TakeCharacters(text.Length))
            return Evaluator.Spent(e, context);
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
        if (!context.Budget.TakeSteps(rows.Count))
            return Evaluator.Spent(e, context);
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
