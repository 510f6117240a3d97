using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>
/// What an expression gives, as far as that is known before any recipient is looked at, and whether two can be compared. A comparison that
/// could never hold is a mistake of the writer: it is reported at its place, and not quietly false for everyone.
/// </summary>
static class StaticTypes
{
    /// <summary>The kind of an expression's values; null where it is not known.</summary>
    public static ValueKind? KindOf(Expression e, Names names) =>
        e switch
        {
            Literal l => l.Value.Kind,
            ColumnReference c => OfColumn(names.ColumnAt(c.Index)),
            RowValueReference r => OfColumn(names.DetailColumnAt(r.Set, r.Column)),
            BuiltInReference { Which: BuiltIn.Today } => ValueKind.Date,
            BuiltInReference { Which: BuiltIn.RowNumber or BuiltIn.PageNumber or BuiltIn.PageCount or BuiltIn.AddressLines } =>
                ValueKind.Number,
            BuiltInReference => ValueKind.Text,
            Negation => ValueKind.Number,
            LogicalNot or BlankTest or OneOf or Between => ValueKind.YesNo,
            Binary { Operator: Operator.Join } => ValueKind.Text,
            Binary { Operator: Operator.Add or Operator.Subtract } b => (KindOf(b.Left, names), KindOf(b.Right, names)) switch
            {
                (ValueKind.Date, ValueKind.Date) => ValueKind.Number,
                (ValueKind.Date, _) => ValueKind.Date,
                (null, _) => null,
                _ => ValueKind.Number,
            },
            Binary { Operator: Operator.Multiply or Operator.Divide } => ValueKind.Number,
            Binary => ValueKind.YesNo,
            Formatted { Format: Format.Else } f => KindOf(f.Inner, names) is ValueKind.Text ? ValueKind.Text : null,
            Formatted => ValueKind.Text,
            Call c => OfCall(c, names),
            _ => null,
        };

    static ValueKind? OfColumn(Column? column) =>
        column?.Type switch
        {
            ColumnType.Number => ValueKind.Number,
            ColumnType.Date => ValueKind.Date,
            ColumnType.YesNo => ValueKind.YesNo,
            ColumnType.Text => ValueKind.Text,
            _ => null,
        };

    static ValueKind? OfCall(Call call, Names names) =>
        call.Function.Name switch
        {
            "upper" or "lower" or "title" or "trim" or "left" or "right" or "replace" or "join" => ValueKind.Text,
            "round" or "days" or "year" or "month" or "day" or "age" or "sum" or "count" or "average" => ValueKind.Number,
            "add days" or "add months" => ValueKind.Date,
            "if" => KindOf(call.Arguments[1], names) is { } kind && kind == KindOf(call.Arguments[2], names) ? kind : null,
            "min" or "max" or "first" or "last" => call.Arguments[0] is DetailReference { Column: >= 0 } d
                ? OfColumn(names.DetailColumnAt(d.Set, d.Column))
                : null,
            _ => null,
        };

    /// <summary>Brings the right side of a comparison to the kind of the left one where it is written text, and says what is wrong where
    /// they cannot be compared.</summary>
    /// <returns>The two sides, and a sentence with the side that it is about; null where all is well.</returns>
    public static (Expression Left, Expression Right, (bool IsLeft, string Message)? Mistake) Compared(
        Expression left,
        Expression right,
        Names names
    )
    {
        var (a, b) = (KindOf(left, names), KindOf(right, names));
        if (a is null || b is null || a == b && a != ValueKind.Text)
            return (left, right, null);
        if (a == b)
            return (left, right, null);
        // What is written in quotes is read as what it is compared with.
        if (right is Literal { Value: { Kind: ValueKind.Text, Text: var written } })
            return Read(written, a.Value, names.Locale) is { } read
                ? (left, read, null)
                : (left, right, (false, NotA($"“{Evaluator.Short(written)}”", a.Value, names)));
        if (left is Literal { Value: { Kind: ValueKind.Text, Text: var first } })
            return Read(first, b.Value, names.Locale) is { } read
                ? (read, right, null)
                : (left, right, (true, NotA($"“{Evaluator.Short(first)}”", b.Value, names)));
        // Text that holds figures compares with numbers: codes and amounts in a column of text.
        if (a is ValueKind.Text && b is ValueKind.Number || a is ValueKind.Number && b is ValueKind.Text)
            return (left, right, null);
        // A yes/no that is written without quotes is the word where it is compared with text.
        if (a == ValueKind.Text && right is Literal { Value.Kind: ValueKind.YesNo } word)
            return (left, new Literal(Value.Of(word.Value.Bool ? "yes" : "no")), null);
        if (b == ValueKind.Text && left is Literal { Value.Kind: ValueKind.YesNo } other)
            return (new Literal(Value.Of(other.Value.Bool ? "yes" : "no")), right, null);
        var typed = a == ValueKind.Text;
        return (left, right, (typed, NotA(Called(typed ? left : right, names), (typed ? b : a).Value, names)));
    }

    static Literal? Read(string written, ValueKind kind, OrganizationLocale locale) =>
        kind switch
        {
            // Blank in quotes is how some ask for what is blank; it compares with nothing else.
            _ when string.IsNullOrWhiteSpace(written) => new(Value.Of(written)),
            ValueKind.Date => WrittenDate.TryRead(written, locale, out var date) ? new(Value.Of(date)) : null,
            // The text stays as it is written: the evaluator reads it as a number.
            ValueKind.Number => WrittenValue.TryNumber(written.Trim(), out _) ? new(Value.Of(written.Trim())) : null,
            ValueKind.YesNo => WrittenValue.TryYesNo(written.Trim(), out var yes) ? new(Value.Of(yes)) : null,
            _ => new(Value.Of(written)),
        };

    static string Called(Expression e, Names names) =>
        e switch
        {
            ColumnReference c => c.Name,
            RowValueReference r => r.Name,
            Literal { Value.Kind: ValueKind.Text } l => l.ToString(),
            Literal l => $"“{l}”",
            _ => $"“{Evaluator.Short(e.ToString()!)}”",
        };

    static string NotA(string what, ValueKind kind, Names names) =>
        kind switch
        {
            ValueKind.Date =>
                $"{what} is not a date. Write a date such as {WrittenDate.Example(names.Locale)}, or give the column the type date.",
            ValueKind.Number => $"{what} is not a number. Write a number such as 100 or 12.50, without quotes.",
            ValueKind.YesNo => $"{what} is neither yes nor no. Write yes or no.",
            _ => $"{what} is not text. Write text in double quotes.",
        };

    /// <summary>What is wrong with an expression that stands as a condition; null where it can be one.</summary>
    public static string? ConditionMistake(Expression e, Names names)
    {
        var what = Called(e, names);
        return KindOf(e, names) switch
        {
            ValueKind.Number =>
                $"{what} is a number, so it is not a condition. Compare it, for example {Bare(e)} > 0, or ask whether it is "
                    + $"there: {Bare(e)} is not blank.",
            ValueKind.Date => $"{what} is a date, so it is not a condition. Compare it, for example {Bare(e)} > "
                + $"{WrittenDate.Example(names.Locale).Split(" or ")[0]}, or ask whether it is there: {Bare(e)} is not blank.",
            ValueKind.Text =>
                $"{what} is text, so it is not a condition. Compare it, for example {Bare(e)} = \"yes\", or ask whether it is "
                    + $"there: {Bare(e)} is not blank.",
            _ => null,
        };
    }

    static string Bare(Expression e) => e is ColumnReference c ? c.Name : Evaluator.Short(e.ToString()!);
}
