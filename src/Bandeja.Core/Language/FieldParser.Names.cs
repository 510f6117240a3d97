namespace Bandeja.Core.Language;

// Functions, and names that are not known.
public sealed partial class FieldParser
{
    Expression CallAfter(Function function, int bracket)
    {
        var start = at;
        at = bracket + 1;
        var arguments = new List<Expression>();
        if (function.OverDetails)
            arguments.Add(DetailArgument(function));
        else if (!Sign(")"))
        {
            inChoices++;
            do arguments.Add(Or());
            while (errors.Count == 0 && Sign(","));
            inChoices--;
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
            var closing = text.AsSpan(at, end - at).IndexOfAny(')', ',');
            var written = (closing < 0 ? text[at..end] : text.Substring(at, closing)).Trim();
            var meant = names.NearestRows(written, function.Name == "count");
            Error(
                at,
                meant is null ? Math.Max(0, Math.Min(20, end - at)) : written.Length,
                known.Length == 0 ? $"“{function.Name}” needs detail rows, and none are available here."
                    : meant is not null ? $"There are no detail rows “{written}”; did you mean “{meant}”?"
                    : $"“{function.Name}” needs a column of detail rows, such as {known}.",
                meant
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
        while (at < end && !IsSign(text[at]) && !(char.IsWhiteSpace(text[at]) && KeywordFollows()))
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
        return Keywords.Any(k => WordAt(word, k)) || word < end && text[word] is '-' or '−' or '–';
    }

    UnknownName Unknown(string name, int position, int length)
    {
        if (at < end && text[at] == '(')
        {
            var (hint, meant) = Habits.Function(name);
            Error(
                position,
                length,
                hint is not null ? $"There is no function “{name}”. {hint}"
                    : meant is not null ? $"There is no function “{name}”; did you mean “{meant}”?"
                    : $"There is no function “{name}”.",
                meant
            );
            return new(name);
        }
        var nearest = names.Nearest(name) ?? Habits.Name(name);
        var head = name.Split(' ')[0].ToLowerInvariant();
        var asText = position == comparedAt;
        var quotes = asText ? " For the text itself, write it in double quotes." : "";
        Error(
            position,
            length,
            name.ToLowerInvariant() is "page number" or "page count" ? $"{name} can be used only in the header and footer."
                : name.Equals("row number", StringComparison.OrdinalIgnoreCase) ? "Row number can be used only inside “each”."
                : head is "when" or "each" or "otherwise" or "end" ? $"“{head}” cannot be used inside a field or a filter."
                : nearest is null ? $"There is no column “{name}”.{quotes}"
                : $"There is no column “{name}”; did you mean “{nearest}”?{quotes}",
            nearest ?? (asText ? $"\"{name}\"" : null)
        );
        return new(name);
    }
}
