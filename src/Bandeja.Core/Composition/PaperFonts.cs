using Bandeja.Core.Texts;

namespace Bandeja.Core.Composition;

/// <summary>Loads the fonts that ship with the application. The same files set the page in the editor and in the output.</summary>
public static class PaperFonts
{
    static readonly (string Family, string Folder, string File)[] Families =
    [
        ("Source Serif 4", "source-serif-4", "SourceSerif4"),
        ("Source Sans 3", "source-sans-3", "SourceSans3"),
        ("Courier Prime", "courier-prime", "CourierPrime"),
        ("Caveat", "caveat", "Caveat"),
        ("Amiri", "amiri", "Amiri"),
        ("Noto Serif Hebrew", "noto-serif-hebrew", "NotoSerifHebrew"),
        // As wide, letter by letter, as the usual faces of office programs (Documents/Faces.tsv).
        ("Carlito", "carlito", "Carlito"),
        ("Caladea", "caladea", "Caladea"),
        ("Arimo", "arimo", "Arimo"),
        ("Tinos", "tinos", "Tinos"),
        ("Cousine", "cousine", "Cousine"),
        ("Gelasio", "gelasio", "Gelasio"),
    ];

    /// <summary>Faces of scripts that the others lack; they step in where a character asks for them.</summary>
    static readonly string[] OnlyForMissing = ["Amiri", "Noto Serif Hebrew"];

    /// <summary>All fonts.</summary>
    /// <param name="read">Reads a file by its path below the folder of the fonts; null where there is none.</param>
    public static FontLibrary Load(Func<string, byte[]?> read)
    {
        var fonts = new List<PaperFont>();
        foreach (var (family, folder, file) in Families)
        foreach (
            var (cut, bold, italic) in (ReadOnlySpan<(string, bool, bool)>)
                [("Regular", false, false), ("Italic", false, true), ("Bold", true, false), ("BoldItalic", true, true)]
        )
        {
            if (read($"{folder}/{file}-{cut}.ttf") is { } data)
                fonts.Add(new(family, bold, italic, data));
        }
        return new(
            fonts,
            OnlyForMissing,
            [.. Lenders(path => read(path) ?? throw new InvalidOperationException($"The font {path} is missing."))]
        );
    }

    static readonly (int, int)[] HanSigns = [(0x2E80, 0x312F), (0x3190, 0x33FF), (0xFE10, 0xFE1F), (0xFE30, 0xFE4F), (0xFF00, 0xFFEF)];
    static readonly (int, int)[] RareHan = [(0x20000, 0x323AF)];

    /// <summary>The large fonts of Han characters, each divided over several files by code point, and those of scripts that few mailings
    /// have.</summary>
    static IEnumerable<FontLender> Lenders(Func<string, byte[]> read)
    {
        (int, int)[][] chinese =
        [
            [.. HanSigns, (0x4E00, 0x60FF)],
            [(0x6100, 0x74FF)],
            [(0x7500, 0x87FF)],
            [(0x8800, 0x9FFF), (0xF900, 0xFAFF), (0x3400, 0x4DBF)],
            RareHan,
        ];
        (string Code, HanForm Form, (int, int)[][] Parts)[] han =
        [
            ("SC", HanForm.Simplified, chinese),
            ("TC", HanForm.Traditional, chinese),
            ("HK", HanForm.HongKong, chinese),
            (
                "JP",
                HanForm.Japanese,
                [
                    [.. HanSigns, (0x4E00, 0x6FFF)],
                    [(0x7000, 0x9FFF), (0x3400, 0x4DBF), (0xF900, 0xFAFF), .. RareHan],
                ]
            ),
            (
                "KR",
                HanForm.Korean,
                [
                    [.. HanSigns, (0x1100, 0x11FF), (0x3130, 0x318F), (0xA960, 0xA97F), (0xAC00, 0xD7FF)],
                    [(0x4E00, 0x9FFF), (0x3400, 0x4DBF), (0xF900, 0xFAFF), .. RareHan],
                ]
            ),
        ];
        foreach (var (code, form, parts) in han)
            for (var i = 0; i < parts.Length; i++)
            {
                var (path, part) = ($"noto-sans-{code.ToLowerInvariant()}/NotoSans{code}-Regular-{i + 1}.ttf", i + 1);
                yield return new(
                    $"Noto Sans {code}",
                    false,
                    form,
                    parts[i],
                    () => new($"Noto Sans {code}", false, false, read(path), part)
                );
            }
        foreach (var bold in (bool[])[false, true])
        {
            var cut = bold ? "Bold" : "Regular";
            yield return new(
                "Noto Sans Thai",
                bold,
                HanForm.None,
                [(0x0E00, 0x0E7F)],
                () => new("Noto Sans Thai", bold, false, read($"noto-sans-thai/NotoSansThai-{cut}.ttf"))
            );
            yield return new(
                "Noto Sans Devanagari",
                bold,
                HanForm.None,
                [(0x0900, 0x097F), (0x1CD0, 0x1CFF), (0xA8E0, 0xA8FF)],
                () => new("Noto Sans Devanagari", bold, false, read($"noto-sans-devanagari/NotoSansDevanagari-{cut}.ttf"))
            );
        }
        // In one color, as the printer has it; signs that the families of letters have stay theirs.
        yield return new(
            "Noto Emoji",
            false,
            HanForm.None,
            [(0x20E3, 0x20E3), (0x2100, 0x2BFF), (0x1F000, 0x1FAFF), (0xE0020, 0xE007F)],
            () => new("Noto Emoji", false, false, read("noto-emoji/NotoEmoji-Regular.ttf"))
        );
    }
}
