using System.Text;

namespace Bandeja.Core.Checks;

/// <summary>Letters that were written as UTF-8 and read as Windows-1252: <c>MuÃ±oz</c> was <c>Muñoz</c>.</summary>
public static class Mojibake
{
    // What Windows-1252 has at 0x80 to 0x9F (WHATWG Encoding Standard, index windows-1252).
    const string High =
        "\u20AC\u0081\u201A\u0192\u201E\u2026\u2020\u2021\u02C6\u2030\u0160\u2039\u0152\u008D\u017D\u008F\u0090\u2018\u2019\u201C\u201D"
        + "\u2022\u2013\u2014\u02DC\u2122\u0161\u203A\u0153\u009D\u017E\u0178";
    static readonly UTF8Encoding Strict = new(false, true);

    /// <summary>The text as it was meant, or null where nothing shows that it was garbled.</summary>
    public static string? Restore(string value)
    {
        string? restored = null;
        // Twice garbled text is met as well.
        for (var round = 0; round < 3 && Once(restored ?? value) is { } once; round++)
            restored = once;
        return restored;
    }

    static string? Once(string value)
    {
        // A lead byte of UTF-8 (C2 to F4) and a continuation after it; without one there is nothing to restore.
        var suspicious = false;
        for (var i = 0; i + 1 < value.Length && !suspicious; i++)
            suspicious = value[i] is >= '\u00C2' and <= '\u00F4' && ToByte(value[i + 1]) is >= 0x80 and < 0xC0;
        if (!suspicious)
            return null;
        var bytes = new byte[value.Length];
        for (var i = 0; i < value.Length; i++)
        {
            if (ToByte(value[i]) is not { } b)
                return null;
            bytes[i] = b;
        }
        try
        {
            return Strict.GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            return null;
        }
    }

    static byte? ToByte(char c)
    {
        if (c < 0x80 || c is >= '\u00A0' and <= '\u00FF')
            return (byte)c;
        var at = High.IndexOf(c);
        return at < 0 ? null : (byte)(0x80 + at);
    }
}
