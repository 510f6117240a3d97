using Bandeja.Core.Composition;

namespace Bandeja.Server.Composition;

/// <summary>Loads the fonts that ship with the application. The same files set the page in the editor and in the output.</summary>
public static class PaperFonts
{
    static readonly (string Family, string Folder, string File)[] Families =
        [("Source Serif 4", "source-serif-4", "SourceSerif4"), ("Source Sans 3", "source-sans-3", "SourceSans3"), ("Courier Prime", "courier-prime", "CourierPrime"), ("Caveat", "caveat", "Caveat"), ("Noto Naskh Arabic", "noto-naskh-arabic", "NotoNaskhArabic"), ("Noto Serif Hebrew", "noto-serif-hebrew", "NotoSerifHebrew")];

    /// <summary>Faces of scripts that the others lack; they step in where a character asks for them.</summary>
    static readonly string[] OnlyForMissing = ["Noto Naskh Arabic", "Noto Serif Hebrew"];

    /// <summary>All fonts, from the folder beside the program.</summary>
    public static FontLibrary Load()
    {
        var root = Path.Combine(AppContext.BaseDirectory, "fonts");
        var fonts = new List<PaperFont>();
        foreach (var (family, folder, file) in Families)
        foreach (var (cut, bold, italic) in (ReadOnlySpan<(string, bool, bool)>)[("Regular", false, false), ("Italic", false, true), ("Bold", true, false), ("BoldItalic", true, true)])
        {
            var path = Path.Combine(root, folder, $"{file}-{cut}.ttf");
            if (File.Exists(path)) fonts.Add(new(family, bold, italic, File.ReadAllBytes(path)));
        }
        return new(fonts, OnlyForMissing);
    }
}
