using System.Text.Json;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Tests;

/// <summary>The fonts that ship, and letters written down in short.</summary>
static class TestFonts
{
    public static readonly FontLibrary Library = new([Font("Source Serif 4", false, false, "source-serif-4/SourceSerif4-Regular"), Font("Source Serif 4", true, false, "source-serif-4/SourceSerif4-Bold"),
        Font("Source Serif 4", false, true, "source-serif-4/SourceSerif4-Italic"), Font("Source Sans 3", false, false, "source-sans-3/SourceSans3-Regular"), Font("Caveat", false, false, "caveat/Caveat-Regular"),
        Font("Noto Naskh Arabic", false, false, "noto-naskh-arabic/NotoNaskhArabic-Regular"), Font("Noto Serif Hebrew", false, false, "noto-serif-hebrew/NotoSerifHebrew-Regular")], ["Noto Naskh Arabic", "Noto Serif Hebrew"]);

    static PaperFont Font(string family, bool bold, bool italic, string file) => new(family, bold, italic, File.ReadAllBytes(Path.Combine(Root(), "assets", "fonts", file + ".ttf")));

    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!Directory.Exists(Path.Combine(folder, "assets"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    /// <summary>A letter of paragraphs; "\n" within one is a line break, "{…}" a field.</summary>
    public static LetterDesign Letter(IEnumerable<string> paragraphs, int? maxPages = 1, string align = "left", string sheet = "letter") => LetterReader.Read(JsonSerializer.Serialize(new
    {
        page = new { sheet },
        maxPages,
        content = paragraphs.Select(p => new
        {
            type = "paragraph",
            attrs = new { textAlign = align },
            content = p.Split('\n').SelectMany((line, i) => (object[])[.. i > 0 ? [new { type = "hardBreak" }] : Array.Empty<object>(), .. line.Length > 0 ? [new { type = "text", text = line }] : Array.Empty<object>()]),
        }),
    }));
}
