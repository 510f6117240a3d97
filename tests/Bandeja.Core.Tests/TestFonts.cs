using System.Text.Json;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Tests;

/// <summary>The fonts that ship, and letters written down in short.</summary>
static class TestFonts
{
    public static readonly FontLibrary Library = Load();

    /// <summary>The fonts anew, none of the large ones opened.</summary>
    public static FontLibrary Load() =>
        PaperFonts.Load(path =>
            Path.Combine(Root(), "assets", "fonts", path) is var file && File.Exists(file) ? File.ReadAllBytes(file) : null
        );

    public static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!Directory.Exists(Path.Combine(folder, "assets")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    /// <summary>A letter of paragraphs; "\n" within one is a line break, "{…}" a field.</summary>
    public static LetterDesign Letter(IEnumerable<string> paragraphs, int? maxPages = 1, string align = "left", string sheet = "letter") =>
        LetterReader.Read(
            JsonSerializer.Serialize(
                new
                {
                    page = new { sheet },
                    maxPages,
                    content = paragraphs.Select(p => new
                    {
                        type = "paragraph",
                        attrs = new { textAlign = align },
                        content = p.Split('\n')
                            .SelectMany(
                                (line, i) =>
                                    (object[])
                                        [
                                            .. i > 0 ? [new { type = "hardBreak" }] : Array.Empty<object>(),
                                            .. line.Length > 0 ? [new { type = "text", text = line }] : Array.Empty<object>(),
                                        ]
                            ),
                    }),
                }
            )
        );
}
