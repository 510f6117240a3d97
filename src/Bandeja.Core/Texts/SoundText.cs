namespace Bandeja.Core.Texts;

/// <summary>Text that every Unicode function takes.</summary>
public static class SoundText
{
    /// <summary>The text with each lone surrogate replaced by U+FFFD; the same text where it has none.</summary>
    public static string Of(string value)
    {
        for (var i = 0; i < value.Length; i++)
        {
            if (!char.IsSurrogate(value[i]))
                continue;
            if (char.IsHighSurrogate(value[i]) && i + 1 < value.Length && char.IsLowSurrogate(value[i + 1]))
                i++;
            else
                return string.Concat(value.EnumerateRunes());
        }
        return value;
    }
}
