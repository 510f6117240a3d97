using System.Text;

namespace Bandeja.Formats.Pdf;

/// <summary>Text strings (ISO 32000-2, 7.9.2.2): UTF-16 or UTF-8 with their marks, else PDFDocEncoding.</summary>
static class PdfText
{
    // What PDFDocEncoding has at 0x18 to 0x1F and 0x80 to 0x9E, where Latin-1 has controls (annex D.2).
    const string Low = "˘ˇˆ˙˝˛˚˜",
        High = "•†‡…—–ƒ⁄‹›−‰„“”‘’‚™ﬁﬂŁŒŠŸŽıłœšž";

    /// <param name="raw">One character for each byte, or text that was decoded already.</param>
    public static string Of(string raw)
    {
        if (raw.StartsWith("\u00FE\u00FF", StringComparison.Ordinal))
            return Encoding.BigEndianUnicode.GetString(Encoding.Latin1.GetBytes(raw[2..]));
        if (raw.StartsWith("\u00FF\u00FE", StringComparison.Ordinal))
            return Encoding.Unicode.GetString(Encoding.Latin1.GetBytes(raw[2..]));
        if (raw.StartsWith("\u00EF\u00BB\u00BF", StringComparison.Ordinal))
            return Encoding.UTF8.GetString(Encoding.Latin1.GetBytes(raw[3..]));
        if (!raw.Any(c => c is >= '\u0018' and <= '\u001F' or >= '\u0080' and <= '\u00A0'))
            return raw;
        return string.Concat(
            raw.Select(c =>
                c switch
                {
                    >= '\u0018' and <= '\u001F' => Low[c - 0x18],
                    >= '\u0080' and <= '\u009E' => High[c - 0x80],
                    '\u00A0' => '€',
                    _ => c,
                }
            )
        );
    }
}
