namespace Bandeja.Formats.Documents;

/// <summary>Characters of the fonts of signs that documents use, as those of Unicode that mean the same.</summary>
static class SignFonts
{
    static readonly Dictionary<int, string> Symbol = new()
    {
        [0xB7] = "•",
        [0xAE] = "→",
        [0xAC] = "←",
        [0xAD] = "↑",
        [0xAF] = "↓",
        [0xB0] = "°",
        [0xB1] = "±",
        [0xB4] = "×",
        [0xB3] = "≥",
        [0xA3] = "≤",
        [0xB9] = "≠",
        [0xD3] = "©",
        [0xD2] = "®",
        [0xD4] = "™",
        [0x61] = "α",
        [0x62] = "β",
        [0x6D] = "μ",
        [0x70] = "π",
        [0xA5] = "∞",
        [0xD6] = "√",
        [0xE5] = "∑",
    };

    static readonly Dictionary<int, string> Dingbats = new()
    {
        [0x6C] = "●",
        [0x6E] = "■",
        [0x6F] = "□",
        [0x71] = "❑",
        [0x76] = "❖",
        [0xA7] = "▪",
        [0xA8] = "□",
        [0xD8] = "➢",
        [0xE0] = "→",
        [0xFB] = "✗",
        [0xFC] = "✓",
        [0xFE] = "☑",
        [0xFD] = "☒",
        [0x28] = "☎",
        [0x2A] = "✉",
        [0x4A] = "☺",
        [0xAB] = "★",
    };

    /// <summary>The character; null where nobody knows it.</summary>
    public static string? Character(string font, int code) =>
        font.StartsWith("Symbol", StringComparison.OrdinalIgnoreCase) ? Symbol.GetValueOrDefault(code)
        : font.StartsWith("Wingdings", StringComparison.OrdinalIgnoreCase)
        || font.StartsWith("Webdings", StringComparison.OrdinalIgnoreCase)
            ? Dingbats.GetValueOrDefault(code)
        : code is >= 0x20 and < 0x7F ? ((char)code).ToString()
        : null;
}
