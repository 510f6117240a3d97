using System.Globalization;
using System.Text;

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
public sealed class FieldParser
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
        depth;

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
        if (parser.at < end && parser.errors.Count == 0)
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

    Expression Piped()
    {
        var value = Or();
        while (errors.Count == 0 && Sign("|"))
            value = FormatAfter(value);
        return value;
    }

    Expression FormatAfter(Expression value)
    {
        SkipSpace();
        var start = at;
        while (at < end && char.IsLetter(text[at]))
            at++;
        var word = text[start..at].ToLowerInvariant();
        if (!Enum.TryParse<Format>(word, true, out var format) || word.Length == 0)
        {
            Error(
                start,
                Math.Max(1, at - start),
                word.Length == 0
                    ? "A format is missing after the bar."
                    : $"There is no format “{word}”; there are else, money, number, percent, date, ordinal, words, check, phone, "
                        + "upper, lower, title and trim."
            );
            return value;
        }
        var argument = Argument();
        // money takes how many decimals, or to print the currency's code behind the number, or both.
        if (format == Format.Money && argument is not null && argument != "code" && Argument() is { } second)
            argument += " " + second;
        if (errors.Count > 0)
            return value;
        var mistake = (format, argument) switch
        {
            (Format.Else, null) => "“else” needs what to print instead, in double quotes.",
            (Format.Money, not null) when !(MoneyDigits(argument) is { } digits && digits <= 10) =>
                "After “money”, enter the number of decimals (0 to 10), or “code” to print USD instead of $.",
            (Format.Number or Format.Percent, not null)
                when !(int.TryParse(argument, NumberStyles.None, CultureInfo.InvariantCulture, out var digits) && digits <= 10) =>
                $"After “{word}”, enter the number of decimals (0 to 10).",
            (Format.Date, not null and not "long" and not "short") => DatePattern.Mistake(argument),
            (
                Format.Upper
                    or Format.Lower
                    or Format.Title
                    or Format.Trim
                    or Format.Ordinal
                    or Format.Words
                    or Format.Check
                    or Format.Phone,
                not null
            ) => $"Remove what follows “{word}”. This format has no options.",
            _ => null,
        };
        if (mistake is not null)
            Error(start, at - start, mistake);
        return new Formatted(value, format, argument);
    }

    /// <summary>How many decimals an argument of <c>money</c> asks for; null where it is none.</summary>
    internal static int? MoneyDigits(string? argument)
    {
        var words = (argument ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (words is [.., "code"])
            words = words[..^1];
        return words switch
        {
            [] => 2,
            [var n] when int.TryParse(n, NumberStyles.None, CultureInfo.InvariantCulture, out var digits) => digits,
            _ => null,
        };
    }

    string? Argument()
    {
        SkipSpace();
        if (at >= end)
            return null;
        if (text[at] == '"')
            return QuotedText();
        var start = at;
        while (at < end && char.IsLetterOrDigit(text[at]))
            at++;
        return at > start ? text[start..at].ToLowerInvariant() : null;
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
        ("=", Operator.Equal),
        ("<", Operator.Less),
        (">", Operator.Greater),
    ];

    Expression Comparison()
    {
        SkipSpace();
        var start = at;
        var left = Join();
        if (errors.Count > 0)
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
            return new Binary(Operator.Contains, left, Join());
        if (Phrase("starts", "with"))
            return new Binary(Operator.StartsWith, left, Join());
        if (Phrase("ends", "with"))
            return new Binary(Operator.EndsWith, left, Join());
        if (Word("between"))
            return BetweenAfter(left, leftAt);
        return left;
    }

    /// <summary>The right side of a comparison; the two must be of kinds that can be compared.</summary>
    Expression Compared(ref Expression left, (int Start, int End) leftAt)
    {
        SkipSpace();
        var start = at;
        var right = Join();
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
        while (errors.Count == 0)
        {
            choices.Add(Compared(ref left, leftAt));
            if (Sign(","))
                continue;
            if (errors.Count == 0 && !Sign(")"))
                Error(at, 1, "The parenthesis after “is one of” is not closed.");
            break;
        }
        return new OneOf(left, new(choices));
    }

    Expression Join()
    {
        var left = Sum();
        while (errors.Count == 0 && Sign("&"))
            left = new Binary(Operator.Join, left, Sum());
        return left;
    }

    Expression Sum()
    {
        var left = Product();
        while (errors.Count == 0)
        {
            if (Sign("+"))
                left = new Binary(Operator.Add, left, Product());
            else if (Sign("-"))
                left = new Binary(Operator.Subtract, left, Product());
            else
                break;
        }
        return left;
    }

    Expression Product()
    {
        var left = Signed();
        while (errors.Count == 0)
        {
            if (Sign("*"))
                left = new Binary(Operator.Multiply, left, Signed());
            else if (Sign("/"))
                left = new Binary(Operator.Divide, left, Signed());
            else
                break;
        }
        return left;
    }

    Expression Signed()
    {
        SkipSpace();
        return at < end && text[at] == '-' && names.LongestAt(text, at) is null
            ? Deeper(() =>
            {
                at++;
                return new Negation(Signed());
            })
            : Primary();
    }

    Expression Primary()
    {
        SkipSpace();
        if (at >= end)
        {
            Error(at, 0, at == 0 || text[at - 1] == '{' ? "The field is empty: name a column." : "Something is missing at the end.");
            return new Literal(Value.Of(""));
        }
        var c = text[at];
        if (c == '"')
            return new Literal(Value.Of(QuotedText() ?? ""));
        if (c == '`')
            return Backticked();
        var function = Function.At(text, at, end);
        if (
            names.LongestAt(text, at) is { } name
            && at + name.Length <= end
            && (function is null || name.Length > function.Value.Function.Name.Length)
        )
        {
            at += name.Length;
            return name.Reference;
        }
        if (function is { } called)
            return Deeper(() => CallAfter(called.Function, called.Bracket));
        if (names.DetailAt(text, at, end) is { } rows)
        {
            Error(
                at,
                rows.Length,
                $"“{text.AsSpan(at, rows.Length)}” has many values. Combine them, such as "
                    + $"{(rows.Reference.Column < 0 ? "count" : "sum")}({text.AsSpan(at, rows.Length)})."
            );
            at += rows.Length;
            return new Literal(Value.Of(""));
        }
        if (WrittenDate.LengthAt(text, at, end) is > 0 and var dated && DateAt(dated) is { } day)
            return day;
        if (char.IsAsciiDigit(c) || c == '.' && at + 1 < end && char.IsAsciiDigit(text[at + 1]))
            return Number();
        if (c == '(')
            return Deeper(() =>
            {
                var open = at++;
                var inner = Or();
                if (errors.Count == 0 && !Sign(")"))
                    Error(open, 1, "Close this parenthesis.");
                return inner;
            });
        return UnknownWords();
    }

    /// <summary>A date without quotes; null where the words only look like one.</summary>
    Literal? DateAt(int length)
    {
        var written = text.Substring(at, length);
        if (WrittenDate.TryRead(written, names.Locale, out var date))
        {
            at += length;
            return new(Value.Of(date));
        }
        // Two words and a number may be anything; three numbers with the same sign between them are meant as a date.
        if (!char.IsAsciiDigit(written[0]) || written.Contains(' '))
            return null;
        Error(at, length, $"“{written}” is not a date that exists here. Write a date such as {WrittenDate.Example(names.Locale)}.");
        at += length;
        return new(Value.Of(DateOnly.MinValue));
    }

    Expression CallAfter(Function function, int bracket)
    {
        var start = at;
        at = bracket + 1;
        var arguments = new List<Expression>();
        if (function.OverDetails)
            arguments.Add(DetailArgument(function));
        else if (!Sign(")"))
        {
            do arguments.Add(Or());
            while (errors.Count == 0 && Sign(","));
        }
        else
            at--;
        if (errors.Count > 0)
            return arguments.OfType<UnknownRows>().FirstOrDefault() is { Name.Length: > 0 } rows ? rows : new Literal(Value.Of(""));
        if (!Sign(")"))
            Error(bracket, 1, $"Close the parenthesis after “{function.Name}”.");
        else if (arguments.Count < function.Least || arguments.Count > function.Most)
            Error(start, at - start, $"Write “{function.Name}” as {function.Usage}.");
        return new Call(
            function,
            new(
                [
                    .. arguments.Select(
                        (a, i) =>
                            TakesDate(function.Name, i)
                            && a is Literal { Value: { Kind: ValueKind.Text, Text: var written } }
                            && WrittenDate.TryRead(written, names.Locale, out var date)
                                ? new Literal(Value.Of(date))
                                : a
                    ),
                ]
            )
        );
    }

    static bool TakesDate(string function, int argument) =>
        function switch
        {
            "days" => true,
            "add days" or "add months" or "year" or "month" or "day" or "age" => argument == 0,
            _ => false,
        };

    Expression DetailArgument(Function function)
    {
        SkipSpace();
        if (names.DetailAt(text, at, end) is not { } rows)
        {
            var known = string.Join(", ", names.DetailNames.Take(4));
            Error(
                at,
                Math.Max(0, Math.Min(20, end - at)),
                known.Length == 0
                    ? $"“{function.Name}” needs detail rows, and none are available here."
                    : $"“{function.Name}” needs a column of detail rows, such as {known}."
            );
            var stop = text.AsSpan(at, end - at).IndexOfAny(['.', ')', ',', '`']);
            return new UnknownRows((stop < 0 ? text[at..end] : text.Substring(at, stop)).Trim());
        }
        if (rows.Reference.Column < 0 && function.Name != "count")
            Error(at, rows.Length, $"“{function.Name}” needs a column: {string.Join(", ", ColumnsOf(rows.Reference.Name).Take(4))}.");
        at += rows.Length;
        return rows.Reference;
    }

    IEnumerable<string> ColumnsOf(string rows) => names.DetailNames.Where(n => n.StartsWith(rows + ".", StringComparison.Ordinal));

    Expression Number()
    {
        var start = at;
        while (at < end && (char.IsAsciiDigit(text[at]) || text[at] == '.'))
            at++;
        if (
            at - start <= 28
            && decimal.TryParse(
                text.AsSpan(start, at - start),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var number
            )
            && text[at - 1] != '.'
        )
            return new Literal(Value.Of(number));
        Error(start, at - start, $"“{text[start..at]}” is not a number.");
        return new Literal(Value.Of(0m));
    }

    string? QuotedText()
    {
        var start = at++;
        var value = new StringBuilder();
        for (; at < end; at++)
        {
            if (text[at] == '"')
            {
                at++;
                return value.ToString();
            }
            if (text[at] == '\\' && at + 1 < end && text[at + 1] is '"' or '\\')
                at++;
            value.Append(text[at]);
        }
        Error(start, end - start, "The text that starts here has no closing quote.");
        return null;
    }

    Expression Backticked()
    {
        var start = at;
        var close = text.IndexOf('`', at + 1, Math.Max(0, end - at - 1));
        if (close < 0)
        {
            Error(start, end - start, "The heading that starts here has no closing backtick.");
            at = end;
            return new UnknownName("");
        }
        var name = text[(start + 1)..close];
        at = close + 1;
        return names.Exactly(name) ?? Unknown(name, start, at - start);
    }

    /// <summary>Takes the words up to the next sign or keyword as one name, so that the message speaks of what the writer meant.</summary>
    Expression UnknownWords()
    {
        var start = at;
        while (at < end && !"|&+*/=<>(),\"`".Contains(text[at]) && !(char.IsWhiteSpace(text[at]) && KeywordFollows()))
            at++;
        var name = text[start..at].Trim();
        if (name.Length == 0)
        {
            Error(start, Math.Max(1, at - start), $"“{Rest()}” is not expected here.");
            at = end;
            return new UnknownName("");
        }
        if (name.Equals("yes", StringComparison.OrdinalIgnoreCase))
            return new Literal(Value.Of(true));
        if (name.Equals("no", StringComparison.OrdinalIgnoreCase))
            return new Literal(Value.Of(false));
        return Unknown(name, start, name.Length);
    }

    bool KeywordFollows()
    {
        var word = at;
        while (word < end && char.IsWhiteSpace(text[word]))
            word++;
        return Keywords.Any(k => WordAt(word, k)) || word < end && text[word] == '-';
    }

    UnknownName Unknown(string name, int position, int length)
    {
        if (at < end && text[at] == '(')
        {
            var meant = Function.All.OrderBy(f => Names.Distance(f.Name, name.ToLowerInvariant())).First();
            var near = Names.Distance(meant.Name, name.ToLowerInvariant()) <= 2;
            Error(
                position,
                length,
                near ? $"There is no function “{name}”; did you mean “{meant.Name}”?" : $"There is no function “{name}”.",
                near ? meant.Name : null
            );
            return new(name);
        }
        var nearest = names.Nearest(name);
        var head = name.Split(' ')[0].ToLowerInvariant();
        Error(
            position,
            length,
            name.ToLowerInvariant() is "page number" or "page count" ? $"{name} can be used only in the header and footer."
                : name.Equals("row number", StringComparison.OrdinalIgnoreCase) ? "Row number can be used only inside “each”."
                : head is "when" or "each" or "otherwise" or "end" ? $"“{head}” cannot be used inside a field or a filter."
                : nearest is null ? $"There is no column “{name}”."
                : $"There is no column “{name}”; did you mean “{nearest}”?",
            nearest
        );
        return new(name);
    }
}
