using System.Text;

namespace Bandeja.Formats.Lists;

/// <summary>Encodings of text files: the ones to choose from, and the recognition of a file's own.</summary>
public static class Encodings
{
    /// <summary>What can be chosen, by IANA name.</summary>
    public static readonly IReadOnlyList<string> Known =
    [
        "utf-8",
        "windows-1252",
        "utf-16",
        "utf-16BE",
        "iso-8859-1",
        "iso-8859-2",
        "iso-8859-7",
        "iso-8859-15",
        "windows-1250",
        "windows-1251",
        "windows-1253",
        "windows-1254",
        "windows-1255",
        "windows-1256",
        "windows-1257",
        "windows-874",
        "koi8-r",
        "macintosh",
        "ibm437",
        "ibm850",
        "ibm852",
        "ibm866",
        "shift_jis",
        "euc-jp",
        "gb18030",
        "big5",
        "euc-kr",
    ];

    static Encodings() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <summary>The encoding of a name from <see cref="Known"/>.</summary>
    /// <exception cref="ListFileException">There is none of that name.</exception>
    public static Encoding Get(string name)
    {
        if (!Known.Contains(name, StringComparer.OrdinalIgnoreCase))
            throw new ListFileException($"The encoding “{name}” is not available.");
        return Encoding.GetEncoding(name);
    }

    /// <summary>
    /// Recognizes the encoding of a file: its byte order mark, the pattern of nul bytes, whether it is sound UTF-8, and else by how it
    /// reads. The
    /// readings are the ones to choose from where it cannot be told; empty where it can.
    /// </summary>
    public static (string Encoding, IReadOnlyList<EncodingReading> Readings) Recognize(string path, ReadOnlySpan<byte> head, bool whole)
    {
        if (Unicode(head) is { } unicode)
            return (unicode, []);
        // What makes the difference may stand far down.
        var lines = IsUtf8(head, whole) && whole ? [] : EncodingGuess.LinesBeyondAscii(path);
        return IsUtf8(lines, false) ? ("utf-8", []) : EncodingGuess.Of(lines);
    }

    /// <summary>UTF-16 or UTF-8 by its mark or its nul bytes; null where neither says anything.</summary>
    public static string? Unicode(ReadOnlySpan<byte> head)
    {
        if (head is [0xEF, 0xBB, 0xBF, ..])
            return "utf-8";
        if (head is [0xFF, 0xFE, ..])
            return "utf-16";
        if (head is [0xFE, 0xFF, ..])
            return "utf-16BE";
        var (even, odd) = (0, 0);
        for (var i = 0; i + 1 < Math.Min(head.Length, 4096); i += 2)
        {
            if (head[i] == 0)
                even++;
            if (head[i + 1] == 0)
                odd++;
        }
        var pairs = Math.Min(head.Length, 4096) / 2;
        if (pairs > 4 && odd > pairs * 0.4 && even < pairs * 0.1)
            return "utf-16";
        return pairs > 4 && even > pairs * 0.4 && odd < pairs * 0.1 ? "utf-16BE" : null;
    }

    static bool IsUtf8(ReadOnlySpan<byte> bytes, bool whole)
    {
        if (System.Text.Unicode.Utf8.IsValid(bytes))
            return true;
        if (whole)
            return false;
        // The part that was read may end within a character.
        for (var cut = 1; cut <= 3 && cut < bytes.Length; cut++)
            if (System.Text.Unicode.Utf8.IsValid(bytes[..^cut]))
                return true;
        return false;
    }
}
