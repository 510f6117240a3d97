using System.IO.Compression;
using System.Runtime.InteropServices;
using Bandeja.Core.Composition;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// Cut fonts that many small files have in common. Each recipient's letter uses a few other glyphs; cutting and compressing a font for each
/// would take most of the time. After some files, the glyphs that many of them use are put into all, and what is cut then serves nearly
/// everybody. The same files in the same order get the same fonts. Serves one thread.
/// </summary>
public sealed class FontPrograms
{
    const int Learning = 64,
        Kept = 400;
    readonly Dictionary<PaperFont, Dictionary<ushort, int>> uses = [];
    readonly Dictionary<PaperFont, ushort[]> common = [];
    readonly Dictionary<(PaperFont, string), (byte[] Deflated, int Length)> programs = [];
    int files;

    /// <summary>A file is finished.</summary>
    internal void Finished()
    {
        if (++files != Learning)
            return;
        // Used by one in sixteen: what a letter of one's own adds in kilobytes is less than what another cut costs.
        foreach (var (font, glyphs) in uses)
            common[font] = [.. glyphs.Where(g => g.Value >= Learning / 16).Select(g => g.Key)];
    }

    /// <summary>The font's program with at least the glyphs used, deflated, and its length before that.</summary>
    internal (byte[] Deflated, int Length) Of(PaperFont font, IReadOnlyCollection<ushort> used)
    {
        if (files < Learning)
        {
            if (!uses.TryGetValue(font, out var counts))
                uses[font] = counts = [];
            foreach (var glyph in used)
                counts[glyph] = counts.GetValueOrDefault(glyph) + 1;
        }
        ushort[] glyphs = [.. common.TryGetValue(font, out var shared) ? used.Union(shared).Order() : used.AsEnumerable()];
        var key = new string(MemoryMarshal.Cast<ushort, char>(glyphs));
        if (programs.TryGetValue((font, key), out var known))
            return known;
        if (programs.Count >= Kept)
            programs.Clear();
        var program = FontSubset.Program(font.Data, glyphs);
        using var packed = new MemoryStream();
        using (var z = new ZLibStream(packed, CompressionLevel.Optimal, leaveOpen: true))
            z.Write(program);
        return programs[(font, key)] = (packed.ToArray(), program.Length);
    }
}
