using System.Globalization;

namespace Bandeja.Core.Language;

// What stands behind a bar.
public sealed partial class FieldParser
{
    Expression FormatAfter(Expression value)
    {
        SkipSpace();
        var start = at;
        while (at < end && char.IsLetter(text[at]))
            at++;
        var word = text[start..at].ToLowerInvariant();
        if (!Enum.TryParse<Format>(word, true, out var format) || word.Length == 0)
        {
            UnknownFormat(start, word);
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
        if (mistake is not null && format == Format.Date && DateMeant(start + word.Length) is { } date)
            Error(start, date.Length, $"{Sentence(mistake)} Write {date.Meant}.", date.Meant);
        else if (mistake is not null)
            Error(start, at - start, Sentence(mistake));
        return new Formatted(value, format, argument);
    }

    void UnknownFormat(int start, string word)
    {
        // A picture, or a text in quotes: all of it is meant, up to the next bar.
        var bar = text.IndexOf('|', start, end - start);
        var written = text[start..(bar < 0 ? end : bar)].Trim();
        var quoted = written.Length > 1 && IsQuote(written[0]) && IsQuote(written[^1]);
        if (Habits.Picture(quoted ? written[1..^1] : written) is { } picture)
            Error(start, written.Length, $"Name the format: {picture}.", picture);
        else if (quoted)
            Error(start, written.Length, "Write “else” before the text to print when it is blank.", $"else \"{written[1..^1]}\"");
        else if (word.Length == 0)
            Error(start, Math.Max(1, at - start), "A format is missing after the bar.");
        else
        {
            var meant = Habits.Format(word);
            Error(
                start,
                at - start,
                meant is null
                    ? $"There is no format “{word}”; there are else, money, number, percent, date, ordinal, words, check, phone, "
                        + "upper, lower, title and trim."
                    : $"There is no format “{word}”; did you mean “{meant}”?",
                meant
            );
        }
    }

    /// <summary>What is meant by what stands behind <c>date</c> where that is no pattern: one without quotes, one with other letters, or a
    /// word for long and short.</summary>
    (int Length, string Meant)? DateMeant(int from)
    {
        var bar = text.IndexOf('|', from, end - from);
        var rest = text[from..(bar < 0 ? end : bar)].TrimEnd();
        var written = rest.Trim();
        if (written.Length > 1 && IsQuote(written[0]) && IsQuote(written[^1]))
            written = written[1..^1];
        var meant =
            Habits.Format(written.ToLowerInvariant()) is { } word && word.StartsWith("date ", StringComparison.Ordinal)
                ? word
                : Habits.Picture(written);
        return meant is null ? null : ("date".Length + rest.Length, meant);
    }

    static string Sentence(string text) => $"{char.ToUpperInvariant(text[0])}{text[1..].TrimEnd('.')}.";

    static bool IsQuote(char c) => c is '"' or '“' or '”' or '„';

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
        if (IsQuote(text[at]))
            return QuotedText();
        var start = at;
        while (at < end && char.IsLetterOrDigit(text[at]))
            at++;
        return at > start ? text[start..at].ToLowerInvariant() : null;
    }
}
