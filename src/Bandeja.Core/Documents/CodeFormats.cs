using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Bandeja.Core.Documents;

/// <summary>A format that stood at a placeholder, as the field language writes it.</summary>
/// <param name="Bars">For instance <c> | money 0</c>, to be put behind the field's expression; empty for none.</param>
/// <param name="Lost">What has no equivalent here, as it was written; null where nothing is lost.</param>
public readonly record struct CarriedFormat(string Bars, string? Lost = null)
{
    /// <summary>None.</summary>
    public static readonly CarriedFormat None = new("");
}

/// <summary>Formats of other programs' placeholders in the field language.</summary>
public static partial class CodeFormats
{
    const int Longest = 60;

    /// <summary>A numeric picture (ECMA-376 part 1, section 17.16.4.2).</summary>
    public static CarriedFormat Number(string picture)
    {
        var own = picture.Trim();
        var first = own.Split(';')[0].Trim();
        if (NumberPicture().Match(first) is not { Success: true } m)
            return new("", own);
        var decimals = m.Groups["decimals"].Length;
        var (before, after) = (m.Groups["before"].Value.Trim(' ', '\''), m.Groups["after"].Value.Trim(' ', '\''));
        if (before.Length == 1 && char.GetUnicodeCategory(before[0]) == UnicodeCategory.CurrencySymbol && after.Length == 0)
            return new($" | money {decimals}");
        if (after.Length == 1 && char.GetUnicodeCategory(after[0]) == UnicodeCategory.CurrencySymbol && before.Length == 0)
            return new($" | money {decimals}");
        // Zeros that fill a number up to a width have no equivalent.
        if (before.Length > 0 || after.Length > 0 || m.Groups["whole"].Value.Count(c => c == '0') > 1)
            return new("", own);
        return new($" | number {decimals}");
    }

    [GeneratedRegex(@"^(?<before>[^#0.,x]*)(?<whole>[#0][#0,]*)(?:\.(?<decimals>[#0]+))?(?<after>[^#0.,x]*)$")]
    private static partial Regex NumberPicture();

    /// <summary>A date picture (ECMA-376 part 1, section 17.16.4.1) in the letters of CLDR.</summary>
    public static CarriedFormat Date(string picture)
    {
        var pattern = new StringBuilder();
        var own = picture.Trim();
        if (own.Length is 0 or > Longest)
            return new("", own.Length == 0 ? null : own[..Longest]);
        var any = false;
        for (var i = 0; i < own.Length; )
        {
            var c = own[i];
            if (c == '\'')
            {
                var end = own.IndexOf('\'', i + 1);
                if (end < 0)
                    return new("", own);
                pattern.Append(own, i, end - i + 1);
                i = end + 1;
                continue;
            }
            var n = 1;
            while (i + n < own.Length && own[i + n] == c)
                n++;
            switch (c)
            {
                case 'M' or 'm' when n <= 4 && (c == 'M' || !own.Contains('M')):
                    pattern.Append('M', n);
                    any = true;
                    break;
                case 'd' or 'D' when n <= 2:
                    pattern.Append('d', n);
                    any = true;
                    break;
                case 'd' or 'D' when n <= 4:
                    pattern.Append('E', n);
                    any = true;
                    break;
                case 'y' or 'Y' when n is 2 or 4 or 1:
                    pattern.Append('y', n == 2 ? 2 : 4);
                    any = true;
                    break;
                case 'E' when n <= 4:
                    pattern.Append('E', n);
                    any = true;
                    break;
                default:
                    if (char.IsAsciiLetter(c))
                        return new("", own); // hours, eras, and what nobody knows
                    pattern.Append(c == '"' ? ' ' : c, n);
                    break;
            }
            i += n;
        }
        return any ? new($" | date \"{pattern}\"") : new("", own);
    }

    /// <summary>A general format (ECMA-376 part 1, section 17.16.4.3).</summary>
    public static CarriedFormat General(string word) =>
        word.Trim().ToUpperInvariant() switch
        {
            "UPPER" => new(" | upper"),
            "LOWER" => new(" | lower"),
            "CAPS" => new(" | title"),
            "CARDTEXT" => new(" | words"),
            "ORDINAL" => new(" | ordinal"),
            "DOLLARTEXT" => new(" | check"),
            "ARABIC" => CarriedFormat.None,
            "MERGEFORMAT" or "MERGEFORMATINET" or "CHARFORMAT" => CarriedFormat.None,
            _ => new("", word.Trim()),
        };

    /// <summary>What stands behind a typed placeholder's name, after a comma, a bar, or a colon: a word, a picture of numbers or of
    /// dates, or what to print where the value is blank.</summary>
    public static CarriedFormat Typed(string format)
    {
        var bars = new StringBuilder();
        string? lost = null;
        foreach (var part in Parts(format))
        {
            var one = Part(part);
            bars.Append(one.Bars);
            if (one.Lost is not null)
                lost = lost is null ? one.Lost : $"{lost}, {one.Lost}";
        }
        return new(bars.ToString(), lost);
    }

    static IEnumerable<string> Parts(string format)
    {
        var quoted = '\0';
        var from = 0;
        for (var i = 0; i < format.Length; i++)
        {
            if (quoted != 0)
                quoted = format[i] == quoted ? '\0' : quoted;
            else if (format[i] is '"' or '\'')
                quoted = format[i];
            else if (format[i] == '|')
            {
                yield return format[from..i].Trim();
                from = i + 1;
            }
        }
        yield return format[from..].Trim();
    }

    static CarriedFormat Part(string part)
    {
        if (part.Length == 0)
            return CarriedFormat.None;
        if (part.Length > Longest)
            return new("", part[..Longest]);
        if (Otherwise().Match(part) is { Success: true } blank)
            return new($" | else \"{blank.Groups["text"].Value.Replace("\"", "")}\"");
        // What is already ours stays as it is.
        if (Ours().IsMatch(part))
            return new($" | {part}");
        var bare = part.Trim('"', '\'', ' ');
        switch (bare.ToUpperInvariant().Replace("_", "").Replace("-", "").Replace(" ", ""))
        {
            case "UPPER" or "UPPERCASE" or "ALLCAPS":
                return new(" | upper");
            case "LOWER" or "LOWERCASE":
                return new(" | lower");
            case "TITLE" or "TITLECASE" or "PROPER" or "CAPITALIZE" or "CAPITALISE" or "CAPS":
                return new(" | title");
            case "TRIM" or "STRIP":
                return new(" | trim");
            case "MONEY" or "CURRENCY" or "C" or "C2" or "DOLLARS":
                return new(" | money");
            case "C0":
                return new(" | money 0");
            case "NUMBER" or "NUMERIC" or "N":
                return new(" | number");
            case "N0" or "INTEGER":
                return new(" | number 0");
            case "N2":
                return new(" | number 2");
            case "PERCENT" or "P" or "P0":
                return new(" | percent");
            case "WORDS" or "INWORDS":
                return new(" | words");
            case "ORDINAL":
                return new(" | ordinal");
            case "PHONE" or "TELEPHONE":
                return new(" | phone");
            case "DATE" or "SHORTDATE" or "DATESHORT":
                return new(" | date short");
            case "LONGDATE" or "DATELONG":
                return new(" | date long");
        }
        if (bare.AsSpan().IndexOfAny('#', '0') >= 0)
            return Number(bare) is { Lost: null } number ? number : new("", part);
        // A pattern of dates has a day and a month, a month and a year, or a year alone.
        if (DateLike().IsMatch(bare))
            return Date(bare) is { Lost: null } date ? date : new("", part);
        return new("", part);
    }

    [GeneratedRegex("""^(?:default|else|fallback|or)\s*[:=(]?\s*["'“‘]?(?<text>[^"'”’()]*)["'”’]?\)?$""", RegexOptions.IgnoreCase)]
    private static partial Regex Otherwise();

    [GeneratedRegex("""^(?:money(?: (?:\d|code))?|number(?: \d)?|percent(?: \d)?|date (?:short|long|"[^"{}]*"))$""")]
    private static partial Regex Ours();

    [GeneratedRegex(@"^(?=.*[yYMd])[yYMmdDE .,/\-]+$")]
    private static partial Regex DateLike();
}
