using System.Globalization;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>What is typed beside a field already: “$” before it, “%”, “USD”, or “dollars” after it. The number then prints without the sign
/// that is usual for its column, and not as “$$50”.</summary>
static class SignBeside
{
    static readonly string[] MoneyWords = ["dollar", "euro", "pound", "franc", "peso", "US$"];

    /// <summary>What a number between two texts has beside it; null for neither.</summary>
    public static NumberLook? Of(string before, string after, OrganizationLocale locale)
    {
        var left = before.AsSpan().TrimEnd();
        var right = after.AsSpan().TrimStart();
        if (right.StartsWith("%") || StartsWithWord(right, "percent") || StartsWithWord(right, "per cent"))
            return NumberLook.Percent;
        if (left.Length > 0 && IsCurrency(left[^1]) || right.Length > 0 && IsCurrency(right[0]))
            return NumberLook.Money;
        if (StartsWithWord(right, locale.Currency) || EndsWithWord(left, locale.Currency))
            return NumberLook.Money;
        foreach (var word in MoneyWords)
            if (StartsWithWord(right, word) || StartsWithWord(right, word + "s"))
                return NumberLook.Money;
        return null;
    }

    static bool IsCurrency(char c) => char.GetUnicodeCategory(c) == UnicodeCategory.CurrencySymbol;

    static bool StartsWithWord(ReadOnlySpan<char> text, string word) =>
        text.StartsWith(word, StringComparison.OrdinalIgnoreCase) && (text.Length == word.Length || !char.IsLetter(text[word.Length]));

    static bool EndsWithWord(ReadOnlySpan<char> text, string word) =>
        text.EndsWith(word, StringComparison.OrdinalIgnoreCase) && (text.Length == word.Length || !char.IsLetter(text[^(word.Length + 1)]));
}
