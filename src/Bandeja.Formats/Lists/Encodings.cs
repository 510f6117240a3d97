using System.Text;
using UtfUnknown;

namespace Bandeja.Formats.Lists;

/// <summary>Encodings of text files: the ones to choose from, and the recognition of a file's own.</summary>
public static class Encodings
{
    /// <summary>What can be chosen, by IANA name.</summary>
    public static readonly IReadOnlyList<string> Known = ["utf-8", "windows-1252", "utf-16", "utf-16BE", "iso-8859-1", "iso-8859-2", "iso-8859-15", "windows-1250", "windows-1251", "windows-1253", "windows-1254", "macintosh", "ibm850", "shift_jis", "gb18030", "big5", "euc-kr"];

    static Encodings() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <summary>The encoding of a name from <see cref="Known"/>.</summary>
    /// <exception cref="ListFileException">There is none of that name.</exception>
    public static Encoding Get(string name)
    {
        if (!Known.Contains(name, StringComparer.OrdinalIgnoreCase)) throw new ListFileException($"There is no encoding called “{name}” to choose.");
        return Encoding.GetEncoding(name);
    }

    /// <summary>Recognises the encoding from the first part of a file: its byte order mark, the pattern of nul bytes, whether it is sound UTF-8, and else by statistics.</summary>
    public static string Recognise(ReadOnlySpan<byte> head, bool whole)
    {
        if (head is [0xEF, 0xBB, 0xBF, ..]) return "utf-8";
        if (head is [0xFF, 0xFE, ..]) return "utf-16";
        if (head is [0xFE, 0xFF, ..]) return "utf-16BE";
        var (even, odd) = (0, 0);
        for (var i = 0; i + 1 < Math.Min(head.Length, 4096); i += 2)
        {
            if (head[i] == 0) even++;
            if (head[i + 1] == 0) odd++;
        }
        var pairs = Math.Min(head.Length, 4096) / 2;
        if (pairs > 4 && odd > pairs * 0.4 && even < pairs * 0.1) return "utf-16";
        if (pairs > 4 && even > pairs * 0.4 && odd < pairs * 0.1) return "utf-16BE";
        if (IsUtf8(head, whole)) return "utf-8";
        var detected = CharsetDetector.DetectFromBytes(head.ToArray()).Detected;
        var name = detected?.EncodingName?.ToLowerInvariant();
        // The two differ only in where Windows has its quotation marks and dashes, which is what lists contain.
        if (name is null or "iso-8859-1" or "ascii" || detected!.Confidence < 0.7f || !Known.Contains(name)) return "windows-1252";
        return name;
    }

    static bool IsUtf8(ReadOnlySpan<byte> bytes, bool whole)
    {
        if (System.Text.Unicode.Utf8.IsValid(bytes)) return true;
        if (whole) return false;
        // The part that was read may end within a character.
        for (var cut = 1; cut <= 3 && cut < bytes.Length; cut++)
            if (System.Text.Unicode.Utf8.IsValid(bytes[..^cut])) return true;
        return false;
    }
}
