using System.Globalization;
using System.Text;

namespace Bandeja.Core.Texts;

/// <summary>
/// Capitals by rule of a language (Unicode, SpecialCasing.txt and CLDR's transforms): Turkish and Azerbaijani keep the dot, Lithuanian
/// drops
/// the one it adds for accents, Greek drops its accents, and a Dutch ij is one letter. A German ß becomes SS.
/// </summary>
public static class Capitals
{
    /// <summary>The culture whose capitals a language has; the invariant one where it has no rules of its own.</summary>
    public static CultureInfo Of(string language) =>
        language[..Math.Min(2, language.Length)].ToLowerInvariant() switch
        {
            "tr" or "az" or "el" or "lt" or "nl" or "hy" => CultureInfo.GetCultureInfo(language[..2].ToLowerInvariant()),
            _ => CultureInfo.InvariantCulture,
        };

    /// <summary>The language whose capitals a country's addresses have.</summary>
    public static CultureInfo OfCountry(string code) =>
        Of(
            code switch
            {
                "TR" => "tr",
                "AZ" => "az",
                "GR" or "CY" => "el",
                "LT" => "lt",
                _ => "",
            }
        );

    /// <summary>A text in capitals.</summary>
    public static string Upper(string text, CultureInfo culture)
    {
        var language = culture.TwoLetterISOLanguageName;
        if (text.Any(IsGreek))
            return Greek(text);
        // Lithuanian writes a dot under an accent that its capitals do not have.
        if (language == "lt")
            text = text.Normalize(NormalizationForm.FormD)
                .Replace("i\u0307", "i")
                .Replace("j\u0307", "j")
                .Replace("\u012f\u0307", "\u012f")
                .Normalize(NormalizationForm.FormC);
        return text.ToUpper(culture).Replace("ß", "SS");
    }

    /// <summary>A text with its first letter, or its first ij in Dutch, as a capital.</summary>
    public static string First(string text, CultureInfo culture)
    {
        if (text.Length == 0)
            return text;
        var first =
            culture.TwoLetterISOLanguageName == "nl" && text.StartsWith("ij", StringComparison.OrdinalIgnoreCase) ? 2
            : char.IsSurrogate(text[0]) && text.Length > 1 ? 2
            : 1;
        return string.Concat(Upper(text[..first], culture), text.AsSpan(first));
    }

    static bool IsGreek(char c) => c is >= '\u0370' and <= '\u03ff' or >= '\u1f00' and <= '\u1fff';

    /// <summary>Greek capitals have no accents, but keep the marks that divide vowels (CLDR, el-Upper): Αθήνα is ΑΘΗΝΑ, μαΐου is
    /// ΜΑΪΟΥ.</summary>
    static string Greek(string text)
    {
        var upper = new StringBuilder(text.Length);
        var apart = text.Normalize(NormalizationForm.FormD);
        for (var i = 0; i < apart.Length; i++)
        {
            var c = apart[i];
            if (i > 0 && c is '\u0301' or '\u0300' or '\u0342' or '\u0313' or '\u0314' or '\u0345' && GreekBefore(apart, i))
            {
                // An accent kept two vowels apart; without it their capitals need the mark: άυλος is ΑΫΛΟΣ.
                if (
                    c == '\u0301'
                    && i + 1 < apart.Length
                    && apart[i + 1] is 'ι' or 'υ'
                    && char.ToLowerInvariant(apart[i - 1]) is 'α' or 'ε' or 'ο' or 'υ'
                    && (i + 2 >= apart.Length || apart[i + 2] is not ('\u0308' or '\u0301'))
                )
                {
                    upper.Append(char.ToUpperInvariant(apart[i + 1])).Append('\u0308');
                    i++;
                }
                continue;
            }
            upper.Append(c == 'ς' ? 'Σ' : char.ToUpperInvariant(c));
        }
        return upper.ToString().Normalize(NormalizationForm.FormC).Replace("ß", "SS");
    }

    static bool GreekBefore(string text, int i)
    {
        while (i > 0 && char.GetUnicodeCategory(text[i]) == UnicodeCategory.NonSpacingMark)
            i--;
        return IsGreek(text[i]);
    }
}
