using System.Globalization;
using System.Text;

namespace Bandeja.Core.Texts;

/// <summary>Text as it is searched and sorted: without case and accents, so that <c>ines</c> finds <c>Inês</c>.</summary>
public static class FoldedText
{
    /// <summary>Appends the folded form of a value.</summary>
    public static void Append(StringBuilder target, string value)
    {
        if (Ascii.IsValid(value))
        {
            foreach (var c in value)
                target.Append(c is >= 'A' and <= 'Z' ? (char)(c | 0x20) : c);
            return;
        }
        foreach (var c in SoundText.Of(value).Normalize(NormalizationForm.FormD))
        {
            if (char.GetUnicodeCategory(c) == UnicodeCategory.NonSpacingMark)
                continue;
            switch (char.ToLowerInvariant(c))
            {
                case 'ß':
                    target.Append("ss");
                    break;
                case 'ø':
                    target.Append('o');
                    break;
                case 'ł':
                    target.Append('l');
                    break;
                case 'đ':
                    target.Append('d');
                    break;
                case 'æ':
                    target.Append("ae");
                    break;
                case 'œ':
                    target.Append("oe");
                    break;
                case 'ı':
                    target.Append('i');
                    break;
                case 'ς':
                    target.Append('σ');
                    break;
                case var lower:
                    target.Append(lower);
                    break;
            }
        }
    }

    /// <summary>The folded form of a value.</summary>
    public static string Of(string value)
    {
        var target = new StringBuilder(value.Length);
        Append(target, value);
        return target.ToString();
    }

    /// <summary>The folded form of a whole row, its values separated by a character that nobody types.</summary>
    public static string OfRow(IEnumerable<string?> values)
    {
        var target = new StringBuilder();
        foreach (var value in values)
        {
            if (value is null)
                continue;
            if (target.Length > 0)
                target.Append('\u001f');
            Append(target, value);
        }
        return target.ToString();
    }
}
