using System.Collections.Concurrent;
using System.Runtime.InteropServices;
using HarfBuzzSharp;

namespace Bandeja.Core.Composition;

/// <summary>One glyph of a shaped text, in font units.</summary>
public readonly record struct Glyph(ushort Id, int Advance, int XOffset, int YOffset);

/// <summary>
/// A word (or a run of spaces) shaped with one font: its glyphs, and which characters each glyph stands for, so that text can
/// be copied out of the PDF again. Shaped once and shared by every place where the word stands.
/// </summary>
/// <param name="backwards">True where it is read from right to left: the last glyph is then the first that is read.</param>
public sealed class ShapedWord(PaperFont font, string text, Glyph[] glyphs, string[] clusterTexts, bool backwards = false)
{
    /// <summary>The font.</summary>
    public PaperFont Font => font;

    /// <summary>The characters.</summary>
    public string Text => text;

    /// <summary>True where it is read from right to left.</summary>
    public bool Backwards => backwards;

    /// <summary>The glyphs in visual order.</summary>
    public Glyph[] Glyphs => glyphs;

    /// <summary>For each glyph the characters it stands for; empty for the other glyphs of one cluster.</summary>
    public string[] ClusterTexts => clusterTexts;

    /// <summary>Width in font units.</summary>
    public int Advance { get; } = glyphs.Sum(g => g.Advance);

    /// <summary>True for a run of spaces.</summary>
    public bool IsSpace { get; } = text.Length > 0 && text.All(c => c == ' ');

    /// <summary>True where the font lacks a glyph for a character of the word.</summary>
    public bool HasMissing { get; } = glyphs.Any(g => g.Id == 0);
}

/// <summary>One font file: a weight and slope of a family.</summary>
public sealed class PaperFont : IDisposable
{
    // Enough for every distinct word of a large run; beyond it the cache starts anew, so that memory stays flat.
    const int CacheLimit = 20_000;
    static readonly Feature[] NoFeatures = [];

    int kept;
    readonly nint memory;
    readonly Blob blob;
    readonly Face face;
    readonly Font font;
    readonly ConcurrentDictionary<string, ShapedWord> shaped = new(StringComparer.Ordinal);
    readonly ConcurrentDictionary<string, ShapedWord> reversed = new(StringComparer.Ordinal);
    readonly ConcurrentDictionary<string, ShapedWord>.AlternateLookup<ReadOnlySpan<char>> lookup;

    /// <summary>Opens a TrueType font.</summary>
    /// <exception cref="ArgumentException">The bytes are not a font.</exception>
    /// <param name="part">For a family whose characters are divided over several files: which of them.</param>
    public PaperFont(string family, bool bold, bool italic, byte[] data, int part = 0)
    {
        (Family, Bold, Italic, Data) = (family, bold, italic, data);
        // HarfBuzz reads the file for as long as the font lives, so it gets a copy that no garbage collection moves.
        memory = Marshal.AllocHGlobal(data.Length);
        Marshal.Copy(data, 0, memory, data.Length);
        blob = new Blob(memory, data.Length, MemoryMode.ReadOnly);
        blob.MakeImmutable();
        face = new Face(blob, 0);
        if (face.GlyphCount == 0)
            throw new ArgumentException($"The font file for {family} is not a font.", nameof(data));
        face.MakeImmutable();
        font = new Font(face);
        font.SetFunctionsOpenType();
        UnitsPerEm = face.UnitsPerEm;
        font.SetScale(UnitsPerEm, UnitsPerEm);
        Ascender = font.OpenTypeMetrics.TryGetPosition(OpenTypeMetricsTag.HorizontalAscender, out var a) ? a : UnitsPerEm * 4 / 5;
        Descender = -(font.OpenTypeMetrics.TryGetPosition(OpenTypeMetricsTag.HorizontalDescender, out var d) ? d : -UnitsPerEm / 5);
        CapHeight = font.OpenTypeMetrics.TryGetPosition(OpenTypeMetricsTag.CapHeight, out var cap) ? cap : Ascender * 7 / 10;
        UnderlineOffset = font.OpenTypeMetrics.TryGetPosition(OpenTypeMetricsTag.UnderlineOffset, out var u) ? u : -UnitsPerEm / 10;
        UnderlineSize = font.OpenTypeMetrics.TryGetPosition(OpenTypeMetricsTag.UnderlineSize, out var s) ? s : UnitsPerEm / 20;
        PostScriptName =
            family.Replace(" ", "")
            + (bold, italic) switch
            {
                (true, true) => "-BoldItalic",
                (true, false) => "-Bold",
                (false, true) => "-Italic",
                _ => "-Regular",
            }
            + (part > 0 ? $"-{part}" : "");
        lookup = shaped.GetAlternateLookup<ReadOnlySpan<char>>();
        DigitsStandAlone = Enumerable
            .Range(0, 100)
            .All(n =>
                ShapeAnew($"{n / 10}{n % 10}", false).Advance
                == ShapeAnew($"{n / 10}", false).Advance + ShapeAnew($"{n % 10}", false).Advance
            );
        for (var c = 0; c < rough.Length; c++)
            rough[c] = font.TryGetGlyph((uint)c, out var glyph) ? font.GetHorizontalGlyphAdvance(glyph) : UnitsPerEm;
    }

    // The advances of the characters up to Latin Extended-B, kerning left out.
    readonly int[] rough = new int[0x250];

    /// <summary>Width of a text in font units without shaping it: kerning is left out, and every character beyond Latin counts as one
    /// em.</summary>
    public int RoughAdvance(ReadOnlySpan<char> text)
    {
        var sum = 0;
        foreach (var c in text)
            sum += c < rough.Length ? rough[c] : UnitsPerEm;
        return sum;
    }

    /// <summary>True where two digits side by side are as wide as each by itself: then numbers can be set of parts that are shaped
    /// once.</summary>
    public bool DigitsStandAlone { get; }

    /// <summary>The family's name.</summary>
    public string Family { get; }

    /// <summary>The bold weight.</summary>
    public bool Bold { get; }

    /// <summary>The italic slope.</summary>
    public bool Italic { get; }

    /// <summary>The font file.</summary>
    public byte[] Data { get; }

    /// <summary>True where its outlines are those of PostScript (the table CFF).</summary>
    public bool HasPostScriptOutlines => Data.AsSpan().StartsWith("OTTO"u8);

    /// <summary>A name for the PDF.</summary>
    public string PostScriptName { get; }

    /// <summary>Font units in the size of the type.</summary>
    public int UnitsPerEm { get; }

    /// <summary>Height above the baseline, font units.</summary>
    public int Ascender { get; }

    /// <summary>Depth below the baseline, font units, positive.</summary>
    public int Descender { get; }

    /// <summary>Height of capitals, font units.</summary>
    public int CapHeight { get; }

    /// <summary>Place of the underline relative to the baseline, font units, negative below.</summary>
    public int UnderlineOffset { get; }

    /// <summary>Thickness of the underline, font units.</summary>
    public int UnderlineSize { get; }

    /// <summary>The glyph's own advance in font units, before kerning.</summary>
    public int NominalAdvance(ushort glyph) => font.GetHorizontalGlyphAdvance(glyph);

    /// <summary>True where the font has a glyph for the character.</summary>
    public bool Has(int codePoint) => font.TryGetGlyph((uint)codePoint, out var glyph) && glyph != 0;

    /// <summary>Shapes a text that has no line break in it; each distinct text is shaped once.</summary>
    /// <param name="backwards">True where it is read from right to left; its signs are then mirrored.</param>
    public ShapedWord Shape(ReadOnlySpan<char> text, bool backwards = false)
    {
        if (backwards)
            return reversed.GetOrAdd(text.ToString(), t => ShapeAnew(t, true));
        if (lookup.TryGetValue(text, out var word))
            return word;
        // The dictionary counts itself only by stopping everybody; near enough is enough here.
        if (Interlocked.Increment(ref kept) > CacheLimit)
        {
            kept = 0;
            shaped.Clear();
        }
        var key = text.ToString();
        return shaped[key] = ShapeAnew(key, false);
    }

    ShapedWord ShapeAnew(string text, bool backwards)
    {
        if (reversed.Count > CacheLimit)
            reversed.Clear();
        using var buffer = new HarfBuzzSharp.Buffer();
        buffer.AddUtf16(text);
        buffer.GuessSegmentProperties();
        buffer.Direction = backwards ? Direction.RightToLeft : Direction.LeftToRight;
        font.Shape(buffer, NoFeatures);
        var infos = buffer.GlyphInfos;
        var positions = buffer.GlyphPositions;
        var glyphs = new Glyph[infos.Length];
        var texts = new string[infos.Length];
        if (!backwards && IsPlain(text, infos))
        {
            for (var i = 0; i < glyphs.Length; i++)
            {
                glyphs[i] = new((ushort)infos[i].Codepoint, positions[i].XAdvance, positions[i].XOffset, positions[i].YOffset);
                texts[i] = Single[text[i]];
            }
            return new(this, text, glyphs, texts);
        }
        // Clusters rise or fall with the direction of the script; a cluster's text ends where the next higher one begins.
        var starts = infos.Select(i => (int)i.Cluster).Distinct().Order().ToList();
        for (var i = 0; i < glyphs.Length; )
        {
            var start = (int)infos[i].Cluster;
            var next = starts.BinarySearch(start) + 1;
            var cluster = text[start..(next < starts.Count ? starts[next] : text.Length)];
            var end = i;
            while (end < glyphs.Length && infos[end].Cluster == infos[i].Cluster)
                end++;
            // As many glyphs as characters: each stands for its own. Else the first that has a width stands for all of them; in scripts
            // that join, dots and vowels are glyphs without one and may come before their letter.
            var runes = cluster.EnumerateRunes().ToList();
            var head = i;
            while (head < end - 1 && positions[head].XAdvance == 0)
                head++;
            for (var k = i; k < end; k++)
            {
                glyphs[k] = new((ushort)infos[k].Codepoint, positions[k].XAdvance, positions[k].XOffset, positions[k].YOffset);
                texts[k] =
                    runes.Count == end - i ? runes[backwards ? end - 1 - k : k - i].ToString()
                    : k == head ? cluster
                    : "";
            }
            i = end;
        }
        return new(this, text, glyphs, texts, backwards);
    }

    static readonly string[] Single = [.. Enumerable.Range(0, 128).Select(c => ((char)c).ToString())];

    /// <summary>ASCII with a glyph for each character in turn: most words of most letters.</summary>
    static bool IsPlain(string text, GlyphInfo[] infos)
    {
        if (infos.Length != text.Length || !System.Text.Ascii.IsValid(text))
            return false;
        for (var i = 0; i < infos.Length; i++)
            if (infos[i].Cluster != i)
                return false;
        return true;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        font.Dispose();
        face.Dispose();
        blob.Dispose();
        Marshal.FreeHGlobal(memory);
    }
}
