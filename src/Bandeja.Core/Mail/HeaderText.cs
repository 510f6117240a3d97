using System.Globalization;
using System.Text;

namespace Bandeja.Core.Mail;

/// <summary>Text that goes into a header of a message.</summary>
public static class HeaderText
{
    /// <summary>The most characters that are kept; RFC 5322 section 2.1.1 allows a line 998, and nobody reads so long a subject.</summary>
    public const int Longest = 400;

    /// <summary>
    /// One line of printable text: line ends and other control characters, with which a value could begin a header of its own, become
    /// spaces (RFC 5322 section 2.2 allows a header no bare line end), and so do runs of spaces.
    /// </summary>
    public static string Clean(string text)
    {
        var clean = new StringBuilder(text.Length);
        foreach (var rune in text.EnumerateRunes())
        {
            if (clean.Length >= Longest)
                break;
            var category = Rune.GetUnicodeCategory(rune);
            // Marks that turn the direction of writing could show another name or address than the one that stands there.
            if (category == UnicodeCategory.Format && rune.Value is >= 0x202A and <= 0x202E or >= 0x2066 and <= 0x2069)
                continue;
            var blank =
                category
                    is UnicodeCategory.Control
                        or UnicodeCategory.LineSeparator
                        or UnicodeCategory.ParagraphSeparator
                        or UnicodeCategory.SpaceSeparator;
            if (!blank)
                clean.Append(rune.ToString());
            else if (clean.Length > 0 && clean[^1] != ' ')
                clean.Append(' ');
        }
        return clean.ToString().TrimEnd();
    }
}
