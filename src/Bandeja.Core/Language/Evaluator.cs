using System.Globalization;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Language;

/// <summary>What could not be computed for a recipient.</summary>
public enum ProblemKind
{
    /// <summary>A field came out blank and says nothing about what to print then.</summary>
    Blank,

    /// <summary>A value does not fit what is done with it: text in a calculation, a date that is none.</summary>
    WrongType,

    /// <summary>A division by zero, or a result beyond the range of decimals.</summary>
    OutOfRange,

    /// <summary>An address is wrong: no street, a country that nobody knows.</summary>
    Address,

    /// <summary>The field names a column that the list does not have, or does not parse.</summary>
    Unknown,
}

/// <summary>Something that could not be computed, with the field, the value and the reason.</summary>
/// <param name="Place">Where the field stands, for instance “paragraph 4”; null outside of letters.</param>
public sealed record Problem(ProblemKind Kind, string Field, string? Value, string Message, string? Place = null);

/// <summary>Evaluates expressions. The same text gives the same answer on the bench, in a run and in a filter.</summary>
public static class Evaluator
{
    /// <summary>What a field prints: the value formatted, or nothing, with a problem reported, where it is blank and has no
    /// <c>else</c>. A number without a format prints as is usual for the columns it comes from.</summary>
    /// <param name="beside">The sign that is typed beside the field, and not printed a second time.</param>
    public static string Print(Expression expression, EvaluationContext context, NumberLook? beside = null) =>
        Printed(expression, context) switch
        {
            { Kind: ValueKind.Number } number when UsualFormats.Of(expression, context.Columns, context.Details) is { } usual =>
                NumberPrint.Of(number.Number, usual.Format, usual.IsStored, usual.Format.Look != beside, context.Locale),
            var value => Plain(value, context),
        };

    /// <summary>As <see cref="Print"/>, but a number as it is stored: for what a machine reads, such as a link, a barcode, or the name of a
    /// file.</summary>
    public static string PrintPlain(Expression expression, EvaluationContext context) => Plain(Printed(expression, context), context);

    // A text is written alike in every language: whose it is need not be known.
    static string Plain(Value value, EvaluationContext context) =>
        value.Kind == ValueKind.Text ? value.Text
        : value.IsBlank ? ""
        : value.Print(context.Locale);

    /// <summary>A field's value; blank, and that reported, where it has none and does not say what to print then.</summary>
    static Value Printed(Expression expression, EvaluationContext context)
    {
        var before = context.Problems.Count;
        var value = Evaluate(expression, context);
        if (!value.IsBlank)
            return value;
        if (context.Problems.Count == before && !HasElse(expression))
            context.Report(ProblemKind.Blank, FieldName(expression, context), null, $"{FieldName(expression, context)} is blank.");
        return Value.Blank;
    }

    /// <summary>True where a field says what to print when it is blank.</summary>
    public static bool HasElse(Expression expression) => expression is Formatted f && (f.Format == Format.Else || HasElse(f.Inner));

    /// <summary>What a field is called in a message: the heading of the column it prints, or its text.</summary>
    public static string FieldName(Expression expression, EvaluationContext context)
    {
        if (RowValue(expression) is { } row)
            return row.Name;
        var columns = expression.Columns().Distinct().ToList();
        // The column that is blank is the one to mend, not the first one named.
        foreach (var c in columns)
            if (context.Row[c] is null)
                return context.Columns[c].Name;
        return columns.Count > 0 ? context.Columns[columns[0]].Name
            : expression is UnknownName u ? u.Name
            : expression is Formatted f ? FieldName(f.Inner, context)
            : expression.ToString()!;
    }

    static RowValueReference? RowValue(Expression expression) =>
        expression as RowValueReference ?? expression.Parts().Select(RowValue).FirstOrDefault(r => r is not null);

    /// <summary>Evaluates an expression for the recipient that the context stands at. Never throws; what cannot be computed is blank and
    /// reported.</summary>
    public static Value Evaluate(Expression expression, EvaluationContext context)
    {
        context.Budget.Enter();
        var value = context.Budget.IsSpent ? Spent(expression, context) : Of(expression, context);
        context.Budget.Leave();
        return value;
    }

    /// <summary>What a field comes to that asks for more than a field may cost: nothing, and that is reported once.</summary>
    internal static Value Spent(Expression expression, EvaluationContext context) =>
        context.Budget.Tell()
            ? Failed(
                context,
                ProblemKind.OutOfRange,
                FieldName(expression, context),
                null,
                $"“{Short(expression.ToString()!)}” is too much to compute: at most {EvaluationBudget.MostSteps:N0} steps and "
                    + $"{EvaluationBudget.MostCharacters:N0} characters for one field. Make it simpler."
            )
            : Value.Blank;

    static Value Of(Expression expression, EvaluationContext context) =>
        expression switch
        {
            Literal e => e.Value,
            ColumnReference e => ColumnValue(e.Index, context),
            RowValueReference e => Typed(context.RowOf(e.Set)?[e.Column], context.Details[e.Set].Columns[e.Column], context),
            BuiltInReference e => context.BuiltInValue(e.Which),
            UnknownRows e => Failed(context, ProblemKind.Unknown, e.Name, null, $"This list has no detail rows “{e.Name}”."),
            Broken { Source: ['{', ..] } e => Failed(
                context,
                ProblemKind.Unknown,
                Short(e.Source),
                null,
                $"The brace in “{Short(e.Source)}” is not closed, so nothing is printed there."
            ),
            Broken e => Failed(
                context,
                ProblemKind.Unknown,
                Short(e.Source),
                null,
                $"“{Short(e.Source)}” has a mistake in it, so nothing is printed there."
            ),
            UnknownName e => Failed(context, ProblemKind.Unknown, e.Name, null, $"There is no column “{e.Name}” in this list."),
            Negation e => Arithmetic(Operator.Subtract, Value.Of(0m), Evaluate(e.Inner, context), e, context),
            LogicalNot e => Value.Of(!IsYes(Evaluate(e.Inner, context))),
            BlankTest e => Value.Of(Evaluate(e.Inner, context).IsBlank != e.Not),
            OneOf e => OneOfValue(e, context),
            Between e => BetweenValue(e, context),
            Binary e => BinaryValue(e, context),
            Formatted e => FormattedValue(e, context),
            Call e => Functions.Value(e, context),
            _ => throw new InvalidOperationException($"No rule for {expression.GetType().Name}."),
        };

    internal static Value Failed(EvaluationContext context, ProblemKind kind, string field, string? value, string message)
    {
        context.Report(kind, field, value, message);
        return Value.Blank;
    }

    static Value ColumnValue(int index, EvaluationContext context) => Typed(context.Row[index], context.Columns[index], context);

    /// <summary>The value of a cell by its column's type.</summary>
    internal static Value Typed(string? raw, Column column, EvaluationContext context)
    {
        if (string.IsNullOrWhiteSpace(raw))
            return Value.Blank;
        switch (column.Type)
        {
            case ColumnType.Number:
                return decimal.TryParse(
                    raw,
                    NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var number
                )
                    ? Value.Of(number)
                    : Failed(context, ProblemKind.WrongType, column.Name, raw, $"{column.Name} is “{Short(raw)}”, which is not a number.");
            case ColumnType.Date:
                return DateOnly.TryParseExact(raw, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date)
                    ? Value.Of(date)
                    : Failed(context, ProblemKind.WrongType, column.Name, raw, $"{column.Name} is “{Short(raw)}”, which is not a date.");
            case ColumnType.YesNo:
                return raw is "yes" or "no"
                    ? Value.Of(raw == "yes")
                    : Failed(context, ProblemKind.WrongType, column.Name, raw, $"{column.Name} is “{Short(raw)}”, which is not yes or no.");
            default:
                return Value.Of(raw);
        }
    }

    internal static string Short(string value) => value.Length <= 40 ? value : value[..39] + "…";

    internal static bool IsYes(Value value) => value is { Kind: ValueKind.YesNo, Bool: true };

    static Value OneOfValue(OneOf e, EvaluationContext context)
    {
        var value = Evaluate(e.Inner, context);
        return Value.Of(e.Choices.Any(c => Compare(value, Evaluate(c, context), context) == 0));
    }

    static Value BetweenValue(Between e, EvaluationContext context)
    {
        var value = Evaluate(e.Inner, context);
        return Value.Of(Compare(value, Evaluate(e.Low, context), context) >= 0 && Compare(value, Evaluate(e.High, context), context) <= 0);
    }

    static Value BinaryValue(Binary e, EvaluationContext context)
    {
        var left = Evaluate(e.Left, context);
        switch (e.Operator)
        {
            case Operator.And:
                return Value.Of(IsYes(left) && IsYes(Evaluate(e.Right, context)));
            case Operator.Or:
                return Value.Of(IsYes(left) || IsYes(Evaluate(e.Right, context)));
        }
        var right = Evaluate(e.Right, context);
        switch (e.Operator)
        {
            case Operator.Join:
                var (first, second) = (left.Print(context.Locale), right.Print(context.Locale));
                return Functions.Built(first.Length + second.Length, e, context, () => first + second);
            case Operator.Contains:
                var (within, sought) = (Text(left, context), Text(right, context));
                return Functions.IsSearched(within, sought, context)
                    ? Value.Of(within.Contains(sought, StringComparison.OrdinalIgnoreCase))
                    : Spent(e, context);
            case Operator.StartsWith:
                return Value.Of(Text(left, context).StartsWith(Text(right, context), StringComparison.OrdinalIgnoreCase));
            case Operator.EndsWith:
                return Value.Of(Text(left, context).EndsWith(Text(right, context), StringComparison.OrdinalIgnoreCase));
            case Operator.Add or Operator.Subtract or Operator.Multiply or Operator.Divide:
                return Arithmetic(e.Operator, left, right, e, context);
        }
        var order = Compare(left, right, context);
        return Value.Of(
            e.Operator switch
            {
                Operator.Equal => order == 0,
                Operator.NotEqual => order != 0,
                Operator.Less => order < 0,
                Operator.LessOrEqual => order <= 0,
                Operator.Greater => order > 0,
                _ => order >= 0,
            }
        );
    }

    static string Text(Value value, EvaluationContext context) => value.Print(context.Locale);

    /// <summary>Order of two values, or null where they cannot be compared; blank equals only blank and is neither less nor
    /// greater.</summary>
    internal static int? Compare(Value left, Value right, EvaluationContext context)
    {
        if (left.IsBlank || right.IsBlank)
            return left.IsBlank && right.IsBlank ? 0 : null;
        if (left.Kind == right.Kind)
            return left.Kind switch
            {
                ValueKind.Number => left.Number.CompareTo(right.Number),
                ValueKind.Date => left.Date.CompareTo(right.Date),
                ValueKind.YesNo => left.Bool.CompareTo(right.Bool),
                _ => string.Compare(left.Text.Trim(), right.Text.Trim(), StringComparison.OrdinalIgnoreCase),
            };
        // A date or number in quotes compares with a column of that type.
        if (left.Kind == ValueKind.Text)
            return -Compare(right, left, context);
        if (right.Kind != ValueKind.Text)
            return null;
        return left.Kind switch
        {
            ValueKind.Number when WrittenValue.TryNumber(right.Text, out var n) => left.Number.CompareTo(n),
            ValueKind.Date when WrittenValue.TryDate(right.Text, DateOrder.YearMonthDay, out var d) => left.Date.CompareTo(d),
            _ => null,
        };
    }

    static Value Arithmetic(Operator op, Value left, Value right, Expression e, EvaluationContext context)
    {
        // Blank in arithmetic stays blank, so that "else" can answer for it; Print reports it where nothing does.
        if (left.IsBlank || right.IsBlank)
            return Value.Blank;
        (left, right) = (AsNumber(left), AsNumber(right));
        if (left.Kind == ValueKind.Date && right.Kind == ValueKind.Number && op is Operator.Add or Operator.Subtract)
            return AddDays(left, op == Operator.Add ? right.Number : -right.Number, e, context);
        if (left.Kind == ValueKind.Date && right.Kind == ValueKind.Date && op == Operator.Subtract)
            return Value.Of((decimal)(left.Date.DayNumber - right.Date.DayNumber));
        if (left.Kind != ValueKind.Number || right.Kind != ValueKind.Number)
        {
            var odd = left.Kind != ValueKind.Number ? left : right;
            return Failed(
                context,
                ProblemKind.WrongType,
                FieldName(e, context),
                odd.ToString(),
                $"“{Short(odd.ToString())}” is not a number, so {e} cannot be computed."
            );
        }
        if (op == Operator.Divide && right.Number == 0)
            return Failed(context, ProblemKind.OutOfRange, FieldName(e, context), null, $"{e} divides by zero.");
        try
        {
            return Value.Of(
                op switch
                {
                    Operator.Add => left.Number + right.Number,
                    Operator.Subtract => left.Number - right.Number,
                    Operator.Multiply => left.Number * right.Number,
                    _ => left.Number / right.Number,
                }
            );
        }
        catch (OverflowException)
        {
            return Failed(context, ProblemKind.OutOfRange, FieldName(e, context), null, $"{e} is too large.");
        }
    }

    /// <summary>Text that reads as a number counts as one, as it does for the formats.</summary>
    internal static Value AsNumber(Value value) =>
        value.Kind == ValueKind.Text && WrittenValue.TryNumber(value.Text.Trim(), out var number) ? Value.Of(number) : value;

    internal static Value AddDays(Value date, decimal days, Expression e, EvaluationContext context)
    {
        var number = Math.Round(Math.Clamp(days, -4_000_000, 4_000_000)) + date.Date.DayNumber;
        return number < 0 || number > DateOnly.MaxValue.DayNumber
            ? Failed(context, ProblemKind.OutOfRange, FieldName(e, context), null, $"{e} is not a date that exists.")
            : Value.Of(DateOnly.FromDayNumber((int)number));
    }

    static Value FormattedValue(Formatted e, EvaluationContext context)
    {
        var value = Evaluate(e.Inner, context);
        if (e.Format == Format.Else)
            return value.IsBlank ? Value.Of(e.Argument!) : value;
        if (value.IsBlank)
            return Value.Blank;
        var culture = context.Locale.Culture;
        switch (e.Format)
        {
            case Format.Upper:
                return Functions.Changed(value, e, context, t => Texts.Capitals.Upper(t, culture));
            case Format.Lower:
                return Functions.Changed(value, e, context, t => t.ToLower(culture));
            case Format.Title:
                return Functions.Changed(value, e, context, NameCase.Of);
            case Format.Trim:
                return Functions.Changed(value, e, context, Functions.Trimmed);
            case Format.Phone:
                return Value.Of(PhoneText.Of(value.Print(context.Locale), context.Locale.Country));
            case Format.Date:
                if (value.Kind == ValueKind.Text && WrittenValue.TryDate(value.Text.Trim(), DateOrder.YearMonthDay, out var read))
                    value = Value.Of(read);
                if (value.Kind != ValueKind.Date)
                    return NotA("date", value, e, context);
                return Value.Of(
                    DatePattern.Format(
                        value.Date,
                        e.Argument switch
                        {
                            null => context.Locale.DateMedium,
                            "long" => context.Locale.DateLong,
                            "short" => context.Locale.DateShort,
                            var p => p,
                        },
                        culture
                    )
                );
            default:
                value = AsNumber(value);
                if (value.Kind != ValueKind.Number)
                    return NotA("number", value, e, context);
                return Value.Of(
                    e.Format switch
                    {
                        Format.Money => NumberPrint.Money(value.Number, e.Argument, context.Locale),
                        Format.Ordinal or Format.Words or Format.Check => SpelledNumber.Of(value.Number, e, context) ?? "",
                        Format.Percent => NumberPrint.Percent(value.Number, e.Argument ?? "0", culture),
                        _ => NumberPrint.Grouped(value.Number, e.Argument, culture),
                    }
                );
        }
    }

    internal static Value NotA(string type, Value value, Expression e, EvaluationContext context)
    {
        var field = FieldName(e, context);
        return Failed(
            context,
            ProblemKind.WrongType,
            field,
            value.ToString(),
            $"{field} is “{Short(value.ToString())}”, which is not a {type}."
        );
    }
}
