using Bandeja.Core.Texts;

namespace Bandeja.Core.Composition;

/// <summary>
/// A font that is opened only when a text has a character of its ranges that no family of letters has: fonts for thousands of Han
/// characters are large, and most mailings need none of them.
/// </summary>
/// <param name="form">The form of Han characters it draws; None for other scripts.</param>
/// <param name="ranges">First and last code points that it is asked for.</param>
/// <param name="open">Reads the file.</param>
public sealed class FontLender(string family, bool bold, HanForm form, IReadOnlyList<(int First, int Last)> ranges, Func<PaperFont> open)
{
    readonly Lazy<PaperFont> font = new(open);

    /// <summary>The family's name.</summary>
    public string Family => family;

    /// <summary>The bold weight.</summary>
    public bool Bold => bold;

    /// <summary>The form of Han characters it draws.</summary>
    public HanForm Form => form;

    /// <summary>The font; opens it.</summary>
    public PaperFont Font => font.Value;

    /// <summary>True where it is to be asked for a character.</summary>
    public bool MayHave(int codePoint)
    {
        foreach (var (first, last) in ranges)
            if (codePoint >= first && codePoint <= last)
                return true;
        return false;
    }
}
