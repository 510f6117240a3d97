using System.Globalization;
using Humanizer;

namespace Bandeja.Core.Language;

/// <summary>Numbers as words (<c>sixty-four</c>) and as places in an order (<c>3rd</c>), in the recipient's language.</summary>
static class SpelledNumber
{
    static readonly HashSet<string> WithOrdinals = ["en", "es", "de", "fr", "it", "pt", "nl", "sv", "da", "nb", "fi", "pl", "cs"];

    /// <summary>The spelled number; null, and reported, where it is not a whole number.</summary>
    public static string? Of(decimal number, Formatted e, EvaluationContext context)
    {
        var field = Evaluator.FieldName(e, context);
        if (e.Format == Format.Check && (number < 0 || decimal.Round(number, 2) != number))
        {
            context.Report(
                ProblemKind.WrongType,
                field,
                number.ToString(CultureInfo.InvariantCulture),
                $"{field} is {number.ToString(CultureInfo.InvariantCulture)}, which is not an amount that a check can have: it is 0 "
                    + $"or more, with at most two decimals. Round it, for example round({field}, 2)."
            );
            return null;
        }
        if (e.Format != Format.Check && number != Math.Truncate(number))
        {
            context.Report(
                ProblemKind.WrongType,
                field,
                number.ToString(CultureInfo.InvariantCulture),
                $"{field} is {number.ToString(CultureInfo.InvariantCulture)}, which is not a whole number: round it before it is "
                    + $"spelled out, for example round({field}), or use the format check for an amount."
            );
            return null;
        }
        if (Math.Abs(number) > 999_999_999_999)
        {
            context.Report(
                ProblemKind.OutOfRange,
                field,
                number.ToString(CultureInfo.InvariantCulture),
                $"{field} is too large a number to spell out."
            );
            return null;
        }
        return e.Format switch
        {
            Format.Words => Spelled((long)number, context.Locale),
            Format.Check => Check(number, context.Locale),
            _ => Ordinal(number, context.Locale),
        };
    }

    /// <summary>American English has no “and” before the tens: one thousand two hundred fifty-one (The Chicago Manual of Style, 9.5).
    /// British English has.</summary>
    static string Spelled(long number, OrganizationLocale locale) =>
        locale.Tag is "en-US" or "en-CA"
            ? number.ToWords(CultureInfo.GetCultureInfo("en-US"), addAnd: false)
            : number.ToWords(Whole(locale.Culture));

    /// <summary>An amount as it stands on a check: the whole spelled out, the hundredths in figures over 100 (Uniform Commercial Code,
    /// section 3-114: words prevail over numbers).</summary>
    static string Check(decimal number, OrganizationLocale locale)
    {
        var whole = decimal.Truncate(number);
        var and = locale.Tag[..2] switch
        {
            "es" => "con",
            "de" => "und",
            "fr" => "et",
            "it" => "e",
            "pt" => "e",
            "nl" => "en",
            "sv" => "och",
            "da" or "nb" => "og",
            "pl" => "i",
            "cs" => "a",
            "fi" => "ja",
            _ => "and",
        };
        return $"{Spelled((long)whole, locale)} {and} {(int)((number - whole) * 100):00}/100";
    }

    // The library knows the neutral culture of a language; some regions of it are other dialects that it does not.
    static CultureInfo Whole(CultureInfo culture) =>
        culture.Name is "de-CH" or "de-AT" or "fr-CH" or "fr-BE" or "en-GB" or "pt-BR"
            ? CultureInfo.GetCultureInfo(culture.Name)
            : CultureInfo.GetCultureInfo(culture.TwoLetterISOLanguageName);

    static string Ordinal(decimal number, OrganizationLocale locale)
    {
        var language = locale.Tag[..2];
        var n = number.ToString("0", CultureInfo.InvariantCulture);
        if (!WithOrdinals.Contains(language))
            return n + ".";
        return language switch
        {
            "fr" => number == 1 ? "1er" : n + "e",
            "de" or "da" or "nb" or "fi" or "pl" or "cs" => n + ".",
            "es" or "pt" or "it" => n + (language == "es" ? ".º" : "º"),
            "nl" => n + "e",
            "sv" => n
                + (
                    n.EndsWith('1') && !n.EndsWith("11", StringComparison.Ordinal)
                    || n.EndsWith('2') && !n.EndsWith("12", StringComparison.Ordinal)
                        ? ":a"
                        : ":e"
                ),
            _ => n
                + (
                    Math.Abs((long)number) % 100 is 11 or 12 or 13
                        ? "th"
                        : (Math.Abs((long)number) % 10) switch
                        {
                            1 => "st",
                            2 => "nd",
                            3 => "rd",
                            _ => "th",
                        }
                ),
        };
    }
}
