namespace Bandeja.Core.Language;

/// <summary>A mistake in the text of the field language, told at its place.</summary>
/// <param name="Position">Zero-based position in the parsed text.</param>
/// <param name="Length">How many characters are meant; may be 0 at the end.</param>
/// <param name="Message">A sentence for the writer.</param>
/// <param name="Suggestion">What was probably meant, where that is known.</param>
public sealed record LanguageError(int Position, int Length, string Message, string? Suggestion = null);

/// <summary>What parsing gave. With errors the expression is only good for showing.</summary>
public sealed record ParsedExpression(Expression Expression, IReadOnlyList<LanguageError> Errors);

/// <summary>
/// The parser of the field language. It is written by hand because what a word means depends on the list's headings
/// (the longest heading that matches is taken), and because every mistake must be told at its place with a suggestion.
/// It never throws; length and depth are bounded.
/// </summary>
public sealed partial class FieldParser
{
    /// <summary>The longest text of one field or filter.</summary>
    public const int MaxLength = 4000;

    /// <summary>The deepest nesting of brackets and signs.</summary>
    public const int MaxDepth = 60;

    static readonly string[] Keywords = ["and", "or", "not", "is", "contains", "starts", "ends", "between"];

    readonly string text;
    readonly int end;
    readonly Names names;
    readonly List<LanguageError> errors = [];
    int at,
        depth,
        inChoices,
        comparedAt = -1;

    FieldParser(string text, int start, int end, Names names) => (this.text, at, this.end, this.names) = (text, start, end, names);

    /// <summary>Parses what stands between the braces of a field, or a filter.</summary>
    public static ParsedExpression ParseExpression(string text, Names names) => ParseWithin(text, 0, text.Length, names);

    /// <summary>Parses a condition: what stands after <c>when</c>, or a filter. What can be neither met nor not is a mistake.</summary>
    public static ParsedExpression ParseCondition(string text, Names names)
    {
        var parsed = ParseExpression(text, names);
        if (parsed.Errors.Count > 0 || StaticTypes.ConditionMistake(parsed.Expression, names) is not { } mistake)
            return parsed;
        var start = text.Length - text.TrimStart().Length;
        return parsed with { Errors = [new(start, text.Trim().Length, mistake)] };
    }

    /// <summary>Parses a part of a longer text; positions of errors count from the start of the whole.</summary>
    internal static ParsedExpression ParseWithin(string text, int start, int end, Names names)
    {
        if (end - start > MaxLength)
            return new(new Literal(Value.Of("")), [new(start, end - start, $"This field is longer than {MaxLength} characters.")]);
        // Bounding the text here keeps headings from matching beyond the closing brace.
        var parser = new FieldParser(end == text.Length ? text : text[..end], start, end, names);
        var expression = parser.Piped();
        parser.SkipSpace();
        if (parser.at < end && parser.errors.Count == 0 && !parser.Habit())
            parser.Error(parser.at, end - parser.at, $"Unexpected text: “{parser.Rest()}”.");
        // A field that is the word alone says the same for everybody; who has a column "No." meant that.
        if (
            expression is Literal { Value.Kind: ValueKind.YesNo }
            && parser.errors.Count == 0
            && text[start..end].Trim() is var word
            && names.Nearest(word) is { } near
        )
            parser.Error(
                text.IndexOf(word, start, StringComparison.Ordinal),
                word.Length,
                $"There is no column “{word}”; did you mean “{near}”? For the word itself, write it in quotes.",
                near
            );
        return new(expression, parser.errors);
    }

    string Rest() => text[at..Math.Min(end, at + 30)];

    void Error(int position, int length, string message, string? suggestion = null)
    {
        if (errors.Count < 20)
            errors.Add(new(position, length, message, suggestion));
    }

    void SkipSpace()
    {
        while (at < end && char.IsWhiteSpace(text[at]))
            at++;
    }

    bool Sign(string sign)
    {
        SkipSpace();
        if (at + sign.Length > end || string.CompareOrdinal(text, at, sign, 0, sign.Length) != 0)
            return false;
        at += sign.Length;
        return true;
    }

    bool Word(string word)
    {
        SkipSpace();
        if (!WordAt(at, word))
            return false;
        at += word.Length;
        return true;
    }

    bool WordAt(int position, string word) =>
        position + word.Length <= end
        && string.Compare(text, position, word, 0, word.Length, StringComparison.OrdinalIgnoreCase) == 0
        && (position + word.Length == end || !char.IsLetterOrDigit(text[position + word.Length]));

    /// <summary>Several words in a row, or none of them.</summary>
    bool Phrase(params ReadOnlySpan<string> words)
    {
        var start = at;
        foreach (var word in words)
        {
            if (Word(word))
                continue;
            at = start;
            return false;
        }
        return true;
    }

    /// <summary>True where something stands that the language writes otherwise; it has been told.</summary>
    bool Habit()
    {
        SkipSpace();
        if (at >= end || errors.Count > 0 || Habits.After(text, at, end) is not { } habit)
            return false;
        Error(at, habit.Length, habit.Message, habit.Ours);
        return true;
    }

    Expression Piped()
    {
        var value = Or();
        while (errors.Count == 0 && Sign("|"))
            value = FormatAfter(value);
        return value;
    }

    Expression Or()
    {
        var left = And();
        while (errors.Count == 0 && Word("or"))
            left = new Binary(Operator.Or, left, And());
        return left;
    }

    Expression And()
    {
        var left = Not();
        while (errors.Count == 0 && Word("and"))
            left = new Binary(Operator.And, left, Not());
        return left;
    }

    Expression Not()
    {
        SkipSpace();
        // A heading such as "Not before" wins over the keyword.
        if (names.LongestAt(text, at) is not null || !Word("not"))
            return Comparison();
        return Deeper(() => new LogicalNot(Not()));
    }

    Expression Deeper(Func<Expression> parse)
    {
        if (++depth > MaxDepth)
        {
            Error(at, 1, "This is nested too deeply.");
            depth--;
            return new Literal(Value.Of(""));
        }
        var result = parse();
        depth--;
        return result;
    }

    static readonly (string Sign, Operator Operator)[] Comparisons =
    [
        ("<>", Operator.NotEqual),
        ("<=", Operator.LessOrEqual),
        (">=", Operator.GreaterOrEqual),
        ("≠", Operator.NotEqual),
        ("≤", Operator.LessOrEqual),
        ("≥", Operator.GreaterOrEqual),
        ("=", Operator.Equal),
        ("<", Operator.Less),
        (">", Operator.Greater),
    ];

    Expression Comparison()
    {
        SkipSpace();
        var start = at;
        var left = Join();
        if (errors.Count > 0 || Habit())
            return left;
        var leftAt = (Start: start, End: at);
        foreach (var (sign, op) in Comparisons)
            if (Sign(sign))
            {
                var right = Compared(ref left, leftAt);
                return new Binary(op, left, right);
            }
        if (Phrase("is", "not", "blank"))
            return new BlankTest(left, true);
        if (Phrase("is", "blank"))
            return new BlankTest(left, false);
        if (Phrase("is", "one", "of"))
            return OneOfAfter(left, leftAt);
        if (Word("contains"))
            return new Binary(Operator.Contains, left, RightSide());
        if (Phrase("starts", "with"))
            return new Binary(Operator.StartsWith, left, RightSide());
        if (Phrase("ends", "with"))
            return new Binary(Operator.EndsWith, left, RightSide());
        if (Word("between"))
            return BetweenAfter(left, leftAt);
        return left;
    }

    /// <summary>The right side of a comparison; the two must be of kinds that can be compared.</summary>
    Expression Compared(ref Expression left, (int Start, int End) leftAt)
    {
        SkipSpace();
        var start = at;
        var right = RightSide();
        if (errors.Count > 0)
            return right;
        var (a, b, mistake) = StaticTypes.Compared(left, right, names);
        if (mistake is (true, var ofLeft))
            Error(leftAt.Start, text[leftAt.Start..leftAt.End].TrimEnd().Length, ofLeft);
        else if (mistake is (false, var ofRight))
            Error(start, text[start..at].TrimEnd().Length, ofRight);
        left = a;
        return b;
    }

    /// <summary>What something is compared with. A bare word there is most likely meant as text.</summary>
    Expression RightSide()
    {
        SkipSpace();
        comparedAt = at;
        var right = Join();
        if (errors.Count == 0)
            Habit();
        return right;
    }

    Expression BetweenAfter(Expression left, (int, int) leftAt)
    {
        var low = Compared(ref left, leftAt);
        if (errors.Count == 0 && !Word("and"))
            Error(at, 1, "“between” needs two values with “and” between them.");
        if (errors.Count > 0)
            return left;
        var high = Compared(ref left, leftAt);
        return new Between(left, low, high);
    }

    Expression OneOfAfter(Expression left, (int, int) leftAt)
    {
        if (!Sign("("))
            Error(at, 1, "After “is one of”, put the choices in parentheses.");
        var choices = new List<Expression>();
        inChoices++;
        while (errors.Count == 0)
        {
            choices.Add(Compared(ref left, leftAt));
            if (Sign(","))
                continue;
            if (errors.Count == 0 && !Sign(")"))
                Error(at, 1, "The parenthesis after “is one of” is not closed.");
            break;
        }
        inChoices--;
        return new OneOf(left, new(choices));
    }

    Expression Join()
    {
        var left = Sum();
        while (errors.Count == 0 && !StandsAt("&&") && Sign("&"))
            left = new Binary(Operator.Join, left, Sum());
        return left;
    }

    Expression Sum()
    {
        var left = Product();
        while (errors.Count == 0)
        {
            SkipSpace();
            var sign = at;
            if (Sign("+"))
                left = Added(left, sign);
            else if (Sign("-") || Sign("−") || Sign("–"))
                left = new Binary(Operator.Subtract, left, Product());
            else
                break;
        }
        return left;
    }

    /// <summary>A sum; where a side is written text that is no number, its writer wants to join texts.</summary>
    Binary Added(Expression left, int sign)
    {
        var right = Product();
        static bool IsWords(Expression e) =>
            e is Literal { Value: { Kind: ValueKind.Text, Text: var words } } && !Lists.WrittenValue.TryNumber(words.Trim(), out _);
        if (errors.Count == 0 && (IsWords(left) || IsWords(right)))
            Error(sign, 1, "“+” adds numbers. To join texts, write “&”.", "&");
        return new(Operator.Add, left, right);
    }

    bool StandsAt(string sign)
    {
        SkipSpace();
        return at + sign.Length <= end && string.CompareOrdinal(text, at, sign, 0, sign.Length) == 0;
    }

    Expression Product()
    {
        var left = Signed();
        while (errors.Count == 0)
        {
            if (Sign("*") || Sign("×"))
                left = new Binary(Operator.Multiply, left, Signed());
            else if (Sign("/") || Sign("÷"))
                left = new Binary(Operator.Divide, left, Signed());
            else
                break;
        }
        return left;
    }

    Expression Signed()
    {
        SkipSpace();
        return at < end && text[at] is '-' or '−' or '–' && names.LongestAt(text, at) is null
            ? Deeper(() =>
            {
                at++;
                return new Negation(Signed());
            })
            : Primary();
    }
}
