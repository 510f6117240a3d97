using System.Globalization;
using System.Text;

namespace Bandeja.Core.Language;

// Names, numbers, dates, and texts.
public sealed partial class FieldParser
{
    Expression Primary()
    {
        SkipSpace();
        if (at >= end)
        {
            Error(at, 0, at == 0 || text[at - 1] == '{' ? "The field is empty: name a column." : "Something is missing at the end.");
            return new Literal(Value.Of(""));
        }
        var c = text[at];
        if (IsQuote(c))
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
            var start = at;
            at += name.Length;
            return LongerName(start) ?? name.Reference;
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
        if (IsFigure(at))
            return Number();
        if (char.GetUnicodeCategory(c) == UnicodeCategory.CurrencySymbol && IsFigure(at + 1))
            return Amount();
        if (c is '\'' or '‘' or '’' && text.AsSpan(at + 1, end - at - 1).IndexOfAny('\'', '’') is >= 0 and var length)
            return SingleQuoted(length + 2);
        if (c == '!')
        {
            Error(at, 1, "Write “not” instead of “!”.", "not ");
            at = end;
            return new Literal(Value.Of(""));
        }
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

    bool IsFigure(int position) =>
        position < end
        && (char.IsAsciiDigit(text[position]) || text[position] == '.' && position + 1 < end && char.IsAsciiDigit(text[position + 1]));

    /// <summary>A number with the organization's currency sign before it, as people write amounts.</summary>
    Expression Amount()
    {
        if (text[at].ToString() == names.Locale.Culture.NumberFormat.CurrencySymbol)
        {
            at++;
            return Number();
        }
        Error(at, 1, $"Amounts are in {names.Locale.Currency}: write the number without “{text[at]}”.");
        at = end;
        return new Literal(Value.Of(0m));
    }

    Literal SingleQuoted(int length)
    {
        var words = text.Substring(at + 1, length - 2);
        Error(at, length, "Write text in double quotes.", $"\"{words}\"");
        at += length;
        return new(Value.Of(words));
    }

    /// <summary>Where more words follow a known name, the writer meant a longer one that is not known: “Client name” is not
    /// “Client”.</summary>
    UnknownName? LongerName(int start)
    {
        var known = at;
        var next = at;
        while (next < end && char.IsWhiteSpace(text[next]))
            next++;
        if (
            next >= end
            || !(char.IsLetterOrDigit(text[next]) || next == at && text[next] is '_' or '.')
            || KeywordFollows()
            || Habits.After(text, next, end) is not null
        )
            return null;
        while (at < end && !IsSign(text[at]) && !(char.IsWhiteSpace(text[at]) && (KeywordFollows() || HabitFollows())))
            at++;
        var name = text[start..at].Trim();
        var near = names.Nearest(name) ?? Habits.Name(name) ?? text[start..known];
        Error(start, name.Length, $"There is no column “{name}”; did you mean “{near}”?", near);
        return new(name);
    }

    bool HabitFollows()
    {
        var word = at;
        while (word < end && char.IsWhiteSpace(text[word]))
            word++;
        return Habits.After(text, word, end) is not null;
    }

    static bool IsSign(char c) => "|&+*/=<>(),\"`“”„≠≤≥×÷".Contains(c);

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
        {
            // Between parentheses a comma divides; elsewhere three figures behind one are thousands.
            if (inChoices == 0 && Thousands() is > 0 and var more)
            {
                var plain = text[start..(at + more)].Replace(",", "");
                Error(start, plain.Length + more / 4, $"Write numbers without commas: {plain}.", plain);
                at += more;
            }
            if (at < end && text[at] == '%')
            {
                at++;
                number /= 100;
            }
            return new Literal(Value.Of(number));
        }
        Error(start, at - start, $"“{text[start..at]}” is not a number.");
        return new Literal(Value.Of(0m));
    }

    /// <summary>How many characters of thousands with their commas stand here, with the decimals behind them; 0 where none do.</summary>
    int Thousands()
    {
        var i = at;
        while (
            i + 3 < end
            && text[i] == ','
            && text.AsSpan(i + 1, 3).IndexOfAnyExceptInRange('0', '9') < 0
            && !(i + 4 < end && char.IsAsciiDigit(text[i + 4]))
        )
            i += 4;
        if (i > at && i + 1 < end && text[i] == '.' && char.IsAsciiDigit(text[i + 1]))
            for (i++; i < end && char.IsAsciiDigit(text[i]); )
                i++;
        return i - at;
    }

    /// <summary>A text in quotes, straight ones or those that word processors make of them.</summary>
    string? QuotedText()
    {
        var start = at;
        var straight = text[at++] == '"';
        var value = new StringBuilder();
        for (; at < end; at++)
        {
            if (straight ? text[at] == '"' : IsQuote(text[at]))
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
}
